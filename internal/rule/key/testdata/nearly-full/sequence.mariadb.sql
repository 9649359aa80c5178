-- not mysql: it has no sequences
CREATE SEQUENCE visits MAXVALUE 1000 NOCACHE;
CREATE TABLE visit (id bigint NOT NULL PRIMARY KEY DEFAULT nextval(visits), code varchar(9) NOT NULL UNIQUE); -- want: key/nearly-full
DO SETVAL(visits, 900);
