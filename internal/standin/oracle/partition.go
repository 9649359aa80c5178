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

// partitioned reads what stands behind PARTITION BY. Bounds are kept as HIGH_VALUE has them.
func (m *making) partitioned(c *grammar.Cursor, t *catalog.Table) {
	by := &catalog.PartitionKey{}
	t.PartitionBy = by
	if c.Take("REFERENCE") {
		names := c.Names()
		by.Method, by.Definition = "reference", names[0]
	} else {
		by.Method = strings.ToLower(c.OneOf("RANGE", "LIST", "HASH"))
		by.Columns = c.Names()
		for _, n := range by.Columns {
			if t.Column(n) == nil {
				grammar.Fail(&standin.Fault{Kind: standin.NoColumn, Name: n, Table: t.Ref()})
			}
		}
	}
	switch {
	case c.Take("INTERVAL"):
		by.Definition = c.Bracketed()
	case c.Take("AUTOMATIC"):
		by.Definition = "AUTOMATIC"
	}
	if c.Take("SUBPARTITION", "BY") {
		by.Sub = &catalog.PartitionKey{Method: strings.ToLower(c.OneOf("RANGE", "LIST", "HASH")), Columns: c.Names()}
	}
	c.List(func() { t.Partitions = append(t.Partitions, m.part(c, t, by, "PARTITION")) })
}

// part reads PARTITION name [VALUES ...] [TABLESPACE ...] [(SUBPARTITION ...)].
func (m *making) part(c *grammar.Cursor, t *catalog.Table, by *catalog.PartitionKey, word string) *catalog.Partition {
	c.Need(word)
	p := &catalog.Partition{Name: c.Name()}
	switch {
	case c.Take("VALUES", "LESS", "THAN"):
		p.Bounds = m.s.high(t, by, c.Bracketed())
	case c.Take("VALUES"):
		p.Bounds = m.s.high(t, by, c.Bracketed())
	}
	if p.Bounds == "" && (by.Method == "range" || by.Method == "list") {
		c.Need("VALUES")
	}
	if c.Take("TABLESPACE") {
		p.Options = []string{c.Name()}
	}
	if c.Is("(") && by.Sub != nil {
		c.List(func() { p.Parts = append(p.Parts, m.part(c, t, by.Sub, "SUBPARTITION")) })
	}
	return p
}

// high are values as HIGH_VALUE shows them: moments in full.
func (s *Session) high(t *catalog.Table, by *catalog.PartitionKey, values string) string {
	var parts []string
	for i, value := range s.split2(values) {
		var col *catalog.Column
		if i < len(by.Columns) && by.Method == "range" {
			col = t.Column(by.Columns[i])
		}
		if col != nil && col.Type.Family == catalog.Timestamp && !strings.EqualFold(value, "MAXVALUE") {
			a, err := s.Ask(context.Background(), "SELECT "+value)
			if err != nil {
				grammar.Fail(refuse(14019, "partition bound element must be one of: string, datetime or interval literal, number, or MAXVALUE"))
			}
			at, err := momentOf(asText(a.Rows[0][0]))
			grammar.Check(err)
			value = "TIMESTAMP' " + at.Format("2006-01-02 15:04:05") + "'"
			if col.Type.Native == "DATE" {
				value = "TO_DATE(' " + at.Format("2006-01-02 15:04:05") + "', 'SYYYY-MM-DD HH24:MI:SS', 'NLS_CALENDAR=GREGORIAN')"
			}
		}
		parts = append(parts, value)
	}
	return strings.Join(parts, ", ")
}

// split2 cuts values at the commas between them.
func (s *Session) split2(text string) []string {
	var all []string
	depth, start := 0, 0
	for _, t := range s.d.Lexis().Tokens(text) {
		switch {
		case t.Is("("):
			depth++
		case t.Is(")"):
			depth--
		case t.Is(",") && depth == 0:
			all, start = append(all, strings.TrimSpace(text[start:t.Start])), t.End
		}
	}
	return append(all, strings.TrimSpace(text[start:]))
}

// bound is a value as the rows are kept by, in SQLite's words.
func (d *Dictionary) bound(text string) string {
	var b strings.Builder
	for _, tok := range d.Lexis().Tokens(text) {
		if tok.Kind == sqllex.String {
			if at, err := momentOf(tok.Name()); err == nil && (strings.Contains(text, "TO_DATE") || strings.Contains(text, "TIMESTAMP")) {
				return "'" + at.Format("2006-01-02 15:04:05") + "'"
			}
		}
		b.WriteString(tok.Text)
	}
	return b.String()
}

// condition is that of the rows of a part, in SQLite's words; 1 where it is not known.
func (d *Dictionary) condition(t *catalog.Table, name string) string {
	if t.PartitionBy == nil || len(t.PartitionBy.Columns) == 0 {
		return "1"
	}
	column := standin.Quote(t.PartitionBy.Columns[0])
	value := d.bound
	s := &Session{d: d}
	low := ""
	var others []string
	for _, p := range t.Partitions {
		values := s.split2(p.Bounds)
		switch {
		case t.PartitionBy.Method == "list" && strings.EqualFold(p.Bounds, "DEFAULT"):
			if p.Name == name {
				for _, o := range t.Partitions {
					if o != p {
						others = append(others, s.split2(o.Bounds)...)
					}
				}
				return column + " IS NULL OR " + column + " NOT IN (" + strings.Join(others, ", ") + ")"
			}
		case t.PartitionBy.Method == "list":
			if p.Name == name {
				return column + " IN (" + p.Bounds + ")"
			}
		case t.PartitionBy.Method == "range":
			if p.Name == name {
				var parts []string
				if low != "" {
					parts = append(parts, column+" >= "+low)
				}
				if !strings.EqualFold(values[0], "MAXVALUE") {
					parts = append(parts, column+" < "+value(values[0]))
				} else if low != "" {
					parts[0] = "(" + parts[0] + " OR " + column + " IS NULL)"
				}
				if len(parts) == 0 {
					return "1"
				}
				return strings.Join(parts, " AND ")
			}
			low = value(values[0])
		}
	}
	return "1"
}

func (s *Session) find(t *catalog.Table, name string) int {
	at := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == name })
	if at < 0 {
		grammar.Fail(refuse(2149, "Specified partition does not exist"))
	}
	return at
}

func (s *Session) addPartition(ctx context.Context, c *grammar.Cursor, t *catalog.Table) error {
	if t.PartitionBy == nil {
		return refuse(14501, "object is not partitioned")
	}
	if n := len(t.Partitions); n > 0 && (strings.HasPrefix(strings.ToUpper(t.Partitions[n-1].Bounds), "MAXVALUE") || strings.EqualFold(t.Partitions[n-1].Bounds, "DEFAULT")) {
		return refuse(14074, "partition bound must collate higher than that of the last partition")
	}
	m := &making{s: s, t: t}
	p := &catalog.Partition{Name: c.Name()}
	if slices.ContainsFunc(t.Partitions, func(o *catalog.Partition) bool { return o.Name == p.Name }) {
		return refuse(14013, "duplicate partition name")
	}
	c.Need("VALUES")
	if t.PartitionBy.Method == "range" {
		c.Need("LESS", "THAN")
	}
	p.Bounds = m.s.high(t, t.PartitionBy, c.Bracketed())
	c.Take("UPDATE", "INDEXES")
	if n := len(t.Partitions); n > 0 && t.PartitionBy.Method == "range" && len(t.PartitionBy.Columns) == 1 && !strings.EqualFold(p.Bounds, "MAXVALUE") {
		above, err := s.d.Count(ctx, fmt.Sprintf("SELECT %s < %s", s.d.bound(t.Partitions[n-1].Bounds), s.d.bound(p.Bounds)))
		if err != nil {
			return err
		}
		if above == 0 {
			return refuse(14074, "partition bound must collate higher than that of the last partition")
		}
	}
	t.Partitions = append(t.Partitions, p)
	return nil
}

// split cuts a part in two: the first takes what the values say.
func (s *Session) split(_ context.Context, c *grammar.Cursor, t *catalog.Table) error {
	at := s.find(t, c.Name())
	if t.PartitionBy.Method == "list" {
		c.Need("VALUES")
	} else {
		c.Need("AT")
	}
	values := s.high(t, t.PartitionBy, c.Bracketed())
	c.Need("INTO")
	var names []string
	c.List(func() { c.Need("PARTITION"); names = append(names, c.Name()) })
	c.Take("UPDATE", "INDEXES")
	if c.Take("ONLINE") && s.d.edition != Enterprise {
		return refuse(439, "feature not enabled: Online partition operations")
	}
	if len(names) != 2 {
		return refuse(14049, "invalid ALTER TABLE SPLIT PARTITION option")
	}
	old := t.Partitions[at]
	t.Partitions = slices.Replace(t.Partitions, at, at+1, &catalog.Partition{Name: names[0], Bounds: values, Options: old.Options}, &catalog.Partition{Name: names[1], Bounds: old.Bounds, Options: old.Options})
	return nil
}

func (s *Session) merge(_ context.Context, c *grammar.Cursor, t *catalog.Table) error {
	first := s.find(t, c.Name())
	c.Need(",")
	second := s.find(t, c.Name())
	c.Need("INTO", "PARTITION")
	name := c.Name()
	c.Take("UPDATE", "INDEXES")
	if second != first+1 && t.PartitionBy.Method == "range" {
		return refuse(14274, "partitions being merged are not adjacent")
	}
	p := &catalog.Partition{Name: name, Bounds: t.Partitions[second].Bounds, Options: t.Partitions[second].Options}
	if t.PartitionBy.Method == "list" && !strings.EqualFold(p.Bounds, "DEFAULT") {
		p.Bounds = t.Partitions[first].Bounds + ", " + p.Bounds
	}
	t.Partitions[second] = p
	t.Partitions = slices.Delete(t.Partitions, first, first+1)
	return nil
}

func (s *Session) dropPartition(ctx context.Context, c *grammar.Cursor, t *catalog.Table) error {
	name := c.Name()
	at := s.find(t, name)
	c.Take("UPDATE", "INDEXES")
	if len(t.Partitions) == 1 {
		return refuse(14083, "cannot drop the only partition of a partitioned table")
	}
	if err := s.d.Do(ctx, fmt.Sprintf("DELETE FROM %s WHERE %s", s.d.Stored(t.Ref()), s.d.condition(t, name))); err != nil {
		return err
	}
	t.Partitions = slices.Delete(t.Partitions, at, at+1)
	return nil
}

// modifyPartition cuts a table up in place; rows have to find a part.
func (s *Session) modifyPartition(ctx context.Context, c *grammar.Cursor, t *catalog.Table) error {
	if t.PartitionBy != nil {
		return refuse(14427, "table cannot be modified to partitioned: it is already")
	}
	m := &making{s: s, t: t}
	m.partitioned(c, t)
	if c.Take("ONLINE") && s.d.edition != Enterprise {
		return refuse(439, "feature not enabled: Online table operations")
	}
	var parts []string
	for _, p := range t.Partitions {
		parts = append(parts, "("+s.d.condition(t, p.Name)+")")
	}
	n, err := s.d.Count(ctx, fmt.Sprintf("SELECT count(*) FROM %s WHERE NOT (%s)", s.d.Stored(t.Ref()), strings.Join(parts, " OR ")))
	if err == nil && n > 0 {
		return refuse(14400, "inserted partition key does not map to any partition")
	}
	return err
}
