package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/sqlserver/traits"
)

// Refuses says why the change cannot be written, or "".
func (Writer) Refuses(c *catalog.Catalog, ch change.Change) string {
	t := c.Table(ch.On())
	if t == nil {
		return ddl.Tableless(ch, refusesModule, refusesSequence, unwritten)
	}
	if why := special(t); why != "" {
		return why + ", and left to you"
	}
	if i := slices.IndexFunc(t.Options, func(o string) bool { return o == "replicated" || o == "change data capture" }); i >= 0 {
		switch ch.(type) {
		case change.Maintain, change.CreateIndex, change.RebuildIndex:
		default:
			return fmt.Sprintf("the table is under %s, which has to follow", map[bool]string{true: "replication", false: "change data capture"}[t.Options[i] == "replicated"])
		}
	}
	switch ch := ch.(type) {
	case change.CreateIndex:
		return refusesIndex(t, ch.Index)
	case change.AddKey:
		if why := refusesColumns(t, ch.Key.Columns); why != "" {
			return why
		}
		return refusesIndex(t, made(t, ch.Index(), ch.Primary, ch.Behind != nil))
	case change.ReplaceKey:
		return refusesReplace(c, t, ch)
	case change.AddForeignKey:
		return RefusesCascade(c, ch.Table, ch.ForeignKey, ch.Again)
	case change.AlterForeignKey:
		if ch.Old.OnDelete != ch.New.OnDelete || ch.Old.OnUpdate != ch.New.OnUpdate {
			return RefusesCascade(c, ch.Table, ch.New, false)
		}
	case change.AlterType:
		return refusesAlter(c, t, ch.Column)
	case change.SetNullable:
		if ch.Nullable && t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, ch.Column) {
			return "a column of the primary key takes no null"
		}
		return refusesAlter(c, t, ch.Column)
	case change.SetDefault:
		if col := t.Column(ch.Column); col != nil && ch.To == "" && col.DefaultName == "" {
			return fmt.Sprintf("%s.%s has no default that could be dropped by its name", t.Name, ch.Column)
		}
		if col := t.Column(ch.Column); col != nil && ch.To != "" && (col.Identity == catalog.IdentityAlways || col.Type.Native == "rowversion") {
			return fmt.Sprintf("%s is numbered, and takes no default", ch.Column)
		}
	case change.AddColumn:
		if ch.Column.Identity != catalog.NoIdentity && slices.ContainsFunc(t.Columns, func(o *catalog.Column) bool { return o.Identity == catalog.IdentityAlways }) {
			return fmt.Sprintf("%s has an identity column, and takes one alone", t.Name)
		}
	case change.AddSurrogateKey:
		if slices.ContainsFunc(t.Columns, func(o *catalog.Column) bool { return o.Identity == catalog.IdentityAlways }) {
			return fmt.Sprintf("%s has an identity column, and takes one alone", t.Name)
		}
		if t.PartitionBy != nil {
			return fmt.Sprintf("a key of the partitioned table %s has to hold its partition column", t.Name)
		}
	case change.AlterSequence:
		return refusesSequence(ch)
	case change.ReplaceTrigger:
		if ch.New != nil {
			return refusesModule(ch.New.Definition)
		}
	case change.SetTrigger:
		if ch.Trigger.Timing == "instead of" {
			return ""
		}
	case change.SplitSequence:
		if ch.Own.Increment < 0 {
			return "the sequence counts down"
		}
	case change.AdvanceSequence, change.Undo[change.SplitSequence], change.Undo[change.AddSurrogateKey], change.DropIndex, change.RebuildIndex, change.DropKey, change.DropForeignKey, change.ValidateForeignKey,
		change.AddCheck, change.DropCheck, change.ValidateCheck, change.Undo[change.ValidateCheck], change.DropColumn, change.BackfillColumn, change.Undo[change.BackfillColumn], change.NoReversal:
	case change.Rename:
		if x := t.Index(ch.From); x != nil && x.Method == "xml" {
			return leansOnIndex(t, ch.From)
		}
	case change.SetComment:
		if ch.From == ch.To {
			return "the comment is that already"
		}
	case change.Maintain:
		if ch.What == change.SortRows {
			return "rows are kept in the order of the clustered index here"
		}
	case change.MakeIdentity, change.SetNumbering:
		return "a column that is there cannot be made an identity column: the table has to be built anew"
	case change.AddPartition:
		return "the parts of a table begin where its partition function says"
	case change.SetBoundaries:
		for _, s := range schemesOf(c, ch.Object) {
			if !strings.Contains(s.Definition, " ALL TO (") {
				return fmt.Sprintf("partition scheme %s lays parts in several filegroups", s.Name)
			}
		}
	case change.PartitionTable:
		if ch.Place == "" {
			return "nothing says which scheme its indexes are laid on"
		}
		return refusesPartitioning(c, t, ch)
	case change.Undo[change.PartitionTable]:
		return refusesPartitioning(c, t, ch.Of)
	default:
		return unwritten
	}
	return ""
}

// unwritten is the answer to what no rule proposes here.
const unwritten = "it is not written for SQL Server"

func refusesModule(text string) string {
	if text == "" {
		return "its text was not read"
	}
	return ""
}

func refusesSequence(ch change.AlterSequence) string {
	if ch.Old.Type != ch.New.Type || ch.Old.Start != ch.New.Start {
		return "the type and the start of a sequence stay what they are"
	}
	if ch.New.OwnedBy != nil {
		return "a sequence belongs to no column here"
	}
	return ""
}

// Limits of an index key
// (https://learn.microsoft.com/en-us/sql/sql-server/maximum-capacity-specifications-for-sql-server).
const (
	keyColumns       = 32
	keyBytes         = 1700
	clusteredKeySize = 900
)

func refusesIndex(t *catalog.Table, x *catalog.Index) string {
	switch {
	case unread(x):
		return "an index of kind " + x.Method + " is not written"
	case x.Method == "xml" || x.Method == "spatial":
		if c := t.Clustering(); c == nil || c.Origin != catalog.ByPrimaryKey {
			return "the rows have to be kept in the order of the primary key first"
		}
		return ""
	}
	if len(x.Parts) > keyColumns {
		return fmt.Sprintf("an index has %d key columns at most", keyColumns)
	}
	most := keyBytes
	if x.Clustered {
		most = clusteredKeySize
	}
	if other := t.Clustering(); x.Clustered && other != nil && other.Name != x.Name {
		return fmt.Sprintf("the rows are kept in the order of %s already", other.Name)
	}
	size := 0
	for _, p := range x.Parts {
		c := t.Column(p.Column)
		if c == nil {
			if p.Expression != "" {
				return "an index is on columns alone here; a computed column can hold what is computed"
			}
			continue // comes with the script
		}
		if c.Type.Family == catalog.Text && c.Type.Length == 0 || traits.Uncompared(c.Type) && c.Type.Length == 0 {
			return fmt.Sprintf("%s is %s, which no index key takes", c.Name, c.Type.Native)
		}
		size += bytesOf(c.Type)
	}
	if size > most {
		return fmt.Sprintf("an entry of the index could take %d bytes, and may take %d", size, most)
	}
	if t.PartitionBy != nil && x.Unique && !catalog.Within(t.PartitionBy.Columns, x.Columns()) {
		return fmt.Sprintf("a key of the partitioned table %s has to hold its partition column", t.Name)
	}
	return ""
}

func bytesOf(t catalog.Type) int {
	switch t.Family {
	case catalog.Text:
		if wide(t) {
			return 2 * t.Length
		}
		return t.Length
	case catalog.Binary:
		return t.Length
	case catalog.UUID, catalog.Decimal:
		return 17
	}
	return 10
}

// refusesColumns bars a key on what may be null where the plan does not see to it: the engine
// refuses a primary key there, and takes one null alone in a unique one.
func refusesColumns(t *catalog.Table, columns []string) string {
	for _, name := range columns {
		if c := t.Column(name); c != nil && c.Generated != "" && !c.Stored {
			return fmt.Sprintf("%s is computed when it is read", name)
		}
	}
	return ""
}

func refusesReplace(c *catalog.Catalog, t *catalog.Table, ch change.ReplaceKey) string {
	index := ch.From.Name()
	if ch.From.Key != nil {
		index = ch.From.Key.Index
	}
	for _, r := range c.Lookup().Referrers(t.Ref()) {
		if r.ForeignKey.TargetIndex == index && ch.To.Index != nil && ch.To.Index.Predicate != "" {
			return fmt.Sprintf("foreign key %s of %s leans on it", r.ForeignKey.Name, r.Table.Ref())
		}
	}
	if ch.To.Key != nil {
		return refusesColumns(t, ch.To.Key.Columns)
	}
	return ""
}

// leansOnIndex says what leans on the index, or "".
func leansOnIndex(t *catalog.Table, name string) string {
	for _, d := range t.DependantsOf(name) {
		return fmt.Sprintf("%s %s leans on index %s", d.Kind, d.Name, name)
	}
	return ""
}

// refusesAlter bars an alteration of a column that could not be put right again.
func refusesAlter(c *catalog.Catalog, t *catalog.Table, name string) string {
	col := t.Column(name)
	switch {
	case col == nil:
		return fmt.Sprintf("column %s of %s does not exist", name, t.Ref())
	case col.Generated != "":
		return fmt.Sprintf("%s.%s is computed", t.Name, name)
	case traits.Bars(col) != "":
		return fmt.Sprintf("%s.%s is %s", t.Name, name, traits.Bars(col))
	case t.PartitionBy != nil && slices.Contains(t.PartitionBy.Columns, name):
		return fmt.Sprintf("%s is partitioned by %s", t.Name, name)
	}
	for _, o := range t.Columns {
		if o.Generated != "" && traits.Expressions.Mentions(o.Generated, name) {
			return fmt.Sprintf("%s is computed from %s", o.Name, name)
		}
	}
	for _, d := range t.DependantsOn(name) {
		return fmt.Sprintf("%s %s leans on it, and would have to be made again", d.Kind, d.Name)
	}
	for _, x := range t.Indexes {
		if !slices.Contains(x.Columns(), name) {
			continue
		}
		if x.Method != "btree" {
			return fmt.Sprintf("index %s of kind %s leans on it", x.Name, x.Method)
		}
		if why := leansOnIndex(t, x.Name); why != "" { // it would be dropped and made again
			return why
		}
	}
	if i := slices.IndexFunc(c.Gaps, func(g catalog.Gap) bool { return g.Schema == t.Schema && g.Table == t.Name && !g.Figures }); i >= 0 {
		return fmt.Sprintf("not everything of %s could be read: %s: %s", t.Name, c.Gaps[i].What, c.Gaps[i].Reason)
	}
	return ""
}

// RefusesCascade foresees error 1785: no table may be reached by more than one path of actions,
// nor a table by its own
// (https://learn.microsoft.com/en-us/sql/relational-databases/errors-events/mssqlserver-1785-database-engine-error).
func RefusesCascade(c *catalog.Catalog, on catalog.Ref, f *catalog.ForeignKey, again bool) string {
	if again || written(f.OnDelete) == "" && written(f.OnUpdate) == "" {
		return ""
	}
	if f.Target == on {
		return "the engine takes no action on a reference of a table to itself (error 1785)"
	}
	// acting are the tables that an action on a row of the first goes on to.
	acting := map[catalog.Ref][]catalog.Ref{}
	for _, t := range c.Tables() {
		for _, o := range t.ForeignKeys {
			if (written(o.OnDelete) != "" || written(o.OnUpdate) != "") && !(t.Ref() == on && o.Name == f.Name) {
				acting[o.Target] = append(acting[o.Target], t.Ref())
			}
		}
	}
	reached := func(from catalog.Ref) map[catalog.Ref]bool {
		seen := map[catalog.Ref]bool{from: true}
		for queue := []catalog.Ref{from}; len(queue) > 0; queue = queue[1:] {
			for _, next := range acting[queue[0]] {
				if !seen[next] {
					seen[next] = true
					queue = append(queue, next)
				}
			}
		}
		return seen
	}
	beyond := reached(on)
	if beyond[f.Target] {
		return "the actions would come back to where they began (error 1785)"
	}
	for _, t := range c.Tables() {
		from := reached(t.Ref())
		if !from[f.Target] {
			continue
		}
		for ref := range beyond {
			if from[ref] {
				return fmt.Sprintf("actions would reach a table from %s by two paths (error 1785)", t.Ref())
			}
		}
	}
	return ""
}
