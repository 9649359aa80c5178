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
	Anew  bool // another of its name takes its place
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
func (c DropCheck) rank() int   { return dropRank(c.Anew) }
func (ValidateCheck) rank() int { return rankReference }

// checkOf finds the table's own value of a check.
func checkOf(c *catalog.Catalog, ref catalog.Ref, k *catalog.Check) (*catalog.Table, int, error) {
	t, err := table(c, ref)
	if err != nil {
		return nil, 0, err
	}
	i := slices.IndexFunc(t.Checks, func(o *catalog.Check) bool {
		return o.Name == k.Name && (k.Name != "" || o.Expression == k.Expression)
	})
	if i < 0 {
		return nil, 0, fmt.Errorf("check %s of %s does not exist", called(k), ref)
	}
	return t, i, nil
}

// Apply adds the check.
func (c AddCheck) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, err := table(to, c.Table)
	if err != nil {
		return err
	}
	if _, _, err := checkOf(to, c.Table, c.Check); err == nil && c.Check.Name != "" {
		return fmt.Errorf("check %s of %s exists", called(c.Check), c.Table)
	}
	k := *c.Check
	t.Checks = append(t.Checks, &k)
	redefined(t)
	return nil
}

// Apply removes the check.
func (c DropCheck) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, i, err := checkOf(to, c.Table, c.Check)
	if err != nil {
		return err
	}
	t.Checks = slices.Delete(t.Checks, i, i+1)
	redefined(t)
	return nil
}

// Apply notes that the rows were checked.
func (c ValidateCheck) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, i, err := checkOf(to, c.Table, c.Check)
	if err != nil {
		return err
	}
	k := *t.Checks[i]
	k.NotValidated = false
	t.Checks[i] = &k
	redefined(t)
	return nil
}

// Reverse drops the check.
func (c AddCheck) Reverse(*catalog.Catalog) (Change, error) {
	return DropCheck{c.Table, c.Check, false}, nil
}

// Reverse adds the check as it was.
func (c DropCheck) Reverse(before *catalog.Catalog) (Change, error) {
	t, i, err := checkOf(before, c.Table, c.Check)
	if err != nil {
		return nil, err
	}
	return AddCheck{c.Table, t.Checks[i]}, nil
}

// Reverse declares it anew without looking at the rows.
func (c ValidateCheck) Reverse(before *catalog.Catalog) (Change, error) {
	t, i, err := checkOf(before, c.Table, c.Check)
	if err != nil {
		return nil, err
	}
	return ForgetCheck{c.Table, t.Checks[i]}, nil
}

// ForgetCheck declares a check anew as one whose rows were not looked at. It is
// made by reversing alone.
type ForgetCheck struct {
	Table catalog.Ref
	Check *catalog.Check // as it is to be: not validated
}

func (c ForgetCheck) On() catalog.Ref { return c.Table }
func (c ForgetCheck) Title() string {
	return fmt.Sprintf("declare check %s of %s without looking at the rows", called(c.Check), c.Table)
}
func (ForgetCheck) rank() int { return rankReference }

// Apply notes that the rows were not checked.
func (c ForgetCheck) Apply(to *catalog.Catalog, _ catalog.Abilities) error {
	t, i, err := checkOf(to, c.Table, c.Check)
	if err != nil {
		return err
	}
	k := *c.Check
	t.Checks[i] = &k
	redefined(t)
	return nil
}

// Reverse validates it.
func (c ForgetCheck) Reverse(*catalog.Catalog) (Change, error) { return ValidateCheck(c), nil }
