-- set name/pattern index ix_{table}_{columns}
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, serial integer, no integer);
CREATE INDEX gauge_serial_x ON gauge (serial); -- want: name/pattern
CREATE INDEX ix_gauge_no ON gauge (no);
