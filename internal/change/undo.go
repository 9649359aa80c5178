package change

import (
	"errors"

	"nexdal/internal/catalog"
)

// Undo takes a change back for which there is no change of its own that does. What the
// change has touched is put back on the model whole; an engine has its own way to each.
type Undo[C undoable] struct {
	Of     C
	Before *catalog.Table // the table that the change is on, as it was; nil: it was not there
}

// An undoable change says what taking it back is called.
type undoable interface {
	Change
	undone() string
}

// undo returns what takes the change back.
func undo[C undoable](c C, before *catalog.Catalog) (Change, error) {
	u := Undo[C]{Of: c}
	if t := before.Table(c.On()); t != nil {
		u.Before = t.Clone()
	}
	return u, nil
}

func (c Undo[C]) On() catalog.Ref                          { return c.Of.On() }
func (c Undo[C]) Title() string                            { return c.Of.undone() }
func (c Undo[C]) rank() int                                { return rankLast }
func (c Undo[C]) inverse(*catalog.Catalog) (Change, error) { return c.Of, nil }
func (c Undo[C]) apply(e *edit, _ catalog.Abilities) error {
	return errors.New("what it takes back was not carried out on this model")
}

// Tables names the tables that come or go.
func (c Undo[C]) Tables() []catalog.Ref {
	if several, ok := any(c.Of).(interface{ Tables() []catalog.Ref }); ok {
		return several.Tables()
	}
	return nil
}
