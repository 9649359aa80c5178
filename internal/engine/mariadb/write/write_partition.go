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
	"nexdal/internal/text"
)

// addPartition adds a part at the end, or cuts it off from the one that took its rows so
// far (https://mariadb.com/kb/en/partition-maintenance/).
func (w *writer) addPartition(ch change.AddPartition) {
	s := engine.Step{Title: ch.Title(), Tables: []catalog.Ref{ch.Of}, Transaction: true,
		Lock: "readers and writers of the table wait for a moment", Blocks: engine.BlocksBriefly}
	text := fmt.Sprintf("PARTITION %s %s", traits.Ident(ch.Name), ch.Bounds)
	action := fmt.Sprintf("ADD PARTITION (%s)", text)
	if rest := w.partition(ch.Of, ch.Before); rest != nil {
		action = fmt.Sprintf("REORGANIZE PARTITION %s INTO (%s, %s)", traits.Ident(rest.Name), text, partText(rest))
		s.Lock, s.Blocks = fmt.Sprintf("readers and writers of the table wait while the rows of partition %s are rewritten", rest.Name), engine.BlocksAtWork
	}
	s.SQL = []string{fmt.Sprintf("ALTER TABLE %s %s", traits.Relation(ch.Of), action)}
	w.Add(s)
}

func (w *writer) partition(of catalog.Ref, name string) *catalog.Partition {
	return partitionOf(w.Now.Table(of), name)
}

func partitionOf(t *catalog.Table, name string) *catalog.Partition {
	if i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == name }); i >= 0 && name != "" {
		return t.Partitions[i]
	}
	return nil
}

// dropPartition gives the rows back to the part that took them before; where there is
// none, it drops a part that holds nothing, and fails where it has got rows.
func (w *writer) dropPartition(undo change.Undo[change.AddPartition]) {
	ch := undo.Of
	s := engine.Step{Title: undo.Title(), Tables: []catalog.Ref{ch.Of}}
	if rest := w.partition(ch.Of, ch.Before); rest != nil {
		s.Transaction, s.Blocks = true, engine.BlocksAtWork
		s.Lock = "readers and writers of the table wait while the rows of both partitions are rewritten"
		s.SQL = []string{fmt.Sprintf("ALTER TABLE %s REORGANIZE PARTITION %s, %s INTO (%s)", traits.Relation(ch.Of), traits.Ident(ch.Name), traits.Ident(rest.Name), partText(rest))}
		w.Add(s)
		return
	}
	w.Ask(fmt.Sprintf("rows of partition %s of %s, which would be lost", ch.Name, ch.Of), fmt.Sprintf("SELECT * FROM %s PARTITION (%s) LIMIT %d", traits.Relation(ch.Of), traits.Ident(ch.Name), ddl.ShownRows))
	drop := fmt.Sprintf("ALTER TABLE %s DROP PARTITION %s", traits.Relation(ch.Of), traits.Ident(ch.Name))
	s.Lock, s.Blocks, s.CleanUp = "readers and writers of the table wait for a moment", engine.BlocksBriefly, "UNLOCK TABLES"
	s.SQL = []string{"LOCK TABLES " + traits.Relation(ch.Of) + " WRITE",
		fmt.Sprintf("SET @nexdal = IF(EXISTS (SELECT 1 FROM %s PARTITION (%s)), 'SIGNAL SQLSTATE ''45000'' SET MESSAGE_TEXT = ''the partition holds rows by now''', '%s')", traits.Relation(ch.Of), traits.Ident(ch.Name), strings.ReplaceAll(drop, "'", "''")),
		"EXECUTE IMMEDIATE @nexdal", "UNLOCK TABLES"}
	w.Add(s)
}

// byDefault are the bounds of the part that takes what no list names.
const byDefault = "DEFAULT"

// relist gives a table all its partitions again, for as many changes in a row as concern those
// beside a part by default: where one is cut off from it, or added beside it, the engine
// (10.11) leaves rows in parts that they do not belong to, and CHECK TABLE calls the table
// damaged. It returns how many changes it took; 0: the first is none of these.
func (w *writer) relist(first int) int {
	of, then, title := w.Item.Change.On(), w.Now, w.Item.Change.Title()
	n := 0
	for ; first+n < len(w.Plan); n++ {
		var ch change.AddPartition
		switch c := w.Plan[first+n].Change.(type) {
		case change.AddPartition:
			ch = c
		case change.Undo[change.AddPartition]:
			ch = c.Of
		}
		t := then.Table(of)
		if ch.Of != of || t == nil || ch.Bounds == byDefault || !slices.ContainsFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Bounds == byDefault }) {
			break
		}
		if n == 0 {
			then = w.Now.Clone()
		}
		if w.Plan[first+n].Apply(then, w.Can) != nil {
			break
		}
		if n > 0 {
			w.With(first + n)
		}
	}
	if n == 0 {
		return 0
	}
	if n > 1 {
		title += fmt.Sprintf(", and %s more", text.Plural(int64(n-1), "partition"))
	}
	s := w.copying(title, then.Table(of), partitionText(then.Table(of)))
	s.Notes = append(s.Notes, "all parts are named again: beside a part by default the engine does not move the rows of a single one")
	return n
}
