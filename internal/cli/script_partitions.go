package cli

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/evidence"
	"nexdal/internal/phrase"
	"nexdal/internal/rule/partition"
	"nexdal/internal/script"
)

// partitioning is what the command was asked for.
type partitioning struct {
	ahead           int
	until, from     string
	rest, emptyRest bool
	keep            string
	most            int
	by, every       string
	without         bool
}

func (a *app) scriptPartitions() *cobra.Command {
	var output string
	var p partitioning
	c := &cobra.Command{
		Use:   "partitions SOURCE [TABLE...] -o FILE",
		Short: "Write the script that keeps partitions up, or cuts a table up",
		Long: `Partitions writes, for tables that are partitioned (all of them, or those named), the
next partitions in the way of those that are there: --ahead so many periods from the
survey on, or up to --until a day. --rest adds one for what no other takes;
--empty-rest gives the rows that have gathered there partitions of their own, by
period, or one for each value of a list, and says how many rows each gets before
anything is written. --keep detaches what is older; a second script (FILE.drop.sql)
drops what was detached, for the day when nobody misses it.

With --by COLUMN --every month (or day, week, quarter, year) it cuts one plain table
up: the key is made to hold the column, the rows that are there stay where they are
as the first partition (PostgreSQL) or are copied by the engine (MariaDB), foreign
keys are carried along where the engine has them on partitioned tables, and the
reversal makes it one table again with the rows of all partitions.

Beside FILE comes the reversal, as with nexdal script fix.`,
		Example: `  nexdal script partitions postgres://dba@db1/saltmere --ahead 6 --rest -o ahead.sql
  nexdal script partitions postgres://dba@db1/saltmere reading --empty-rest -o moved.sql
  nexdal script partitions saltmere.json reading --keep '24 months' -o old.sql
  nexdal script partitions saltmere.json reading --by taken_at --every month --ahead 12 -o cut.sql`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := writable(output); err != nil {
				return err
			}
			c, err := a.catalog(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			w, err := writerOf(c)
			if err != nil {
				return err
			}
			can, err := abilities(c)
			if err != nil {
				return err
			}
			tables, err := p.tables(c, args[1:])
			if err != nil {
				return err
			}
			changes, err := a.partitions(cmd.Context(), args[0], c, can, tables, p)
			if err != nil {
				return err
			}
			if len(changes) == 0 {
				return wrong("there is nothing to do: no table that is named lacks what was asked for")
			}
			pair, err := script.Carry(w, c, can, changes, "partitions")
			if err != nil {
				return wrong("the script cannot be written: %v", err)
			}
			if err := a.putScripts(w, args[0], output, pair); err != nil {
				return err
			}
			return a.putDrop(w, args[0], output, pair, changes, can)
		},
	}
	f := c.Flags()
	f.StringVarP(&output, "output", "o", "", "file to write; the reversal comes beside it (default: standard output, without reversal)")
	f.IntVar(&p.ahead, "ahead", 0, "periods that are to be there ahead of the survey's date")
	f.StringVar(&p.until, "until", "", "day up to which partitions are to be there, as 2027-12-31")
	f.BoolVar(&p.rest, "rest", false, "add a partition for what no other takes, where there is none")
	f.BoolVar(&p.emptyRest, "empty-rest", false, "give the rows that gathered in the default partition partitions of their own; asks the data")
	f.StringVar(&p.keep, "keep", "", "how long rows are kept, as 24 months; what is older is detached")
	f.IntVar(&p.most, "most", 10_000, "partitions of one table that may be made")
	f.StringVar(&p.by, "by", "", "column that says when, by which the plain table is partitioned")
	f.StringVar(&p.every, "every", "", "length of a partition: day, week, month, quarter or year")
	f.StringVar(&p.from, "from", "", "day where the first partition, with all rows that are there, ends (default: at the next period but one)")
	f.BoolVar(&p.without, "without-references", false, "let foreign keys go where the engine has none on partitioned tables")
	return c
}

// tables are those that the command is to work on.
func (p partitioning) tables(c *catalog.Catalog, patterns []string) ([]*catalog.Table, error) {
	var all []*catalog.Table
	lookup := c.Lookup()
	for _, ref := range fitting(c, patterns) {
		t := lookup.Table(ref)
		if (p.by != "" || t.PartitionBy != nil) && t.PartitionOf == nil {
			all = append(all, t)
		}
	}
	switch {
	case (p.by == "") != (p.every == ""):
		return nil, wrong("--by COLUMN and --every PERIOD go together: they cut a plain table up")
	case p.by != "" && (len(patterns) == 0 || len(all) != 1):
		return nil, wrong("name the one table that is to be partitioned")
	case p.by == "" && p.ahead == 0 && p.until == "" && !p.rest && !p.emptyRest && p.keep == "":
		return nil, wrong("say what is wanted: --ahead, --until, --rest, --empty-rest, --keep, or --by with --every")
	case p.ahead < 0 || p.most < 1:
		return nil, wrong("--ahead and --most take a number of periods, one and more")
	case len(all) == 0:
		return nil, wrong("no partitioned table is among those named")
	}
	return all, nil
}

// day reads a day.
func day(flag, text string) (time.Time, error) {
	if text == "" {
		return time.Time{}, nil
	}
	at, err := time.Parse(time.DateOnly, text)
	if err != nil {
		return at, wrong("--%s takes a day such as 2027-12-31, not %q", flag, text)
	}
	return at, nil
}

func (a *app) partitions(ctx context.Context, source string, c *catalog.Catalog, can catalog.Abilities, tables []*catalog.Table, p partitioning) ([]change.Change, error) {
	until, err := day("until", p.until)
	if err != nil {
		return nil, err
	}
	from, err := day("from", p.from)
	if err != nil {
		return nil, err
	}
	names := catalog.NewNames(c, can.MaxName)
	if p.by != "" {
		cut := partition.Cut{Column: p.by, Every: p.every, From: from, Until: until, Ahead: p.ahead, Rest: p.rest, Most: p.most, Without: p.without}
		changes, err := cut.Plan(c, can, names, tables[0])
		if err != nil {
			return nil, wrong("%s cannot be partitioned: %v", tables[0].Ref(), err)
		}
		return changes, a.tellPeriods(ctx, source, tables[0], cut, can)
	}
	var all []change.Change
	for _, t := range tables {
		known := partition.Of(c, can, names, t)
		w := partition.Wanted{Until: until, Rest: p.rest, Keep: p.keep, Most: p.most}
		if p.ahead > 0 && known.Refused == "" {
			if at := known.After(c.Surveyed, p.ahead); at.After(w.Until) {
				w.Until = at
			}
		}
		if p.emptyRest {
			if known.NoValues == "" {
				w.Values, err = a.otherValues(ctx, source, known, t)
			} else {
				w.Found, err = a.gathered(ctx, source, known, t)
			}
			if err != nil {
				return nil, err
			}
		}
		if known.Refused != "" && (p.ahead > 0 || p.until != "" || p.emptyRest && known.NoValues != "") {
			fmt.Fprintf(a.err, "%s: left as it is: %s\n", t.Ref(), known.Refused)
			w.Until, w.Found = time.Time{}, nil
		}
		changes, err := known.Plan(w)
		if err != nil {
			return nil, wrong("%s: %v", t.Ref(), err)
		}
		all = append(all, changes...)
	}
	return all, nil
}

// asker asks the data of a live source; nil: it is none.
func (a *app) asker(ctx context.Context, source string) (evidence.Asker, func(), error) {
	if a.isFile(source) {
		return nil, func() {}, nil
	}
	s, err := a.open(ctx, source, false)
	if err != nil {
		return nil, func() {}, err
	}
	p, ok := s.(engine.Prober)
	if !ok {
		s.Close()
		return nil, func() {}, nil
	}
	asker, err := p.Asker(ctx)
	return asker, func() { s.Close() }, err
}

// restAsker is an asker of what the rest holds, which a survey does not tell.
func (a *app) restAsker(ctx context.Context, source string) (evidence.Asker, func(), error) {
	asker, done, err := a.asker(ctx, source)
	if err == nil && asker == nil {
		done()
		err = wrong("--empty-rest asks the data; give a database as the source")
	}
	return asker, done, err
}

// gathered are the periods that the default partition holds rows of.
func (a *app) gathered(ctx context.Context, source string, t partition.Table, whole *catalog.Table) ([]time.Time, error) {
	rest := t.Default()
	if rest == nil || t.Refused != "" {
		return nil, nil
	}
	asker, done, err := a.restAsker(ctx, source)
	if err != nil {
		return nil, err
	}
	defer done()
	least, greatest, err := span(ctx, asker, rest, whole.PartitionBy.Columns[0])
	if err != nil || least.IsZero() {
		return nil, err
	}
	periods := t.Periods(least, greatest)
	conditions := make([]string, len(periods))
	for i, at := range periods {
		conditions[i] = t.Condition(at)
	}
	counts, err := asker.Counts(ctx, rest, conditions)
	if err != nil {
		return nil, err
	}
	var found []time.Time
	fmt.Fprintf(a.err, "%s holds rows of these periods:\n", rest.Ref())
	for i, n := range counts {
		if n > 0 {
			found = append(found, periods[i])
			fmt.Fprintf(a.err, "  from %s  %s\n", periods[i].Format(time.DateOnly), phrase.Plural(n, "row"))
		}
	}
	return found, nil
}

// otherValues are those that no list names, and so the default partition holds.
func (a *app) otherValues(ctx context.Context, source string, t partition.Table, whole *catalog.Table) ([]string, error) {
	if !t.Rest() {
		return nil, nil
	}
	asker, done, err := a.restAsker(ctx, source)
	if err != nil {
		return nil, err
	}
	defer done()
	from := whole
	if d := t.Default(); d != nil {
		from = d
	}
	const mostValues = 1000
	lists, err := asker.Values(ctx, from, []*catalog.Column{t.Column()}, mostValues)
	if err != nil {
		return nil, err
	}
	if len(lists[0]) >= mostValues {
		return nil, wrong("%s: %s holds %d values and more: too many for a partition each", whole.Ref(), phrase.Line(t.Column().Name), mostValues)
	}
	values := t.Untaken(lists[0])
	if len(values) == 0 {
		return nil, nil
	}
	conditions := make([]string, len(values))
	for i, v := range values {
		conditions[i] = t.Holds(v)
	}
	counts, err := asker.Counts(ctx, from, conditions)
	if err != nil {
		return nil, err
	}
	fmt.Fprintf(a.err, "%s holds values that no list names:\n", from.Ref())
	var found []string
	for i, v := range values {
		if counts[i] == 0 { // it is written otherwise than it is shown
			fmt.Fprintf(a.err, "  %-20s left where it is: it cannot be named as it is shown\n", phrase.Line(v))
			continue
		}
		found = append(found, v)
		fmt.Fprintf(a.err, "  %-20s %s\n", phrase.Line(v), phrase.Plural(counts[i], "row"))
	}
	return found, nil
}

// span is the time from the first to the last moment in a column; zero: it holds none.
func span(ctx context.Context, asker evidence.Asker, t *catalog.Table, column string) (least, greatest time.Time, err error) {
	facts, err := asker.Profile(ctx, evidence.Part{Table: t}, []*catalog.Column{t.Column(column)})
	if err != nil || len(facts) != 1 || facts[0].Least == nil || facts[0].Greatest == nil {
		return least, greatest, err
	}
	for _, x := range []struct {
		text string
		at   *time.Time
	}{{*facts[0].Least, &least}, {*facts[0].Greatest, &greatest}} {
		text := x.text[:min(len(x.text), len(time.DateTime))]
		if *x.at, err = time.Parse(time.DateTime, strings.Replace(text, "T", " ", 1)); err != nil {
			if *x.at, err = time.Parse(time.DateOnly, text[:min(len(text), len(time.DateOnly))]); err != nil {
				return least, greatest, fmt.Errorf("%s of %s holds %q, which is no moment of ours", column, t.Ref(), x.text)
			}
		}
	}
	return least, greatest, nil
}

// tellPeriods says how many rows there are of each period, where the data can be asked.
func (a *app) tellPeriods(ctx context.Context, source string, t *catalog.Table, cut partition.Cut, can catalog.Abilities) error {
	asker, done, err := a.asker(ctx, source)
	if err != nil || asker == nil {
		return err
	}
	defer done()
	least, greatest, err := span(ctx, asker, t, cut.Column)
	if err != nil || least.IsZero() {
		return err
	}
	periods := cut.Periods(least, greatest)
	if len(periods) > 600 {
		fmt.Fprintf(a.err, "%s holds rows from %s to %s: %s would be many\n", t.Ref(), least.Format(time.DateOnly), greatest.Format(time.DateOnly), phrase.Plural(int64(len(periods)), "period"))
		return nil
	}
	conditions := make([]string, len(periods))
	for i, at := range periods {
		conditions[i] = cut.Condition(t, can, at)
	}
	counts, err := asker.Counts(ctx, t, conditions)
	if err != nil {
		return err
	}
	fmt.Fprintf(a.err, "%s holds, by %s:\n", t.Ref(), cut.Every)
	first := max(0, len(periods)-24)
	if first > 0 {
		var sum int64
		for _, n := range counts[:first] {
			sum += n
		}
		fmt.Fprintf(a.err, "  before           %s\n", phrase.Plural(sum, "row"))
	}
	for i := first; i < len(periods); i++ {
		fmt.Fprintf(a.err, "  from %s  %s\n", periods[i].Format(time.DateOnly), phrase.Plural(counts[i], "row"))
	}
	return nil
}

// putDrop writes the script that drops what the first detached.
func (a *app) putDrop(w engine.Writer, source, output string, pair *script.Pair, changes []change.Change, can catalog.Abilities) error {
	gone := &catalog.Catalog{Engine: pair.After.Engine, Database: pair.After.Database}
	for _, ch := range changes {
		var part catalog.Ref
		switch d := ch.(type) {
		case change.DetachPartition:
			part = d.Part
		case change.ExtractPartition:
			part = d.Ref()
		default:
			continue
		}
		if gone.Schema(part.Schema) == nil {
			gone.Schemas = append(gone.Schemas, &catalog.Schema{Name: part.Schema})
		}
		s := gone.Schema(part.Schema)
		s.Tables = append(s.Tables, pair.After.Table(part).Clone())
	}
	if len(gone.Schemas) == 0 || output == "" || output == "-" {
		return nil
	}
	drop, err := script.Carry(w, pair.After, can, []change.Change{change.DropObjects{What: gone}}, "what was detached")
	if err != nil {
		return fmt.Errorf("the script that drops cannot be written: %w", err)
	}
	drop.Forth.Stays = append(drop.Forth.Stays, "the rows of what is dropped: the reversal makes the tables without them")
	return a.putScripts(w, source, beside(output, "drop"), drop)
}
