package sqlserver

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqlserver/traits"
	"nexdal/internal/engine/sqlserver/write"
)

// scheme is how tables are cut up: by a function, whose parts lie where a scheme says.
type scheme struct {
	name, function string
	right          bool
	values         []string
	groups         []string
	typ            catalog.Type
}

// partitions reads how tables are cut up, and how many rows lie in their parts. A function and
// its scheme are objects of the database, which several tables may share.
func (r *reader) partitions() {
	schemes, functions := map[string]*scheme{}, map[string][]string{}
	r.ask(askPartitionValues, func(w *capture.Fields) {
		name := w.Text()
		w.Text()
		functions[name] = append(functions[name], w.Text())
	})
	var order []*scheme
	r.ask(askPartitionSchemes, func(w *capture.Fields) {
		s := &scheme{name: w.Text(), function: w.Text()}
		w.Text() // RANGE is the only kind
		s.right = w.Is("1")
		w.Text()
		s.typ = r.typed(w.Text(), w.Number(), w.Number(), w.Number(), "")
		s.values = functions[s.function]
		if order = append(order, s); s.name != "" {
			schemes[traits.Ident(s.name)] = s
		}
	})
	r.ask(askPartitionSpaces, func(w *capture.Fields) {
		s := schemes[traits.Ident(w.Text())]
		w.Text()
		if group := w.Text(); s != nil {
			s.groups = append(s.groups, group)
		}
	})
	seen := map[string]bool{}
	for _, s := range order {
		if !seen[s.function] {
			seen[s.function] = true
			r.c.Objects = append(r.c.Objects, &catalog.Object{Kind: write.KindFunction, Name: s.function, Definition: s.functionText()})
		}
		if s.name == "" {
			continue // a function that nothing lays out
		}
		r.c.Objects = append(r.c.Objects, &catalog.Object{Kind: write.KindScheme, Name: s.name, Definition: s.text(), Needs: []catalog.ObjectRef{{Kind: write.KindFunction, Name: s.function}}})
	}
	compressed := map[[2]string]map[string]bool{}
	r.ask(askPartitions, func(w *capture.Fields) {
		object, index := w.Text(), w.Text()
		number, rows, compression := w.Number(), w.Big(), w.Text()
		at := [2]string{object, index}
		if compressed[at] == nil {
			compressed[at] = map[string]bool{}
		}
		compressed[at][compression] = true
		t := r.tables[object]
		if t == nil || index > "1" || rows == nil {
			return
		}
		if t.Stats.Rows == nil {
			t.Stats.Rows = new(int64)
		}
		*t.Stats.Rows += *rows
		p := r.placed[t]
		if p == nil || p.scheme == "" {
			return
		}
		name, column, _ := strings.Cut(p.scheme, "(")
		s := schemes[name]
		if s == nil {
			return
		}
		if t.PartitionBy == nil {
			by := Engine{}.Dialect().Tokens(strings.TrimSuffix(column, ")"))
			t.PartitionBy = &catalog.PartitionKey{Method: "range", Columns: []string{by[0].Name()}, Definition: p.scheme}
		}
		t.Partitions = append(t.Partitions, &catalog.Partition{Name: fmt.Sprint(number), Bounds: s.bounds(number), Rows: rows})
	})
	for at, kinds := range compressed {
		if len(kinds) > 1 {
			if t := r.tables[at[0]]; t != nil {
				r.gap(t.Schema, t.Name, "compression", "its parts are compressed in different ways")
			}
			continue
		}
		for kind := range kinds {
			if kind == "NONE" || kind == "COLUMNSTORE" || kind == "" {
				continue
			}
			text := "DATA_COMPRESSION = " + kind
			if x := r.indexes[at]; x != nil {
				x.Storage = strings.TrimPrefix(x.Storage+", "+text, ", ")
			} else if t := r.tables[at[0]]; t != nil && at[1] == "0" {
				t.Storage = text
			}
		}
	}
}

// bounds are those of a part, counted from 1.
func (s *scheme) bounds(number int) string {
	values := make([]string, len(s.values))
	for i, v := range s.values {
		values[i] = s.literal(v)
	}
	return write.PartBounds(s.right, values, number)
}

func (s *scheme) literal(value string) string {
	switch s.typ.Family {
	case catalog.Integer, catalog.Decimal, catalog.Float:
		return value
	case catalog.Date, catalog.Timestamp, catalog.Time:
		// Whole seconds and days are written without what is not there.
		if dot := strings.IndexByte(value, '.'); dot > 0 && !s.typ.Zoned {
			value = strings.TrimRight(strings.TrimRight(value, "0"), ".")
		}
		return "'" + value + "'"
	}
	return traits.Literal(value)
}

func (s *scheme) functionText() string {
	values := make([]string, len(s.values))
	for i, v := range s.values {
		values[i] = s.literal(v)
	}
	return write.FunctionText(s.function, s.typ.Native, s.right, values)
}

func (s *scheme) text() string {
	groups := s.groups
	all := "TO"
	same := true
	for _, g := range groups {
		same = same && g == groups[0]
	}
	if same && len(groups) > 0 {
		all, groups = "ALL TO", groups[:1]
	}
	return fmt.Sprintf("CREATE PARTITION SCHEME %s AS PARTITION %s %s (%s)", traits.Ident(s.name), traits.Ident(s.function), all, bracketed(groups))
}

// bracketed writes names of filegroups: PRIMARY is a word without brackets.
func bracketed(names []string) string {
	var all []string
	for _, n := range names {
		all = append(all, "["+strings.ReplaceAll(n, "]", "]]")+"]")
	}
	return strings.Join(all, ", ")
}
