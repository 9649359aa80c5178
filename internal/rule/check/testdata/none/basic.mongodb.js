// set check/none rows 3
// choose check/none warn
// the fix brings key/unenforced: the validator warns, until nothing breaks it
db.runCommand({"insert": "station", "documents": [ // want: check/none
  {"_id": 1, "code": "A1", "place": {"lat": 54.5, "lon": 7}, "tags": ["old"], "marks": [{"name": "bolt", "height": 3}], "closed": null},
  {"_id": 2, "code": "A2", "place": {"lat": 54.5}, "tags": []},
  {"_id": 3, "code": "A3"}
]});
db.runCommand({"create": "gauge", "validator": {"$jsonSchema": {"required": ["code"]}}});
db.runCommand({"insert": "gauge", "documents": [{"_id": 1, "code": "x"}, {"_id": 2, "code": "y"}, {"_id": 3, "code": "z"}]});
db.runCommand({"insert": "few", "documents": [{"_id": 1}]});
