-- Nothing: the server has only begun to count.
CREATE TABLE station (id integer PRIMARY KEY, code varchar(8) NOT NULL CONSTRAINT uq_code UNIQUE, note nvarchar(20));
CREATE INDEX station_note ON station (note);
INSERT INTO station VALUES (1, 'a', N'x');
