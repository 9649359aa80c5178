CREATE TABLE visit (id int AUTO_INCREMENT PRIMARY KEY, day int NOT NULL, note varchar(40));
CREATE INDEX visit_a ON visit (day, note);
CREATE INDEX visit_b ON visit (day, note);                  -- want: index/repeated
CREATE INDEX visit_c ON visit (day, note(10));              -- want: index/prefix "visit_c .day, note.10.. is a prefix of"
CREATE INDEX visit_id ON visit (id);                        -- want: index/behind-key "primary key"
CREATE INDEX visit_note ON visit (note);
