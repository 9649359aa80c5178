-- Whole numbers that stand for months, in ranges, and for years, in a list.
CREATE TABLE monthly (id int NOT NULL, ym bigint NOT NULL, PRIMARY KEY (id, ym)) PARTITION BY RANGE (ym); -- want: partition/horizon "monthly_202609 ended on 2026-10-01"
CREATE TABLE monthly_202607 PARTITION OF monthly FOR VALUES FROM (202607) TO (202608);
CREATE TABLE monthly_202608 PARTITION OF monthly FOR VALUES FROM (202608) TO (202609);
CREATE TABLE monthly_202609 PARTITION OF monthly FOR VALUES FROM (202609) TO (202610);
CREATE TABLE listed (id int NOT NULL, y int NOT NULL, PRIMARY KEY (id, y)) PARTITION BY LIST (y); -- want: partition/horizon "listed_2025 ended on 2026-01-01"
CREATE TABLE listed_2024 PARTITION OF listed FOR VALUES IN (2024);
CREATE TABLE listed_2025 PARTITION OF listed FOR VALUES IN (2025);
CREATE TABLE coded (id int NOT NULL, region int NOT NULL, PRIMARY KEY (id, region)) PARTITION BY LIST (region);
CREATE TABLE coded_a PARTITION OF coded FOR VALUES IN (1, 2);
CREATE TABLE coded_b PARTITION OF coded FOR VALUES IN (3);
