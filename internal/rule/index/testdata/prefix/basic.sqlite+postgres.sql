-- Indexes that a longer one begins with.
CREATE TABLE reading (id integer PRIMARY KEY, gauge_id integer NOT NULL, taken integer NOT NULL, level integer, UNIQUE (gauge_id, taken));
CREATE INDEX reading_gauge ON reading (gauge_id);             -- want: index/prefix "is a prefix of"
CREATE INDEX reading_level ON reading (level, taken);
CREATE INDEX reading_level_one ON reading (level);            -- want: index/prefix
CREATE INDEX reading_level_back ON reading (level DESC);      -- want: index/prefix

-- Nothing to say: not the beginning, another direction within, a predicate, unique, expression.
CREATE INDEX reading_taken ON reading (taken);
CREATE INDEX reading_mixed ON reading (level, taken DESC);
CREATE INDEX reading_good ON reading (gauge_id) WHERE level > 0;
CREATE TABLE gauge (id integer PRIMARY KEY, serial integer NOT NULL, model integer NOT NULL);
CREATE UNIQUE INDEX gauge_serial ON gauge (serial);
CREATE INDEX gauge_serial_model ON gauge (serial, model);
CREATE INDEX gauge_half ON gauge (abs(serial), model);
CREATE INDEX gauge_whole ON gauge (abs(serial));              -- want: index/prefix
