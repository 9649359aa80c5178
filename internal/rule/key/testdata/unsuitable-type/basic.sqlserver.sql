CREATE TABLE level (height float NOT NULL PRIMARY KEY, note nvarchar(9)); -- want: key/unsuitable-type (no fix)
CREATE TABLE station (code varchar(20) NOT NULL PRIMARY KEY, digest binary(20) UNIQUE);
