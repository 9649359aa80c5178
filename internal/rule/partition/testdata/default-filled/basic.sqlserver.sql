-- Rows in the part without an end, behind years: no search expects them there.
CREATE PARTITION FUNCTION by_year (date) AS RANGE RIGHT FOR VALUES ('2096-01-01', '2097-01-01', '2098-01-01', '2099-01-01');
CREATE PARTITION SCHEME by_year AS PARTITION by_year ALL TO ([PRIMARY]);
CREATE TABLE reading (id integer NOT NULL, at date NOT NULL, CONSTRAINT reading_pk PRIMARY KEY (id, at)) ON by_year(at); -- (5) -- want: partition/default-filled (no fix)
INSERT INTO reading VALUES (1, '2096-05-05'), (2, '2099-05-05');
