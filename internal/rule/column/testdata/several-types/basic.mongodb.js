// set check/none rows 1000
// Numbers of several kinds compare; texts among numbers do not, nor a value where others have a list.
db.runCommand({"insert": "reading", "documents": [
  {"_id": 1, "level_mm": 12, "weight": 1, "seen_by": [1, 2]}, // want: column/several-types "seen_by is array in 75 %, int in 25 %" (no fix)
  {"_id": 2, "level_mm": "n/a", "weight": 1.5, "seen_by": 3}, // want: column/several-types "level_mm is int in 67 %, string in 33 %" (no fix)
  {"_id": 3, "level_mm": 14, "weight": {"$numberLong": "2"}, "seen_by": [4]},
  {"_id": 4, "level_mm": null, "weight": 2, "seen_by": []}
]});
