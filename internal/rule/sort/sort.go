package sort

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// clustered: only in a cluster tables have an order of their own.
func clustered(can catalog.Abilities) bool { return can.Spreads }

// judged lists the tables that can be kept in an order of their own.
func judged(p *rule.Pass) []*catalog.Table {
	return p.Roots
}

// moment is the column that says when, a required one first; empty: there is none.
func moment(t *catalog.Table) string {
	first := ""
	for _, c := range t.Columns {
		if c.Type.Family == catalog.Timestamp || c.Type.Family == catalog.Date {
			if !c.Nullable {
				return c.Name
			}
			if first == "" {
				first = c.Name
			}
		}
	}
	return first
}

func resort(t *catalog.Table, id, title string, columns ...string) rule.Fix {
	return rule.Fix{ID: id, Title: title, Changes: []change.Change{change.SetSortKey{Table: t.Ref(), From: t.SortKey, To: &catalog.SortKey{Columns: columns}}}}
}

var TooMany = &rule.Rule{
	ID:          "sort/too-many",
	Title:       "order of many columns",
	Severity:    rule.Notice,
	Consequence: rule.Slow,
	Fixes:       []string{"fewer"},
	Options:     []rule.Option{{Name: "columns", Default: int64(4), Doc: "columns that are not too many"}},
	Applies:     clustered,
	Doc: `The rows are sorted by more than four columns. Those behind the first few tell blocks apart hardly any more, and sorting takes longer with each.

Leave it alone where queries filter on all of them in this order.

The fix keeps the first four. It is taken only once it was chosen.`,
	Check: func(p *rule.Pass) error {
		for _, t := range judged(p) {
			most := int(p.Count(t, "columns"))
			if t.SortKey != nil && !t.SortKey.Interleaved && len(t.SortKey.Columns) > most {
				fix := resort(t, "fewer", fmt.Sprintf("sort it by the first %d", most), t.SortKey.Columns[:most]...)
				fix.Ask = true
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: t.SortKey.Columns, Message: fmt.Sprintf("sorted by %s", text.Plural(int64(len(t.SortKey.Columns)), "column")), Fixes: []rule.Fix{fix}})
			}
		}
		return nil
	},
}

var InterleavedGrowing = &rule.Rule{
	ID:          "sort/interleaved-growing",
	Title:       "interleaved order led by a column that only grows",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"compound"},
	Needs:       []rule.Need{rule.Statistics},
	Applies:     clustered,
	Doc: `The order is interleaved, and one of its columns only grows: a moment, or a number that the engine gives. New values lie beyond all that the order knows of, so that it serves less with every load, and only a rebuild of the whole puts it right.

Leave it alone where the table is loaded once.

The fix sorts by the same columns one after the other. The engine cannot go back to an interleaved order in place: the reversal copies the table.`,
	Check: func(p *rule.Pass) error {
		for _, t := range judged(p) {
			if t.SortKey == nil || !t.SortKey.Interleaved {
				continue
			}
			i := slices.IndexFunc(t.SortKey.Columns, func(name string) bool {
				c := t.Column(name)
				return c != nil && (c.Type.Family == catalog.Timestamp || c.Type.Family == catalog.Date || c.Identity != catalog.NoIdentity)
			})
			if i >= 0 {
				name := t.SortKey.Columns[i]
				rest := slices.DeleteFunc(slices.Clone(t.SortKey.Columns), func(s string) bool { return s == name })
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: t.SortKey.Columns, Message: fmt.Sprintf("sorted %s, and \"%s\" only grows", t.SortKey, name),
					Fixes: []rule.Fix{resort(t, "compound", "sort it by "+name+" first", append([]string{name}, rest...)...)}})
			}
		}
		return nil
	},
}

var LeadingEncoded = &rule.Rule{
	ID:          "sort/leading-encoded",
	Title:       "compressed column that leads the order",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"raw"},
	Applies:     clustered,
	Doc: `The first column of the order is compressed. It is so regular that it compresses into few blocks, each of which then spans many blocks of the other columns: a query for a short range reads far more of those than it needs.

Leave it alone where the table is never searched by it.

The fix keeps that column uncompressed.`,
	Check: func(p *rule.Pass) error {
		for _, t := range judged(p) {
			if t.SortKey == nil || t.SortKey.Interleaved || p.Abilities.RawEncoding == "" {
				continue
			}
			c := t.Column(t.SortKey.Columns[0])
			if c == nil || c.Encoding == "" || c.Encoding == p.Abilities.RawEncoding || c.Encoding == "none" {
				continue
			}
			p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Message: fmt.Sprintf("\"%s\" leads the order and is compressed (%s)", c.Name, c.Encoding),
				Fixes: []rule.Fix{{ID: "raw", Title: "keep " + text.Name(c.Name) + " uncompressed", Changes: []change.Change{change.SetEncoding{Table: t.Ref(), Columns: []string{c.Name}, From: []string{c.Encoding}, To: []string{p.Abilities.RawEncoding}}}}}})
		}
		return nil
	},
}

var Unsorted = &rule.Rule{
	ID:          "sort/unsorted",
	Title:       "rows out of order",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Fixes:       []string{"sort"},
	Needs:       []rule.Need{rule.Statistics},
	Options:     []rule.Option{{Name: "share", Default: 0.2, Doc: "share of the rows that may be out of order"}},
	Applies:     clustered,
	Doc: `More than a fifth of the rows came since the table was last sorted, and lie behind it in no order. Queries by the order read all of them.

Leave it alone where the engine sorts by itself at night.

The fix sorts the rows; it takes disk room for a copy of what is sorted.`,
	Check: func(p *rule.Pass) error {
		unknown := 0
		for _, t := range judged(p) {
			if t.SortKey == nil {
				continue
			}
			if t.Stats.Unsorted == nil {
				unknown++
				continue
			}
			if *t.Stats.Unsorted > p.Share(t, "share") {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: t.SortKey.Columns, Part: "rows", Certainty: rule.ByStatistics, Message: fmt.Sprintf("%.0f %% of %s are out of the table's order", 100**t.Stats.Unsorted, text.Rows(t.Stats.Rows, t.Stats.Exact)),
					Fixes: []rule.Fix{{ID: "sort", Title: "sort the rows", Changes: []change.Change{change.Maintain{Table: t.Ref(), What: change.SortRows}}}}})
			}
		}
		p.Uncounted(unknown)
		return nil
	},
}
