-- not mysql: the stand-in keeps all tables alike
-- Three without transactions among those that have them.
CREATE TABLE station (id int NOT NULL PRIMARY KEY, name varchar(40) NOT NULL);
CREATE TABLE reading (id int NOT NULL PRIMARY KEY, level_mm int) ENGINE = MyISAM; -- want: storage/no-transactions "uses MyISAM" (no fix)
CREATE TABLE visit (id int NOT NULL PRIMARY KEY, note varchar(40)) ENGINE = Aria; -- want: storage/no-transactions "uses Aria" (no fix)
CREATE TABLE latest (id int NOT NULL PRIMARY KEY, level_mm int) ENGINE = MEMORY; -- want: storage/no-transactions "gone when the server stops" (no fix) (notice)
