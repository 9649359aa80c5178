-- set partition/none-on-large rows 5
CREATE TABLE saltmere.reading (id INT64 NOT NULL, at TIMESTAMP NOT NULL, PRIMARY KEY (id) NOT ENFORCED); -- want: partition/none-on-large (no fix)
INSERT INTO saltmere.reading (id, at) VALUES (1, '2026-03-01 10:00:00'), (2, '2026-03-01 11:00:00'), (3, '2026-03-02 10:00:00'), (4, '2026-03-02 10:00:00'), (5, '2026-03-02 10:00:00'), (6, '2026-03-02 10:00:00');
CREATE TABLE saltmere.plain (id INT64 NOT NULL, n INT64, PRIMARY KEY (id) NOT ENFORCED);
INSERT INTO saltmere.plain (id) VALUES (1), (2), (3), (4), (5), (6);
