package sqlite

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// An edit replaces a stretch of a table's text. Everything that no edit
// touches stays as its author wrote it, comments and all.
type edit struct {
	from, to int
	text     string
}

// redefine alters the text of a table by the changes.
func redefine(t *catalog.Table, changes []change.Change) (string, error) {
	b, err := parseBody(t.Definition)
	if err != nil {
		return "", err
	}
	var edits []edit
	for _, ch := range changes {
		more, err := b.edits(ch)
		if err != nil {
			return "", err
		}
		edits = append(edits, more...)
	}
	text, err := b.edited(edits)
	if err != nil {
		return "", err
	}
	altered, err := parseBody(text)
	if err != nil {
		return "", fmt.Errorf("the altered definition is not understood: %w", err)
	}
	want := len(b.columns)
	for _, ch := range changes {
		switch ch.(type) {
		case change.AddColumn, change.AddSurrogateKey:
			want++
		case change.DropColumn, change.Undo[change.AddSurrogateKey]:
			want--
		}
	}
	if len(altered.columns) != want || slices.ContainsFunc(altered.columns, func(c columnText) bool { return c.name == "" || c.name == "," || c.name == ")" }) {
		return "", fmt.Errorf("the altered definition has not the columns that it should have")
	}
	return text, nil
}

// edited is the text with the edits made.
func (b *body) edited(edits []edit) (string, error) {
	slices.SortStableFunc(edits, func(a, b edit) int { return cmp.Or(a.from-b.from, a.to-b.to) })
	var out strings.Builder
	at := 0
	for _, e := range edits {
		if e.from < at && e.text == "" {
			e.from = min(at, e.to) // two that take out what stands between them
			e.to = max(e.to, at)
		}
		if e.from < at {
			return "", fmt.Errorf("two changes touch the same words of its definition")
		}
		out.WriteString(b.text[at:e.from])
		out.WriteString(e.text)
		at = e.to
	}
	out.WriteString(b.text[at:])
	return out.String(), nil
}

func (b *body) edits(ch change.Change) ([]edit, error) {
	switch ch := ch.(type) {
	case change.AlterType:
		c := b.column(ch.Column)
		if c == nil {
			return nil, fmt.Errorf("column %s is not in its definition", ch.Column)
		}
		return c.retype(ch.From, ch.To), nil
	case change.SetNullable:
		c := b.column(ch.Column)
		if c == nil {
			return nil, fmt.Errorf("column %s is not in its definition", ch.Column)
		}
		return c.setNullable(b.text, ch.Nullable), nil
	case change.AddColumn:
		end := b.columns[len(b.columns)-1].end
		return []edit{{end, end, b.next() + columnLine(ch.Column)}}, nil
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
		c := b.column(ch.Column)
		if c == nil {
			return nil, fmt.Errorf("column %s is not in its definition", ch.Column)
		}
		return c.setDefault(b.text, ch.To), nil
	case change.Rename:
		return b.rename(ch)
	}
	return nil, fmt.Errorf("%s cannot be written into its definition", ch.Title())
}

// next separates a new entry from the last, in the style of the text.
func (b *body) next() string {
	start := b.columns[0].nameEnd
	line := strings.LastIndexByte(b.text[:start], '\n')
	if line < 0 {
		return ", "
	}
	indent := b.text[line+1 : start]
	if i := strings.IndexFunc(indent, func(r rune) bool { return r != ' ' && r != '\t' }); i >= 0 {
		indent = indent[:i]
	}
	return ",\n" + indent
}

func (c *columnText) retype(from, to catalog.Type) []edit {
	var edits []edit
	switch {
	case from.Native == to.Native:
	case c.start == c.stop && to.Native != "":
		edits = append(edits, edit{c.nameEnd, c.nameEnd, " " + to.Native})
	default:
		edits = append(edits, edit{c.start, c.stop, to.Native})
	}
	if from.Collation == to.Collation {
		return edits
	}
	words := ""
	if to.Collation != "" {
		words = "COLLATE " + collation(to.Collation)
	}
	if k := c.clause("collate"); k != nil {
		return append(edits, edit{k.start, k.end, words})
	}
	return append(edits, edit{c.end, c.end, " " + words})
}

func (c *columnText) setNullable(text string, nullable bool) []edit {
	if !nullable {
		return []edit{{c.stop, c.stop, " NOT NULL"}}
	}
	var edits []edit
	for _, k := range c.clauses {
		if k.kind == "not null" {
			from := len(strings.TrimRight(text[:k.start], " \t\n"))
			edits = append(edits, edit{from, k.end, ""})
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
		words = "CONSTRAINT " + ident(name) + " " + words
	}
	return words
}

// append adds a constraint behind all that is there.
func (b *body) append(words string) []edit {
	end := b.columns[len(b.columns)-1].end
	if n := len(b.clauses); n > 0 {
		end = b.clauses[n-1].end
	}
	return []edit{{end, end, b.next() + words}}
}

func (b *body) addKey(k *catalog.Key, primary bool) []edit {
	return b.append(fmt.Sprintf("%s (%s)", keyWords(k.Name, primary), idents(k.Columns)))
}

func (b *body) addForeignKey(f *catalog.ForeignKey) []edit {
	words := fmt.Sprintf("FOREIGN KEY (%s) REFERENCES %s (%s)", idents(f.Columns), ident(f.Target.Table), idents(f.TargetColumns))
	if f.Name != "" {
		words = "CONSTRAINT " + ident(f.Name) + " " + words
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

func (b *body) replaceKey(ch change.ReplaceKey) ([]edit, error) {
	if ch.To.Key == nil {
		return nil, fmt.Errorf("a key cannot become a mere index in its definition")
	}
	if ch.From.Index != nil {
		return b.addKey(ch.To.Key, ch.To.Primary), nil
	}
	for _, k := range b.keys() {
		if k.primary == ch.From.Primary && k.name == ch.From.Key.Name && strings.EqualFold(strings.Join(k.columns, "\x00"), strings.Join(ch.From.Key.Columns, "\x00")) {
			return []edit{{k.start, k.keyword[1], keyWords(ch.To.Key.Name, ch.To.Primary)}}, nil
		}
	}
	return nil, fmt.Errorf("the key (%s) is not in its definition", strings.Join(ch.From.Key.Columns, ", "))
}

func (b *body) alterForeignKey(ch change.AlterForeignKey) ([]edit, error) {
	var edits []edit
	for _, k := range b.references() {
		r := k.reference
		if k.name != ch.Old.Name || !strings.EqualFold(r.target, ch.Old.Target.Table) || !strings.EqualFold(strings.Join(r.columns, "\x00"), strings.Join(ch.Old.Columns, "\x00")) {
			continue
		}
		for _, e := range []struct {
			event    string
			at       [2]int
			old, new catalog.Action
		}{{"DELETE", r.onDelete, ch.Old.OnDelete, ch.New.OnDelete}, {"UPDATE", r.onUpdate, ch.Old.OnUpdate, ch.New.OnUpdate}} {
			if e.old == e.new {
				continue
			}
			words := "ON " + e.event + " " + strings.ToUpper(string(e.new))
			if e.at == [2]int{} {
				edits = append(edits, edit{r.end, r.end, " " + words})
			} else {
				edits = append(edits, edit{e.at[0], e.at[1], words})
			}
		}
		if ch.New.Deferrable && !r.deferrable {
			words := " DEFERRABLE"
			if ch.New.Deferred {
				words += " INITIALLY DEFERRED"
			}
			edits = append(edits, edit{k.end, k.end, words})
		}
	}
	if len(edits) == 0 {
		return nil, fmt.Errorf("foreign key %s is not in its definition", ch.Old.Label())
	}
	return edits, nil
}
