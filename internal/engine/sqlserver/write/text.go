package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlserver/traits"
)

// columnText writes a column for CREATE TABLE and ALTER TABLE ... ADD
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-table-column-definition-transact-sql).
func columnText(c *catalog.Column) string {
	if c.Generated != "" {
		text := traits.Ident(c.Name) + " AS (" + c.Generated + ")"
		if c.Stored {
			text += " PERSISTED"
			if !c.Nullable {
				text += " NOT NULL"
			}
		}
		return text
	}
	text := traits.Ident(c.Name) + " " + typeText(c.Type)
	numbered, rest := "", ""
	if c.Identity == catalog.IdentityAlways || c.Identity == catalog.IdentityByDefault {
		numbered = " IDENTITY(1,1)"
	}
	for _, o := range c.Options {
		switch {
		case strings.HasPrefix(o, "identity("):
			numbered = " " + strings.ToUpper(o)
		case o == "not for replication":
			rest += " NOT FOR REPLICATION"
		case o == "column set":
			text += " COLUMN_SET FOR ALL_SPARSE_COLUMNS"
		case strings.HasPrefix(o, traits.Masked):
			text += " MASKED WITH (FUNCTION = " + strings.TrimPrefix(traits.Literal(strings.TrimPrefix(o, traits.Masked)), "N") + ")"
		case traits.UnwrittenOption(o):
		default:
			text += " " + strings.ToUpper(o)
		}
	}
	text += numbered + rest
	if c.Nullable {
		text += " NULL"
	} else {
		text += " NOT NULL"
	}
	if c.Default != "" {
		text += defaultText(c)
	}
	return text
}

func defaultText(c *catalog.Column) string {
	name := ""
	if c.DefaultName != "" {
		name = " CONSTRAINT " + traits.Ident(c.DefaultName)
	}
	return name + " DEFAULT (" + c.Default + ")"
}

// typeText is a type with its collation.
func typeText(t catalog.Type) string {
	if t.Collation != "" && t.Underlying == "" {
		return t.Native + " COLLATE " + t.Collation
	}
	return t.Native
}

// tableText writes a table with its keys and checks, without foreign keys and other indexes.
func tableText(t *catalog.Table) []string {
	var parts []string
	for _, c := range t.Columns {
		parts = append(parts, columnText(c))
	}
	for _, k := range t.Keys() {
		parts = append(parts, keyText(t, k))
	}
	for _, k := range t.Checks {
		if !k.NotEnforced && !k.NotValidated {
			parts = append(parts, checkText(k))
		}
	}
	text := fmt.Sprintf("CREATE TABLE %s (\n  %s\n)", traits.Relation(t.Ref()), strings.Join(parts, ",\n  "))
	if clustering := t.Clustering(); clustering == nil {
		if t.PartitionBy != nil {
			text += " ON " + t.PartitionBy.Definition
		} else if t.Tablespace != "" {
			text += " ON " + traits.Bracket(t.Tablespace)
		}
		if t.Storage != "" {
			text += " WITH (" + t.Storage + ")"
		}
	}
	sql := []string{text}
	for _, k := range t.Checks {
		if k.NotEnforced || k.NotValidated {
			sql = append(sql, addCheck(t.Ref(), k)...)
		}
	}
	for _, x := range inOrder(t.Indexes) {
		if x.Origin == catalog.ByPerson {
			sql = append(sql, indexText(t, x, ""))
			if x.Invalid {
				sql = append(sql, fmt.Sprintf("ALTER INDEX %s ON %s DISABLE", traits.Ident(x.Name), traits.Relation(t.Ref())))
			}
		}
	}
	return sql
}

// inOrder puts what rests on another index behind it: XML indexes behind the primary one.
func inOrder(list []*catalog.Index) []*catalog.Index {
	rests := func(x *catalog.Index) bool { return x.Method == "xml" && x.Parts[0].OpClass != traits.PrimaryXML }
	first := slices.DeleteFunc(slices.Clone(list), rests)
	return append(first, slices.DeleteFunc(slices.Clone(list), func(x *catalog.Index) bool { return !rests(x) })...)
}

// keyText writes a key with what is chosen of the index behind it.
func keyText(t *catalog.Table, k *catalog.Key) string {
	x := t.Index(k.Index)
	if x == nil {
		x = &catalog.Index{}
		for _, name := range k.Columns {
			x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
		}
	}
	return "CONSTRAINT " + traits.Ident(k.Name) + " " + keyOf(t, k == t.PrimaryKey, x)
}

func keyOf(t *catalog.Table, primary bool, x *catalog.Index) string {
	kind := "UNIQUE"
	if primary {
		kind = "PRIMARY KEY"
	}
	return kind + " " + clusteredText(x) + " (" + parts(x) + ")" + storage(t, x, "")
}

func clusteredText(x *catalog.Index) string {
	if x.Clustered {
		return "CLUSTERED"
	}
	return "NONCLUSTERED"
}

func parts(x *catalog.Index) string {
	var list []string
	for _, p := range x.Parts {
		text := traits.Ident(p.Column)
		if p.Descending {
			text += " DESC"
		}
		list = append(list, text)
	}
	return strings.Join(list, ", ")
}

// storage is what stands behind the columns of an index: its options, and where it lies.
func storage(t *catalog.Table, x *catalog.Index, more string) string {
	text := ""
	options := x.Storage
	if more != "" {
		options = strings.TrimPrefix(options+", "+more, ", ")
	}
	if options != "" {
		text += " WITH (" + options + ")"
	}
	switch {
	case x.Clustered && t.PartitionBy != nil:
		text += " ON " + t.PartitionBy.Definition
	case x.Clustered && t.Tablespace != "":
		text += " ON " + traits.Bracket(t.Tablespace)
	case strings.HasSuffix(x.Tablespace, ")"):
		text += " ON " + x.Tablespace
	case x.Tablespace != "":
		text += " ON " + traits.Bracket(x.Tablespace)
	}
	return text
}

// indexText writes CREATE INDEX
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-index-transact-sql).
func indexText(t *catalog.Table, x *catalog.Index, more string) string {
	if x.Method == "xml" || x.Method == "spatial" {
		kind, behind := strings.ToUpper(x.Method), ""
		if p := x.Parts[0]; p.OpClass == traits.PrimaryXML {
			kind = traits.PrimaryXML + " " + kind
		} else {
			behind = " " + p.OpClass
			if using, options, ok := strings.Cut(p.OpClass, ", "); ok && x.Method == "spatial" {
				behind, more = " "+using, options
			}
		}
		return fmt.Sprintf("CREATE %s INDEX %s ON %s (%s)%s%s", kind, traits.Ident(x.Name), traits.Relation(t.Ref()), parts(x), behind, storage(t, x, more))
	}
	if x.Method == "columnstore" {
		if x.Clustered {
			return fmt.Sprintf("CREATE CLUSTERED COLUMNSTORE INDEX %s ON %s%s", traits.Ident(x.Name), traits.Relation(t.Ref()), storage(t, x, more))
		}
		return fmt.Sprintf("CREATE NONCLUSTERED COLUMNSTORE INDEX %s ON %s (%s)%s", traits.Ident(x.Name), traits.Relation(t.Ref()), parts(x), filter(x)+storage(t, x, more))
	}
	kind := ""
	if x.Unique {
		kind = "UNIQUE "
	}
	include := ""
	if len(x.Include) > 0 {
		include = " INCLUDE (" + traits.Idents(x.Include) + ")"
	}
	return fmt.Sprintf("CREATE %s%s INDEX %s ON %s (%s)%s%s%s", kind, clusteredText(x), traits.Ident(x.Name), traits.Relation(t.Ref()), parts(x), include, filter(x), storage(t, x, more))
}

func filter(x *catalog.Index) string {
	if x.Predicate == "" {
		return ""
	}
	return " WHERE " + x.Predicate
}

func checkText(k *catalog.Check) string {
	return "CONSTRAINT " + traits.Ident(k.Name) + " CHECK (" + k.Expression + ")"
}

// addCheck writes a check as it is: looked at, not looked at, or switched off.
func addCheck(on catalog.Ref, k *catalog.Check) []string {
	with := "CHECK"
	if k.NotValidated || k.NotEnforced {
		with = "NOCHECK"
	}
	sql := []string{fmt.Sprintf("ALTER TABLE %s WITH %s ADD %s", traits.Relation(on), with, checkText(k))}
	if k.NotEnforced {
		sql = append(sql, fmt.Sprintf("ALTER TABLE %s NOCHECK CONSTRAINT %s", traits.Relation(on), traits.Ident(k.Name)))
	}
	return sql
}

// addReference writes a foreign key as it is
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-table-table-constraint-transact-sql).
func addReference(on catalog.Ref, f *catalog.ForeignKey) []string {
	with := "CHECK"
	if f.NotValidated || f.Disabled {
		with = "NOCHECK"
	}
	text := fmt.Sprintf("ALTER TABLE %s WITH %s ADD CONSTRAINT %s FOREIGN KEY (%s) REFERENCES %s (%s)", traits.Relation(on), with, traits.Ident(f.Name), traits.Idents(f.Columns), traits.Relation(f.Target), traits.Idents(f.TargetColumns))
	if does := written(f.OnDelete); does != "" {
		text += " ON DELETE " + does
	}
	if does := written(f.OnUpdate); does != "" {
		text += " ON UPDATE " + does
	}
	sql := []string{text}
	if f.Disabled {
		sql = append(sql, fmt.Sprintf("ALTER TABLE %s NOCHECK CONSTRAINT %s", traits.Relation(on), traits.Ident(f.Name)))
	}
	return sql
}

// written is an action as the engine has it: RESTRICT is NO ACTION here, which it does at once.
func written(a catalog.Action) string {
	if a == "" || a == catalog.NoAction || a == catalog.Restrict {
		return ""
	}
	return strings.ToUpper(string(a))
}

// A noted is something that can have a comment: level by level, its kind and name.
type noted []string

func onTable(r catalog.Ref, more ...string) noted {
	return append(noted{"SCHEMA", r.Schema, "TABLE", r.Table}, more...)
}

// comment writes, alters or drops the description of something.
func comment(on noted, from, to string) string {
	if from == to {
		return ""
	}
	procedure, value := "sp_addextendedproperty", ", "+traits.Literal(to)
	switch {
	case to == "":
		procedure, value = "sp_dropextendedproperty", ""
	case from != "":
		procedure = "sp_updateextendedproperty"
	}
	text := "EXEC sys." + procedure + " " + traits.Literal(traits.Description) + value
	for level := 0; level < 3; level++ {
		kind, name := "NULL", "NULL"
		if 2*level < len(on) {
			kind, name = traits.Literal(on[2*level]), traits.Literal(on[2*level+1])
		}
		if to == "" {
			// sp_dropextendedproperty has no value in between, and takes its levels by name.
			if kind != "NULL" {
				text += fmt.Sprintf(", @level%dtype = %s, @level%[1]dname = %s", level, kind, name)
			}
			continue
		}
		text += ", " + kind + ", " + name
	}
	return text
}

// comments are those of a table and of all that belongs to it.
func comments(t *catalog.Table) []string {
	var sql []string
	add := func(text string, more ...string) {
		if text != "" {
			sql = append(sql, comment(onTable(t.Ref(), more...), "", text))
		}
	}
	add(t.Comment)
	for _, c := range t.Columns {
		add(c.Comment, "COLUMN", c.Name)
	}
	for _, x := range t.Indexes {
		add(x.Comment, "INDEX", x.Name)
	}
	for _, k := range t.Keys() {
		add(k.Comment, "CONSTRAINT", k.Name)
	}
	for _, k := range t.Checks {
		add(k.Comment, "CONSTRAINT", k.Name)
	}
	for _, f := range t.ForeignKeys {
		add(f.Comment, "CONSTRAINT", f.Name)
	}
	for _, g := range t.Triggers {
		add(g.Comment, "TRIGGER", g.Name)
	}
	return sql
}

// sequenceText is what stands behind CREATE SEQUENCE and its name
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-sequence-transact-sql).
func sequenceText(q *catalog.Sequence) string {
	start := q.Start
	if q.Last != nil {
		start = *q.Last + q.Increment
	}
	return fmt.Sprintf(" AS %s START WITH %d", q.Type, start) + counting(q)
}

func counting(q *catalog.Sequence) string {
	text := fmt.Sprintf(" INCREMENT BY %d MINVALUE %d MAXVALUE %d", q.Increment, q.Least, q.Most)
	if q.Cycle {
		text += " CYCLE"
	} else {
		text += " NO CYCLE"
	}
	switch {
	case q.Cache == 1:
		text += " NO CACHE"
	case q.Cache > 1:
		text += fmt.Sprintf(" CACHE %d", q.Cache)
	default:
		text += " CACHE"
	}
	return text
}

// moded writes a text under the settings that it was made with.
func moded(mode, text string) []string {
	if mode == "" {
		return []string{text}
	}
	var sql []string
	for m := range strings.SplitSeq(mode, ", ") {
		sql = append(sql, "SET "+m)
	}
	sql = append(sql, text)
	for m := range strings.SplitSeq(mode, ", ") {
		sql = append(sql, "SET "+strings.TrimSuffix(m, "OFF")+"ON")
	}
	return sql
}

// triggerText makes a trigger as it is: its order, and whether it is on.
func triggerText(on catalog.Ref, g *catalog.Trigger) []string {
	sql := moded(g.Mode, g.Definition)
	if g.Order != 0 {
		place := map[int]string{traits.FiresFirst: "First", traits.FiresLast: "Last"}[g.Order]
		for _, event := range g.Events {
			sql = append(sql, fmt.Sprintf("EXEC sys.sp_settriggerorder %s, %s, %s", traits.Literal(traits.Qualified(on.Schema, g.Name)), traits.Literal(place), traits.Literal(strings.ToUpper(event))))
		}
	}
	if g.Enabled == "disabled" {
		sql = append(sql, fmt.Sprintf("DISABLE TRIGGER %s ON %s", traits.Qualified(on.Schema, g.Name), traits.Relation(on)))
	}
	return sql
}

// ready reports whether the index can be built while others write: what the edition can, not
// every index can.
func ready(c *catalog.Catalog, t *catalog.Table, x *catalog.Index) bool {
	return traits.Online(c) && x.Method == "btree" && !slices.ContainsFunc(t.Columns, func(col *catalog.Column) bool {
		return x.Clustered && slices.Contains([]string{"text", "ntext", "image"}, col.Type.Native)
	})
}
