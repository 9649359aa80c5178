-- A sound structure in many styles: no error and no warning may be found in it.
CREATE TABLE country (iso char(2) NOT NULL PRIMARY KEY, name varchar(60) NOT NULL UNIQUE);
CREATE TABLE region (country_iso char(2) NOT NULL, code varchar(8) NOT NULL, name varchar(60) NOT NULL, PRIMARY KEY (country_iso, code), CONSTRAINT region_country FOREIGN KEY (country_iso) REFERENCES country (iso));
CREATE TABLE station (
  id bigint unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY,
  code varchar(12) NOT NULL UNIQUE,
  name varchar(80) NOT NULL,
  country_iso char(2) NOT NULL, region_code varchar(8) NOT NULL,
  parent_station_id bigint unsigned,
  is_open boolean NOT NULL DEFAULT true,
  kind enum('pier', 'buoy') NOT NULL DEFAULT 'pier',
  settings longtext CHECK (json_valid(settings)),
  depth_m decimal(6, 2) CHECK (depth_m >= 0),
  created_at datetime NOT NULL DEFAULT current_timestamp(), updated_at timestamp NOT NULL DEFAULT current_timestamp() ON UPDATE current_timestamp(),
  KEY station_region (country_iso, region_code), KEY station_parent (parent_station_id), FULLTEXT KEY station_name (name),
  CONSTRAINT station_region_fk FOREIGN KEY (country_iso, region_code) REFERENCES region (country_iso, code),
  CONSTRAINT station_parent_fk FOREIGN KEY (parent_station_id) REFERENCES station (id) ON DELETE SET NULL
) COMMENT 'where a gauge stands';
CREATE TABLE keeper (id int unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY, email varchar(190) NOT NULL UNIQUE, name varchar(60) NOT NULL, password_hash varbinary(60));
CREATE TABLE station_keeper (station_id bigint unsigned NOT NULL, keeper_id int unsigned NOT NULL, since date NOT NULL, PRIMARY KEY (station_id, keeper_id), KEY sk_keeper (keeper_id),
  CONSTRAINT sk_station_fk FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE CASCADE, CONSTRAINT sk_keeper_fk FOREIGN KEY (keeper_id) REFERENCES keeper (id) ON DELETE CASCADE);
CREATE TABLE gauge (
  id bigint unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY, serial varchar(20) NOT NULL UNIQUE, station_id bigint unsigned NOT NULL, price decimal(12, 2), installed_on date NOT NULL, removed_on date,
  CONSTRAINT gauge_days CHECK (removed_on >= installed_on), CONSTRAINT gauge_station_fk FOREIGN KEY (station_id) REFERENCES station (id)
);
CREATE TABLE gauge_detail (gauge_id bigint unsigned NOT NULL PRIMARY KEY, notes text, CONSTRAINT gd_gauge_fk FOREIGN KEY (gauge_id) REFERENCES gauge (id) ON DELETE CASCADE);
CREATE TABLE reading (gauge_id bigint unsigned NOT NULL, taken_at datetime(3) NOT NULL, level_mm int NOT NULL, PRIMARY KEY (gauge_id, taken_at), KEY reading_at (taken_at))
PARTITION BY RANGE COLUMNS (taken_at) (PARTITION p2089 VALUES LESS THAN ('2090-01-01'), PARTITION p2090 VALUES LESS THAN ('2091-01-01'), PARTITION p2091 VALUES LESS THAN ('2092-01-01'), PARTITION pmax VALUES LESS THAN (MAXVALUE));
CREATE TABLE alert (id bigint NOT NULL AUTO_INCREMENT PRIMARY KEY, station_id bigint unsigned NOT NULL, status varchar(10) NOT NULL DEFAULT 'open' CHECK (status IN ('open', 'shut')), KEY alert_station (station_id, status), CONSTRAINT alert_station_fk FOREIGN KEY (station_id) REFERENCES station (id));
CREATE TABLE setting (name varchar(40) NOT NULL PRIMARY KEY, value varchar(200));
CREATE TABLE session_store (id varbinary(32) NOT NULL PRIMARY KEY, expires int unsigned NOT NULL, data mediumblob, KEY session_expires (expires));
CREATE TABLE audit_log (id bigint NOT NULL AUTO_INCREMENT PRIMARY KEY, at timestamp NOT NULL DEFAULT current_timestamp(), what text);
