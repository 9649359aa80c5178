package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/mariadb/traits"
)

// partitionTable cuts the table up in one statement, which copies it
// (https://mariadb.com/kb/en/alter-table/, partition options).
func (w *writer) partitionTable(ch change.PartitionTable) {
	t := w.Now.Table(ch.Table)
	parts := make([]string, len(ch.Parts))
	for n, p := range ch.Parts {
		parts[n] = fmt.Sprintf("PARTITION %s %s", traits.Ident(p.Name), p.Bounds)
	}
	action := fmt.Sprintf("PARTITION BY %s (\n  %s\n)", strings.ToUpper(ch.By.Method)+strings.TrimPrefix(ch.By.Definition, ch.By.Method), strings.Join(parts, ",\n  "))
	if ch.Key != nil {
		action = fmt.Sprintf("DROP PRIMARY KEY, ADD PRIMARY KEY (%s) ", traits.Idents(ch.Key.Columns)) + action
	}
	w.copying(ch.Title(), t, action)
}

// unpartitionTable copies the rows of all parts into one table.
func (w *writer) unpartitionTable(ch change.Undo[change.PartitionTable]) {
	t := w.Now.Table(ch.On())
	w.copying(ch.Title(), t, "REMOVE PARTITIONING")
	if ch.Of.Key != nil {
		key := ch.Before.PrimaryKey.Columns
		w.AskRepeats(ch.On(), key)
		w.copying(ch.Title()+": its key", t, fmt.Sprintf("DROP PRIMARY KEY, ADD PRIMARY KEY (%s)", traits.Idents(key)))
	}
}

// copying adds a step that copies the table.
func (w *writer) copying(title string, t *catalog.Table, action string) *engine.Step {
	s := w.Step(title, w.Sized(ddl.Takes("writers of the table wait while it is copied", engine.BlocksAtWork), t.Ref()), dialect.Alter(t.Ref(), action))
	s.Notes = append(s.Notes, "room for a second copy of the table is needed until the step ends")
	return s
}

// extractPartition: https://mariadb.com/kb/en/alter-table/, CONVERT PARTITION.
func (w *writer) extractPartition(ch change.ExtractPartition) {
	w.Add(engine.Step{Title: ch.Title(), Tables: []catalog.Ref{ch.Of, ch.Ref()}, Transaction: true,
		Lock: "readers and writers of the table wait for a moment", Blocks: engine.BlocksBriefly,
		SQL: []string{fmt.Sprintf("ALTER TABLE %s CONVERT PARTITION %s TO TABLE %s", traits.Relation(ch.Of), traits.Ident(ch.Part), traits.Relation(ch.Ref()))}})
}

// mergePartition re-creates the partition, writes the rows into the whole, and drops the table once
// they are all there.
func (w *writer) mergePartition(ch change.Undo[change.ExtractPartition]) {
	whole, alone := ch.On(), ch.Of.Ref()
	at := slices.IndexFunc(ch.Before.Partitions, func(p *catalog.Partition) bool { return p.Name == ch.Of.Part })
	text := fmt.Sprintf("PARTITION %s %s", traits.Ident(ch.Of.Part), ch.Before.Partitions[at].Bounds)
	action := fmt.Sprintf("ADD PARTITION (%s)", text)
	if at+1 < len(ch.Before.Partitions) { // it took the rows of the range since
		next := ch.Before.Partitions[at+1]
		action = fmt.Sprintf("REORGANIZE PARTITION %s INTO (%s, PARTITION %s %s)", traits.Ident(next.Name), text, traits.Ident(next.Name), next.Bounds)
	}
	var columns []string
	for _, c := range w.Now.Table(alone).Columns {
		if c.Generated == "" {
			columns = append(columns, c.Name)
		}
	}
	step := func(title, lock string, sql string) {
		w.Add(engine.Step{Title: title, Tables: []catalog.Ref{whole, alone}, Transaction: true, Lock: lock, Blocks: engine.BlocksAtWork, SQL: []string{sql}})
	}
	step(ch.Title()+": make the partition", "readers and writers of the table wait while the rows of the next partition are rewritten", fmt.Sprintf("ALTER TABLE %s %s", traits.Relation(whole), action))
	step(ch.Title(), "the rows that are written", fmt.Sprintf("INSERT INTO %s (%s)\n  SELECT %[2]s FROM %s", traits.Relation(whole), traits.Idents(columns), traits.Relation(alone)))
	step(ch.Title()+": drop the table", "users of the table wait for a moment", "DROP TABLE "+traits.Relation(alone))
}
