package mariadb

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/phrase"
)

// addPartition adds a part at the end, or cuts it off from the one that took its rows so
// far (https://mariadb.com/kb/en/partition-maintenance/).
func (w *writer) addPartition(i int, it change.Item, ch change.AddPartition) {
	s := engine.Step{Title: ch.Title(), Changes: []int{i}, Answers: it.Answers, Tables: []catalog.Ref{ch.Of}, Transaction: true,
		Lock: "readers and writers of the table wait for a moment", Blocks: engine.BlocksBriefly}
	text := fmt.Sprintf("PARTITION %s %s", ident(ch.Name), ch.Bounds)
	action := fmt.Sprintf("ADD PARTITION (%s)", text)
	if rest := w.partition(ch.Of, ch.Before); rest != nil {
		action = fmt.Sprintf("REORGANIZE PARTITION %s INTO (%s, PARTITION %s %s)", ident(rest.Name), text, ident(rest.Name), rest.Bounds)
		s.Lock, s.Blocks = fmt.Sprintf("readers and writers of the table wait while the rows of partition %s are written anew", rest.Name), engine.BlocksAtWork
	}
	s.SQL = []string{fmt.Sprintf("ALTER TABLE %s %s", relation(ch.Of), action)}
	w.work.Steps = append(w.work.Steps, s)
}

func (w *writer) partition(of catalog.Ref, name string) *catalog.Partition {
	return partitionOf(w.now.Table(of), name)
}

func partitionOf(t *catalog.Table, name string) *catalog.Partition {
	if i := slices.IndexFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Name == name }); i >= 0 && name != "" {
		return t.Partitions[i]
	}
	return nil
}

// dropPartition gives the rows back to the part that took them before; where there is
// none, it drops a part that holds nothing, and fails where it holds rows by then.
func (w *writer) dropPartition(i int, it change.Item, undo change.Undo[change.AddPartition]) {
	ch := undo.Of
	s := engine.Step{Title: undo.Title(), Changes: []int{i}, Answers: it.Answers, Tables: []catalog.Ref{ch.Of}}
	if rest := w.partition(ch.Of, ch.Before); rest != nil {
		s.Transaction, s.Blocks = true, engine.BlocksAtWork
		s.Lock = "readers and writers of the table wait while the rows of both partitions are written anew"
		s.SQL = []string{fmt.Sprintf("ALTER TABLE %s REORGANIZE PARTITION %s, %s INTO (PARTITION %s %s)", relation(ch.Of), ident(ch.Name), ident(rest.Name), ident(rest.Name), rest.Bounds)}
		w.work.Steps = append(w.work.Steps, s)
		return
	}
	w.ask(it, fmt.Sprintf("rows of partition %s of %s, which would be lost", ch.Name, ch.Of), fmt.Sprintf("SELECT * FROM %s PARTITION (%s) LIMIT %d", relation(ch.Of), ident(ch.Name), shownRows))
	drop := fmt.Sprintf("ALTER TABLE %s DROP PARTITION %s", relation(ch.Of), ident(ch.Name))
	s.Lock, s.Blocks, s.CleanUp = "readers and writers of the table wait for a moment", engine.BlocksBriefly, "UNLOCK TABLES"
	s.SQL = []string{"LOCK TABLES " + relation(ch.Of) + " WRITE",
		fmt.Sprintf("SET @nexdal = IF(EXISTS (SELECT 1 FROM %s PARTITION (%s)), 'SIGNAL SQLSTATE ''45000'' SET MESSAGE_TEXT = ''the partition holds rows by now''', '%s')", relation(ch.Of), ident(ch.Name), strings.ReplaceAll(drop, "'", "''")),
		"EXECUTE IMMEDIATE @nexdal", "UNLOCK TABLES"}
	w.work.Steps = append(w.work.Steps, s)
}

// byDefault are the bounds of the part that takes what no list names.
const byDefault = "DEFAULT"

// relist gives a table all its parts anew, for as many changes in a row as concern those
// beside a part by default: where one is cut off from it, or added beside it, the engine
// (10.11) leaves rows in parts that they do not belong to, and CHECK TABLE calls the table
// damaged. It returns how many changes it took; 0: the first is none of these.
func (w *writer) relist(i int) int {
	var of catalog.Ref
	then := w.now
	var changes []int
	answers := map[string]bool{}
	s := engine.Step{Transaction: true, Blocks: engine.BlocksAtWork}
	for k := i; k < len(w.plan); k++ {
		var ch change.AddPartition
		switch c := w.plan[k].Change.(type) {
		case change.AddPartition:
			ch = c
		case change.Undo[change.AddPartition]:
			ch = c.Of
		}
		t := then.Table(ch.Of)
		if t == nil || ch.Bounds == byDefault || !slices.ContainsFunc(t.Partitions, func(p *catalog.Partition) bool { return p.Bounds == byDefault }) || len(changes) > 0 && ch.Of != of {
			break
		}
		if len(changes) == 0 {
			of, then = ch.Of, w.now.Clone()
			s.Title = w.plan[k].Change.Title()
		}
		if w.plan[k].Apply(then, Engine{}.Abilities(w.from.Engine.Version)) != nil {
			break
		}
		changes = append(changes, k)
		for _, a := range w.plan[k].Answers {
			if !answers[a] {
				answers[a], s.Answers = true, append(s.Answers, a)
			}
		}
	}
	if len(changes) == 0 {
		return 0
	}
	if n := len(changes) - 1; n > 0 {
		s.Title += fmt.Sprintf(", and %s more", phrase.Plural(int64(n), "partition"))
	}
	w.copying(i, w.plan[i], s.Title, then.Table(of), partitionText(then.Table(of)))
	last := &w.work.Steps[len(w.work.Steps)-1]
	last.Changes, last.Answers = changes, s.Answers
	last.Notes = append(last.Notes, "all parts are named anew: beside a part by default the engine does not move the rows of a single one")
	return len(changes)
}
