// Package book lists the rules. A new rule is one line here.
package book

import (
	"nexdal/internal/rule"
	"nexdal/internal/rule/check"
	"nexdal/internal/rule/column"
	"nexdal/internal/rule/fk"
	"nexdal/internal/rule/index"
	"nexdal/internal/rule/key"
	"nexdal/internal/rule/name"
	"nexdal/internal/rule/partition"
	"nexdal/internal/rule/sequence"
)

// Rules returns all rules, by area and identifier.
func Rules() []*rule.Rule {
	return []*rule.Rule{
		check.AsNotNull,
		check.NotValidated,
		check.Repeated,
		check.Violated,
		column.MoneyApproximate,
		column.NeverNull,
		fk.Cycle,
		fk.EnforcementOff,
		fk.Missing,
		fk.NotIndexed,
		fk.NotValidated,
		fk.OneToOne,
		fk.PartlyNull,
		fk.Repeated,
		fk.RequiredSetNull,
		fk.TargetNotKey,
		fk.TwoTargets,
		fk.TypeDiffers,
		fk.Violated,
		index.BehindKey,
		index.Broken,
		index.Prefix,
		index.Repeated,
		index.TooMany,
		index.TooWide,
		key.None,
		key.NullablePart,
		key.PairNotUnique,
		key.Repeated,
		key.Undeclared,
		key.UnsuitableType,
		name.NeedsQuotes,
		name.Reserved,
		partition.DefaultFilled,
		partition.EmptyParent,
		partition.NullableKey,
		sequence.Behind,
		sequence.Cycles,
		sequence.Shared,
	}
}
