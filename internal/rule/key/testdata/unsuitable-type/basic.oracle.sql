CREATE TABLE depth (height BINARY_DOUBLE NOT NULL PRIMARY KEY, note VARCHAR2(9 CHAR)); -- want: key/unsuitable-type (no fix)
CREATE TABLE station (code VARCHAR2(20 CHAR) NOT NULL PRIMARY KEY, digest RAW(20) UNIQUE);
