CREATE TABLE reading (id integer NOT NULL, day date NOT NULL, PRIMARY KEY (id, day)) PARTITION BY RANGE (day); -- want: partition/empty-parent "every insert fails"
CREATE TABLE level (id integer NOT NULL, day date NOT NULL, PRIMARY KEY (id, day)) PARTITION BY RANGE (day);
CREATE TABLE level_all PARTITION OF level DEFAULT;
