-- set partition/retention keep 24 months
CREATE TABLE reading (id integer NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) PARTITION BY RANGE (at); -- want: partition/retention "reading_2019"
CREATE TABLE reading_2019 PARTITION OF reading FOR VALUES FROM ('2019-01-01') TO ('2020-01-01');
CREATE TABLE reading_2020 PARTITION OF reading FOR VALUES FROM ('2020-01-01') TO ('2095-01-01');
