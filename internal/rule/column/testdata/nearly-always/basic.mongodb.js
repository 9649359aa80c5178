// set column/nearly-always rows 4
// set column/nearly-always share 0.7
// set check/none rows 1000
db.runCommand({"insert": "reading", "documents": [
  {"_id": 1, "level_mm": 12, "quality": 1, "note": "x"},
  {"_id": 2, "level_mm": 12, "quality": 1}, // want: column/nearly-always "quality is missing in 1 of 4 rows" (no fix)
  {"_id": 3, "level_mm": 12, "quality": 1},
  {"_id": 4, "level_mm": 14}
]});
