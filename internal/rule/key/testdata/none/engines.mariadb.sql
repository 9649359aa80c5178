-- not mysql: it has no sequence engine
-- Tables that InnoDB alters in its own way.
CREATE TABLE note (day_no integer, words varchar(40) NOT NULL, FULLTEXT KEY note_words (words)); -- want: key/none
CREATE TABLE mark (day_no integer, place point NOT NULL, SPATIAL KEY mark_place (place)); -- want: key/none
CREATE TABLE gate (day_no integer, day_next integer AS (day_no + 1) VIRTUAL, KEY gate_next (day_next)); -- want: key/none
CREATE TABLE weir (day_no integer, day_next integer AS (day_no + 1) STORED); -- want: key/none
CREATE TABLE lock_gate (day_no integer, day_next integer AS (day_no + 1) VIRTUAL); -- want: key/none
INSERT INTO note SELECT seq % 7, concat('word', seq) FROM seq_1_to_20;
INSERT INTO mark SELECT seq % 7, point(seq, seq) FROM seq_1_to_20;
INSERT INTO gate (day_no) SELECT seq % 7 FROM seq_1_to_20;
INSERT INTO weir (day_no) SELECT seq % 7 FROM seq_1_to_20;
INSERT INTO lock_gate (day_no) SELECT seq % 7 FROM seq_1_to_20;
