package write

import (
	"cmp"
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
)

// definer is what every text that is rewritten comes with.
const definer = "from then on it acts with the rights of whoever runs the script (the engine's DEFINER)"

// refusesText says why what stands by its own text cannot be given another, or "".
func refusesText(c *catalog.Catalog, ch change.Change) string {
	switch ch := ch.(type) {
	case change.ReplaceView:
		if ch.New.Definition == "" {
			return fmt.Sprintf("the query of %s.%s was not read", ch.Schema, ch.New.Name)
		}
	case change.ReplaceRoutine:
		if ch.New.Definition == "" || ch.Old.Kind != ch.New.Kind {
			return "its text was not read, or is of another kind"
		}
	case change.AlterSequence:
		if ch.Old.Comment != ch.New.Comment {
			return "the comment on a sequence is written with it alone"
		}
		if from, to := ch.Old.OwnedBy, ch.New.OwnedBy; from != to && (from == nil || to == nil || *from != *to) {
			return "MariaDB has no statement for it"
		}
	case change.ReplaceTrigger:
		if ch.New == nil {
			return ""
		}
		if ch.New.Definition == "" {
			return "its text was not read"
		}
	case change.SetComment:
		if ch.Kind == change.OnColumn {
			return refusesColumn(c, c.Table(ch.Table), ch.Name)
		}
		if ch.Kind != change.OnTable {
			return "the comment on it is written with it alone"
		}
	}
	return ""
}

// text adds a step of one statement that replaces what is there, under the mode that it
// was written under (https://mariadb.com/kb/en/create-view/, OR REPLACE).
func (w *writer) text(title, schema, mode, sql, by, old string, tables ...catalog.Ref) {
	s := engine.Step{Title: title, Tables: tables, Lock: "who uses it waits for a moment", Blocks: engine.BlocksBriefly}
	if by == "" {
		s.Notes = []string{definer}
	}
	if mode == "" {
		mode = plainMode
	}
	if rest, ok := strings.CutPrefix(sql, "CREATE OR REPLACE "); ok {
		sql = "CREATE " + rest
	}
	use := []string{"USE " + traits.Ident(schema), "SET SESSION sql_mode = '" + mode + "'"}
	if drop := w.dropFirst(old); drop != "" {
		s.SQL = append(use, drop, defined(sql, by), strictMode)
		s.Notes = append(s.Notes, "between the two statements it is not there: writers come by without it")
	} else {
		s.SQL = append(use, "CREATE OR REPLACE "+strings.TrimPrefix(defined(sql, by), "CREATE "), strictMode)
	}
	w.Add(s)
}

// dropFirst is the statement that drops what is to be replaced, where the server replaces
// views alone; old is what a routine or trigger is: "TRIGGER", "FUNCTION", and its name.
func (w *writer) dropFirst(old string) string {
	if w.OrReplace || old == "" {
		return ""
	}
	return "DROP " + strings.Replace(old, " ", " IF EXISTS ", 1)
}

// defined says in the text of a view, routine or trigger with whose rights it acts
// (https://mariadb.com/kb/en/create-trigger/, DEFINER); without, it is whoever runs it.
func defined(sql, by string) string {
	if by == "" {
		return sql
	}
	user := traits.Ident(by)
	if at := strings.LastIndexByte(by, '@'); at >= 0 {
		user = traits.Ident(by[:at]) + "@" + traits.Ident(by[at+1:])
	}
	return strings.Replace(sql, "CREATE ", "CREATE DEFINER="+user+" ", 1)
}

func (w *writer) replaceView(ch change.ReplaceView) {
	c := &creator{server: w.server, c: w.Now, mode: map[*[]string]string{}}
	c.view(ch.Schema, ch.New)
	w.text(ch.Title(), ch.Schema, "", c.objects[len(c.objects)-1], cmp.Or(ch.New.Owner, ch.Old.Owner), "")
}

// alterSequence says what differs (https://mariadb.com/kb/en/alter-sequence/).
func (w *writer) alterSequence(ch change.AlterSequence) {
	old, q := ch.Old, ch.New
	text := "ALTER SEQUENCE " + traits.Relation(catalog.Ref{Schema: ch.Schema, Table: q.Name})
	clause := func(from, to int64, name string) {
		if from != to {
			text += fmt.Sprintf(" %s %d", name, to)
		}
	}
	clause(old.Start, q.Start, "START WITH")
	clause(old.Least, q.Least, "MINVALUE")
	clause(old.Most, q.Most, "MAXVALUE")
	clause(old.Increment, q.Increment, "INCREMENT BY")
	if q.Cache == 0 && old.Cache != 0 {
		text += " NOCACHE"
	} else {
		clause(old.Cache, q.Cache, "CACHE")
	}
	if q.Cycle != old.Cycle {
		text += map[bool]string{true: " CYCLE", false: " NOCYCLE"}[q.Cycle]
	}
	w.Step(ch.Title(), lockSequence, text)
}

func (w *writer) setComment(ch change.SetComment) {
	if ch.Kind == change.OnTable {
		w.step(ch.Title(), "NONE", "COMMENT = "+traits.Literal(ch.To))
		return
	}
	model := w.Now.Table(ch.Table).Clone()
	model.Column(ch.Name).Comment = ch.To
	w.step(ch.Title(), "NONE", "MODIFY COLUMN "+w.columnLine(model, ch.Name))
}
