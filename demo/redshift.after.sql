-- What time has done to it: sorted and counted once, and then rows came and went.
COMMIT;
VACUUM FULL;
ANALYZE;
DELETE FROM saltmere.feed_delivery WHERE subscriber_id % 3 = 0;
INSERT INTO saltmere.feed_delivery (subscriber_id, alert_id, sent_at, accepted) SELECT subscriber_id, alert_id, sent_at, accepted FROM saltmere.feed_delivery WHERE subscriber_id % 2 = 1;
