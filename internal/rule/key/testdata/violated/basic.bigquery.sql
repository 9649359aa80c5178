-- probe
-- Two rows are alike in the one key, and in one column alone of the other.
CREATE TABLE saltmere.station (id INT64 NOT NULL, name STRING, PRIMARY KEY (id) NOT ENFORCED); -- want: key/violated "pk. should keep id unique, and 1 value there more than once: 2 .2 times." (no fix)
INSERT INTO saltmere.station (id, name) VALUES (1, 'Ansholm'), (2, 'Brackwater'), (2, 'Cold Ness');
CREATE TABLE saltmere.datum_level (kind STRING NOT NULL, height_mm INT64 NOT NULL, PRIMARY KEY (kind, height_mm) NOT ENFORCED);
INSERT INTO saltmere.datum_level (kind, height_mm) VALUES ('chart', 1), ('chart', 2), ('national', 1);
