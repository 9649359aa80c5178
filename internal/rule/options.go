package rule

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// An Option is something about a rule that a house may set otherwise.
type Option struct {
	Name string
	// Default is an int64 (a count, or bytes), a float64 (a share), a string or
	// a []string.
	Default any
	Doc     string   // what it means, with its unit
	Choices []string // of a string or of each string of a list: what it may be; empty: anything
	// Check says what is wrong with a text, or "". Nil: nothing can be.
	Check func(string) string
}

// Option returns the rule's option of that name, or nil.
func (r *Rule) Option(name string) *Option {
	for i := range r.Options {
		if r.Options[i].Name == name {
			return &r.Options[i]
		}
	}
	return nil
}

// Accepts says what is wrong with a value for the option, or "". A whole number
// does where a share is asked for.
func (o *Option) Accepts(value any) string {
	switch o.Default.(type) {
	case int64:
		if n, ok := value.(int64); !ok || n < 0 {
			return "it takes a whole number, 0 or more"
		}
	case float64:
		switch n := value.(type) {
		case int64:
			if n >= 0 {
				return ""
			}
		case float64:
			if n >= 0 {
				return ""
			}
		}
		return "it takes a number, 0 or more"
	case string:
		s, ok := value.(string)
		if !ok {
			return "it takes a text"
		}
		return o.choice(s)
	case []string:
		list, ok := value.([]string)
		if !ok {
			return "it takes a list of texts"
		}
		for _, s := range list {
			if no := o.choice(s); no != "" {
				return no
			}
		}
	}
	return ""
}

func (o *Option) choice(s string) string {
	if o.Check != nil {
		return o.Check(s)
	}
	if len(o.Choices) == 0 || slices.Contains(o.Choices, s) {
		return ""
	}
	return fmt.Sprintf("%q is none of %s", s, strings.Join(o.Choices, ", "))
}

// A Setting is what a house set down about a rule, or about all that a pattern
// fits, for some tables or for all.
type Setting struct {
	Rule     string         // an identifier, or a pattern with * and ?
	Table    string         // a pattern over table or schema.table; empty: all
	Severity Severity       // of every finding; empty: as the rule has it
	Options  map[string]any // values as [Option] takes them
}

// settingsFor picks the settings that bear on a rule, in their order.
func settingsFor(r *Rule, all []Setting) []Setting {
	var mine []Setting
	for _, s := range all {
		if r.Is(s.Rule) {
			mine = append(mine, s)
		}
	}
	return mine
}

// runs reports whether the rule is on for any table.
func runs(r *Rule, mine []Setting) bool {
	on := r.Severity != Off
	for _, s := range mine {
		switch {
		case s.Severity == "":
		case s.Table == "":
			on = s.Severity != Off
		case s.Severity != Off:
			return true
		}
	}
	return on
}

// severity is what the house says of findings at the table: empty where it
// leaves that to the rule.
func (p *Pass) severity(at catalog.Ref) Severity {
	var s Severity
	if p.rule.Severity == Off {
		s = Off
	}
	for _, x := range p.mine {
		if x.Severity != "" && (x.Table == "" || catalog.FitsTable(x.Table, at.Schema, at.Table)) {
			s = x.Severity
		}
	}
	return s
}

// option is the value that holds for the table.
func (p *Pass) option(at catalog.Ref, name string) any {
	o := p.rule.Option(name)
	if o == nil {
		panic(p.rule.ID + " has no option " + name)
	}
	value := o.Default
	for _, s := range p.mine {
		v, ok := s.Options[name]
		if ok && (s.Table == "" || catalog.FitsTable(s.Table, at.Schema, at.Table)) {
			value = v
		}
	}
	return value
}

// IsSet reports whether the house said anything about the rule.
func (p *Pass) IsSet() bool { return len(p.mine) > 0 }

// Count is the value of a whole-number option at the table.
func (p *Pass) Count(t *catalog.Table, name string) int64 {
	return p.option(refOf(t), name).(int64)
}

// Looked reports whether the structure of the table was read from at least as many rows as the option says,
// where nothing declares it.
func (p *Pass) Looked(t *catalog.Table, name string) bool {
	return t.Stats.Looked != nil && *t.Stats.Looked >= p.Count(t, name)
}

// Share is the value of a number option at the table.
func (p *Pass) Share(t *catalog.Table, name string) float64 {
	switch v := p.option(refOf(t), name).(type) {
	case int64:
		return float64(v)
	default:
		return v.(float64)
	}
}

// Word is the value of a text option at the table.
func (p *Pass) Word(t *catalog.Table, name string) string {
	return p.option(refOf(t), name).(string)
}

// Words is the value of a list option at the table.
func (p *Pass) Words(t *catalog.Table, name string) []string {
	return p.option(refOf(t), name).([]string)
}

// refOf names the table; nil is the database as a whole.
func refOf(t *catalog.Table) catalog.Ref {
	if t == nil {
		return catalog.Ref{}
	}
	return t.Ref()
}
