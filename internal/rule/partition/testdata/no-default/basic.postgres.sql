CREATE TABLE reading (id integer NOT NULL, kind text NOT NULL, PRIMARY KEY (id, kind)) PARTITION BY LIST (kind); -- want: partition/no-default
CREATE TABLE reading_a PARTITION OF reading FOR VALUES IN ('a');
CREATE TABLE sound (id integer NOT NULL, kind text NOT NULL, PRIMARY KEY (id, kind)) PARTITION BY LIST (kind);
CREATE TABLE sound_a PARTITION OF sound FOR VALUES IN ('a');
CREATE TABLE sound_rest PARTITION OF sound DEFAULT;
