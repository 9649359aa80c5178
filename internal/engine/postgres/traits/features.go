package traits

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/engine/sqllex"
	"nexdal/internal/pattern"
)

// A feature is something that statements hold and versions before do not take.
type feature struct {
	name  string
	since int
	in    *pattern.Pattern // of the words of a statement, a blank between them; texts are left out
}

// features are told by the release notes
// (https://www.postgresql.org/docs/release/), and tried on each version by the tests.
var features = []feature{
	{"gen_random_uuid", 13, pattern.New(`(?i)\bgen_random_uuid \(`)},
	{"ALTER STATISTICS ... SET STATISTICS", 13, pattern.New(`(?i)\bALTER STATISTICS \S+ (\. \S+ )?SET STATISTICS\b`)},
	{"COMPRESSION", 14, pattern.New(`(?i)\bCOMPRESSION (pglz|lz4|default)\b`)},
	{"BEGIN ATOMIC", 14, pattern.New(`(?i)\bBEGIN ATOMIC\b`)},
	{"MULTIRANGE_TYPE_NAME", 14, pattern.New(`(?i)\bMULTIRANGE_TYPE_NAME\b`)},
	{"statistics on expressions", 14, pattern.New(`(?i)^CREATE STATISTICS \S+ (\. \S+ )?(\([^)]*\) )?ON (\S+ , )*\(`)},
	{"NULLS NOT DISTINCT", 15, pattern.New(`(?i)\bNULLS NOT DISTINCT\b`)},
	{"SET NULL of some columns", 15, pattern.New(`(?i)\bSET (NULL|DEFAULT) \(`)},
	{"security_invoker", 15, pattern.New(`(?i)\bsecurity_invoker\b`)},
	{"NOT VALID for NOT NULL", 18, pattern.New(`(?i)\bADD (CONSTRAINT \S+ )?NOT NULL \S+ (NO INHERIT )?NOT VALID\b`)},
	{"NOT ENFORCED", 18, pattern.New(`(?i)\bNOT ENFORCED\b`)},
	{"WITHOUT OVERLAPS", 18, pattern.New(`(?i)\bWITHOUT OVERLAPS\b`)},
	{"PERIOD", 18, pattern.New(`(?i), PERIOD \S+ \)`)},
	{"GENERATED ... VIRTUAL", 18, pattern.New(`(?i)\) VIRTUAL\b`)},
	{"uuidv7", 18, pattern.New(`(?i)\buuidv[47] \(`)},
}

// Features lists what the version takes and version 12 does not.
func (Traits) Features(version string) []string {
	var names []string
	for _, f := range features {
		if AtLeast(version, f.since) {
			names = append(names, f.name)
		}
	}
	return names
}

// Lacks lists what the statements need and the version does not take.
func (e Traits) Lacks(version string, sql []string) []string {
	var lacking []string
	for _, statement := range sql {
		words := ""
		for _, f := range features {
			if AtLeast(version, f.since) {
				continue
			}
			if words == "" {
				words = wordsOf(e.Dialect(), statement)
			}
			if says := fmt.Sprintf("%s (%d)", f.name, f.since); f.in.MatchString(words) && !slices.Contains(lacking, says) {
				lacking = append(lacking, says)
			}
		}
	}
	return lacking
}

// wordsOf are the words and signs of a statement, a blank between them: what stands in texts
// and comments is none of its words.
func wordsOf(d sqllex.Dialect, statement string) string {
	var b strings.Builder
	d.Each(statement, func(t sqllex.Token) bool {
		switch {
		case t.Blank() || t.Kind == sqllex.String:
			return true
		case t.Kind == sqllex.Quoted:
			b.WriteString(`"name"`)
		default:
			b.WriteString(t.Text)
		}
		b.WriteByte(' ')
		return true
	})
	return b.String()
}
