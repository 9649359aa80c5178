-- not mysql: it has no type uuid
CREATE TABLE station (id char(36) NOT NULL PRIMARY KEY, code varchar(9) NOT NULL); -- want: key/random-clustered (no fix)
CREATE TABLE gauge (id uuid NOT NULL DEFAULT uuid() PRIMARY KEY, code varchar(9) NOT NULL);
CREATE TABLE mark (id integer NOT NULL PRIMARY KEY, code char(36) NOT NULL);
