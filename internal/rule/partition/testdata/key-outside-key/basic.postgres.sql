CREATE TABLE reading (id integer NOT NULL, at date NOT NULL) PARTITION BY RANGE (at); -- want: partition/key-outside-key (no fix), key/none (no fix)
CREATE TABLE reading_2090 PARTITION OF reading (PRIMARY KEY (id)) FOR VALUES FROM ('2090-01-01') TO ('2091-01-01');
CREATE TABLE reading_2091 PARTITION OF reading (PRIMARY KEY (id)) FOR VALUES FROM ('2091-01-01') TO ('2092-01-01');
