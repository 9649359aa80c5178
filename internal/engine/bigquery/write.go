package bigquery

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/text"
)

// dialect is how BigQuery writes what all engines have. Statements that alter the structure are part
// of no transaction.
var dialect = &ddl.Dialect{
	Title: "BigQuery", Quoting: quoting, Relation: relation, Literal: literal, Works: "; reads %s, which are billed",
	Create:        func(_ *ddl.Writer, t *catalog.Table) []string { return []string{tableText(t)} },
	Drop:          dropText,
	DropReference: dropReference,
	Made:          ddl.Takes("nothing that others use", engine.BlocksNobody),
	Gone:          ddl.Takes("queries of what is dropped fail from then on", engine.BlocksNobody),
}

func dropText(m *catalog.Member) string {
	name := relation(catalog.Ref{Schema: m.Schema, Table: m.Name})
	if m.View != nil && m.View.Materialised {
		return "DROP MATERIALIZED VIEW " + name
	}
	return ddl.DropText(m, name)
}

type writer struct{ *ddl.Writer }

// Write turns the plan into steps
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language).
func (e Engine) Write(from, to *catalog.Catalog, plan change.Plan) (*engine.Work, error) {
	w := &writer{ddl.New(dialect, e, from, to, plan, &engine.Work{})}
	err := w.Each(w.change)
	return w.Work, err
}

// at changes what is kept of a table, and none of its rows.
func (w *writer) at(title string, sql ...string) *engine.Step {
	return w.Step(title, ddl.Takes("nobody waits; no rows are read, and nothing is billed", engine.BlocksNobody), sql...)
}

// informs adds a step that declares what nobody keeps.
func (w *writer) informs(title string, sql ...string) {
	s := w.at(title, sql...)
	s.Notes = append(s.Notes, "it is not enforced: the optimiser believes it, and rows that break it make wrong answers")
}

func (w *writer) change(_ int, ch change.Change) (int, error) {
	on := ch.On()
	switch ch := ch.(type) {
	case change.AddKey:
		w.AskRepeats(on, ch.Key.Columns)
		w.informs(ch.Title(), addPrimaryKey(on, ch.Key))
	case change.ReplaceKey:
		w.AskRepeats(on, ch.To.Key.Columns)
		w.informs(ch.Title(), w.Alter(on, "DROP PRIMARY KEY"), addPrimaryKey(on, ch.To.Key))
	case change.DropKey:
		w.at(ch.Title(), w.Alter(on, "DROP PRIMARY KEY"))
	case change.AddForeignKey:
		w.AskOrphans(on, ch.ForeignKey)
		w.informs(ch.Title(), addReference(on, ch.ForeignKey))
	case change.DropForeignKey:
		w.at(ch.Title(), dropReference(on, ch.ForeignKey))
	case change.SetSortKey:
		t := w.Now.Table(on).Clone()
		t.SortKey = ch.To
		w.copy(ch.Title(), t, "bq update --clustering_fields does it in place as well, for the rows that come: those that are there follow as the engine gets to them")
	case change.PartitionTable:
		t := w.Now.Table(on).Clone()
		t.PartitionBy = ch.By
		w.copy(ch.Title(), t, "")
	case change.Undo[change.PartitionTable]:
		w.copy(ch.Title(), ch.Before.Clone(), "")
	case change.RequireFilter:
		s := w.at(ch.Title(), w.Alter(on, fmt.Sprintf("SET OPTIONS (require_partition_filter=%t)", ch.Required)))
		if ch.Required {
			s.Notes = append(s.Notes, "queries without a filter on the partitions are refused from then on, those of views and programs too")
		}
	case change.SetNullable:
		w.at(ch.Title(), w.Alter(on, "ALTER COLUMN "+ident(ch.Column)+" DROP NOT NULL"))
	case change.SetDefault:
		w.at(ch.Title(), setDefault(on, ch.Column, ch.To))
	case change.SetComment:
		return w.comment(ch)
	case change.AlterType:
		w.at(ch.Title(), w.Alter(on, "ALTER COLUMN "+ident(ch.Column)+" SET DATA TYPE "+ch.To.Native))
	case change.AddColumn:
		sql := []string{w.Alter(on, "ADD COLUMN "+columnText(w.Now.Table(on), without(ch.Column)))}
		if ch.Column.Default != "" { // of the rows that are there it has none
			sql = append(sql, setDefault(on, ch.Column.Name, ch.Column.Default))
		}
		w.at(ch.Title(), sql...)
	case change.DropColumn:
		s := w.at(ch.Title(), w.Alter(on, "DROP COLUMN "+ident(ch.Column)))
		s.Notes = append(s.Notes, fmt.Sprintf("the values of %s are lost, but for as long as the dataset keeps what was", ch.Column))
	case change.CreateObjects:
		made, _ := Engine{}.Create(ch.What)
		var sql []string
		for _, st := range made.Steps {
			sql = append(sql, st.SQL...)
		}
		s := w.Step(ch.Title(), w.Made, sql...)
		s.Tables = ch.Tables()
	default:
		return 0, nil
	}
	return 1, nil
}

// without is the column without its default.
func without(c *catalog.Column) *catalog.Column {
	c = c.Clone()
	c.Default = ""
	return c
}

func setDefault(on catalog.Ref, column, to string) string {
	if to == "" {
		return dialect.Alter(on, "ALTER COLUMN "+ident(column)+" DROP DEFAULT")
	}
	return dialect.Alter(on, "ALTER COLUMN "+ident(column)+" SET DEFAULT "+to)
}

// comment writes a description; NULL takes it away.
func (w *writer) comment(ch change.SetComment) (int, error) {
	set := "SET OPTIONS (description=" + literal(ch.To) + ")"
	if ch.To == "" {
		set = "SET OPTIONS (description=NULL)"
	}
	if ch.Kind == change.OnColumn {
		set = "ALTER COLUMN " + ident(ch.Name) + " " + set
	}
	w.at(ch.Title(), w.Alter(ch.Table, set))
	return 1, nil
}

// copy lays a table out otherwise, which no statement does in place: it is copied, and takes its own
// place. Each step can be taken again where it is not known whether it took place: a name that is there
// or gone says so.
func (w *writer) copy(title string, t *catalog.Table, more string) {
	on := t.Ref()
	was := w.Now.Table(on)
	names := catalog.NewNames(w.Now, 300)
	made, old := *t, catalog.Ref{Schema: on.Schema, Table: names.Free(on.Schema, "old", "nexdal", on.Table)}
	made.Name = names.Free(on.Schema, "new", "nexdal", on.Table)
	var columns []string
	for _, c := range t.Columns {
		if c.Within == "" && c.Generated == "" {
			columns = append(columns, c.Name)
		}
	}
	alike := func(a, b catalog.Ref, says string) string {
		return fmt.Sprintf("ASSERT (SELECT count(*) FROM %s) = (SELECT count(*) FROM %s) AS %s", w.all(a, made), w.all(b, *was), literal(says))
	}
	copied := w.Add(engine.Step{Title: title + ": copy the rows", Lock: w.Sized(ddl.Takes("nobody waits", engine.BlocksNobody), on).Says, CleanUp: "DROP TABLE IF EXISTS " + relation(made.Ref()),
		SQL: []string{tableText(&made),
			fmt.Sprintf("INSERT INTO %s (%s) SELECT %[2]s FROM %s", relation(made.Ref()), idents(columns), w.all(on, *was)),
			alike(made.Ref(), on, "rows came while the table was copied")}})
	copied.Notes = append(copied.Notes, "stop what loads the table until the last step is done: rows that come meanwhile stay behind, and the last step then refuses")
	if b := was.Stats.Bytes; b != nil {
		copied.Notes = append(copied.Notes, text.Size(*b)+" are read, and kept twice until the last step")
	}
	if more != "" {
		copied.Notes = append(copied.Notes, more)
	}
	copied.Notes = append(copied.Notes, "grants on the table itself are given again by hand; row access policies bar the run")
	var drops, adds []string
	for _, f := range was.ForeignKeys {
		if f.Target != on {
			adds = append(adds, addReference(on, f))
		}
	}
	for _, r := range w.Now.Lookup().Referrers(on) {
		if r.Table != was {
			drops = append(drops, dropReference(r.Table.Ref(), r.ForeignKey))
		}
		adds = append(adds, addReference(r.Table.Ref(), r.ForeignKey))
	}
	for _, f := range was.ForeignKeys {
		drops = append(drops, dropReference(on, f))
	}
	if was.PrimaryKey != nil {
		drops = append(drops, w.Alter(on, "DROP PRIMARY KEY"))
		adds = append([]string{addPrimaryKey(on, was.PrimaryKey)}, adds...)
	}
	if len(drops) > 0 {
		w.at(title+": take its keys away", drops...)
	}
	s := w.at(title+": give the copy its name", fmt.Sprintf("ALTER TABLE %s RENAME TO %s", relation(on), whole(old.Table)), fmt.Sprintf("ALTER TABLE %s RENAME TO %s", relation(made.Ref()), whole(on.Table)))
	s.Lock = "queries fail for the moment between the two statements"
	s.Notes = append(s.Notes, "a table that rows are streamed to is refused another name until they have settled")
	if len(adds) > 0 {
		w.informs(title+": declare its keys again", adds...)
	}
	last := w.at(title+": drop the old table", alike(on, old, "the old table holds rows that the new one lacks"), "DROP TABLE "+relation(old))
	last.Notes = append(last.Notes, "UNDROP TABLE brings it back for as long as the dataset keeps what was")
}

// all reads every row of a table, one that refuses queries without a filter too
// (https://cloud.google.com/bigquery/docs/querying-partitioned-tables#require_a_partition_filter_in_queries).
func (w *writer) all(ref catalog.Ref, t catalog.Table) string { return everything(relation(ref), &t) }

func everything(relation string, t *catalog.Table) string {
	if t.PartitionBy == nil || !t.PartitionBy.FilterRequired {
		return relation
	}
	column := "_PARTITIONTIME"
	if len(t.PartitionBy.Columns) > 0 {
		column = ident(t.PartitionBy.Columns[0])
	}
	return fmt.Sprintf("(SELECT * FROM %s WHERE %s IS NOT NULL OR %[2]s IS NULL)", relation, column)
}
