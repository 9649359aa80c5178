package catalog

import "fmt"

// A NotNull is the constraint that forbids null in a column, where the engine keeps one
// under a name. A column that has none in the model is required or not, and no more is to
// be said: the name is the engine's own, or that of the parent's constraint.
type NotNull struct {
	Name         string `json:"name,omitempty"`          // empty: as the engine calls it
	NotValidated bool   `json:"not_validated,omitempty"` // rows that were there were not checked: the column is nullable
	NoInherit    bool   `json:"no_inherit,omitempty"`    // holds for this table alone, not for its heirs
	Local        bool   `json:"local,omitempty"`         // defined here too, and the column inherited alone
	Inherited    bool   `json:"inherited,omitempty"`     // inherited alone, and the column defined here too
	Comment      string `json:"comment,omitempty"`
}

// Plain is the constraint as it stands in the model: nil where nothing is to be said of it.
func (n NotNull) Plain() *NotNull {
	if n == (NotNull{}) {
		return nil
	}
	return &n
}

// Validated is the constraint once the rows were checked; nil where nothing is to be said
// of it.
func (n *NotNull) Validated() *NotNull {
	if n == nil {
		return nil
	}
	v := *n
	v.NotValidated = false
	return v.Plain()
}

// ForbidsNull reports whether nobody may write a null into the column from now on; rows
// that were there may hold one where it is nullable.
func (c *Column) ForbidsNull() bool { return !c.Nullable || c.NotNull != nil }

// NotNullNames gives the constraints that forbid null in columns of the table their names,
// by column; none where the engine names none.
func (l *Lookup) NotNullNames(t *Table, can Abilities) map[string]string {
	names := map[string]string{}
	if can.NotNullName != nil {
		for _, c := range t.Columns {
			if c.ForbidsNull() {
				names[c.Name] = l.NotNullName(t, c, can)
			}
		}
	}
	return names
}

// NotNullName is what the constraint that forbids null in the column is called.
func (l *Lookup) NotNullName(t *Table, c *Column, can Abilities) string {
	if c.NotNull != nil && c.NotNull.Name != "" {
		return c.NotNull.Name
	}
	return l.goesWithoutSaying(t, c.Name, can)
}

// goesWithoutSaying is the name that the engine gives the constraint on the column: that of
// the parent's, where one hands its own down.
func (l *Lookup) goesWithoutSaying(t *Table, column string, can Abilities) string {
	for _, ref := range t.Parents() {
		if p := l.Table(ref); p != nil {
			if above := p.Column(column); above != nil && above.ForbidsNull() && (above.NotNull == nil || !above.NotNull.NoInherit) {
				return l.NotNullName(p, above, can)
			}
		}
	}
	return can.NotNullName(t.Name, column)
}

// NameNotNull notes what the constraints that forbid null are called, where that does not go
// without saying. Those of the parents have to be noted already.
func (l *Lookup) NameNotNull(t *Table, names map[string]string, can Abilities) {
	for _, c := range t.Columns {
		name := names[c.Name]
		if name == "" {
			continue
		}
		n := NotNull{}
		if c.NotNull != nil {
			n = *c.NotNull
		}
		if n.Name = name; name == l.goesWithoutSaying(t, c.Name, can) {
			n.Name = ""
		}
		c.NotNull = n.Plain()
	}
}

// FreeNotNullName is what a new constraint that forbids null in the column is called: as the
// engine would, with a number behind it where another constraint of the table bears that.
func (t *Table) FreeNotNullName(column string, can Abilities) string {
	plain := can.NotNullName(t.Name, column)
	name := plain
	for i := 1; t.constraint(name); i++ {
		name = fmt.Sprintf("%s%d", plain, i)
	}
	return name
}

// constraint reports whether a constraint of the table is called so.
func (t *Table) constraint(name string) bool {
	for _, k := range t.Keys() {
		if k.Name == name {
			return true
		}
	}
	for _, f := range t.ForeignKeys {
		if f.Name == name {
			return true
		}
	}
	for _, k := range t.Checks {
		if k.Name == name {
			return true
		}
	}
	for _, c := range t.Columns {
		if c.NotNull != nil && c.NotNull.Name == name {
			return true
		}
	}
	return false
}
