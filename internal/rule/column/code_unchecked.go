package column

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/evidence"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var CodeUnchecked = &rule.Rule{
	ID:          "column/code-unchecked",
	Title:       "code column without a CHECK",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Fixes:       []string{"check", "lookup"},
	Needs:       []rule.Need{rule.Evidence},
	GivesWay:    []string{"column/flag-unchecked", "fk/missing", "column/date-in-text"},
	Options: []rule.Option{
		{Name: "values", Default: int64(8), Doc: "different values that a column of codes has at most"},
		{Name: "rows", Default: int64(100), Doc: "rows that a table has at least"},
		{Name: "each", Default: int64(50), Doc: "rows for each value, on average, of a column that only its values tell to be codes"},
	},
	Applies: func(can catalog.Abilities) bool { return can.Condition != nil },
	Doc: `The column holds a few values over and over, and is named like a code (status, type, kind, level and the like), or the values themselves are such: words in small letters or a few capitals, of at least 50 rows each on average. Neither a check nor a foreign key says which values there may be: a slip of the keyboard makes one more. A number counts where its name says that it stands for a thing (status, kind, role), not for how much (level, priority).

It needs the data (nexdal probe, then --evidence) of at least 100 rows in which at most eight values occur.

Leave it alone where values are free and merely happen to be few so far.

The fix is a check for the values that occur; a table of the values with a foreign key is the other, where they come and go. Which values are meant is up to you, so that a script holds either only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		if p.Data == nil {
			n := 0
			for _, t := range p.Roots {
				for _, c := range t.Columns {
					if codeLike(p, t, c) {
						n++
					}
				}
			}
			p.Unasked(n)
			return nil
		}
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				f := p.Data.Column(t, c.Name)
				if f == nil || !codeLike(p, t, c) && !codes(p, t, c, f) || len(f.Values) < 2 || int64(len(f.Values)) > p.Count(t, "values") || f.Filled() < p.Count(t, "rows") || slices.Contains(f.Values, "") {
					continue
				}
				values := slices.Clone(f.Values)
				if c.Type.Family == catalog.Integer {
					slices.SortFunc(values, func(a, b string) int { return cmp.Or(len(a)-len(b), strings.Compare(a, b)) })
				}
				meant := written(p, t, c, values)
				fix := append(amongFix(p, t, c, meant), lookupFix(p, t, c, meant)...)
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name, Certainty: rule.Verified, Fixes: fix,
					Message: fmt.Sprintf("\"%s\" holds %s in %s, and nothing checks it: %s", c.Name, text.Plural(int64(len(f.Values)), "value"), text.Plural(f.Filled(), "row"), strings.Join(values, ", "))})
			}
		}
		return nil
	},
}

// lookupFix makes a table of the values, and lets the column refer to it.
func lookupFix(p *rule.Pass, t *catalog.Table, c *catalog.Column, values []string) []rule.Fix {
	if t.Kind != catalog.Ordinary || t.PartitionOf != nil || len(p.Lookup.Heirs(t.Ref())) > 0 {
		return nil
	}
	name := t.Name + "_" + c.Name
	if p.Names.Taken(t.Schema, name) || p.Abilities.MaxName > 0 && len(name) > p.Abilities.MaxName {
		name = p.Names.Free(t.Schema, "values", t.Name, c.Name)
	}
	p.Names.Take(t.Schema, name)
	key := &catalog.Key{Name: p.Abilities.PrimaryKeyName, Columns: []string{c.Name}}
	if key.Name == "" {
		key.Name = p.Names.Free(t.Schema, "pkey", name)
	}
	col := &catalog.Column{Name: c.Name, Type: c.Type}
	key.Index = key.Name
	lookup := &catalog.Table{Schema: t.Schema, Name: name, Kind: catalog.Ordinary, Collation: t.Collation, Columns: []*catalog.Column{col}}
	action := cmp.Or(p.Abilities.PlainAction, catalog.NoAction)
	f := &catalog.ForeignKey{Name: p.Names.Free(t.Schema, "fkey", t.Name, c.Name), Columns: []string{c.Name}, Target: lookup.Ref(), TargetColumns: []string{c.Name}, OnDelete: action, OnUpdate: action}
	return []rule.Fix{{ID: "lookup", Ask: true, Title: fmt.Sprintf("make a table \"%s\" of the %d values, and let \"%s\" refer to it", name, len(values), c.Name),
		Changes: []change.Change{change.AddLookupTable{Table: lookup, Key: key, Values: values}, change.AddForeignKey{Table: t.Ref(), ForeignKey: f}}}}
}

var codeName = pattern.New(`(?i)(^|_)(status|state|type|kind|class|category|level|priority|severity|mode|role|gender|sex|phase|stage|colou?r|grade|rating|unit|channel|method|result|outcome|reason|condition|currency|language|source|origin|shift|season|quality|code|flag)$|(?-i:(Status|State|Type|Kind|Class|Level|Priority|Mode)$)`)

// numberCode: names of which a number stands for one of a few things, not for how much.
var numberCode = pattern.New(`(?i)(^|_)(status|state|type|kind|class|category|mode|role|gender|sex|phase|stage|outcome|result|reason|method|channel)$|(?-i:(Status|State|Type|Kind|Class|Category|Mode)$)`)

// aCode is a word in small letters, or a few capitals: no name, and no text. Two or three words
// are one beside such: dry ice, steam.
var (
	aCode  = pattern.New(`^([a-z][a-z_-]{1,15}|[A-Z]{1,4})$`)
	phrase = pattern.New(`^[a-z][a-z_-]{1,15}( [a-z][a-z_-]{0,15}){1,2}$`)
)

// codes: a text that by its values holds codes, whatever its name.
func codes(p *rule.Pass, t *catalog.Table, c *catalog.Column, f *evidence.Column) bool {
	return c.Type.Family == catalog.Text && free(p, t, c) && len(f.Values) > 1 && f.Filled() >= p.Count(t, "each")*int64(len(f.Values)) &&
		slices.ContainsFunc(f.Values, aCode.MatchString) && !slices.ContainsFunc(f.Values, func(v string) bool { return !aCode.MatchString(v) && !phrase.MatchString(v) })
}

// codeLike: a text or a small number that is named like a code and that nothing checks.
func codeLike(p *rule.Pass, t *catalog.Table, c *catalog.Column) bool {
	named := c.Type.Family == catalog.Text && p.Matches(codeName, c.Name) || c.Type.Family == catalog.Integer && !strings.HasPrefix(strings.ToLower(c.Type.Native), "bigint") && p.Matches(numberCode, c.Name)
	return named && free(p, t, c)
}

// free reports whether nothing says which values the column may hold.
func free(p *rule.Pass, t *catalog.Table, c *catalog.Column) bool {
	return c.Generated == "" && !part(t, c.Name) && !t.UniqueOn([]string{c.Name}) && !checked(p, t, c.Name) && !refersBy(t, c.Name)
}
