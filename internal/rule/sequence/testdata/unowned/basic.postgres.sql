CREATE SEQUENCE numbers;
CREATE TABLE station (id bigint PRIMARY KEY DEFAULT nextval('numbers')); -- want: sequence/unowned
CREATE TABLE keeper (id bigserial PRIMARY KEY);
