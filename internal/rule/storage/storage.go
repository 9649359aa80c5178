package storage

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var DeadRows = &rule.Rule{
	ID:          "storage/dead-rows",
	Title:       "space of dead rows",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"reclaim"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "share", Default: 0.2, Doc: "share of rows that are gone and still take room"},
		{Name: "rows", Default: int64(10_000), Doc: "rows from which it matters"},
	},
	Applies: func(can catalog.Abilities) bool { return can.CountsDeadRows },
	Doc: `More than a fifth of what the table keeps on disk are rows that were deleted or changed. Every search of the table reads past them.

Where the engine reclaims them by itself, something keeps it from that: it is switched off for the table, cannot keep up, or an old transaction, a replication slot or a prepared transaction still holds the rows.

Leave it alone right after a large change.

The fix reclaims the room while others read and write.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			dead, live := t.Stats.DeadRows, t.Stats.Rows
			if dead == nil || live == nil || t.PartitionBy != nil || *dead+*live < p.Count(t, "rows") {
				continue
			}
			if part := float64(*dead) / float64(*dead+*live); part > p.Share(t, "share") {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Part: "dead rows", Certainty: rule.ByStatistics, Message: fmt.Sprintf("%s are dead and still take up space, beside %s that are there", text.Plural(*dead, "row"), text.Amount(*live)),
					Fixes: []rule.Fix{{ID: "reclaim", Title: "reclaim their room", Changes: []change.Change{change.Maintain{Table: t.Ref(), What: change.ReclaimSpace}}}}})
			}
		}
		return nil
	},
}

var StaleStatistics = &rule.Rule{
	ID:          "storage/stale-statistics",
	Title:       "outdated statistics",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"analyse"},
	Needs:       []rule.Need{rule.Statistics},
	Options: []rule.Option{
		{Name: "share", Default: 0.1, Doc: "share by which the engine's figures may be off"},
		{Name: "rows", Default: int64(10_000), Doc: "rows from which it matters"},
	},
	Applies: func(can catalog.Abilities) bool { return can.CountsDeadRows },
	Doc: `The engine's figures about the table are off by more than a tenth, by its own count. It plans joins by them, and picks the wrong one. Where the engine looks at changed tables by itself, it is a notice.

The fix analyzes the table.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.Stats.Stale == nil || *t.Stats.Stale <= p.Share(t, "share") || t.Stats.Rows == nil || *t.Stats.Rows < p.Count(t, "rows") {
				continue
			}
			severity := rule.Severity("")
			if p.Abilities.MaintainsItself {
				severity = rule.Notice
			}
			p.Report(rule.Finding{Severity: severity, Table: t.Ref(), Object: t.Name, Part: "figures", Certainty: rule.ByStatistics, Message: fmt.Sprintf("the engine's figures are off by %.0f %%", 100**t.Stats.Stale),
				Fixes: []rule.Fix{{ID: "analyse", Title: "analyze it", Changes: []change.Change{change.Maintain{Table: t.Ref(), What: change.Analyze}}}}})
		}
		return nil
	},
}

var NotEncoded = &rule.Rule{
	ID:          "storage/not-encoded",
	Title:       "large table with uncompressed columns",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"encode"},
	Needs:       []rule.Need{rule.Statistics},
	Options:     []rule.Option{{Name: "rows", Default: int64(1_000_000), Doc: "rows from which it matters"}},
	Applies:     func(can catalog.Abilities) bool { return can.Encoding != nil },
	Doc: `Columns of a large table are kept uncompressed, the one that leads its order aside. They take several times the room, and every query that reads them reads several times the blocks.

Leave it alone where the engine chooses the encodings by itself.

The fix gives each the encoding that the engine's manual suggests for its type.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Owned {
			if t.Stats.Rows == nil || *t.Stats.Rows < p.Count(t, "rows") {
				continue
			}
			ch := change.SetEncoding{Table: t.Ref()}
			for _, c := range t.Columns {
				leads := t.SortKey != nil && !t.SortKey.Interleaved && t.SortKey.Columns[0] == c.Name
				if to := p.Abilities.Encoding(c.Type); raw(c, p.Abilities) && !leads && to != p.Abilities.RawEncoding {
					ch.Columns, ch.From, ch.To = append(ch.Columns, c.Name), append(ch.From, c.Encoding), append(ch.To, to)
				}
			}
			if len(ch.Columns) > 0 {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: ch.Columns, Part: "encoding", Certainty: rule.ByStatistics, Message: fmt.Sprintf("%s of %s are not compressed: %s", text.Plural(int64(len(ch.Columns)), "column"), text.Rows(t.Stats.Rows, t.Stats.Exact), text.Some(ch.Columns, 5)),
					Fixes: []rule.Fix{{ID: "encode", Title: "compress them as the engine suggests", Changes: []change.Change{ch}}}})
			}
		}
		return nil
	},
}

func raw(c *catalog.Column, can catalog.Abilities) bool {
	return c.Encoding == can.RawEncoding || c.Encoding == "none"
}
