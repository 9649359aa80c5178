package oracle

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/ddl"
)

// unwritten is the answer to what no rule proposes here.
const unwritten = "it is not written for Oracle"

// Refuses says why the change cannot be written, or "".
func (Engine) Refuses(c *catalog.Catalog, ch change.Change) string {
	t := c.Table(ch.On())
	if t == nil {
		if made, ok := ch.(change.CreateObjects); ok {
			for _, in := range made.What.Schemas {
				if c.Schema(in.Name) == nil {
					return fmt.Sprintf("a schema is that of an account, and there is none called %s", in.Name)
				}
			}
		}
		return ddl.Tableless(ch, refusesText, refusesSequence, unwritten)
	}
	if why := special(t); why != "" {
		return why + ", and left to you"
	}
	if _, analyze := ch.(change.Maintain); t.Has("read only") && !analyze {
		return "the table is read only"
	}
	switch ch := ch.(type) {
	case change.CreateIndex:
		return refusesIndex(t, ch.Index)
	case change.DropIndex:
		if x := t.Index(ch.Name); x != nil && x.Pinned != "" {
			return x.Pinned
		}
	case change.RebuildIndex:
		if x := t.Index(ch.Name); x != nil && (x.Pinned != "" || strings.Contains(x.Storage, "LOCAL") && t.PartitionBy != nil && t.PartitionBy.Sub != nil) {
			return "its parts are rebuilt one by one: left to you"
		}
	case change.AddKey:
		return refusesKey(t, ch.Key, ch.Primary, ch.Index())
	case change.ReplaceKey:
		return refusesReplace(t, ch)
	case change.DropKey:
		if k := t.PrimaryKey; k != nil && ch.Primary && t.Has("index organized") {
			return "the rows lie in the order of the primary key"
		}
	case change.AddForeignKey:
		return refusesActions(ch.ForeignKey)
	case change.AlterForeignKey:
		return refusesActions(ch.New)
	case change.AlterType:
		return refusesType(t, ch)
	case change.SetNullable:
		return refusesNullable(t, ch)
	case change.SetDefault:
		if col := t.Column(ch.Column); col != nil && (numbered(col) || slices.Contains(col.Options, "default on null")) {
			return fmt.Sprintf("%s is numbered, or takes its default for a null", ch.Column)
		}
	case change.AddColumn:
		if numbered(ch.Column) && slices.ContainsFunc(t.Columns, numbered) {
			return fmt.Sprintf("%s has an identity column, and takes one alone", t.Name)
		}
	case change.AddSurrogateKey:
		if slices.ContainsFunc(t.Columns, numbered) {
			return fmt.Sprintf("%s has an identity column, and takes one alone", t.Name)
		}
		if t.Has("index organized") {
			return "the rows lie in the order of the primary key"
		}
	case change.AlterSequence:
		return refusesSequence(ch)
	case change.ReplaceTrigger:
		if ch.New != nil {
			return refusesText(ch.New.Definition)
		}
	case change.SetComment:
		if ch.Kind != change.OnColumn && ch.Kind != change.OnTable {
			return "only tables and columns have comments"
		}
	case change.ValidateCheck:
		if column, ok := forbidsNull(ch.Check.Expression); ok {
			return fmt.Sprintf("validated, it is the NOT NULL of %s, and no check any more: left to you (MODIFY CONSTRAINT %s VALIDATE)", column, ident(ch.Check.Name))
		}
		if ch.Check.NotEnforced {
			return "it is switched off"
		}
	case change.AddCheck:
		if column, ok := forbidsNull(ch.Check.Expression); ok && !ch.Check.NotValidated {
			return fmt.Sprintf("it is the NOT NULL of %s", column)
		}
	case change.Maintain:
		if ch.What != change.Analyze {
			return "rows are kept in no order, and their places used again by themselves"
		}
	case change.MakeIdentity, change.SetNumbering:
		return "a column that is there cannot be made an identity column (ORA-30673); a default can draw from the sequence"
	case change.AddPartition:
		return refusesPartition(t)
	case change.PartitionTable:
		if ch.Key != nil {
			return "the primary key would have to hold the partition column: left to you"
		}
		return refusesModify(t)
	case change.Undo[change.PartitionTable]:
		return "no statement makes a partitioned table one table again"
	case change.SplitSequence:
		if ch.Own.Increment < 0 {
			return "the sequence counts down"
		}
	case change.Undo[change.AddPartition], change.AdvanceSequence, change.Undo[change.SplitSequence], change.Undo[change.AddSurrogateKey], change.DropForeignKey, change.ValidateForeignKey, change.DropCheck, change.Undo[change.ValidateCheck],
		change.DropColumn, change.BackfillColumn, change.Undo[change.BackfillColumn], change.Rename, change.RenameTable, change.NoReversal, change.SetTrigger, change.ReplaceByDefault, change.Undo[change.ReplaceByDefault]:
	default:
		return unwritten
	}
	return ""
}

func refusesText(text string) string {
	if text == "" {
		return "its text was not read"
	}
	return ""
}

func refusesSequence(ch change.AlterSequence) string {
	if ch.Old.Start != ch.New.Start && ch.Old.Least == ch.New.Least && ch.Old.Most == ch.New.Most {
		return "the start of a sequence stays what it is"
	}
	if ch.New.OwnedBy != nil {
		return "a sequence belongs to no column here"
	}
	if ch.Old.Comment != ch.New.Comment {
		return "a sequence has no comment here"
	}
	return ""
}

// refusesActions: https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/constraint.html, references_clause.
func refusesActions(f *catalog.ForeignKey) string {
	switch {
	case f.OnUpdate != catalog.NoAction && f.OnUpdate != catalog.Restrict && f.OnUpdate != "":
		return "a reference does nothing here when the key is updated"
	case f.OnDelete == catalog.SetDefault:
		return "there is no SET DEFAULT here"
	case f.Match != "":
		return "there is no MATCH here"
	}
	return ""
}

// indexColumns is how many columns an index takes, and a bitmap index
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/refrn/logical-database-limits.html).
const indexColumns = 32

func refusesIndex(t *catalog.Table, x *catalog.Index) string {
	if len(x.Parts) > indexColumns {
		return fmt.Sprintf("an index has %d columns at most", indexColumns)
	}
	for _, p := range x.Parts {
		if c := t.Column(p.Column); c != nil && uncompared(c.Type) {
			return fmt.Sprintf("%s is %s, which no index takes", c.Name, c.Type.Native)
		}
	}
	if x.Predicate != "" {
		return "an index holds all rows here, but for those that are null in all its columns"
	}
	for _, o := range t.Indexes {
		if o.Name != x.Name && !o.Invalid && o.Method == x.Method && slices.Equal(o.Parts, x.Parts) {
			return fmt.Sprintf("index %s is on the same columns (ORA-01408)", o.Name)
		}
	}
	return ""
}

func refusesKey(t *catalog.Table, k *catalog.Key, primary bool, x *catalog.Index) string {
	for _, o := range t.Objects {
		if o.Kind == catalog.KindDisabledKey && primary && strings.Contains(o.Definition, " PRIMARY KEY (") {
			return fmt.Sprintf("primary key %s is declared already, and switched off or never checked: left to you", o.Name)
		}
	}
	if t.Has("index organized") && primary {
		return "the rows lie in the order of the primary key"
	}
	for _, o := range t.Keys() {
		if catalog.SameColumns(o.Columns, k.Columns) && slices.Equal(o.Columns, k.Columns) {
			return fmt.Sprintf("%s is on the same columns (ORA-02261)", o.Name)
		}
	}
	return refusesIndex(t, x)
}

func refusesReplace(t *catalog.Table, ch change.ReplaceKey) string {
	if t.Has("index organized") && (ch.From.Primary || ch.To.Primary) {
		return "the rows lie in the order of the primary key"
	}
	return ""
}

// refusesType: values are not converted in place, unless the column has none (ORA-01439, ORA-01440).
func refusesType(t *catalog.Table, ch change.AlterType) string {
	col := t.Column(ch.Column)
	if col == nil {
		return fmt.Sprintf("column %s of %s does not exist", ch.Column, t.Ref())
	}
	for _, o := range t.Columns {
		if o.Generated != "" && expressions.Mentions(o.Generated, ch.Column) {
			return fmt.Sprintf("%s is computed from %s", o.Name, ch.Column)
		}
	}
	if t.PartitionBy != nil && slices.Contains(t.CutBy(expressions), ch.Column) {
		return fmt.Sprintf("%s is partitioned by %s", t.Name, ch.Column)
	}
	for _, x := range t.Indexes {
		for _, p := range x.Parts {
			if p.Expression != "" && expressions.Mentions(p.Expression, ch.Column) {
				return fmt.Sprintf("index %s is on an expression of %s", x.Name, ch.Column)
			}
		}
	}
	if widens(ch.From, ch.To) {
		return ""
	}
	if ch.From.Family == catalog.Text && ch.To.Family == catalog.Text && base(ch.From) == base(ch.To) && ch.To.Length > 0 && ch.From.Length > 0 {
		return "" // shorter: the engine looks at the values
	}
	return "values are not converted in place (ORA-01439): a new column has to take them over"
}

func base(t catalog.Type) string {
	word, _, _ := strings.Cut(t.Native, "(")
	return word
}

// widens reports whether every value fits, and the engine alters its dictionary alone.
func widens(from, to catalog.Type) bool {
	switch {
	case from.Native == "LONG" && to.Native == "CLOB", from.Native == "LONG RAW" && to.Native == "BLOB":
		return true // the one conversion that is there, which writes every row
	case base(from) != base(to):
		return false
	case base(from) == "NUMBER":
		return to.Precision == 0 || from.Precision != 0 && to.Scale >= from.Scale && to.Precision-to.Scale >= from.Precision-from.Scale
	case from.Family == catalog.Text, from.Family == catalog.Binary:
		return to.Length >= from.Length && from.Length > 0 && from.Collation == to.Collation
	}
	return false
}

func refusesNullable(t *catalog.Table, ch change.SetNullable) string {
	col := t.Column(ch.Column)
	switch {
	case col == nil:
		return fmt.Sprintf("column %s of %s does not exist", ch.Column, t.Ref())
	case ch.Nullable && t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, ch.Column):
		return "a column of the primary key takes no null"
	case ch.Nullable && (numbered(col) || slices.Contains(col.Options, "default on null")):
		return fmt.Sprintf("%s is numbered, or takes its default for a null", ch.Column)
	case col.Generated != "":
		return fmt.Sprintf("%s.%s is computed", t.Name, ch.Column)
	}
	return ""
}

func refusesPartition(t *catalog.Table) string {
	by := t.PartitionBy
	switch {
	case by == nil:
		return "it is not partitioned"
	case strings.Contains(by.Definition, "INTERVAL"), strings.Contains(by.Definition, "AUTOMATIC"):
		return "the engine makes its parts as rows come"
	case by.Method != "range" && by.Method != "list":
		return "its parts follow from their number, or from those of another table"
	case by.Sub != nil:
		return "its parts are cut up again: left to you"
	}
	return ""
}

func refusesModify(t *catalog.Table) string {
	switch {
	case t.Has("index organized"), temporary(t):
		return "only a plain table is cut up in place"
	case t.PartitionBy != nil:
		return "it is partitioned already"
	}
	return ""
}
