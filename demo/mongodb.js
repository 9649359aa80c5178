// Saltmere: a made-up agency that runs tide gauges along a made-up coast.
// The demo store of documents, for a (simulated) MongoDB, with faults planted among sound structures.

db.runCommand({"create": "station", "validator": {"$jsonSchema": {"bsonType": "object", "description": "where the tide is observed", "required": ["code", "name"], "properties": {"code": {"bsonType": "string", "description": "as on the plate"}}}}});
db.runCommand({"create": "keeper"});
db.runCommand({"createIndexes": "keeper", "indexes": [{"key": {"badge": 1}, "name": "keeper_badge", "unique": true}]});
// fault: nothing says what an observation holds; an index that another begins with; one on a name that was misspelt
db.runCommand({"create": "observation"});
db.runCommand({"createIndexes": "observation", "indexes": [{"key": {"at": 1}, "name": "observation_at"}, {"key": {"at": 1, "kind": 1}, "name": "observation_at_kind"}, {"key": {"staton": 1}, "name": "observation_staton"}]});
// fault: alerts are to be forgotten after a year, by a moment that is a text
db.runCommand({"create": "storm_alert"});
db.runCommand({"createIndexes": "storm_alert", "indexes": [{"key": {"issued_at": 1}, "name": "storm_alert_forget", "expireAfterSeconds": 31536000}]});
