// set check/none rows 1000
db.runCommand({"insert": "reading", "documents": [{"_id": 1, "station": "A1", "at": 1}]});
db.runCommand({"createIndexes": "reading", "indexes": [
  {"key": {"station": 1}, "name": "by_station"}, // want: index/prefix
  {"key": {"station": 1, "at": -1}, "name": "by_station_at"}, {"key": {"at": "hashed"}, "name": "by_at"}]});
