CREATE PARTITION FUNCTION pf_reading (date) AS RANGE RIGHT FOR VALUES ('2090-01-01', '2091-01-01');
CREATE PARTITION SCHEME ps_reading AS PARTITION pf_reading ALL TO ([PRIMARY]);
CREATE TABLE reading (id integer NOT NULL, -- want: key/none (no fix)
  at date, -- want: partition/nullable-key (no fix)
  level integer) ON ps_reading(at);
INSERT INTO reading VALUES (1, '2090-05-01', 1);
