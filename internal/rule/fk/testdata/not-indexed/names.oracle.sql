-- Names that need quotes, hold quotes, or look like SQL.
CREATE TABLE "Sta tion" ("the id" NUMBER(10) PRIMARY KEY);
CREATE TABLE "select" (
  id NUMBER(10) PRIMARY KEY,
  "from" NUMBER(10) REFERENCES "Sta tion" ("the id"),  -- want: fk/not-indexed
  "x'; DROP TABLE visit; --" NUMBER(10) REFERENCES "Sta tion" ("the id")  -- want: fk/not-indexed
);
CREATE TABLE "a_name_that_is_sixty_three_bytes_long_and_so_fills_the_limit" (id NUMBER(10) PRIMARY KEY, "another_rather_long_name_of_a_column" NUMBER(10) REFERENCES "Sta tion" ("the id"));  -- want: fk/not-indexed
INSERT INTO "Sta tion" VALUES (1);
INSERT INTO "select" VALUES (1, 1, 1);
