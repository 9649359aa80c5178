-- Null where it is forbidden, in rows that were there before.
-- probe
CREATE TABLE gauge (gauge_id integer PRIMARY KEY, model text, serial text);
INSERT INTO gauge SELECT g, CASE WHEN g % 10 = 0 THEN NULL ELSE 'm' || g % 3 END, 's' || g FROM generate_series(1, 40) g;
ALTER TABLE gauge ADD CONSTRAINT model_needed NOT NULL model NOT VALID;  -- want: check/violated "4 rows hold null in model, where it is forbidden" (no fix)
-- from postgres 18
