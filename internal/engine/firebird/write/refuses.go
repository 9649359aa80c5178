package write

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/firebird/traits"
	"nexdal/internal/engine/sqllex"
)

// unwritten is the answer to what no rule proposes here.
const unwritten = "it is not written for Firebird"

// Refuses says why the change cannot be written, or "".
func (Writer) Refuses(c *catalog.Catalog, ch change.Change) string {
	t := c.Table(ch.On())
	if t == nil {
		return ddl.Tableless(ch, refusesText, refusesSequence, unwritten)
	}
	if t.Kind == catalog.Foreign {
		return "it is a file outside the database, and left to you"
	}
	switch ch := ch.(type) {
	case change.CreateIndex:
		return RefusesIndex(c, t, ch.Index)
	case change.AddKey:
		return refusesKey(c, t, ch.Key, ch.Index())
	case change.ReplaceKey:
		if ch.To.Key != nil {
			if ch.To.Key.Deferrable {
				return atOnce
			}
			return RefusesIndex(c, t, ch.Index(t.Index(ch.From.Name())))
		}
	case change.RebuildIndex:
		if x := t.Index(ch.Name); x == nil || x.Origin != catalog.ByPerson {
			return "the engine keeps the index of a constraint itself"
		}
	case change.AddForeignKey:
		if ch.Unchecked {
			return "the engine looks at the rows of every foreign key"
		}
		return refusesReference(t, ch.ForeignKey)
	case change.AlterForeignKey:
		return refusesReference(t, ch.New)
	case change.AlterType:
		return refusesType(c, t, ch)
	case change.SetNullable:
		return refusesNullable(c, t, ch)
	case change.SetDefault:
		if col := t.Column(ch.Column); col != nil && (NumberedBySelf(col) || col.Generated != "") {
			return fmt.Sprintf("%s is numbered or computed, and takes no default", ch.Column)
		}
	case change.AddColumn:
		if why := insertsWhole(c, t.Name); why != "" {
			return why
		}
		if NumberedBySelf(ch.Column) && slices.ContainsFunc(t.Columns, NumberedBySelf) {
			return fmt.Sprintf("%s has an identity column, and takes one alone", t.Name)
		}
		return refusesNumbered(c, t, ch.Column)
	case change.DropColumn:
		return refusesDrop(c, t, ch.Column)
	case change.AddSurrogateKey:
		if why := insertsWhole(c, t.Name); why != "" {
			return why
		}
		return refusesNumbered(c, t, ch.Column)
	case change.AddCheck:
		if ch.Check.NotValidated || ch.Check.NotEnforced {
			return "a check here is neither switched off nor validated later"
		}
	case change.AlterSequence:
		return refusesSequence(ch)
	case change.ReplaceTrigger:
		if ch.New != nil {
			return refusesText(ch.New.Definition)
		}
	case change.SetTrigger:
	case change.SetComment:
		if ch.Kind == change.OnConstraint {
			return "a constraint has no comment here"
		}
		if x := t.Index(ch.Name); ch.Kind == change.OnIndex && x != nil && x.SystemNamed {
			return "the engine calls the index otherwise in every database"
		}
	case change.Rename, change.RenameTable:
		return "the engine renames neither tables nor constraints nor indexes"
	case change.Maintain:
		if ch.What != change.Analyze {
			return "the engine clears away by itself (sweep), or when a backup is restored"
		}
	case change.MakeIdentity, change.SetNumbering:
		return "a column that is there cannot be made an identity column: a new one has to take its values over"
	case change.SplitSequence:
		return "a default draws from no sequence here: the trigger would have to be written anew"
	case change.DropIndex, change.DropKey, change.DropForeignKey, change.DropCheck, change.BackfillColumn, change.Undo[change.BackfillColumn], change.AdvanceSequence,
		change.Undo[change.AddSurrogateKey], change.NoReversal:
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

// NumberedBySelf reports whether the engine numbers the column.
func NumberedBySelf(c *catalog.Column) bool {
	return c.Identity == catalog.IdentityByDefault || c.Identity == catalog.IdentityAlways
}

// insertsWhole says which text inserts into the table without a list of columns. The engine compiled
// it, and goes on with what it compiled until the text is altered or the database restored.
func insertsWhole(c *catalog.Catalog, table string) string {
	blind := func(kind, name, text string) string {
		if !strings.Contains(strings.ToUpper(text), strings.ToUpper(table)) || !slices.ContainsFunc(sqllex.Inserts(Writer{}.Dialect(), text), func(in sqllex.Insert) bool {
			k := in.Table
			return !in.Listed && (k.Kind == sqllex.Quoted && k.Name() == table || k.Kind != sqllex.Quoted && strings.ToUpper(k.Text) == table)
		}) {
			return ""
		}
		return fmt.Sprintf("%s %s inserts into %s without a list of columns, and would fail with one more", kind, name, table)
	}
	for m := range c.Modules() {
		if why := blind(m.Kind, m.Name, m.Text); why != "" {
			return why
		}
	}
	for _, s := range c.Schemas {
		for _, o := range s.Objects { // packages among them
			if why := blind(o.Kind, o.Name, o.Definition); why != "" {
				return why
			}
		}
	}
	return ""
}

// refusesNumbered: what numbers a new column needs names that nobody has.
func refusesNumbered(c *catalog.Catalog, t *catalog.Table, col *catalog.Column) string {
	if col.Identity != catalog.IdentityTrigger {
		return ""
	}
	// The rows that are there are numbered by an UPDATE.
	for _, g := range t.Triggers {
		if g.Enabled != "disabled" && slices.Contains(g.Events, "update") {
			return fmt.Sprintf("to number the rows would fire trigger %s for each", g.Name)
		}
	}
	q, g := traits.NumberedBy(c.Engine.Version)(t, col.Name)
	for _, s := range c.Schemas {
		if slices.ContainsFunc(s.Sequences, func(o *catalog.Sequence) bool { return o.Name == q.Name }) {
			return fmt.Sprintf("there is a sequence %s already", q.Name)
		}
		for _, o := range s.Tables {
			if slices.ContainsFunc(o.Triggers, func(o *catalog.Trigger) bool { return o.Name == g.Name }) {
				return fmt.Sprintf("there is a trigger %s already", g.Name)
			}
		}
	}
	return ""
}

func refusesSequence(ch change.AlterSequence) string {
	switch {
	case ch.Old.Type != ch.New.Type, ch.Old.Start != ch.New.Start, ch.Old.Least != ch.New.Least, ch.Old.Most != ch.New.Most, ch.Old.Cycle != ch.New.Cycle, ch.Old.Cache != ch.New.Cache:
		return "a sequence has no type, no bounds and no cache here, and keeps its start"
	case ch.New.OwnedBy != nil:
		return "a sequence belongs to no column here"
	}
	return ""
}

const atOnce = "constraints are looked at at once here"

// keyBytes is how long an entry of an index may be: a quarter of a page
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-ddl-index-limits).
func keyBytes(c *catalog.Catalog) int {
	s, _ := c.Setting("page size")
	page, err := strconv.Atoi(s.Value)
	if err != nil {
		page = 4096
	}
	return page/4 - 9
}

// indexColumns is how many columns an index takes.
const indexColumns = 16

// RefusesIndex says why the engine has no such index, or "".
func RefusesIndex(c *catalog.Catalog, t *catalog.Table, x *catalog.Index) string {
	if len(x.Parts) > indexColumns {
		return fmt.Sprintf("an index has %d columns at most", indexColumns)
	}
	if x.Predicate != "" {
		return "an index holds all rows here"
	}
	if len(x.Parts) > 1 && slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p.Expression != "" }) {
		return "an index is on columns, or on one expression alone"
	}
	if slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool { return p.Descending != x.Parts[0].Descending }) {
		return "an index is in one order in all its columns"
	}
	size := 0
	for _, p := range x.Parts {
		col := t.Column(p.Column)
		if col == nil {
			continue // comes with the script
		}
		if traits.IsBlobType(col.Type) || col.Type.Family == catalog.Array {
			return fmt.Sprintf("%s is %s, which no index takes", col.Name, col.Type.Native)
		}
		if col.Generated != "" {
			return fmt.Sprintf("%s is computed when it is read; an index can be on its expression", col.Name)
		}
		size += BytesOf(c, col.Type)
	}
	if len(x.Parts) > 1 { // four bytes of each column and one that tells which it is
		size = size * 5 / 4
	}
	if most := keyBytes(c); size > most {
		return fmt.Sprintf("an entry of the index could take %d bytes, and may take %d on pages of this size", size, most)
	}
	return ""
}

// BytesOf is what a value of the type takes in an index at most; a letter of a collation of UTF8 may
// take more in a key than in a row.
func BytesOf(c *catalog.Catalog, t catalog.Type) int {
	switch t.Family {
	case catalog.Text:
		s, _ := c.Setting("character set")
		if s.Value == "UTF8" && !hasCharset(t.Native) {
			return 4 * t.Length
		}
		return t.Length
	case catalog.Binary:
		return t.Length
	}
	return 8
}

func hasCharset(native string) bool { return traits.Expressions.Mentions(native, "CHARACTER") }

func refusesKey(c *catalog.Catalog, t *catalog.Table, k *catalog.Key, x *catalog.Index) string {
	for _, o := range t.Keys() {
		if slices.Equal(o.Columns, k.Columns) && o.Name != k.Name {
			return fmt.Sprintf("key (%s) is there already", traits.Idents(k.Columns))
		}
	}
	if k.Deferrable {
		return atOnce
	}
	return RefusesIndex(c, t, x)
}

func refusesReference(t *catalog.Table, f *catalog.ForeignKey) string {
	switch {
	case f.Deferrable:
		return atOnce
	case f.Match != "":
		return "there is no MATCH here"
	case f.NotValidated, f.NotEnforced, f.Disabled:
		return "a foreign key here is neither switched off nor validated later"
	}
	return ""
}

func refusesNullable(c *catalog.Catalog, t *catalog.Table, ch change.SetNullable) string {
	col := t.Column(ch.Column)
	switch {
	case col == nil:
		return fmt.Sprintf("column %s of %s does not exist", ch.Column, t.Ref())
	case col.Generated != "":
		return fmt.Sprintf("%s is computed", ch.Column)
	case !ch.Nullable:
		return ""
	case t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, ch.Column):
		return "a column of the primary key takes no null"
	case domainsOf(c).required(col.Type.Native):
		return "its domain forbids null"
	case NumberedBySelf(col):
		return fmt.Sprintf("%s is numbered", ch.Column)
	}
	return ""
}

// refusesDrop: what uses a column keeps it from going.
func refusesDrop(c *catalog.Catalog, t *catalog.Table, column string) string {
	for _, g := range t.Triggers {
		if (Writer{}).Dialect().Mentions(g.Definition, column) {
			return fmt.Sprintf("trigger %s uses it", g.Name)
		}
	}
	for _, f := range c.Schemas[0].Routines {
		if slices.ContainsFunc(f.Touches, func(o catalog.ObjectRef) bool { return o.Name == t.Name }) && (Writer{}).Dialect().Mentions(f.Definition, column) {
			return fmt.Sprintf("%s %s uses it", f.Kind, f.Name)
		}
	}
	return ""
}

// refusesType: the engine converts few types in place, and some of those it takes it would not read
// again.
func refusesType(c *catalog.Catalog, t *catalog.Table, ch change.AlterType) string {
	col := t.Column(ch.Column)
	switch {
	case col == nil:
		return fmt.Sprintf("column %s of %s does not exist", ch.Column, t.Ref())
	case col.Generated != "":
		return fmt.Sprintf("%s is computed", ch.Column)
	case ch.From.Collation != ch.To.Collation:
		return "a column keeps its collation"
	case !traits.Widens(ch.From, ch.To):
		return fmt.Sprintf("the engine does not convert %s into %s in place", ch.From.Native, ch.To.Native)
	}
	for _, k := range t.Keys() {
		if slices.Contains(k.Columns, ch.Column) {
			wide := t.Index(k.Index)
			if wide != nil && BytesOf(c, ch.To) > keyBytes(c) {
				return fmt.Sprintf("an entry of index %s could take more than %d bytes", wide.Name, keyBytes(c))
			}
		}
	}
	return ""
}
