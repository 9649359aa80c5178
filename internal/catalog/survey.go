package catalog

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"
)

// Format is the number of the survey file's form that this program writes. It
// reads this one and every older one.
const Format = 1

// ErrNotSurvey says that a file is JSON, or something else, but no survey.
var ErrNotSurvey = errors.New("not a survey file")

// survey is the file: structure first, then the figures, which differ from
// survey to survey even where the structure does not.
type survey struct {
	Format     int         `json:"format"`
	Kind       string      `json:"kind"` // always "survey"
	Surveyed   time.Time   `json:"surveyed"`
	Engine     Engine      `json:"engine"`
	Database   string      `json:"database"`
	Settings   []Setting   `json:"settings,omitempty"`
	Gaps       []Gap       `json:"gaps,omitempty"`
	Schemas    []*Schema   `json:"schemas"`
	Statistics *statistics `json:"statistics,omitempty"`
}

type statistics struct {
	Tables []tableFigures `json:"tables"`
}

type tableFigures struct {
	Schema     string           `json:"schema"`
	Table      string           `json:"table"`
	Rows       *int64           `json:"rows,omitempty"`
	Exact      bool             `json:"exact,omitempty"`
	Bytes      *int64           `json:"bytes,omitempty"`
	IndexBytes *int64           `json:"index_bytes,omitempty"`
	Orphans    *int64           `json:"orphans,omitempty"`
	Indexes    map[string]int64 `json:"indexes,omitempty"` // bytes by index name
}

// Write writes the catalog as a survey file. Without statistics two surveys
// of the same structure are alike byte for byte but for the date.
func (c *Catalog) Write(w io.Writer, withStatistics bool) error {
	s := survey{Format: Format, Kind: "survey", Surveyed: c.Surveyed.UTC().Truncate(time.Second),
		Engine: c.Engine, Database: c.Database, Settings: c.Settings, Gaps: c.Gaps, Schemas: c.Schemas}
	if s.Schemas == nil {
		s.Schemas = []*Schema{}
	}
	if withStatistics {
		s.Statistics = c.figures()
	}
	return s.encode(w)
}

func (c *Catalog) figures() *statistics {
	all := &statistics{Tables: []tableFigures{}}
	for _, t := range c.Tables() {
		f := tableFigures{Schema: t.Schema, Table: t.Name, Rows: t.Stats.Rows, Exact: t.Stats.Exact,
			Bytes: t.Stats.Bytes, IndexBytes: t.Stats.IndexBytes, Orphans: t.Stats.Orphans}
		for _, x := range t.Indexes {
			if x.Bytes != nil {
				if f.Indexes == nil {
					f.Indexes = map[string]int64{}
				}
				f.Indexes[x.Name] = *x.Bytes
			}
		}
		all.Tables = append(all.Tables, f)
	}
	return all
}

// Read reads a survey file. Unknown members are refused, since a survey that
// is half understood would be judged wrongly; a newer format is named as such.
func Read(r io.Reader) (*Catalog, error) {
	text, err := io.ReadAll(r)
	if err != nil {
		return nil, err
	}
	var head struct {
		Format int    `json:"format"`
		Kind   string `json:"kind"`
	}
	if err := json.Unmarshal(text, &head); err != nil || head.Kind != "survey" {
		return nil, ErrNotSurvey
	}
	if head.Format > Format {
		return nil, fmt.Errorf("it has format %d and this program reads up to %d: use a newer nexdal", head.Format, Format)
	}
	var s survey
	d := json.NewDecoder(bytes.NewReader(text))
	d.DisallowUnknownFields()
	if err := d.Decode(&s); err != nil {
		return nil, fmt.Errorf("it is damaged: %w", err)
	}
	c := &Catalog{Engine: s.Engine, Database: s.Database, Surveyed: s.Surveyed, Settings: s.Settings, Schemas: s.Schemas, Gaps: s.Gaps}
	for _, sc := range c.Schemas {
		for _, t := range sc.Tables {
			t.Schema = sc.Name
		}
	}
	c.addFigures(s.Statistics)
	return c, nil
}

func (c *Catalog) addFigures(s *statistics) {
	if s == nil {
		return
	}
	lookup := c.Lookup()
	for _, f := range s.Tables {
		t := lookup.Table(Ref{f.Schema, f.Table})
		if t == nil {
			continue
		}
		t.Stats = TableStats{Rows: f.Rows, Exact: f.Exact, Bytes: f.Bytes, IndexBytes: f.IndexBytes, Orphans: f.Orphans}
		for _, x := range t.Indexes {
			if n, ok := f.Indexes[x.Name]; ok {
				x.Bytes = &n
			}
		}
	}
}

// Fingerprint is a short digest of the structure of the named tables: it
// changes when any of them changes, and says nothing of rows or figures.
// A table that does not exist counts as absent.
func (c *Catalog) Fingerprint(tables []Ref) string {
	h := sha256.New()
	lookup := c.Lookup()
	for _, ref := range tables {
		text, err := json.Marshal(lookup.Table(ref))
		if err != nil {
			panic(err) // the model holds nothing that JSON cannot
		}
		fmt.Fprintf(h, "%q %s\n", ref, text)
	}
	return hex.EncodeToString(h.Sum(nil))[:16]
}
