package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// AddCheck declares a condition; the rows that are there are checked, unless it
// is marked as not validated.
type AddCheck struct {
	Table catalog.Ref
	Check *catalog.Check
}

// DropCheck takes a condition away.
type DropCheck struct {
	Table catalog.Ref
	Check *catalog.Check
	Early bool // another of its name takes its place
}

// ValidateCheck has the engine check the rows that were there when the check
// was declared.
type ValidateCheck struct {
	Table catalog.Ref
	Check *catalog.Check // as it is: not validated
}

func (c AddCheck) On() catalog.Ref      { return c.Table }
func (c DropCheck) On() catalog.Ref     { return c.Table }
func (c ValidateCheck) On() catalog.Ref { return c.Table }

func (c AddCheck) Title() string {
	return fmt.Sprintf("add check %s to %s", called(c.Check), c.Table)
}
func (c DropCheck) Title() string {
	return fmt.Sprintf("drop check %s of %s", called(c.Check), c.Table)
}
func (c ValidateCheck) Title() string {
	return fmt.Sprintf("validate check %s of %s", called(c.Check), c.Table)
}

// called is the check's name, or else what it says.
func called(k *catalog.Check) string {
	if k.Name != "" {
		return k.Name
	}
	return "(" + k.Expression + ")"
}

func (AddCheck) rank() int      { return rankKey }
func (c DropCheck) rank() int   { return dropRank(c.Early) }
func (ValidateCheck) rank() int { return rankReference }

// findCheck finds the place of a check in its table.
func findCheck(t *catalog.Table, k *catalog.Check) (int, error) {
	i := slices.IndexFunc(t.Checks, func(o *catalog.Check) bool {
		return o.Name == k.Name && (k.Name != "" || o.Expression == k.Expression)
	})
	if i < 0 {
		return 0, fmt.Errorf("check %s of %s does not exist", called(k), t.Ref())
	}
	return i, nil
}

// checkOf finds a check, whose table is about to be altered, and its place there.
func (e *edit) checkOf(ref catalog.Ref, k *catalog.Check) (*catalog.Table, int, error) {
	t, err := e.table(ref)
	if err != nil {
		return nil, 0, err
	}
	i, err := findCheck(t, k)
	return t, i, err
}

// apply adds the check.
func (c AddCheck) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if _, err := findCheck(t, c.Check); err == nil && c.Check.Name != "" {
		return fmt.Errorf("check %s of %s exists", called(c.Check), c.Table)
	}
	k := *c.Check
	t.Checks = append(t.Checks, &k)
	redefined(t)
	return nil
}

// apply removes the check.
func (c DropCheck) apply(to *edit, _ catalog.Abilities) error {
	t, i, err := to.checkOf(c.Table, c.Check)
	if err != nil {
		return err
	}
	t.Checks = slices.Delete(t.Checks, i, i+1)
	redefined(t)
	return nil
}

// apply notes that the rows were checked.
func (c ValidateCheck) apply(to *edit, _ catalog.Abilities) error {
	t, i, err := to.checkOf(c.Table, c.Check)
	if err != nil {
		return err
	}
	k := *t.Checks[i]
	k.NotValidated = false
	t.Checks[i] = &k
	redefined(t)
	return nil
}

// inverse drops the check.
func (c AddCheck) inverse(*catalog.Catalog) (Change, error) {
	return DropCheck{c.Table, c.Check, false}, nil
}

// inverse adds the check as it was.
func (c DropCheck) inverse(before *catalog.Catalog) (Change, error) {
	t, err := table(before, c.Table)
	if err != nil {
		return nil, err
	}
	i, err := findCheck(t, c.Check)
	if err != nil {
		return nil, err
	}
	return AddCheck{c.Table, t.Checks[i].Clone()}, nil
}

// inverse re-creates it without looking at the rows.
func (c ValidateCheck) inverse(before *catalog.Catalog) (Change, error) {
	return undo(c, before)
}

func (c ValidateCheck) undone() string {
	return fmt.Sprintf("declare check %s of %s without looking at the rows", called(c.Check), c.Table)
}
