package ddltext

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// An Edit replaces a stretch of a table's text. Everything that no edit
// touches stays as its author wrote it, comments and all.
type Edit struct {
	From, To int
	Text     string
}

// Redefine alters the text of a table by the changes.
func Redefine(t *catalog.Table, changes []change.Change) (string, error) {
	b, err := ParseBody(t.Definition)
	if err != nil {
		return "", err
	}
	var edits []Edit
	for _, ch := range changes {
		more, err := b.edits(ch)
		if err != nil {
			return "", err
		}
		edits = append(edits, more...)
	}
	text, err := b.Edited(edits)
	if err != nil {
		return "", err
	}
	altered, err := ParseBody(text)
	if err != nil {
		return "", fmt.Errorf("the altered definition is not understood: %w", err)
	}
	want := len(b.Columns)
	for _, ch := range changes {
		switch ch.(type) {
		case change.AddColumn, change.AddSurrogateKey:
			want++
		case change.DropColumn, change.Undo[change.AddSurrogateKey]:
			want--
		}
	}
	if len(altered.Columns) != want || slices.ContainsFunc(altered.Columns, func(c ColumnText) bool { return c.Name == "" || c.Name == "," || c.Name == ")" }) {
		return "", fmt.Errorf("the altered definition has not the columns that it should have")
	}
	return text, nil
}

// Edited is the text with the edits made.
func (b *Body) Edited(edits []Edit) (string, error) {
	slices.SortStableFunc(edits, func(a, b Edit) int { return cmp.Or(a.From-b.From, a.To-b.To) })
	var out strings.Builder
	at := 0
	for _, e := range edits {
		if e.From < at && e.Text == "" {
			e.From = min(at, e.To) // two that take out what stands between them
			e.To = max(e.To, at)
		}
		if e.From < at {
			return "", fmt.Errorf("two changes touch the same words of its definition")
		}
		out.WriteString(b.Text[at:e.From])
		out.WriteString(e.Text)
		at = e.To
	}
	out.WriteString(b.Text[at:])
	return out.String(), nil
}

func (b *Body) edits(ch change.Change) ([]Edit, error) {
	switch ch := ch.(type) {
	case change.AlterType:
		c := b.Column(ch.Column)
		if c == nil {
			return nil, fmt.Errorf("column %s is not in its definition", ch.Column)
		}
		return c.retype(ch.From, ch.To), nil
	case change.SetNullable:
		c := b.Column(ch.Column)
		if c == nil {
			return nil, fmt.Errorf("column %s is not in its definition", ch.Column)
		}
		return c.setNullable(b.Text, ch.Nullable), nil
	case change.AddColumn:
		end := b.Columns[len(b.Columns)-1].end
		return []Edit{{end, end, b.next() + ColumnLine(ch.Column)}}, nil
	case change.DropColumn:
		return b.dropColumn(ch.Column)
	case change.AddKey:
		return b.addKey(ch.Key, ch.Primary), nil
	case change.ReplaceKey:
		return b.replaceKey(ch)
	case change.AddSurrogateKey:
		keys, err := b.replaceKey(change.ReplaceKey{Table: ch.Table, From: change.Uniqueness{Primary: true, Key: ch.From}, To: change.Uniqueness{Key: ch.Unique}})
		column, _ := b.edits(change.AddColumn{Table: ch.Table, Column: ch.Column})
		return slices.Concat(keys, column, b.addKey(ch.Key, true)), err
	case change.Undo[change.AddSurrogateKey]:
		keys, err := b.replaceKey(change.ReplaceKey{Table: ch.Of.Table, From: change.Uniqueness{Key: ch.Of.Unique}, To: change.Uniqueness{Primary: true, Key: ch.Of.From}})
		if err != nil {
			return nil, err
		}
		key, err := b.dropKey(change.DropKey{Table: ch.Of.Table, Name: ch.Of.Key.Name, Columns: ch.Of.Key.Columns, Primary: true})
		if err != nil {
			return nil, err
		}
		column, err := b.dropColumn(ch.Of.Column.Name)
		return slices.Concat(keys, key, column), err
	case change.AlterForeignKey:
		return b.alterForeignKey(ch)
	case change.AddForeignKey:
		return b.addForeignKey(ch.ForeignKey), nil
	case change.DropForeignKey:
		return b.dropForeignKey(ch.ForeignKey)
	case change.DropKey:
		return b.dropKey(ch)
	case change.AddCheck:
		return b.append(strings.TrimPrefix(constraintWords(ch.Check.Name)+" CHECK ("+ch.Check.Expression+")", " ")), nil
	case change.DropCheck:
		return b.dropCheck(ch.Check)
	case change.SetDefault:
		c := b.Column(ch.Column)
		if c == nil {
			return nil, fmt.Errorf("column %s is not in its definition", ch.Column)
		}
		return c.setDefault(b.Text, ch.To), nil
	case change.Rename:
		return b.rename(ch)
	}
	return nil, fmt.Errorf("%s cannot be written into its definition", ch.Title())
}

// next separates a new entry from the last, in the style of the text.
func (b *Body) next() string {
	start := b.Columns[0].nameEnd
	line := strings.LastIndexByte(b.Text[:start], '\n')
	if line < 0 {
		return ", "
	}
	indent := b.Text[line+1 : start]
	if i := strings.IndexFunc(indent, func(r rune) bool { return r != ' ' && r != '\t' }); i >= 0 {
		indent = indent[:i]
	}
	return ",\n" + indent
}

func (c *ColumnText) retype(from, to catalog.Type) []Edit {
	var edits []Edit
	switch {
	case from.Native == to.Native:
	case c.Start == c.Stop && to.Native != "":
		edits = append(edits, Edit{c.nameEnd, c.nameEnd, " " + to.Native})
	default:
		edits = append(edits, Edit{c.Start, c.Stop, to.Native})
	}
	if from.Collation == to.Collation {
		return edits
	}
	words := ""
	if to.Collation != "" {
		words = "COLLATE " + Collation(to.Collation)
	}
	if k := c.Clause("collate"); k != nil {
		return append(edits, Edit{k.start, k.end, words})
	}
	return append(edits, Edit{c.end, c.end, " " + words})
}

func (c *ColumnText) setNullable(text string, nullable bool) []Edit {
	if !nullable {
		return []Edit{{c.Stop, c.Stop, " NOT NULL"}}
	}
	var edits []Edit
	for _, k := range c.Clauses {
		if k.Kind == "not null" {
			from := len(strings.TrimRight(text[:k.start], " \t\n"))
			edits = append(edits, Edit{from, k.end, ""})
		}
	}
	return edits
}

func keyWords(name string, primary bool) string {
	words := "UNIQUE"
	if primary {
		words = "PRIMARY KEY"
	}
	if name != "" {
		words = "CONSTRAINT " + Ident(name) + " " + words
	}
	return words
}

// append adds a constraint behind all that is there.
func (b *Body) append(words string) []Edit {
	end := b.Columns[len(b.Columns)-1].end
	if n := len(b.clauses); n > 0 {
		end = b.clauses[n-1].end
	}
	return []Edit{{end, end, b.next() + words}}
}

func (b *Body) addKey(k *catalog.Key, primary bool) []Edit {
	return b.append(fmt.Sprintf("%s (%s)", keyWords(k.Name, primary), Idents(k.Columns)))
}

func (b *Body) addForeignKey(f *catalog.ForeignKey) []Edit {
	words := fmt.Sprintf("FOREIGN KEY (%s) REFERENCES %s (%s)", Idents(f.Columns), Ident(f.Target.Table), Idents(f.TargetColumns))
	if f.Name != "" {
		words = "CONSTRAINT " + Ident(f.Name) + " " + words
	}
	if f.OnUpdate != catalog.NoAction {
		words += " ON UPDATE " + strings.ToUpper(string(f.OnUpdate))
	}
	if f.OnDelete != catalog.NoAction {
		words += " ON DELETE " + strings.ToUpper(string(f.OnDelete))
	}
	if f.Deferrable {
		words += " DEFERRABLE"
	}
	if f.Deferred {
		words += " INITIALLY DEFERRED"
	}
	return b.append(words)
}

func (b *Body) replaceKey(ch change.ReplaceKey) ([]Edit, error) {
	if ch.To.Key == nil {
		return nil, fmt.Errorf("a key cannot become a mere index in its definition")
	}
	if ch.From.Index != nil {
		return b.addKey(ch.To.Key, ch.To.Primary), nil
	}
	for _, k := range b.Keys() {
		if k.Primary == ch.From.Primary && k.Name == ch.From.Key.Name && strings.EqualFold(strings.Join(k.Columns, "\x00"), strings.Join(ch.From.Key.Columns, "\x00")) {
			return []Edit{{k.start, k.Keyword[1], keyWords(ch.To.Key.Name, ch.To.Primary)}}, nil
		}
	}
	return nil, fmt.Errorf("the key (%s) is not in its definition", strings.Join(ch.From.Key.Columns, ", "))
}

func (b *Body) alterForeignKey(ch change.AlterForeignKey) ([]Edit, error) {
	var edits []Edit
	for _, k := range b.References() {
		r := k.Reference
		if k.Name != ch.Old.Name || !strings.EqualFold(r.Target, ch.Old.Target.Table) || !strings.EqualFold(strings.Join(r.Columns, "\x00"), strings.Join(ch.Old.Columns, "\x00")) {
			continue
		}
		for _, e := range []struct {
			event    string
			at       [2]int
			old, new catalog.Action
		}{{"DELETE", r.OnDelete, ch.Old.OnDelete, ch.New.OnDelete}, {"UPDATE", r.OnUpdate, ch.Old.OnUpdate, ch.New.OnUpdate}} {
			if e.old == e.new {
				continue
			}
			words := "ON " + e.event + " " + strings.ToUpper(string(e.new))
			if e.at == [2]int{} {
				edits = append(edits, Edit{r.End, r.End, " " + words})
			} else {
				edits = append(edits, Edit{e.at[0], e.at[1], words})
			}
		}
		if ch.New.Deferrable && !r.Deferrable {
			words := " DEFERRABLE"
			if ch.New.Deferred {
				words += " INITIALLY DEFERRED"
			}
			edits = append(edits, Edit{k.end, k.end, words})
		}
	}
	if len(edits) == 0 {
		return nil, fmt.Errorf("foreign key %s is not in its definition", ch.Old.Label())
	}
	return edits, nil
}
