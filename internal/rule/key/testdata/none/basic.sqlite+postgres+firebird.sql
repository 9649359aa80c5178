-- Tables without a primary key: with and without something to promote.
CREATE TABLE station (id integer PRIMARY KEY, name varchar(40));
CREATE TABLE section (  -- want: key/none "the unique key \(code\)"
  code varchar(8) NOT NULL CONSTRAINT section_code UNIQUE,
  name varchar(40)
);
CREATE TABLE road (id integer PRIMARY KEY, code varchar(8) NOT NULL REFERENCES section (code));
CREATE INDEX road_code ON road (code);
CREATE TABLE level (station_id integer NOT NULL REFERENCES station (id), kind integer NOT NULL, height integer);  -- want: key/none "the unique index"
CREATE UNIQUE INDEX level_unique ON level (station_id, kind);

-- Unique, but null may get in; and nothing at all.
CREATE TABLE delivery (  -- want: key/none "lets nulls in"
  ticket integer UNIQUE,
  sent integer NOT NULL
);
CREATE TABLE note (id varchar(10), text varchar(100));  -- want: key/none "two rows can be alike"

INSERT INTO section VALUES ('N', 'North'), ('S', NULL);
INSERT INTO road VALUES (1, 'N');
INSERT INTO station VALUES (1, 'A');
INSERT INTO level VALUES (1, 1, 5), (1, 2, NULL);
INSERT INTO delivery VALUES (NULL, 1), (7, 2), (NULL, 1);
INSERT INTO note VALUES ('a', 'b'), ('a', 'b');
