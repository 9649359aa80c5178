package report

import (
	"slices"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// The JSON form of a judgement: a contract, numbered by format.
type (
	checksFile struct {
		Format int            `json:"format"`
		Checks []findingsFile `json:"checks"`
		Failed []failedOf     `json:"failed,omitempty"`
	}
	failedOf struct {
		Source string `json:"source"`
		Reason string `json:"reason"`
	}
	findingsFile struct {
		Format   int            `json:"format"`
		Kind     string         `json:"kind"` // always "findings"
		Source   sourceOf       `json:"source"`
		Files    *Files         `json:"files,omitempty"`
		Summary  map[string]int `json:"summary"`
		Findings []findingOf    `json:"findings"`
		Unjudged []unjudgedOf   `json:"unjudged"`
		Known    int            `json:"known,omitempty"` // that the baseline holds
		Gone     []string       `json:"gone,omitempty"`  // of the baseline
		NotRead  []catalog.Gap  `json:"not_read,omitempty"`
	}
	sourceOf struct {
		Engine   string `json:"engine"`
		Version  string `json:"version"`
		Database string `json:"database"`
		Surveyed string `json:"surveyed"`
	}
	findingOf struct {
		Rule     string `json:"rule"`
		Severity string `json:"severity"`
		// Consequence is what comes of it: "fails now", "wrong now", "fails by a date",
		// "unprotected", "slow", "untidy".
		Consequence string      `json:"consequence"`
		By          string      `json:"by,omitempty"` // the day from which it fails, as 2027-03-01
		Schema      string      `json:"schema"`
		Table       string      `json:"table"`
		Object      string      `json:"object"`
		Columns     []string    `json:"columns"`
		Message     string      `json:"message"`
		Certainty   string      `json:"certainty"`
		Fixes       []fixOf     `json:"fixes"`
		Advice      string      `json:"advice,omitempty"`
		Commands    []string    `json:"commands,omitempty"` // that lead on, ready for a shell
		Decision    *decisionOf `json:"decision"`
		Story       string      `json:"story,omitempty"`
		ID          string      `json:"id"`
	}
	decisionOf struct {
		Verdict string `json:"verdict"`
		Fix     string `json:"fix,omitempty"`
		By      string `json:"by"`
		At      string `json:"at"`
		Because string `json:"because,omitempty"`
		Until   string `json:"until,omitempty"`
	}
	fixOf struct {
		ID    string `json:"id"`
		Title string `json:"title"`
		// Ask: a script holds it only once it was chosen.
		Ask bool `json:"ask,omitempty"`
	}
	unjudgedOf struct {
		Rule    string `json:"rule"`
		Needs   string `json:"needs"`
		Command string `json:"command,omitempty"`
		Objects int    `json:"objects"`
		Failed  string `json:"failed,omitempty"`
	}
)

// FindingsJSON gives the judgements as a value to encode: one as it is, several in a list.
func FindingsJSON(list []Judgement) any {
	if len(list) == 1 && list[0].Failed == "" {
		return findingsJSON(list[0])
	}
	out := checksFile{Format: findingsFormat, Checks: []findingsFile{}}
	for _, j := range list {
		if j.Failed != "" {
			out.Failed = append(out.Failed, failedOf{j.Name, j.Failed})
			continue
		}
		out.Checks = append(out.Checks, findingsJSON(j))
	}
	return out
}

// findingsFormat numbers the form.
const findingsFormat = 1

func findingsJSON(j Judgement) findingsFile {
	c, r := j.Catalog, j.Result
	out := findingsFile{Format: findingsFormat, Kind: "findings", Source: sourceJSON(c), Summary: map[string]int{}, Findings: []findingOf{}, Unjudged: []unjudgedOf{}, Known: j.Known, Gone: j.Gone, NotRead: c.Unread()}
	if j.Files != (Files{}) {
		out.Files = &j.Files
	}
	for _, s := range rule.Severities {
		out.Summary[string(s)] = r.Count(s)
	}
	for _, f := range r.Findings {
		if f.SetAside() {
			out.Summary["set_aside"]++
		}
	}
	for _, f := range r.Findings {
		x := findingOf{Rule: f.Rule, Severity: string(f.Severity), Consequence: string(f.Consequence), Schema: f.Table.Schema, Table: f.Table.Table, Object: f.Object,
			Columns: slices.Clone(f.Columns), Message: f.Message, Certainty: string(f.Certainty), Fixes: fixesJSON(f), Advice: f.Advice, Commands: j.Call.Next(f), Story: f.Story, ID: f.ID()}
		if x.Columns == nil {
			x.Columns = []string{}
		}
		if !f.By.IsZero() {
			x.By = f.By.Format(time.DateOnly)
		}
		if f.Decision != nil {
			x.Decision = (*decisionOf)(f.Decision)
		}
		out.Findings = append(out.Findings, x)
	}
	for _, u := range r.Unjudged {
		out.Unjudged = append(out.Unjudged, unjudgedOf(u))
	}
	return out
}

func fixesJSON(f rule.Finding) []fixOf {
	list := []fixOf{}
	for _, x := range f.Fixes {
		list = append(list, fixOf{x.ID, x.Title, x.Ask})
	}
	return list
}

func sourceJSON(c *catalog.Catalog) sourceOf {
	return sourceOf{c.Engine.Name, c.Engine.Version, c.Database, c.Surveyed.UTC().Format("2006-01-02T15:04:05Z")}
}
