package sequence

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var Behind = &rule.Rule{
	ID:          "sequence/behind",
	Title:       "next number that is in use already",
	Severity:    rule.Error,
	Consequence: rule.FailsNow,
	Fixes:       []string{"set"},
	Needs:       []rule.Need{rule.Evidence},
	Doc: `The number that a sequence gives next is not above the largest that its column holds. The next inserts fail, or, where nothing keeps the column unique, make a second row of the same number. Mostly rows were loaded with their numbers, and the sequence was not set afterwards.

It needs the data (nexdal probe, then --evidence): the largest number was read first, and the sequence afterwards.

The fix sets the sequence past the largest number, while writers of the table wait. It is not taken back: the numbers are in use.`,
	Check: func(p *rule.Pass) error {
		if p.Data == nil {
			n := 0
			each(p, func(_ *catalog.Schema, q *catalog.Sequence) { n += len(q.UsedBy) })
			p.Unasked(n)
			return nil
		}
		for _, k := range p.Data.Behind() {
			t := p.Lookup.Table(catalog.Ref{Schema: k.Schema, Table: k.Table})
			if t == nil || t.Column(k.Column) == nil {
				continue
			}
			message := fmt.Sprintf("the next number of \"%s\" is in use already: inserts will fail", k.Column)
			if k.Next != nil && k.Greatest != nil {
				message = fmt.Sprintf("the next number of \"%s\" is %s, and %s is in use: inserts will fail", k.Column, text.Amount(*k.Next), text.Amount(*k.Greatest))
			}
			found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{k.Column}, Part: k.Column, Certainty: rule.Verified, Message: message,
				Advice: "set the sequence past the largest number"}
			advance := change.AdvanceSequence{Table: t.Ref(), Column: k.Column}
			q, identity := t.Column(k.Column).Sequence, t.Column(k.Column).Identity
			if q != nil {
				advance.Schema, advance.Sequence = q.Schema, q.Table
			}
			if q != nil || identity == catalog.IdentityAlways || identity == catalog.IdentityByDefault {
				found.Advice = ""
				found.Fixes = []rule.Fix{{ID: "set", Title: "set the sequence past the largest number", Changes: []change.Change{advance}}}
			}
			p.Report(found)
		}
		return nil
	},
}
