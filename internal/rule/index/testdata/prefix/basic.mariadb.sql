-- not mysql: the stand-in forgets the lengths of indexed texts
-- Beginnings, prefix lengths, kinds of index, directions, indexes that a foreign key was given.
CREATE TABLE station (id int PRIMARY KEY);
CREATE TABLE reading (
  id int AUTO_INCREMENT PRIMARY KEY, gauge_id int NOT NULL, taken int NOT NULL, label varchar(40), body text, station_id int,
  UNIQUE KEY both_ones (gauge_id, taken),
  FULLTEXT KEY words (label),
  CONSTRAINT reading_station FOREIGN KEY (station_id) REFERENCES station (id)
);
CREATE INDEX reading_gauge ON reading (gauge_id);           -- want: index/prefix
CREATE INDEX reading_label ON reading (label, taken);
CREATE INDEX reading_label_5 ON reading (label(5));         -- want: index/prefix
CREATE INDEX reading_body ON reading (body(20));
CREATE INDEX reading_station_taken ON reading (station_id, taken);
