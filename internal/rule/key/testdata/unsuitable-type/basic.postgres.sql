CREATE TABLE level (height double precision PRIMARY KEY, note text); -- want: key/unsuitable-type (no fix)
CREATE TABLE paper (
  id integer PRIMARY KEY, body jsonb, title varchar(4000), mail varchar(320) UNIQUE,
  CONSTRAINT paper_body UNIQUE (body),    -- want: key/unsuitable-type "paper_body|the unique key holds body" (no fix)
  CONSTRAINT paper_title UNIQUE (title)   -- want: key/unsuitable-type "up to 4000 letters" (no fix)
);
CREATE TABLE station (code text PRIMARY KEY, digest bytea UNIQUE, height numeric(8,3) UNIQUE);
