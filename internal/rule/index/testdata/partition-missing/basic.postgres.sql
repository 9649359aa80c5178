CREATE TABLE reading (at date NOT NULL, level integer) PARTITION BY RANGE (at);
CREATE TABLE reading_a PARTITION OF reading FOR VALUES FROM ('2030-01-01') TO ('2031-01-01');
CREATE TABLE reading_b PARTITION OF reading FOR VALUES FROM ('2031-01-01') TO ('2032-01-01');
ALTER TABLE reading ADD PRIMARY KEY (at);
CREATE INDEX reading_level ON ONLY reading (level); -- want: index/partition-missing "reading_b"
CREATE INDEX reading_a_level ON reading_a (level);
ALTER INDEX reading_level ATTACH PARTITION reading_a_level;
INSERT INTO reading VALUES ('2031-05-05', 7);
