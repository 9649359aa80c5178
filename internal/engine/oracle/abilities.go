package oracle

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
)

// sequenceMost stands for all that a sequence can give, which has 28 digits and more.
const sequenceMost = math.MaxInt64

// whole numbers of so many digits.
func digits(n int) catalog.Type { return number(&n, new(int)) }

// Abilities. The manual pages behind them:
// https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/constraint.html (nulls in a unique key, deferrable constraints),
// https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Database-Object-Names-and-Qualifiers.html (128 bytes),
// https://docs.oracle.com/en/database/oracle/oracle-database/19/cncpt/indexes-and-index-organized-tables.html.
func (Engine) Abilities(string) catalog.Abilities {
	return catalog.Abilities{
		AddedKeyType:             digits(19),
		IntegerTypes:             []catalog.Type{digits(5), digits(10), digits(19)},
		AddedKeyIdentity:         catalog.IdentityByDefault,
		DefaultOnNull:            true,
		NotNullNamed:             true,
		ViewsBreak:               true,
		NoRestrict:               true,
		InvisibleColumns:         true,
		ForeignKeysNameIndex:     true,
		ChildrenLocked:           true,
		IndexExpressions:         true,
		DeferrableReferences:     true,
		DateTypes:                true,
		ZonedMoments:             true,
		Comments:                 true,
		IndexPage:                6398, // of blocks of 8 KB
		Reserved:                 func(word string) bool { return quoting.Reserved(word) },
		AnalyseAdvice:            "EXEC DBMS_STATS.GATHER_SCHEMA_STATS('SCHEMA'), then make a capture again",
		Obsolete:                 obsolete,
		ExactType:                declared("NUMBER(19,4)"),
		Now:                      now,
		Condition:                condition,
		Bounds:                   boundsOf,
		RangeBounds:              func(_ *catalog.Table, _, to catalog.Bound) string { return "VALUES LESS THAN (" + to.Text + ")" },
		ListBounds:               oneValue,
		RangeKey:                 rangeKey,
		PartitionedReferences:    true,
		InRange:                  within,
		BoundAt:                  boundAt,
		RestBounds:               restBounds,
		SystemNamed:              systemNamed,
		SequenceMost:             sequenceMost,
		NextValue:                nextValue,
		UncheckedReferences:      true,
		NotEnforced:              true,
		TriggersSwitch:           true,
		TriggersFill:             true,
		IndexesSwitch:            true,
		BrokenRefuses:            true,
		PartitionsStay:           true,
		AllNullsLeftOut:          true,
		OneWay:                   oneWay,
		Expressions:              expressions,
		MaxName:                  128,
		ConstraintNamesPerSchema: true,
		ClusteredByKey:           func(t *catalog.Table) bool { return t.Has("index organized") },
	}
}

// oneWay: a number keeps its digits, and what was a LONG stays what it has become, as long as there
// are values (ORA-01440, ORA-01439).
func oneWay(from, to catalog.Type) bool {
	return from.Native != to.Native && (base(from) != base(to) || base(from) == "NUMBER")
}

// nextValue is a default that draws from a sequence, as the dictionary has it.
func nextValue(r catalog.Ref) string { return quoted(r.Schema) + "." + quoted(r.Table) + `."NEXTVAL"` }

// now: https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/SYSTIMESTAMP.html.
func now(t catalog.Type) string {
	switch {
	case t.Native == "DATE":
		return "SYSDATE"
	case t.Family == catalog.Timestamp:
		return "SYSTIMESTAMP"
	}
	return ""
}

// condition is kept as it is written.
func condition(t *catalog.Table, c catalog.Condition) string {
	switch {
	case c.Filled != "":
		return quoted(c.Filled) + " IS NOT NULL"
	case c.Among != nil:
		return fmt.Sprintf("%s IN (%s)", ident(c.Among.Column), strings.Join(c.Among.Written(t, literal), ", "))
	}
	var none, all []string
	for _, name := range c.Together {
		none, all = append(none, ident(name)+" IS NULL"), append(all, ident(name)+" IS NOT NULL")
	}
	return strings.Join(none, " AND ") + " OR " + strings.Join(all, " AND ")
}

var systemName = pattern.New(`^SYS_(C|IL|NC|IOT_TOP_)\d+`)

// systemNamed: https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/constraint.html
// ("SYS_Cn").
func systemNamed(_ *catalog.Table, _, name string, _ []string) bool {
	return systemName.MatchString(name)
}

var (
	lessThan  = pattern.New(`(?s)^VALUES LESS THAN \((.*)\)$`)
	valuesOf  = pattern.New(`(?s)^VALUES \((.*)\)$`)
	asDate    = pattern.New(`(?i)\bTO_DATE\(' ?([^']*)'[^)]*\)`)
	asMoment  = pattern.New(`(?i)\bTIMESTAMP ?' ?([^']*)'`)
	plainDate = pattern.New(`(?i)\bDATE ?'([^']*)'`)
)

// boundsOf reads the bounds of a partition. A range begins where the one before it ends
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/refrn/ALL_TAB_PARTITIONS.html, HIGH_VALUE).
func boundsOf(t *catalog.Table, text string) (catalog.Bounds, bool) {
	if m := valuesOf.FindStringSubmatch(text); m != nil {
		if strings.EqualFold(strings.TrimSpace(m[1]), "DEFAULT") {
			return catalog.Bounds{Default: true}, true
		}
		return catalog.Bounds{Values: boundList(m[1])}, true
	}
	return t.UpTo(text, func(bounds string) ([]catalog.Bound, bool) {
		m := lessThan.FindStringSubmatch(bounds)
		if m == nil {
			return nil, false
		}
		return boundList(m[1]), true
	})
}

// boundList are the values of a bound, each as the dictionary writes it.
func boundList(text string) []catalog.Bound {
	var all []catalog.Bound
	depth, start := 0, 0
	add := func(end int) {
		value := strings.TrimSpace(text[start:end])
		b := catalog.Bound{Text: value, Greatest: strings.EqualFold(value, "MAXVALUE")}
		for _, p := range []*pattern.Pattern{asDate, asMoment, plainDate} {
			if m := p.FindStringSubmatch(value); m != nil {
				b.At = moment(m[1])
			}
		}
		if len(value) > 1 && value[0] == '\'' {
			b.Text = strings.ReplaceAll(value[1:len(value)-1], "''", "'")
		}
		all = append(all, b)
	}
	for _, tok := range (Engine{}).Dialect().Tokens(text) {
		switch {
		case tok.Is("("):
			depth++
		case tok.Is(")"):
			depth--
		case tok.Is(",") && depth == 0:
			add(tok.Start)
			start = tok.End
		}
	}
	add(len(text))
	return all
}

func moment(text string) *time.Time {
	for _, layout := range []string{"2006-01-02 15:04:05.999999999", time.DateOnly} {
		if at, err := time.Parse(layout, strings.TrimSpace(text)); err == nil {
			return &at
		}
	}
	return nil
}

// boundText is a moment as the dictionary writes the end of a part.
func boundText(t catalog.Type, at time.Time) string {
	if t.Native == "DATE" {
		return "TO_DATE(' " + at.Format(time.DateTime) + "', 'SYYYY-MM-DD HH24:MI:SS', 'NLS_CALENDAR=GREGORIAN')"
	}
	return "TIMESTAMP' " + at.Format(time.DateTime) + "'"
}

// boundAt is a moment in the way of another bound of the table.
func boundAt(t *catalog.Table, at time.Time, like catalog.Bound) catalog.Bound {
	b := catalog.Bound{At: &at}
	switch c := t.Column(t.PartitionBy.Columns[0]); {
	case c != nil && c.Type.Family == catalog.Timestamp:
		b.Text = boundText(c.Type, at)
	case like.At != nil && len(like.Text) == len(time.DateOnly):
		b.Text = literal(at.Format(time.DateOnly))
	default:
		b.Text = literal(at.Format(time.DateTime))
	}
	return b
}

// oneValue: https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/CREATE-TABLE.html, list_partitions.
func oneValue(t *catalog.Table, value string) (bounds, condition string) {
	c, text := t.Column(t.PartitionBy.Columns[0]), literal(value)
	if _, err := strconv.ParseFloat(value, 64); err == nil && c.Type.Family != catalog.Text {
		text = value
	}
	return "VALUES (" + text + ")", ident(c.Name) + " = " + text
}

// rangeKey: days and moments.
func rangeKey(t *catalog.Table, column string) (*catalog.PartitionKey, catalog.Bound) {
	c := t.Column(column)
	if c.Type.Family != catalog.Timestamp || strings.HasSuffix(c.Type.Native, "WITH TIME ZONE") {
		return nil, catalog.Bound{}
	}
	return &catalog.PartitionKey{Method: "range", Columns: []string{column}, Definition: "RANGE (" + ident(column) + ")"}, catalog.Bound{Text: boundText(c.Type, time.Unix(0, 0).UTC())}
}

// within is the condition that a column lies in a range.
func within(column string, from, to catalog.Bound) string {
	value := func(b catalog.Bound) string {
		if b.At == nil {
			return b.Text
		}
		return "TIMESTAMP '" + b.At.Format(time.DateTime) + "'"
	}
	return fmt.Sprintf("%s >= %s AND %[1]s < %[3]s", ident(column), value(from), value(to))
}

// restBounds: the last of a range, or what no list names.
func restBounds(t *catalog.Table) string {
	switch by := t.PartitionBy; {
	case strings.Contains(by.Definition, "INTERVAL"), strings.Contains(by.Definition, "AUTOMATIC"):
		return ""
	case by.Method == "list":
		return "VALUES (DEFAULT)"
	case by.Method == "range":
		return "VALUES LESS THAN (" + strings.Join(slices.Repeat([]string{"MAXVALUE"}, len(by.Columns)), ", ") + ")"
	}
	return ""
}
