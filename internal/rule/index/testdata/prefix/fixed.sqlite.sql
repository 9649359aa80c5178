-- drop index gauge_whole of main.gauge
DROP INDEX gauge_whole;

-- drop index reading_gauge of main.reading
DROP INDEX reading_gauge;

-- drop index reading_level_back of main.reading
DROP INDEX reading_level_back;

-- drop index reading_level_one of main.reading
DROP INDEX reading_level_one;
