-- no example: what the fix writes depends on the day
CREATE TABLE reading (id integer NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) PARTITION BY RANGE (at); -- want: partition/horizon
CREATE TABLE reading_2024 PARTITION OF reading FOR VALUES FROM ('2024-01-01') TO ('2025-01-01');
CREATE TABLE reading_2025 PARTITION OF reading FOR VALUES FROM ('2025-01-01') TO ('2026-01-01');
CREATE TABLE ahead (id integer NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE ahead_2090 PARTITION OF ahead FOR VALUES FROM ('2090-01-01') TO ('2091-01-01');
CREATE TABLE numbered (id integer PRIMARY KEY) PARTITION BY RANGE (id);
CREATE TABLE numbered_1 PARTITION OF numbered FOR VALUES FROM (0) TO (100);
