package key

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/evidence"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Unenforced = &rule.Rule{
	ID:          "key/unenforced",
	Title:       "constraints that are not enforced",
	Severity:    rule.Notice,
	Consequence: rule.Unprotected,
	Fixes:       []string{"enforce"},
	Uses:        []rule.Need{rule.Evidence},
	Applies:     func(can catalog.Abilities) bool { return can.KeysUnenforced || can.NotEnforced },
	Doc: `A key, foreign key or check is declared, and nothing enforces it: whoever reads the catalog believes it all the same. In a warehouse that is so of every key, and the planner believes them too: a row that breaks one makes wrong answers, a DISTINCT that is left out, a join that finds a row twice. Elsewhere a foreign key or check was declared NOT ENFORCED, or a check was switched off (NOCHECK), and any row gets in.

In a warehouse it is one finding for the whole database, as long as nobody asked the data. Once it was asked (nexdal probe, then --evidence), a key that holds is not reported, and one that does not is, as key/violated or fk/violated. What was declared so is a warning each, until the data is found to break it, which fk/violated and check/violated report. So is a key that is switched off, or that was switched on without a look at the rows; nothing is proposed for it. A validator that warns in the server's log is a notice, until the data was asked.

Leave it alone where the constraint is there to be read, and something else keeps it.

The fix has it enforced: it is declared again, and the rows are checked while others read and write. It has to be chosen, unless all rows were seen to hold it. In a warehouse there is none but to ask the data after every load.`,
	Check: func(p *rule.Pass) error {
		if p.Abilities.KeysUnenforced {
			warehouse(p)
			return nil
		}
		for _, t := range p.Owned {
			for _, f := range t.ForeignKeys {
				if f.NotEnforced && !f.Inherited {
					unenforced(p, t, f)
				}
			}
			for _, k := range t.Checks {
				if k.NotEnforced && !k.Inherited {
					unenforcedCheck(p, t, k)
				}
			}
			for _, o := range t.Objects {
				if o.Kind == catalog.KindDisabledKey {
					p.Report(rule.Finding{Table: t.Ref(), Object: o.Name, Severity: rule.Warning,
						Message: fmt.Sprintf("key \"%s\" is declared, and switched off or never checked: two rows can be alike in it", o.Name),
						Advice:  "switch it on for the rows that come, then have those that are there checked"})
				}
			}
		}
		return nil
	},
}

// warehouse reports that no key of the database is enforced.
func warehouse(p *rule.Pass) {
	if p.Data != nil {
		return
	}
	keys, references := int64(0), int64(0)
	for _, t := range p.Roots {
		keys += int64(len(t.Keys()))
		references += int64(len(t.ForeignKeys))
	}
	if keys+references > 0 {
		p.Report(rule.Finding{Object: "keys", Message: fmt.Sprintf("%s and %s are declared and not enforced: the planner believes them", text.Plural(keys, "key"), text.Plural(references, "foreign key")),
			Advice: "ask the data whether it holds", Command: rule.Probe})
	}
}

// promise is what the data says of a declared constraint; nil: nobody asked.
func promise(p *rule.Pass, t *catalog.Table, kind, name string) *evidence.Promise {
	if p.Data == nil {
		return nil
	}
	all := p.Data.Promises(t)
	i := slices.IndexFunc(all, func(x *evidence.Promise) bool { return x.Origin == "declared" && x.Kind == kind && x.Object == name })
	if i < 0 {
		return nil
	}
	return all[i]
}

func unenforced(p *rule.Pass, t *catalog.Table, f *catalog.ForeignKey) {
	on := f.Clone()
	on.NotEnforced, on.NotValidated = false, false
	report(p, t, promise(p, t, "foreign key", f.Name), rule.Finding{Table: t.Ref(), Object: f.Label(), Columns: f.Columns,
		Message: fmt.Sprintf("%s is declared and not enforced: nothing checks %s against \"%s\"", f.Label(), text.Names(f.Columns), p.Called(f.Target))},
		change.AlterForeignKey{Table: t.Ref(), Old: f, New: on})
}

func unenforcedCheck(p *rule.Pass, t *catalog.Table, k *catalog.Check) {
	on := k.Clone()
	on.NotEnforced, on.NotValidated = false, false
	report(p, t, promise(p, t, "check", k.Name), rule.Finding{Table: t.Ref(), Object: k.Name,
		Message: fmt.Sprintf("\"%s\" is declared and not enforced: rows that break it get in", k.Name)},
		change.DropCheck{Table: t.Ref(), Check: k, Early: true}, change.AddCheck{Table: t.Ref(), Check: on})
}

// report says of one constraint that it is not enforced, unless the data was seen to break
// it: then it is worse.
func report(p *rule.Pass, t *catalog.Table, said *evidence.Promise, f rule.Finding, enforce ...change.Change) {
	if said != nil && said.Offenders > 0 {
		return
	}
	fix := rule.Fix{ID: "enforce", Title: "have it enforced, and the rows checked", Ask: true, Changes: enforce}
	if said != nil || !p.Abilities.WarnsUnenforced {
		f.Severity = rule.Warning
	}
	if said != nil {
		f.Message += "; all rows keep it so far"
		f.Certainty = rule.CertaintyOf(said.Verified)
		fix.Ask = !said.Verified
	}
	f.Fixes = []rule.Fix{fix}
	p.Report(f)
}
