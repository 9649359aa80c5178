package script

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/rule"
)

// Fix makes the corrective script that answers the findings, and the script
// that takes it back. What the findings' fixes would bring about is answered
// too; both scripts lead exactly from one catalog to the other.
func Fix(ctx context.Context, w engine.Writer, c *catalog.Catalog, j rule.Checker, findings []rule.Finding) (*Pair, error) {
	unwritable := map[catalog.Ref]string{} // tables whose changes cannot be written together
	refuse := engine.Offers(w, c)
	var healed *rule.FixPlan
	var p *Pair
	for {
		var err error
		healed, err = j.PlanFixes(ctx, c, findings, func(ch change.Change) string {
			for ref, why := range unwritable {
				if touches(ch, ref) {
					return why
				}
			}
			return refuse(ch)
		})
		if err != nil {
			return nil, err
		}
		p, err = pair(w, c, healed.After, healed.Plan, j.Abilities, nil)
		var of *engine.TableError
		if errors.As(err, &of) && unwritable[of.Table] == "" { // no table costs the others their fixes
			unwritable[of.Table] = fmt.Sprintf("the changes of %s cannot be written together: %v", of.Table, of.Err)
			continue
		}
		if err != nil {
			return nil, err
		}
		break
	}
	p.Forth.Kind, p.Back.Kind = "Corrective script", "Reversal of a corrective script"
	p.Forth.Findings = len(answered(healed.Plan))
	for _, f := range healed.Open {
		p.Forth.Left = append(p.Forth.Left, Left{f.ID(), f.Message, f.Advice})
	}
	return p, nil
}

// touches reports whether the change alters the table.
func touches(ch change.Change, ref catalog.Ref) bool {
	if several, ok := ch.(interface{ Tables() []catalog.Ref }); ok && slices.Contains(several.Tables(), ref) {
		return true
	}
	return ch.On() == ref
}

func head(w engine.Writer, c *catalog.Catalog, plan change.Plan, work *engine.Work) *Script {
	tables := plan.Tables()
	for _, st := range work.Steps {
		tables = append(tables, st.Tables...)
	}
	slices.SortFunc(tables, catalog.Ref.Compare)
	tables = slices.Compact(tables)
	return &Script{Engine: c.Engine, Database: c.Database, Surveyed: c.Surveyed, Tables: tables, Unread: c.Unread(), Dialect: w.Dialect(), Work: *work}
}

func answered(plan change.Plan) map[string]bool {
	ids := map[string]bool{}
	for _, it := range plan {
		for _, id := range it.Answers {
			ids[id] = true
		}
	}
	return ids
}

// places names, for each step of one script, the steps of the other that take
// it back: change i of the plan is change n-1-i of its reversal.
func places(work, undo *engine.Work, n int) []string {
	of := make([][]int, n) // the steps of the other script, by change of the plan
	for j, st := range undo.Steps {
		if st.Passing {
			continue
		}
		for _, k := range st.Changes {
			of[n-1-k] = append(of[n-1-k], j+1)
		}
	}
	names := make([]string, len(work.Steps))
	for i, st := range work.Steps {
		var at []int
		for _, k := range st.Changes {
			at = append(at, of[k]...)
		}
		slices.Sort(at)
		at = slices.Compact(at)
		switch len(at) {
		case 0:
		case 1:
			names[i] = fmt.Sprintf("step %d of ", at[0])
		default:
			text := make([]string, len(at))
			for j, n := range at {
				text[j] = fmt.Sprint(n)
			}
			names[i] = "steps " + strings.Join(text, ", ") + " of "
		}
	}
	return names
}

// The two kinds of fingerprint in a script's head. A corrective script is made
// for the very text of the tables; its reversal for what the model says the
// fix will leave behind.
const (
	exact    = "exact-"
	modelled = "model-"
)

// Fits reports whether the tables that the script alters are still as it was
// made for.
func (s *Script) Fits(c *catalog.Catalog) bool {
	if rest, ok := strings.CutPrefix(s.Structure, modelled); ok {
		return c.Comparable().Fingerprint(s.Tables) == rest
	}
	return exact+c.Fingerprint(s.Tables) == s.Structure
}

// Creates reports whether the script builds a structure where nothing is yet.
func (s *Script) Creates() bool {
	return s.Structure == exact+(&catalog.Catalog{}).Fingerprint(s.Tables)
}
