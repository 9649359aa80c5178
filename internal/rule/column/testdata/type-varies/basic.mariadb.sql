-- not mysql: the stand-in does not escape quotes in what it shows
CREATE TABLE a (id integer PRIMARY KEY, station_mark varchar(12) NOT NULL, mm integer);
CREATE TABLE b (id integer PRIMARY KEY, station_mark varchar(12) NOT NULL, mm integer);
CREATE TABLE c (id integer PRIMARY KEY, station_mark varchar(12) NOT NULL, mm integer);
CREATE TABLE d (
  id bigint PRIMARY KEY,
  station_mark varchar(8) NOT NULL DEFAULT 'a\'b' COMMENT 'it''s', -- want: column/type-varies
  mm smallint UNSIGNED                                              -- want: column/type-varies
);
INSERT INTO d VALUES (1, 'x', 7);
