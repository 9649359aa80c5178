package report

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/engine"
	"nexdal/internal/rule"
	"nexdal/internal/settings"
	"nexdal/internal/text"
)

// A stated value of a setting, and where it comes from.
type stated struct {
	Rule  string `json:"rule"`
	Table string `json:"table,omitempty"` // a pattern; empty: all
	Name  string `json:"name"`            // "severity", or an option
	Value string `json:"value"`
	From  string `json:"from"`
}

const byItself = "by itself"

// inForce lists what holds: of the rules named all options, of the others what
// was set.
func inForce(s *settings.Settings, rules, only []*rule.Rule) []stated {
	var all []stated
	for _, r := range rules {
		if len(only) > 0 && !slices.Contains(only, r) {
			continue
		}
		names := []string{"severity"}
		for _, o := range r.Options {
			names = append(names, o.Name)
		}
		for _, name := range names {
			value := string(r.Severity)
			if o := r.Option(name); o != nil {
				value = shownValue(o.Default)
			}
			whole := stated{r.ID, "", name, value, byItself}
			var tables []stated
			for _, p := range s.Rules {
				v, set := p.Options[name]
				if name == "severity" {
					v, set = p.Severity, p.Severity != ""
				}
				switch {
				case !set || !r.Is(p.Rule):
				case p.Table == "":
					whole.Value, whole.From = shownValue(v), p.From
				default:
					tables = append(tables, stated{r.ID, p.Table, name, shownValue(v), p.From})
				}
			}
			if whole.From != byItself || len(only) > 0 {
				all = append(all, whole)
			}
			all = append(all, tables...)
		}
	}
	return all
}

func shownValue(v any) string {
	switch v := v.(type) {
	case []string:
		if len(v) == 0 {
			return "none"
		}
		return strings.Join(v, ", ")
	case string:
		if v == "" {
			return "none"
		}
		return v
	case int64:
		return text.Amount(v)
	}
	return fmt.Sprint(v)
}

// Settings shows what is in force.
func (p *Page) Settings(s *settings.Settings, rules, only []*rule.Rule) {
	list := inForce(s, rules, only)
	if len(list) == 0 && len(s.House) == 0 && len(s.Sources) == 0 {
		p.printf("nothing is set: every rule has its own severity and options\n")
		return
	}
	var rows [][]string
	for _, x := range list {
		table := x.Table
		if table == "" {
			table = "all tables"
		}
		rows = append(rows, []string{x.Rule, text.Line(table), x.Name, text.Line(x.Value), p.paint(dim, text.Line(x.From))})
	}
	if len(rows) > 0 {
		p.rows([]string{"rule", "for", "what", "value", "set"}, nil, rows)
	}
	if len(only) > 0 {
		for _, r := range only {
			for _, o := range r.Options {
				p.block("  "+p.paint(dim, o.Name+": "), o.Doc)
			}
		}
		return
	}
	if len(s.House) > 0 {
		p.heading("Rules of the house")
		var rows [][]string
		for _, r := range s.House {
			rows = append(rows, []string{r.ID, string(r.Severity), text.Line(r.Title)})
		}
		p.rows(nil, nil, rows)
	}
	if len(s.Sources) > 0 {
		p.heading("Sources")
		var rows [][]string
		for _, name := range sortedNames(s.Sources) {
			x := s.Sources[name]
			var with []string
			for _, m := range [][2]string{{"schemas", strings.Join(x.Schemas, ", ")}, {"without", strings.Join(x.Without, ", ")}, {"evidence", x.Evidence}, {"baseline", x.Baseline}, {"scratch", engine.Redact(x.Scratch)}} {
				if m[1] != "" {
					with = append(with, m[0]+" "+m[1])
				}
			}
			rows = append(rows, []string{text.Line(name), text.Line(engine.Redact(x.Address)), text.Line(strings.Join(with, "; ")), p.paint(dim, x.From)})
		}
		p.rows(nil, nil, rows)
	}
}

func sortedNames[T any](m map[string]T) []string {
	var names []string
	for name := range m {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// SettingsJSON gives what is in force as a value to encode.
func SettingsJSON(s *settings.Settings, rules, only []*rule.Rule) any {
	type source struct {
		Name     string   `json:"name"`
		Address  string   `json:"address"`
		Schemas  []string `json:"schemas,omitempty"`
		Without  []string `json:"without,omitempty"`
		Evidence string   `json:"evidence,omitempty"`
		Baseline string   `json:"baseline,omitempty"`
		Scratch  string   `json:"scratch,omitempty"`
		From     string   `json:"from"`
	}
	out := struct {
		Format  int      `json:"format"`
		Set     []stated `json:"settings"`
		House   []string `json:"house_rules"`
		Sources []source `json:"sources"`
	}{1, inForce(s, rules, only), []string{}, []source{}}
	if out.Set == nil {
		out.Set = []stated{}
	}
	for _, r := range s.House {
		out.House = append(out.House, r.ID)
	}
	for _, name := range sortedNames(s.Sources) {
		x := s.Sources[name]
		out.Sources = append(out.Sources, source{name, engine.Redact(x.Address), x.Schemas, x.Without, x.Evidence, x.Baseline, engine.Redact(x.Scratch), x.From})
	}
	return out
}
