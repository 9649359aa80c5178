package write

import (
	"fmt"
	"math"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqlexpr"
	"nexdal/internal/engine/sqllex"
	"nexdal/internal/engine/sqlserver/traits"
	"nexdal/internal/pattern"
)

// Abilities. The manual pages behind them:
// https://learn.microsoft.com/en-us/sql/relational-databases/tables/unique-constraints-and-check-constraints (nulls in a unique key),
// https://learn.microsoft.com/en-us/sql/sql-server/maximum-capacity-specifications-for-sql-server (1,700 and 900 bytes, 128 letters),
// https://learn.microsoft.com/en-us/sql/relational-databases/partitions/partitioned-tables-and-indexes (keys hold the column).
func (Writer) Abilities(string) catalog.Abilities {
	return catalog.Abilities{
		AddedKeyType: catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64},
		IntegerTypes: []catalog.Type{{Native: "smallint", Family: catalog.Integer, Bits: 16}, {Native: "int", Family: catalog.Integer, Bits: 32},
			{Native: "bigint", Family: catalog.Integer, Bits: 64}},
		AddedKeyIdentity:           catalog.IdentityAlways,
		ViewsBreak:                 true,
		PartitionedKeyNeedsColumns: true,
		NoRestrict:                 true,
		ConstraintsBuild:           true,
		Boundaries:                 boundaries,
		PartitionedReferences:      true,
		RangeKey:                   rangeKey,
		RangeBounds: func(_ *catalog.Table, from, to catalog.Bound) string {
			return between(true, lower(from), upper(to))
		},
		BoundAt:              boundAt,
		ForeignKeysNameIndex: true,
		DropsEmptySchemas:    true,
		ClusteredByKey: func(t *catalog.Table) bool {
			x := t.Clustering()
			return x != nil && x.Origin == catalog.ByPrimaryKey
		},
		ClustersKeys:   true,
		NullsAlike:     true,
		IndexesSwitch:  true,
		DefaultName:    traits.DefaultName,
		CountsReads:    true,
		ReadsAdvice:    "GRANT VIEW SERVER STATE to the user who surveys",
		IndexPage:      1700,
		Reserved:       func(word string) bool { return traits.Quoting.Reserved(word) },
		AnalyseAdvice:  "EXEC sp_updatestats, then survey the database",
		PartialIndexes: true,
		DateTypes:      true,
		ZonedMoments:   true,
		Comments:       true,
		Obsolete:       traits.Obsolete,
		ExactType:      catalog.Type{Native: "decimal(19,4)", Family: catalog.Decimal, Precision: 19, Scale: 4},
		Now:            now,
		Condition:      condition,
		Bounds:         boundsOf,
		InRange:        within,
		SystemNamed:    systemNamed,
		SequenceMost:   math.MaxInt64,
		SequenceTypes:  true,
		NextValue: func(r catalog.Ref) string {
			return "NEXT VALUE FOR " + traits.Bracket(r.Schema) + "." + traits.Bracket(r.Table)
		},
		UncheckedReferences:      true,
		NotEnforced:              true,
		TriggersSwitch:           true,
		IndexNamesPerTable:       true,
		ConstraintNamesPerSchema: true,
		Expressions:              sqlexpr.Reader{Dialect: Writer{}.Dialect()},
		MaxName:                  128,
	}
}

// now: https://learn.microsoft.com/en-us/sql/t-sql/functions/date-and-time-data-types-and-functions-transact-sql.
func now(t catalog.Type) string {
	switch {
	case t.Zoned:
		return "sysdatetimeoffset()"
	case t.Family == catalog.Timestamp:
		return "sysdatetime()"
	case t.Family == catalog.Date:
		return "CONVERT([date],getdate())"
	}
	return ""
}

// condition writes it as sys.check_constraints gives it back: a list as its values, the last
// first.
func condition(t *catalog.Table, c catalog.Condition) string {
	switch {
	case c.Filled != "":
		return traits.Bracket(c.Filled) + " IS NOT NULL"
	case c.Among != nil:
		values := make([]string, len(c.Among.Values))
		column := t.Column(c.Among.Column)
		for i, v := range c.Among.Values {
			switch column.Type.Family {
			case catalog.Text:
				v = "'" + strings.ReplaceAll(v, "'", "''") + "'"
				if strings.HasPrefix(strings.TrimPrefix(column.Type.Underlying+column.Type.Native, "["), "n") {
					v = "N" + v
				}
			default:
				v = "(" + v + ")"
			}
			values[len(values)-1-i] = traits.Bracket(c.Among.Column) + "=" + v
		}
		return strings.Join(values, " OR ")
	}
	var none, all []string
	for _, name := range c.Together {
		none, all = append(none, traits.Bracket(name)+" IS NULL"), append(all, traits.Bracket(name)+" IS NOT NULL")
	}
	return strings.Join(none, " AND ") + " OR " + strings.Join(all, " AND ")
}

var systemName = pattern.New(`^(PK|UQ|FK|CK|DF)__.*__[0-9A-F]{8}([0-9A-F]{8})?$`)

// systemNamed: the beginnings of the table's and columns' names, and a number.
func systemNamed(_ *catalog.Table, kind, name string, _ []string) bool {
	return kind != "index" && systemName.MatchString(name)
}

var limit = pattern.New(`^(>=|<=|>|<) (N?'(?:[^']|'')*'|-?[0-9.]+)$`)

// boundsOf reads the bounds of a part that begins with its lower value, as RANGE RIGHT cuts. Of
// RANGE LEFT the upper value belongs to a part, which a range of moments cannot say.
func boundsOf(_ *catalog.Table, text string) (catalog.Bounds, bool) {
	b := catalog.Bounds{From: []catalog.Bound{{Text: "MINVALUE", Least: true}}, To: []catalog.Bound{{Text: "MAXVALUE", Greatest: true}}}
	if text == "" {
		return b, true
	}
	for part := range strings.SplitSeq(text, " AND ") {
		m := limit.FindStringSubmatch(part)
		if m == nil || m[1] == "<=" || m[1] == ">" {
			return catalog.Bounds{}, false
		}
		value := sqllex.Bounds(strings.TrimPrefix(m[2], "N"), moment)
		if len(value) != 1 {
			return catalog.Bounds{}, false
		}
		if m[1] == ">=" {
			b.From = value
		} else {
			b.To = value
		}
	}
	return b, true
}

// moment is what a value stands for, or nil.
func moment(value string, quoted bool) *time.Time {
	if !quoted {
		return nil
	}
	for _, layout := range []string{time.DateOnly, time.DateTime, "2006-01-02 15:04:05 -07:00"} {
		if at, err := time.Parse(layout, value); err == nil {
			return &at
		}
	}
	return nil
}

// within is the condition that a column lies in a range.
func within(column string, from, to catalog.Bound) string {
	value := func(b catalog.Bound) string {
		if b.At == nil {
			return b.Text
		}
		return "'" + b.At.Format("2006-01-02T15:04:05") + "'"
	}
	return fmt.Sprintf("%s >= %s AND %[1]s < %[3]s", traits.Ident(column), value(from), value(to))
}
