package test

import (
	"fmt"
	"io"
	"net"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync/atomic"
	"testing"

	"go.mongodb.org/mongo-driver/v2/bson"

	standin "nexdal/internal/standin/mongodb"
)

// store starts a simulated server, on which a script was carried out in the database saltmere.
func store(t *testing.T, script string) (*standin.Server, string) {
	t.Helper()
	s, err := standin.Start()
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	if err := s.Script("saltmere", script); err != nil {
		t.Fatal(err)
	}
	return s, s.URL("saltmere")
}

// TestDocuments plays the whole job: what the demo's script answers is gone, the same script by the
// shell alone leads to the same, and the reversal brings back what the server kept.
func TestDocuments(t *testing.T) {
	t.Parallel()
	s, url := store(t, "")
	other, beside := store(t, "")
	folder := t.TempDir()
	out := must(t, folder, "demo", "--engine", "mongodb", "--on", url, "--folder", ".")
	match(t, "the demo", out, `(?s)11 of 11 findings gone\n  new: key/unenforced saltmere.observation validator\nthe structure is the one that was planned`)
	use := []string{"--schema", "saltmere", "--settings", "nexdal.yaml", "--decisions", "decisions.yaml"}
	broken := must(t, folder, append([]string{"check", "saltmere.json", "--fail-on", "never", "--format", "lines", "--evidence", "evidence.json"}, use...)...)
	for _, rule := range strings.Fields("check/none check/violated column/several-types column/list-grows column/date-in-text column/money-approximate fk/missing fk/not-indexed fk/orphaned index/on-nothing index/prefix index/expires-nothing key/undeclared") {
		if !strings.Contains(broken, rule) {
			t.Errorf("the demo does not break %s", rule)
		}
	}
	fixed := s.Dump("saltmere")
	rows := func(s *standin.Server) string {
		var b strings.Builder
		for _, name := range s.Collections("saltmere") {
			fmt.Fprintln(&b, name, s.Documents("saltmere", name))
		}
		return b.String()
	}
	held := rows(s)
	must(t, folder, "run", "fix.reversal.js", "--on", url, "--yes", "--settings", "nexdal.yaml")
	must(t, folder, "survey", url, "-o", "returned.json")
	match(t, "the way back", must(t, folder, "compare", "saltmere.json", "returned.json", "--ignore", "statistics,order"), "no differences")
	if rows(s) != held {
		t.Error("documents were altered")
	}
	// By the shell alone, on another server with the same structure.
	must(t, folder, "script", "create", "saltmere.json", "-o", "create.js")
	must(t, folder, "run", "create.js", "--on", beside, "--yes")
	if got, want := other.Dump("saltmere"), s.Dump("saltmere"); got != want {
		t.Errorf("by the shell and by the program the way back leads to two structures:\n%s\n%s", got, want)
	}
	if err := other.Script("saltmere", read(t, filepath.Join(folder, "fix.js"))); err != nil {
		t.Fatal(err)
	}
	if got := other.Dump("saltmere"); got != fixed {
		t.Errorf("by the shell the script leads to\n%s\nand by the program to\n%s", got, fixed)
	}
}

// nasty is of all that a collection can be made with, and of names that hurt.
const nasty = `db.runCommand({"create":"empty"});
db.runCommand({"create":"empty keys"});
db.runCommand({"createIndexes":"empty keys","indexes":[{"key":{"nothing":1},"name":"nothing_1","unique":true},{"key":{"a":1,"b":-1},"name":"ab","unique":true,"partialFilterExpression":{"a":{"$gt":5}}}]});
db.runCommand({"insert":"gauge","documents":[{"_id":1,"name":"a","note":"x","old":false,"list":[[1,2],[3]],"deep":{"a":{"b":{"c":[{"d":1}]}}}},{"_id":"two","name":"b","old":true,"list":[]},{"_id":{"$oid":"65f000000000000000000001"},"name":null,"deep":null,"old":true,"a.b":1,"$odd":2,"":3,"it's \"q\"\n":4,"x\\y":5}]});
db.runCommand({"createIndexes":"gauge","indexes":[{"key":{"name":"hashed"},"name":"h"},{"key":{"$**":1},"name":"wild"},{"key":{"note":1},"name":"sp","sparse":true,"unique":true},{"key":{"missing":1},"name":"m","unique":true,"sparse":true},{"key":{"at":1},"name":"ttl","expireAfterSeconds":3600},{"key":{"deep.a.b.c.d":1},"name":"deep","hidden":true},{"key":{"name":1},"name":"coll","collation":{"locale":"de","strength":2}},{"key":{"place":"2dsphere","old":-1},"name":"where"}]});
db.runCommand({"createIndexes":"gauge","indexes":[{"key":{"old":1,"note":"text","name":"text"},"name":"txt","weights":{"name":5},"default_language":"german"}]});
db.runCommand({"create":"a.b c","capped":true,"size":4096,"max":10});
db.runCommand({"insert":"a.b c","documents":[{"_id":1,"x":1}]});
db.runCommand({"create":"it's \"q\"\u001b[31m","validator":{"$or":[{"a":{"$exists":true}},{"b":1}]},"validationLevel":"moderate","validationAction":"error"});
db.runCommand({"create":"off","validator":{"a":1},"validationLevel":"off","validationAction":"warn","collation":{"locale":"de"}});
db.runCommand({"create":"series","timeseries":{"timeField":"at","metaField":"gauge"},"expireAfterSeconds":86400});
db.runCommand({"create":"v","viewOn":"gauge","pipeline":[{"$match":{"old":false}}]});`

// TestDocumentsMadeAgain: a structure that is written out makes itself again, as the server keeps it.
func TestDocumentsMadeAgain(t *testing.T) {
	t.Parallel()
	s, url := store(t, nasty)
	folder := t.TempDir()
	match(t, "the survey", nexdal(t, folder, "survey", url, "-o", "s.json").err, `7 tables`)
	must(t, folder, "script", "create", "s.json", "-o", "create.js")
	match(t, "the script", read(t, filepath.Join(folder, "create.js")), `^// Creating script, [^\x1b]*$`)
	made, at := store(t, "")
	must(t, folder, "run", "create.js", "--on", at, "--yes")
	if got, want := made.Dump("saltmere"), s.Dump("saltmere"); got != want {
		t.Errorf("made:\n%s\nfrom:\n%s", got, want)
	}
	match(t, "described", must(t, folder, "describe", "s.json", "gauge"), `(?s)a\\\.b +int .*deep\.a\.b\.c\.d +int +may be null.*list +array<array<int>> .*missing +any +may be null +in 0 %.*txt +text .*\(old, note, name\)`)
	for _, args := range [][]string{{"outline", "s.json"}, {"draw", "s.json", "-o", "d.svg"}, {"report", "s.json", "-o", "r.html"}, {"probe", url, "-o", "e.json"}, {"script", "fix", url, "--proposals", "-o", "fix.js"}} {
		if said := must(t, folder, args...); strings.ContainsRune(said, '\x1b') {
			t.Errorf("%s: an escape sequence of a name comes through: %q", args[0], said)
		}
	}
	match(t, "an index on nothing", must(t, folder, "check", url, "--set", "index/on-nothing.rows=1", "--fail-on", "never", "--format", "lines"), `index/on-nothing.*"ttl" is on "at"`)
}

// TestDocumentFiles: exported documents are a source like a server, whatever their fields are called.
func TestDocumentFiles(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	salt := filepath.Join(folder, "salt")
	if err := os.Mkdir(salt, 0o700); err != nil {
		t.Fatal(err)
	}
	file := func(name string, n int, line func(i int) string) {
		var b strings.Builder
		for i := range n {
			fmt.Fprintln(&b, line(i))
		}
		write(t, filepath.Join(salt, name), b.String())
	}
	oid := func(i int) string { return fmt.Sprintf("65f0000000000000000000%02x", i) }
	file("station.jsonl", 40, func(i int) string { return fmt.Sprintf(`{"_id": {"$oid": "%s"}, "code": "S%02d"}`, oid(i), i) })
	write(t, filepath.Join(salt, "station.indexes.json"), `[{"v": 2, "key": {"_id": 1}, "name": "_id_"}, {"v": 2, "key": {"code": 1}, "name": "code_1", "unique": true}]`)
	var keepers []string
	for i := range 60 {
		keepers = append(keepers, fmt.Sprintf("{\"_id\": %d,\n \"station\": \"%s\",\n \"stations\": [{\"$oid\": \"%s\"}, {\"$oid\": \"%s\"}]}", i, oid(i%40), oid(i%40), oid((i*7+1)%40)))
	}
	write(t, filepath.Join(salt, "keeper.json"), "\ufeff["+strings.Join(keepers, ",\n")+"]\n")
	file("reading.ndjson", 3000, func(i int) string {
		kind := []string{`"kind": "tide", "level_mm": 5, "quality": 1`, `"kind": "wave", "height_m": 1.5, "period_s": 2`, `"kind": "wind", "speed_ms": 2, "direction": 7`}[i%3]
		if i%100 == 0 {
			kind = strings.Replace(kind, `mm": 5`, `mm": "n/a"`, 1)
		}
		return fmt.Sprintf(`{"_id": %d, %s}`, i, kind)
	})
	file("daily.jsonl", 1000, func(i int) string {
		return fmt.Sprintf(`{"_id": %d, "levels": {"2026-01-01x%d": 1}, "a.b": 1, "$odd": 2, "": 3, "it's \"q\"": 4, "x\\y": 5}`, i, i)
	})
	file("shapes.jsonl", 1000, func(i int) string { return fmt.Sprintf(`{"_id": %d, "field_%04d": 1, "kind": "k"}`, i, i) })
	write(t, filepath.Join(salt, "empty.jsonl"), "")
	write(t, filepath.Join(salt, "single.jsonl"), `{"_id": 1, "nothing": null}`)

	said := nexdal(t, folder, "survey", "docs:salt", "-o", "one.json")
	match(t, "the survey", said.err, `(?s)7 tables of salt written.*not read: salt.reading fields that few documents have: 2000 of 3000 documents were looked at: one that fewer than 1 in 666 has`)
	must(t, folder, "survey", "docs:salt", "-o", "two.json")
	match(t, "looked at again", must(t, folder, "compare", "one.json", "two.json"), "no differences")
	match(t, "all of them", must(t, folder, "survey", "docs:salt", "-o", "full.json", "--full")+must(t, folder, "describe", "full.json", "reading"), `(?s)as seen in 3,000 rows\n.*level_mm +int\|string +may be null +in 33 %; int 99 %, string 1 %.*kinds kind +tide: level_mm, quality; wave: height_m, period_s; wind: direction,\s+speed_ms`)
	match(t, "names", must(t, folder, "describe", "one.json", "daily"), `(?s)"" +int\n +3 +\$odd +int\n +4 +a\\\.b +int\n +5 +it's "q" +int\n +6 +levels +object\n +7 +levels\.\* +int .*x\\\\y +int`)
	match(t, "shapes", must(t, folder, "describe", "one.json", "shapes"), `(?s)1,000 rows\n +1 +_id +int +primary key\n +2 +\* +int +may be null\n +3 +kind`)
	match(t, "one document", must(t, folder, "describe", "one.json", "single"), `nothing +null +may be null`)
	match(t, "none", must(t, folder, "describe", "one.json", "empty"), `(?s)as seen in 0 rows\n +1 +_id +any +primary key`)
	match(t, "its indexes", must(t, folder, "describe", "one.json", "station"), `unique +\(code\) +code_1`)
	found := must(t, folder, "probe", "docs:salt", "-o", "e.json")
	for _, says := range []string{`keeper \(station\) +→ station \(_id\) .*all of 60 rows`, `keeper \(stations\) +→ station \(_id\) .*all of 120 rows`} {
		match(t, "references", found, says)
	}
	match(t, "scripts", nexdal(t, folder, "script", "fix", "docs:salt", "--evidence", "e.json", "--proposals", "-o", "fix.js").err, `fix\.js`)
	match(t, "files take no script", nexdal(t, folder, "run", "fix.js", "--on", "docs:salt", "--yes").err, `files`)

	for _, x := range []struct{ name, text, says string }{
		{"broken.jsonl", "{\"_id\": 1}\nnonsense\n", `broken\.jsonl, line 2.*it is no document`},
		{"cut.json", "[{\"_id\": 1}, {\"_id\": 2, \"a\"", `cut\.json, line 1.*it is no document`},
		{"typed.jsonl", `{"_id": {"$oid": "short"}}`, `typed\.jsonl, line 1.*it is no document`},
	} {
		if err := os.Mkdir(filepath.Join(folder, x.name), 0o700); err != nil {
			t.Fatal(err)
		}
		write(t, filepath.Join(folder, x.name, x.name), x.text)
		said := nexdal(t, folder, "survey", "docs:"+x.name)
		if match(t, x.name, said.err, x.says); said.status != 3 {
			t.Errorf("%s: status %d", x.name, said.status)
		}
	}
	write(t, filepath.Join(folder, "broken.jsonl", "broken.jsonl"), "")
	write(t, filepath.Join(folder, "broken.jsonl", "broken.indexes.json"), "{}")
	match(t, "a list of indexes that is none", nexdal(t, folder, "survey", "docs:broken.jsonl").err, `it is no list of indexes; write what getIndexes\(\) shows`)
	if err := os.Mkdir(filepath.Join(folder, "nothing"), 0o700); err != nil {
		t.Fatal(err)
	}
	match(t, "an empty folder", nexdal(t, folder, "survey", "docs:nothing").err, `it holds no \.jsonl, \.ndjson or \.json file`)
	match(t, "no folder", nexdal(t, folder, "survey", "docs:nowhere").err, `name a folder with a file of JSON lines`)
}

// TestSamplesAgree: what is drawn at random differs each time, and what is told of it hardly does.
func TestSamplesAgree(t *testing.T) {
	t.Parallel()
	s, url := store(t, "")
	var docs bson.A
	for i := range 8000 {
		d := bson.D{{Key: "_id", Value: i}, {Key: "level_mm", Value: i % 90}}
		if i%4 == 0 {
			d = append(d, bson.E{Key: "note", Value: "calm"})
		}
		docs = append(docs, d)
	}
	if _, err := s.Run("saltmere", bson.D{{Key: "insert", Value: "reading"}, {Key: "documents", Value: docs}}); err != nil {
		t.Fatal(err)
	}
	folder := t.TempDir()
	must(t, folder, "survey", url, "-o", "one.json")
	must(t, folder, "survey", url, "-o", "two.json")
	match(t, "two samples", must(t, folder, "compare", "one.json", "two.json", "--ignore", "statistics"), "no differences")
	shares := regexp.MustCompile(`note +string +may be null +in (2[1-9]) %`)
	for _, survey := range []string{"one.json", "two.json"} {
		if said := must(t, folder, "describe", survey, "reading"); !shares.MatchString(said) {
			t.Errorf("%s: a field that a quarter has is told otherwise: %s", survey, said)
		}
	}
	// A field that comes is drift.
	if _, err := s.Run("saltmere", bson.D{{Key: "insert", Value: "reading"}, {Key: "documents", Value: bson.A{bson.D{{Key: "_id", Value: 9000}, {Key: "by", Value: "x"}}}}}); err != nil {
		t.Fatal(err)
	}
	must(t, folder, "survey", url, "-o", "three.json", "--full")
	match(t, "drift", nexdal(t, folder, "compare", "one.json", "three.json", "--ignore", "statistics").out, `(?s)added +column +by.*altered +column +level_mm.*null: forbidden → allowed`)
}

// TestValidator: it warns until nothing breaks it, and then it refuses.
func TestValidator(t *testing.T) {
	t.Parallel()
	var lines []string
	for i := range 150 {
		lines = append(lines, fmt.Sprintf(`{"_id": %d, "code": "S%d", "place": {"lat": 54.5}}`, i, i))
	}
	s, url := store(t, `db.runCommand({"insert": "station", "documents": [`+strings.Join(lines, ",")+`]});`)
	folder := t.TempDir()
	put := func(doc bson.D) bool {
		answer, err := s.Run("saltmere", bson.D{{Key: "insert", Value: "station"}, {Key: "documents", Value: bson.A{doc}}})
		return err == nil && !strings.Contains(fmt.Sprint(answer), "writeErrors")
	}
	before := s.Dump("saltmere")
	must(t, folder, "script", "fix", url, "--finding", "check/none saltmere.station validator", "--choose", "warn", "-o", "warn.js")
	must(t, folder, "run", "warn.js", "--on", url, "--yes")
	if !put(bson.D{{Key: "_id", Value: 900}, {Key: "code", Value: 5}}) {
		t.Fatal("a validator that warns refuses a document")
	}
	must(t, folder, "probe", url, "-o", "e.json")
	match(t, "one breaks it", must(t, folder, "check", url, "--evidence", "e.json", "--fail-on", "never", "--format", "lines"), `check/violated.*1 row breaks "validator": _id 900`)
	enforce := []string{"script", "fix", url, "--evidence", "e.json", "--finding", "key/unenforced*", "-o", "enforce.js"}
	match(t, "and so it goes on warning", nexdal(t, folder, enforce...).err, `0 findings answered|answers nothing|fits no finding|no finding`)
	// Written before the document came, the script stops at its pre-flight.
	n, warn := 0, ""
	repaired := func() {
		if _, err := s.Run("saltmere", bson.D{{Key: "drop", Value: "station"}}); err != nil {
			t.Fatal(err)
		}
		if err := s.Script("saltmere", `db.runCommand({"insert": "station", "documents": [`+strings.Join(lines, ",")+`]});`); err != nil {
			t.Fatal(err)
		}
		n++
		warn = fmt.Sprintf("warn%d", n)
		must(t, folder, "script", "fix", url, "--finding", "check/none saltmere.station validator", "--choose", "warn", "-o", warn+".js")
		must(t, folder, "run", warn+".js", "--on", url, "--yes")
	}
	repaired()
	must(t, folder, "probe", url, "-o", "e.json")
	must(t, folder, enforce...)
	if !put(bson.D{{Key: "_id", Value: 900}, {Key: "code", Value: 5}}) {
		t.Fatal("a validator that warns refuses a document")
	}
	said := nexdal(t, folder, "run", "enforce.js", "--on", url, "--yes")
	if match(t, "the pre-flight", said.err+said.out, `documents of saltmere\.station that the validator would refuse`); said.status == 0 {
		t.Error("the run goes on over documents that break the validator")
	}
	match(t, "it still warns", s.Dump("saltmere"), `validationAction.*warn`)
	repaired()
	must(t, folder, "run", "enforce.js", "--on", url, "--yes")
	if put(bson.D{{Key: "_id", Value: 901}, {Key: "code", Value: 5}}) || !put(bson.D{{Key: "_id", Value: 902}, {Key: "code", Value: "S902"}, {Key: "place", Value: bson.D{{Key: "lat", Value: 1}}}}) {
		t.Error("it does not refuse what breaks it alone")
	}
	must(t, folder, "run", "enforce.reversal.js", "--on", url, "--yes")
	must(t, folder, "run", warn+".reversal.js", "--on", url, "--yes")
	if got := s.Dump("saltmere"); got != before {
		t.Errorf("back:\n%s\nbefore:\n%s", got, before)
	}
}

// TestUniqueOfDocuments: documents that stand in the way of a unique index are told before it is built,
// those without the field, too, and values of lists.
func TestUniqueOfDocuments(t *testing.T) {
	t.Parallel()
	for _, x := range []struct{ name, docs, more, says string }{
		{"alike", `{"_id": 1, "code": "A"}, {"_id": 2, "code": "B"}`, `{"_id": 3, "code": "A"}`, `1 row`},
		{"one without", `{"_id": 1, "code": "A"}, {"_id": 2, "code": "B"}`, `{"_id": 3}`, ``},
		{"two without", `{"_id": 1, "code": "A"}, {"_id": 2, "code": "B"}`, `{"_id": 3}, {"_id": 4, "code": null}`, `1 row`},
		{"in lists", `{"_id": 1, "code": ["A", "B"]}, {"_id": 2, "code": ["C"]}`, `{"_id": 3, "code": ["B"]}`, `1 row`},
		{"within a list", `{"_id": 1, "code": ["A", "A"]}, {"_id": 2, "code": ["C"]}`, `{"_id": 3, "code": ["D", "D"]}`, ``},
	} {
		t.Run(x.name, func(t *testing.T) {
			t.Parallel()
			s, url := store(t, `db.runCommand({"insert": "station", "documents": [`+x.docs+`]});`)
			_, at := store(t, `db.runCommand({"insert": "station", "documents": [`+x.docs+`]}); db.runCommand({"createIndexes": "station", "indexes": [{"key": {"code": 1}, "name": "station_code", "unique": true}]});`)
			folder := t.TempDir()
			must(t, folder, "script", "change", url, at, "-o", "change.js")
			before := s.Dump("saltmere")
			if err := s.Script("saltmere", `db.runCommand({"insert": "station", "documents": [`+x.more+`]});`); err != nil {
				t.Fatal(err)
			}
			said := nexdal(t, folder, "run", "change.js", "--on", url, "--yes")
			engine := s.Script("saltmere", `db.runCommand({"createIndexes": "station", "indexes": [{"key": {"code": 1}, "name": "by_hand", "unique": true}]});`)
			if x.says == "" {
				if said.status != 0 || s.Dump("saltmere") == before {
					t.Errorf("it is not built: %s", said.err)
				}
				return
			}
			if engine == nil {
				t.Error("the engine takes what the pre-flight refuses")
			}
			if match(t, "told", said.out+said.err, `values of saltmere\.station \(code\) that occur more than once`); said.status == 0 || s.Dump("saltmere") != before {
				t.Errorf("status %d\n%s", said.status, s.Dump("saltmere"))
			}
		})
	}
}

// TestStoreFaults: a server that is not there, that says no, and that goes away in the middle.
func TestStoreFaults(t *testing.T) {
	t.Parallel()
	var lines []string
	for i := range 3000 {
		lines = append(lines, fmt.Sprintf(`{"_id": %d, "code": "S%d"}`, i, i))
	}
	s, url := store(t, `db.runCommand({"insert": "station", "documents": [`+strings.Join(lines, ",")+`]}); db.runCommand({"insert": "gauge", "documents": [{"_id": 1, "station_id": 1}, {"_id": 2, "station_id": 2}]});`)
	folder := t.TempDir()
	for _, x := range []struct{ source, says string }{
		{"mongodb://127.0.0.1:1", `names? (a|no|the) database|database`},
		{"mongodb://127.0.0.1:1/saltmere?serverSelectionTimeoutMS=100", `cannot be reached: no server answers`},
		{"mongodb://", `.`},
	} {
		said := nexdal(t, folder, "survey", x.source)
		if match(t, x.source, said.err, x.says); said.status < 2 || strings.Contains(said.err, "panic") {
			t.Errorf("%s: status %d: %s", x.source, said.status, said.err)
		}
	}
	said := nexdal(t, folder, "survey", strings.Replace(url, "mongodb://", "mongodb://dba:s3cret@", 1)+"&serverSelectionTimeoutMS=100")
	if said.status < 2 || strings.Contains(said.err+said.out, "s3cret") {
		t.Errorf("a login that is refused: status %d: %s", said.status, said.err)
	}
	match(t, "an empty database", must(t, folder, "outline", s.URL("nothing")), `0 tables|no tables`)

	// What may not be read is told, and the rest is read.
	s.Turn = func(command string, of bson.D) (int32, string) {
		if command == "listIndexes" && of[0].Value == "gauge" {
			return 13, "not authorized on saltmere to execute command"
		}
		return 0, ""
	}
	match(t, "no right", nexdal(t, folder, "survey", url, "-o", "s.json").err, `(?s)2 tables.*not read: saltmere\.gauge indexes: .*not authorized`)
	s.Turn = nil

	// The connection breaks after so many bytes of the answers.
	for _, some := range []int64{2_000, 60_000} {
		at := cutOff(t, url, some)
		said := nexdal(t, folder, "survey", at, "-o", "gone.json")
		if said.status != 3 || strings.Contains(said.err, "panic") {
			t.Errorf("cut off after %d bytes: status %d: %s", some, said.status, said.err)
		}
		if _, err := os.Stat(filepath.Join(folder, "gone.json")); err == nil {
			t.Errorf("cut off after %d bytes: a survey was written", some)
		}
	}
}

// cutOff is an address that leads to another, and is shut once so many bytes came from there.
func cutOff(t *testing.T, url string, some int64) string {
	t.Helper()
	host := regexp.MustCompile(`127\.0\.0\.1:\d+`).FindString(url)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { l.Close() })
	var left atomic.Int64
	left.Store(some)
	go func() {
		for {
			near, err := l.Accept()
			if err != nil {
				return
			}
			far, err := net.Dial("tcp", host)
			if err != nil {
				near.Close()
				return
			}
			go func() { _, _ = io.Copy(far, near); far.Close() }()
			go func() {
				defer near.Close()
				block := make([]byte, 512)
				for {
					n, err := far.Read(block)
					if left.Add(-int64(n)) < 0 {
						l.Close()
						far.Close()
						return
					}
					if _, write := near.Write(block[:n]); err != nil || write != nil {
						return
					}
				}
			}()
		}
	}()
	return strings.Replace(url, host, l.Addr().String(), 1)
}

// TestStoreKnows talks to the simulated server: what it refuses, and by which number
// (https://www.mongodb.com/docs/manual/reference/error-codes/).
func TestStoreKnows(t *testing.T) {
	t.Parallel()
	s, _ := store(t, `db.runCommand({"create": "station", "validator": {"code": {"$type": "string"}}});
db.runCommand({"insert": "station", "documents": [{"_id": 1, "code": "A", "a": [1, 2], "b": [3]}, {"_id": 2, "code": "B"}]});
db.runCommand({"createIndexes": "station", "indexes": [{"key": {"code": 1}, "name": "by_code", "unique": true}]});
db.runCommand({"create": "v", "viewOn": "station", "pipeline": []});`)
	for _, x := range []struct{ command, says string }{
		{`{"create": "station"}`, "already exists"},
		{`{"create": "x", "colour": 1}`, "unknown field"},
		{`{"listIndexes": "nowhere"}`, "ns does not exist"},
		{`{"drop": "nowhere"}`, "ns does not exist"},
		{`{"dropIndexes": "station", "index": "_id_"}`, "cannot drop _id index"},
		{`{"dropIndexes": "station", "index": "nothing"}`, "index not found"},
		{`{"createIndexes": "station", "indexes": [{"key": {}, "name": "x"}]}`, "cannot be empty"},
		{`{"createIndexes": "station", "indexes": [{"key": {"a": 1}}]}`, "required property"},
		{`{"createIndexes": "station", "indexes": [{"key": {"a": 1}, "name": "x", "colour": 1}]}`, "not valid for an index specification"},
		{`{"createIndexes": "station", "indexes": [{"key": {"a": 1}, "name": "by_code"}]}`, "same name as the requested index"},
		{`{"createIndexes": "station", "indexes": [{"key": {"code": 1}, "name": "again", "unique": true}]}`, "already exists with a different name"},
		{`{"createIndexes": "station", "indexes": [{"key": {"a": 1, "b": 1}, "name": "ab"}]}`, "parallel arrays"},
		{`{"createIndexes": "v", "indexes": [{"key": {"a": 1}, "name": "x"}]}`, "is a view"},
		{`{"insert": "v", "documents": [{"_id": 1}]}`, "is a view"},
		{`{"collMod": "station", "colour": 1}`, "unknown field"},
		{`{"collMod": "station", "validator": {"$where": "1"}}`, "is not known"},
		{`{"aggregate": "station", "pipeline": [{"$paint": {}}], "cursor": {}}`, "."},
		{`{"paint": 1}`, "no such command"},
	} {
		var command bson.D
		if err := bson.UnmarshalExtJSON([]byte(x.command), false, &command); err != nil {
			t.Fatal(err)
		}
		if _, err := s.Run("saltmere", command); err == nil {
			t.Errorf("%s is taken", x.command)
		} else {
			match(t, x.command, err.Error(), x.says)
		}
	}
	for doc, says := range map[string]string{`{"_id": 1, "code": "C"}`: "E11000.*_id_", `{"_id": 3, "code": "A"}`: "E11000.*by_code", `{"_id": 3}`: "failed validation", `{"_id": 3, "code": 5}`: "failed validation"} {
		err := s.Script("saltmere", `db.runCommand({"insert": "station", "documents": [`+doc+`]});`)
		if err == nil {
			t.Errorf("%s is taken", doc)
			continue
		}
		match(t, doc, err.Error(), says)
	}
	for _, script := range []string{"db.station.drop()", "db.runCommand({drop: station})", "drop"} {
		if s.Script("saltmere", script) == nil {
			t.Errorf("the shell takes %s", script)
		}
	}
}

// TestNotesOfDocuments: what a validator's schema says of a collection and of its fields, in lists and
// in documents within, is shown as their comments; a report and a comparison know it.
func TestNotesOfDocuments(t *testing.T) {
	t.Parallel()
	s, url := store(t, `db.runCommand({"create": "visit", "validator": {"$jsonSchema": {"description": "who came\nand when", "properties": {
	"crew": {"bsonType": "array", "description": "all aboard", "items": {"bsonType": "object", "properties": {"rank": {"description": "from one up"}}}},
	"ship": {"title": "her name", "properties": {"flag": {"description": "of which state"}, "never": {"description": "nobody has it"}}}, "plain": {"bsonType": "int"}, "odd": 3}}}});
db.runCommand({"insert": "visit", "documents": [{"_id": 1, "crew": [{"rank": 1}], "ship": {"flag": "x"}, "plain": 4}]});
db.runCommand({"create": "bare", "validator": {"plain": {"$gt": 3}}});`)
	folder := t.TempDir()
	told := must(t, folder, "describe", url, "visit")
	for _, note := range []string{"who came", "all aboard", "from one up", "her name", "of which state"} {
		if !strings.Contains(told, note) {
			t.Errorf("describe does not say %q:\n%s", note, told)
		}
	}
	if strings.Contains(told, "nobody has it") {
		t.Errorf("a field that no document has is described:\n%s", told)
	}
	must(t, folder, "survey", url, "-o", "before.json")
	if err := s.Script("saltmere", `db.runCommand({"collMod": "visit", "validator": {"$jsonSchema": {"description": "who came"}}});`); err != nil {
		t.Fatal(err)
	}
	out := nexdal(t, folder, "compare", "before.json", url).out
	match(t, "a note that goes", out, `all aboard`)
	script := must(t, folder, "script", "change", url, "before.json", "-o", "-")
	match(t, "the script", script, `collMod`)
	match(t, "the script", script, `notes stand in the validator, and change with it`)
}

// TestShardKeyKept: the one index that begins with the shard key is not dropped, whoever asks for it;
// beside another that serves as well it may go.
func TestShardKeyKept(t *testing.T) {
	t.Parallel()
	s, url := store(t, `db.runCommand({"insert": "visit", "documents": [{"_id": 1, "port": "a", "day": 1, "ship": "x"}]});
db.runCommand({"createIndexes": "visit", "indexes": [{"key": {"port": 1, "day": 1}, "name": "by_port"}, {"key": {"port": 1}, "name": "port_alone"}, {"key": {"port": 1, "day": 1, "ship": 1}, "name": "sparse", "sparse": true}]});`)
	s.Shards = 2
	s.Shard("saltmere", "visit", bson.D{{Key: "port", Value: 1}, {Key: "day", Value: 1}})
	folder := t.TempDir()
	must(t, folder, "survey", url, "-o", "before.json")
	if text := read(t, filepath.Join(folder, "before.json")); strings.Count(text, "the documents are spread by it") != 1 {
		t.Errorf("not one index is held by the shard key:\n%s", text)
	}
	if err := s.Script("saltmere", `db.runCommand({"dropIndexes": "visit", "index": "by_port"});`); err == nil || !strings.Contains(err.Error(), "shard key") {
		t.Errorf("the server lets the shard key's index go: %v", err)
	}
	goal := strings.NewReplacer(`"name": "by_port"`, `"name": "by_other"`, `{"column": "day"}`, `{"column": "ship"}`).Replace(read(t, filepath.Join(folder, "before.json")))
	write(t, filepath.Join(folder, "goal.json"), goal)
	match(t, "a script that would drop it", must(t, folder, "script", "change", url, "goal.json", "--drops", "-o", "-"), `the documents are spread by it, and by no other index`)
	if err := s.Script("saltmere", `db.runCommand({"createIndexes": "visit", "indexes": [{"key": {"port": 1, "day": -1, "ship": 1}, "name": "wide"}]}); db.runCommand({"dropIndexes": "visit", "index": "by_port"});`); err != nil {
		t.Error(err)
	}
	must(t, folder, "survey", url, "-o", "after.json")
	if text := read(t, filepath.Join(folder, "after.json")); !strings.Contains(text, `"pinned": "the documents are spread by it"`) {
		t.Errorf("the other index is not held now:\n%s", text)
	}
}
