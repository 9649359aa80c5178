package test

import (
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"nexdal/test/server"
)

// TestSurveySchema holds surveys of every engine, of structures that have one
// of everything, to the JSON Schema in docs.
func TestSurveySchema(t *testing.T) {
	t.Parallel()
	schema, err := jsonschema.NewCompiler().Compile("../docs/survey.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	folder := t.TempDir()
	p, m := server.StartPostgres(t), server.StartMariaDB(t)
	pg, maria := p.Database(t), m.Database(t)
	for name, load := range map[string]func() (string, error){
		p.URL(pg):    func() (string, error) { return p.File(pg, absolute(t, "testdata/everything.postgres.sql")) },
		m.URL(maria): func() (string, error) { return m.File(maria, absolute(t, "testdata/everything.mariadb.sql")) },
		filepath.Join(folder, "a.db"): func() (string, error) {
			return sqlite(t, filepath.Join(folder, "a.db"), read(t, "../internal/engine/sqlite/testdata/odd.sql")), nil
		},
	} {
		if out, err := load(); err != nil {
			t.Fatalf("%v: %s", err, out)
		}
		text := must(t, folder, "survey", name)
		value, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
		if err != nil {
			t.Fatal(err)
		}
		if err := schema.Validate(value); err != nil {
			t.Errorf("%s: %v", name, err)
		}
		damaged := strings.Replace(text, `"engine"`, `"motor"`, 1)
		if value, err = jsonschema.UnmarshalJSON(strings.NewReader(damaged)); err != nil || schema.Validate(value) == nil {
			t.Errorf("%s: an unknown member is let through (%v)", name, err)
		}
	}
}
