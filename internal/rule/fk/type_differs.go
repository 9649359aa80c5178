package fk

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
)

var TypeDiffers = &rule.Rule{
	ID:          "fk/type-differs",
	Title:       "referring column of another type than the key",
	Severity:    rule.Error,
	Consequence: rule.Slow,
	Fixes:       []string{"type"},
	Doc: `A column of a foreign key and the column that it refers to differ in type, length, precision, sign or collation.

A referring column that is too small will refuse valid keys one day. One of another kind is compared only after a conversion: indexes go unused, and values that look different can count as equal, or the other way round. Where the engine compares by storage class and not by declared type, only the class and the collation are judged.

A referring column that holds every value of the key and more does no harm; it is reported as a notice.

Leave it alone where the larger type is on purpose, because the key will be widened soon.

The fix gives the referring column the key's type, and with it the columns that refer to the referring column in turn. A pre-flight query looks for values that would not survive. It is not offered where something else leans on the column (a view, a policy, a partition key), or where the column refers to two keys of different types.`,
	Check: checkTypeDiffers,
}

func checkTypeDiffers(p *rule.Pass) error {
	for _, t := range p.Owned {
		for _, f := range t.ForeignKeys {
			target := p.Lookup.Table(f.Target)
			if f.Inherited || target == nil || len(f.Columns) != len(f.TargetColumns) {
				continue
			}
			for i, name := range f.Columns {
				child, parent := t.Column(name), target.Column(f.TargetColumns[i])
				if child == nil || parent == nil {
					continue
				}
				gap, words := child.Type.GapTo(parent.Type)
				if gap == catalog.TypesAgree {
					continue
				}
				p.Report(typeDiffers(p, t, f, child, parent, gap, words))
			}
		}
	}
	return nil
}

func typeDiffers(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey, child, parent *catalog.Column, gap catalog.TypeGap, words string) rule.Finding {
	found := rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: []string{child.Name}}
	if len(f.Columns) > 1 {
		found.Part = child.Name
	}
	pair := fmt.Sprintf("\"%s\" refers to \"%s.%s\" with another type (%s)", child.Name, p.Called(f.Target), parent.Name, words)
	switch gap {
	case catalog.TypeTooSmall:
		found.Consequence = rule.FailsByDate // once the keys grow past it
		found.Message = pair + ": it cannot hold every key"
	case catalog.TypeLooser:
		found.Severity = rule.Notice
		found.Message = pair + ": it holds values that no key can have"
	default:
		found.Message = pair + ": every comparison needs a conversion"
	}
	changes, refused := retype(p, t, child, parent.Type)
	if refused != "" {
		found.Advice = "not scripted: " + refused
		return found
	}
	found.Fixes = []rule.Fix{{ID: "type", Title: fmt.Sprintf("give \"%s\" the type of \"%s.%s\"", child.Name, p.Called(f.Target), parent.Name), Changes: changes}}
	return found
}

// retype gives a column and all that refer to it, step by step, the type. It
// says why where one of them cannot have it.
func retype(p *rule.Pass, t *catalog.Table, col *catalog.Column, to catalog.Type) (changes []change.Change, refused string) {
	type at struct {
		t   *catalog.Table
		col *catalog.Column
	}
	seen := map[*catalog.Column]bool{}
	for todo := []at{{t, col}}; len(todo) > 0; todo = todo[1:] {
		here := todo[0]
		if seen[here.col] {
			continue
		}
		seen[here.col] = true
		if why := bound(p, here.t, here.col, to, seen); why != "" {
			return nil, why
		}
		if here.col.Type != to {
			changes = append(changes, change.AlterType{Table: here.t.Ref(), Column: here.col.Name, From: here.col.Type, To: to})
		}
		for _, r := range p.Lookup.Referrers(here.t.Ref()) {
			i := slices.Index(r.ForeignKey.TargetColumns, here.col.Name)
			if i < 0 || r.ForeignKey.Inherited || i >= len(r.ForeignKey.Columns) {
				continue
			}
			if next := r.Table.Column(r.ForeignKey.Columns[i]); next != nil {
				todo = append(todo, at{r.Table, next})
			}
		}
	}
	return changes, ""
}

// bound says why the column's type is not free to become to, or "". The
// columns that change along with it are left aside.
func bound(p *rule.Pass, t *catalog.Table, col *catalog.Column, to catalog.Type, along map[*catalog.Column]bool) string {
	where := t.Name + "." + col.Name
	switch {
	case !t.IsOwn():
		return fmt.Sprintf("\"%s\" is not an ordinary table", t.Name)
	case col.Inherited || t.PartitionOf != nil:
		return fmt.Sprintf("\"%s\" comes from a parent table, where its type must be changed", where)
	case col.Generated != "":
		return fmt.Sprintf("\"%s\" is a generated column", where)
	case t.PartitionBy != nil && (slices.Contains(t.PartitionBy.Columns, col.Name) || len(t.PartitionBy.Columns) == 0):
		return fmt.Sprintf("\"%s\" is partitioned by it", t.Name)
	case col.Identity != catalog.NoIdentity && to.Family != catalog.Integer:
		return fmt.Sprintf("\"%s\" is numbered by the engine and must stay an integer", where)
	}
	for _, d := range t.DependantsOn(col.Name) {
		return fmt.Sprintf("%s \"%s\" leans on \"%s\"", d.Kind, d.Name, where)
	}
	for _, f := range t.ForeignKeys {
		i := slices.Index(f.Columns, col.Name)
		if i < 0 || i >= len(f.TargetColumns) {
			continue
		}
		target := p.Lookup.Table(f.Target)
		if target == nil {
			continue
		}
		if c := target.Column(f.TargetColumns[i]); c != nil && !along[c] {
			if gap, _ := to.GapTo(c.Type); gap != catalog.TypesAgree {
				return fmt.Sprintf("\"%s\" also refers to \"%s.%s\", which is %s", where, p.Called(f.Target), c.Name, c.Type.Native)
			}
		}
	}
	return ""
}
