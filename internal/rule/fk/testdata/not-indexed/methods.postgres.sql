-- Which kinds of index find rows by equality.
CREATE TABLE station (id bigint PRIMARY KEY);
CREATE TABLE visit (
  id bigint PRIMARY KEY,
  hashed bigint REFERENCES station (id),
  ranged bigint REFERENCES station (id),     -- want: fk/not-indexed
  carried bigint REFERENCES station (id),    -- want: fk/not-indexed
  computed bigint REFERENCES station (id),   -- want: fk/not-indexed
  "select" bigint REFERENCES station (id)
);
CREATE INDEX visit_hashed ON visit USING hash (hashed);
CREATE INDEX visit_ranged ON visit USING brin (ranged);
CREATE INDEX visit_carried ON visit (id) INCLUDE (carried) WHERE id > 0;
CREATE INDEX visit_computed ON visit ((computed + 0));
CREATE INDEX visit_select ON visit ("select") WHERE ("select" IS NOT NULL);
