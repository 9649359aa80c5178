CREATE TABLE station (
  id serial PRIMARY KEY, -- want: column/generated-legacy
  code text NOT NULL UNIQUE
);
INSERT INTO station (code) VALUES ('a'), ('b');
CREATE TABLE keeper (id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY);
