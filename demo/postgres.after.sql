-- What remains to be done once the rows are there: number on from the largest, and let the engine count.
SELECT setval(pg_get_serial_sequence('keeper', 'id'), (SELECT max(id) FROM keeper));
SELECT setval(pg_get_serial_sequence('spare_part', 'id'), (SELECT max(id) FROM spare_part));
SELECT setval(pg_get_serial_sequence('station', 'id'), (SELECT max(id) FROM station));
SELECT setval(pg_get_serial_sequence('gauge_model', 'id'), (SELECT max(id) FROM gauge_model));
SELECT setval(pg_get_serial_sequence('gauge', 'id'), (SELECT max(id) FROM gauge));
SELECT setval(pg_get_serial_sequence('reading', 'id'), (SELECT max(id) FROM reading));
SELECT setval(pg_get_serial_sequence('calibration', 'id'), (SELECT max(id) FROM calibration));
SELECT setval(pg_get_serial_sequence('visit', 'id'), (SELECT max(id) FROM visit));
SELECT setval(pg_get_serial_sequence('storm_alert', 'id'), (SELECT max(id) FROM storm_alert));
SELECT setval(pg_get_serial_sequence('alert_station', 'id'), (SELECT max(id) FROM alert_station));
SELECT setval(pg_get_serial_sequence('feed_subscriber', 'id'), (SELECT max(id) FROM feed_subscriber));
ANALYZE;
