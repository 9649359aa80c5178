-- not mysql: it has no sequence engine
-- probe
-- no example
-- Tables that InnoDB alters in its own way: each is put right under the weakest lock that it takes.
CREATE TABLE note (id integer NOT NULL PRIMARY KEY, day_no integer, -- want: column/never-null
  words varchar(40) NOT NULL, FULLTEXT KEY note_words (words));
CREATE TABLE mark (id integer NOT NULL PRIMARY KEY, day_no integer, -- want: column/never-null
  place point NOT NULL, SPATIAL KEY mark_place (place));
CREATE TABLE gate (id integer NOT NULL PRIMARY KEY, day_no integer, -- want: column/never-null
  day_next integer AS (day_no + 1) VIRTUAL, KEY gate_next (day_next));
CREATE TABLE weir (id integer NOT NULL PRIMARY KEY, day_no integer, -- want: column/never-null
  day_next integer AS (day_no + 1) STORED);
CREATE TABLE lock_gate (id integer NOT NULL PRIMARY KEY, day_no integer, -- want: column/never-null
  day_next integer AS (day_no + 1) VIRTUAL);
INSERT INTO note SELECT seq, seq % 7, concat('word', seq) FROM seq_1_to_120;
INSERT INTO mark SELECT seq, seq % 7, point(seq, seq) FROM seq_1_to_120;
INSERT INTO gate (id, day_no) SELECT seq, seq % 7 FROM seq_1_to_120;
INSERT INTO weir (id, day_no) SELECT seq, seq % 7 FROM seq_1_to_120;
INSERT INTO lock_gate (id, day_no) SELECT seq, seq % 7 FROM seq_1_to_120;
