-- What the server lets pass: lengths of text. Other differences it refuses itself.
CREATE TABLE station (id bigint IDENTITY PRIMARY KEY, code nvarchar(8) NOT NULL UNIQUE, name nvarchar(40) NOT NULL UNIQUE);
CREATE TABLE gauge (
  id int IDENTITY PRIMARY KEY,
  station_id bigint NOT NULL,
  code nvarchar(6),        -- want: fk/type-differs "cannot hold every key"
  name nvarchar(60),       -- want: fk/type-differs "no key can have"
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id),
  CONSTRAINT gauge_code FOREIGN KEY (code) REFERENCES station (code) ON DELETE CASCADE,
  CONSTRAINT gauge_name FOREIGN KEY (name) REFERENCES station (name)
);
CREATE INDEX gauge_by_station ON gauge (station_id);
CREATE INDEX gauge_by_code ON gauge (code);
CREATE INDEX gauge_by_name ON gauge (name);
INSERT INTO station (code, name) VALUES (N'N', N'North'), (N'S', N'South');
INSERT INTO gauge (station_id, code, name) VALUES (1, N'N', NULL), (2, NULL, N'South');
