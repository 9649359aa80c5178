-- not mysql: the stand-in breaks on a column that is altered under LOCK TABLES
-- The next wider type that lasts: int for a smallint, whatever its sign.
CREATE TABLE station (id smallint NOT NULL AUTO_INCREMENT PRIMARY KEY, code varchar(9) NOT NULL UNIQUE); -- want: key/nearly-full
INSERT INTO station VALUES (30000, 'a');
CREATE TABLE gauge (id smallint unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY, code varchar(9) NOT NULL UNIQUE); -- want: key/nearly-full
INSERT INTO gauge VALUES (60000, 'b');
CREATE TABLE visit (id integer NOT NULL AUTO_INCREMENT PRIMARY KEY, gauge_id smallint unsigned NOT NULL, CONSTRAINT visit_gauge FOREIGN KEY (gauge_id) REFERENCES gauge (id));
INSERT INTO visit VALUES (7, 60000);
ANALYZE TABLE station, gauge, visit;
