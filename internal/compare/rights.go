package compare

import (
	"strings"

	"nexdal/internal/catalog"
)

// Rights compares who owns what both catalogs have, and what is granted on it, where that is
// known of both. They are two surveys of one server: roles of another mean nothing here. A
// sequence that numbers an identity column is its table's.
func Rights(from, to *catalog.Catalog) []Difference {
	c := &comparison{}
	was := map[catalog.ObjectRef]catalog.Rights{}
	for _, s := range from.Schemas {
		was[catalog.ObjectRef{Kind: catalog.KindSchema, Name: s.Name}] = s.Rights
	}
	for _, m := range from.Members() {
		if r, ok := rightsOf(m); ok {
			was[m.ObjectRef] = r
		}
	}
	both := func(o catalog.ObjectRef, table string, is catalog.Rights) {
		if old, ok := was[o]; ok && old.Owner != "" && is.Owner != "" {
			c.add(Difference{Kind: Altered, Object: o.Kind, Schema: o.Schema, Table: table, Name: o.Name,
				What: differ(says{{"owner", "", old.Owner}, {"grants", "", granted(old)}}, says{{"owner", "", is.Owner}, {"grants", "", granted(is)}})})
		}
	}
	for _, s := range to.Schemas {
		both(catalog.ObjectRef{Kind: catalog.KindSchema, Name: s.Name}, "", s.Rights)
	}
	for _, m := range to.Members() {
		if r, ok := rightsOf(m); ok {
			table := ""
			if m.Table != nil {
				table = m.Name
			}
			both(m.ObjectRef, table, r)
		}
	}
	return c.found
}

func rightsOf(m *catalog.Member) (catalog.Rights, bool) {
	switch {
	case m.Table != nil:
		return m.Table.Rights, true
	case m.View != nil:
		return m.View.Rights, true
	case m.Sequence != nil:
		return m.Sequence.Rights, !m.Sequence.Identity
	case m.Type != nil:
		return m.Type.Rights, true
	case m.Routine != nil:
		return m.Routine.Rights, true
	}
	return catalog.Rights{}, false
}

// granted tells the grants in words.
func granted(r catalog.Rights) string {
	var all []string
	for _, g := range r.Grants {
		one := g.What
		if g.Column != "" {
			one += " (" + g.Column + ")"
		}
		to := g.To
		if to == "" {
			to = "everybody"
		}
		one += " to " + to
		if g.By != "" {
			one += " by " + g.By
		}
		if g.Grantable {
			one += ", to grant on"
		}
		all = append(all, one)
	}
	return strings.Join(all, "; ")
}
