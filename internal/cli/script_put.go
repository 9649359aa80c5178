package cli

import (
	"fmt"
	"io"
	"path/filepath"
	"strings"

	"golang.org/x/sync/errgroup"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/phrase"
	"nexdal/internal/script"
)

// isFile reports whether the source is a survey file.
func (a *app) isFile(source string) bool {
	if _, isURL := byScheme(source); isURL {
		return false
	}
	head, err := headOf(source)
	return err == nil && isJSON(head)
}

// putScripts writes a script, its reversal and the structures that they lead
// between, or the script alone to standard output.
func (a *app) putScripts(w engine.Writer, source, output string, pair *script.Pair) error {
	address := engine.Redact(source)
	if a.isFile(source) {
		address = "" // a survey says nothing of where the database is
	}
	forth, back := pair.Forth, pair.Back
	forth.Program, back.Program = "nexdal "+version(), "nexdal "+version()
	put := func(path, text string) error {
		return a.emit(path, func(out io.Writer) error {
			_, err := io.WriteString(out, text)
			return err
		})
	}
	if output == "" || output == "-" {
		forth.Places = nil
		forth.Reversal = "none; write to a file with -o to have one"
		return put("", forth.Text(runWith(w, address, "FILE")))
	}
	undo := beside(output, "reversal")
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
		path := jsonBeside(output, x.word)
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
	if err := put(undo, texts[0]); err != nil {
		return err
	}
	if err := put(output, texts[1]); err != nil {
		return err
	}
	if forth.Findings > 0 {
		fmt.Fprintf(a.err, "%s: %s answered in %s", output, phrase.Plural(int64(forth.Findings), "finding"), phrase.Plural(int64(len(forth.Steps)), "step"))
	} else {
		fmt.Fprintf(a.err, "%s: %s", output, phrase.Plural(int64(len(forth.Steps)), "step"))
	}
	if n := len(forth.Left); n > 0 {
		fmt.Fprintf(a.err, ", %s left to a person", phrase.Amount(int64(n)))
	}
	fmt.Fprintf(a.err, "\n%s: the way back\n", undo)
	return nil
}

func runWith(w engine.Engine, address, file string) []string {
	on := address
	if on == "" {
		on = "DATABASE"
	}
	lines := []string{fmt.Sprintf("nexdal run %s --on %s", file, on)}
	if c, ok := w.(engine.Client); ok {
		lines = append(lines, c.ClientLine(address, file))
	}
	return lines
}

// beside names a file that belongs to a script: fix.reversal.sql of fix.sql.
func beside(path, word string) string {
	ext := filepath.Ext(path)
	return strings.TrimSuffix(path, ext) + "." + word + ext
}

// jsonBeside is the like of another format: fix.before.json of fix.sql.
func jsonBeside(path, word string) string {
	return strings.TrimSuffix(path, filepath.Ext(path)) + "." + word + ".json"
}

// putParts writes a script in parts: fix.1.sql, fix.2.sql ...
func (a *app) putParts(w engine.Writer, source, output, by string, pair *script.Pair, can catalog.Abilities) error {
	split := script.ByTable
	if by == "phase" {
		split = script.ByPhase
	}
	parts, err := split(w, pair, can)
	if err != nil {
		return wrong("--split %s: %v", by, err)
	}
	width := len(fmt.Sprint(len(parts)))
	for i, part := range parts {
		if err := a.putScripts(w, source, beside(output, fmt.Sprintf("%0*d", width, i+1)), part.Pair); err != nil {
			return err
		}
	}
	if len(parts) == 0 {
		return a.putScripts(w, source, output, pair)
	}
	return nil
}

// writerOf is the engine that scripts for the catalog are written by.
func writerOf(c *catalog.Catalog) (engine.Writer, error) {
	if w, ok := all.ByName(c.Engine.Name).(engine.Writer); ok {
		return w, nil
	}
	return nil, wrong("no scripts can be written for engine %q", c.Engine.Name)
}
