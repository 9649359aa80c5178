CREATE TABLE keeper (id integer NOT NULL AUTO_INCREMENT PRIMARY KEY, name varchar(40) NOT NULL); -- want: key/generated-only (no fix)
CREATE TABLE visit (id integer NOT NULL AUTO_INCREMENT PRIMARY KEY, keeper_id integer NOT NULL, note text NOT NULL, CONSTRAINT visit_keeper FOREIGN KEY (keeper_id) REFERENCES keeper (id));
