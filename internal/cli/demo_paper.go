package cli

import (
	"context"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"

	"nexdal/demo"
	"nexdal/internal/catalog"
	"nexdal/internal/standin/oracle"
	"nexdal/internal/text"
)

// rounds are how often the data is asked: what there is to ask rests on what was answered.
const rounds = 6

// onPaper plays the job on an engine that is reached by captures alone: a simulated dictionary
// takes the place of somebody who runs the scripts.
func (d *walking) onPaper(ctx context.Context, only bool) error {
	if err := os.MkdirAll(d.folder, 0o755); err != nil {
		return wrong("the folder %s cannot be made: %v", d.folder, err)
	}
	if err := d.clear("ask.sql", "result.txt", "more.sql", "data.txt", "after.txt", "nexdal.yaml", "saltmere.json", "evidence.json", "decisions.yaml", "fix.sql", "fix.reversal.sql", "fix.before.json", "fix.after.json", "fix.returned.json"); err != nil {
		return err
	}
	fmt.Fprintln(d.out, "Building the demo database in a simulated Oracle dictionary: no Oracle takes part in this demo ...")
	s, err := paperDemo(ctx)
	if err != nil {
		return err
	}
	defer s.End()
	house, err := demo.Settings("oracle")
	if err == nil {
		err = writeFile(d.at("nexdal.yaml"), func(w io.Writer) error { _, err := w.Write(house); return err })
	}
	if err != nil {
		return err
	}
	asks := func(script, result string) error {
		asked, err := os.ReadFile(d.at(script))
		if err != nil {
			return err
		}
		fmt.Fprintf(d.out, "\nThe simulated dictionary answers, as somebody with SQL*Plus would:\n$ sqlplus -S -L system@saltmere @%s >> %s\n", d.at(script), d.at(result))
		out, err := s.Run(ctx, string(asked))
		if err != nil {
			return err
		}
		f, err := os.OpenFile(d.at(result), os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o644)
		if err != nil {
			return err
		}
		_, err = io.WriteString(f, out)
		if end := f.Close(); err == nil {
			err = end
		}
		return err
	}
	if err := d.command(ctx, "Write what somebody who may connect has to run; it alters nothing.", []string{"capture", "oracle", "-o", d.at("ask.sql")}); err != nil {
		return err
	}
	if err := asks("ask.sql", "result.txt"); err != nil {
		return err
	}
	if only {
		fmt.Fprintf(d.out, "Try next%s:\n  nexdal outline result.txt\n  nexdal check result.txt\n", map[bool]string{true: "", false: ", in the folder " + d.folder}[d.folder == "."])
		return nil
	}
	decisions := []string{"--decisions", d.at("decisions.yaml"), "--settings", d.at("nexdal.yaml")}
	known := append(slices.Clone(decisions), "--evidence", d.at("evidence.json"))
	if err := d.command(ctx, "See the whole on a page.", []string{"outline", d.at("result.txt")}); err != nil {
		return err
	}
	probe := []string{"probe", d.at("result.txt"), "--ask", d.at("more.sql"), "-o", d.at("evidence.json")}
	for round := range rounds {
		what := "Ask the data what nothing declares: the questions go into a script for the same client."
		if round > 0 {
			what = "What was answered leads to more questions."
		}
		out := d.out
		if round > 0 {
			d.out = io.Discard // the last one says it all
			fmt.Fprintf(out, "\n%s\n$ nexdal %s\n", what, text.Shells(probe))
		}
		err := d.command(ctx, what, probe)
		if d.out = out; err != nil {
			return err
		}
		if _, err := os.Stat(d.at("more.sql")); err != nil {
			break // all are answered
		}
		if err := asks("more.sql", "data.txt"); err != nil {
			return err
		}
		if err := d.clear("more.sql"); err != nil {
			return err
		}
		if round == 0 {
			probe = append(probe, "--answers", d.at("data.txt"))
		}
	}
	for _, step := range []struct {
		what string
		args []string
	}{
		{"See what the data says.", probe[:len(probe):len(probe)]},
		{"Decide about one of the references; from then on it counts, here and in the rules.", append([]string{"decide", "accept", "SPARE_PART.GAUGE_MODEL_ID", "--evidence", d.at("evidence.json"), "--because", "the parts list is kept by model"}, decisions...)},
		{"See one table in full.", append([]string{"describe", d.at("result.txt"), "raft"}, decisions...)},
		{"Judge it.", append([]string{"check", d.at("result.txt"), "--fail-on", "never"}, known...)},
		{"Write what puts it right, and the way back, for SQL*Plus.", append([]string{"script", "fix", d.at("result.txt"), "-o", d.at("fix.sql")}, known...)},
		{"Rehearse it on another simulated dictionary, and keep the capture that this one gives.", append([]string{"rehearse", d.at("fix.sql"), "--on", d.at("result.txt"), "-o", d.at("after.txt"), "--evidence", d.at("evidence.json")}, decisions...)},
		{"Judge that.", append([]string{"check", d.at("after.txt"), "--fail-on", "never"}, known...)},
	} {
		if err := d.command(ctx, step.what, step.args); err != nil {
			return err
		}
	}
	fmt.Fprintf(d.out, "\nThe files are in %s: the capture, the script, its reversal, and the capture after it. All of it was simulated.\n", d.folder)
	return nil
}

// paperDemo is a dictionary with the demo database, whose rows were counted.
func paperDemo(ctx context.Context) (*oracle.Paper, error) {
	before, after, err := demo.SQL("oracle", demoSchema)
	if err != nil {
		return nil, err
	}
	d, err := oracle.New(oracle.Enterprise, "SALTMERE", "SALTMERE")
	if err != nil {
		return nil, err
	}
	p := d.Paper()
	run := func(sql string) error {
		for _, st := range (oracle.Stage{}).Dialect().Statements(sql) {
			if st.Text != "" {
				if err := p.Exec(ctx, st.Text); err != nil {
					return fmt.Errorf("%w: %s", err, st.Text)
				}
			}
		}
		return nil
	}
	load := func() error {
		if err := run("ALTER SESSION SET CURRENT_SCHEMA = SALTMERE;\n" + before); err != nil {
			return err
		}
		for _, t := range demo.RowsOf("oracle") {
			if err := p.Load(ctx, catalog.Ref{Schema: demoSchema, Table: t.Name}, t.Columns, t.Next); err != nil {
				return fmt.Errorf("table %s: %w", t.Name, err)
			}
		}
		if err := run(after); err != nil {
			return err
		}
		c, err := p.Survey(ctx)
		if err != nil {
			return err
		}
		var b strings.Builder
		for _, t := range c.Tables() {
			fmt.Fprintf(&b, "BEGIN DBMS_STATS.GATHER_TABLE_STATS('%s', '%s'); END;\n/\n", t.Schema, t.Name)
		}
		return run(b.String())
	}
	if err := load(); err != nil {
		d.Close()
		return nil, err
	}
	return p, nil
}
