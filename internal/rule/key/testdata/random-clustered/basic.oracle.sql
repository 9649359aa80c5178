-- Rows lie in the order of the key in an index-organized table alone.
CREATE TABLE station (uuid RAW(16) DEFAULT SYS_GUID() PRIMARY KEY, code VARCHAR2(9 CHAR) NOT NULL) ORGANIZATION INDEX; -- want: key/random-clustered (no fix)
CREATE TABLE gauge (uuid RAW(16) DEFAULT SYS_GUID() PRIMARY KEY, code VARCHAR2(9 CHAR) NOT NULL);
CREATE TABLE mark (no NUMBER(10) PRIMARY KEY, code VARCHAR2(9 CHAR) NOT NULL) ORGANIZATION INDEX;
