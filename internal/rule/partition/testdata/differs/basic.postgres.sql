CREATE TABLE reading (id integer NOT NULL, at date NOT NULL, level integer DEFAULT 0, PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE reading_2090 PARTITION OF reading FOR VALUES FROM ('2090-01-01') TO ('2091-01-01');
CREATE TABLE reading_2091 PARTITION OF reading (level DEFAULT 7) FOR VALUES FROM ('2091-01-01') TO ('2092-01-01'); -- want: partition/differs
CREATE TABLE mark (id integer NOT NULL, at date NOT NULL, level integer, PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE mark_2090 PARTITION OF mark FOR VALUES FROM ('2090-01-01') TO ('2091-01-01'); -- want: partition/differs (no fix)
CREATE TABLE mark_2091 PARTITION OF mark FOR VALUES FROM ('2091-01-01') TO ('2092-01-01');
CREATE INDEX mark_2090_level ON mark_2090 (level);
