-- The same index twice and three times; the one that enforces most stays.
CREATE TABLE visit (id integer PRIMARY KEY, station_id integer NOT NULL, day integer NOT NULL, note varchar(40));
CREATE INDEX visit_a ON visit (station_id, day);
CREATE INDEX visit_b ON visit (station_id, day);              -- want: index/repeated "repeats visit_a"
CREATE INDEX visit_c ON visit (station_id, day);              -- want: index/repeated
CREATE INDEX visit_note ON visit (note);                      -- want: index/repeated "repeats visit_note_unique"
CREATE UNIQUE INDEX visit_note_unique ON visit (note);
CREATE INDEX visit_some ON visit (day) WHERE note IS NOT NULL;
CREATE INDEX visit_some_again ON visit (day) WHERE note IS NOT NULL;  -- want: index/repeated

-- Nothing to say.
CREATE INDEX visit_turned ON visit (day, station_id);
CREATE INDEX visit_down ON visit (day DESC, station_id);

-- Two of a kind that a third begins with: both go, the third stays.
CREATE TABLE task (id integer PRIMARY KEY, visit_id integer NOT NULL REFERENCES visit (id), place integer NOT NULL);
CREATE INDEX task_one ON task (visit_id);                     -- want: index/prefix
CREATE INDEX task_two ON task (visit_id);                     -- want: index/repeated, index/prefix
CREATE INDEX task_wide ON task (visit_id, place);
