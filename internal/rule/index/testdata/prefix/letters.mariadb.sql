-- Fewer letters of the same column find nothing that more do not.
CREATE TABLE station (id int NOT NULL PRIMARY KEY, title varchar(200) NOT NULL, town varchar(80) NOT NULL, note varchar(200) NOT NULL,
  KEY title_10 (title(10)), -- want: index/prefix
  KEY title_20 (title(20)),
  KEY town_5 (town(5)), -- want: index/prefix
  KEY town_whole (town, title(4)),
  KEY note_10 (note(10)),
  KEY note_title (note(8), title(20)));
