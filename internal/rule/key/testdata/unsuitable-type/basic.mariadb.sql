CREATE TABLE level (height double NOT NULL PRIMARY KEY, note text); -- want: key/unsuitable-type (no fix)
CREATE TABLE station (code varchar(20) NOT NULL PRIMARY KEY, digest binary(20) UNIQUE);
