package traits

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// FourBytes says what information_schema does with them, which is kept in utf8mb3
// (https://mariadb.com/kb/en/unicode/).
const FourBytes = "the server shows characters of four bytes, such as emoji, as ????"

// MergeTable is the kind of what stands for several tables at once.
const MergeTable = "merge table"

// TriggerHead are the words of CREATE TRIGGER up to its body, and where that begins; the
// body is at 0 where they are not found.
func TriggerHead(mode, text string) (head []sqllex.Token, body int) {
	words := DialectIn(mode).Tokens(text)
	for i, k := range words {
		if k.Blank() {
			continue
		}
		if head = append(head, k); len(head) >= 3 && k.Is("row") && head[len(head)-2].Is("each") && head[len(head)-3].Is("for") {
			if i+1 < len(words) {
				i++ // the blank behind it
			}
			return head, words[i].End
		}
	}
	return head, 0
}

// PeriodOf names the columns that say from when to when a row held, where a
// system-versioned table shows them.
func PeriodOf(t *catalog.Table) (start, end string) {
	for _, c := range t.Columns {
		switch c.Generated {
		case "ROW START":
			start = c.Name
		case "ROW END":
			end = c.Name
		}
	}
	return start, end
}

// convertsPartitions: https://mariadb.com/kb/en/alter-table/, CONVERT PARTITION.
func convertsPartitions(version string) bool {
	var major, minor int
	fmt.Sscanf(version, "%d.%d", &major, &minor)
	return major > 10 || major == 10 && minor >= 7
}

// Charset is the first word of a collation's name.
func Charset(t catalog.Type) string {
	name, _, _ := strings.Cut(t.Collation, "_")
	return name
}
