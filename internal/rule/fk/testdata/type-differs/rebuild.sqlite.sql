-- A rebuild loses nothing: names, comments, collations, computed columns, options, counters, triggers, views.
CREATE TABLE station (id INTEGER PRIMARY KEY, code TEXT NOT NULL UNIQUE);
CREATE TABLE "odd ""table" (
  "the id" INTEGER CONSTRAINT "my pk" PRIMARY KEY AUTOINCREMENT, /* a comment, with ) and , in it */
  station_id TEXT CONSTRAINT "to station" REFERENCES station (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED, -- want: fk/type-differs
  [name] TEXT COLLATE NOCASE NOT NULL DEFAULT 'it''s -- not a comment' CHECK (length(name) > 0),
  price DECIMAL(10, 2) DEFAULT (1 + 2),
  twice INTEGER GENERATED ALWAYS AS (price * 2) VIRTUAL,
  kept INTEGER AS ("the id" + 1) STORED,
  stamp TEXT DEFAULT CURRENT_TIMESTAMP,
  negative INTEGER DEFAULT -1,
  parent_id INTEGER REFERENCES "odd ""table" ("the id"),
  CONSTRAINT "both" UNIQUE (name, price) ON CONFLICT IGNORE -- want: key/nullable-unique (no fix)
  CONSTRAINT positive CHECK (price > 0)   -- a comment on the last line
);
CREATE INDEX odd_station ON "odd ""table" (station_id);
CREATE INDEX odd_parent ON "odd ""table" (parent_id DESC);
CREATE INDEX odd_lower ON "odd ""table" (lower(name) COLLATE RTRIM DESC, price) WHERE price > 1;
CREATE TABLE log (what TEXT NOT NULL PRIMARY KEY, n INTEGER NOT NULL) WITHOUT ROWID;
CREATE TRIGGER odd_log AFTER INSERT ON "odd ""table" BEGIN
  INSERT INTO log VALUES (NEW.name, 1) ON CONFLICT (what) DO UPDATE SET n = n + 1;
  SELECT CASE WHEN NEW.price > 100 THEN raise(ABORT, 'dear;') END;
END;
CREATE TRIGGER log_odd AFTER DELETE ON log BEGIN DELETE FROM "odd ""table" WHERE name = OLD.what; END;
CREATE VIEW odd_view AS SELECT s.code, o.* FROM "odd ""table" o LEFT JOIN station s ON s.id = o.station_id;
CREATE VIEW odd_count AS SELECT count(*) AS n FROM odd_view;
CREATE TABLE strict_one (id INTEGER PRIMARY KEY, station_id TEXT NOT NULL REFERENCES station (id)) STRICT;  -- want: fk/type-differs
CREATE INDEX strict_station ON strict_one (station_id);
CREATE TABLE flat (station_id TEXT NOT NULL REFERENCES station (id), n INTEGER NOT NULL, PRIMARY KEY (station_id, n)) WITHOUT ROWID;  -- want: fk/type-differs
INSERT INTO station VALUES (1, 'A'), (2, 'B');
INSERT INTO "odd ""table" ("the id", station_id, name, price) VALUES (1, '1', 'one', 5), (9, '2', 'nine', 6), (12, NULL, 'Zwölf', 7);
DELETE FROM "odd ""table" WHERE "the id" = 12;
INSERT INTO strict_one VALUES (1, '2');
INSERT INTO flat VALUES ('1', 1), ('2', 1);
