package sqlserver

import (
	"cmp"
	"context"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin/grammar"
)

func (s *client) createFunction(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	c.Need("(")
	f := &partitionFunction{kind: s.readType(c)}
	c.Need(")")
	c.Need("AS", "RANGE")
	f.right = c.Take("RIGHT")
	_ = f.right || c.Take("LEFT")
	c.Need("FOR", "VALUES")
	c.List(func() { f.values = append(f.values, c.Until()) })
	if s.db.more.functions[name] != nil {
		return refuse(7706, "Partition function '%s' already exists in the current database.", name)
	}
	s.db.more.functions[name] = f
	return nil
}

func (s *client) createScheme(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	c.Need("AS", "PARTITION")
	function := c.Name()
	f := s.db.more.functions[function]
	if f == nil {
		return refuse(7716, "Partition function '%s' does not exist.", function)
	}
	all := c.Take("ALL")
	c.Need("TO")
	groups := c.Names()
	if !all && len(groups) < len(f.values)+1 {
		return refuse(7707, "The associated partition function '%s' generates more partitions than there are file groups mentioned in the scheme '%s'.", function, name)
	}
	s.db.more.schemes[name] = &partitionScheme{function: function, next: all}
	return nil
}

// alterFunction cuts a part in two, for which every scheme has to have named a filegroup, or puts
// two together
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-partition-function-transact-sql).
func (s *client) alterFunction(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	c.Need("(")
	c.Need(")")
	does := c.OneOf("SPLIT", "MERGE")
	c.Need("RANGE", "(")
	value := c.Upto(")")
	c.Need(")")
	old := s.db.more.functions[name]
	if old == nil {
		return refuse(7716, "Partition function '%s' does not exist.", name)
	}
	f := *old
	f.values = slices.Clone(old.values)
	is := func(v string) bool { return s.db.valueOf(&f, v) == s.db.valueOf(&f, value) }
	at := slices.IndexFunc(f.values, is)
	if does == "MERGE" {
		if at < 0 {
			return refuse(7715, "The specified partition range value could not be found.")
		}
		f.values = slices.Delete(f.values, at, at+1)
		s.db.more.functions[name] = &f
		return nil
	}
	if at >= 0 {
		return refuse(7721, "Duplicate range boundary values are not allowed in partition function boundary values list.")
	}
	for scheme, p := range s.db.more.schemes {
		if p.function != name {
			continue
		}
		if !p.next {
			return refuse(7710, "The partition scheme '%s' does not have any next used filegroup. Partition scheme has not been changed.", scheme)
		}
		s.db.more.schemes[scheme] = &partitionScheme{function: name}
	}
	f.values = append(f.values, value)
	slices.SortFunc(f.values, func(a, b string) int { return s.db.compared(&f, a, b) })
	s.db.more.functions[name] = &f
	return nil
}

func (s *client) alterScheme(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	c.Need("NEXT", "USED")
	group := c.Name()
	p := s.db.more.schemes[name]
	switch {
	case p == nil:
		return refuse(7717, "The partition scheme '%s' does not exist.", name)
	case group != "PRIMARY" && group != "default":
		return refuse(1921, "Invalid filegroup '%s' specified.", group)
	}
	s.db.more.schemes[name] = &partitionScheme{function: p.function, next: true}
	return nil
}

func (s *client) dropFunction(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	if s.db.more.functions[name] == nil {
		return refuse(3701, "Cannot drop the partition function '%s', because it does not exist or you do not have permission.", name)
	}
	for _, p := range s.db.more.schemes {
		if p.function == name {
			return refuse(7706, "Partition function '%s' is being used by one or more partition schemes.", name)
		}
	}
	delete(s.db.more.functions, name)
	return nil
}

func (s *client) dropScheme(_ context.Context, c *grammar.Cursor) error {
	name := c.Name()
	if s.db.more.schemes[name] == nil {
		return refuse(3701, "Cannot drop the partition scheme '%s', because it does not exist or you do not have permission.", name)
	}
	for _, t := range s.db.Catalog.Tables() {
		if t.PartitionBy != nil && t.PartitionBy.Definition == name || slices.ContainsFunc(t.Indexes, func(x *catalog.Index) bool { return lies(x, name) }) {
			return refuse(7717, "The partition scheme '%s' is currently being used to partition one or more tables.", name)
		}
	}
	delete(s.db.more.schemes, name)
	return nil
}

// lies reports whether the index lies on the scheme.
func lies(x *catalog.Index, scheme string) bool {
	name, _, split := strings.Cut(x.Tablespace, "(")
	return split && name == scheme
}

// compared orders two boundaries: numbers by their values, moments as they are written.
func (d *database) compared(f *partitionFunction, a, b string) int {
	x, y := d.valueOf(f, a), d.valueOf(f, b)
	m, err1 := strconv.ParseFloat(x, 64)
	n, err2 := strconv.ParseFloat(y, 64)
	if err1 == nil && err2 == nil {
		return cmp.Compare(m, n)
	}
	return strings.Compare(x, y)
}
