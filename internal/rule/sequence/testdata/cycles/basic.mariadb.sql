-- not mysql: it has no sequences
CREATE SEQUENCE numbers MAXVALUE 99 CYCLE;
CREATE TABLE station (id bigint NOT NULL PRIMARY KEY DEFAULT nextval(numbers)); -- want: sequence/cycles
