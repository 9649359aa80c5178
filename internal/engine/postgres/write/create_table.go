package write

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/postgres/traits"
)

// table writes a table, its columns and checks where it is made, the rest in
// the later phases. Late leaves defaults and checks for later too, since they
// use what uses the table.
func (w *creator) table(t *catalog.Table, late bool) {
	name := traits.Relation(t.Ref())
	var parts []string
	for _, c := range t.Columns {
		if part, here := w.column(t, c, late); here {
			parts = append(parts, part)
		}
		w.columnLater(t, c, late)
		w.notNullLater(t, c)
		w.comment("COLUMN "+name+"."+traits.Ident(c.Name), c.Comment)
	}
	for _, k := range t.Checks {
		check := checkClause(k)
		switch {
		case k.Inherited && !k.Local && (t.PartitionOf == nil || k.NotValidated):
		case late || k.NotValidated:
			only := "ONLY "
			if !k.NoInherit { // the engine wants it on those that inherit as well, and puts it there
				only = ""
			}
			w.later = append(w.later, "ALTER TABLE "+only+name+" ADD "+check+unproven(k.NotValidated, k.NotEnforced))
		default:
			parts = append(parts, check)
		}
		w.comment(fmt.Sprintf("CONSTRAINT %s ON %s", traits.Ident(k.Name), name), k.Comment)
	}
	create := "CREATE "
	switch {
	case t.Kind == catalog.Foreign:
		create += "FOREIGN "
	case t.Has("unlogged"):
		create += "UNLOGGED "
	}
	create += "TABLE " + name
	if t.OfType != "" {
		create += " OF " + t.OfType
	}
	switch {
	case len(parts) > 0:
		create += " (\n  " + strings.Join(parts, ",\n  ") + "\n)"
	case t.OfType == "":
		create += " ()"
	}
	joined := joinedLater(t)
	if len(t.Inherits) > 0 && !joined {
		parents := make([]string, len(t.Inherits))
		for i, p := range t.Inherits {
			parents[i] = traits.Relation(p)
		}
		create += "\nINHERITS (" + strings.Join(parents, ", ") + ")"
	}
	if t.PartitionBy != nil {
		create += "\nPARTITION BY " + t.PartitionBy.Definition
	}
	if t.Server != "" {
		create += "\n" + t.Server
	}
	for _, o := range t.Options {
		if method, ok := strings.CutPrefix(o, "access method "); ok {
			create += "\nUSING " + traits.Ident(method)
		}
	}
	if t.Storage != "" {
		create += "\nWITH (" + t.Storage + ")"
	}
	if t.Tablespace != "" {
		create += "\nTABLESPACE " + traits.Ident(t.Tablespace)
	}
	w.add("%s", create)
	if joined {
		for _, p := range t.Inherits {
			w.add("ALTER TABLE ONLY %s INHERIT %s", name, traits.Relation(p))
		}
	}
	for _, c := range t.Columns {
		if c.Inherited && !c.Local && t.PartitionOf == nil {
			w.unlikeParent(t, c)
		}
	}
	if t.PartitionOf != nil {
		w.add("ALTER TABLE ONLY %s ATTACH PARTITION %s %s", traits.Relation(*t.PartitionOf), name, t.Bounds)
	}
	kind := "TABLE "
	if t.Kind == catalog.Foreign {
		kind = "FOREIGN TABLE "
	}
	w.comment(kind+name, t.Comment)
	w.keys(t)
	for _, x := range t.Indexes {
		w.tableIndex(t, x)
	}
	for _, f := range t.ForeignKeys {
		if !f.Inherited {
			w.reference(t, f)
		}
	}
	for _, o := range []struct{ has, sql string }{{"row security", "ENABLE ROW LEVEL SECURITY"}, {"forced row security", "FORCE ROW LEVEL SECURITY"},
		{"replica identity full", "REPLICA IDENTITY FULL"}, {"replica identity nothing", "REPLICA IDENTITY NOTHING"}} {
		if t.Has(o.has) {
			w.triggers = append(w.triggers, "ALTER TABLE ONLY "+name+" "+o.sql)
		}
	}
	w.acts(t.Ref(), t.Triggers, t.Objects)
}

// constraint begins a constraint's clause; one without a name gets the engine's.
func constraint(name string) string {
	if name == "" {
		return ""
	}
	return "CONSTRAINT " + traits.Ident(name) + " "
}

// joinedLater reports whether the table was made whole and became an heir
// later: then nothing of it comes from a parent alone, and its columns stand in
// its own order.
func joinedLater(t *catalog.Table) bool {
	for _, c := range t.Columns {
		if c.Inherited && !c.Local {
			return false
		}
	}
	for _, k := range t.Checks {
		if k.Inherited && !k.Local {
			return false
		}
	}
	return len(t.Inherits) > 0 && slices.ContainsFunc(t.Columns, func(c *catalog.Column) bool { return c.Inherited })
}

// parentDefault is what an inherited column would take over.
func (w *creator) parentDefault(t *catalog.Table, c *catalog.Column) string {
	for _, ref := range t.Inherits {
		if p := w.lookup().Table(ref); p != nil && p.Column(c.Name) != nil && p.Column(c.Name).Default != "" {
			return p.Column(c.Name).Default
		}
	}
	return ""
}

// column writes a column's definition; here is false where a parent or the
// table's type brings it.
func (w *creator) column(t *catalog.Table, c *catalog.Column, late bool) (text string, here bool) {
	fromParent := c.Inherited && !c.Local && t.PartitionOf == nil
	if fromParent {
		return "", false
	}
	text = traits.Ident(c.Name)
	if t.OfType == "" {
		text += " " + c.Type.Native
		for _, o := range c.Options {
			if strings.HasPrefix(o, "compression ") {
				text += " COMPRESSION " + strings.TrimPrefix(o, "compression ")
			}
			if strings.HasPrefix(o, "options ") {
				text += " " + strings.Replace(o, "options", "OPTIONS", 1)
			}
		}
		text += collate(c.Type)
	}
	more := ""
	switch {
	case c.Generated != "":
		more += " GENERATED ALWAYS AS (" + stable(c.Generated) + ")" + map[bool]string{true: " STORED", false: " VIRTUAL"}[c.Stored]
	case numbersItself(c):
		if !(t.PartitionOf != nil && c.Inherited && w.can.PartsShareIdentity) { // which it has of the whole once it is attached
			more += w.identity(t, c)
		}
	case c.Default != "" && !late:
		more += " DEFAULT " + c.Default
	case c.Default == "" && c.Inherited && w.parentDefault(t, c) != "":
		more += " DEFAULT NULL" // rather than the parent's
	}
	if !c.Nullable && (c.NotNull == nil || !c.NotNull.Inherited) && !w.validatedHere(t, c) {
		more += w.notNull(t, c)
	}
	if t.OfType != "" {
		return text + " WITH OPTIONS" + more, more != ""
	}
	return text + more, true
}

func (w *creator) identity(t *catalog.Table, c *catalog.Column) string {
	text := map[catalog.Identity]string{catalog.IdentityAlways: " GENERATED ALWAYS AS IDENTITY", catalog.IdentityByDefault: " GENERATED BY DEFAULT AS IDENTITY"}[c.Identity]
	if c.Sequence == nil {
		return text
	}
	q := w.sequences[*c.Sequence]
	if q == nil {
		return text
	}
	return fmt.Sprintf("%s (SEQUENCE NAME %s%s)", text, traits.Relation(*c.Sequence), counting(q, 0))
}

// columnLater writes what a column's definition cannot hold.
func (w *creator) columnLater(t *catalog.Table, c *catalog.Column, late bool) {
	alter := func(what string) {
		w.later = append(w.later, fmt.Sprintf("ALTER TABLE ONLY %s ALTER COLUMN %s %s", traits.Relation(t.Ref()), traits.Ident(c.Name), what))
	}
	if late && c.Default != "" && c.Generated == "" {
		alter("SET DEFAULT " + c.Default)
	}
	for _, o := range c.Options {
		switch {
		case strings.HasPrefix(o, "statistics "):
			alter("SET STATISTICS " + strings.TrimPrefix(o, "statistics "))
		case strings.HasPrefix(o, "storage "):
			alter("SET STORAGE " + strings.ToUpper(strings.TrimPrefix(o, "storage ")))
		case strings.HasPrefix(o, "("):
			alter("SET " + o)
		}
	}
}

// unlikeParent writes what an inherited column has otherwise than its parents,
// at once, since heirs of the table take it over.
func (w *creator) unlikeParent(t *catalog.Table, c *catalog.Column) {
	alter := func(what string) {
		w.add("ALTER TABLE ONLY %s ALTER COLUMN %s %s", traits.Relation(t.Ref()), traits.Ident(c.Name), what)
	}
	var value string
	nullable := true
	for _, ref := range t.Inherits {
		p := w.lookup().Table(ref)
		if p == nil {
			continue
		}
		if above := p.Column(c.Name); above != nil {
			nullable = nullable && (above.Nullable || above.NotNull != nil && above.NotNull.NoInherit)
			value = above.Default
		}
	}
	switch {
	case c.Generated != "" || c.Default == value:
	case c.Default == "":
		alter("DROP DEFAULT")
	default:
		alter("SET DEFAULT " + c.Default)
	}
	switch {
	case w.can.NotNullName == nil && nullable && !c.Nullable:
		alter("SET NOT NULL")
	case w.validatedHere(t, c):
	case w.can.NotNullName != nil && !c.Nullable && (nullable || c.NotNull != nil && c.NotNull.Local):
		w.add("ALTER TABLE ONLY %s ADD %s", traits.Relation(t.Ref()), w.notNullOn(t, c))
	}
}

// keys writes keys and exclusion constraints with the indexes behind them.
func (w *creator) keys(t *catalog.Table) {
	name := traits.Relation(t.Ref())
	put := func(constraint, kind string, x *catalog.Index, compared bool, timing, comment string) {
		switch {
		case compared && x != nil && x.PartOf != "": // made with the parent's, by the engine
			if text := w.calledSo(t, constraint, kind, x); text != "" {
				w.attached = append(w.attached, text)
			}
		case compared && t.PartitionBy != nil: // an index that compares by operators cannot be attached: it is made with its parts
			w.indexes = append(w.indexes, fmt.Sprintf("ALTER TABLE %s ADD CONSTRAINT %s %s", name, traits.Ident(constraint), kind+timing))
		default:
			w.indexes = append(w.indexes, fmt.Sprintf("ALTER TABLE ONLY %s ADD CONSTRAINT %s %s", name, traits.Ident(constraint), kind+timing))
		}
		w.comment(fmt.Sprintf("CONSTRAINT %s ON %s", traits.Ident(constraint), name), comment)
		if x == nil {
			return
		}
		if !compared {
			w.attach(t, x)
		}
		w.indexes = append(w.indexes, pinned(t.Ref(), x)...)
		w.comment("INDEX "+traits.Qualified(t.Schema, x.Name), x.Comment)
	}
	for _, k := range t.Keys() {
		kind := "UNIQUE"
		if k == t.PrimaryKey {
			kind = "PRIMARY KEY"
		} else if k.NullsNotDistinct {
			kind += " NULLS NOT DISTINCT"
		}
		kind += " (" + keyColumns(k) + ")"
		x := t.Index(k.Index)
		if x != nil {
			kind += besides(x)
		}
		put(k.Name, kind, x, k.WithoutOverlaps, ddl.Timing(k.Deferrable, k.Deferred), k.Comment)
	}
	for _, e := range t.Exclusions {
		// The engine's text says all, deferrability included.
		put(e.Name, e.Definition, t.Index(e.Index), true, "", e.Comment)
	}
}

// calledSo gives a part's share of a constraint its name, where the engine calls it
// otherwise by itself.
func (w *creator) calledSo(t *catalog.Table, name, clause string, x *catalog.Index) string {
	kind, plain := "exclusion", strings.Join(append([]string{t.Name}, x.Columns()...), "_")+"_excl"
	switch {
	case strings.HasPrefix(clause, "PRIMARY KEY"):
		kind, plain = "primary key", t.Name+"_pkey"
	case strings.HasPrefix(clause, "UNIQUE"):
		kind, plain = "unique", strings.Join(append([]string{t.Name}, x.Columns()...), "_")+"_key"
	}
	if traits.SystemNamed(t, kind, name, x.Columns()) {
		return ""
	}
	return fmt.Sprintf("ALTER TABLE %s RENAME CONSTRAINT %s TO %s", traits.Relation(t.Ref()), traits.Ident(plain), traits.Ident(name))
}

// besides writes what the index of a constraint has besides its columns.
func besides(x *catalog.Index) string {
	text := ""
	if len(x.Include) > 0 {
		text += " INCLUDE (" + traits.Idents(x.Include) + ")"
	}
	if x.Storage != "" {
		text += " WITH (" + x.Storage + ")"
	}
	if x.Tablespace != "" {
		text += " USING INDEX TABLESPACE " + traits.Ident(x.Tablespace)
	}
	return text
}

func (w *creator) tableIndex(t *catalog.Table, x *catalog.Index) {
	if x.Origin != catalog.ByPerson {
		return
	}
	if x.Invalid && t.Kind != catalog.Partitioned {
		w.lose(catalog.ObjectRef{Kind: "index", Schema: t.Schema, Name: x.Name}, "it is broken: building it has failed, or was not finished")
		return
	}
	only := ""
	if t.Kind == catalog.Partitioned {
		only = onlyThis
	}
	w.index(t.Ref(), x, only)
	w.attach(t, x)
	w.indexes = append(w.indexes, pinned(t.Ref(), x)...)
}

func (w *creator) index(on catalog.Ref, x *catalog.Index, only string) {
	text := x.Definition
	if text == "" {
		text = indexText(x, on, only)
	}
	w.indexes = append(w.indexes, text)
	w.comment("INDEX "+traits.Qualified(on.Schema, x.Name), x.Comment)
}

// attach makes an index of a partition part of the whole's.
func (w *creator) attach(t *catalog.Table, x *catalog.Index) {
	if x.PartOf != "" && t.PartitionOf != nil {
		w.attached = append(w.attached, fmt.Sprintf("ALTER INDEX %s ATTACH PARTITION %s", traits.Qualified(t.PartitionOf.Schema, x.PartOf), traits.Qualified(t.Schema, x.Name)))
	}
}

func (w *creator) reference(t *catalog.Table, f *catalog.ForeignKey) {
	only := "ONLY "
	if t.Kind == catalog.Partitioned {
		only = ""
	}
	clause := foreignKey(f) + unproven(f.NotValidated, f.NotEnforced)
	w.references = append(w.references, fmt.Sprintf("ALTER TABLE %s%s ADD %s", only, traits.Relation(t.Ref()), clause))
	if f.Disabled {
		w.references = append(w.references, switchOff(t.Ref(), f))
	}
	w.comment(fmt.Sprintf("CONSTRAINT %s ON %s", traits.Ident(f.Name), traits.Relation(t.Ref())), f.Comment)
}
