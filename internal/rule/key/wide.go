package key

import (
	"cmp"
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Wide = &rule.Rule{
	ID:          "key/wide",
	Title:       "wide primary key that other tables refer to",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"number"},
	Options: []rule.Option{
		{Name: "columns", Default: int64(3), Doc: "columns of a primary key that are not too many"},
		{Name: "bytes", Default: int64(64), Doc: "bytes that are not too wide; a text counts with its bound, one without as 32"},
	},
	Doc: `The primary key has more than three columns, or may well be longer than 64 bytes, and other tables refer to it. Each of them repeats it in every row and in the index of its reference, joins compare it column by column, and when one of its values changes the change runs through all of them.

A text is counted with its bound, one without as 32 bytes. A key that nothing refers to is not reported, however wide, nor is one whose columns are all taken from tables that it refers to.

Leave it alone where the tables that refer to it are small, or the key gives them columns that searches there need.

The fix is a change that programs take part in, and so has to be chosen. The table gets a number of its own as its key, and the old columns stay unique. Each table that refers gets a column for the number, filled by the reference that is there, with an index and a foreign key; the old reference stays in force, on the unique columns, so that nothing that holds today ceases to hold. Programs then write and join by the number; once they all do, its column can be made NOT NULL and the old columns dropped, which no script of ours does by itself. Where a table refers twice, or is partitioned, you have to name the columns.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			k := t.PrimaryKey
			if k == nil || k.WithoutOverlaps {
				continue
			}
			referrers := p.Lookup.Referrers(t.Ref())
			if len(referrers) == 0 || !referredTo(p, t, k, false) || handedOn(t, k.Columns) {
				continue
			}
			width := widthOf(t, k.Columns)
			if int64(len(k.Columns)) <= p.Count(t, "columns") && width <= p.Count(t, "bytes") {
				continue
			}
			found := rule.Finding{Table: t.Ref(), Object: label(t, k), Columns: k.Columns,
				Message: fmt.Sprintf("the primary key (%s), of about %d bytes, is repeated in every row %s", strings.Join(k.Columns, ", "), width, of(referrers))}
			if changes, why := narrower(p, t, referrers); why == "" {
				found.Fixes = []rule.Fix{{ID: "number", Title: "add a generated key, keep the old columns unique, and add the new key to the tables that refer to it", Ask: true, Changes: changes}}
			} else {
				found.Advice = "a number as key, the old columns kept unique, and the references moved one by one; not scripted: " + why
			}
			p.Report(found)
		}
		return nil
	},
}

// narrower makes a number the key, and adds it to the tables that refer; or says why
// that is left to you.
func narrower(p *rule.Pass, t *catalog.Table, referrers []catalog.Referrer) (changes []change.Change, why string) {
	if !numberable(p, t) {
		return nil, t.Name + " does not stand by itself"
	}
	key := numbered(p, t)
	changes = append(changes, key)
	seen := map[catalog.Ref]bool{}
	for _, r := range referrers {
		child, old := r.Table, r.ForeignKey
		name := key.Column.Name
		if strings.EqualFold(name, "id") {
			name = catalog.InCaseOf(t.Name+"_id", t.Name)
		}
		switch {
		case !catalog.SameColumns(old.TargetColumns, t.PrimaryKey.Columns):
			continue // it refers to another key
		case !numberable(p, child):
			return nil, child.Name + ", which refers to it, does not stand by itself"
		case seen[child.Ref()]:
			return nil, child.Name + " refers to it more than once"
		case child.Column(name) != nil || child == t:
			return nil, fmt.Sprintf("\"%s\" has a column \"%s\", or refers to itself", child.Name, name)
		case old.NotValidated || old.Disabled:
			return nil, "foreign key " + old.Label() + " is not in force"
		}
		seen[child.Ref()] = true
		column := &catalog.Column{Name: name, Type: p.Abilities.AddedKeyType, Nullable: true}
		f := &catalog.ForeignKey{Name: p.Names.Free(child.Schema, "fkey", child.Name, name), Columns: []string{name}, Target: t.Ref(), TargetColumns: key.Key.Columns,
			OnDelete: old.OnDelete, OnUpdate: cmp.Or(p.Abilities.PlainAction, catalog.NoAction)}
		index := &catalog.Index{Name: p.Names.Free(child.Schema, "idx", child.Name, name), Origin: catalog.ByPerson, Method: "btree", Parts: []catalog.IndexPart{{Column: name}}}
		changes = append(changes, change.AddColumn{Table: child.Ref(), Column: column}, change.BackfillColumn{Table: child.Ref(), Column: name, Via: old, From: key.Column.Name})
		if !p.Abilities.ReferencesBuild {
			changes = append(changes, change.CreateIndex{Table: child.Ref(), Index: index})
		}
		changes = append(changes, change.AddForeignKey{Table: child.Ref(), ForeignKey: f})
	}
	return changes, ""
}

// of names who refers.
func of(referrers []catalog.Referrer) string {
	if len(referrers) == 1 {
		return "of " + referrers[0].Table.Name + ", which refers to it"
	}
	return "of the tables behind " + text.Plural(int64(len(referrers)), "foreign key")
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
