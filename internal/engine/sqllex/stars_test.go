package sqllex

import "testing"

// TestStars: a star asks for all columns where no function has it and nothing is multiplied.
func TestStars(t *testing.T) {
	d := Dialect{DollarStrings: true}
	for text, want := range map[string]bool{
		"SELECT * FROM visit": true, "select v.*, 1 from visit v": true, "SELECT DISTINCT * FROM visit": true, "SELECT 1, * FROM visit": true, "SELECT ALL * FROM visit": true,
		"SELECT count(*) FROM visit": false, "SELECT a * b FROM visit": false, "SELECT (a) * 2": false, "SELECT '*' FROM visit": false, "SELECT /* * */ a": false, "": false,
		"CREATE FUNCTION f() AS $$ SELECT * FROM visit $$": true, "EXECUTE 'SELECT * FROM visit'": true, "SELECT \"*\" FROM visit": false,
	} {
		if got := Stars(d, text); got != want {
			t.Errorf("%s: %v", text, got)
		}
	}
	for text, want := range map[string]bool{
		"SELECT 1 FROM visit": true, "SELECT 1 FROM VISIT": true, `SELECT 1 FROM "visit"`: true, `SELECT 1 FROM "VISIT"`: false, "SELECT 'a visit'": true, "$f$ TABLE visit $f$": true, "SELECT visits": false, "-- visit": false,
	} {
		if got := d.Names(text, "visit"); got != want {
			t.Errorf("%s names it: %v", text, got)
		}
	}
}
