package mongodb

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// columnsOf lists the fields of a shape by their paths, each before those that it holds.
func columnsOf(s *shape) []*catalog.Column {
	w := &walk{}
	w.shape(s, "", "", false)
	return w.columns
}

type walk struct{ columns []*catalog.Column }

func (w *walk) shape(s *shape, prefix, within string, many bool) {
	for _, name := range inOrder(s) {
		f := s.fields[name]
		path := join(prefix, name)
		if name == everyName && s.folded {
			path = strings.TrimPrefix(prefix+"."+everyName, ".")
		}
		c := &catalog.Column{Name: path, Within: within, Many: many || name == everyName && s.folded}
		nulls := f.types[ofNull]
		c.Nullable = f.seen < s.n || nulls > 0 || c.Many
		if s.n > 0 && !c.Many {
			absent, null := 1-float64(f.seen)/float64(s.n), float64(nulls)/float64(s.n)
			c.Stats.Absent, c.Stats.Nulls = &absent, &null
		}
		c.Type = typeOf(f)
		c.Stats.Types = sharesOf(f.types)
		w.columns = append(w.columns, c)
		if f.element != nil {
			c.Many = true
			c.Stats.Items = &f.longest
		}
		if f.inner != nil {
			w.shape(f.inner, path, path, c.Many && f.element == nil || many)
		}
		for e := f.element; e != nil; e = e.element {
			if e.inner != nil {
				w.shape(e.inner, path, path, true)
			}
		}
	}
}

// inOrder are the names of a shape: documents have them in any order, and so the key comes first, and
// then they go by their letters.
func inOrder(s *shape) []string {
	names := slices.Clone(s.order)
	slices.SortFunc(names, func(a, b string) int {
		if (a == "_id") != (b == "_id") {
			if a == "_id" {
				return -1
			}
			return 1
		}
		return strings.Compare(a, b)
	})
	return names
}

// sharesOf are the shares of types, nulls aside.
func sharesOf(types map[string]int64) *catalog.Shares {
	all := int64(0)
	for kind, n := range types {
		if kind != ofNull {
			all += n
		}
	}
	if all == 0 {
		return nil
	}
	list := catalog.Shares{}
	for _, kind := range named(types) {
		list = append(list, catalog.Share{Of: kind, Part: float64(types[kind]) / float64(all)})
	}
	return &list
}

// named lists the types of values, nulls aside, the most common first.
func named(types map[string]int64) []string {
	kinds := slices.SortedFunc(maps.Keys(types), func(a, b string) int {
		if types[a] != types[b] {
			return int(types[b] - types[a])
		}
		return strings.Compare(a, b)
	})
	return slices.DeleteFunc(kinds, func(kind string) bool { return kind == ofNull })
}

// typeOf is the type of a field's values: several are joined, the most common first, and it belongs to
// the family of that. A list is of the family of what it holds.
func typeOf(f *field) catalog.Type {
	kinds := named(f.types)
	if len(kinds) == 0 {
		return catalog.Type{Native: ofNull, Family: catalog.Other}
	}
	if kinds[0] == ofArray && f.element != nil {
		t := typeOf(f.element)
		t.Native = "array<" + t.Native + ">"
		if more := kinds[1:]; len(more) > 0 {
			t.Native += "|" + strings.Join(more, "|")
		}
		if len(named(f.element.types)) == 0 {
			t.Native = ofArray
		}
		return t
	}
	t := familyOf(kinds[0])
	if slices.ContainsFunc(kinds, func(k string) bool { return k == "double" }) && t.Family == catalog.Integer {
		t.Family, t.Bits = catalog.Float, 64
	}
	if slices.Contains(kinds, "long") && t.Family == catalog.Integer {
		t.Bits = 64
	}
	t.Native = strings.Join(kinds, "|")
	return t
}

// familyOf: identifiers are texts, so that those of one kind compare with those of another.
func familyOf(kind string) catalog.Type {
	switch kind {
	case "string", "symbol", "regex":
		return catalog.Type{Family: catalog.Text}
	case "objectId":
		return catalog.Type{Family: catalog.Text, Length: 24}
	case ofUUID:
		return catalog.Type{Family: catalog.Text, Length: 36}
	case "int":
		return catalog.Type{Family: catalog.Integer, Bits: 32}
	case "long":
		return catalog.Type{Family: catalog.Integer, Bits: 64}
	case "double":
		return catalog.Type{Family: catalog.Float, Bits: 64}
	case "decimal":
		return catalog.Type{Family: catalog.Decimal}
	case "bool":
		return catalog.Type{Family: catalog.Boolean}
	case "date":
		return catalog.Type{Family: catalog.Timestamp, Zoned: true}
	case "binData":
		return catalog.Type{Family: catalog.Binary}
	case ofObject:
		return catalog.Type{Family: catalog.JSON}
	}
	return catalog.Type{Family: catalog.Other}
}

// A kept document is what is told of one to find out which kinds there are.
type kept struct {
	has    map[string]bool   // names
	values map[string]string // short texts, by name
}

// How kinds of documents are told apart.
const (
	mostTold   = 5000
	mostKinds  = 12
	nearlyAll  = 0.98
	fieldsTold = 2 // fields whose presence has to hang on it
)

// kindsOf finds the field whose value says which others a document has: of kinds with different sets of
// fields. Empty: there is none.
func kindsOf(docs []kept) (name, says string) {
	if len(docs) < 20 {
		return "", ""
	}
	count, seen := map[string]int{}, map[string]map[string]int{}
	for _, d := range docs {
		for f := range d.has {
			count[f]++
		}
		for f, v := range d.values {
			if seen[f] == nil {
				seen[f] = map[string]int{}
			}
			seen[f][v]++
		}
	}
	var loose []string
	for f, n := range count {
		if share := float64(n) / float64(len(docs)); share >= 0.02 && share <= nearlyAll {
			loose = append(loose, f)
		}
	}
	slices.Sort(loose)
	best := 0
	for _, f := range slices.Sorted(maps.Keys(seen)) {
		kinds := seen[f]
		if len(kinds) < 2 || len(kinds) > mostKinds || float64(count[f]) < nearlyAll*float64(len(docs)) {
			continue
		}
		told := map[string][]string{}
		n := 0
		for _, g := range loose {
			with := map[string]int{}
			for _, d := range docs {
				if d.has[g] {
					with[d.values[f]]++
				}
			}
			pure := true
			for v, all := range kinds {
				share := float64(with[v]) / float64(all)
				pure = pure && (share >= nearlyAll || share <= 1-nearlyAll)
			}
			if !pure {
				continue
			}
			n++
			for v, all := range kinds {
				if float64(with[v]) >= nearlyAll*float64(all) {
					told[v] = append(told[v], g)
				}
			}
		}
		if n >= fieldsTold && n > best {
			best, name = n, f
			var parts []string
			for _, v := range slices.Sorted(maps.Keys(kinds)) {
				with := strings.Join(told[v], ", ")
				if with == "" {
					with = "none of them"
				}
				parts = append(parts, fmt.Sprintf("%s: %s", v, with))
			}
			says = strings.Join(parts, "; ")
		}
	}
	return name, says
}
