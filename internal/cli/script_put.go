package cli

import (
	"context"
	"fmt"
	"io"
	"path/filepath"

	"golang.org/x/sync/errgroup"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/job"
	"nexdal/internal/report"
	"nexdal/internal/script"
	"nexdal/internal/text"
)

// putScripts writes a script, its reversal and the structures that they lead
// between, or the script alone to standard output.
func (a *app) putScripts(source, output string, pair *script.Pair) error {
	w, err := job.WriterOf(pair.Before)
	if err != nil {
		return err
	}
	address := engine.Redact(source)
	if a.IsFile(source) {
		address = "" // a survey says nothing of where the database is
	}
	forth, back := pair.Forth, pair.Back
	forth.Limit(w, a.LockTimeout, a.Timeout)
	back.Limit(w, a.LockTimeout, a.Timeout)
	forth.Program, back.Program = "nexdal "+version(), "nexdal "+version()
	if output == "" || output == "-" {
		forth.Places = nil
		forth.Reversal = "none; write to a file with -o to have one"
		return a.emitText("", forth.Text(runWith(w, address, "FILE")))
	}
	if err := notRun(output); err != nil {
		return err
	}
	undo := job.Beside(output, "reversal")
	forth.Reversal, back.Reversal = filepath.Base(undo), filepath.Base(output)
	// Of ten thousand steps each file has its price, and none waits for another; but the
	// scripts come last, once what they name is there.
	var work errgroup.Group
	for _, x := range []struct {
		c    *catalog.Catalog
		word string
		in   []*string // where the head of a script names it
	}{{pair.Before, "before", []*string{&forth.Before, &back.After}}, {pair.After, "after", []*string{&forth.After, &back.Before}}, {pair.Returned, "returned", []*string{&back.After}}} {
		if x.c == nil {
			continue
		}
		path := job.SurveyBeside(output, x.word)
		for _, name := range x.in {
			*name = filepath.Base(path)
		}
		work.Go(func() error { return a.emit(path, func(out io.Writer) error { return x.c.Write(out, true) }) })
	}
	var texts [2]string
	work.Go(func() error { texts[0] = back.Text(runWith(w, address, undo)); return nil })
	work.Go(func() error { texts[1] = forth.Text(runWith(w, address, output)); return nil })
	if err := work.Wait(); err != nil {
		return err
	}
	if err := a.emitText(undo, texts[0]); err != nil {
		return err
	}
	if err := a.emitText(output, texts[1]); err != nil {
		return err
	}
	if forth.Findings > 0 {
		fmt.Fprintf(a.err, "%s: %s answered in %s", output, text.Plural(int64(forth.Findings), "finding"), text.Plural(int64(len(forth.Steps)), "step"))
	} else {
		fmt.Fprintf(a.err, "%s: %s", output, text.Plural(int64(len(forth.Steps)), "step"))
	}
	if n := len(forth.Left); n > 0 {
		fmt.Fprintf(a.err, ", %s left to you", text.Amount(int64(n)))
	}
	fmt.Fprintf(a.err, "\n%s: the way back\n", undo)
	if address != "" && len(forth.Steps) > 0 {
		a.note("carry it out: %s", report.Call{}.Line("run", output, "--on", address))
	}
	return nil
}

func runWith(w engine.Engine, address, file string) []string {
	on := address
	if on == "" {
		on = "DATABASE"
	}
	lines := []string{"nexdal run " + text.Shells([]string{file, "--on", on})}
	if c, ok := w.(engine.Client); ok {
		lines = append(lines, c.ClientLine(address, file))
	}
	return lines
}

// putParts writes a script in parts: fix.1.sql, fix.2.sql ...
func (a *app) putParts(source, output, by string, pair *script.Pair, can catalog.Abilities) error {
	split := script.ByTable
	if by == "phase" {
		split = script.ByPhase
	}
	w, err := job.WriterOf(pair.Before)
	if err != nil {
		return err
	}
	parts, err := split(w, pair, can)
	if err != nil {
		return wrong("--split %s: %v", by, err)
	}
	width := len(fmt.Sprint(len(parts)))
	for i, part := range parts {
		if err := a.putScripts(source, job.Beside(output, fmt.Sprintf("%0*d", width, i+1)), part.Pair); err != nil {
			return err
		}
	}
	if len(parts) == 0 {
		return a.putScripts(source, output, pair)
	}
	return nil
}

// altering reads a source that a script is to alter, once it is known that the script can
// be put down.
func (a *app) altering(ctx context.Context, source, output string) (*catalog.Catalog, engine.Writer, catalog.Abilities, error) {
	c, err := a.read(ctx, source, output)
	if err != nil {
		return nil, nil, catalog.Abilities{}, err
	}
	w, err := job.WriterOf(c)
	if err != nil {
		return nil, nil, catalog.Abilities{}, err
	}
	return c, w, w.Abilities(c.Engine.Version), nil
}
