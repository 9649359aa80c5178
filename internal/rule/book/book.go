// Package book lists the rules. A new rule is one line here.
package book

import (
	"nexdal/internal/rule"
	"nexdal/internal/rule/fk"
	"nexdal/internal/rule/index"
	"nexdal/internal/rule/key"
)

// Rules returns all rules, by area and identifier.
func Rules() []*rule.Rule {
	return []*rule.Rule{
		fk.EnforcementOff,
		fk.Missing,
		fk.NotIndexed,
		fk.RequiredSetNull,
		fk.TypeDiffers,
		fk.Violated,
		index.BehindKey,
		index.Prefix,
		index.Repeated,
		key.None,
		key.PairNotUnique,
	}
}
