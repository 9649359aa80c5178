package allrules

import (
	"io/fs"
	"path"
	"slices"
	"strings"

	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/rule/check"
	"nexdal/internal/rule/column"
	"nexdal/internal/rule/distribution"
	"nexdal/internal/rule/fk"
	"nexdal/internal/rule/index"
	"nexdal/internal/rule/key"
	"nexdal/internal/rule/name"
	"nexdal/internal/rule/note"
	"nexdal/internal/rule/partition"
	"nexdal/internal/rule/routine"
	"nexdal/internal/rule/sequence"
	"nexdal/internal/rule/sort"
	"nexdal/internal/rule/storage"
	"nexdal/internal/rule/view"
)

var examples = map[string]fs.FS{"check": check.Examples, "column": column.Examples, "fk": fk.Examples, "index": index.Examples, "key": key.Examples,
	"name": name.Examples, "note": note.Examples, "partition": partition.Examples, "sequence": sequence.Examples,
	"distribution": distribution.Examples, "sort": sort.Examples, "storage": storage.Examples,
	"routine": routine.Examples, "view": view.Examples}

// An Example is a script that breaks a rule, one of those that it is tested with,
// and what its fix does there.
type Example struct {
	Engine string
	Broken string // each place that is found is marked
	Fixed  string // the statements of the fix; empty where there is none
	Probed bool   // it needs the data
	Set    []string
}

var (
	wanted    = pattern.New(`(--|//) want(?:-database)?: (.*)`)
	spaced    = pattern.New(` "[^"]*"| \(no fix\)`)
	directive = pattern.New(`(?m)^(?:--|//) (probe|accept all|set (.*)|not \w+: .*|want nothing.*|the fix (?:brings|ends) .*)\n`)
)

// ExampleOf is the rule's example for an engine, or for the first of all that has one
// where the engine is empty; ok is false where there is none. A script that names
// no engine is for all of those given.
func ExampleOf(r *rule.Rule, engine string, all []string) (x Example, ok bool) {
	if engine == "" {
		for _, engine := range all {
			if x, ok := ExampleOf(r, engine, all); ok {
				return x, true
			}
		}
		return Example{}, false
	}
	folder := examples[r.Area()]
	if folder == nil {
		return Example{}, false
	}
	_, slug, _ := strings.Cut(r.ID, "/")
	names, err := fs.Glob(folder, path.Join("testdata", slug, "*.*"))
	if err != nil {
		return Example{}, false
	}
	for _, file := range names {
		parts := strings.Split(path.Base(file), ".")
		engines := all
		if len(parts) == 3 {
			engines = strings.Split(parts[1], "+")
		}
		text, err := fs.ReadFile(folder, file)
		if err != nil || parts[0] == "fixed" || !strings.Contains(string(text), r.ID) {
			continue
		}
		if !slices.Contains(engines, engine) {
			continue
		}
		ending := path.Ext(file)
		x = Example{Engine: engine, Probed: strings.Contains(string(text), "-- probe") || strings.Contains(string(text), "// probe")}
		for _, m := range directive.FindAllStringSubmatch(string(text), -1) {
			if m[2] != "" {
				x.Set = append(x.Set, m[2])
			}
		}
		x.Broken = strings.TrimSpace(shown(directive.ReplaceAllString(string(text), "")))
		if fixed, err := fs.ReadFile(folder, path.Join("testdata", slug, "fixed."+engine+ending)); err == nil {
			x.Fixed = strings.TrimSpace(string(fixed))
		}
		return x, true
	}
	return Example{}, false
}

// shown turns what a test expects into a mark for people, and cuts long lists of
// rows.
func shown(text string) string {
	lines := strings.Split(text, "\n")
	for i, line := range lines {
		lines[i] = wanted.ReplaceAllStringFunc(line, func(s string) string {
			m := wanted.FindStringSubmatch(s)
			return m[1] + " found: " + spaced.ReplaceAllString(m[2], "")
		})
		if len(line) > 200 && strings.HasPrefix(strings.TrimSpace(line), "INSERT") {
			lines[i] = line[:120] + " ..."
		}
	}
	return strings.Join(lines, "\n")
}
