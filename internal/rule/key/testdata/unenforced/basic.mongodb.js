// probe
// set check/none rows 1000
// Once nothing breaks it, a validator that warns is made one that refuses.
db.runCommand({"create": "station", "validator": {"$jsonSchema": {"required": ["code"]}}, "validationAction": "warn"}); // want: key/unenforced "validator is declared and not enforced.*all rows keep it so far"
db.runCommand({"insert": "station", "documents": [{"_id": 1, "code": "A1"}, {"_id": 2, "code": "A2"}]});
db.runCommand({"create": "gauge", "validator": {"$jsonSchema": {"required": ["code"]}}, "validationAction": "error"});
