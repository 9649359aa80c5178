package key

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// Wide: see its Doc.
var Wide = &rule.Rule{
	ID:       "key/wide",
	Title:    "wide primary key that other tables refer to",
	Severity: rule.Warning,
	Options: []rule.Option{
		{Name: "columns", Default: int64(3), Doc: "columns of a primary key that are not too many"},
		{Name: "bytes", Default: int64(64), Doc: "bytes that are not too wide; a text counts with its bound, one without as 32"},
	},
	Doc: `The primary key has more than three columns, or may well be longer than 64 bytes, and other tables refer to it. Each of them repeats it in every row and in the index of its reference, joins compare it column by column, and when one of its values changes the change runs through all of them.

A text is counted with its bound, one without as 32 bytes. A key that nothing refers to is not reported, however wide, nor is one whose columns are all taken from tables that it refers to.

Leave it alone where the tables that refer to it are small, or the key gives them columns that searches there need.

There is no fix: a number of its own as the key, with the old columns kept unique and the tables that refer re-pointed one by one, is a change that programs take part in.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Whole {
			k := t.PrimaryKey
			if k == nil {
				continue
			}
			referrers := p.Lookup.Referrers(t.Ref())
			if len(referrers) == 0 || !referredTo(p, t, k.Columns) || handedOn(t, k.Columns) {
				continue
			}
			width := widthOf(t, k.Columns)
			if int64(len(k.Columns)) <= p.Count(t, "columns") && width <= p.Count(t, "bytes") {
				continue
			}
			p.Report(rule.Finding{Table: t.Ref(), Object: label(t, k), Columns: k.Columns,
				Message: fmt.Sprintf("the primary key (%s), of about %d bytes, is repeated in every row %s", strings.Join(k.Columns, ", "), width, of(referrers)),
				Advice:  "a number as key, the old columns kept unique, and the references moved one by one"})
		}
	},
}

// of names who refers.
func of(referrers []catalog.Referrer) string {
	if len(referrers) == 1 {
		return "of " + referrers[0].Table.Name + ", which refers to it"
	}
	return "of the tables behind " + phrase.Plural(int64(len(referrers)), "foreign key")
}

// handedOn reports whether every column of the key refers to another table.
func handedOn(t *catalog.Table, columns []string) bool {
	for _, name := range columns {
		if !t.Refers(name) {
			return false
		}
	}
	return true
}

// widthOf guesses the bytes of a key's values.
func widthOf(t *catalog.Table, columns []string) int64 {
	var sum int64
	for _, name := range columns {
		c := t.Column(name)
		if c == nil {
			continue
		}
		switch y := c.Type; y.Family {
		case catalog.Integer, catalog.Float:
			sum += int64(max(8, y.Bits) / 8)
		case catalog.UUID:
			sum += 16
		case catalog.Boolean, catalog.Enum:
			sum++
		case catalog.Text, catalog.Binary:
			switch {
			case y.Length == 0:
				sum += 32
			default:
				sum += int64(y.Length)
			}
		case catalog.Decimal:
			sum += int64(y.Precision+1)/2 + 2
		default:
			sum += 8
		}
	}
	return sum
}
