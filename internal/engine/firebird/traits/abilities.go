package traits

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
)

// Abilities. The sections of the language reference behind them:
// https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref30-ddl-tbl-constraints (a foreign key makes its index),
// #fblangref30-ddl-index-limits (a quarter of a page),
// https://firebirdsql.org/file/documentation/release_notes/html/en/4_0/rlsnotes40.html#rnfb40-ddl-metadata (63 characters of a name from 4.0 on).
func (Traits) Abilities(version string) catalog.Abilities {
	can := catalog.Abilities{
		AddedKeyType: catalog.Type{Native: "BIGINT", Family: catalog.Integer, Bits: 64},
		IntegerTypes: []catalog.Type{{Native: "SMALLINT", Family: catalog.Integer, Bits: 16}, {Native: "INTEGER", Family: catalog.Integer, Bits: 32},
			{Native: "BIGINT", Family: catalog.Integer, Bits: 64}},
		AddedKeyIdentity:         catalog.IdentityTrigger,
		NumberedBy:               NumberedBy(version),
		PlainAction:              catalog.Restrict,
		IndexesSwitch:            true,
		ConstraintsBuild:         true,
		ReferencesBuild:          true,
		ForeignKeysNameIndex:     true,
		IndexesOneWay:            true,
		IndexExpressions:         true,
		Reserved:                 func(word string) bool { return Quoting.Reserved(word) },
		AnalyseAdvice:            "SET STATISTICS INDEX for each index, then survey the database",
		DateTypes:                true,
		Comments:                 true,
		ExactType:                catalog.Type{Native: "NUMERIC(18,4)", Family: catalog.Decimal, Precision: 18, Scale: 4},
		Now:                      now,
		Condition:                condition,
		SystemNamed:              bySystem,
		OneWay:                   func(from, to catalog.Type) bool { return !Widens(to, from) },
		SequenceMost:             math.MaxInt64,
		TriggersFill:             true,
		TriggersSwitch:           true,
		ConstraintNamesPerSchema: true,
		Expressions:              Expressions,
		MaxName:                  31,
	}
	if Major(version) >= 4 {
		can.MaxName, can.ZonedMoments = 63, true
	}
	return can
}

// NumberedBy numbers a column as it was done before there were identities, which no table with rows
// can be given: the rows would have none.
func NumberedBy(version string) func(t *catalog.Table, column string) (*catalog.Sequence, *catalog.Trigger) {
	return func(t *catalog.Table, column string) (*catalog.Sequence, *catalog.Trigger) {
		q := &catalog.Sequence{Name: cut(t.Name+"_"+column, "_SEQ", version), Type: "BIGINT", Increment: 1, Start: UsualStart(version), Least: math.MinInt64, Most: math.MaxInt64}
		g := &catalog.Trigger{Name: cut(t.Name+"_"+column, "_BI", version), Timing: "before", Events: []string{"insert"}, PerRow: true}
		g.Definition = TriggerHead(g, t.Name) + fmt.Sprintf("AS\nBEGIN\n  IF (NEW.%s IS NULL) THEN NEW.%[1]s = NEXT VALUE FOR %s;\nEND", Ident(column), Ident(q.Name))
		// The trigger takes numbers with its own rights, and not with those of who inserts
		// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref-security-grant).
		q.Granted, q.Grants = true, []catalog.Grant{{To: "TRIGGER " + Ident(g.Name), What: "USAGE"}}
		return q, g
	}
}

// cut keeps a name with its ending within what the version takes.
func cut(stem, ending, version string) string {
	most := 31
	if Major(version) >= 4 {
		most = 63
	}
	for len(stem)+len(ending) > most {
		_, size := utf8.DecodeLastRuneInString(stem)
		stem = stem[:len(stem)-size]
	}
	return stem + ending
}

func now(t catalog.Type) string {
	switch t.Family {
	case catalog.Timestamp:
		return "CURRENT_TIMESTAMP"
	case catalog.Date:
		return "CURRENT_DATE"
	case catalog.Time:
		return "CURRENT_TIME"
	}
	return ""
}

// condition writes it as a DBA would: the engine keeps the text as it is given.
func condition(t *catalog.Table, c catalog.Condition) string {
	switch {
	case c.Filled != "":
		return Ident(c.Filled) + " IS NOT NULL"
	case c.Among != nil:
		values := slices.Clone(c.Among.Values)
		switch t.Column(c.Among.Column).Type.Family {
		case catalog.Integer, catalog.Decimal, catalog.Float, catalog.Boolean:
		default:
			for i, v := range values {
				values[i] = Literal(v)
			}
		}
		return Ident(c.Among.Column) + " IN (" + strings.Join(values, ", ") + ")"
	}
	var none, all []string
	for _, name := range c.Together {
		none, all = append(none, Ident(name)+" IS NULL"), append(all, Ident(name)+" IS NOT NULL")
	}
	return strings.Join(none, " AND ") + " OR " + strings.Join(all, " AND ")
}

var systemName = pattern.New(`^(INTEG_|RDB\$(PRIMARY|FOREIGN)?)[0-9]+$`)

// bySystem: the engine numbers constraints and the indexes behind them throughout the database.
func bySystem(_ *catalog.Table, _, name string, _ []string) bool { return systemName.MatchString(name) }
