package change

import (
	"cmp"
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// AlterType gives a column another data type; its values are converted.
type AlterType struct {
	Table  catalog.Ref
	Column string
	From   catalog.Type
	To     catalog.Type
}

// SetNullable lets a column hold nulls, or forbids it.
type SetNullable struct {
	Table    catalog.Ref
	Column   string
	Nullable bool
	// Constraint is what forbids null from then on, where more is to be said of it than
	// that: nil mostly. One that was not validated stands on a column that is nullable.
	Constraint *catalog.NotNull
}

// SetDefault gives a column another default; an empty To takes it away.
type SetDefault struct {
	Table    catalog.Ref
	Column   string
	From, To string // expressions, in the engine's words
	// Name is what the new one is called, where defaults have names; empty: as the ability says.
	Name string
}

// AddColumn adds a column.
type AddColumn struct {
	Table  catalog.Ref
	Column *catalog.Column
	Before string // the one that it stands in front of, where the engine places columns; empty: behind all
}

// DropColumn takes away a column, with its values. No fix drops one: it is made by
// reversing, or where it was asked for.
type DropColumn struct {
	Table  catalog.Ref
	Column string
}

func (c AlterType) On() catalog.Ref   { return c.Table }
func (c SetNullable) On() catalog.Ref { return c.Table }
func (c SetDefault) On() catalog.Ref  { return c.Table }
func (c AddColumn) On() catalog.Ref   { return c.Table }
func (c DropColumn) On() catalog.Ref  { return c.Table }

func (c AlterType) Title() string {
	to := c.To.Native
	if to == "" {
		to = "no declared type"
	}
	title := fmt.Sprintf("change the type of %s.%s to %s", c.Table, c.Column, to)
	if c.From.Collation != c.To.Collation {
		if c.To.Collation == "" {
			return title + " with the default collation"
		}
		return title + " collate " + c.To.Collation
	}
	return title
}

func (c SetNullable) Title() string {
	if c.Nullable {
		return fmt.Sprintf("allow null in %s.%s", c.Table, c.Column)
	}
	return fmt.Sprintf("forbid null in %s.%s", c.Table, c.Column)
}

func (c SetDefault) Title() string {
	if c.To == "" {
		return fmt.Sprintf("drop the default of %s.%s", c.Table, c.Column)
	}
	return fmt.Sprintf("set the default of %s.%s to %s", c.Table, c.Column, c.To)
}

func (c AddColumn) Title() string {
	return fmt.Sprintf("add column %s to %s", c.Column.Name, c.Table)
}

func (c DropColumn) Title() string { return fmt.Sprintf("drop column %s of %s", c.Column, c.Table) }

func (AlterType) rank() int   { return rankType }
func (SetNullable) rank() int { return rankNull }
func (SetDefault) rank() int  { return rankNull }
func (AddColumn) rank() int   { return rankColumn }
func (DropColumn) rank() int  { return rankDrop }

// column finds the table and column of a change.
func column(c *catalog.Catalog, ref catalog.Ref, name string) (*catalog.Table, *catalog.Column, error) {
	t, err := table(c, ref)
	if err != nil {
		return nil, nil, err
	}
	col := t.Column(name)
	if col == nil {
		return nil, nil, fmt.Errorf("column %s of %s does not exist", name, ref)
	}
	return t, col, nil
}

// apply sets the type.
func (c AlterType) apply(to *edit, _ catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	if col.Type != c.From {
		return fmt.Errorf("column %s of %s is %s by now, not %s", c.Column, c.Table, col.Type.Native, c.From.Native)
	}
	col.Type = c.To
	redefined(t)
	if q := identityOf(to.Catalog, col); q != nil && c.From.Bits > 0 && c.To.Bits > 0 && q.Most == c.From.Largest() {
		if q, err = to.sequence(col.Sequence.Schema, q.Name); err != nil {
			return err
		}
		q.Type, q.Most = c.To.Native, c.To.Largest() // it counts as far as its column
	}
	return nil
}

// identityOf is the sequence of an identity column, or nil.
func identityOf(c *catalog.Catalog, col *catalog.Column) *catalog.Sequence {
	if col.Sequence == nil || col.Identity != catalog.IdentityAlways && col.Identity != catalog.IdentityByDefault {
		return nil
	}
	q, err := sequence(c, col.Sequence.Schema, col.Sequence.Table)
	if err != nil {
		return nil
	}
	return q
}

// apply sets whether the column may be null.
func (c SetNullable) apply(to *edit, can catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	is := c.Named(t, can)
	col.Nullable, col.NotNull = c.Nullable, is
	redefined(t)
	for _, part := range parts(to.Catalog, c.Table) {
		if part.Column(c.Column) == nil {
			continue
		}
		switch share := to.altered(part).Column(c.Column); {
		case is != nil && is.NotValidated:
			share.Nullable, share.NotNull = true, &catalog.NotNull{NotValidated: true} // called as the table's is
		case c.Nullable:
			share.Nullable, share.NotNull = true, nil
		default:
			share.Nullable, share.NotNull = false, share.NotNull.Validated()
		}
	}
	return nil
}

// Named is the constraint that the change leaves on the column, with the name that it is
// given where the engine would have to choose another than it does by itself; nil where
// nothing is to be said of it.
func (c SetNullable) Named(t *catalog.Table, can catalog.Abilities) *catalog.NotNull {
	if c.Nullable && c.Constraint == nil {
		return nil
	}
	if can.NotNullName == nil {
		if can.NotNullNamed && c.Constraint != nil {
			return catalog.NotNull{Name: c.Constraint.Name}.Plain()
		}
		return nil
	}
	n := catalog.NotNull{}
	col := t.Column(c.Column)
	if is := cmp.Or(c.Constraint, col.NotNull.Validated()); is != nil {
		n = *is
	}
	if n.Name == "" && (col == nil || !col.ForbidsNull()) {
		if name := t.FreeNotNullName(c.Column, can); name != can.NotNullName(t.Name, c.Column) {
			n.Name = name
		}
	}
	return n.Plain()
}

// parts are the partitions of a table and the tables that inherit from it, at
// every level: what is said of a column of the whole is said of theirs.
func parts(in *catalog.Catalog, of catalog.Ref) []*catalog.Table {
	var all []*catalog.Table
	for _, t := range in.Tables() {
		if slices.Contains(t.Parents(), of) {
			all = append(append(all, t), parts(in, t.Ref())...)
		}
	}
	return all
}

// apply sets the default.
func (c SetDefault) apply(to *edit, can catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	col.Default, col.DefaultName = c.To, ""
	if c.To != "" && can.DefaultName != nil {
		col.DefaultName = cmp.Or(c.Name, can.DefaultName(t.Name, c.Column))
	}
	redefined(t)
	return nil
}

// apply adds the column behind the last.
func (c AddColumn) apply(to *edit, can catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if t.Column(c.Column.Name) != nil {
		return fmt.Errorf("column %s of %s exists", c.Column.Name, c.Table)
	}
	col := c.Column.Clone()
	if can.NotNullName == nil {
		col.NotNull = nil
	}
	if can.DefaultName == nil {
		col.DefaultName = ""
	} else if col.Default != "" {
		col.DefaultName = cmp.Or(col.DefaultName, can.DefaultName(t.Name, col.Name))
	}
	if col.Identity == catalog.IdentityTrigger {
		if err := to.numberByTrigger(t, col, can); err != nil {
			return err
		}
	}
	at := len(t.Columns)
	if i := slices.IndexFunc(t.Columns, func(o *catalog.Column) bool { return o.Name == c.Before }); i >= 0 && can.PlacesColumns {
		at = i
	}
	t.Columns = slices.Insert(t.Columns, at, col)
	redefined(t)
	return nil
}

// numberByTrigger makes what numbers a new column of the table.
func (e *edit) numberByTrigger(t *catalog.Table, col *catalog.Column, can catalog.Abilities) error {
	if can.NumberedBy == nil {
		return fmt.Errorf("no trigger can number column %s of %s", col.Name, t.Ref())
	}
	q, g := can.NumberedBy(t, col.Name)
	if slices.ContainsFunc(t.Triggers, func(o *catalog.Trigger) bool { return o.Name == g.Name }) {
		return fmt.Errorf("trigger %s of %s exists", g.Name, t.Ref())
	}
	col.Identity, col.Sequence = catalog.NoIdentity, &catalog.Ref{Schema: t.Schema, Table: q.Name}
	q.UsedBy = []catalog.SequenceUse{{ColumnRef: catalog.ColumnRef{Schema: t.Schema, Table: t.Name, Column: col.Name}, How: "trigger", Alone: true}}
	t.Triggers = append(t.Triggers, g)
	return e.addSequence(t.Schema, q)
}

// apply removes the column.
func (c DropColumn) apply(to *edit, _ catalog.Abilities) error {
	t, col, err := to.column(c.Table, c.Column)
	if err != nil {
		return err
	}
	if by := usedBy(t, c.Column); by != "" {
		return fmt.Errorf("column %s of %s is used by %s", c.Column, c.Table, by)
	}
	t.Columns = without(t.Columns, col)
	redefined(t)
	return nil
}

// usedBy names what of the table's own stands on the column, or "".
func usedBy(t *catalog.Table, column string) string {
	for _, k := range t.Keys() {
		if slices.Contains(k.Columns, column) {
			return "a key"
		}
	}
	for _, f := range t.ForeignKeys {
		if slices.Contains(f.Columns, column) {
			return "foreign key " + f.Label()
		}
	}
	for _, x := range t.Indexes {
		if slices.Contains(x.Columns(), column) || slices.Contains(x.Include, column) {
			return "index " + x.Name
		}
	}
	return ""
}

// inverse converts the column back.
func (c AlterType) inverse(*catalog.Catalog) (Change, error) {
	return AlterType{c.Table, c.Column, c.To, c.From}, nil
}

// inverse sets what was.
func (c SetNullable) inverse(before *catalog.Catalog) (Change, error) {
	_, col, err := column(before, c.Table, c.Column)
	if err != nil {
		return nil, err
	}
	return SetNullable{c.Table, c.Column, col.Nullable, col.Clone().NotNull}, nil
}

// inverse sets the default that was.
func (c SetDefault) inverse(before *catalog.Catalog) (Change, error) {
	_, col, err := column(before, c.Table, c.Column)
	if err != nil {
		return nil, err
	}
	return SetDefault{c.Table, c.Column, c.To, col.Default, col.DefaultName}, nil
}

// inverse drops the column again.
func (c AddColumn) inverse(*catalog.Catalog) (Change, error) {
	return DropColumn{c.Table, c.Column.Name}, nil
}

// inverse adds it again, without its values.
func (c DropColumn) inverse(before *catalog.Catalog) (Change, error) {
	t, col, err := column(before, c.Table, c.Column)
	if err != nil {
		return nil, err
	}
	next := ""
	if i := slices.Index(t.Columns, col) + 1; i < len(t.Columns) {
		next = t.Columns[i].Name
	}
	return AddColumn{c.Table, col.Clone(), next}, nil
}
