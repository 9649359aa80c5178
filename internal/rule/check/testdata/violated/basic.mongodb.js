// probe
// set check/none rows 1000
// A validator says nothing of the documents that were there before.
db.runCommand({"insert": "station", "documents": [{"_id": 1, "code": "A1"}, {"_id": 2}, {"_id": 3, "name": "x"}, {"_id": 4, "code": "A4"}]});
db.runCommand({"collMod": "station", "validator": {"$jsonSchema": {"bsonType": "object", "required": ["code"], "properties": {"code": {"bsonType": "string"}}}}}); // want: check/violated "2 rows break validator: _id 2; _id 3" (no fix)
db.runCommand({"create": "gauge", "validator": {"code": {"$type": "string"}}}); 
db.runCommand({"insert": "gauge", "documents": [{"_id": 1, "code": "A1"}]});
