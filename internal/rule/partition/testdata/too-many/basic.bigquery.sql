-- set partition/too-many partitions 2
CREATE TABLE saltmere.reading (id INT64 NOT NULL, at TIMESTAMP NOT NULL, PRIMARY KEY (id) NOT ENFORCED) PARTITION BY TIMESTAMP_TRUNC(at, DAY); -- want: partition/too-many "has 3 partitions" (no fix)
INSERT INTO saltmere.reading (id, at) VALUES (1, '2026-03-01 10:00:00'), (2, '2026-03-01 11:00:00'), (3, '2026-03-02 10:00:00'), (4, '2026-03-03 10:00:00');
CREATE TABLE saltmere.swell (id INT64 NOT NULL, at TIMESTAMP NOT NULL, PRIMARY KEY (id) NOT ENFORCED) PARTITION BY TIMESTAMP_TRUNC(at, MONTH);
INSERT INTO saltmere.swell (id, at) VALUES (1, '2026-03-01 10:00:00'), (2, '2026-03-01 11:00:00'), (3, '2026-03-02 10:00:00'), (4, '2026-04-03 10:00:00');
