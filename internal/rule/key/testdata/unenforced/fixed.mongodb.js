// drop check validator of saltmere.station
db.runCommand({"collMod":"station","validator":{}});

// add check validator to saltmere.station
db.runCommand({"collMod":"station","validator":{"$jsonSchema":{"required":["code"]}},"validationAction":"error"});
