package column

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
)

var FlagUnchecked = &rule.Rule{
	ID:          "column/flag-unchecked",
	Title:       "boolean-like column without a CHECK",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Fixes:       []string{"check"},
	Applies:     func(can catalog.Abilities) bool { return can.Condition != nil },
	Needs:       []rule.Need{rule.Evidence},
	Doc: `By its name the column says yes or no; its type takes any letter or number, and no check says which two are meant. Sooner or later there are J and Y, or 2, and each query has its own idea of what is true.

The engine's own type for yes and no, also where it goes by another name, is not reported.

With evidence (nexdal probe, then --evidence) that shows one of the usual pairs of values (0 and 1, Y and N, T and F and the like), the fix is a check for that pair; rows to come are refused where others were meant, so that a script holds it only once it was chosen. Without, there is none.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				if flagLike(p, t, c) && !checked(p, t, c.Name) && !refersBy(t, c.Name) {
					p.Report(flagUnchecked(p, t, c))
				}
			}
		}
		return nil
	},
}

var flagName = pattern.New(`(?i)^(is|has|can|was|were|should|allow|allows|use|uses|needs|requires|show|hide)_[a-z]|(^|_)(flag|yn|yesno|active|enabled|disabled|visible|hidden|locked|archived|published|approved|verified|confirmed|deleted|obsolete|mandatory)$|^(required|optional|paid|sent|read|done|closed)$|(?-i:^(is|has|can)[A-Z])`)

// shortText is a length that the engine does not enforce.
var shortText = pattern.New(`\([1-5]\)$`)

// flagLike: a letter or a small number that is named like a yes or no. Deleted
// and the like are often moments; those are of other types.
func flagLike(p *rule.Pass, t *catalog.Table, c *catalog.Column) bool {
	if !p.Matches(flagName, c.Name) || c.Generated != "" || c.Identity != catalog.NoIdentity || p.Abilities.Flag != nil && p.Abilities.Flag(c.Type) {
		return false
	}
	switch c.Type.Family {
	case catalog.Integer:
		return true
	case catalog.Text:
		return c.Type.Length > 0 && c.Type.Length <= 5 || c.Type.Class != "" && shortText.MatchString(c.Type.Native) || yesOrNo(p, t, c)
	}
	return false
}

// yesOrNo reports whether the data holds nothing but a yes and a no.
func yesOrNo(p *rule.Pass, t *catalog.Table, c *catalog.Column) bool {
	if p.Data == nil {
		return false
	}
	f := p.Data.Column(t, c.Name)
	return f != nil && len(f.Values) == 2 && slices.ContainsFunc(pairs, func(pair []string) bool { return catalog.Within(f.Values, pair) })
}

// checked reports whether a check speaks of the column.
func checked(p *rule.Pass, t *catalog.Table, name string) bool {
	return slices.ContainsFunc(t.Checks, func(k *catalog.Check) bool {
		return k.Column == name || p.Abilities.Reads().Mentions(k.Expression, name)
	})
}

func refersBy(t *catalog.Table, name string) bool {
	return t.Refers(name) || slices.ContainsFunc(t.Accepted, func(f *catalog.ForeignKey) bool { return slices.Contains(f.Columns, name) })
}

// pairs are the ways to say yes and no.
var pairs = [][]string{{"0", "1"}, {"N", "Y"}, {"n", "y"}, {"F", "T"}, {"f", "t"}, {"no", "yes"}, {"N", "J"}, {"n", "j"}, {"-", "+"}}

func flagUnchecked(p *rule.Pass, t *catalog.Table, c *catalog.Column) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name,
		Message: fmt.Sprintf("\"%s\" is a boolean-like column of type %s without a CHECK on its values", c.Name, c.Type.Native)}
	if p.Data != nil {
		if f := p.Data.Column(t, c.Name); f != nil && len(f.Values) > 0 {
			for _, pair := range pairs {
				if !catalog.Within(f.Values, pair) {
					continue
				}
				found.Certainty = rule.Verified
				found.Message += fmt.Sprintf("; all rows hold %s", strings.Join(f.Values, " or "))
				found.Fixes = amongFix(p, t, c, written(p, t, c, pair))
				return found
			}
			if len(f.Values) > 2 {
				found.Certainty = rule.Verified
				found.Message += fmt.Sprintf("; it holds %s", strings.Join(f.Values, ", "))
			}
		}
	}
	found.Advice = "a check for the two values that are meant"
	return found
}

// amongFix is a check that the column holds one of the values. What rows hold so far says
// nothing of those to come: whether it is meant is up to you.
func amongFix(p *rule.Pass, t *catalog.Table, c *catalog.Column, values []string) []rule.Fix {
	if p.Abilities.Condition == nil {
		return nil
	}
	k := &catalog.Check{Name: p.Names.Free(t.Schema, "check", t.Name, c.Name), Expression: p.Abilities.Condition(t, catalog.Condition{Among: &catalog.Among{Column: c.Name, Values: values}})}
	return []rule.Fix{{ID: "check", Title: fmt.Sprintf("check that \"%s\" is one of %s", c.Name, strings.Join(values, ", ")), Ask: true,
		Changes: []change.Change{change.AddCheck{Table: t.Ref(), Check: k}}}}
}

// written adds the values that the column has where nobody gives one, and that programs put there.
func written(p *rule.Pass, t *catalog.Table, c *catalog.Column, values []string) []string {
	reads := p.Abilities.Reads()
	values = slices.Clone(values)
	add := func(v catalog.Constant) {
		if !v.Null && !slices.Contains(values, v.Text) {
			values = append(values, v.Text)
		}
	}
	if v, ok := reads.Constant(c.Default); ok && c.Default != "" {
		add(v)
	}
	for _, w := range reads.Written(p.Catalog.Modules(), t, c) {
		add(w.Value)
	}
	return values
}
