CREATE TABLE reading (id integer NOT NULL, day date) PARTITION BY RANGE (day); -- want: partition/nullable-key, key/none (no fix)
CREATE TABLE reading_all PARTITION OF reading DEFAULT;
CREATE TABLE level (id integer NOT NULL, kind text) PARTITION BY LIST (kind); -- want: key/none (no fix)
CREATE TABLE level_none PARTITION OF level FOR VALUES IN (NULL, 'x');
CREATE TABLE part (id integer, n integer) PARTITION BY HASH (n); -- want: key/none (no fix)
CREATE TABLE part_all PARTITION OF part FOR VALUES WITH (MODULUS 1, REMAINDER 0);
