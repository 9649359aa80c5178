-- set storage/filter-not-required rows 3
-- choose storage/filter-not-required require
CREATE TABLE saltmere.reading (id INT64 NOT NULL, taken_at TIMESTAMP NOT NULL, PRIMARY KEY (id) NOT ENFORCED) PARTITION BY TIMESTAMP_TRUNC(taken_at, DAY); -- want: storage/filter-not-required
INSERT INTO saltmere.reading (id, taken_at) VALUES (1, '2026-03-01 10:00:00'), (2, '2026-03-01 11:00:00'), (3, '2026-03-02 10:00:00');
CREATE TABLE saltmere.swell (id INT64 NOT NULL, taken_at TIMESTAMP NOT NULL, PRIMARY KEY (id) NOT ENFORCED) PARTITION BY TIMESTAMP_TRUNC(taken_at, DAY) OPTIONS (require_partition_filter=true);
INSERT INTO saltmere.swell (id, taken_at) VALUES (1, '2026-03-01 10:00:00'), (2, '2026-03-01 11:00:00'), (3, '2026-03-02 10:00:00');
CREATE TABLE saltmere.visit (id INT64 NOT NULL, on_day DATE NOT NULL, PRIMARY KEY (id) NOT ENFORCED) PARTITION BY on_day;
CREATE TABLE saltmere.plain (id INT64 NOT NULL, PRIMARY KEY (id) NOT ENFORCED);
INSERT INTO saltmere.plain (id) VALUES (1), (2), (3), (4);
