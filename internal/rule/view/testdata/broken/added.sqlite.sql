-- A function that some programs add to the engine is none of the view's faults.
CREATE TABLE station (id INTEGER PRIMARY KEY, place TEXT NOT NULL);
CREATE VIEW station_areas AS SELECT id, st_area(place) AS area FROM station;
CREATE VIEW station_heights AS SELECT height FROM station; -- want: view/broken "no such column: height$" (no fix)
