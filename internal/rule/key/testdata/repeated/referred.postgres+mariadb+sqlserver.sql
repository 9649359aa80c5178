-- not mysql: the stand-in does not say which key a reference stands on
-- The primary key serves a reference as well as one more key on its columns.
CREATE TABLE country (iso char(2) NOT NULL PRIMARY KEY, name varchar(20) NOT NULL);
CREATE TABLE harbour (id integer NOT NULL PRIMARY KEY, iso char(2) NOT NULL, CONSTRAINT harbour_country FOREIGN KEY (iso) REFERENCES country (iso));
CREATE INDEX harbour_iso ON harbour (iso);
ALTER TABLE country ADD CONSTRAINT country_again UNIQUE (iso); -- want: key/repeated
INSERT INTO country VALUES ('aa', 'Aland');
INSERT INTO harbour VALUES (1, 'aa');
