-- no example
-- A further column goes into the views that ask for all; where a view or a trigger counts them, or
-- joins by their names, there is none.
CREATE TABLE plain (a INT, b TEXT); -- want: key/none
CREATE VIEW plain_all AS SELECT * FROM plain;
CREATE VIEW plain_more AS SELECT p.*, 1 AS one FROM plain_all p;
CREATE TABLE counted (a INT, b TEXT); -- want: key/none (no fix)
CREATE VIEW counted_all AS SELECT * FROM counted;
CREATE VIEW counted_two (x, y) AS SELECT * FROM counted_all;
CREATE TABLE joined (a INT, b TEXT); -- want: key/none (no fix)
CREATE VIEW joined_by AS SELECT b FROM joined NATURAL JOIN (SELECT 1 AS a);
CREATE TABLE copied (a INT, b TEXT); -- want: key/none (no fix)
CREATE TABLE kept (id INTEGER PRIMARY KEY, b TEXT);
CREATE TRIGGER copied_kept AFTER DELETE ON copied BEGIN INSERT INTO kept SELECT * FROM copied; END;
CREATE TABLE summed (a INT, b TEXT); -- want: key/none
CREATE VIEW summed_up AS SELECT count(*) AS n, a * 2 AS twice FROM summed;
CREATE TABLE united (a INT, b TEXT); -- want: key/none (no fix)
CREATE VIEW united_all AS SELECT * FROM united UNION SELECT 1, 'x';
