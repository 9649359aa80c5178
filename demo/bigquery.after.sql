INSERT INTO {schema}.station_survey (station_id, surveyed_on, position, marks)
SELECT id, opened_on, STRUCT(latitude AS latitude, longitude AS longitude), [STRUCT('bolt' AS name, 1200 AS height_mm)] FROM {schema}.station WHERE closed_on IS NULL;
