CREATE SEQUENCE leftover; -- want-database: sequence/unused
CREATE SEQUENCE taken;
CREATE TABLE station (id bigint PRIMARY KEY DEFAULT nextval('taken'));
ALTER SEQUENCE taken OWNED BY station.id;
