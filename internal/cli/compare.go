package cli

import (
	"bytes"
	"errors"
	"io"
	"os"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/compare"
	"nexdal/internal/engine/all"
	"nexdal/internal/engine/translate"
	"nexdal/internal/job"
	"nexdal/internal/report"
)

func (a *app) compare() *cobra.Command {
	var output, form string
	var ignore []string
	c := &cobra.Command{
		Use:   "compare A B",
		Short: "Show what differs between two sources",
		Long: `Compare shows every object that was added, removed or altered on the way from A
to B, property by property, and says where an object may only have got a new
name. Rows, sizes and settings are not compared. Between two engines types are
compared by what they hold, and where only one of them writes names in capitals,
those that need no quotes are compared in small letters.

Of two files of nexdal check --format json it shows which findings are new, gone,
worse and better.

The exit status is 1 where there are differences.`,
		Example: `  nexdal compare october.json november.json
  nexdal compare saltmere.json saltmere.db --ignore comment,order
  nexdal compare findings-october.json findings-november.json
  nexdal compare a.json b.json --ignore 'audit.*' --format json`,
		Args: cobra.ExactArgs(2),
		RunE: func(cmd *cobra.Command, args []string) error {
			if err := format(form, "text", "json", "markdown"); err != nil {
				return err
			}
			if err := writable(output); err != nil {
				return err
			}
			if turn, err := findingsCompared(args[0], args[1]); turn != nil || err != nil {
				if err != nil {
					return err
				}
				return a.turned(turn, output, form)
			}
			from, err := a.Catalog(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			to, err := a.Catalog(cmd.Context(), args[1])
			if err != nil {
				return err
			}
			o, err := ignored(ignore, from, to)
			if err != nil {
				return err
			}
			from, to = likewise(from, to)
			found := compare.Catalogs(from, to, o)
			if err := a.emit(output, func(w io.Writer) error {
				switch form {
				case "json":
					return encodeJSON(w, report.DifferencesJSON(from, to, found))
				case "markdown":
					report.DifferencesMarkdown(w, from, to, found)
				default:
					a.page(w).Differences(from, to, found)
				}
				return nil
			}); err != nil {
				return err
			}
			if len(found) > 0 {
				return shortError{}
			}
			return nil
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	c.Flags().StringVar(&form, "format", "text", "text, json or markdown")
	c.Flags().StringSliceVar(&ignore, "ignore", nil, "what to leave out: tables and views, as patterns (audit.*, *_old), and kinds of objects or properties: "+strings.Join(compare.Ignorable, ", "))
	return c
}

// likewise writes the names of both as engines do that agree on the letters of names.
func likewise(a, b *catalog.Catalog) (*catalog.Catalog, *catalog.Catalog) {
	of, and := all.ByName(a.Engine.Name), all.ByName(b.Engine.Name)
	if of == nil || and == nil {
		return a, b
	}
	return translate.Likewise(a, b, of.Dialect(), and.Dialect())
}

// findingsCompared compares two files of findings; nil: they are none.
func findingsCompared(from, to string) (*report.Turn, error) {
	a, err := readFindings(from)
	if a == nil {
		return nil, err
	}
	b, err := readFindings(to)
	if err != nil {
		return nil, err
	}
	if b == nil {
		return nil, wrong("%s holds findings, and %s does not; compare two of a kind", from, to)
	}
	return report.CompareFindings(a, b), nil
}

// readFindings reads a file of findings; nil: it is something else, or none.
func readFindings(path string) (*report.Findings, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, nil
	}
	defer f.Close()
	if info, err := f.Stat(); err != nil || !info.Mode().IsRegular() {
		return nil, nil
	}
	head := make([]byte, 256)
	n, _ := io.ReadFull(f, head)
	if !bytes.Contains(head[:n], []byte(`"kind": "findings"`)) { // a survey may be large
		return nil, nil
	}
	if _, err := f.Seek(0, io.SeekStart); err != nil {
		return nil, wrong("%s cannot be read: %v", path, job.Cause(err))
	}
	found, err := report.ReadFindings(f)
	switch {
	case errors.Is(err, report.ErrNotFindings):
		return nil, nil
	case err != nil:
		return nil, wrong("%s: %v", path, err)
	}
	return found, nil
}

// turned writes what became of findings.
func (a *app) turned(turn *report.Turn, output, form string) error {
	if form == "markdown" {
		return wrong("findings are compared as text or json")
	}
	err := a.emit(output, func(w io.Writer) error {
		if form == "json" {
			return encodeJSON(w, turn)
		}
		a.page(w).Turn(turn)
		return nil
	})
	if err == nil && turn.Differs() {
		return shortError{}
	}
	return err
}

// ignored sorts what is to be ignored into kinds and patterns.
func ignored(list []string, sources ...*catalog.Catalog) (o compare.Options, err error) {
	for _, word := range list {
		kind := strings.TrimSuffix(word, "s")
		switch {
		case word == "statistics": // never compared
		case slices.Contains(compare.Ignorable, word):
			o.Without = append(o.Without, word)
		case slices.Contains(compare.Ignorable, kind):
			o.Without = append(o.Without, kind)
		case word == "indexes":
			o.Without = append(o.Without, "index")
		case strings.ContainsAny(word, "*?") || isThere(word, sources):
			o.Except = append(o.Except, word)
		default:
			return o, wrong("--ignore: %q is no table or view, and no kind of thing; there are %s", word, strings.Join(compare.Ignorable, ", "))
		}
	}
	return o, nil
}

func isThere(name string, sources []*catalog.Catalog) bool {
	for _, c := range sources {
		for _, s := range c.Schemas {
			if slices.ContainsFunc(s.Tables, func(t *catalog.Table) bool { return catalog.FitsTable(name, s.Name, t.Name) }) ||
				slices.ContainsFunc(s.Views, func(v *catalog.View) bool { return catalog.FitsTable(name, s.Name, v.Name) }) {
				return true
			}
		}
	}
	return false
}
