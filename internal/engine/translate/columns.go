package translate

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

func (x *translation) column(t, d *catalog.Table, c *catalog.Column) *catalog.Column {
	out := &catalog.Column{Name: x.called(t.Ref(), c.Name), Nullable: c.Nullable}
	if c.Comment != "" {
		if out.Comment = c.Comment; !x.Comments {
			out.Comment = ""
			x.losses.column(t, c.Name, "the comment is lost")
		}
	}
	from := sized(c.Type)
	if x.Engine.Name != x.from.Engine.Name && (from.Length != c.Type.Length || from.Precision != c.Type.Precision) {
		x.unkept = true
	}
	made := x.types[strings.TrimSuffix(c.Type.Native, "[]")]
	var labels []string
	if made != nil && c.Type.Family != catalog.Array {
		labels = x.labels(made)
		x.domain(t, d, c, made)
	}
	if from.Family == catalog.Enum && labels == nil {
		labels = listed(c.Type.Native)
	}
	if from.Family == catalog.Enum && len(labels) == 0 {
		from.Family = catalog.Text
		x.losses.column(t, c.Name, "holds any text, since the values of its enumeration are not known")
	}
	var why string
	out.Type, why = x.Type(from, keyed(t, c.Name))
	if x.NumberedTypes != nil && x.numbered(t, c) && (from.Family == catalog.Integer || aloneKey(t, c)) { // whose numbers are given out again, and are of that type
		out.Type, why = x.NumberedTypes(out.Type), ""
	}
	if why != "" {
		x.losses.column(t, c.Name, why)
	}
	if len(labels) > 0 {
		x.enum(t, d, out, c.Type, labels)
	}
	switch {
	case c.Generated != "":
		if expression, ok := x.Expression(t, c.Generated); ok {
			out.Generated, out.Stored = expression, true
			return out
		}
		x.losses.column(t, c.Name, "is no longer computed, as "+text.OneLine(c.Generated))
		return out
	case counted(c):
		x.number(t, c, out)
		return out
	}
	if c.OnUpdate != "" {
		x.losses.column(t, c.Name, "is no longer set by every change of the row")
	}
	if c.Invisible {
		x.losses.column(t, c.Name, "shows in SELECT *")
	}
	if c.Default != "" {
		if value, ok := x.value(c.Default, out.Type); ok {
			out.Default = value
		} else {
			x.losses.column(t, c.Name, "has lost its default, "+text.OneLine(c.Default))
		}
	}
	return out
}

// sized reads length and digits from a declared type where the engine keeps
// them only there.
func sized(t catalog.Type) catalog.Type {
	if t.Length == 0 && t.Precision == 0 && t.Class != "" {
		var a, b int
		if i := strings.IndexByte(t.Native, '('); i > 0 {
			n, _ := fmt.Sscanf(strings.ReplaceAll(t.Native[i:], " ", ""), "(%d,%d)", &a, &b)
			switch {
			case n >= 1 && t.Family == catalog.Text:
				t.Length = a
				t.Padded = strings.HasPrefix(strings.ToUpper(t.Native), "CHAR") || strings.HasPrefix(strings.ToUpper(t.Native), "NCHAR")
			case n >= 1 && t.Family == catalog.Decimal:
				t.Precision, t.Scale = a, b
			}
		}
	}
	if t.Family == catalog.Integer && t.Bits == 0 {
		t.Bits = 64
	}
	if t.Family == catalog.Float && t.Bits == 0 {
		t.Bits = 64
	}
	return t
}

// listed reads the values of enum('a','b').
func listed(native string) []string {
	open, end := strings.IndexByte(native, '('), strings.LastIndexByte(native, ')')
	if open < 0 || end < open || !strings.HasPrefix(strings.ToLower(native), "enum") {
		return nil
	}
	return cutStrings(native[open+1 : end])
}

// cutStrings reads 'a','b', where a quote within is doubled.
func cutStrings(text string) []string {
	var all []string
	for i := 0; i < len(text); i++ {
		if text[i] != '\'' {
			continue
		}
		var b strings.Builder
		for i++; i < len(text); i++ {
			if text[i] == '\'' {
				if i+1 < len(text) && text[i+1] == '\'' {
					i++
				} else {
					break
				}
			}
			b.WriteByte(text[i])
		}
		all = append(all, b.String())
	}
	return all
}

// enum keeps the values of an enumeration by a check, or by the type itself
// where the target has such types.
func (x *translation) enum(t, d *catalog.Table, out *catalog.Column, was catalog.Type, labels []string) {
	values := make([]string, len(labels))
	for i, l := range labels {
		values[i] = x.literal(l)
	}
	list := strings.Join(values, ", ")
	if out.Type.Family == catalog.Enum {
		out.Type.Native = "enum(" + list + ")"
		return
	}
	x.losses.column(t, out.Name, "holds text, and a check keeps the values of the enumeration; they sort as text")
	d.Checks = append(d.Checks, &catalog.Check{Name: x.constraint(d, t.Name+"_"+out.Name+catalog.InCaseOf("_values", out.Name)), Expression: x.Ident(out.Name) + " IN (" + list + ")"})
}

// labels are those of an enumeration, also below domains.
func (x *translation) labels(y *catalog.UserType) []string {
	for depth := 0; y != nil && depth < 8; depth++ {
		if y.Kind != catalog.DomainType || y.Base == nil {
			return y.Labels
		}
		y = x.types[y.Base.Native]
	}
	return nil
}

// domain puts what a domain asks for into the column.
func (x *translation) domain(t, d *catalog.Table, c *catalog.Column, y *catalog.UserType) {
	for depth := 0; y != nil && y.Kind == catalog.DomainType && depth < 8; depth++ {
		for _, k := range y.Checks {
			on := &catalog.Table{Columns: []*catalog.Column{{Name: "VALUE"}, {Name: "value"}}}
			expression, ok := x.Expression(on, k.Expression)
			if !ok {
				x.losses.column(t, c.Name, "is no longer checked by its domain: "+text.OneLine(k.Expression))
				continue
			}
			for _, name := range []string{x.Ident("VALUE"), x.Ident("value")} {
				expression = strings.ReplaceAll(expression, name, x.Ident(c.Name))
			}
			d.Checks = append(d.Checks, &catalog.Check{Name: x.constraint(d, t.Name+"_"+c.Name+"_"+k.Name), Expression: expression})
		}
		if c.Default == "" && y.Default != "" {
			c = &catalog.Column{Name: c.Name, Default: y.Default}
		}
		if y.Base == nil {
			return
		}
		y = x.types[y.Base.Native]
	}
}

// aloneKey reports whether the column by itself is the primary key.
// counted reports whether the column is numbered, be it by a trigger that draws from a sequence.
func counted(c *catalog.Column) bool {
	return c.Identity != catalog.NoIdentity || c.Sequence != nil && c.Default == ""
}

func aloneKey(t *catalog.Table, c *catalog.Column) bool {
	return t.PrimaryKey != nil && len(t.PrimaryKey.Columns) == 1 && t.PrimaryKey.Columns[0] == c.Name
}

// numbered reports whether the target numbers the column, or one that it refers to, over
// other tables too.
func (x *translation) numbered(t *catalog.Table, c *catalog.Column) bool {
	if x.roots == nil {
		x.roots = x.from.Lookup()
	}
	for depth := 0; depth < 8; depth++ {
		if aloneKey(t, c) && counted(c) {
			return true
		}
		var target *catalog.Table
		column := ""
		for _, f := range t.ForeignKeys {
			for i, name := range f.Columns {
				if name == c.Name && i < len(f.TargetColumns) {
					target, column = x.roots.Table(f.Target), f.TargetColumns[i]
				}
			}
		}
		if target == nil || target.Column(column) == nil {
			return false
		}
		t, c = target, target.Column(column)
	}
	return false
}

// number has the target number the column, where it can.
func (x *translation) number(t *catalog.Table, c, out *catalog.Column) {
	alone := aloneKey(t, c)
	switch {
	case c.Identity == catalog.IdentitySequence && c.Sequence != nil && x.Sequences && x.Next != nil && !alone:
		to := x.moved[*c.Sequence]
		if to.Table == "" {
			x.losses.column(t, c.Name, "is no longer numbered: its sequence was not taken over")
			return
		}
		out.Sequence, out.Identity = &to, catalog.IdentitySequence
		out.Default = x.Next(to)
	case alone:
		out.Identity = x.Numbered
	case x.Numbered == catalog.IdentityByDefault:
		out.Identity = x.Numbered
	default:
		x.losses.column(t, c.Name, "is no longer numbered: only a column that is the primary key can be")
	}
}
