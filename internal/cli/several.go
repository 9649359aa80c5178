package cli

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"nexdal/internal/engine"
	"nexdal/internal/job"
)

// each does the work for every source. Of several, one that fails is told, and does not keep the
// others from being seen to; worst is the gravest exit status among them. An interrupt ends it.
func (a *app) each(ctx context.Context, sources []string, work func(source string) error) (worst int, err error) {
	for _, source := range sources {
		switch err := work(source); {
		case err == nil:
		case len(sources) == 1 || ctx.Err() != nil:
			return 0, err
		default:
			worst = max(worst, a.status(ctx, err))
		}
	}
	return worst, nil
}

// several does the work for every source. Of one, the result goes where -o says. Of several, -o
// names a folder, in which each gets a file of its own, and a table tells what came of each. The
// exit status is that of the worst.
func (a *app) several(ctx context.Context, sources []string, output, ending string, head []string, work func(source, output string) ([]string, error)) error {
	if len(sources) == 1 {
		_, err := work(sources[0], output)
		return err
	}
	if info, err := os.Stat(output); output == "" || output == "-" || err == nil && !info.IsDir() {
		return wrong("of several sources each has a file of its own: name a folder with -o")
	}
	if err := os.MkdirAll(output, 0o755); err != nil {
		return wrong("the folder %s cannot be made: %v", output, job.Cause(err))
	}
	taken := map[string]bool{}
	var rows [][]string
	worst, err := a.each(ctx, sources, func(source string) error {
		path := filepath.Join(output, fileOf(source, taken)+ending)
		row, err := work(source, path)
		if err != nil {
			row, path = make([]string, len(head)), "not done: "+err.Error()
		}
		rows = append(rows, append(append([]string{engine.Redact(source)}, row...), path))
		return err
	})
	if err != nil {
		return err
	}
	a.page(a.out).Several(append(append([]string{"source"}, head...), "file"), rows)
	return exit(worst)
}

// fileOf names a file after a source: the name in the settings, of a file, or of a database.
func fileOf(source string, taken map[string]bool) string {
	name := source
	if _, rest, isURL := strings.Cut(source, "://"); isURL {
		name, _, _ = strings.Cut(rest, "?")
		name = strings.TrimRight(name, "/")
	}
	name = filepath.Base(name)
	name = strings.TrimSuffix(name, filepath.Ext(name))
	name = strings.Map(func(r rune) rune {
		if strings.ContainsRune(`/\:*?"<>|@`, r) || r < ' ' {
			return '_'
		}
		return r
	}, name)
	name = strings.TrimLeft(name, ".")
	if name == "" {
		name = "source"
	}
	own := name
	for n := 2; taken[strings.ToLower(own)]; n++ {
		own = fmt.Sprintf("%s-%d", name, n)
	}
	taken[strings.ToLower(own)] = true
	return own
}
