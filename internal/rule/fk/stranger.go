package fk

import (
	"fmt"
	"slices"
	"strconv"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
)

// stranger says what writes a value into the column that refers to no row, as far as the data tells: a
// default that stands for nothing, such as 0, or a program of the database. Once the foreign key is
// there it would be refused.
func stranger(p *rule.Pass, t, target *catalog.Table, f *catalog.ForeignKey) string {
	if len(f.Columns) != 1 || p.Data == nil || p.Abilities.KeysUnenforced {
		return ""
	}
	c, keys := t.Column(f.Columns[0]), p.Data.Column(target, f.TargetColumns[0])
	if keys == nil || keys.Sampled {
		return ""
	}
	none := fmt.Sprintf("is no \"%s\" of \"%s\"", f.TargetColumns[0], p.Called(f.Target))
	reads := p.Abilities.Reads()
	if v, ok := reads.Constant(c.Default); ok && c.Default != "" && lacks(keys, v) {
		return fmt.Sprintf("the default %s of \"%s\" %s", v.Text, c.Name, none)
	}
	for _, w := range reads.Written(p.Catalog.Modules(), t, c) {
		if lacks(keys, w.Value) {
			return fmt.Sprintf("%s %s writes %s into \"%s\", which %s", w.By.Kind, w.By.Name, w.Value.Text, c.Name, none)
		}
	}
	return ""
}

// lacks reports whether the value is surely none of those of the column: they are known one by one,
// or it is a number below or above all of them.
func lacks(keys *evidence.Column, v catalog.Constant) bool {
	switch {
	case v.Null || keys.Filled() == 0:
		return false
	case len(keys.Values) > 0:
		return !slices.Contains(keys.Values, v.Text)
	case !v.Number || keys.Least == nil || keys.Greatest == nil:
		return false
	}
	n, err := strconv.ParseFloat(v.Text, 64)
	least, err1 := strconv.ParseFloat(*keys.Least, 64)
	greatest, err2 := strconv.ParseFloat(*keys.Greatest, 64)
	return err == nil && err1 == nil && err2 == nil && (n < least || n > greatest)
}
