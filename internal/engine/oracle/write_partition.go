package oracle

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
)

// partition is the part of that name, or nil.
func partition(t *catalog.Table, name string) *catalog.Partition {
	if i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == name }); i >= 0 && name != "" {
		return t.Partitions[i]
	}
	return nil
}

// between takes the values out of VALUES LESS THAN (...) and VALUES (...).
func between(bounds string) string {
	_, values, _ := strings.Cut(bounds, "(")
	return strings.TrimSuffix(values, ")")
}

// addPartition adds a part at the end, or splits it off from the one that took its rows so far
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/ALTER-TABLE.html, split_table_partition).
func (w *writer) addPartition(ch change.AddPartition) {
	t := w.Now.Table(ch.Of)
	rest := partition(t, ch.Before)
	if rest == nil {
		s := w.brief(ch.Title(), w.Alter(ch.Of, fmt.Sprintf("ADD PARTITION %s %s", ident(ch.Name), ch.Bounds)))
		s.Tables = []catalog.Ref{ch.Of}
		return
	}
	how := "AT"
	if t.PartitionBy.Method == "list" {
		how = "VALUES"
	}
	sql := w.Alter(ch.Of, fmt.Sprintf("SPLIT PARTITION %s %s (%s) INTO (PARTITION %s, PARTITION %[1]s) UPDATE INDEXES%[5]s", ident(rest.Name), how, between(ch.Bounds), ident(ch.Name), strings.Join(append([]string{""}, w.online(t)...), " ")))
	l := ddl.Takes("writers of the table wait for a moment; the rows of partition "+rest.Name+" are looked at", engine.BlocksBriefly)
	if !w.beside {
		l = ddl.Takes("writers of partition "+rest.Name+" wait while its rows are moved", engine.BlocksAtWork)
	}
	w.Step(ch.Title(), l, sql)
}

// dropPartition gives the rows back to the part that took them before; where there is none, it
// drops a part that holds nothing.
func (w *writer) dropPartition(undo change.Undo[change.AddPartition]) {
	ch := undo.Of
	if rest := partition(w.Now.Table(ch.Of), ch.Before); rest != nil {
		w.Step(undo.Title(), ddl.Takes("writers of both partitions wait while their rows are moved", engine.BlocksAtWork),
			w.Alter(ch.Of, fmt.Sprintf("MERGE PARTITIONS %s, %s INTO PARTITION %[2]s UPDATE INDEXES", ident(ch.Name), ident(rest.Name))))
		return
	}
	w.Ask(fmt.Sprintf("rows of partition %s of %s, which would be lost", ch.Name, ch.Of), quoting.First(ddl.ShownRows, fmt.Sprintf("SELECT * FROM %s PARTITION (%s)", relation(ch.Of), ident(ch.Name))))
	w.brief(undo.Title(), w.Alter(ch.Of, "DROP PARTITION "+ident(ch.Name)+" UPDATE INDEXES"))
}

// partitionTable: from 12.2 on, while others write
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/ALTER-TABLE.html, modify_to_partitioned).
func (w *writer) partitionTable(ch change.PartitionTable) {
	parts := make([]string, len(ch.Parts))
	for i, p := range ch.Parts {
		parts[i] = "PARTITION " + ident(p.Name) + " " + p.Bounds
	}
	t := w.Now.Table(ch.Table)
	sql := w.Alter(ch.Table, fmt.Sprintf("MODIFY PARTITION BY %s (\n  %s\n)%s", ch.By.Definition, strings.Join(parts, ",\n  "), strings.Join(append([]string{""}, w.online(t)...), " ")))
	s := w.Step(ch.Title(), w.Sized(ddl.Takes(forNobody, engine.BlocksBriefly), ch.Table), sql)
	s.Notes = append(s.Notes, "room for a second copy of the table is needed until the step ends", "no statement makes it one table again")
}
