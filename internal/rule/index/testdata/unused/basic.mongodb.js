// set check/none rows 1000
// choose index/unused drop
db.runCommand({"insert": "reading", "documents": [{"_id": 1, "station": "A1", "at": 1}]});
db.runCommand({"createIndexes": "reading", "indexes": [{"key": {"station": 1}, "name": "by_station"}, {"key": {"at": 1}, "name": "by_at"}]}); // want: index/unused "index by_at"
db.runCommand({"find": "reading", "filter": {"station": "A1"}});
