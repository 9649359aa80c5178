-- A key of periods says more than one on the same columns, and less than one on fewer.
CREATE EXTENSION btree_gist;
CREATE TABLE datum_level (station_id integer NOT NULL, valid daterange NOT NULL, level integer,
  CONSTRAINT datum_level_pk PRIMARY KEY (station_id, valid WITHOUT OVERLAPS),
  CONSTRAINT datum_level_once UNIQUE (station_id, valid));  -- want: key/repeated "datum_level_once|repeats the primary key"
CREATE TABLE campaign (campaign_id integer PRIMARY KEY, valid daterange NOT NULL,
  CONSTRAINT campaign_once UNIQUE (campaign_id, valid WITHOUT OVERLAPS));  -- want: key/repeated "can never be broken"
CREATE TABLE leave (leave_id integer PRIMARY KEY, keeper_id integer NOT NULL, away daterange NOT NULL,
  CONSTRAINT leave_once UNIQUE (keeper_id, away WITHOUT OVERLAPS), CONSTRAINT leave_days UNIQUE (leave_id, keeper_id));  -- want: key/repeated "can never be broken"
INSERT INTO datum_level VALUES (1, '[2026-01-01,2026-07-01)', 5);
INSERT INTO campaign VALUES (1, '[2026-01-01,2026-07-01)');
-- from postgres 18
