package oracle

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// indexed is the table of an index, and the index.
func (s *Session) indexed(ref catalog.Ref) (*catalog.Table, *catalog.Index) {
	if schema := s.d.Catalog.Schema(ref.Schema); schema != nil {
		for _, t := range schema.Tables {
			if x := t.Index(ref.Table); x != nil {
				return t, x
			}
		}
	}
	return nil, nil
}

// suits says what the engine would have against an index.
func (s *Session) suits(t *catalog.Table, x *catalog.Index) error {
	if of, _ := s.indexed(catalog.Ref{Schema: t.Schema, Table: x.Name}); of != nil {
		return refuse(955, "name is already used by an existing object")
	}
	for _, p := range x.Parts {
		col := t.Column(p.Column)
		if col == nil && p.Expression == "" {
			return &standin.Fault{Kind: standin.NoColumn, Name: p.Column, Table: t.Ref()}
		}
		if col != nil && slices.Contains([]string{"CLOB", "NCLOB", "BLOB", "LONG", "LONG RAW"}, col.Type.Native) {
			return refuse(2327, "cannot create index on expression with datatype LOB")
		}
	}
	if len(x.Parts) > 32 {
		return refuse(1793, "maximum number of index columns is 32")
	}
	for _, o := range t.Indexes {
		if slices.Equal(o.Parts, x.Parts) && !o.Ignored && !x.Ignored {
			return refuse(1408, "such column list already indexed")
		}
	}
	return nil
}

func index(unique bool, method string) func(*Session, context.Context, *grammar.Cursor) error {
	return func(s *Session, ctx context.Context, c *grammar.Cursor) error {
		name := s.ref(c)
		x := &catalog.Index{Name: name.Table, Origin: catalog.ByPerson, Method: method, Unique: unique}
		c.Need("ON")
		ref := s.ref(c)
		t, err := s.d.Table(ref)
		if err != nil {
			if v := s.d.View(ref); v != nil && v.Materialised {
				return nil
			}
			return err
		}
		c.List(func() { x.Parts = append(x.Parts, part(c)) })
		var storage []string
		for !c.Done() && !c.Is(";") && !c.Is(")") {
			switch {
			case c.Take("ONLINE"):
				if s.d.edition != Enterprise {
					return refuse(439, "feature not enabled: Online Index Build")
				}
			case c.Take("TABLESPACE"):
				s.d.more.spaces["index "+name.String()] = c.Name()
			case c.Take("INVISIBLE"):
				x.Ignored = true
			case c.Take("VISIBLE"), c.Take("NOLOGGING"):
			case c.Take("PARALLEL"):
				c.Number()
			case c.Take("REVERSE"):
				storage = append(storage, "REVERSE")
			case c.Take("LOCAL"):
				if t.PartitionBy == nil {
					return refuse(14016, "underlying table of a LOCAL partitioned index must be partitioned")
				}
				if unique && !catalog.Within(t.PartitionBy.Columns, x.Columns()) {
					return refuse(14039, "partitioning columns must form a subset of key columns of a UNIQUE index")
				}
				storage = append(storage, "LOCAL")
			case c.Take("COMPRESS", "ADVANCED"):
				storage = append(storage, "COMPRESS ADVANCED "+c.OneOf("LOW", "HIGH"))
			default:
				c.Need("COMPRESS")
				storage = append(storage, fmt.Sprintf("COMPRESS %d", c.Number()))
			}
		}
		x.Storage = strings.Join(storage, " ")
		if err := s.suits(t, x); err != nil {
			return err
		}
		return s.AddIndex(ctx, ref, x)
	}
}

// part reads a column or an expression of an index.
func part(c *grammar.Cursor) catalog.IndexPart {
	text := c.Until("DESC", "ASC")
	var p catalog.IndexPart
	inner := grammar.New((&Dictionary{}).Lexis(), text, bare)
	if name := ""; grammar.Read(func() { name = inner.Name(); inner.End() }) == nil {
		p.Column = name
	} else {
		p.Expression = expression(text)
	}
	if p.Descending = c.Take("DESC"); !p.Descending {
		c.Take("ASC")
	}
	return p
}

// expression is one as the dictionary keeps it: columns in quotes, words in capitals, no blanks.
func expression(text string) string {
	var b strings.Builder
	d := (&Dictionary{}).Lexis()
	tokens := d.Tokens(text)
	for i, t := range tokens {
		switch {
		case t.Blank():
		case t.Kind == sqllex.Word && i+1 < len(tokens) && tokens[i+1].Is("("): // a function
			b.WriteString(strings.ToUpper(t.Text))
		case t.Kind == sqllex.Word:
			b.WriteString(quoted(strings.ToUpper(t.Text)))
		default:
			b.WriteString(t.Text)
		}
	}
	return b.String()
}

func (s *Session) alterIndex(ctx context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	t, x := s.indexed(ref)
	if x == nil {
		return refuse(1418, "specified index does not exist")
	}
	switch {
	case c.Take("INVISIBLE"):
		x.Ignored = true
	case c.Take("VISIBLE"):
		x.Ignored = false
	case c.Take("UNUSABLE"):
		x.Invalid = true
	case c.Take("RENAME", "TO"):
		name := c.Name()
		if of, _ := s.indexed(catalog.Ref{Schema: ref.Schema, Table: name}); of != nil {
			return refuse(955, "name is already used by an existing object")
		}
		for _, k := range t.Keys() {
			if k.Index == x.Name {
				k.Index = name
			}
		}
		for _, o := range s.d.Catalog.Tables() {
			for _, f := range o.ForeignKeys {
				if f.Target == t.Ref() && f.TargetIndex == x.Name {
					f.TargetIndex = name
				}
			}
		}
		if space, ok := s.d.more.spaces["index "+ref.String()]; ok {
			s.d.more.spaces["index "+ref.Schema+"."+name] = space
		}
		x.Name = name
	default:
		c.Need("REBUILD")
		if c.Take("PARTITION") {
			c.Name()
			if !strings.Contains(x.Storage, "LOCAL") {
				return refuse(14080, "partition cannot be split along the specified high bound")
			}
		} else if strings.Contains(x.Storage, "LOCAL") {
			return refuse(14086, "a partitioned index may not be rebuilt as a whole")
		}
		if c.Take("ONLINE") && s.d.edition != Enterprise {
			return refuse(439, "feature not enabled: Online Index Build")
		}
		x.Invalid = false
	}
	return s.Guard(ctx, t)
}

func (s *Session) dropIndex(ctx context.Context, c *grammar.Cursor) error {
	ref := s.ref(c)
	if c.Take("ONLINE") && s.d.edition != Enterprise {
		return refuse(439, "feature not enabled: Online Index Drop")
	}
	t, x := s.indexed(ref)
	switch {
	case x == nil:
		return refuse(1418, "specified index does not exist")
	case x.Origin != catalog.ByPerson:
		return refuse(2429, "cannot drop index used for enforcement of unique/primary key")
	}
	t.Indexes = slices.DeleteFunc(t.Indexes, func(o *catalog.Index) bool { return o == x })
	return s.Guard(ctx, t)
}
