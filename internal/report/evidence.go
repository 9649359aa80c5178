package report

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/evidence"
	"nexdal/internal/text"
)

// mostGaps is how many gaps are listed for people; the file has all.
const mostGaps = 15

// Evidence writes what stands out: references and keys that nobody declared,
// and what is declared or would be proposed and does not hold.
func (p *Page) Evidence(e *evidence.Evidence) {
	p.printf("%s   %s asked\n", p.paint(bold, text.Line(e.Database)), text.Plural(int64(e.Questions), "question"))
	if e.Ended != "" {
		p.printf("%s\n", p.paint(yellow, "Not all was asked: "+text.Line(e.Ended)))
	}
	p.section("Declared references that do not hold", p.listed(e.References, func(r evidence.Reference) bool { return r.Declared && r.Orphans > 0 }))
	p.section("Undeclared references", p.listed(e.References, func(r evidence.Reference) bool { return !r.Declared && r.RowsChecked > 0 }))
	p.section("Undeclared references by name: the columns hold nothing, or one value alone", p.listed(e.References, func(r evidence.Reference) bool { return !r.Declared && r.RowsChecked == 0 }))
	p.section("Perhaps references: names and values leave it in doubt", p.listed(e.Perhaps, func(evidence.Reference) bool { return true }))
	p.section("One to one in fact, declared as one to many", p.oneToOne(e))
	p.section("Unique, though nothing says so", p.keysFound(e))
	p.section("Promises that the data does not keep", p.broken(e))
	p.section("Counters behind the numbers in use", p.behind(e))
	if len(e.Gaps) == 0 {
		return
	}
	p.heading("Not asked")
	for i, g := range e.Gaps {
		if i == mostGaps {
			p.printf("  and %s more; the file lists all\n", text.Amount(int64(len(e.Gaps)-i)))
			break
		}
		p.block("  "+text.Line(g.Table)+"  ", text.Line(g.What+": "+g.Reason))
	}
}

func (p *Page) section(title string, rows [][]string) {
	if len(rows) > 0 {
		p.heading(title)
		p.rows(nil, nil, rows)
	}
}

// columnsOf names columns of a table in a line.
func columnsOf(table string, columns []string) string {
	return text.Line(table + " (" + strings.Join(columns, ", ") + ")")
}

func (p *Page) listed(all []evidence.Reference, which func(evidence.Reference) bool) (rows [][]string) {
	for _, r := range all {
		if !which(r) {
			continue
		}
		says := coverage(r)
		if r.Orphans > 0 && len(r.Samples) > 0 {
			says += p.paint(dim, ": "+some(r.Samples, 5))
		}
		row := []string{columnsOf(r.Table, r.Columns), "→ " + columnsOf(r.Target, r.TargetColumns)}
		if !r.Declared {
			row = append(row, probably(r.Score))
		}
		rows = append(rows, append(row, says))
	}
	return rows
}

// probably says a probability in words.
func probably(p float64) string {
	switch {
	case p >= 0.99:
		return "all but certain"
	case p >= 0.9:
		return "very likely"
	case p >= 0.7:
		return "likely"
	case p >= 0.5:
		return "more likely than not"
	case p >= 0.3:
		return "possible"
	}
	return "doubtful"
}

func coverage(r evidence.Reference) string {
	how := ""
	if !r.Verified {
		how = ", by a sample"
	}
	switch {
	case r.RowsChecked == 0:
		return "by its name alone"
	case r.Orphans == 0:
		return "all of " + text.Plural(r.RowsChecked, "row") + how
	}
	share := fmt.Sprintf("%.2f", 100*r.Coverage)
	if share == "100.00" {
		share = "nearly 100" // a few of very many
	}
	return fmt.Sprintf("%s %% of %s%s, %s without a parent", share, text.Plural(r.RowsChecked, "row"), how, text.Amount(r.Orphans))
}

// enough is how many rows make it worth saying that no value repeats.
const enough = 20

func (p *Page) oneToOne(e *evidence.Evidence) (rows [][]string) {
	declared := map[string]bool{}
	for _, k := range e.Keys {
		if k.Declared {
			declared[columnsOf(k.Schema+"."+k.Table, k.Columns)] = true
		}
	}
	for _, r := range e.References {
		if r.Declared && r.Verified && r.Most != nil && *r.Most == 1 && r.RowsChecked >= enough && !declared[columnsOf(r.Schema+"."+r.Table, r.Columns)] {
			rows = append(rows, []string{columnsOf(r.Table, r.Columns), "→ " + columnsOf(r.Target, r.TargetColumns), "no value in " + text.Plural(r.RowsChecked, "row") + " repeats"})
		}
	}
	return slices.CompactFunc(rows, slices.Equal) // two foreign keys may say the same
}

func (p *Page) keysFound(e *evidence.Evidence) (rows [][]string) {
	refers := map[string]bool{} // a key that refers to another is no discovery
	for _, r := range e.References {
		refers[columnsOf(r.Schema+"."+r.Table, r.Columns)] = true
	}
	has := map[string]bool{} // tables with a key that is listed or declared
	for _, k := range e.Keys {
		table := k.Schema + "." + k.Table
		if !k.Declared && !refers[columnsOf(table, k.Columns)] && (k.Likely >= 0.5 || !has[table]) {
			says := text.Plural(k.Rows, "row") + ", all different"
			if !k.Verified {
				says += ", by a sample"
			}
			rows = append(rows, []string{columnsOf(k.Table, k.Columns), says})
		}
		has[table] = true
	}
	return rows
}

func (p *Page) broken(e *evidence.Evidence) (rows [][]string) {
	for _, x := range e.Promises {
		if x.Offenders == 0 || x.Kind == "foreign key" { // listed above
			continue
		}
		what := columnsOf(x.Table, x.Columns)
		if len(x.Columns) == 0 {
			what = text.Line(x.Table)
		}
		if x.Object != "" && x.Object != x.Table {
			what = text.Line(x.Object) + " of " + what
		}
		noun := "row"
		if x.Kind == "unique" {
			noun = "value"
		}
		says := text.Plural(x.Offenders, noun)
		if x.AtLeast {
			says = "at least " + says
		}
		switch x.Kind {
		case "unique":
			says += " more than once"
		case "fix":
			says = "a fix would be refused: " + text.Line(x.Says) + ", " + says
		default:
			says += " against it"
		}
		if len(x.Samples) > 0 {
			says += p.paint(dim, ": "+text.Line(strings.Join(x.Samples[:min(3, len(x.Samples))], "; ")))
		}
		rows = append(rows, []string{what, says})
	}
	return rows
}

func (p *Page) behind(e *evidence.Evidence) (rows [][]string) {
	for _, k := range e.Counters {
		if k.Behind {
			says := "the next number is taken"
			if k.Next != nil && k.Greatest != nil {
				says = fmt.Sprintf("gives %s next, and %s is in use", text.Amount(*k.Next), text.Amount(*k.Greatest))
			}
			rows = append(rows, []string{columnsOf(k.Table, []string{k.Column}), says})
		}
	}
	return rows
}

// Proof writes one undeclared reference on a screen of its own, with what speaks
// for it.
func (p *Page) Proof(r evidence.Reference, i, n int) {
	p.printf("%s\n\n", p.paint(dim, fmt.Sprintf("%d of %d: a reference that nothing declares", i, n)))
	p.printf("  %s\n    → %s\n\n", p.paint(bold, columnsOf(r.Schema+"."+r.Table, r.Columns)), p.paint(bold, columnsOf(r.TargetSchema+"."+r.Target, r.TargetColumns)))
	lines := [][]string{{"rows", coverage(r)}}
	if len(r.Samples) > 0 {
		lines = append(lines, []string{"without a parent", some(r.Samples, 5)})
	}
	if r.Fewest != nil && r.Most != nil {
		meets := fmt.Sprintf("%s to %s", text.Amount(*r.Fewest), text.Plural(*r.Most, "row"))
		if *r.Fewest == *r.Most {
			meets = text.Plural(*r.Most, "row")
		}
		lines = append(lines, []string{"for each row of " + text.Line(r.Target), meets})
	}
	how := "sampled"
	switch {
	case r.Verified:
		how = "verified on all rows"
	case r.RowsChecked == 0:
		how = "suspected by the name alone"
	}
	lines = append(lines, []string{"certainty", how},
		[]string{"probability", fmt.Sprintf("%s (%.0f %%): name %.2f, coverage %.2f, type %.2f, spread %.2f", probably(r.Score), 100*r.Score, r.Parts.Name, r.Parts.Coverage, r.Parts.Type, r.Parts.Spread)})
	p.rows(nil, nil, lines)
}
