package sqllex

import "testing"

// TestWholes: which statements rest on how many columns "visit" has.
func TestWholes(t *testing.T) {
	postgres, other := Dialect{DollarStrings: true, Small: true}, Dialect{CountsInto: true, Backquotes: true}
	for _, x := range []struct {
		text                 string
		plain, returns, into bool // whether one does: at all, of a routine that returns rows, where INTO counts
	}{
		{"INSERT INTO kept SELECT * FROM visit", true, true, true},
		{"INSERT INTO kept (a, b) SELECT * FROM visit", true, true, true},
		{"INSERT INTO kept TABLE visit", true, true, true},
		{"INSERT INTO kept SELECT v.* FROM ship s JOIN visit AS v ON true", true, true, true},
		{"INSERT INTO kept SELECT s.* FROM ship s JOIN visit v ON true", false, false, false},
		{"INSERT INTO kept SELECT s.* FROM (SELECT * FROM visit) s", true, true, true},
		{"INSERT INTO kept SELECT d.* FROM (TABLE visit) AS d, ship", true, true, true},
		{"WITH gone AS (DELETE FROM visit RETURNING *) INSERT INTO kept SELECT gone.* FROM gone", true, true, true},
		{"INSERT INTO kept SELECT a FROM visit WHERE EXISTS (SELECT * FROM ship)", false, false, false},
		{"INSERT INTO kept (a) SELECT count(*) FROM visit", false, false, false},
		{"INSERT INTO kept (a) SELECT a * 2 FROM visit", false, false, false},
		{"REPLACE INTO kept SELECT * FROM visit", true, true, true},
		{"SELECT * FROM visit EXCEPT SELECT * FROM kept", true, true, true},
		{"SELECT 1, * FROM ship UNION ALL SELECT 2, v.* FROM visit v", true, true, true},
		{"SELECT a FROM ship WHERE b IN (SELECT * FROM visit)", true, true, true},
		{"SELECT a FROM ship WHERE b = (SELECT DISTINCT visit.* FROM visit)", true, true, true},
		{"SELECT a FROM ship WHERE b = ANY (TABLE visit)", true, true, true},
		{"SELECT a FROM ship WHERE EXISTS (SELECT * FROM visit)", false, false, false},
		{"SELECT * FROM visit", false, true, false},
		{"SELECT a FROM visit", false, false, false},
		{"SELECT * FROM \"visit\"", false, true, false},
		{"SELECT * FROM VISIT", false, true, false},
		{"SELECT * FROM visits", false, false, false},
		{"BEGIN RETURN QUERY SELECT * FROM visit; END", false, true, false},
		{"BEGIN RETURN QUERY SELECT a FROM ship; PERFORM * FROM visit; END", false, false, false},
		{"BEGIN FOR r IN SELECT * FROM visit LOOP RETURN NEXT r; END LOOP; END", false, true, false},
		{"BEGIN FOR r IN SELECT * FROM visit LOOP a := r.a; RETURN NEXT; END LOOP; END", false, false, false},
		{"BEGIN SELECT * INTO r FROM visit; RETURN r; END", false, true, true},
		{"BEGIN SELECT * INTO a, b FROM visit; END", false, true, true},
		{"DECLARE c CURSOR FOR SELECT * FROM visit; BEGIN FETCH c INTO a, b; END", false, true, true},
		{"BEGIN EXECUTE 'INSERT INTO kept SELECT * FROM visit'; END", true, true, true},
		{"CREATE FUNCTION f() RETURNS TABLE (a int) AS $$ SELECT * FROM visit $$", false, true, false},
		{"CREATE TABLE visit (a int); DROP TABLE visit; LOCK TABLE visit; TRUNCATE TABLE visit; CREATE TEMP TABLE visit (a int); GRANT SELECT ON TABLE visit TO a", false, false, false},
		{"INSERT INTO ship SELECT a FROM b; SELECT * INTO r FROM visit", false, true, true},
		{"-- INSERT INTO kept SELECT * FROM visit", false, false, false},
		{"", false, false, false},
	} {
		for _, c := range []struct {
			d       Dialect
			returns bool
			want    bool
		}{{postgres, false, x.plain}, {postgres, true, x.returns}, {other, false, x.into}} {
			found := false
			for _, w := range Wholes(c.d, x.text, c.returns) {
				found = found || w.Of("visit")
				if counts := !c.returns || x.plain; w.Of("visit") && w.Returned == counts {
					t.Errorf("%s: rests on them as what it returns alone: %v", x.text, w.Returned)
				}
			}
			if found != c.want {
				t.Errorf("%s, of a routine that returns rows %v, INTO counts %v: %v", x.text, c.returns, c.d.CountsInto, found)
			}
		}
	}
	for text, want := range map[string]bool{
		"INSERT INTO a SELECT 'D', OLD.*": true, "$f$ INSERT INTO a VALUES (new . *) $f$": true, "INSERT INTO a SELECT old.a * 2": false, "INSERT INTO a SELECT o.* FROM o": false,
		"INSERT INTO a SELECT (NEW).*": true, "SELECT to_jsonb(NEW.*)": false, "IF NEW.* IS DISTINCT FROM OLD.* THEN RETURN NEW; END IF": false,
		"EXECUTE 'INSERT INTO a SELECT $1.*' USING NEW": true, "BEGIN a := NEW.*; INSERT INTO b VALUES (1)": false,
	} {
		row := false
		for _, w := range Wholes(postgres, text, false) {
			row = row || w.Row
		}
		if row != want {
			t.Errorf("%s takes the row: %v", text, row)
		}
	}
}
