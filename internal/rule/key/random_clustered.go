package key

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
)

var RandomClustered = &rule.Rule{
	ID:          "key/random-clustered",
	Title:       "rows stored in the order of a random identifier",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Applies:     func(can catalog.Abilities) bool { return can.ClusteredByKey != nil },
	Doc: `The engine keeps the rows in the order of the primary key, and the key is a random identifier: a UUID, or what its default draws by chance. Every insert goes to another page; once the table is larger than memory each of them reads and writes a page of its own, pages stay half empty, and each further index carries the long key along.

A UUID that the engine itself makes in the order of time is not reported. Of a table that is known to hold fewer than 10,000 rows, it is a notice.

Leave it alone where the table stays small, or where programs make identifiers that begin with the time.

There is no fix: a number as primary key with the identifier kept unique beside it, or identifiers that begin with the time, are decisions that programs take part in.`,
	Options: []rule.Option{
		{Name: "small", Default: int64(10_000), Doc: "rows below which it is a notice, unless the table is empty"},
	},
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			k := t.PrimaryKey
			if k == nil || len(k.Columns) != 1 || !p.Abilities.ClusteredByKey(t) {
				continue
			}
			c := t.Column(k.Columns[0])
			if c == nil || !random(c) || t.Refers(c.Name) {
				continue
			}
			severity := rule.Severity("")
			if n := t.Stats.Rows; n != nil && *n > 0 && *n < p.Count(t, "small") {
				severity = rule.Notice
			}
			p.Report(rule.Finding{Severity: severity, Table: t.Ref(), Object: t.Name, Columns: []string{c.Name},
				Message: fmt.Sprintf("rows are stored in the order of \"%s\" (%s), which is random: each insert hits another page", c.Name, c.Type.Native),
				Advice:  "a number as primary key and the identifier unique beside it, or identifiers that begin with the time"})
		}
		return nil
	},
}

var (
	uuidName = pattern.New(`(?i)(^|_)(uuid|guid|gid)(_|$)|(uuid|guid)$`)
	byChance = pattern.New(`(?i)\b(randomblob|random_bytes|gen_random_uuid|newid|uuid_generate_v4|random)\s*\(`)
	byTime   = pattern.New(`(?i)^\(?(uuid|sys_guid|uuid_v7|uuidv7|newsequentialid)\(`)
)

// random: a UUID by its type, or by its name and length, or what the default draws by chance.
func random(c *catalog.Column) bool {
	if byChance.MatchString(c.Default) {
		return true
	}
	switch y := c.Type; y.Family {
	case catalog.UUID:
		return !byTime.MatchString(c.Default)
	case catalog.Text:
		return (y.Length == 36 || y.Length == 32) && (y.Padded || y.Length == 36 || uuidName.MatchString(c.Name)) || y.Length == 0 && uuidName.MatchString(c.Name)
	case catalog.Binary:
		return (y.Length == 16 || y.Length == 0) && uuidName.MatchString(c.Name) || y.Length == 16 && y.Padded
	}
	return false
}
