-- no example: what the fix writes depends on the day
-- One function cuts up two tables: both get the next parts. The last part takes later rows, so that none is refused.
CREATE PARTITION FUNCTION by_year (date) AS RANGE RIGHT FOR VALUES ('2024-01-01', '2025-01-01', '2026-01-01');
CREATE PARTITION SCHEME by_year AS PARTITION by_year ALL TO ([PRIMARY]);
CREATE TABLE reading (id integer NOT NULL, at date NOT NULL, CONSTRAINT reading_pk PRIMARY KEY (id, at)) ON by_year(at); -- want: partition/horizon
CREATE INDEX reading_at ON reading (at);
CREATE TABLE swell_day (at date NOT NULL, height integer, CONSTRAINT swell_day_pk PRIMARY KEY (at)) ON by_year(at); -- want: partition/horizon
CREATE PARTITION FUNCTION ahead (date) AS RANGE RIGHT FOR VALUES ('2089-01-01', '2090-01-01', '2091-01-01');
CREATE PARTITION SCHEME ahead AS PARTITION ahead ALL TO ([PRIMARY]);
CREATE TABLE swell (id integer NOT NULL, at date NOT NULL, CONSTRAINT swell_pk PRIMARY KEY (id, at)) ON ahead(at);
