package ddltext

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/sqllex"
)

func constraintWords(name string) string {
	if name == "" {
		return ""
	}
	return "CONSTRAINT " + Ident(name)
}

// drop takes a constraint out: of a column with the blank before it, of the
// table with the comma that sets it apart. Comments stay where they are.
func (b *Body) drop(k *Clause) ([]Edit, error) {
	before := b.Columns[len(b.Columns)-1].end
	own := false
	for i := range b.clauses {
		if &b.clauses[i] == k {
			own = true
			break
		}
		before = b.clauses[i].end
	}
	from := len(strings.TrimRight(b.Text[:k.start], " \t\n"))
	if !own {
		return []Edit{{from, k.end, ""}}, nil
	}
	between := b.Text[before:k.start]
	comma := strings.IndexByte(between, ',')
	if note := strings.IndexAny(between, "-/"); comma < 0 || note >= 0 && note < comma {
		return nil, fmt.Errorf("a comment stands in the way of taking a constraint out of its definition")
	}
	comma += before
	if strings.TrimSpace(b.Text[comma+1:k.start]) == "" {
		return []Edit{{comma, k.end, ""}}, nil
	}
	return []Edit{{comma, comma + 1, ""}, {k.start, k.end, ""}}, nil
}

func (b *Body) dropForeignKey(f *catalog.ForeignKey) ([]Edit, error) {
	references := b.References()
	for i := len(references) - 1; i >= 0; i-- {
		if k := references[i]; k.Name == f.Name && SameNames(k.Reference.Columns, f.Columns) && strings.EqualFold(k.Reference.Target, f.Target.Table) {
			return b.drop(k)
		}
	}
	return nil, fmt.Errorf("foreign key %s is not in its definition", f.Label())
}

func (b *Body) dropKey(ch change.DropKey) ([]Edit, error) {
	for _, k := range b.Keys() {
		if k.Primary == ch.Primary && k.Name == ch.Name && SameNames(k.Columns, ch.Columns) {
			return b.drop(k.Clause)
		}
	}
	return nil, fmt.Errorf("the key (%s) is not in its definition", strings.Join(ch.Columns, ", "))
}

// checkClause finds the last check that says the same under the same name.
func (b *Body) checkClause(name, expression string) (*Clause, error) {
	var found *Clause
	b.each(func(_ *ColumnText, k *Clause) {
		if k.Kind == "check" && k.Name == name && (expression == "" || strings.TrimSpace(b.Text[k.Keyword[0]:k.Keyword[1]]) == expression) {
			found = k
		}
	})
	if found == nil {
		return nil, fmt.Errorf("the check %s is not in its definition", name)
	}
	return found, nil
}

func (b *Body) dropCheck(c *catalog.Check) ([]Edit, error) {
	k, err := b.checkClause(c.Name, c.Expression)
	if err != nil {
		return nil, err
	}
	return b.drop(k)
}

// setDefault gives the column a default in place of the one it has.
func (c *ColumnText) setDefault(text, to string) []Edit {
	k := c.Clause("default")
	words := ""
	if to != "" {
		words = "DEFAULT " + defaultText(to)
	}
	switch {
	case k != nil && words == "":
		return []Edit{{len(strings.TrimRight(text[:k.start], " \t\n")), k.end, ""}}
	case k != nil:
		return []Edit{{k.start, k.end, words}}
	case words == "":
		return nil
	}
	return []Edit{{c.Stop, c.Stop, " " + words}}
}

// rename gives a constraint that has a name another.
func (b *Body) rename(ch change.Rename) ([]Edit, error) {
	kinds := map[change.RenameKind]string{change.RenamePrimaryKey: "primary key", change.RenameUniqueKey: "unique", change.RenameForeignKey: "references", change.RenameCheck: "check"}
	var edits []Edit
	b.each(func(_ *ColumnText, k *Clause) {
		if k.Kind == kinds[ch.Kind] && k.Name == ch.From && k.nameAt != [2]int{} && edits == nil {
			edits = []Edit{{k.nameAt[0], k.nameAt[1], Ident(ch.To)}}
		}
	})
	if edits == nil {
		return nil, fmt.Errorf("%s %s is not in its definition", ch.Kind, ch.From)
	}
	return edits, nil
}

// SameNames compares names as the engine does, without regard to case.
func SameNames(a, b []string) bool {
	return strings.EqualFold(strings.Join(a, "\x00"), strings.Join(b, "\x00"))
}

// dropColumn takes a column out with the comma that sets it apart.
func (b *Body) dropColumn(name string) ([]Edit, error) {
	i := slices.IndexFunc(b.Columns, func(c ColumnText) bool { return c.Name == name })
	if i < 0 {
		return nil, fmt.Errorf("column %s is not in its definition", name)
	}
	if len(b.Columns) == 1 {
		return nil, fmt.Errorf("%s is its only column", name)
	}
	from, to := 1, b.Columns[i].end
	if i > 0 {
		from = b.Columns[i-1].end
	}
	comma := -1
	for _, t := range (Texts{}).Dialect().Tokens(b.Text) {
		switch {
		case t.Kind == sqllex.Comment && t.Start >= from && t.End <= b.Columns[i].nameEnd:
			return nil, fmt.Errorf("a comment stands in the way of taking column %s out of its definition", name)
		case comma < 0 && t.Is(",") && (i > 0 && t.Start >= from || i == 0 && t.Start >= to):
			comma = t.Start
		}
	}
	switch {
	case comma < 0:
		return nil, fmt.Errorf("column %s cannot be taken out of its definition", name)
	case i > 0:
		return []Edit{{comma, to, ""}}, nil
	}
	return []Edit{{from, comma + 1, ""}}, nil
}
