package cli

import (
	"cmp"
	"context"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/job"
	"nexdal/internal/rule"
	"nexdal/internal/settings"
	"nexdal/internal/text"
)

// deciding is what the calls of decide share.
type deciding struct {
	*app
	evidence, source   string
	catalog            *catalog.Catalog // of the source, once it was read
	because, by, until string
}

func (a *app) decide() *cobra.Command {
	c := &cobra.Command{
		Use:   "decide",
		Short: "Record what people decide about findings and undeclared references",
		Long: `Decide keeps what people said in a YAML file that belongs in version control
(` + job.DecisionsFile + ` in the current folder or one above, or --decisions): who, when, why,
and if need be until when.

An accepted reference counts as a reference from then on: describe shows it, and
the rules judge it and propose its foreign key, though the catalog has none. A
refused one is not brought up again. A finding that is set aside is counted and
no longer fails a check; it comes back when its end date has passed. Of several
fixes one can be chosen.

An item is an identifier as decide list shows it, or a pattern with * and ?; with
--evidence also table.column, and with --source a rule's ID and a table.`,
		Example: `  nexdal decide review saltmere.db --evidence evidence.json
  nexdal decide accept feed_delivery.subscriber_id --evidence evidence.json --because "the feed's own table"
  nexdal decide set-aside 'fk/not-indexed *.visit_task *' --because "never deleted" --until 2027-06-30
  nexdal decide list saltmere.db --evidence evidence.json`,
	}
	c.AddCommand(
		a.verdict("accept ITEM...", settings.Accept, "Accept undeclared references, or the first fix of findings"),
		a.verdict("refuse ITEM...", settings.Refuse, "Say that undeclared references are none"),
		a.verdict("set-aside ITEM...", settings.SetAside, "Leave findings as they are, for a reason"),
		a.verdict("choose FINDING FIX", settings.Choose, "Choose one of a finding's fixes"),
		a.noteOn(), a.withdraw(), a.listDecisions(), a.review())
	return c
}

func (d *deciding) flags(c *cobra.Command, why bool) {
	f := c.Flags()
	evidenceFlag(f, &d.evidence)
	if why {
		f.StringVar(&d.source, "source", "", "source whose findings the items name")
		f.StringVar(&d.because, "because", "", "the reason")
	}
	f.StringVar(&d.by, "who", "", "who decides (default: the name you are logged in by)")
	f.StringVar(&d.until, "until", "", "last day on which it holds, as 2026-12-31 (default: no end)")
}

// verdict is one of the commands that record.
func (a *app) verdict(use string, v settings.Verdict, short string) *cobra.Command {
	d := &deciding{app: a}
	c := &cobra.Command{Use: use, Short: short, Args: cobra.MinimumNArgs(1),
		Example: fmt.Sprintf("  nexdal decide %s 'reference main.a (b_id) to main.b (id)'", strings.Fields(use)[0])}
	switch v {
	case settings.SetAside:
		c.Example = `  nexdal decide set-aside 'index/prefix main.reading *' --because "the smaller one is read by hand"`
	case settings.Choose:
		c.Args = cobra.ExactArgs(2)
		c.Example = "  nexdal decide choose 'key/none main.feed_delivery' number"
	}
	c.RunE = func(cmd *cobra.Command, args []string) error {
		x, err := d.decision(v)
		if err != nil {
			return err
		}
		if v == settings.Choose {
			x.Fix, args = args[1], args[:1]
		}
		all, err := a.Decisions(true)
		if err != nil {
			return err
		}
		refs, findings, err := d.items(cmd.Context())
		if err != nil {
			return err
		}
		for _, item := range args {
			ids, err := d.resolve(item, refs, findings)
			if err != nil {
				return err
			}
			for _, id := range ids {
				x.About = id
				if err := x.Check(); err != nil {
					return wrong("%s: %v", item, err)
				}
				if err := d.decidable(x, findings); err != nil {
					return err
				}
				all.Put(x)
				fmt.Fprintf(a.out, "%s\n  %s\n", text.Line(id), text.Line(says(&x)))
			}
		}
		return a.keep(all)
	}
	d.flags(c, true)
	return c
}

// decidable says what is wrong with a decision about findings: there is no such rule, or it
// has no such fix, or the findings that it is about have none.
func (d *deciding) decidable(x settings.Decision, findings []rule.Finding) error {
	if strings.HasPrefix(x.About, "reference ") {
		return nil
	}
	rules, err := d.Rules()
	if err != nil {
		return err
	}
	id, _, _ := strings.Cut(x.About, " ")
	rules = slices.DeleteFunc(slices.Clone(rules), func(r *rule.Rule) bool { return !r.Is(id) })
	if len(rules) == 0 {
		return wrong("%s: there is no rule %s; nexdal rules lists them", x.About, id)
	}
	if x.Verdict != settings.Choose {
		return nil
	}
	var has, offered []string
	for _, r := range rules {
		if r.Offers(x.Fix) {
			has = nil
			break
		}
		has = append(has, r.Fixes...)
		if len(r.Fixes) == 0 {
			has = append(has, "none")
		}
	}
	slices.Sort(has)
	if has = slices.Compact(has); len(has) > 0 {
		return wrong("%s: there is no fix %s; there is %s", x.About, x.Fix, strings.Join(has, ", "))
	}
	about := 0
	for _, f := range findings {
		if !x.Fits(f.ID()) {
			continue
		}
		about++
		for _, fix := range f.Fixes {
			if offered = append(offered, fix.ID); fix.ID == x.Fix {
				return nil
			}
		}
	}
	if about == 0 {
		return nil
	}
	slices.Sort(offered)
	return wrong("%s: %s has no fix %s there; there is %s", x.About, d.source, x.Fix, cmp.Or(strings.Join(slices.Compact(offered), ", "), "none"))
}

// decision is what the flags say of it.
func (d *deciding) decision(v settings.Verdict) (x settings.Decision, err error) {
	x = settings.Decision{Verdict: v, By: d.by, At: settings.Day{Time: job.Today()}, Because: d.because}
	if x.By == "" {
		x.By = who()
	}
	if d.until != "" {
		if x.Until, err = settings.ParseDay(d.until); err != nil {
			return x, wrong("--until: %v", err)
		}
	}
	return x, nil
}

// items are what can be decided about: references of the evidence, and findings
// of the source.
func (d *deciding) items(ctx context.Context) (refs []evidence.Reference, findings []rule.Finding, err error) {
	var c *catalog.Catalog
	if d.source != "" {
		if c, err = d.Catalog(ctx, d.source); err != nil {
			return nil, nil, err
		}
	}
	e, path, err := d.EvidenceFor(d.evidence, d.source, c)
	if err != nil {
		return nil, nil, err
	}
	d.evidence = path
	if e != nil {
		refs = undeclared(e)
	}
	if c != nil {
		result, err := d.Judge(ctx, c, e)
		if err != nil {
			return nil, nil, err
		}
		findings, d.catalog = result.Findings, c
	}
	return refs, findings, nil
}

// undeclared are the references that nothing declares, those in doubt last.
func undeclared(e *evidence.Evidence) []evidence.Reference {
	return append(slices.DeleteFunc(slices.Clone(e.References), func(r evidence.Reference) bool { return r.Declared }), e.Perhaps...)
}

// resolve finds the identifiers that an item stands for. A pattern that fits
// something is kept as it is, and so decides about what comes later too.
func (d *deciding) resolve(item string, refs []evidence.Reference, findings []rule.Finding) ([]string, error) {
	var ids []string
	for i := range refs {
		ids = append(ids, settings.ReferenceID(&refs[i]))
	}
	for _, f := range findings {
		ids = append(ids, f.ID())
	}
	about := settings.Decision{About: item}
	if strings.HasPrefix(item, "reference ") || strings.HasPrefix(item, "*") || strings.Contains(item, "/") {
		// Without a source the findings are not known, and what is decided about one is taken as it is.
		unknown := d.source == "" && !strings.HasPrefix(item, "reference ")
		if len(ids) == 0 || unknown || slices.ContainsFunc(ids, about.Fits) {
			return []string{item}, nil
		}
		return nil, wrong("%s fits nothing in %s; nexdal decide list shows what there is", item, d.given())
	}
	var found []string
	for i := range refs {
		r := &refs[i]
		name := r.Table + "." + strings.Join(r.Columns, ",")
		if len(found) > 0 && !r.Likely() {
			continue // what is in doubt is meant only where nothing else is
		}
		if catalog.Fits(item, name) || catalog.Fits(item, r.Schema+"."+name) {
			found = append(found, settings.ReferenceID(r))
		}
	}
	switch {
	case len(found) > 0:
		return found, nil
	case d.evidence == "":
		return nil, wrong("%q is neither a reference nor a finding; with --evidence it may be table.column", item)
	}
	return nil, wrong("%s: no reference of that column is among those in %s that nothing declares", item, d.evidence)
}

func (d *deciding) given() string {
	switch {
	case d.evidence != "" && d.source != "":
		return d.evidence + " or " + d.source
	case d.evidence != "":
		return d.evidence
	}
	return d.source
}

func (a *app) withdraw() *cobra.Command {
	return &cobra.Command{Use: "withdraw ITEM...", Short: "Take decisions back", Args: cobra.MinimumNArgs(1),
		Example: "  nexdal decide withdraw 'key/none main.feed_delivery'",
		RunE: func(_ *cobra.Command, args []string) error {
			all, err := a.Decisions(false)
			if err != nil {
				return err
			}
			for _, item := range args {
				if !all.Withdraw(item) {
					return wrong("nothing was decided about %s; nexdal decide list shows what was", item)
				}
			}
			return a.keep(all)
		}}
}

func (a *app) listDecisions() *cobra.Command {
	d := &deciding{app: a}
	c := &cobra.Command{Use: "list [SOURCE]", Short: "List decisions, and what is open", Args: cobra.MaximumNArgs(1),
		Long: `List shows the decisions and which of them no longer hold: those whose end date
has passed, and, with SOURCE, those that fit nothing any more. With --evidence
and SOURCE it also lists what is undecided.`,
		Example: "  nexdal decide list saltmere.db --evidence evidence.json",
		RunE: func(cmd *cobra.Command, args []string) error {
			all, err := a.Decisions(false)
			if err != nil {
				return err
			}
			var c *catalog.Catalog
			if len(args) == 1 {
				d.source = args[0]
				if c, err = a.Catalog(cmd.Context(), args[0]); err != nil {
					return err
				}
			}
			refs, findings, err := d.items(cmd.Context())
			if err != nil {
				return err
			}
			return a.emit("", func(w io.Writer) error {
				p := d.page(w)
				var ids []string
				for i := range refs {
					ids = append(ids, settings.ReferenceID(&refs[i]))
				}
				if len(all.List)+len(all.Notes) == 0 {
					fmt.Fprintln(w, "nothing is decided")
				}
				var findingIDs []string
				for _, f := range findings {
					findingIDs = append(findingIDs, f.ID())
				}
				for _, x := range all.Notes {
					p.Decision("note "+x.About, fmt.Sprintf("by %s on %s: %s", x.By, x.At, x.Text), strayNote(x, c))
				}
				for _, x := range all.List {
					p.Decision(x.About, says(&x), state(x, c, d.evidence != "", ids, findingIDs))
				}
				open := slices.DeleteFunc(append(ids, findingIDs...), func(id string) bool { return all.Of(id, job.Today()) != nil })
				p.Undecided(open)
				return nil
			})
		}}
	evidenceFlag(c.Flags(), &d.evidence)
	return c
}

// strayNote says that a note is about nothing that is there, or "".
func strayNote(x settings.Note, c *catalog.Catalog) string {
	if c != nil {
		if _, stray := (&settings.Decisions{Notes: []settings.Note{x}}).NotesOn(c); len(stray) > 0 {
			return "stale: no such table or column is there"
		}
	}
	return ""
}

// state says why a decision has no effect any more, or "".
func state(x settings.Decision, c *catalog.Catalog, probed bool, refs, findings []string) string {
	switch {
	case !x.Holds(job.Today()):
		return fmt.Sprintf("ended on %s", x.Until)
	case c == nil:
		return ""
	case settings.Declared(c, x.About):
		return "declared by now: the decision is not needed any more"
	case strings.HasPrefix(x.About, "reference "):
		if settings.Named(c, x.About) || slices.ContainsFunc(refs, x.Fits) || !probed && strings.ContainsAny(x.About, "*?") {
			return ""
		}
	case slices.ContainsFunc(findings, x.Fits):
		return ""
	}
	return "stale: it fits nothing any more"
}
