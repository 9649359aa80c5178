// set check/none rows 1000
db.runCommand({"insert": "alert", "documents": [{"_id": 1, "at": "2026-03-01", "sent": {"$date": "2026-03-01T00:00:00Z"}}, {"_id": 2, "at": "2026-03-02", "sent": {"$date": "2026-03-02T00:00:00Z"}}]});
db.runCommand({"createIndexes": "alert", "indexes": [
  {"key": {"at": 1}, "name": "forget_at", "expireAfterSeconds": 3600}, // want: index/expires-nothing "which is string: none ever does" (no fix)
  {"key": {"sent": 1}, "name": "forget_sent", "expireAfterSeconds": 3600}]});
