-- What has to survive: deferral, match, comment, not validated; column lists; partitions.
CREATE TABLE station (id bigint PRIMARY KEY, part bigint NOT NULL, UNIQUE (id, part));
CREATE TABLE gauge (id bigint PRIMARY KEY, station_id bigint NOT NULL, part bigint, old_id bigint NOT NULL,
  CONSTRAINT gauge_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL DEFERRABLE INITIALLY DEFERRED,  -- want: fk/required-set-null
  CONSTRAINT gauge_part FOREIGN KEY (station_id, part) REFERENCES station (id, part) ON DELETE SET NULL (part)
);
COMMENT ON CONSTRAINT gauge_station ON gauge IS 'where it''s at';
CREATE INDEX ON gauge (station_id, part);
CREATE INDEX ON gauge (old_id);
INSERT INTO station VALUES (1, 1);
INSERT INTO gauge VALUES (1, 1, 1, 1);
ALTER TABLE gauge ADD CONSTRAINT gauge_old FOREIGN KEY (old_id) REFERENCES station (id) ON DELETE SET NULL NOT VALID;  -- want: fk/required-set-null, fk/not-validated

CREATE TABLE reading (station_id bigint NOT NULL, year integer NOT NULL, PRIMARY KEY (station_id, year),
  CONSTRAINT reading_station FOREIGN KEY (station_id) REFERENCES station (id) ON DELETE SET NULL  -- want: fk/required-set-null
) PARTITION BY LIST (year);
CREATE TABLE reading_2026 PARTITION OF reading FOR VALUES IN (2026);
INSERT INTO reading VALUES (1, 2026);
-- from postgres 15
