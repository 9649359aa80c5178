-- The key referred to changes its kind in the same script.
CREATE TABLE section (code text NOT NULL CONSTRAINT section_code UNIQUE, name text);  -- want: key/none
CREATE TABLE station (id bigint PRIMARY KEY, section_code text NOT NULL,
  CONSTRAINT station_section FOREIGN KEY (section_code) REFERENCES section (code) ON DELETE SET NULL ON UPDATE CASCADE,  -- want: fk/required-set-null
  other_code varchar(8) REFERENCES section (code)  -- want: fk/type-differs
);
CREATE INDEX ON station (section_code);
CREATE INDEX ON station (other_code);
INSERT INTO section VALUES ('N', 'North');
INSERT INTO station VALUES (1, 'N', NULL), (2, 'N', 'N');
