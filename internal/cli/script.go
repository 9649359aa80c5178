package cli

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/script"
)

func (a *app) script() *cobra.Command {
	c := &cobra.Command{
		Use:   "script",
		Short: "Write a script",
		Long:  `Script writes SQL scripts, which nexdal run and the engine's own client carry out.`,
		Example: `  nexdal script fix saltmere.db -o fix.sql
  nexdal script change --from saltmere.db --to desired.json -o change.sql
  nexdal script repair saltmere.db --evidence evidence.json -o repair.sql
  nexdal script partitions saltmere.json reading --by taken_at --every month -o cut.sql
  nexdal script spread redshift://dba@cluster:5439/dev -o spread.sql
  nexdal script upkeep saltmere.json --within 2h -o upkeep.sql
  nexdal script bulkload saltmere.db -o load.sql --indexes --triggers
  nexdal script create saltmere.db -o create.sql`,
	}
	c.AddCommand(a.scriptFix(), a.scriptChange(), a.scriptBulkload(), a.scriptRepair(), a.scriptPartitions(), a.scriptSpread(), a.scriptUpkeep(), a.scriptCreate())
	return c
}

func (a *app) scriptFix() *cobra.Command {
	var output, data, by, review string
	var proposals bool
	var only selection
	c := &cobra.Command{
		Use:   "fix SOURCE -o FILE",
		Short: "Write the script that puts the findings right, and the way back",
		Long: `Fix checks the source and writes the DDL that answers its findings: in the order
that it must run in, in the form that blocks least, with pre-flight queries for
whatever the data could refuse. Beside FILE (fix.sql) it writes the reversal
(fix.reversal.sql), and the structure before and after as survey files
(fix.before.json, fix.after.json) for nexdal rehearse, run and compare. Nothing is
changed in the database.

Where a finding has several fixes, the one that was chosen (nexdal decide) is
taken, or the first that check names. A fix that nothing proves to be meant, such
as a unique key on columns that are different so far, is taken only where it was
chosen, or all of these are asked for with --proposals. Findings that were set aside stay. Where the
source is a database, the script's questions are put to its data at once, and a
fix that the data would refuse is left to a person. What
cannot be scripted is listed at the end of the script, with the reason.`,
		Example: `  nexdal script fix saltmere.db -o fix.sql
  nexdal script fix saltmere.json -o fix.sql
  nexdal script fix saltmere.db -o fix.sql --severity warning --table 'feed_*'
  nexdal script fix saltmere.db -o fix.sql --rule key/none --alternative key/none=number
  nexdal script fix saltmere.db -o fix.sql --split table --review fix.md
  nexdal script fix postgres://dba@db1/saltmere --schema saltmere`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if by != "" && (output == "" || output == "-") {
				return wrong("--split writes several files; give the name that theirs begin with, with -o")
			}
			if by != "" && by != "table" && by != "phase" {
				return wrong("--split takes table or phase, not %q", by)
			}
			for _, path := range []string{output, review} {
				if err := writable(path); err != nil {
					return err
				}
			}
			c, err := a.catalog(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			w, err := writerOf(c)
			if err != nil {
				return err
			}
			e, err := a.weighed(data, c)
			if err != nil {
				return err
			}
			result, err := a.judge(cmd.Context(), c, e)
			if err != nil {
				return err
			}
			j, err := a.judging(c, e)
			if err != nil {
				return err
			}
			j.Proposals, j.Before = proposals, &result
			findings, err := only.pick(slices.DeleteFunc(result.Findings, rule.Finding.SetAside), j.Rules)
			if err != nil {
				return err
			}
			pair, err := a.accepted(cmd.Context(), args[0], w, c, j, findings)
			if err != nil {
				return err
			}
			if review != "" {
				if err := a.emit(review, func(out io.Writer) error { report.Review(out, pair.Forth, findings); return nil }); err != nil {
					return err
				}
			}
			if by != "" {
				return a.putParts(w, args[0], output, by, pair, j.Abilities)
			}
			return a.putScripts(w, args[0], output, pair)
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write; the reversal comes beside it (default: standard output, without reversal)")
	c.Flags().StringVar(&data, "evidence", "", "evidence file from nexdal probe, for the rules that need it")
	only.flags(c.Flags())
	c.Flags().StringVar(&by, "split", "", "write one script for each table (or group of tables that hang together), or for each phase of the work")
	c.Flags().StringVar(&review, "review", "", "file to write the script to as prose too, in Markdown, for those who are to agree to it")
	c.Flags().BoolVar(&proposals, "proposals", false, "take also fixes that nobody chose and that nothing proves to be meant")
	return c
}

// tries is how often a script is written anew without what the data refuses.
const tries = 3

// accepted writes the script, puts its questions to the data where the source is
// live, and writes it without the fixes that the data would refuse: one of them
// would keep all others from being carried out. They are left to a person, with
// what was found.
func (a *app) accepted(ctx context.Context, source string, w engine.Writer, c *catalog.Catalog, j rule.Checker, findings []rule.Finding) (pair *script.Pair, err error) {
	for range tries {
		if pair, err = script.Fix(ctx, w, c, j, findings); err != nil {
			return nil, fmt.Errorf("the script cannot be written: %w", err)
		}
		refused, err := a.refused(ctx, source, pair.Forth)
		if err != nil {
			return nil, err
		}
		if len(refused) == 0 {
			break
		}
		findings = slices.Clone(findings)
		for i := range findings {
			if why := refused[findings[i].ID()]; why != "" {
				findings[i].Fixes, findings[i].Advice = nil, "not scripted: the data stands in the way: "+why
			}
		}
	}
	return pair, nil
}

// refused puts a script's questions to the data of a live source. It says, by
// finding, what stands in the way; a question that cannot be answered stays for
// the run.
func (a *app) refused(ctx context.Context, source string, fix *script.Script) (map[string]string, error) {
	if len(fix.Preflight) == 0 || a.isFile(source) {
		return nil, nil
	}
	s, err := a.open(ctx, source, false)
	if err != nil {
		return nil, err
	}
	defer s.Close()
	p, ok := s.(engine.Prober)
	if !ok {
		return nil, nil
	}
	asker, err := p.Asker(ctx)
	if err != nil {
		return nil, err
	}
	refused := map[string]string{}
	for _, q := range fix.Preflight {
		o, err := asker.Rows(ctx, q.SQL)
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		if err != nil || o.Rows == 0 {
			continue
		}
		for _, id := range q.Answers {
			refused[id] = fmt.Sprintf("%s, such as %s", q.Title, strings.Join(o.Samples[:min(3, len(o.Samples))], "; "))
		}
	}
	return refused, nil
}
