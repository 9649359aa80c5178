package cli

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/evidence"
	"nexdal/internal/job"
	"nexdal/internal/rule"
	"nexdal/internal/script"
	"nexdal/internal/settings"
	"nexdal/internal/text"
)

func (a *app) review() *cobra.Command {
	d := &deciding{app: a}
	var again bool
	c := &cobra.Command{Use: "review SOURCE", Short: "Go through all that is open, one screen each", Args: cobra.ExactArgs(1),
		Long: `Review shows each undeclared reference that nobody decided about, with its proof, and
each finding whose fix is to be chosen, and asks. Keys: a accept, r refuse or set
aside, a number to choose a fix, d show rows, s skip, b back, q quit. Then it asks
for the reason, which a finding that is set aside has to have. Each answer is kept at
once. Rows are shown where the source is a database: those without a parent, where
there are any. Where the input is no terminal, each line of it is one answer; text
after the key is the reason.`,
		Example: "  nexdal decide review saltmere.db --evidence evidence.json",
		RunE: func(cmd *cobra.Command, args []string) error {
			d.source = args[0]
			all, err := a.Decisions(true)
			if err != nil {
				return err
			}
			refs, findings, err := d.items(cmd.Context())
			if err != nil {
				return err
			}
			return d.ask(cmd.Context(), all, open(all, refs, findings, again))
		}}
	d.flags(c, false)
	c.Flags().BoolVar(&again, "again", false, "show also what is decided")
	return c
}

// An asked is one screen of a review.
type asked struct {
	id      string
	ref     *evidence.Reference
	finding *rule.Finding
}

// open lists what can be decided: references, and findings with a choice.
func open(all *settings.Decisions, refs []evidence.Reference, findings []rule.Finding, again bool) []asked {
	var list []asked
	add := func(x asked) {
		if again || all.Of(x.id, job.Today()) == nil {
			list = append(list, x)
		}
	}
	for i := range refs {
		add(asked{id: settings.ReferenceID(&refs[i]), ref: &refs[i]})
	}
	for i := range findings {
		if fixes := findings[i].Fixes; len(fixes) > 1 || len(fixes) == 1 && fixes[0].Ask {
			add(asked{id: findings[i].ID(), finding: &findings[i]})
		}
	}
	return list
}

// ask goes through the screens.
func (d *deciding) ask(ctx context.Context, kept *settings.Decisions, list []asked) error {
	if len(list) == 0 {
		fmt.Fprintln(d.out, "nothing is open")
		return nil
	}
	in := bufio.NewReader(d.in)
	decided := 0
	for i := 0; i >= 0 && i < len(list); {
		x := list[i]
		d.screen(x, i, len(list))
		answer, reason, err := d.key(in)
		if err == io.EOF || answer == 'q' {
			break
		}
		if err != nil {
			return err
		}
		switch answer {
		case 's':
			i++
			continue
		case 'b':
			i = max(0, i-1)
			continue
		case 'd':
			if err := d.rows(ctx, x); err != nil {
				fmt.Fprintf(d.out, "%v\n", err)
			}
			d.pause(in)
			continue
		}
		made, ok, err := d.made(x, answer, reason)
		if err != nil {
			return err
		}
		if !ok {
			fmt.Fprintf(d.out, "%q is no answer here\n", answer)
			continue
		}
		if err := made.Check(); err != nil {
			fmt.Fprintf(d.out, "%v\n", err)
			continue
		}
		kept.Put(made)
		if err := d.keep(kept); err != nil {
			return err
		}
		fmt.Fprintf(d.out, "%s\n", text.Line(says(&made)))
		decided++
		i++
	}
	fmt.Fprintf(d.out, "\n%s decided, kept in %s\n", text.Amount(int64(decided)), d.DecisionsIn())
	return nil
}

// made is the decision that an answer makes; ok is false where it is none.
func (d *deciding) made(x asked, answer byte, reason string) (made settings.Decision, ok bool, err error) {
	made, err = d.decision(settings.Accept)
	made.About, made.Because = x.id, reason
	switch {
	case answer == 'a':
	case answer == 'r' && x.ref != nil:
		made.Verdict = settings.Refuse
	case answer == 'r':
		made.Verdict = settings.SetAside
	case x.finding != nil && answer >= '1' && int(answer-'0') <= len(x.finding.Fixes):
		made.Verdict, made.Fix = settings.Choose, x.finding.Fixes[answer-'1'].ID
	default:
		return made, false, err
	}
	return made, true, err
}

// screen shows one item with its proof.
func (d *deciding) screen(x asked, i, n int) {
	p := d.page(d.out)
	if p.Colour {
		fmt.Fprint(d.out, "\x1b[2J\x1b[H")
	}
	keys := "a accept   r refuse   d show rows   s skip   b back   q quit"
	if x.ref != nil {
		p.Proof(*x.ref, i+1, n)
	} else {
		p.Choice(*x.finding, i+1, n)
		keys = fmt.Sprintf("1-%d choose   r set aside   d show rows   s skip   b back   q quit", len(x.finding.Fixes))
	}
	fmt.Fprintf(d.out, "\n%s > ", keys)
}

// mostShown is how many rows a screen shows, and of how many columns.
const mostShown, mostColumns = 10, 8

// rows shows some of the rows that an item is about: the key of the table first, then the columns
// in question, then others.
func (d *deciding) rows(ctx context.Context, x asked) error {
	c, of := d.catalog, script.Wrong{}
	if x.ref != nil {
		of = script.Wrong{Table: x.ref.From(), Columns: x.ref.Columns, Target: x.ref.To(), Keys: x.ref.TargetColumns, Rows: x.ref.Orphans}
	} else {
		of = script.Wrong{Table: x.finding.Table, Columns: x.finding.Columns}
	}
	t := c.Table(of.Table)
	q, ok := all.ByName(c.Engine.Name).(script.Quoter)
	if t == nil || !ok {
		return errors.New("it is about no table whose rows could be shown")
	}
	if d.IsFile(d.source) {
		return errors.New("no rows: the source is a survey, and no database")
	}
	var columns []string
	add := func(names ...string) {
		for _, name := range names {
			if !slices.Contains(columns, name) && t.Column(name) != nil && len(columns) < mostColumns {
				columns = append(columns, name)
			}
		}
	}
	if t.PrimaryKey != nil {
		add(t.PrimaryKey.Columns...)
	}
	add(of.Columns...)
	for _, col := range t.Columns {
		add(col.Name)
	}
	s, err := d.Open(ctx, d.source, false)
	if err != nil {
		return err
	}
	defer s.Close()
	reader, ok := s.(engine.Runner)
	if !ok {
		return errors.New("no rows can be read there")
	}
	names, rows, err := reader.Rows(ctx, script.Look(q, c, of, columns, mostShown), mostShown)
	if err != nil {
		return err
	}
	if len(rows) == 0 {
		fmt.Fprintln(d.out, "there are no rows")
		return nil
	}
	if of.Rows > 0 {
		fmt.Fprintln(d.out, "Rows without a parent")
	}
	d.page(d.out).Rows(names, rows)
	return nil
}

// pause waits for a key on a terminal, where the next screen would wipe the rows away.
func (d *deciding) pause(in *bufio.Reader) {
	if f, ok := d.in.(*os.File); ok && term.IsTerminal(int(f.Fd())) {
		fmt.Fprint(d.out, "\nEnter to go on ")
		in.ReadString('\n')
	}
}

// key takes one key from a terminal, or one line from anything else. For a
// decision, the reason is asked for.
func (d *deciding) key(in *bufio.Reader) (answer byte, reason string, err error) {
	f, ok := d.in.(*os.File)
	if !ok || !term.IsTerminal(int(f.Fd())) {
		line, err := in.ReadString('\n')
		line = strings.TrimSpace(line)
		fmt.Fprintln(d.out)
		if line == "" {
			if err == nil {
				return 's', "", nil
			}
			return 0, "", io.EOF
		}
		return line[0], strings.TrimSpace(line[1:]), nil
	}
	old, err := term.MakeRaw(int(f.Fd()))
	if err != nil {
		return 0, "", err
	}
	one := make([]byte, 1)
	_, err = f.Read(one)
	term.Restore(int(f.Fd()), old)
	if err != nil || one[0] == 3 || one[0] == 4 { // Ctrl-C, Ctrl-D
		return 'q', "", nil
	}
	fmt.Fprintf(d.out, "%c\n", one[0])
	if one[0] == 'r' || one[0] == 'a' || one[0] >= '1' && one[0] <= '9' {
		fmt.Fprint(d.out, "because (Enter for no reason): ")
		reason, err = in.ReadString('\n')
	}
	return one[0], strings.TrimSpace(reason), err
}
