CREATE TABLE keeper (id integer IDENTITY PRIMARY KEY, name nvarchar(40) NOT NULL); -- want: key/generated-only (no fix)
CREATE TABLE visit (id integer IDENTITY PRIMARY KEY, keeper_id integer NOT NULL CONSTRAINT visit_keeper REFERENCES keeper (id), note nvarchar(99) NOT NULL);
CREATE INDEX visit_by_keeper ON visit (keeper_id);
CREATE TABLE station (id integer IDENTITY PRIMARY KEY, code nvarchar(8) NOT NULL UNIQUE);
