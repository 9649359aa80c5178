package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"nexdal/demo"
	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/job"
	"nexdal/internal/standin/bigquery"
	"nexdal/internal/standin/mongodb"
	"nexdal/internal/standin/oracle"
	"nexdal/internal/standin/redshift"
	"nexdal/internal/standin/sqlserver"
	"nexdal/internal/text"
)

// simulated starts a server of its own for the engines that cannot be had otherwise, and says
// what it is.
var simulated = map[string]func() (url, says string, end func(), err error){
	"redshift": func() (string, string, func(), error) {
		c, err := redshift.Start(2, 2)
		if err != nil {
			return "", "", nil, err
		}
		return c.URL(), "A simulated cluster of two nodes with two slices each", c.Close, nil
	},
	"bigquery": func() (string, string, func(), error) {
		p, err := bigquery.Start("saltmere-agency")
		if err != nil {
			return "", "", nil, err
		}
		return p.URL(""), "A simulated project of BigQuery", p.Close, nil
	},
	"mongodb": func() (string, string, func(), error) {
		s, err := mongodb.Start()
		if err != nil {
			return "", "", nil, err
		}
		return s.URL(demoSchema), "A simulated MongoDB", s.Close, nil
	},
	"sqlserver": func() (string, string, func(), error) {
		s, err := sqlserver.StartOn("127.0.0.1:0", "Saltmere", sqlserver.Developer, 40*24*time.Hour)
		if err != nil {
			return "", "", nil, err
		}
		return s.URL("Saltmere"), "A simulated SQL Server", s.Close, nil
	},
}

// papers are simulated dictionaries, for engines whose databases are read by captures alone.
var papers = map[string]engine.Rehearser{"oracle": oracle.Stage{}}

// demoSchema is what the demo makes on a server.
const demoSchema = "saltmere"

func (a *app) demo() *cobra.Command {
	var folder, name, on string
	var stay, only bool
	c := &cobra.Command{
		Use:   "demo",
		Short: "Build the demo database and walk the whole job on it",
		Long: `Demo builds the database of Saltmere, a made-up agency that runs tide gauges along
a made-up coast, with faults planted among sound structures and over 200,000
rows from a fixed seed (fewer on simulated servers). Then it surveys, outlines,
probes, decides, checks, writes a corrective script, runs it and checks again.
All files stay in a folder to look at. With --build-only it builds the database,
faults and all, and leaves the rest to you: the tour of the README begins there.

On a server the demo makes a schema (on MariaDB and MySQL: a database) of its own and
touches nothing else; on Firebird and MongoDB it fills an empty database. With --engine redshift,
bigquery, sqlserver or mongodb and no --on it starts a simulated server of its own, says where it listens, and
plays the job against that;
the engine's own client can talk to it as well while it runs (--stay keeps it running).
With --engine oracle nothing listens: a simulated dictionary answers the scripts of the
capture, as somebody with SQL*Plus would, and the correction is rehearsed on another.`,
		Example: `  nexdal demo
  nexdal demo --build-only --folder .
  nexdal demo --engine postgres --on postgres://dba@localhost/test
  nexdal demo --engine mariadb --on mariadb://dba@localhost
  nexdal demo --engine firebird --on firebird://SYSDBA@localhost//data/saltmere.fdb
  nexdal demo --engine redshift
  nexdal demo --engine bigquery
  nexdal demo --engine sqlserver
  nexdal demo --engine mongodb
  nexdal demo --engine oracle`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, args []string) error {
			if papers[name] != nil {
				if on != "" || stay {
					return wrong("the demo of %s has no server: a simulated dictionary answers the capture's script", name)
				}
				return (&walking{app: a, folder: folder}).onPaper(cmd.Context(), only)
			}
			b, ok := all.ByName(name).(engine.Builder)
			if !ok {
				return wrong("the demo knows no engine %q; give sqlite, postgres, mariadb, mysql, firebird, redshift, bigquery, sqlserver, mongodb or oracle", name)
			}
			d := &walking{app: a, folder: folder, database: filepath.Join(folder, "saltmere.db"), engine: name}
			schema := onlySchema
			if _, file := b.(engine.FileOpener); !file {
				if start := simulated[name]; on == "" && start != nil {
					url, says, end, err := start()
					if err != nil {
						return fmt.Errorf("the simulated server does not start: %w", err)
					}
					defer end()
					on = url
					fmt.Fprintf(a.out, "%s listens at %s\n", says, engine.Redact(on))
				}
				if on == "" {
					return wrong("give the server for the demo: --on URL")
				}
				d.database, schema = on, demoSchema
				if len(a.Scope.Schemas) == 1 {
					schema = a.Scope.Schemas[0]
				}
				d.ends = simulated[name] != nil && !stay && !cmd.Flags().Changed("on")
			} else if on != "" {
				return wrong("--on names a server, and %s keeps its databases in files; give the folder with --folder", b.Title())
			}
			if only && simulated[name] != nil && !cmd.Flags().Changed("on") && !stay {
				return wrong("the simulated server ends with the demo; build it with --stay, or on a server of yours with --on URL")
			}
			if err := d.build(cmd.Context(), b, schema); err != nil {
				return err
			}
			if only {
				d.built()
			} else if err := d.walk(cmd.Context()); err != nil {
				return err
			}
			if !stay {
				return nil
			}
			fmt.Fprintln(a.out, "\nThe demo's server stays until it is interrupted.")
			<-cmd.Context().Done()
			return nil
		},
	}
	c.Flags().StringVar(&folder, "folder", "saltmere-demo", "where the files go")
	c.Flags().StringVar(&name, "engine", "sqlite", "sqlite, postgres, mariadb, mysql, firebird, redshift, bigquery, sqlserver, mongodb or oracle")
	c.Flags().BoolVar(&only, "build-only", false, "build the database, and do not walk the job on it")
	c.Flags().BoolVar(&stay, "stay", false, "keep the simulated server running until it is interrupted")
	c.Flags().StringVar(&on, "on", "", "URL of the server, for an engine that is one")
	return c
}

// walking is one demo.
type walking struct {
	*app
	folder, database string
	engine           string
	only             []string // flags that keep to the demo's own schema
	ends             bool     // the server ends with the demo
}

// build makes the database, and puts the settings beside it.
func (d *walking) build(ctx context.Context, b engine.Builder, schema string) error {
	if err := os.MkdirAll(d.folder, 0o755); err != nil {
		return wrong("the folder %s cannot be made: %v", d.folder, job.Cause(err))
	}
	if err := d.clear("saltmere.db"); err != nil {
		return err
	}
	fmt.Fprintf(d.out, "Building the demo database in %s ...\n", engine.Redact(d.database))
	made, err := build(ctx, b, d.database, schema)
	if err != nil {
		return err
	}
	if made != onlySchema {
		d.only = []string{"--schema", made}
	}
	house, err := demo.Settings(b.Name())
	if err != nil {
		return err
	}
	if err := d.clear("nexdal.yaml", "saltmere.json", "evidence.json", "decisions.yaml", "fix.sql", "fix.reversal.sql", "fix.js", "fix.reversal.js", "fix.before.json", "fix.after.json", "fix.returned.json", "fix.journal.jsonl", "fix.reversal.journal.jsonl"); err != nil {
		return err
	}
	fmt.Fprintln(d.out, "Faults are planted among sound structures.")
	return writeFile(d.at("nexdal.yaml"), func(w io.Writer) error { _, err := w.Write(house); return err })
}

// at is a file of the demo's folder.
func (d *walking) at(name string) string { return filepath.Join(d.folder, name) }

// built says what to type where the demo does not go on itself.
func (d *walking) built() {
	fmt.Fprintf(d.out, "Try next%s:\n", map[bool]string{true: "", false: ", in the folder " + d.folder}[d.folder == "."])
	source := engine.Redact(d.database)
	if len(d.only) == 0 {
		source = "saltmere.db"
	}
	for _, command := range []string{"outline", "check"} {
		fmt.Fprintf(d.out, "  nexdal %s\n", text.Shells(append([]string{command, source}, d.only...)))
	}
}

// walk plays the job.
func (d *walking) walk(ctx context.Context) error {
	at, fix := d.at, "fix"+all.ByName(d.engine).Dialect().Ending()
	decisions := []string{"--decisions", at("decisions.yaml"), "--settings", at("nexdal.yaml")}
	here := append(slices.Clone(d.only), decisions...)
	known := append(slices.Clone(here), "--evidence", at("evidence.json"))
	type step struct {
		what string
		args []string
	}
	var choices []step
	for _, c := range demo.Choices(d.engine) {
		choices = append(choices, step{"Choose one of the fixes that wait for it.", append([]string{"decide", "choose", c.Finding, c.Fix, "--because", "the house has agreed on it"}, decisions...)})
	}
	steps := []step{
		{"Read the catalog into a file; every other command takes the file as well.", append([]string{"survey", d.database, "-o", at("saltmere.json")}, d.only...)},
		{"See the whole on a page.", append([]string{"outline", d.database}, d.only...)},
		{"Ask the data what nothing declares.", append([]string{"probe", d.database, "-o", at("evidence.json")}, d.only...)},
		{"Decide about one of the references; from then on it counts, here and in the rules.", append([]string{"decide", "accept", "spare_part.gauge_model_id", "--evidence", at("evidence.json"), "--because", "a part is made for a model"}, decisions...)},
		{"See what that changes.", append([]string{"describe", d.database, "spare_part"}, here...)},
		{"Judge it.", append([]string{"check", d.database, "--fail-on", "never"}, known...)},
	}
	steps = append(append(steps, choices...), []step{
		{"Write what puts it right, and the way back.", append([]string{"script", "fix", d.database, "-o", at(fix)}, known...)},
		{"Rehearse it where it cannot hurt.", append([]string{"rehearse", at(fix), "--evidence", at("evidence.json")}, decisions...)},
		{"Carry it out.", append([]string{"run", at(fix), "--on", d.database, "--yes"}, decisions...)},
		{"Judge it again.", append([]string{"check", d.database, "--fail-on", "never"}, known...)},
	}...)
	for _, step := range steps {
		if err := d.command(ctx, step.what, step.args); err != nil {
			return err
		}
	}
	address := text.Shell(engine.Redact(d.database))
	if d.ends {
		fmt.Fprintf(d.out, "\nThe files are in %s: the survey, the script, its reversal and the journal. The server has\nended with the demo; with --stay it stays.\n", d.folder)
		return nil
	}
	fmt.Fprintf(d.out, `
The files are in %s: the survey, the script, its reversal and the journal.
Try next:
  nexdal describe %s gauge%s
  nexdal rules fk/not-indexed
  nexdal run %s --on %s
`, d.folder, address, strings.Join(append([]string{""}, d.only...), " "), at(job.Beside(fix, "reversal")), address)
	return nil
}

// clear removes what an earlier demo left.
func (d *walking) clear(names ...string) error {
	for _, name := range names {
		if err := os.Remove(filepath.Join(d.folder, name)); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return wrong("an earlier demo's %s cannot be replaced: %v", name, job.Cause(err))
		}
	}
	return nil
}

// command says what comes, shows the command line, and runs it.
func (d *walking) command(ctx context.Context, what string, args []string) error {
	shown := make([]string, len(args))
	for i, s := range args {
		shown[i] = engine.Redact(s)
	}
	fmt.Fprintf(d.out, "\n%s\n$ nexdal %s\n", what, text.Shells(shown))
	next := newApp(d.in, d.out, d.err)
	root := next.root()
	root.SetArgs(args)
	root.SetOut(d.out)
	root.SetErr(d.err)
	return root.ExecuteContext(ctx)
}

// onlySchema is what an engine without schemas calls its only one.
const onlySchema = "main"

// build makes the structure and adds the rows, in the schema that it returns.
func build(ctx context.Context, b engine.Builder, address, schema string) (made string, err error) {
	if _, _, err := demo.SQL(b.Name(), schema); err != nil {
		return "", err
	}
	s, schema, err := b.Build(ctx, address, schema)
	if err != nil {
		return "", err
	}
	defer s.Close()
	before, after, err := demo.SQL(b.Name(), schema)
	if err != nil {
		return "", err
	}
	load := func() error {
		for _, st := range b.Dialect().Statements(before) {
			if err := s.Exec(ctx, st.Text); err != nil {
				return err
			}
		}
		for _, t := range demo.RowsOf(b.Name()) {
			if err := s.Load(ctx, catalog.Ref{Schema: schema, Table: t.Name}, t.Columns, t.Next); err != nil {
				return fmt.Errorf("table %s: %w", t.Name, err)
			}
		}
		for _, st := range b.Dialect().Statements(after + "\nCOMMIT;") {
			if err := s.Exec(ctx, st.Text); err != nil {
				return err
			}
		}
		return nil
	}
	if err := load(); err != nil {
		s.Close()
		return "", errors.Join(err, b.Discard(context.WithoutCancel(ctx), address, schema))
	}
	return schema, nil
}
