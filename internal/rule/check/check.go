// Package check holds the rules on conditions that rows must meet.
package check

import (
	"fmt"
	"regexp"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// NotValidated: see its Doc.
var NotValidated = &rule.Rule{
	ID:       "check/not-validated",
	Title:    "check whose rows were never looked at",
	Severity: rule.Warning,
	Doc: `The check was declared without looking at the rows that were there. New rows are checked; old ones may break it, and an update of such a row fails, whatever it changes.

With evidence (nexdal probe, then --evidence) rows that break it are reported by check/violated.

There is no fix yet: the engine validates it while others read and write.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Catalog.Tables() {
			for _, k := range t.Checks {
				if t.IsOwn() && k.NotValidated && !k.Inherited && len(broken(p, t, k)) == 0 {
					p.Report(rule.Finding{Table: t.Ref(), Object: k.Name, Message: fmt.Sprintf("%s was declared without looking at the rows that were there: some may break it, and then no update of them succeeds", k.Name),
						Advice: "validate it, once no row breaks it"})
				}
			}
		}
	},
}

// Violated: see its Doc.
var Violated = &rule.Rule{
	ID:       "check/violated",
	Title:    "check that rows break",
	Severity: rule.Error,
	Needs:    []rule.Need{rule.Evidence},
	Doc: `Rows break a check that was declared without looking at them. Any update of such a row fails, whatever it changes; the check cannot be validated, nor the table restored from a dump that holds it.

It needs the data (nexdal probe, then --evidence). The finding says how many rows and shows a few.

There is no fix: what is right for the rows is for a person to say.`,
	Check: func(p *rule.Pass) {
		unasked := 0
		for _, t := range p.Catalog.Tables() {
			for _, k := range t.Checks {
				if !t.IsOwn() || !k.NotValidated || k.Inherited {
					continue
				}
				if p.Data == nil {
					unasked++
					continue
				}
				for _, x := range broken(p, t, k) {
					rows := ""
					if len(x.Samples) > 0 {
						rows = ": " + strings.Join(x.Samples, "; ")
					}
					p.Report(rule.Finding{Table: t.Ref(), Object: k.Name, Certainty: rule.CertaintyOf(x.Verified),
						Message: fmt.Sprintf("%s break %s%s", phrase.Plural(x.Offenders, "row"), k.Name, rows),
						Advice:  "put the rows right, or the check"})
				}
			}
		}
		p.NotJudged("the data: nexdal probe SOURCE -o F, then --evidence F", unasked)
	},
}

// broken is what the data says of rows that break the check.
func broken(p *rule.Pass, t *catalog.Table, k *catalog.Check) (list []*evidence.Promise) {
	if p.Data == nil {
		return nil
	}
	for _, x := range p.Data.Promises(t) {
		if x.Origin == "declared" && x.Kind == "check" && x.Object == k.Name && x.Offenders > 0 {
			list = append(list, x)
		}
	}
	return list
}

// Repeated: see its Doc.
var Repeated = &rule.Rule{
	ID:       "check/repeated",
	Title:    "the same check twice",
	Severity: rule.Notice,
	Doc: `Two checks of a table are the same expression. Every write evaluates both, and who changes one forgets the other.

There is no fix: drop the one whose name nobody knows.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Catalog.Tables() {
			if !t.IsOwn() || t.PartitionOf != nil {
				continue
			}
			seen := map[string]string{}
			for _, k := range t.Checks {
				says := plain(k.Expression)
				if other, ok := seen[says]; ok && !k.Inherited {
					p.Report(rule.Finding{Table: t.Ref(), Object: name(k.Name, t.Name), Part: says, Message: fmt.Sprintf("%s says the same as %s: %s", name(k.Name, "a check"), name(other, "another"), k.Expression),
						Advice: "drop one of them"})
				}
				seen[says] = k.Name
			}
		}
	},
}

// AsNotNull: see its Doc.
var AsNotNull = &rule.Rule{
	ID:       "check/as-not-null",
	Title:    "check that only forbids null",
	Severity: rule.Notice,
	Doc: `A check says nothing but that a column is not null. NOT NULL says it better: the planner knows it, tools show it, and it can be part of a primary key.

Where the column is NOT NULL as well, the check is merely in the way.

There is no fix: make the column NOT NULL, then drop the check.`,
	Check: func(p *rule.Pass) {
		for _, t := range p.Catalog.Tables() {
			if !t.IsOwn() || t.PartitionOf != nil {
				continue
			}
			for _, k := range t.Checks {
				m := notNull.FindStringSubmatch(plain(k.Expression))
				if m == nil || k.Inherited {
					continue
				}
				for _, c := range t.Columns {
					if strings.EqualFold(m[1], c.Name) {
						p.Report(rule.Finding{Table: t.Ref(), Object: name(k.Name, t.Name), Columns: []string{c.Name}, Part: c.Name,
							Message: fmt.Sprintf("a check forbids null in %s, which NOT NULL would say better", c.Name), Advice: "say NOT NULL, then drop the check"})
					}
				}
			}
		}
	},
}

var notNull = regexp.MustCompile(`(?i)^["\x60]?([^"\x60() ]+)["\x60]? is not null$`)

// plain is an expression without the brackets around the whole and with single
// blanks.
func plain(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	for len(s) > 1 && s[0] == '(' && s[len(s)-1] == ')' && whole(s[1:len(s)-1]) {
		s = strings.TrimSpace(s[1 : len(s)-1])
	}
	return s
}

// whole reports whether the brackets inside close each other.
func whole(s string) bool {
	depth := 0
	for _, r := range s {
		switch r {
		case '(':
			depth++
		case ')':
			if depth--; depth < 0 {
				return false
			}
		}
	}
	return depth == 0
}

func name(s, without string) string {
	if s == "" {
		return without
	}
	return s
}
