package sqlserver

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
)

// told answers the questions that it knows by their beginnings, and no other. A dash is a null.
type told map[string][]string

func (a told) Put(_ context.Context, question string) ([]engine.Row, error) {
	var rows []engine.Row
	for begin, lines := range a {
		if !strings.HasPrefix(question, begin) {
			continue
		}
		for _, line := range lines {
			var row engine.Row
			for _, v := range strings.Split(line, "|") {
				if v = strings.TrimSpace(v); v == "-" {
					row = append(row, nil)
				} else {
					row = append(row, &v)
				}
			}
			rows = append(rows, row)
		}
	}
	return rows, nil
}

// TestOwnColumns: what a column rests on and nobody reads whole keeps it from being altered, and is named
// where the structure is written out; a mask is written.
func TestOwnColumns(t *testing.T) {
	column := func(id int, name, kind, more string) string {
		length := map[string]string{"56": "4", "167": "20", "241": "-1"}[kind]
		// ... nullable, identity, sparse, set, rowguid, filestream, hidden, masked, always, seed, increment, last, replication, computed, persisted, default name and text, by system
		return fmt.Sprintf("10 | %d | %s | %s | %s | 0 | 0 | - | 1 | 0 | 0 | 0 | 0 | 0 | 0 | 0 | 0 | - | - | - | 0 | - | 0 | - | - | 0 | %s", id, name, kind, length, more)
	}
	c, err := read(t.Context(), told{
		"SELECT CAST(SERVERPROPERTY":                  {"16.0.1 | Developer | 3 | Saltmere | Latin1_General_100_CS_AS | 160 | 0 | 0 | Microsoft"},
		"SELECT s.schema_id, s.name, p.name AS owner": {"1 | dbo | dbo"},
		"SELECT t.user_type_id":                       {"56 | 4 | int | int | 4 | 10 | 0 | - | 1 | 0 | 0 | 0", "167 | 4 | varchar | varchar | 8000 | 0 | 0 | - | 1 | 0 | 0 | 0", "241 | 4 | xml | xml | -1 | 0 | 0 | - | 1 | 0 | 0 | 0"},
		"SELECT t.object_id, t.schema_id":             {"10 | 1 | keeper | 0 | 0 | 0 | 0 | 0 | 0 | 0 | 0 | dbo | PRIMARY | FG"},
		"SELECT c.object_id, c.column_id": {column(1, "id", "56", "- | - | - | - | -"), column(2, "phone", "167", "partial(1,'x',2) | - | - | - | -"), column(3, "tax_no", "167", "- | DETERMINISTIC | - | - | -"),
			column(4, "postcode", "167", "- | - | five_digits | - | -"), column(5, "country", "167", "- | - | - | home | -"), column(6, "said", "241", "- | - | - | - | words"), column(7, "plain", "167", "- | - | - | - | -")},
	}, time.Time{})
	if err != nil {
		t.Fatal(err)
	}
	keeper := c.Table(catalog.Ref{Schema: "dbo", Table: "keeper"})
	if keeper == nil || len(keeper.Columns) != 7 {
		t.Fatalf("the table is not read: %+v", c.Schemas)
	}
	work, losses := Engine{}.Create(c)
	lost := fmt.Sprint(losses)
	text := fmt.Sprint(work.Steps)
	for name, says := range map[string]string{"phone": "masked by partial(1,'x',2)", "tax_no": "encrypted, deterministic", "postcode": "bound to rule five_digits", "country": "bound to default home", "said": "of XML schema collection words", "plain": "", "id": ""} {
		why := Engine{}.Refuses(c, change.SetNullable{Table: keeper.Ref(), Column: name})
		if want := ""; says != "" {
			want = fmt.Sprintf("keeper.%s is %s", name, says)
			if why != want {
				t.Errorf("%s: %q, want %q", name, why, want)
			}
		} else if why != want {
			t.Errorf("%s: %q", name, why)
		}
		if left := strings.Contains(lost, "dbo."+name+" of keeper"); left != (says != "" && name != "phone") {
			t.Errorf("%s is left out of what is written: %v: %s", name, left, lost)
		}
		if !strings.Contains(text, "\n  "+name+" ") {
			t.Errorf("%s is not written: %s", name, text)
		}
	}
	if mask := "phone varchar(20) MASKED WITH (FUNCTION = 'partial(1,''x'',2)') NULL"; !strings.Contains(text, mask) {
		t.Errorf("%s is not in %s", mask, text)
	}
}
