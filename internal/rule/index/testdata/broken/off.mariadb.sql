-- not mysql: the stand-in cannot turn keys off
-- Keys that are switched off are kept up by nobody and used by nobody.
CREATE TABLE reading (id int NOT NULL PRIMARY KEY, level_mm int NOT NULL, taken datetime NOT NULL,
  KEY by_level (level_mm), -- want: index/broken
  KEY by_time (taken) -- want: index/broken
) ENGINE = MyISAM;
INSERT INTO reading VALUES (1, 5, '2026-01-01'), (2, 6, '2026-01-02');
ALTER TABLE reading DISABLE KEYS;
