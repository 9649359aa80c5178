-- not mysql: it has no sequences
CREATE SEQUENCE numbers;
CREATE TABLE station (id bigint NOT NULL PRIMARY KEY DEFAULT nextval(numbers)); -- want: sequence/shared "numbers station and visit together" (no fix)
CREATE TABLE visit (id bigint NOT NULL PRIMARY KEY DEFAULT nextval(numbers));
CREATE TABLE keeper (id bigint NOT NULL AUTO_INCREMENT PRIMARY KEY);
