package write

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/postgres/traits"
)

func (w *writer) createIndex(ch change.CreateIndex) {
	w.askUnique(ch.Table, ch.Index)
	t := w.Now.Table(ch.Table)
	if t != nil && t.Kind == catalog.Partitioned {
		w.createPartitioned(ch)
		return
	}
	w.buildIndex(ch.Title(), ch.Table, ch.Index)
}

// askUnique asks for what a unique index would refuse, expressions and a predicate
// included (https://www.postgresql.org/docs/current/indexes-unique.html).
func (w *writer) askUnique(table catalog.Ref, x *catalog.Index) {
	if t := w.From.Table(table); !x.Unique || t == nil || !t.HasColumns(x.NamedColumns()) {
		return
	}
	var parts, conditions []string
	if x.Predicate != "" {
		conditions = append(conditions, "("+x.Predicate+")")
	}
	for _, p := range x.Parts {
		part := "(" + p.Expression + ")"
		if p.Column != "" {
			part = traits.Ident(p.Column)
		}
		if parts = append(parts, part); !x.NullsNotDistinct {
			conditions = append(conditions, part+" IS NOT NULL")
		}
	}
	w.AskRepeatsBy(table, strings.Join(parts, ", "), strings.Join(conditions, " AND "))
}

// buildIndex adds the step that builds one index without blocking writers
// (https://www.postgresql.org/docs/current/sql-createindex.html, "Building
// Indexes Concurrently"). An index that was there before is made by its own
// text.
func (w *writer) buildIndex(title string, table catalog.Ref, x *catalog.Index) {
	create := indexText(x, table, "CONCURRENTLY ")
	if x.Definition != "" {
		create = strings.Replace(x.Definition, " INDEX ", " INDEX CONCURRENTLY ", 1)
	}
	l := w.Sized(lockNone, table)
	if l != lockNone {
		l.Says += " twice"
	}
	s := engine.Step{Title: title, Lock: l.Says, Blocks: l.Blocks,
		Notes:   []string{"waits for transactions that are older than itself"},
		CleanUp: "DROP INDEX CONCURRENTLY IF EXISTS " + traits.Qualified(table.Schema, x.Name)}
	if x.Tablespace != "" && x.Definition != "" {
		s.SQL = []string{"SET default_tablespace = " + traits.Ident(x.Tablespace), create, "RESET default_tablespace"}
	} else {
		s.SQL = []string{create}
	}
	if x.Comment != "" {
		s.SQL = append(s.SQL, fmt.Sprintf("COMMENT ON INDEX %s IS %s", traits.Qualified(table.Schema, x.Name), traits.Literal(x.Comment)))
	}
	if !standsBehind(x) {
		s.SQL = append(s.SQL, pinned(table, x)...)
	}
	s.SQL = patient(s.SQL...)
	w.Add(s)
}

// standsBehind reports whether the index is a key's, which pins it once it is one.
func standsBehind(x *catalog.Index) bool {
	return x.Origin == catalog.ByPrimaryKey || x.Origin == catalog.ByUniqueKey
}

func indexText(x *catalog.Index, table catalog.Ref, how string) string {
	parts := make([]string, len(x.Parts))
	for i, p := range x.Parts {
		parts[i] = p.Expression
		if p.Column != "" {
			parts[i] = traits.Ident(p.Column)
		}
		if p.Collation != "" {
			parts[i] += " COLLATE " + traits.CollationName(p.Collation)
		}
		if p.OpClass != "" {
			parts[i] += " " + traits.CollationName(p.OpClass)
		}
		if p.Descending {
			parts[i] += " DESC"
		}
		if p.Nulls != "" {
			parts[i] += " NULLS " + strings.ToUpper(p.Nulls)
		}
	}
	unique, only := "", ""
	if x.Unique {
		unique = "UNIQUE "
	}
	if how == onlyThis {
		how, only = "", "ONLY "
	}
	text := fmt.Sprintf("CREATE %sINDEX %s%s ON %s%s USING %s (%s)", unique, how, traits.Ident(x.Name), only, traits.Relation(table), x.Method, strings.Join(parts, ", "))
	if len(x.Include) > 0 {
		text += " INCLUDE (" + traits.Idents(x.Include) + ")"
	}
	if x.NullsNotDistinct {
		text += " NULLS NOT DISTINCT"
	}
	if x.Storage != "" {
		text += " WITH (" + x.Storage + ")"
	}
	if x.Tablespace != "" {
		text += " TABLESPACE " + traits.Ident(x.Tablespace)
	}
	if x.Predicate != "" {
		text += " WHERE " + stable(x.Predicate)
	}
	return text
}

// onlyThis makes indexText write the index of a partitioned table alone.
const onlyThis = "ONLY"

// createPartitioned builds the index partition by partition and attaches each
// to the one of the whole, which becomes valid with the last
// (https://www.postgresql.org/docs/current/ddl-partitioning.html 5.11.2.2).
func (w *writer) createPartitioned(ch change.CreateIndex) {
	w.Step(ch.Title()+": declare it", lockExclusive, indexText(ch.Index, ch.Table, onlyThis))
	for _, p := range ch.Partitions {
		share := *ch.Index
		share.Name, share.Definition = p.Name, ""
		title := fmt.Sprintf("create index %s on partition %s", p.Name, p.Table)
		if t := w.Now.Table(p.Table); t != nil && t.Kind == catalog.Partitioned {
			w.Step(title+": declare it", lockExclusive, indexText(&share, p.Table, onlyThis))
		} else {
			w.buildIndex(title, p.Table, &share)
		}
	}
	for i := len(ch.Partitions) - 1; i >= 0; i-- { // the deepest first
		p := ch.Partitions[i]
		parent := traits.Qualified(ch.Table.Schema, p.Parent)
		if p.Parent != ch.Index.Name {
			for _, up := range ch.Partitions {
				if up.Name == p.Parent {
					parent = traits.Qualified(up.Table.Schema, p.Parent)
				}
			}
		}
		w.Step(fmt.Sprintf("attach index %s to %s", p.Name, p.Parent), lockExclusive,
			fmt.Sprintf("ALTER INDEX %s ATTACH PARTITION %s", parent, traits.Qualified(p.Table.Schema, p.Name)))
	}
}

// completeIndex builds what partitions lack and attaches it.
func (w *writer) completeIndex(ch change.CompleteIndex) {
	for _, p := range ch.Partitions {
		share := *ch.Index
		share.Name, share.Definition = p.Name, ""
		w.buildIndex(fmt.Sprintf("create index %s on partition %s", p.Name, p.Table), p.Table, &share)
		s := w.Step(fmt.Sprintf("attach index %s to %s", p.Name, p.Parent), lockExclusive,
			fmt.Sprintf("ALTER INDEX %s ATTACH PARTITION %s", traits.Qualified(ch.Table.Schema, p.Parent), traits.Qualified(p.Table.Schema, p.Name)))
		s.Notes = append(s.Notes, "not taken back: a share of an index cannot be taken off again")
	}
}

func (w *writer) dropIndex(ch change.DropIndex) {
	name := traits.Qualified(ch.Table.Schema, ch.Name)
	if t := w.Now.Table(ch.Table); t != nil && t.Kind == catalog.Partitioned {
		w.Step(ch.Title(), lockParts, "DROP INDEX "+name)
		return
	}
	w.Add(engine.Step{Title: ch.Title(), Lock: lockNone.Says, Notes: []string{"waits for transactions that use the table"},
		SQL: patient("DROP INDEX CONCURRENTLY " + name)})
}
