package test

import (
	"fmt"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"nexdal/test/server"
)

type ofFirebird struct {
	f    *server.Firebird
	name string
}

func nastyFirebird(t *testing.T, text string) witness {
	f := server.StartFirebird(t)
	w := ofFirebird{f, f.Database(t)}
	path := filepath.Join(t.TempDir(), "nasty.sql")
	write(t, path, strings.ReplaceAll(text, "@database@", f.At(w.name)))
	if out, err := f.File(w.name, path); err != nil || strings.Contains(out, "Statement failed") {
		t.Fatalf("%v: %s", err, out)
	}
	return w
}

func (w ofFirebird) source() string { return w.f.URL(w.name) }

// dump is what the engine's own tool says, comments, which it leaves out of indexes and triggers, and
// the rows, each in the order of its text.
func (w ofFirebird) dump(t *testing.T) string {
	t.Helper()
	var b strings.Builder
	b.WriteString(w.f.Dump(t, w.name))
	for _, of := range []struct{ kind, table, name string }{{"TABLE", "rdb$relations", "rdb$relation_name"}, {"INDEX", "rdb$indices", "rdb$index_name"}, {"TRIGGER", "rdb$triggers", "rdb$trigger_name"}, {"DOMAIN", "rdb$fields", "rdb$field_name"}} {
		b.WriteString("\n" + w.f.Query(t, w.name, fmt.Sprintf("SELECT 'COMMENT ON %s ' || TRIM(x.%s) || ' IS ' || CAST(x.rdb$description AS VARCHAR(200)) FROM %s x WHERE x.rdb$description IS NOT NULL AND x.rdb$system_flag = 0 ORDER BY 1;", of.kind, of.name, of.table)))
	}
	b.WriteString("\n" + w.f.Query(t, w.name, "SELECT 'OWNER ' || TRIM(r.rdb$relation_name) || ' ' || TRIM(r.rdb$owner_name) FROM rdb$relations r WHERE r.rdb$system_flag = 0 ORDER BY 1;"))
	b.WriteString("\n" + sorted(strings.Split(w.f.Query(t, w.name, rowsOfFirebird), "\n"), "\x00"))
	return b.String()
}

// rowsOfFirebird is every row of every table, its columns in their order.
const rowsOfFirebird = `SET TERM ^ ;
EXECUTE BLOCK RETURNS (line VARCHAR(4000) CHARACTER SET UTF8) AS
DECLARE relation VARCHAR(400) CHARACTER SET UTF8;
DECLARE columns VARCHAR(8000) CHARACTER SET UTF8;
DECLARE name VARCHAR(400) CHARACTER SET UTF8;
DECLARE fields VARCHAR(4000) CHARACTER SET UTF8;
BEGIN
  FOR SELECT TRIM(TRAILING FROM r.rdb$relation_name) FROM rdb$relations r WHERE r.rdb$system_flag = 0 AND r.rdb$relation_type = 0 INTO :relation DO
  BEGIN
    columns = '';
    FOR SELECT TRIM(TRAILING FROM c.rdb$field_name) FROM rdb$relation_fields c WHERE c.rdb$relation_name = :relation ORDER BY c.rdb$field_position INTO :name DO
      columns = columns || ' || ''|'' || COALESCE(CAST("' || REPLACE(name, '"', '""') || '" AS VARCHAR(100)), ''~'')';
    FOR EXECUTE STATEMENT 'SELECT ''''' || columns || ' FROM "' || REPLACE(relation, '"', '""') || '"' INTO :fields DO
    BEGIN
      line = relation || fields;
      SUSPEND;
    END
  END
END^
SET TERM ; ^`

func (w ofFirebird) say(role, statement string) error {
	user, password := "SYSDBA", "masterkey"
	if role != "" {
		user, password = role, "right"
	}
	out, err := w.f.TryAs(user, password, w.name, strings.TrimSuffix(statement, ";")+";\nROLLBACK;\n")
	if _, says, failed := strings.Cut(out, "Statement failed"); failed || err != nil {
		return fmt.Errorf("%w: %s", err, says)
	}
	return nil
}

func (w ofFirebird) client(path string) (string, error) { return w.f.File(w.name, path) }

var rightsOfFirebird = regexp.MustCompile(`(?m)^(GRANT|COMMENT ON|OWNER) .*$`)

func (w ofFirebird) rights(dump string) []string { return rightsOfFirebird.FindAllString(dump, -1) }
