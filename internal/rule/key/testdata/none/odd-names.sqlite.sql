-- probe
-- Names without a letter in them.
CREATE TABLE " " (" " INTEGER NOT NULL, "  " TEXT NOT NULL); -- want: key/none
CREATE TABLE "" ("." INTEGER NOT NULL, "" TEXT NOT NULL); -- want: key/none (no fix)
CREATE TABLE "__" ("_" INTEGER NOT NULL, "-" TEXT NOT NULL, "id_" INTEGER NOT NULL); -- want: key/none
CREATE TABLE "1" ("2" INTEGER NOT NULL, "_id" INTEGER NOT NULL, "🌊" INTEGER NOT NULL); -- want: key/none
CREATE TABLE "日本" ("id" INTEGER PRIMARY KEY, "🌊" TEXT NOT NULL UNIQUE);
CREATE TABLE "_id" ("_id" INTEGER PRIMARY KEY, "__id" INTEGER NOT NULL, "user_" TEXT NOT NULL UNIQUE);
INSERT INTO " " VALUES (1, 'a'), (2, 'b');
INSERT INTO "__" VALUES (1, 'a', 1), (2, 'b', 2);
INSERT INTO "1" VALUES (1, 1, 1), (2, 2, 2);
INSERT INTO "日本" VALUES (1, 'a'), (2, 'b');
INSERT INTO "_id" VALUES (1, 1, 'a'), (2, 2, 'b');
