-- What the stand-in for MySQL keeps of all that it takes.
CREATE TABLE coast_section (code varchar(8) NOT NULL, name varchar(60) NOT NULL, length_km double NOT NULL, PRIMARY KEY (code), CONSTRAINT length_low CHECK (length_km > 0)) COMMENT='the coast, section by section';
CREATE TABLE station (
  station_id bigint unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY, code varchar(12) NOT NULL DEFAULT 'it''s "new"', name text, section_code varchar(8) NOT NULL COMMENT 'where it''s at',
  depth decimal(8,2) DEFAULT 1.50, kind enum('tide','wave') DEFAULT 'tide', flags set('a','b'), more json DEFAULT (json_object()), opened date, entered datetime DEFAULT CURRENT_TIMESTAMP, raw varbinary(20), small tinyint(1) NOT NULL DEFAULT 0,
  UNIQUE KEY code_once (code), KEY by_name (name(10)), KEY by_two (section_code, opened),
  CONSTRAINT depth_low CHECK (depth > 0), CONSTRAINT depth_high CHECK (depth < 9000) NOT ENFORCED, CONSTRAINT named CHECK (code <> 'it''s'),
  CONSTRAINT at_section FOREIGN KEY (section_code) REFERENCES coast_section (code) ON DELETE CASCADE ON UPDATE RESTRICT
);
CREATE TABLE `Old "gauge"` (gauge_id int NOT NULL, part int NOT NULL, station_id bigint unsigned, `note, old` varchar(20), PRIMARY KEY (part, gauge_id), CONSTRAINT of_station FOREIGN KEY (station_id) REFERENCES station (station_id) ON DELETE SET NULL);
CREATE TABLE loose (a int, b varchar(10));
CREATE VIEW deep AS SELECT station_id, code FROM station WHERE depth > 10;
