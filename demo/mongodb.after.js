// fault: a validator that documents which were there before break
db.runCommand({"collMod": "storm_alert", "validator": {"$jsonSchema": {"bsonType": "object", "required": ["level"]}}, "validationAction": "error"});
