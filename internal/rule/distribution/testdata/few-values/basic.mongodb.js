// probe
// set distribution/few-values rows 2
// set distribution/skewed rows 1000
// set check/none rows 1000
// shard visit kind
db.runCommand({"insert": "visit", "documents": [{"_id": 1, "kind": "a"}, {"_id": 2, "kind": "b"}, {"_id": 3, "kind": "b"}, {"_id": 4, "kind": "a"}]}); // want: distribution/few-values "has 2 values for 3 slices" (no fix)
