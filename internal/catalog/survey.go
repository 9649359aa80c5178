package catalog

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"time"
)

// Format is the number of the survey file's form that this program writes. It
// reads this one and every older one.
const Format = 4

// ErrNotSurvey says that a file is JSON, or something else, but no survey.
var ErrNotSurvey = errors.New("not a survey file")

// survey is the file: structure first, then the figures, which differ from
// survey to survey even where the structure does not.
type survey struct {
	Format     int         `json:"format"`
	Kind       string      `json:"kind"` // always "survey"
	Surveyed   time.Time   `json:"surveyed"`
	Engine     Engine      `json:"engine"`
	Features   []string    `json:"features,omitempty"`
	Database   string      `json:"database"`
	Settings   []Setting   `json:"settings,omitempty"`
	Gaps       []Gap       `json:"gaps,omitempty"`
	Faults     []Fault     `json:"faults,omitempty"`
	Objects    []*Object   `json:"objects,omitempty"`
	Schemas    []*Schema   `json:"schemas"`
	Statistics *statistics `json:"statistics,omitempty"`
}

// Write writes the catalog as a survey file. Without statistics two surveys
// of the same structure are alike byte for byte except for the date.
func (c *Catalog) Write(w io.Writer, withStatistics bool) error {
	s := survey{Format: Format, Kind: "survey", Surveyed: c.Surveyed.UTC().Truncate(time.Second),
		Engine: c.Engine, Features: c.Features, Database: c.Database, Settings: c.Settings, Gaps: c.Gaps, Faults: c.Faults, Objects: c.Objects, Schemas: c.Schemas}
	if s.Schemas == nil {
		s.Schemas = []*Schema{}
	}
	if withStatistics {
		s.Statistics = c.figures()
	}
	return s.encode(w)
}

// Read reads a survey file. Unknown members are refused, since a survey that
// is half understood would be judged wrongly; a newer format is named as such.
func Read(r io.Reader) (*Catalog, error) {
	text, err := io.ReadAll(r)
	if err != nil {
		return nil, err
	}
	format, err := formatOf(text)
	if err != nil {
		return nil, err
	}
	if format > Format {
		return nil, fmt.Errorf("it has format %d and this program reads up to %d: use a newer nexdal", format, Format)
	}
	s, err := decode(text)
	if errors.Is(err, io.ErrUnexpectedEOF) {
		err = errors.New("it ends in the middle")
	}
	if err != nil {
		return nil, fmt.Errorf("it is damaged: %w", err)
	}
	c := &Catalog{Engine: s.Engine, Features: s.Features, Database: s.Database, Surveyed: s.Surveyed, Settings: s.Settings, Schemas: s.Schemas, Objects: s.Objects, Gaps: s.Gaps, Faults: s.Faults}
	for _, sc := range c.Schemas {
		for _, t := range sc.Tables {
			t.Schema = sc.Name
		}
	}
	c.addFigures(s.Statistics)
	return c, nil
}

// formatOf looks at the head alone, where a survey says what it is; only what
// was written by something else is read whole for it.
func formatOf(text []byte) (int, error) {
	var head struct {
		Format int    `json:"format"`
		Kind   string `json:"kind"`
	}
	if begin := text[:min(len(text), 100)]; bytes.Contains(begin, []byte(`"kind": "survey"`)) {
		if i := bytes.IndexByte(begin, ':'); i > 0 && bytes.Contains(begin[:i], []byte(`"format"`)) {
			if n, err := fmt.Sscanf(string(begin[i+1:]), "%d", &head.Format); n == 1 && err == nil {
				return head.Format, nil
			}
		}
	}
	if err := json.Unmarshal(text, &head); err != nil || head.Kind != "survey" {
		return 0, ErrNotSurvey
	}
	return head.Format, nil
}

// Fingerprint is a short digest of the structure of the named tables: it
// changes when any of them changes, and says nothing of rows, figures or rights.
// A table that does not exist counts as absent.
func (c *Catalog) Fingerprint(tables []Ref) string {
	h := sha256.New()
	lookup := c.Lookup()
	for _, ref := range tables {
		t := lookup.Table(ref)
		if t != nil {
			bare := *t
			bare.Rights = Rights{} // which no script of ours alters
			bare.dropObserved()
			t = &bare
		}
		text, err := json.Marshal(t)
		if err != nil {
			panic(err) // the model holds nothing that JSON cannot
		}
		fmt.Fprintf(h, "%q %s\n", ref, text)
	}
	return hex.EncodeToString(h.Sum(nil))[:16]
}

// Digest is a SHA-256 of the whole structure, which is the same for as long as nothing of it
// changes: not of its date, the database's name, figures, settings of the server, and faults.
func (c *Catalog) Digest() (string, error) {
	bare := *c
	bare.Database, bare.Surveyed, bare.Settings, bare.Faults = "", time.Time{}, nil, nil
	bare.Gaps = slices.DeleteFunc(slices.Clone(c.Gaps), func(g Gap) bool { return g.Figures })
	h := sha256.New()
	if err := bare.Write(h, false); err != nil {
		return "", err
	}
	return hex.EncodeToString(h.Sum(nil)), nil
}
