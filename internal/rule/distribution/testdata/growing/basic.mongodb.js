// set check/none rows 1000
// shard reading at
// shard visit code
db.runCommand({"insert": "reading", "documents": [{"_id": 1, "at": {"$date": "2026-03-01T00:00:00Z"}}, {"_id": 2, "at": {"$date": "2026-03-02T00:00:00Z"}}]}); // want: distribution/growing "spread by ranges of at" (no fix)
db.runCommand({"insert": "visit", "documents": [{"_id": 1, "code": "a"}, {"_id": 2, "code": "b"}]});
