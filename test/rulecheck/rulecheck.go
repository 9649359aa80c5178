// Package rulecheck is the harness that all rules are tested with: annotated
// SQL scripts, run on the real engines; the findings compared with the
// annotations; then the fix, the reversal, and the engine's own client.
package rulecheck

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/rule/allrules"
	"nexdal/internal/run"
	"nexdal/internal/script"
	"nexdal/internal/settings"
	"nexdal/test/golden"
	"nexdal/test/server"
)

// A database is one throwaway database of an engine.
type database interface {
	address() string
	build(t *testing.T, sql string)                  // with the engine's own client
	client(path string) (string, error)              // runs a script file
	count(t *testing.T, table *catalog.Table) string // rows and a digest of them
}

// Folder runs every script for the rules below a folder, AREA/testdata/RULE/name.sql, on every
// engine that its name allows: name.sql on all, name.sqlite.sql on SQLite alone,
// name.sqlite+postgres.sql on these two. What is for MariaDB is for MySQL as well, unless a
// line "-- not mysql: why" says otherwise.
func Folder(t *testing.T, root string) {
	paths, err := filepath.Glob(filepath.Join(root, "*", "testdata", "*", "*.sql"))
	if more, _ := filepath.Glob(filepath.Join(root, "*", "testdata", "*", "*.js")); err == nil {
		paths = append(paths, more...)
	}
	if err != nil || len(paths) == 0 {
		t.Fatalf("no scripts below %s: %v", root, err)
	}
	for _, path := range paths {
		text, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		folder := filepath.Dir(path)
		own := filepath.Base(filepath.Dir(filepath.Dir(folder))) + "/" + filepath.Base(folder) // the rule that the script is for
		for _, name := range meant(path, string(text)) {
			make := engines[name]
			t.Run(own+"/"+strings.TrimSuffix(filepath.Base(path), filepath.Ext(path))+"/"+name, func(t *testing.T) {
				t.Parallel()
				example, basic := "", strings.HasPrefix(filepath.Base(path), "basic")
				if name != "mysql" && basic && !strings.Contains(string(text), "-- no example") {
					example = filepath.Join(folder, "fixed."+name+filepath.Ext(path))
				}
				check(t, own, string(text), example, basic, make)
			})
		}
	}
}

// meant are the engines that a script is for.
func meant(path, text string) []string {
	parts := strings.Split(filepath.Base(path), ".")
	if parts[0] == "fixed" {
		return nil // what a fix does, for the documentation
	}
	wanted := slices.Clone(ofServers)
	if len(parts) == 3 {
		wanted = strings.Split(parts[1], "+")
		if slices.Contains(wanted, "mariadb") {
			wanted = append(wanted, "mysql")
		}
	}
	return slices.DeleteFunc(wanted, func(name string) bool {
		return engines[name] == nil || strings.Contains(text, "-- not "+name+": ")
	})
}

// check plays one script. Rehearsed is one of each rule on each engine: a twin costs as much as all
// the rest, and the others differ in what the rule sees.
func check(t *testing.T, own, text, example string, rehearsed bool, make func(*testing.T) (engine.Engine, database)) {
	e, db := make(t)
	source := text
	if e.Dialect().SlashComments {
		text = strings.ReplaceAll(text, "// ", "-- ")
	}
	wants, err := parse(text, e.Dialect().Capitals)
	if err != nil {
		t.Fatal(err)
	}
	if why := otherVersion(text, e, db); why != "" {
		t.Skip(why)
	}
	db.build(t, source)
	before := survey(t, e, db)
	can := e.Abilities(before.Engine.Version)
	w := e.(engine.Writer)
	refuse := engine.Offers(w, before)
	j := rule.Checker{Abilities: can, Rules: allrules.Rules(), Proposals: true, Settings: settingsOf(t, text)}
	decisions := &settings.Decisions{}
	if strings.Contains(text, "-- probe") {
		j.Evidence = probe(t, e, db)
	}
	if strings.Contains(text, "-- accept all") {
		decisions.Put(settings.Decision{About: "reference *", Verdict: settings.Accept})
	}
	decisions.Accepted(before, j.Evidence, time.Now())
	findings := rule.Offer(j.Run(t.Context(), before).Findings, refuse)
	for _, f := range findings {
		for _, x := range f.Fixes {
			for _, r := range j.Rules {
				if r.ID == f.Rule && !r.Offers(x.ID) {
					t.Errorf("%s offers the fix %s, and does not list it among its fixes", f.ID(), x.ID)
				}
			}
		}
	}
	for _, wrong := range judge(own, wants, findings) {
		t.Error(wrong)
	}
	if t.Failed() || len(wants) == 0 {
		return
	}
	choose(text, findings)
	healed, err := j.PlanFixes(t.Context(), before, findings, refuse)
	if err != nil {
		t.Fatal(err)
	}
	if len(healed.Plan) == 0 {
		return
	}
	if p, ok := db.(postgresDatabase); ok {
		p.open.anew = slices.ContainsFunc(healed.Plan, func(it change.Item) bool { _, sets := it.Change.(change.SetSetting); return sets })
	}
	pair, err := script.Fix(t.Context(), w, before, j, findings)
	if err != nil {
		t.Fatal(err)
	}
	fix, reversal := pair.Forth, pair.Back
	if example != "" && os.Getenv(server.Programs) == "" { // they show what the installed one is sent
		holdExample(t, example, fix)
	}
	if rehearsed {
		rehearse(t, e, db, before, healed.After, pair)
	}
	rows, was := counts(t, db, before), said(t, db)
	carryOut(t, e, db, fix, "fix")
	after := survey(t, e, db)
	same(t, "what the engine reports and the model", structure(t, after.Comparable()), structure(t, healed.After.Comparable()))
	decisions.Accepted(after, j.Evidence, time.Now())
	if j.Evidence != nil {
		j.Evidence = probe(t, e, db) // the data keeps more now
	}
	comeAndGo(t, text, e.Name(), findings, j.Run(t.Context(), after).Findings)
	if !reversal.Fits(after) {
		t.Error("the reversal does not take the database for the one that its fix leaves")
	}
	still := before.Clone()
	for _, s := range still.Schemas { // one that got another name is looked at once it has its own again
		s.Tables = slices.DeleteFunc(s.Tables, func(t *catalog.Table) bool { return after.Table(t.Ref()) == nil })
	}
	for ref, now := range counts(t, db, still) {
		if strings.Count(now, "\n") != strings.Count(rows[ref], "\n") {
			t.Errorf("%s held %q and after the fix holds %q", ref, rows[ref], now)
		}
	}
	carryOut(t, e, db, reversal, "reversal")
	same(t, "the catalog after the reversal and before the fix", structure(t, survey(t, e, db)), structure(t, back(t, healed, before, can)))
	sameRows(t, db, before, rows)
	if back(t, healed, before, can) == before {
		same(t, "what the system tables say after the reversal and before the fix", said(t, db), was)
	}

	// The same two scripts through the engine's own client.
	if slices.ContainsFunc(healed.Plan, func(it change.Item) bool { return forGood(it.Change, before) }) {
		e, db = make(t)
		db.build(t, source)
	}
	throughClient(t, db, fix, "fix.sql")
	same(t, "the engine's client and nexdal run", structure(t, survey(t, e, db)), structure(t, after))
	throughClient(t, db, reversal, "reversal.sql")
	same(t, "the reversal by the engine's client", structure(t, survey(t, e, db)), structure(t, back(t, healed, before, can)))
}

// said is what the engine's own tables say of the structure, where they can be asked for
// all that they say.
func said(t *testing.T, db database) string {
	switch of := db.(type) {
	case postgresDatabase:
		return of.server.System(t, of.name, true)
	case sqlServerDatabase:
		return of.server.Dump(t, of.name)
	case firebirdDatabase:
		return of.server.Dump(t, of.name)
	case paperDatabase:
		return of.dump(t)
	case documentDatabase:
		return of.s.Dump("saltmere")
	}
	return ""
}

// forGood reports whether a change leaves what its script cannot be carried out on again,
// the reversal notwithstanding.
func forGood(ch change.Change, before *catalog.Catalog) bool {
	switch ch := ch.(type) {
	case change.CompleteIndex:
		return true
	case change.DropIndex:
		x := before.Table(ch.Table).Index(ch.Name)
		return x != nil && x.Invalid
	}
	return false
}

// rehearse carries both scripts out on an empty twin, where one can be made beside
// the database, and holds it to the model.
func rehearse(t *testing.T, e engine.Engine, db database, before, after *catalog.Catalog, pair *script.Pair) {
	t.Helper()
	stage, ok := e.(engine.Rehearser)
	if _, named := e.(mariadb.Engine); !ok || named {
		return // a twin there has the very name of the database
	}
	address := db.address()
	if apart, ok := db.(interface{ empty(*testing.T) string }); ok {
		address = apart.empty(t)
	}
	r, err := run.Rehearse(t.Context(), stage, address, before, pair.Forth, pair.Back, nil)
	if err != nil {
		t.Fatal(err)
	}
	if r.Failed != nil || r.BackFailed != nil {
		t.Fatalf("the rehearsal: %v, %v\n%s", r.Failed, r.BackFailed, pair.Forth.Text(nil))
	}
	if len(r.Losses)+len(r.Mended) > 0 || structure(t, r.Built.Comparable()) != structure(t, named(before.Comparable(), r.Built)) {
		return // not quite a twin
	}
	same(t, "the twin after the script and the model", structure(t, r.After.Comparable()), structure(t, named(after.Comparable(), r.After)))
	same(t, "the twin after the reversal and before the script", structure(t, r.Back.Comparable()), structure(t, named(cmp.Or(pair.Returned, before).Comparable(), r.Back)))
}

// named gives the catalog the name and the settings of the database that it is
// compared with.
func named(c, like *catalog.Catalog) *catalog.Catalog {
	c.Database, c.Settings = like.Database, like.Settings
	return c
}

// own is the name that a test's database has on a server.
var own = regexp.MustCompile("`t[0-9]+`[.]|\\bt[0-9]+[.]")

// holdExample holds what a fix does to what the documentation shows, or writes
// that again.
func holdExample(t *testing.T, path string, fix *script.Script) {
	t.Helper()
	var b strings.Builder
	mark := "--"
	if fix.Dialect.SlashComments {
		mark = "//"
	}
	for i, st := range fix.Steps {
		if i > 0 {
			b.WriteString("\n")
		}
		fmt.Fprintf(&b, "%s %s\n", mark, own.ReplaceAllString(st.Title, ""))
		for _, sql := range st.SQL {
			b.WriteString(own.ReplaceAllString(sql, "") + ";\n")
		}
	}
	golden.Hold(t, path, b.String())
}

// settingsOf reads the settings of a script: a line "-- set RULE OPTION VALUE".
func settingsOf(t *testing.T, text string) []rule.Setting {
	t.Helper()
	var all []rule.Setting
	for _, m := range setLine.FindAllStringSubmatch(text, -1) {
		i := slices.IndexFunc(allrules.Rules(), func(r *rule.Rule) bool { return r.ID == m[1] })
		if i < 0 {
			t.Fatalf("%s: no such rule", m[0])
		}
		s := rule.Setting{Rule: m[1], Options: map[string]any{}}
		switch o := allrules.Rules()[i].Option(m[2]); {
		case m[2] == "severity":
			s.Severity = rule.Severity(m[3])
		case o == nil:
			t.Fatalf("%s: no such option", m[0])
		default:
			if allrules.Rules()[i].Severity == rule.Off {
				s.Severity = rule.Warning
			}
			switch o.Default.(type) {
			case int64:
				n, err := strconv.ParseInt(m[3], 10, 64)
				if err != nil {
					t.Fatal(err)
				}
				s.Options[m[2]] = n
			case float64:
				n, err := strconv.ParseFloat(m[3], 64)
				if err != nil {
					t.Fatal(err)
				}
				s.Options[m[2]] = n
			case []string:
				s.Options[m[2]] = strings.Split(m[3], ", ")
			default:
				s.Options[m[2]] = m[3]
			}
			if no := o.Accepts(s.Options[m[2]]); no != "" {
				t.Fatalf("%s: %s", m[0], no)
			}
		}
		all = append(all, s)
	}
	return all
}

// versions is a line "-- from ENGINE VERSION" or "-- until ENGINE VERSION", major ones.
var versions = regexp.MustCompile(`(?m)^-- (from|until) (\w+) (\d+)$`)

// otherVersion says why a script is not for the version that the server has, or "".
func otherVersion(text string, e engine.Engine, db database) string {
	of, ok := db.(postgresDatabase)
	for _, m := range versions.FindAllStringSubmatch(text, -1) {
		if bound, _ := strconv.Atoi(m[3]); ok && m[2] == e.Name() && (m[1] == "from") != (of.server.Major() >= bound) && !(m[1] == "until" && of.server.Major() == bound) {
			return strings.TrimPrefix(m[0], "-- ")
		}
	}
	return ""
}

// chosen is a line "-- choose RULE FIX": that fix is the one that is taken.
var chosen = regexp.MustCompile(`(?m)^-- choose (\S+) (\S+)$`)

func choose(text string, findings []rule.Finding) {
	for _, m := range chosen.FindAllStringSubmatch(text, -1) {
		for i := range findings {
			f := &findings[i]
			if at := slices.IndexFunc(f.Fixes, func(x rule.Fix) bool { return x.ID == m[2] }); f.Rule == m[1] && at >= 0 {
				x := f.Fixes[at]
				x.Ask = false
				f.Fixes = []rule.Fix{x}
			}
		}
	}
}

var setLine = regexp.MustCompile(`(?m)^-- set (\S+) (\S+) (.*)$`)

// back is what the reversal leads to: the catalog as it was, except for what is not
// taken back on purpose, such as an index that was not valid.
func back(t *testing.T, healed *rule.FixPlan, before *catalog.Catalog, can catalog.Abilities) *catalog.Catalog {
	t.Helper()
	reverse, err := healed.Plan.Reverse(before, can)
	if err != nil {
		t.Fatal(err)
	}
	if !slices.ContainsFunc(reverse, func(it change.Item) bool { _, is := it.Change.(change.NoReversal); return is }) {
		return before
	}
	c := before.Clone()
	for i, it := range healed.Plan {
		if _, is := reverse[len(reverse)-1-i].Change.(change.NoReversal); is {
			if err := it.Apply(c, can); err != nil {
				t.Fatal(err)
			}
		}
	}
	c.Sort()
	return c
}

// probe asks the data, where a script's rules need it.
func probe(t *testing.T, e engine.Engine, db database) *evidence.Evidence {
	t.Helper()
	s, c := surveyed(t, e, db)
	defer s.Close()
	a, err := s.(engine.Prober).Asker(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	found, err := evidence.Discover(context.Background(), []evidence.Asker{a}, c, evidence.Options{KeyColumns: 3, Can: e.Abilities(c.Engine.Version)})
	if err != nil {
		t.Fatal(err)
	}
	found.Probed = c.Surveyed
	return found
}

func survey(t *testing.T, e engine.Engine, db database) *catalog.Catalog {
	t.Helper()
	if of, ok := db.(interface {
		reads(*testing.T, func() engine.Session) engine.Session
	}); ok {
		c, err := of.reads(t, func() engine.Session { return opened(t, e, db) }).Survey(context.Background())
		if err != nil {
			t.Fatal(err)
		}
		return c
	}
	s, c := surveyed(t, e, db)
	s.Close()
	return c
}

func opened(t *testing.T, e engine.Engine, db database) engine.Session {
	t.Helper()
	s, err := e.(engine.Opener).Open(context.Background(), db.address(), engine.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return s
}

// surveyed opens the database and reads its catalog.
func surveyed(t *testing.T, e engine.Engine, db database) (engine.Session, *catalog.Catalog) {
	t.Helper()
	s := opened(t, e, db)
	c, err := s.Survey(context.Background())
	if err != nil {
		s.Close()
		t.Fatal(err)
	}
	return s, c
}

// structure is the survey file without date and figures.
func structure(t *testing.T, c *catalog.Catalog) string {
	t.Helper()
	d := c.Clone()
	d.Surveyed, d.Database = time.Time{}, ""
	d.Settings = slices.DeleteFunc(d.Settings, func(s catalog.Setting) bool { return s.Name == "statistics_since" })
	var b bytes.Buffer
	if err := d.Write(&b, false); err != nil {
		t.Fatal(err)
	}
	return numbered.ReplaceAllString(b.String(), "$1")
}

// numbered are names that Firebird counts throughout a database, and gives anew.
var numbered = regexp.MustCompile(`(RDB\$(?:PRIMARY|FOREIGN|))[0-9]+`)

// carryOut writes the script, reads it back and runs it.
func carryOut(t *testing.T, e engine.Engine, db database, s *script.Script, name string) {
	t.Helper()
	text := s.Text(nil)
	back, err := script.Read(text, e.Dialect())
	if err != nil {
		t.Fatalf("the %s cannot be read back: %v\n%s", name, err, text)
	}
	session, err := e.(engine.Opener).Open(context.Background(), db.address(), engine.Options{Write: true})
	if err != nil {
		t.Fatal(err)
	}
	defer session.Close()
	journal, err := run.OpenJournal(filepath.Join(t.TempDir(), "j"), text, "test")
	if err != nil {
		t.Fatal(err)
	}
	r := &run.Run{Script: back, On: session.(engine.Runner), Journal: journal, From: 1, Step: func(int, *engine.Step, time.Duration) {}}
	if err := r.Preflight(context.Background()); err != nil {
		t.Fatalf("%s: %v", name, err)
	}
	if err := r.Steps(context.Background()); err != nil {
		t.Fatalf("%s: %v\n%s", name, err, text)
	}
}

func throughClient(t *testing.T, db database, s *script.Script, name string) {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(path, []byte(s.Text(nil)), 0o644); err != nil {
		t.Fatal(err)
	}
	if out, err := db.client(path); err != nil {
		t.Fatalf("%s: %v: %s\n%s", name, err, out, s.Text(nil))
	}
}

func counts(t *testing.T, db database, c *catalog.Catalog) map[catalog.Ref]string {
	n := map[catalog.Ref]string{}
	for _, table := range c.Tables() {
		n[table.Ref()] = db.count(t, table)
	}
	return n
}

func sameRows(t *testing.T, db database, c *catalog.Catalog, before map[catalog.Ref]string) {
	t.Helper()
	for ref, now := range counts(t, db, c) {
		if now != before[ref] {
			t.Errorf("%s held %s and holds %s", ref, before[ref], now)
		}
	}
}

// same compares two texts and shows the first lines that differ.
func same(t *testing.T, what, got, want string) {
	t.Helper()
	if got == want {
		return
	}
	a, b := strings.Split(got, "\n"), strings.Split(want, "\n")
	var diff []string
	for i := 0; i < max(len(a), len(b)) && len(diff) < 12; i++ {
		x, y := "", ""
		if i < len(a) {
			x = a[i]
		}
		if i < len(b) {
			y = b[i]
		}
		if x != y {
			diff = append(diff, fmt.Sprintf("line %d:\n  %s\n  %s", i+1, x, y))
		}
	}
	t.Errorf("%s differ:\n%s", what, strings.Join(diff, "\n"))
}
