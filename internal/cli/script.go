package cli

import (
	"io"
	"slices"

	"github.com/spf13/cobra"

	"nexdal/internal/report"
	"nexdal/internal/rule"
)

func (a *app) script() *cobra.Command {
	c := &cobra.Command{
		Use:   "script",
		Short: "Write a script",
		Long:  `Script writes SQL scripts, which nexdal run and the engine's own client carry out.`,
		Example: `  nexdal script fix saltmere.db -o fix.sql
  nexdal script change saltmere.db desired.json -o change.sql
  nexdal script repair saltmere.db --evidence evidence.json -o repair.sql
  nexdal script partitions saltmere.json reading --by taken_at --every month -o cut.sql
  nexdal script spread redshift://dba@cluster:5439/dev -o spread.sql
  nexdal script upkeep saltmere.json --within 2h -o upkeep.sql
  nexdal script notes postgres://dba@db1/saltmere -o notes.sql
  nexdal script bulkload saltmere.db -o load.sql --indexes --triggers
  nexdal script create saltmere.db -o create.sql`,
	}
	c.AddCommand(a.scriptFix(), a.scriptChange(), a.scriptBulkload(), a.scriptRepair(), a.scriptPartitions(), a.scriptSpread(), a.scriptUpkeep(), a.scriptNotes(), a.scriptCreate())
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
fix that the data would refuse is left to you. What
cannot be scripted is listed at the end of the script, with the reason.`,
		Example: `  nexdal script fix saltmere.db -o fix.sql
  nexdal script fix saltmere.json -o fix.sql
  nexdal script fix saltmere.db -o fix.sql --severity warning --table 'feed_*'
  nexdal script fix saltmere.db -o fix.sql --rule key/none --choose number
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
			of, err := a.judged(cmd.Context(), args[0], data, output, review)
			if err != nil {
				return err
			}
			known, err := a.Since(only.baseline, of)
			if err != nil {
				return err
			}
			findings, err := only.pick(of.Catalog, slices.DeleteFunc(slices.Clone(known.New), rule.Finding.SetAside), of.Checker.Rules)
			if err != nil {
				return err
			}
			pair, err := a.Fix(cmd.Context(), of, findings, proposals)
			if err != nil {
				return err
			}
			if review != "" {
				if err := a.emit(review, func(out io.Writer) error { report.Review(out, pair.Forth, findings); return nil }); err != nil {
					return err
				}
			}
			if by != "" {
				return a.putParts(args[0], output, by, pair, of.Checker.Abilities)
			}
			return a.putScripts(args[0], output, pair)
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write; the reversal comes beside it (default: standard output, without reversal)")
	evidenceFlag(c.Flags(), &data)
	only.flags(c.Flags())
	only.choosing(c.Flags())
	c.Flags().StringVar(&by, "split", "", "write one script for each table (or group of tables that hang together), or for each phase of the work")
	c.Flags().StringVar(&review, "review", "", "file to write the script to as prose too, in Markdown, for those who are to agree to it")
	c.Flags().BoolVar(&proposals, "proposals", false, "take also fixes that nobody chose and that nothing proves to be meant")
	return c
}
