package catalog

import (
	"cmp"
	"slices"
)

// Rights are who owns an object and what others may do with it. They are no part of the
// structure, and comparisons leave them out; but what is made again under its name gets
// them back.
type Rights struct {
	Owner string `json:"owner,omitempty"`
	// Granted: somebody granted or revoked something; without, the engine's defaults hold.
	Granted bool    `json:"granted,omitempty"`
	Grants  []Grant `json:"grants,omitempty"`
	// SecurityLabels are those of label providers, such as SELinux.
	SecurityLabels []SecurityLabel `json:"security_labels,omitempty"`
}

// A Grant is one privilege of one role.
type Grant struct {
	To        string `json:"to,omitempty"` // a role; empty: everybody
	What      string `json:"what"`         // "SELECT"
	Column    string `json:"column,omitempty"`
	By        string `json:"by,omitempty"`        // who granted it, where it was not the owner
	Grantable bool   `json:"grantable,omitempty"` // the role may grant it to others
}

// A SecurityLabel is what a provider says of an object or one of its columns.
type SecurityLabel struct {
	Provider string `json:"provider"`
	Label    string `json:"label"`
	Column   string `json:"column,omitempty"`
}

func (r *Rights) unshareRights() {
	r.Grants, r.SecurityLabels = slices.Clone(r.Grants), slices.Clone(r.SecurityLabels)
}

// sortRights puts the rights in an order that depends on nothing else. Grants by others than the
// owner come after the owner's, which they rest on.
func (r *Rights) sortRights() {
	slices.SortFunc(r.Grants, func(a, b Grant) int {
		return cmp.Or(cmp.Compare(a.By, b.By), cmp.Compare(a.Column, b.Column), cmp.Compare(a.To, b.To), cmp.Compare(a.What, b.What))
	})
	slices.SortFunc(r.SecurityLabels, func(a, b SecurityLabel) int {
		return cmp.Or(cmp.Compare(a.Provider, b.Provider), cmp.Compare(a.Column, b.Column))
	})
}

// OfColumn are the rights on one column alone.
func (r Rights) OfColumn(name string) Rights {
	r.Grants = slices.DeleteFunc(slices.Clone(r.Grants), func(g Grant) bool { return g.Column != name })
	r.SecurityLabels = slices.DeleteFunc(slices.Clone(r.SecurityLabels), func(l SecurityLabel) bool { return l.Column != name })
	return r
}

// WithoutRights returns a copy that says nothing of owners, grants and definers, as those
// of another server mean nothing here.
func (c *Catalog) WithoutRights() *Catalog {
	d := c.Clone()
	for _, s := range d.Schemas {
		s.dropRights()
		for _, t := range s.Tables {
			t.dropRights()
		}
	}
	return d
}

// dropRights leaves out the rights on the schema and on what is no table.
func (s *Schema) dropRights() {
	s.Rights = Rights{}
	for _, v := range s.Views {
		v.Rights = Rights{}
		for _, g := range v.Triggers {
			g.Definer = ""
		}
	}
	for _, q := range s.Sequences {
		q.Rights = Rights{}
	}
	for _, y := range s.Types {
		y.Rights = Rights{}
	}
	for _, f := range s.Routines {
		f.Rights = Rights{}
	}
	for _, o := range s.Objects {
		o.Definer = ""
	}
}

func (t *Table) dropRights() {
	t.Rights = Rights{}
	for _, g := range t.Triggers {
		g.Definer = ""
	}
	for _, o := range t.Objects {
		o.Definer = ""
	}
}
