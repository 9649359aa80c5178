-- set partition/retention keep 24 months
-- Partitions are no tables here: what is old is told, and taken out by hand.
CREATE PARTITION FUNCTION by_year (date) AS RANGE RIGHT FOR VALUES ('2018-01-01', '2019-01-01', '2094-01-01', '2095-01-01');
CREATE PARTITION SCHEME by_year AS PARTITION by_year ALL TO ([PRIMARY]);
CREATE TABLE reading (id integer NOT NULL, at date NOT NULL, CONSTRAINT reading_pk PRIMARY KEY (id, at)) ON by_year(at); -- want: partition/retention (no fix)
