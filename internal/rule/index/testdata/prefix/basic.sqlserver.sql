CREATE TABLE reading (
  id integer IDENTITY CONSTRAINT pk_reading PRIMARY KEY, gauge_id integer NOT NULL, taken integer NOT NULL, label nvarchar(40), note nvarchar(9),
  CONSTRAINT both_ones UNIQUE (gauge_id, taken)
);
CREATE INDEX reading_gauge ON reading (gauge_id) WITH (FILLFACTOR = 80, DATA_COMPRESSION = PAGE); -- want: index/prefix
CREATE INDEX reading_label ON reading (label, taken);
CREATE INDEX reading_part ON reading (label) WHERE [label] IS NOT NULL;
CREATE INDEX reading_carries ON reading (label) INCLUDE (note);
INSERT INTO reading (gauge_id, taken, label) VALUES (1, 1, N'a'), (1, 2, NULL);
