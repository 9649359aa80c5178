-- Names that need quotes, hold quotes, or look like SQL.
CREATE TABLE "Sta tion" ("the id" integer PRIMARY KEY);
CREATE TABLE "select" (
  id integer PRIMARY KEY,
  "from" integer REFERENCES "Sta tion" ("the id"),  -- want: fk/not-indexed
  "x""; DROP TABLE visit; --" integer REFERENCES "Sta tion" ("the id")  -- want: fk/not-indexed
);
CREATE TABLE "a_name_that_is_sixty_three_bytes_long_and_so_fills_the_limit" (id integer PRIMARY KEY, "another_rather_long_name_of_a_column" integer REFERENCES "Sta tion" ("the id"));  -- want: fk/not-indexed
INSERT INTO "Sta tion" VALUES (1);
INSERT INTO "select" VALUES (1, 1, 1);
