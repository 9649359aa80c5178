package test

import (
	"encoding/json"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/standin/sqlserver"
	"nexdal/test/server"
)

// TestTranslation takes structures with one of everything from each engine to
// each other one: the script loads by that engine's own client, and whatever
// compare finds to differ is among the losses that the script states.
func TestTranslation(t *testing.T) {
	t.Parallel()
	p, m, s := server.StartPostgres(t), server.StartMariaDB(t), server.StartSQLServer(t, sqlserver.Developer)
	engines := map[string]databases{"postgres": postgresDatabases{p}, "mariadb": mariaDatabases{m}, "sqlite": &sqliteDatabases{}, "sqlserver": sqlServerDatabases{s}, "oracle": oracleDatabases{}, "firebird": firebirdDatabases{server.StartFirebird(t)}}
	scripts := map[string][]string{
		"postgres":  {"testdata/everything.postgres.sql"},
		"mariadb":   {"testdata/everything.mariadb.sql", "../demo/mariadb.sql"},
		"sqlite":    {"../internal/engine/sqlite/testdata/odd.sql", "../demo/sqlite.sql"},
		"sqlserver": {"testdata/everything.sqlserver.sql"},
		"firebird":  {"testdata/everything.firebird.sql"},
		"oracle":    {"testdata/everything.oracle.sql", "../demo/oracle.sql"},
	}
	for from, list := range scripts {
		for _, path := range list {
			for to := range engines {
				if from == to {
					continue
				}
				t.Run(from+" to "+to+"/"+filepath.Base(path), func(t *testing.T) {
					t.Parallel()
					folder := t.TempDir()
					name, source := engines[from].make(t)
					engines[from].load(t, name, absolute(t, path))
					var without []string
					ignore := "name"
					if to == "oracle" && path == "testdata/everything.postgres.sql" { // a table's columns differ in capitals alone, which the stand-in has not
						without, ignore = []string{"--without", "sixty-three*"}, "name,*.sixty-three*"
					}
					must(t, folder, append([]string{"script", "create", source, "--for", to, "-o", "create.sql"}, without...)...)
					copied, target := engines[to].make(t)
					engines[to].load(t, copied, filepath.Join(folder, "create.sql"))
					stated(t, read(t, filepath.Join(folder, "create.sql")), nexdal(t, folder, "compare", source, target, "--ignore", ignore, "--format", "json").out)
				})
			}
		}
	}
}

// unquoted leaves out how an engine writes names and brackets.
var unquoted = strings.NewReplacer("[", "", "]", "", "\"", "", "`", "", "(", "", ")", "")

// stated expects each difference to be named in the losses at the script's end.
func stated(t *testing.T, script, compared string) {
	t.Helper()
	_, losses, _ := strings.Cut(script, "-- Not as it was:")
	// Some engines write names in small letters, and some in capitals.
	losses = strings.ToLower(strings.Join(strings.Fields(regexp.MustCompile(`(?m)^--`).ReplaceAllString(losses, "")), " "))
	var found struct {
		Differences []struct {
			Kind, Object, Schema, Table, Name string
			What                              []struct{ Property, From, To string }
		}
	}
	if err := json.Unmarshal([]byte(compared), &found); err != nil {
		t.Fatalf("%v: %s", err, compared)
	}
	said := func(words ...string) bool {
		for _, w := range words {
			plain := strings.ToLower(strings.Join(strings.Fields(w), " "))
			if shown := strings.ToLower(strings.ReplaceAll(w, "\n", `\n`)); !strings.Contains(losses, plain) && !strings.Contains(losses, shown) {
				return false
			}
		}
		return true
	}
	for _, d := range found.Differences {
		what, _ := json.Marshal(d)
		switch {
		case d.Object == "schema": // their names are each engine's own
		case d.Kind == "added" && d.Object != "column": // what comes instead of what is lost
		case d.Object == "sequence" && said("sequence main."+d.Name, "has no like"):
		case d.Object == "sequence" && !strings.Contains(script, "CREATE SEQUENCE"): // the columns that it fed are named
			if !said("no longer numbered") && !strings.Contains(d.Name, "id_seq") {
				t.Errorf("not stated: %s", what)
			}
		case d.Object == "index" && len(d.What) == 1 && d.What[0].Property == "only rows" && unquoted.Replace(d.What[0].From) == unquoted.Replace(d.What[0].To):
		case d.Object == "foreign key" && len(d.What) == 1 && d.What[0].Property == "refers to" && said(strings.Split(d.What[0].From, " (")[0]+": is called"): // what it refers to got another name
		case d.Object == "foreign key" && onlyPlain(d.What) && said("says NO ACTION"):
		case d.Object == "sequence":
		case (d.Object == "column" || d.Object == "index" || d.Object == "unique key") && len(d.What) == 1 && lengthOnly(d.What[0].From, d.What[0].To) && (said("holds no value to them") || said("nothing held values to them")):
		case d.Object == "table" && d.Kind == "removed" && regexp.MustCompile(`(?i)CREATE TABLE [^(]*`+regexp.QuoteMeta(d.Name)).MatchString(script): // in another schema
		case !said(d.Name) && !said(d.Table):
			t.Errorf("not stated: %s\nof %s", what, losses)
		}
	}
}

// onlyPlain: all that differs is that RESTRICT became NO ACTION.
func onlyPlain(what []struct{ Property, From, To string }) bool {
	return !slices.ContainsFunc(what, func(p struct{ Property, From, To string }) bool { return p.From != "restrict" || p.To != "no action" })
}

// lengthOnly: the two types differ in what SQLite does not ask for.
func lengthOnly(from, to string) bool {
	family := func(s string) string { s, _, _ = strings.Cut(s, "("); return s }
	return family(from) == family(to)
}
