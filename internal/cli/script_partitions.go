package cli

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/job"
	"nexdal/internal/script"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
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
		Short: "Write the script that adds and detaches partitions, or partitions a plain table",
		Long: `Partitions writes, for tables that are partitioned (all of them, or those named), the
next partitions in the way of those that are there: --ahead so many periods from the
survey on, or up to --until a day. --rest adds one for what no other takes;
--empty-rest gives the rows that have gathered there partitions of their own, by
period, or one for each value of a list, and says how many rows each gets before
anything is written. --keep detaches what is older; a second script (FILE.drop.sql)
drops what was detached, for the day when nobody misses it.

With --by COLUMN --every month (or day, week, quarter, year) it partitions one plain
table: the key is made to hold the column, the rows that are there stay where they are
as the first partition (PostgreSQL) or are laid out anew by the engine (the others),
foreign keys are carried along where the engine has them on partitioned tables, and the
reversal makes it one table again with the rows of all partitions; Oracle has none.

Beside FILE comes the reversal, as with nexdal script fix.`,
		Example: `  nexdal script partitions postgres://dba@db1/saltmere --ahead 6 --rest -o ahead.sql
  nexdal script partitions postgres://dba@db1/saltmere reading --empty-rest -o moved.sql
  nexdal script partitions saltmere.json reading --keep '24 months' -o old.sql
  nexdal script partitions saltmere.json reading --by taken_at --every month --ahead 12 -o cut.sql`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, w, can, err := a.altering(cmd.Context(), args[0], output)
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
			if err := a.putScripts(args[0], output, pair); err != nil {
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
	f.IntVar(&p.most, "limit", 10_000, "partitions of one table that may be made")
	f.StringVar(&p.by, "by", "", "column that says when, by which the plain table is partitioned")
	f.StringVar(&p.every, "every", "", "length of a partition: day, week, month, quarter or year")
	f.StringVar(&p.from, "first-ends", "", "day where the first partition, with all rows that are there, ends (default: at the next period but one)")
	f.BoolVar(&p.without, "without-references", false, "let foreign keys go where the engine has none on partitioned tables")
	return c
}

// tables are those that the command is to work on.
func (p partitioning) tables(c *catalog.Catalog, patterns []string) ([]*catalog.Table, error) {
	var all []*catalog.Table
	lookup := c.Lookup()
	named, err := among(c, patterns)
	if err != nil {
		return nil, err
	}
	for _, ref := range named {
		t := lookup.Table(ref)
		part := t.PartitionOf != nil // one that is partitioned again is worked on where it is named itself
		if (p.by != "" || t.PartitionBy != nil) && (!part || p.by == "" && (slices.Contains(patterns, t.Name) || slices.Contains(patterns, ref.String()))) {
			all = append(all, t)
		}
	}
	switch {
	case (p.by == "") != (p.every == ""):
		return nil, wrong("--by COLUMN and --every PERIOD go together: they partition a plain table")
	case p.by != "" && (len(patterns) == 0 || len(all) != 1):
		return nil, wrong("name the one table that is to be partitioned")
	case p.by == "" && p.ahead == 0 && p.until == "" && !p.rest && !p.emptyRest && p.keep == "":
		return nil, wrong("say what is wanted: --ahead, --until, --rest, --empty-rest, --keep, or --by with --every")
	case p.ahead < 0 || p.most < 1:
		return nil, wrong("--ahead and --limit take a number of periods, one and more")
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
	from, err := day("first-ends", p.from)
	if err != nil {
		return nil, err
	}
	if can.PartitionEvery != nil && p.by == "" {
		return nil, wrong("the engine makes the partitions itself, as rows come, and drops them after partition_expiration_days; --by and --every partition a plain table")
	}
	names := catalog.NewNames(c, can.MaxName)
	if p.by != "" {
		cut := upkeep.Partitioning{Column: p.by, Every: p.every, From: from, Until: until, Ahead: p.ahead, Rest: p.rest, Most: p.most, Without: p.without, Zone: upkeep.ZoneOf(c, tables[0].Column(p.by))}
		changes, err := cut.Plan(c, can, names, tables[0])
		if err != nil {
			return nil, wrong("%s cannot be partitioned: %v", tables[0].Ref(), err)
		}
		return changes, a.tellPeriods(ctx, source, tables[0], cut, can)
	}
	var all []change.Change
	in := upkeep.In{Catalog: c, Lookup: c.Lookup(), Abilities: can, Names: names}
	for _, t := range tables {
		known := upkeep.Of(in, t)
		w := upkeep.Wanted{Until: until, Rest: p.rest, Keep: p.keep, Most: p.most}
		if p.ahead > 0 && known.Refused == "" {
			if at := known.Ahead(c.Surveyed, p.ahead); at.After(w.Until) {
				w.Until = at
			}
		}
		if p.emptyRest {
			if w.Found, w.Values, err = a.found(ctx, source, known, t); err != nil {
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

// found asks which rows have gathered in the default partition, and says how many each
// partition gets.
func (a *app) found(ctx context.Context, source string, known upkeep.Table, t *catalog.Table) (periods []time.Time, values []string, err error) {
	from := t
	if d := known.Default(); d != nil {
		from = d
	}
	if known.NoValues != "" {
		shares, err := a.Gathered(ctx, source, known, t)
		if len(shares) > 0 {
			fmt.Fprintf(a.err, "%s holds rows of these periods:\n", from.Ref())
		}
		for _, s := range shares {
			periods = append(periods, s.From)
			a.tellShare(s)
		}
		return periods, nil, err
	}
	shares, err := a.OtherValues(ctx, source, known, t)
	if len(shares) > 0 {
		fmt.Fprintf(a.err, "%s holds values that no list names:\n", from.Ref())
	}
	for _, s := range shares {
		if s.Rows == 0 {
			fmt.Fprintf(a.err, "  %-20s left where it is: it cannot be named as it is shown\n", text.Line(s.Value))
			continue
		}
		values = append(values, s.Value)
		fmt.Fprintf(a.err, "  %-20s %s\n", text.Line(s.Value), text.Plural(s.Rows, "row"))
	}
	return nil, values, err
}

func (a *app) tellShare(s job.Share) {
	fmt.Fprintf(a.err, "  from %s  %s\n", s.From.Format(time.DateOnly), text.Plural(s.Rows, "row"))
}

// tellPeriods says how many rows there are of each period, where the data can be asked.
func (a *app) tellPeriods(ctx context.Context, source string, t *catalog.Table, cut upkeep.Partitioning, can catalog.Abilities) error {
	shares, periods, from, to, err := a.RowsByPeriod(ctx, source, t, cut, can)
	if err != nil || periods == 0 {
		return err
	}
	if shares == nil {
		fmt.Fprintf(a.err, "%s holds rows from %s to %s: %s would be many\n", t.Ref(), from.Format(time.DateOnly), to.Format(time.DateOnly), text.Plural(int64(periods), "period"))
		return nil
	}
	fmt.Fprintf(a.err, "%s holds, by %s:\n", t.Ref(), cut.Every)
	first := max(0, len(shares)-24)
	if first > 0 {
		var sum int64
		for _, s := range shares[:first] {
			sum += s.Rows
		}
		fmt.Fprintf(a.err, "  before           %s\n", text.Plural(sum, "row"))
	}
	for _, s := range shares[first:] {
		a.tellShare(s)
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
	return a.putScripts(source, job.Beside(output, "drop"), drop)
}
