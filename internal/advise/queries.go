package advise

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
)

var (
	tableWord  = pattern.New(`(?i)\b(?:from|join|,)\s+((?:[a-z_][\w$]*\.)?[a-z_][\w$]*)(?:\s+(?:as\s+)?([a-z_]\w*))?`)
	equalWord  = pattern.New(`(?i)\b([a-z_]\w*)\.([a-z_][\w$]*)\s*=\s*([a-z_]\w*)\.([a-z_][\w$]*)`)
	filterWord = pattern.New(`(?i)\b([a-z_]\w*)\.([a-z_][\w$]*)\s*(?:>=|<=|>|<|=|between\b|in\b)\s*(?:[('\d:$?]|date\b|timestamp\b|getdate\b|current)`)
	timesWord  = pattern.New(`(?i)--\s*times:?\s*(\d+)`)
	plainText  = pattern.New(`(?s)/\*.*?\*/|--[^\n]*`)
)

// Queries reads joins and filters from typical queries, which end in semicolons. A
// comment "-- times 200" within one says how often it is put. What is not understood of
// a query is left out; names without the table's or its alias's are.
func Queries(c *catalog.Catalog, text string) (joins []Join, filters []Filter) {
	byName := map[string]catalog.Ref{}
	for _, t := range c.Tables() {
		byName[strings.ToLower(t.Name)] = t.Ref()
		byName[strings.ToLower(t.Schema+"."+t.Name)] = t.Ref()
	}
	for _, q := range strings.Split(text, ";") {
		weight := 1.0
		if m := timesWord.FindStringSubmatch(q); m != nil {
			weight = 0
			for _, d := range m[1] {
				weight = 10*weight + float64(d-'0')
			}
		}
		q = plainText.ReplaceAllString(q, " ")
		alias := map[string]catalog.Ref{}
		for _, m := range tableWord.FindAllStringSubmatch(q, -1) {
			ref, ok := byName[strings.ToLower(m[1])]
			if !ok {
				continue
			}
			_, last, _ := strings.Cut("."+m[1], ".")
			if i := strings.LastIndexByte(last, '.'); i >= 0 {
				last = last[i+1:]
			}
			alias[strings.ToLower(last)] = ref
			switch strings.ToLower(m[2]) {
			case "", "on", "where", "join", "left", "right", "inner", "full", "cross", "group", "order", "using", "limit", "having":
			default:
				alias[strings.ToLower(m[2])] = ref
			}
		}
		for _, m := range equalWord.FindAllStringSubmatch(q, -1) {
			from, a := alias[strings.ToLower(m[1])]
			to, b := alias[strings.ToLower(m[3])]
			if a && b {
				joins = append(joins, Join{From: from, To: to, FromColumn: strings.ToLower(m[2]), ToColumn: strings.ToLower(m[4]), Weight: weight})
			}
		}
		for _, m := range filterWord.FindAllStringSubmatch(q, -1) {
			if ref, ok := alias[strings.ToLower(m[1])]; ok {
				filters = append(filters, Filter{ref, strings.ToLower(m[2]), weight})
			}
		}
	}
	return joins, filters
}
