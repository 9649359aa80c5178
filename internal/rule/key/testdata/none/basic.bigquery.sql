-- probe
-- choose key/none columns
CREATE TABLE saltmere.station (code STRING(8) NOT NULL, name STRING); -- want: key/none
INSERT INTO saltmere.station (code, name) VALUES ('A1', 'a'), ('A2', 'b'), ('A3', 'c'), ('A4', 'd'), ('A5', 'e'), ('A6', 'f'), ('A7', 'g'), ('A8', 'h'), ('A9', 'i'), ('B1', 'j'), ('B2', 'k'), ('B3', 'l'), ('B4', 'm'), ('B5', 'n'), ('B6', 'o'), ('B7', 'p'), ('B8', 'q'), ('B9', 'r'), ('C1', 's'), ('C2', 'a');
CREATE TABLE saltmere.gauge (id INT64, PRIMARY KEY (id) NOT ENFORCED);
