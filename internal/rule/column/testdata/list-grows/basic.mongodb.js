// set column/list-grows values 3
// set check/none rows 1000
db.runCommand({"insert": "gauge", "documents": [
  {"_id": 1, "levels": [1, 2, 3, 4], "marks": [1, 2, 3]}, // want: column/list-grows "a list in levels holds 4 values" (no fix)
  {"_id": 2, "levels": [1], "marks": []}
]});
