-- What the engine lets pass: lengths of text. Other differences it refuses itself.
CREATE TABLE station (id bigint unsigned AUTO_INCREMENT PRIMARY KEY, code varchar(8) NOT NULL UNIQUE, name varchar(40) NOT NULL UNIQUE);
CREATE TABLE gauge (
  id int AUTO_INCREMENT PRIMARY KEY,
  station_id bigint(10) unsigned NOT NULL,
  code varchar(6),        -- want: fk/type-differs "cannot hold every key"
  name varchar(60),       -- want: fk/type-differs "no key can have"
  FOREIGN KEY (station_id) REFERENCES station (id),
  FOREIGN KEY (code) REFERENCES station (code),
  FOREIGN KEY (name) REFERENCES station (name)
);
