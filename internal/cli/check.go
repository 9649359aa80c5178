package cli

import (
	"context"
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/job"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/settings"
	"nexdal/internal/text"
)

// checking is one check, as its flags have it.
type checking struct {
	*app
	selection
	output, form, failOn, data string
	group                      string
	explain, all               bool
	top                        int
	writeBaseline              string
}

var findingForms = []string{"text", "json", "sarif", "junit", "csv", "markdown", "lines"}

func (a *app) check() *cobra.Command {
	k := &checking{app: a}
	c := &cobra.Command{
		Use:   "check SOURCE...",
		Short: "Judge a catalog by the design rules",
		Long: `Check judges a catalog by the design rules. It says first, in a line, how things
stand, then what to do first, each with what to type, and then the rest by table.
Notices are counted by rule; --all shows each. nexdal rules ID explains a rule.

Findings come in the order of what comes of them: what fails now, what is wrong now,
what fails by a date, what nothing protects, what is slow, what is untidy; then by
what is at stake. Severities: error (data can be or is wrong, or an operation will
fail), warning (it will hurt), notice (convention, tidiness). The exit status is 1
where there are findings at or above --fail-on among those asked for. Findings that
were set aside (nexdal decide) are counted and do not fail a check.

Settings, decisions and evidence are read from ` + job.SettingsFile + `, ` + job.DecisionsFile + `
and ` + job.EvidenceFile + ` in this folder or the nearest above; check says which it
used. Without evidence, what needs the data is not judged, and listed with what it
lacks.

With --write-baseline, the findings of today are kept in a file; with --baseline,
only those that the file does not hold are reported, and those of it that are gone.
With both, the new file holds those of the old one that are still there: what is new
is reported, and not kept. A baseline is bound to the structure: it serves for a copy
of the database under another name as well.

Of several sources, each is judged, after a table with their counts; the exit status
is that of the worst.`,
		Example: `  nexdal check saltmere.db
  nexdal check saltmere.db --all --group rule
  nexdal check saltmere.db --table 'visit*' --area fk,index
  nexdal check live test archive.json --severity error
  nexdal check saltmere.json --format sarif -o findings.sarif
  nexdal check saltmere.db --write-baseline known.json
  nexdal check saltmere.db --baseline known.json --fail-on warning
  nexdal check postgres://dba@db1/saltmere --set 'name/*=off' --set fk/not-indexed.large=100000`,
		Args: cobra.MinimumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error { return k.run(cmd.Context(), args) },
	}
	f := c.Flags()
	f.StringVarP(&k.output, "output", "o", "", "file to write (default: standard output)")
	f.StringVar(&k.form, "format", "text", strings.Join(findingForms, ", "))
	evidenceFlag(f, &k.data)
	f.StringVar(&k.failOn, "fail-on", "error", "lowest severity that gives exit status 1: error, warning, notice or never")
	f.StringVar(&k.group, "group", "table", "how the rest of the text is ordered: by table or by rule")
	f.BoolVar(&k.all, "all", false, "show each notice, and not only how many there are of a rule")
	f.IntVar(&k.top, "top", report.Worth, "how many findings to show first")
	f.BoolVar(&k.explain, "explain", false, "with the text of each rule that is broken")
	k.selection.flags(f)
	f.StringVar(&k.writeBaseline, "write-baseline", "", "file to keep the findings of today in")
	return c
}

func (k *checking) run(ctx context.Context, sources []string) error {
	if err := format(k.form, findingForms...); err != nil {
		return err
	}
	limit := rule.Severity(k.failOn)
	switch {
	case k.failOn != "never" && !known(limit):
		return wrong("--fail-on takes error, warning, notice or never, not %q", k.failOn)
	case k.group != "table" && k.group != "rule":
		return wrong("--group takes table or rule, not %q", k.group)
	case k.top < 0:
		return wrong("--top takes a number from 0 on")
	case k.writeBaseline != "" && len(sources) > 1:
		return wrong("--write-baseline keeps the findings of one source")
	case k.writeBaseline != "" && k.narrow():
		return wrong("a baseline is of all findings: leave out what picks some of them")
	}
	var list []report.Judgement
	worst, err := k.each(ctx, sources, func(source string) error {
		j, err := k.one(ctx, source)
		if j.Name = engine.Redact(source); err != nil {
			j.Failed = err.Error()
		}
		list = append(list, j)
		return err
	})
	if err != nil {
		return err
	}
	fails := func(f rule.Finding) bool {
		return k.failOn != "never" && f.Severity.AtLeast(limit) && !f.SetAside()
	}
	if err := k.emit(k.output, func(w io.Writer) error { return k.tell(w, list, fails) }); err != nil {
		return err
	}
	for _, j := range list {
		if slices.ContainsFunc(j.Result.Findings, fails) {
			worst = max(worst, statusShort)
		}
	}
	return exit(worst)
}

// one judges one source.
func (k *checking) one(ctx context.Context, source string) (report.Judgement, error) {
	of, err := k.judged(ctx, source, k.data, k.output, k.writeBaseline)
	if err != nil {
		return report.Judgement{}, err
	}
	since, err := k.Since(k.baseline, of)
	if err != nil {
		return report.Judgement{}, err
	}
	if err := k.strays(of); err != nil {
		return report.Judgement{}, err
	}
	if k.writeBaseline != "" {
		kept := of.Result.Findings
		if of.Files.Baseline != "" {
			kept = since.Known
		}
		b := settings.BaselineOf(of.Catalog, kept)
		if err := k.emit(k.writeBaseline, func(w io.Writer) error { return encodeJSON(w, b) }); err != nil {
			return report.Judgement{}, err
		}
	}
	result := of.Result
	if result.Findings, err = k.pick(of.Catalog, since.New, of.Checker.Rules); err != nil {
		return report.Judgement{}, err
	}
	if k.narrow() {
		result.Unjudged = slices.DeleteFunc(slices.Clone(result.Unjudged), func(u rule.Unjudged) bool { return !k.about(u.Rule) })
	}
	return report.Judgement{Catalog: of.Catalog, Result: result, Rules: of.Checker.Rules, Known: len(since.Known), Gone: since.Gone,
		Files: report.Files(of.Files), Call: k.again(of, k.data)}, nil
}

// strays tells of patterns in the settings, and of decisions, that fit nothing.
func (k *checking) strays(of *job.Subject) error {
	s, err := k.Settings()
	if err != nil {
		return err
	}
	for _, says := range s.Strays(of.Catalog, of.Checker.Rules, of.Checker.Abilities) {
		k.note("%s", text.Line(says))
	}
	d, err := k.Decisions(false)
	if err != nil {
		return err
	}
	var ids []string
	for _, f := range of.Result.Findings {
		ids = append(ids, f.ID())
	}
	open := map[string]bool{} // what could not be judged may well be there
	for _, u := range of.Result.Unjudged {
		open[u.Rule] = true
	}
	stale := 0
	for _, x := range d.List {
		about := rule.Of(x.About)
		if x.Holds(job.Today()) && about != "reference" && !open[about] && !strings.ContainsAny(about, "*?") && !slices.ContainsFunc(ids, x.Fits) {
			stale++
		}
	}
	if stale > 0 {
		k.note("%s without a finding any more: nexdal decide list %s", text.Plural(int64(stale), "decision"), engine.Redact(of.Source))
	}
	return nil
}

// again is how the call has to be made to find the same: the files that it named, and not those
// that are found anyway.
func (a *app) again(of *job.Subject, data string) report.Call {
	c := report.Call{Source: engine.Redact(of.Source), Evidence: data}
	if e := all.ByName(of.Catalog.Engine.Name); e != nil {
		c.Ending = e.Dialect().Ending()
	}
	if of.Source == job.Input {
		c.Source = "" // it has been read, and no further call can read it again
	}
	for _, x := range [][2]string{{"--settings", a.SettingsPath}, {"--decisions", a.DecisionsPath}} {
		if x[1] != "" {
			c.Flags = append(c.Flags, x[0], x[1])
		}
	}
	for _, x := range []struct {
		flag   string
		values []string
	}{{"--schema", a.Scope.Schemas}, {"--without", a.Scope.Without}} {
		if len(x.values) > 0 {
			c.Flags = append(c.Flags, x.flag, strings.Join(x.values, ","))
		}
	}
	for _, s := range a.Sets {
		c.Flags = append(c.Flags, "--set", s)
	}
	return c
}

func (k *checking) tell(w io.Writer, list []report.Judgement, fails func(rule.Finding) bool) error {
	switch k.form {
	case "json":
		return encodeJSON(w, report.FindingsJSON(list))
	case "sarif":
		return encodeJSON(w, report.FindingsSARIF(list, version()))
	case "junit":
		return report.FindingsJUnit(w, list, fails)
	case "csv":
		return report.FindingsCSV(w, list)
	case "markdown":
		report.FindingsMarkdown(w, list)
	case "lines":
		report.FindingsLines(w, list)
	default:
		k.page(w).Checks(list, report.Telling{ByRule: k.group == "rule", Explain: k.explain, All: k.all, Top: k.top})
	}
	return nil
}

func known(s rule.Severity) bool {
	for _, k := range rule.Severities {
		if s == k {
			return true
		}
	}
	return false
}
