package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/evidence"
	"nexdal/internal/job"
	"nexdal/internal/text"
)

// defaultLimitRows is how large a table may be to be looked at whole.
const defaultLimitRows = 5_000_000

// probing is a call of probe.
type probing struct {
	*app
	source, output string
	limitRows      int64
	full, resume   bool
	budget         time.Duration
	connections    int
	keyColumns     int
	maxBytes       string
	noValues       bool
	quietly        bool // of several sources, what was found is not told one by one
	tables         int
	withhold       []string
	answers        evidence.Answers
	earlier        *evidence.Evidence
	asking         string        // file for the questions that are left
	answered       []string      // files with answers of a client
	replies        *job.Answered // what they hold; nil: the database itself is asked
}

func (a *app) probe() *cobra.Command {
	p := &probing{app: a}
	c := &cobra.Command{
		Use:   "probe SOURCE... -o FILE",
		Short: "Ask the data what is unique, what refers to what, and what it would refuse",
		Long: `Probe asks a live database about its data: of each column how many values there
are, how many differ, how many are missing; which columns are unique though
nothing says so; which declared references hold, and which columns refer to
another table's key though nothing declares it; whether the data keeps what was
declared without being checked, and what the fixes of nexdal check would add.

Every question is answered by the engine with a few numbers, read-only, within
--timeout; no rows leave the database but, as samples, a few values without a
parent and each column's least and greatest. --no-values leaves all of these out
of the file, --withhold those of some columns (table.column, * and ? as usual).

Tables of more than --limit-rows rows are looked at by a sample, and what rests
on one says so; --full looks at all rows of all tables. With --budget, probing
ends after that time. Then, and when it is interrupted, what is known is written
and what was not asked is listed; --resume goes on from there, without putting a
question twice. A table that cannot be asked is a gap and stops nothing else.

Where the engine bills the bytes that it reads (BigQuery), every question is first put as a
dry run, and none is put beyond --max-bytes, which the engine is told as its own limit as
well. What was read is said at the end, with a price in the settings in money too.

A store that answers no such questions (MongoDB, exported documents) is read once: its
documents, up to --limit-rows of a collection, are fetched into a temporary file, which
is asked, and goes at the end.

A database that Nexdal may not reach is asked by somebody else, in a few rounds: of a
survey file or a capture, --ask writes the questions that are left as a script for the
engine's own client, and --answers reads what came of them. Each round's answers may be
added to the same file.

` + job.EvidenceFile + ` is the file that the other commands look for. Of several sources
each gets a file of its own in the folder that -o names.`,
		Example: `  nexdal probe saltmere.db -o ` + job.EvidenceFile + `
  nexdal probe postgres://dba@db1/saltmere --schema saltmere --budget 10m -o evidence.json
  nexdal probe bigquery://saltmere-agency/saltmere --max-bytes 200GB -o evidence.json
  nexdal probe result.txt --ask ask.sql -o evidence.json
  nexdal probe result.txt --answers data.txt --ask ask.sql -o evidence.json
  nexdal probe postgres://dba@db1/saltmere --withhold 'keeper.phone,*.name' -o evidence.json`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			return a.several(cmd.Context(), args, p.output, ".json", []string{"tables", "references", "undeclared", "questions"}, func(source, output string) ([]string, error) {
				one := *p
				one.source, one.output, one.quietly = source, output, len(args) > 1
				found, err := one.run(cmd.Context())
				if found == nil {
					return nil, err
				}
				undeclared := slices.DeleteFunc(slices.Clone(found.References), func(r evidence.Reference) bool { return r.Declared })
				return []string{text.Amount(int64(one.tables)), text.Amount(int64(len(found.References))), text.Amount(int64(len(undeclared))), text.Amount(int64(found.Questions))}, err
			})
		},
	}
	f := c.Flags()
	f.StringVarP(&p.output, "output", "o", "", "file to write (default: JSON to standard output)")
	f.Int64Var(&p.limitRows, "limit-rows", defaultLimitRows, "look at a sample of so many rows where a table holds more")
	f.BoolVar(&p.full, "full", false, "look at all rows of all tables")
	f.DurationVar(&p.budget, "budget", 0, "end asking after this time (default: no end)")
	f.BoolVar(&p.resume, "resume", false, "go on where the file given with -o left off")
	f.IntVar(&p.connections, "connections", 2, "how many questions to put side by side, at most 8")
	f.IntVar(&p.keyColumns, "key-columns", 4, "most columns of a combined key to look for, at most 6")
	f.StringVar(&p.maxBytes, "max-bytes", "10GB", "most bytes that the questions may read, where the engine bills them; 0: any number")
	f.BoolVar(&p.noValues, "no-values", false, "leave values of columns out of the file")
	f.StringSliceVar(&p.withhold, "withhold", nil, "leave values of these columns out of the file (table.column)")
	f.StringVar(&p.asking, "ask", "", "file for the questions that are left, where the source is a survey file or a capture")
	f.StringArrayVar(&p.answered, "answers", nil, "file with what the engine's client answered to such questions (may be given several times)")
	c.MarkFlagsMutuallyExclusive("full", "limit-rows")
	return c
}

func (p *probing) run(ctx context.Context) (*evidence.Evidence, error) {
	if err := p.ready(); err != nil {
		return nil, err
	}
	found, stopped := p.question(ctx)
	if found == nil {
		return nil, stopped
	}
	found.Probed = time.Now().UTC().Truncate(time.Second)
	if stopped != nil {
		found.Ended = p.why(stopped)
	}
	if p.noValues || len(p.withhold) > 0 {
		found.Withhold(p.hidden)
	}
	if err := p.emit(p.output, func(w io.Writer) error { return encodeJSON(w, found) }); err != nil {
		return nil, err
	}
	if p.output != "" && p.output != "-" && !p.quietly {
		p.page(p.out).Evidence(found)
		fmt.Fprintf(p.err, "%s: %s, by %s%s\n", p.output, text.Plural(int64(len(found.References)), "reference"), text.Plural(int64(found.Questions), "question"), p.bill())
	}
	if err := p.writeQuestions(); err != nil {
		return found, err
	}
	switch {
	case stopped == nil || errors.Is(stopped, job.ErrLeft):
		return found, nil
	case errors.Is(stopped, errBudget), errors.Is(stopped, evidence.ErrSpent):
		if p.output != "" && p.output != "-" {
			fmt.Fprintf(p.err, "%s: %s; --resume goes on\n", p.output, found.Ended)
		}
		return found, nil
	case p.output != "" && p.output != "-":
		return found, partError{fmt.Sprintf("%s: %s, and what is known was written; --resume goes on", p.output, found.Ended)}
	}
	return found, stopped
}

// ready looks at the call, and at the file to go on from.
func (p *probing) ready() error {
	switch {
	case p.connections < 1 || p.connections > 8:
		return wrong("--connections takes 1 to 8, not %d", p.connections)
	case p.keyColumns < 1 || p.keyColumns > 6:
		return wrong("--key-columns takes 1 to 6, not %d", p.keyColumns)
	case p.limitRows < 1000:
		return wrong("--limit-rows takes at least 1000, not %d; fewer tell nothing", p.limitRows)
	case p.budget < 0:
		return wrong("--budget takes a length of time such as 10m, not %s", p.budget)
	case p.resume && (p.output == "" || p.output == "-"):
		return wrong("--resume goes on from the file that -o names; give one")
	}
	if p.full {
		p.limitRows = 0
	}
	most, err := text.Bytes(p.maxBytes)
	if err != nil {
		return wrong("--max-bytes takes a number of bytes such as 500MB or 2TB, not %q", p.maxBytes)
	}
	p.Meter = &engine.Meter{Most: most}
	p.Rows, p.Full = p.limitRows, p.full
	for _, w := range p.withhold {
		if !strings.Contains(w, ".") {
			return wrong("--withhold takes table.column, not %q; *.%s means the column in every table", w, w)
		}
	}
	if err := writable(p.output); err != nil {
		return err
	}
	if p.resume {
		e, err := job.ReadEvidence(p.output)
		if err != nil {
			return err
		}
		if e.Ended == "" {
			return wrong("%s is complete: there is nothing left to ask", p.output)
		}
		p.earlier, p.answers = e, e.Answers
	}
	return nil
}

// bill says what the questions read, where the engine bills it.
func (p *probing) bill() string {
	read := p.Meter.Read()
	if read == 0 {
		return ""
	}
	says := ", which read " + text.Size(read)
	if s, err := p.Settings(); err == nil && s.Price.Tebibyte > 0 {
		says += fmt.Sprintf(" (about %s)", s.Price.Of(read))
	}
	return says
}

var errBudget = errors.New("the budget is used up")

// why says why probing ended early.
func (p *probing) why(stopped error) string {
	switch {
	case errors.Is(stopped, errBudget):
		return fmt.Sprintf("the budget of %s was used up", p.budget)
	case errors.Is(stopped, evidence.ErrSpent):
		var spent *engine.SpentError
		if errors.As(stopped, &spent) {
			return fmt.Sprintf("%s (--max-bytes)", spent)
		}
		return "the next question would read more than is allowed (--max-bytes)"
	case errors.Is(stopped, context.Canceled):
		return "interrupted"
	case errors.Is(stopped, job.ErrLeft):
		return p.replies.Ended()
	}
	return stopped.Error()
}

func (p *probing) hidden(schema, table, column string) bool {
	if p.noValues {
		return true
	}
	for _, w := range p.withhold {
		if withheld(w, schema, table, column) {
			return true
		}
	}
	return false
}

// withheld reports whether the pattern fits the column.
func withheld(pattern, schema, table, column string) bool {
	return catalog.Fits(pattern, table+"."+column) || catalog.Fits(pattern, schema+"."+table+"."+column)
}

// question surveys and asks; an early end gives what is known so far.
func (p *probing) question(ctx context.Context) (*evidence.Evidence, error) {
	c, askers, end, err := p.whom(ctx)
	if err != nil {
		return nil, err
	}
	defer end()
	for _, w := range p.withhold {
		if !slices.ContainsFunc(c.Tables(), func(t *catalog.Table) bool {
			return slices.ContainsFunc(t.Columns, func(col *catalog.Column) bool { return withheld(w, t.Schema, t.Name, col.Name) })
		}) {
			return nil, wrong("--withhold %s fits no column of %s; nothing was asked", w, engine.Redact(p.source))
		}
	}
	if e := p.earlier; e != nil && (e.Engine.Name != c.Engine.Name || e.Database != c.Database) {
		return nil, wrong("%s is of %s %s, and this is %s %s", p.output, e.Engine.Name, e.Database, c.Engine.Name, c.Database)
	}
	p.tables = len(c.Tables())
	proposals := p.Proposals(ctx, c)
	if p.budget > 0 { // of questions: without the catalog nothing would be known
		var cancel context.CancelFunc
		ctx, cancel = context.WithTimeoutCause(ctx, p.budget, errBudget)
		defer cancel()
	}
	bar := p.bar()
	defer bar.end()
	spent := &stopwatch{spent: map[string]float64{}}
	efforts := &efforts{of: map[catalog.Ref]*effort{}}
	can, _ := job.Abilities(c) // of an engine that is not known nothing is
	found, err := evidence.Discover(ctx, askers, c, evidence.Options{LimitRows: p.limitRows, KeyColumns: p.keyColumns, Can: can, Proposals: proposals, Answers: p.answers, Piece: efforts.piece, Progress: func(s evidence.Progress) { spent.step(s.Step); bar.show(s) }})
	spent.step("")
	found.Spent = spent.spent
	if p.verbose {
		efforts.tell(p.err, found)
	}
	if errors.Is(err, context.Canceled) && len(found.Columns) == 0 {
		return nil, err
	}
	if p.earlier != nil {
		found.Questions += p.earlier.Questions
	}
	if p.replies != nil && err == nil && len(p.replies.Left()) > 0 {
		err = job.ErrLeft
	}
	return found, err
}

// whom reads the catalog, and says who is asked until end is called: the database itself, or
// what its client has answered.
func (p *probing) whom(ctx context.Context) (c *catalog.Catalog, askers []evidence.Asker, end func(), err error) {
	file := p.IsFile(p.source)
	switch given := p.asking != "" || len(p.answered) > 0; {
	case file && given:
		if c, err = p.Read(ctx, p.source); err == nil {
			p.replies, err = job.NewAnswered(c, p.answered)
		}
		if err != nil {
			return nil, nil, nil, err
		}
		return c, []evidence.Asker{p.replies.Asker()}, func() {}, nil
	case file:
		return nil, nil, nil, wrong("%s is no database that could be asked; --ask FILE writes the questions for somebody who may connect", engine.Redact(p.source))
	case given:
		return nil, nil, nil, wrong("--ask and --answers are for a survey file or a capture; %s can be asked itself", engine.Redact(p.source))
	}
	fetching := p.bar()
	p.Fetched = fetching.fetched
	sessions, err := p.sessions(ctx)
	if err != nil {
		return nil, nil, nil, err
	}
	defer fetching.end()
	end = func() {
		for _, s := range sessions {
			s.Close()
		}
	}
	if c, err = sessions[0].Survey(ctx); err == nil {
		err = p.Narrow(c, p.source)
	}
	for _, s := range sessions {
		if err != nil {
			break
		}
		var one evidence.Asker
		one, err = s.Asker(ctx)
		askers = append(askers, one)
	}
	if err != nil {
		end()
		return nil, nil, nil, err
	}
	return c, askers, end, nil
}

// writeQuestions writes those that are left, and says how to go on.
func (p *probing) writeQuestions() error {
	if p.replies == nil {
		return nil
	}
	left := len(p.replies.Left())
	switch {
	case left == 0:
		p.note("all questions are answered")
		return nil
	case p.asking == "":
		p.note("%s not answered yet; --ask FILE writes them", text.Plural(int64(left), "question"))
		return nil
	}
	if err := p.emitText(p.asking, p.replies.Script()); err != nil {
		return err
	}
	p.note("%s left: %s puts them; its head says how. Give the result back with --answers", text.Plural(int64(left), "question"), p.asking)
	return nil
}

// sessions opens as many as questions are put side by side.
func (p *probing) sessions(ctx context.Context) ([]engine.Prober, error) {
	var list []engine.Prober
	for range p.connections {
		s, err := p.Open(ctx, p.source, false)
		if err != nil {
			if len(list) > 0 {
				break // the server takes no more of them
			}
			return nil, err
		}
		q, ok := s.(engine.Prober)
		if !ok {
			s.Close()
			return nil, wrong("%s cannot be asked about its data", engine.Redact(p.source))
		}
		list = append(list, q)
		if _, alone := q.(engine.Alone); alone {
			break
		}
	}
	return list, nil
}
