package key

import (
	"fmt"
	"math"
	"strconv"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var NearlyFull = &rule.Rule{
	ID:          "key/nearly-full",
	Title:       "generated key that is running out of numbers",
	Severity:    rule.Error,
	Consequence: rule.FailsByDate,
	Fixes:       []string{"raise", "widen"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "full", Default: 0.7, Doc: "share of the numbers used up from which it is reported"},
		{Name: "lasts", Default: int64(1000), Doc: "times the numbers used so far that a wider type has to hold to be proposed"},
	},
	Uses: []rule.Need{rule.Evidence},
	Doc: `More than 70 % of the numbers that the key's type, or the sequence that makes them, can hold are used up. On the day the last one is taken every insert fails, and widening a key of that size then takes hours in which nothing can be written.

The number given out last is the engine's own figure; with evidence (nexdal probe, then --evidence) the largest in use counts where the engine says nothing. Gaps count as used: a sequence does not go back to them. With evidence, and a column without nulls that says when rows were added, the day is reckoned on which the numbers end, by the pace so far. Where a million millions and more are left, nothing is said; where ten times as many are left as were given out so far, as of a sequence that began high, it is a notice.

The fix gives the key, and every column that refers to it, the next wider type that holds a thousand times the numbers used so far, or the widest; the tables are rewritten, so read the step's comment first. A sequence that ends early, or is of a smaller type, is widened with it, or by itself. Where the type and the sequence have 64 bits, nothing is offered.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				if c.Type.Family != catalog.Integer || c.Identity == catalog.NoIdentity && c.Sequence == nil || !t.UniqueOn([]string{c.Name}) {
					continue
				}
				var q *catalog.Sequence
				if c.Sequence != nil {
					q = p.Lookup.Sequence(*c.Sequence)
				}
				used, certainty, ok := usedOf(p, t, c, q)
				if !ok {
					unknown++
					continue
				}
				nearlyFull(p, t, c, q, used, certainty)
			}
		}
		p.Uncounted(unknown)
		return nil
	},
}

// usedOf is the largest number that was given out, as far as anybody knows; ok
// is false where nobody does. A table that is known to be empty, or a sequence
// that has given out nothing, has used none.
func usedOf(p *rule.Pass, t *catalog.Table, c *catalog.Column, q *catalog.Sequence) (int64, rule.Certainty, bool) {
	if q != nil {
		if q.Last != nil {
			return *q.Last, rule.ByStatistics, true
		}
		return 0, rule.ByStatistics, t.Stats.Rows != nil // it has given out none yet, or nobody asked for figures
	}
	if n := t.Stats.Counter; n != nil {
		return *n - 1, rule.ByStatistics, true
	}
	if p.Data != nil {
		if f := p.Data.Column(t, c.Name); f != nil && f.Greatest != nil {
			if n, err := strconv.ParseInt(*f.Greatest, 10, 64); err == nil {
				return n, rule.CertaintyOf(!f.Sampled), true
			}
		}
	}
	if t.Stats.Rows != nil && c.Type.Bits == 64 {
		return *t.Stats.Rows, rule.ByStatistics, true // far from its end, whatever the gaps
	}
	return 0, "", false
}

func nearlyFull(p *rule.Pass, t *catalog.Table, c *catalog.Column, q *catalog.Sequence, used int64, certainty rule.Certainty) {
	most, what := c.Type.Largest(), c.Type.Native
	if q != nil && q.Increment < 0 {
		return
	}
	sequence := q != nil && q.Most < most && q.Most > 0
	if sequence {
		most, what = q.Most, "sequence "+q.Name
	}
	share := float64(used) / float64(most)
	if share < p.Share(t, "full") || most-used >= endless {
		return
	}
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name, Certainty: certainty,
		Message: fmt.Sprintf("\"%s\" has used %.0f %% of the numbers of %s: %s are left, then every insert fails", c.Name, math.Floor(100*share), what, text.Amount(most-used))}
	if x, ok := paceOf(p, t, c); ok {
		if by, ok := x.end(most-used, p.Catalog.Surveyed); ok {
			found.By = by
			found.Message += fmt.Sprintf("; at the pace since %s (%s) that is about %s", x.from.Format(time.DateOnly), x.column, by.Format(time.DateOnly))
		}
	}
	if given := givenOut(q, used); given > 0 && (most-used)/10 > given {
		found.Severity = rule.Notice
		found.Message += fmt.Sprintf("; %s were given out so far", text.Amount(given))
	}
	wide := lasting(p, t, c.Type, used, sequence)
	switch {
	case sequence && wide.Bits == c.Type.Bits: // the column itself holds more
		found.Advice = "raise the end of the sequence"
		if raised := raise(p, t, c, q, wide); raised != nil {
			found.Advice, found.Fixes = "", []rule.Fix{{ID: "raise", Title: "let sequence " + text.Name(q.Name) + " go on", Changes: []change.Change{raised}}}
		}
	case c.Type.Bits == 64 || wide.Native == "":
		found.Advice = "no wider type is to be had: reuse gaps, or begin a table of its own for old rows"
	default:
		if changes := widen(p, t, c, wide); changes != nil {
			found.Fixes = []rule.Fix{{ID: "widen", Title: fmt.Sprintf("make \"%s\" and what refers to it %s", c.Name, wide.Native), Changes: changes}}
		} else {
			found.Advice = "make it " + wide.Native + ", together with every column that refers to it"
		}
	}
	p.Report(found)
}

// lasting is the smallest type of whole numbers that is wider than the column's and lasts, or the
// widest; the column's own where it lasts and is not what ends.
func lasting(p *rule.Pass, t *catalog.Table, own catalog.Type, used int64, ownToo bool) catalog.Type {
	lasts := p.Count(t, "lasts")
	if ownToo && own.Largest()/lasts >= used {
		return own
	}
	for _, x := range p.Abilities.IntegerTypes {
		if x.Bits > own.Bits && x.Largest()/lasts >= used {
			return x
		}
	}
	return p.Abilities.AddedKeyType
}

// endless is how many numbers nobody comes to the end of: at a thousand a second they last for
// thirty years.
const endless = 1_000_000_000_000

// givenOut is how many numbers went so far, by where the sequence began; 0: not known. Of rows
// that are there now it does not follow: others may have gone.
func givenOut(q *catalog.Sequence, used int64) int64 {
	if q != nil && q.Start > 0 {
		return max(0, used-q.Start+1)
	}
	return 0
}

// widen alters the key and every column that refers to it, or is nil where one
// of them cannot be altered alone.
func widen(p *rule.Pass, t *catalog.Table, c *catalog.Column, to catalog.Type) []change.Change {
	changes := []change.Change{change.AlterType{Table: t.Ref(), Column: c.Name, From: c.Type, To: to}}
	if c.Sequence != nil {
		q := p.Lookup.Sequence(*c.Sequence)
		if q == nil {
			return nil
		}
		if !q.Identity && q.Most < to.Largest() { // that of an identity is widened with its column
			raised := raise(p, t, c, q, to)
			if raised == nil {
				return nil
			}
			changes = append(changes, raised)
		}
	}
	for _, r := range p.Lookup.Referrers(t.Ref()) {
		for i, name := range r.ForeignKey.TargetColumns {
			if name != c.Name || r.ForeignKey.Inherited {
				continue
			}
			child := r.Table.Column(r.ForeignKey.Columns[i])
			if child == nil || child.Type.Family != catalog.Integer {
				return nil
			}
			if child.Type.Bits < to.Bits {
				changes = append(changes, change.AlterType{Table: r.Table.Ref(), Column: child.Name, From: child.Type, To: to})
			}
		}
	}
	return changes
}

// raise lets a sequence that the column alone draws from count as far as it can; nil
// where it cannot be altered.
func raise(p *rule.Pass, t *catalog.Table, c *catalog.Column, q *catalog.Sequence, to catalog.Type) change.Change {
	if p.Abilities.SequenceMost == 0 || q.Most >= p.Abilities.SequenceMost || len(q.UsedBy) != 1 || q.Identity {
		return nil
	}
	return change.Alter(c.Sequence.Schema, q, t.Ref(), func(q *catalog.Sequence) {
		q.Most = p.Abilities.SequenceMost
		if p.Abilities.SequenceTypes {
			q.Type, q.Most = to.Native, min(q.Most, to.Largest())
		}
	})
}
