package catalog

// A Lookup answers the questions that scan the whole catalog, in constant
// time. It holds for as long as the catalog is not altered.
type Lookup struct {
	tables    map[Ref]*Table
	referrers map[Ref][]Referrer
	accepted  map[Ref][]Referrer
	parts     map[Ref][]*Table
	heirs     map[Ref][]*Table
	sequences map[Ref]*Sequence
}

// A Referrer is a foreign key seen from the table that it refers to.
type Referrer struct {
	Table      *Table
	ForeignKey *ForeignKey
}

// Lookup builds the answers in one pass over the catalog.
func (c *Catalog) Lookup() *Lookup {
	l := &Lookup{map[Ref]*Table{}, map[Ref][]Referrer{}, map[Ref][]Referrer{}, map[Ref][]*Table{}, map[Ref][]*Table{}, map[Ref]*Sequence{}}
	for _, s := range c.Schemas {
		for _, q := range s.Sequences {
			l.sequences[Ref{s.Name, q.Name}] = q
		}
	}
	for _, t := range c.Tables() {
		l.tables[t.Ref()] = t
		for _, f := range t.ForeignKeys {
			l.referrers[f.Target] = append(l.referrers[f.Target], Referrer{t, f})
		}
		for _, f := range t.Accepted {
			l.accepted[f.Target] = append(l.accepted[f.Target], Referrer{t, f})
		}
		if t.PartitionOf != nil {
			l.parts[*t.PartitionOf] = append(l.parts[*t.PartitionOf], t)
		}
		for _, p := range t.Inherits {
			l.heirs[p] = append(l.heirs[p], t)
		}
	}
	return l
}

// Table returns the table, or nil.
func (l *Lookup) Table(ref Ref) *Table { return l.tables[ref] }

// Sequence returns the sequence, or nil.
func (l *Lookup) Sequence(ref Ref) *Sequence { return l.sequences[ref] }

// Referrers returns the foreign keys that refer to the table, in catalog order.
func (l *Lookup) Referrers(ref Ref) []Referrer { return l.referrers[ref] }

// Accepted returns the accepted references to the table that nothing declares.
func (l *Lookup) Accepted(ref Ref) []Referrer { return l.accepted[ref] }

// Partitions returns the direct partitions of the table.
func (l *Lookup) Partitions(ref Ref) []*Table { return l.parts[ref] }

// Heirs returns the tables that inherit from the table, partitions excepted.
func (l *Lookup) Heirs(ref Ref) []*Table { return l.heirs[ref] }

// Referred reports whether a foreign key refers to the table. It looks through the whole
// catalog: where many tables are asked for, a [Lookup] is faster.
func (c *Catalog) Referred(ref Ref) bool {
	for _, s := range c.Schemas {
		for _, t := range s.Tables {
			for _, f := range t.ForeignKeys {
				if f.Target == ref {
					return true
				}
			}
		}
	}
	return false
}
