-- rename index gauge_serial of main.gauge to ix_gauge_serial
BEGIN IMMEDIATE;
DROP INDEX gauge_serial;
CREATE INDEX ix_gauge_serial ON gauge (serial);
COMMIT;
