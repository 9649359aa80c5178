// set index/on-nothing rows 2
// set check/none rows 1000
// choose index/on-nothing drop
db.runCommand({"insert": "reading", "documents": [{"_id": 1, "station": "A1", "place": {"lat": 1}}, {"_id": 2, "station": "A2"}]});
db.runCommand({"createIndexes": "reading", "indexes": [
  {"key": {"staton": 1, "_id": 1}, "name": "by_staton"}, // want: index/on-nothing "by_staton is on staton, which none of 2 rows has"
  {"key": {"station": 1}, "name": "by_station"}, {"key": {"place.lat": 1}, "name": "by_lat"}]});
