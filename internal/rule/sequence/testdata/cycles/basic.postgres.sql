-- the fix brings column/generated-legacy: the sequence could not be an identity's while it started again
CREATE SEQUENCE numbers MAXVALUE 99 CYCLE;
CREATE SEQUENCE turns MAXVALUE 4 CYCLE;
CREATE TABLE station (id bigint PRIMARY KEY DEFAULT nextval('numbers'), turn integer DEFAULT nextval('turns')); -- want: sequence/cycles
CREATE TABLE keeper (id bigserial PRIMARY KEY);
