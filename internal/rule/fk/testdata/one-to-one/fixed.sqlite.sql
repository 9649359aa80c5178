-- create index sheet_station_id_key on main.sheet
CREATE UNIQUE INDEX sheet_station_id_key ON sheet (station_id);

-- drop index sheet_by_station of main.sheet
DROP INDEX sheet_by_station;
