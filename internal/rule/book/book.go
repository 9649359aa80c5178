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
		fk.CascadeReach,
		fk.Cycle,
		fk.Disabled,
		fk.EnforcementOff,
		fk.HouseActions,
		fk.Island,
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
		key.GeneratedOnly,
		key.IndexOnly,
		key.LinkStyle,
		key.NearlyFull,
		key.None,
		key.NullablePart,
		key.NullableUnique,
		key.PairNotUnique,
		key.RandomClustered,
		key.Repeated,
		key.Undeclared,
		key.UnsuitableType,
		key.Violated,
		key.Wide,
		name.NeedsQuotes,
		name.Reserved,
		partition.DefaultFilled,
		partition.EmptyParent,
		partition.NullableKey,
		sequence.Behind,
		sequence.ByTrigger,
		sequence.Cycles,
		sequence.Shared,
		sequence.Unowned,
		sequence.Unused,
	}
}
