CREATE TABLE reading (id integer NOT NULL, at date NOT NULL, level integer DEFAULT 0, PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE reading_2090 PARTITION OF reading FOR VALUES FROM ('2090-01-01') TO ('2091-01-01');
CREATE TABLE reading_2091 PARTITION OF reading (level DEFAULT 7) FOR VALUES FROM ('2091-01-01') TO ('2092-01-01'); -- want: partition/differs
CREATE TABLE mark (id integer NOT NULL, at date NOT NULL, level integer, PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE mark_2090 PARTITION OF mark FOR VALUES FROM ('2090-01-01') TO ('2091-01-01'); -- want: partition/differs (no fix)
CREATE TABLE mark_2091 PARTITION OF mark FOR VALUES FROM ('2091-01-01') TO ('2092-01-01');
CREATE INDEX mark_2090_level ON mark_2090 (level);
CREATE TABLE tide (id integer NOT NULL, at date NOT NULL, level integer, PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE tide_2090 PARTITION OF tide (CONSTRAINT tide_high CHECK (level > 0)) FOR VALUES FROM ('2090-01-01') TO ('2091-01-01'); -- want: partition/differs "check tide_high is its own" (no fix)
CREATE TABLE tide_2091 PARTITION OF tide (CONSTRAINT tide_bounds CHECK (at >= '2091-01-01' AND at < '2092-01-01')) FOR VALUES FROM ('2091-01-01') TO ('2092-01-01');
