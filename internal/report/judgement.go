package report

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// A Judgement is one source as it was judged, and what goes with it.
type Judgement struct {
	Name    string // as it was called
	Catalog *catalog.Catalog
	Result  rule.Result
	Rules   []*rule.Rule
	Known   int      // findings that the baseline holds already
	Gone    []string // findings of the baseline that are there no more
	Files   Files    // what the judgement rests on besides the source
	Call    Call
	// Failed is why the source was not judged; then there is no catalog.
	Failed string
}

// Files are what a judgement rests on, by their paths; "" where there was none.
type Files struct {
	Settings  string `json:"settings,omitempty"`
	Decisions string `json:"decisions,omitempty"`
	Evidence  string `json:"evidence,omitempty"`
	Baseline  string `json:"baseline,omitempty"`
}

// says names the files for people, or is "".
func (f Files) says() string {
	var parts []string
	for _, x := range [][2]string{{"settings", f.Settings}, {"decisions", f.Decisions}, {"evidence", f.Evidence}, {"baseline", f.Baseline}} {
		if x[1] != "" {
			parts = append(parts, x[0]+" "+text.Line(x[1]))
		}
	}
	if len(parts) == 0 {
		return ""
	}
	return "judged with " + strings.Join(parts, ", ")
}

// Judged are the sources that could be judged.
func Judged(list []Judgement) []Judgement {
	var judged []Judgement
	for _, j := range list {
		if j.Failed == "" {
			judged = append(judged, j)
		}
	}
	return judged
}

// Checks writes the judgements: of several a table with their counts first, then each.
func (p *Page) Checks(list []Judgement, how Telling) {
	if len(list) > 1 {
		p.overview(list)
	}
	for _, j := range Judged(list) {
		if len(list) > 1 {
			p.printf("\n")
		}
		p.findings(j, how)
	}
}

// overview is a line for each source.
func (p *Page) overview(list []Judgement) {
	var rows [][]string
	for _, j := range list {
		if j.Failed != "" {
			rows = append(rows, []string{text.Line(j.Name), "", "", "", "", p.paint(red, "not judged: ") + text.Line(j.Failed)})
			continue
		}
		open := openOnly(j.Result.Findings)
		row := []string{text.Line(j.Name), text.Amount(int64(len(j.Catalog.Tables())))}
		for _, s := range rule.Severities {
			row = append(row, text.Amount(int64(j.Result.Count(s))))
		}
		first := nothing(j.Catalog)
		if len(open) > 0 {
			first = fmt.Sprintf("%s: %s", placeOf(open[0]), messageOf(open[0]))
		}
		rows = append(rows, append(row, first))
	}
	p.rows([]string{"source", "tables", "errors", "warnings", "notices", "first"}, []int{2, 3, 4, 5}, rows)
}
