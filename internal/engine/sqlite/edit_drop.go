package sqlite

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
	return "CONSTRAINT " + ident(name)
}

// drop takes a constraint out: of a column with the blank before it, of the
// table with the comma that sets it apart. Comments stay where they are.
func (b *body) drop(k *clause) ([]edit, error) {
	before := b.columns[len(b.columns)-1].end
	own := false
	for i := range b.clauses {
		if &b.clauses[i] == k {
			own = true
			break
		}
		before = b.clauses[i].end
	}
	from := len(strings.TrimRight(b.text[:k.start], " \t\n"))
	if !own {
		return []edit{{from, k.end, ""}}, nil
	}
	between := b.text[before:k.start]
	comma := strings.IndexByte(between, ',')
	if note := strings.IndexAny(between, "-/"); comma < 0 || note >= 0 && note < comma {
		return nil, fmt.Errorf("a comment stands in the way of taking a constraint out of its definition")
	}
	comma += before
	if strings.TrimSpace(b.text[comma+1:k.start]) == "" {
		return []edit{{comma, k.end, ""}}, nil
	}
	return []edit{{comma, comma + 1, ""}, {k.start, k.end, ""}}, nil
}

func (b *body) dropForeignKey(f *catalog.ForeignKey) ([]edit, error) {
	references := b.references()
	for i := len(references) - 1; i >= 0; i-- {
		if k := references[i]; k.name == f.Name && sameNames(k.reference.columns, f.Columns) && strings.EqualFold(k.reference.target, f.Target.Table) {
			return b.drop(k)
		}
	}
	return nil, fmt.Errorf("foreign key %s is not in its definition", f.Label())
}

func (b *body) dropKey(ch change.DropKey) ([]edit, error) {
	for _, k := range b.keys() {
		if k.primary == ch.Primary && k.name == ch.Name && sameNames(k.columns, ch.Columns) {
			return b.drop(k.clause)
		}
	}
	return nil, fmt.Errorf("the key (%s) is not in its definition", strings.Join(ch.Columns, ", "))
}

// checkClause finds the last check that says the same under the same name.
func (b *body) checkClause(name, expression string) (*clause, error) {
	var found *clause
	b.each(func(_ *columnText, k *clause) {
		if k.kind == "check" && k.name == name && (expression == "" || strings.TrimSpace(b.text[k.keyword[0]:k.keyword[1]]) == expression) {
			found = k
		}
	})
	if found == nil {
		return nil, fmt.Errorf("the check %s is not in its definition", name)
	}
	return found, nil
}

func (b *body) dropCheck(c *catalog.Check) ([]edit, error) {
	k, err := b.checkClause(c.Name, c.Expression)
	if err != nil {
		return nil, err
	}
	return b.drop(k)
}

// setDefault gives the column a default in place of the one it has.
func (c *columnText) setDefault(text, to string) []edit {
	k := c.clause("default")
	words := ""
	if to != "" {
		words = "DEFAULT " + defaultText(to)
	}
	switch {
	case k != nil && words == "":
		return []edit{{len(strings.TrimRight(text[:k.start], " \t\n")), k.end, ""}}
	case k != nil:
		return []edit{{k.start, k.end, words}}
	case words == "":
		return nil
	}
	return []edit{{c.stop, c.stop, " " + words}}
}

// rename gives a constraint that has a name another.
func (b *body) rename(ch change.Rename) ([]edit, error) {
	kinds := map[change.RenameKind]string{change.RenamePrimaryKey: "primary key", change.RenameUniqueKey: "unique", change.RenameForeignKey: "references", change.RenameCheck: "check"}
	var edits []edit
	b.each(func(_ *columnText, k *clause) {
		if k.kind == kinds[ch.Kind] && k.name == ch.From && k.nameAt != [2]int{} && edits == nil {
			edits = []edit{{k.nameAt[0], k.nameAt[1], ident(ch.To)}}
		}
	})
	if edits == nil {
		return nil, fmt.Errorf("%s %s is not in its definition", ch.Kind, ch.From)
	}
	return edits, nil
}

func sameNames(a, b []string) bool {
	return strings.EqualFold(strings.Join(a, "\x00"), strings.Join(b, "\x00"))
}

// dropColumn takes a column out with the comma that sets it apart.
func (b *body) dropColumn(name string) ([]edit, error) {
	i := slices.IndexFunc(b.columns, func(c columnText) bool { return c.name == name })
	if i < 0 {
		return nil, fmt.Errorf("column %s is not in its definition", name)
	}
	if len(b.columns) == 1 {
		return nil, fmt.Errorf("%s is its only column", name)
	}
	from, to := 1, b.columns[i].end
	if i > 0 {
		from = b.columns[i-1].end
	}
	comma := -1
	for _, t := range (Engine{}).Dialect().Tokens(b.text) {
		switch {
		case t.Kind == sqllex.Comment && t.Start >= from && t.End <= b.columns[i].nameEnd:
			return nil, fmt.Errorf("a comment stands in the way of taking column %s out of its definition", name)
		case comma < 0 && t.Is(",") && (i > 0 && t.Start >= from || i == 0 && t.Start >= to):
			comma = t.Start
		}
	}
	switch {
	case comma < 0:
		return nil, fmt.Errorf("column %s cannot be taken out of its definition", name)
	case i > 0:
		return []edit{{comma, to, ""}}, nil
	}
	return []edit{{from, comma + 1, ""}}, nil
}
