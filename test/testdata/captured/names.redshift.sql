-- Names and texts that a client, a window or a JSON string could stumble over.
CREATE SCHEMA "a;b";
CREATE TABLE "a;b"."q""uote" ("id" bigint IDENTITY(1, 1) NOT NULL, "two
lines" integer, "back\slash" varchar(20) ENCODE lzo DEFAULT 'it''s', "水 🌊" timestamp without time zone, PRIMARY KEY ("id")) DISTSTYLE KEY DISTKEY ("two
lines") COMPOUND SORTKEY ("水 🌊", "id");
CREATE TABLE "a;b"."@row 3 [1]" (":ERROR" bigint NOT NULL, "one" bigint, "two" integer, "yes" boolean, CONSTRAINT "k|ey" UNIQUE ("one", "two"),
  CONSTRAINT "to'it" FOREIGN KEY ("one") REFERENCES "a;b"."q""uote" ("id")) DISTSTYLE ALL INTERLEAVED SORTKEY ("two", "one");
CREATE TABLE "@done 12" ("x" smallint) DISTSTYLE EVEN;
COMMENT ON TABLE "@done 12" IS 'a	tab, a "quote", it''s,
@end head 1';
COMMENT ON COLUMN "a;b"."q""uote"."two
lines" IS '\\n is no line, $(x) :x';
CREATE VIEW "a;b"."vi'ew" AS SELECT "id", 'x ''y'' "z"' AS "text" FROM "a;b"."q""uote";
INSERT INTO "@done 12" VALUES (1), (2), (NULL), (4);
INSERT INTO "a;b"."q""uote" ("two
lines") VALUES (1), (1), (2);
