// set check/none rows 1000
// set distribution/not-searched reads 3
// set distribution/not-searched share 0.3
// shard reading station
// shard visit code
// shard tide port
db.runCommand({"insert": "reading", "documents": [{"_id": 1, "station": "A1", "gauge": 7}, {"_id": 2, "station": "B1", "gauge": 8}]}); // want: distribution/not-searched "spread by station, and 0 of 3 reads of its indexes went by it: the others, by by_gauge" (no fix)
db.runCommand({"createIndexes": "reading", "indexes": [{"key": {"station": 1}, "name": "by_station"}, {"key": {"gauge": 1}, "name": "by_gauge"}]});
db.runCommand({"find": "reading", "filter": {"gauge": 7}});
db.runCommand({"find": "reading", "filter": {"gauge": 8}});
db.runCommand({"find": "reading", "filter": {"gauge": 9}});
db.runCommand({"insert": "visit", "documents": [{"_id": 1, "code": "a", "ship": "x"}, {"_id": 2, "code": "b", "ship": "y"}]});
db.runCommand({"createIndexes": "visit", "indexes": [{"key": {"code": 1}, "name": "by_code"}, {"key": {"ship": 1}, "name": "by_ship"}]});
db.runCommand({"find": "visit", "filter": {"ship": "x"}});
db.runCommand({"find": "visit", "filter": {"ship": "y"}});
db.runCommand({"find": "visit", "filter": {"code": "a"}});
db.runCommand({"insert": "tide", "documents": [{"_id": 1, "port": "a", "high": 4}, {"_id": 2, "port": "b", "high": 5}]});
db.runCommand({"createIndexes": "tide", "indexes": [{"key": {"port": 1}, "name": "by_port"}, {"key": {"high": 1}, "name": "by_high"}]});
db.runCommand({"find": "tide", "filter": {"high": 4}});
db.runCommand({"find": "tide", "filter": {"high": 5}});
