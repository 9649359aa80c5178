-- probe
CREATE TABLE saltmere.station (id INT64, name STRING, PRIMARY KEY (id) NOT ENFORCED); -- want: key/nullable-part "is null in 1 row" (no fix) (error)
INSERT INTO saltmere.station (id, name) VALUES (1, 'Ansholm'), (NULL, 'Brackwater');
CREATE TABLE saltmere.gauge (id INT64, name STRING, PRIMARY KEY (id) NOT ENFORCED); -- want: key/nullable-part (no fix) (notice)
INSERT INTO saltmere.gauge (id, name) VALUES (1, 'g1'), (2, 'g2');
