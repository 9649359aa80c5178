-- What remains to be done once the rows are there: let the engine count.
ANALYZE TABLE coast_section, station, datum_level, gauge_model, gauge, reading, reading_flag, calibration, keeper, station_keeper, visit, visit_task, spare_part, part_stock, tide_table, storm_alert, alert_station, feed_subscriber, feed_delivery;
