package settings

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// A Baseline is the findings that a structure had at some time: what is there besides is new. It
// is bound to the structure, and not to the name of the database: a copy, and a database that was
// made for a test, have the same.
type Baseline struct {
	Format   int       `json:"format"`
	Kind     string    `json:"kind"` // always "baseline"
	Engine   string    `json:"engine"`
	Database string    `json:"database"` // for people
	Surveyed time.Time `json:"surveyed"`
	Tables   []string  `json:"tables,omitempty"` // schema.table; a baseline of format 1 has none
	Schemas  []string  `json:"schemas,omitempty"`
	Findings []string  `json:"findings"` // identifiers, in order
}

// baselineFormat numbers the file's form; this program reads older ones too.
const baselineFormat = 2

// BaselineOf is that of a judgement.
func BaselineOf(c *catalog.Catalog, findings []rule.Finding) *Baseline {
	b := &Baseline{Format: baselineFormat, Kind: "baseline", Engine: c.Engine.Name, Database: c.Database, Surveyed: c.Surveyed, Findings: []string{}}
	for _, s := range c.Schemas {
		b.Schemas = append(b.Schemas, s.Name)
	}
	for _, t := range c.Tables() {
		b.Tables = append(b.Tables, t.Ref().String())
	}
	for _, f := range findings {
		b.Findings = append(b.Findings, f.ID())
	}
	slices.Sort(b.Findings)
	b.Findings = slices.Compact(b.Findings)
	return b
}

// ReadBaseline reads one.
func ReadBaseline(r io.Reader) (*Baseline, error) {
	var b Baseline
	switch err := json.NewDecoder(r).Decode(&b); {
	case err != nil:
		return nil, errors.New("it is not JSON, or no baseline; check --write-baseline makes one")
	case b.Kind != "baseline":
		return nil, errors.New("it is no baseline; check --write-baseline makes one")
	case b.Format < 1 || b.Format > baselineFormat:
		return nil, fmt.Errorf("it is of format %d, and this program reads formats up to %d", b.Format, baselineFormat)
	}
	return &b, nil
}

// A Since is how the findings of a judgement stand to a baseline.
type Since struct {
	New   []rule.Finding // that the baseline does not hold
	Known []rule.Finding // that it holds
	Gone  []string       // that it holds and that are there no more, as it names them
}

// Since sorts findings by what the baseline holds. Of what could not be judged nothing is said to
// be gone. It fails where the baseline is of another structure.
func (b *Baseline) Since(c *catalog.Catalog, r rule.Result) (Since, error) {
	if b.Engine != c.Engine.Name {
		return Since{}, fmt.Errorf("it is of %s, and the source is %s", b.Engine, c.Engine.Name)
	}
	schema := b.schemas(c)
	if !b.shares(c, schema) {
		return Since{}, fmt.Errorf("it is of %s, which has no table in common with %s", b.Database, c.Database)
	}
	var s Since
	held := map[string]bool{}
	for _, id := range b.Findings {
		held[id] = true
	}
	there := map[string]bool{}
	for _, f := range r.Findings {
		as := f
		as.Table.Schema = schema(f.Table.Schema)
		if there[as.ID()] = true; held[as.ID()] {
			s.Known = append(s.Known, f)
		} else {
			s.New = append(s.New, f)
		}
	}
	open := map[string]bool{}
	for _, u := range r.Unjudged {
		open[u.Rule] = true
	}
	for _, id := range b.Findings {
		if !there[id] && !open[rule.Of(id)] {
			s.Gone = append(s.Gone, id)
		}
	}
	return s, nil
}

// schemas gives the name that the baseline has for a schema: the same, or, where each side has
// one that the other has not, that one: the database of a server that a test made, for instance.
func (b *Baseline) schemas(c *catalog.Catalog) func(string) string {
	var mine, theirs []string
	for _, s := range c.Schemas {
		if !slices.Contains(b.Schemas, s.Name) {
			mine = append(mine, s.Name)
		}
	}
	for _, name := range b.Schemas {
		if c.Schema(name) == nil {
			theirs = append(theirs, name)
		}
	}
	return func(name string) string {
		if len(mine) == 1 && len(theirs) == 1 && mine[0] == name {
			return theirs[0]
		}
		return name
	}
}

// shares reports whether a table of the baseline is in the catalog. One without tables is of
// format 1, or of an empty database, and says nothing.
func (b *Baseline) shares(c *catalog.Catalog, schema func(string) string) bool {
	tables, has := c.Tables(), map[string]bool{}
	for _, name := range b.Tables {
		has[name] = true
	}
	return len(has) == 0 || len(tables) == 0 || slices.ContainsFunc(tables, func(t *catalog.Table) bool {
		return has[catalog.Ref{Schema: schema(t.Schema), Table: t.Name}.String()]
	})
}
