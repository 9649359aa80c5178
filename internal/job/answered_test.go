package job

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"unicode/utf8"

	"nexdal/internal/catalog"
)

// TestAnsweredOf: answers belong to the database that they name, whose name may hold anything.
func TestAnsweredOf(t *testing.T) {
	head := `["15.5", "tide/2026", "2026-03-01T06:00:00Z", "dba"]`
	text := fmt.Sprintf("@nexdal 1 postgres data\n@probe \"ä ß € 水 🌊 \\\\ '\\\"\"\n@ask head\n@row %d %s\n@end head 1\n@done 1\n", utf8.RuneCountInString(head), head)
	file := filepath.Join(t.TempDir(), "data.txt")
	if err := os.WriteFile(file, []byte(text), 0o644); err != nil {
		t.Fatal(err)
	}
	for database, fits := range map[string]bool{"tide/2026": true, "2026": false, "tide": false} {
		c := &catalog.Catalog{Engine: catalog.Engine{Name: "postgres"}, Database: database}
		if _, err := NewAnswered(c, []string{file}); (err == nil) != fits {
			t.Errorf("as answers of %s: %v", database, err)
		}
	}
}
