package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/draw"
	"nexdal/internal/engine/sqlite"
	"nexdal/internal/report"
	"nexdal/internal/rule"
	"nexdal/internal/rule/allrules"
)

// TestInterrupted: what takes long ends with the context, and does not go on to the next
// stage: the diagram of a report, its page, a sheet, the judging.
func TestInterrupted(t *testing.T) {
	c := &catalog.Catalog{Engine: catalog.Engine{Name: "sqlite", Version: "3.45.0"}, Schemas: []*catalog.Schema{{Name: "main"}}}
	var refs []catalog.Ref
	for i := range 300 {
		name := fmt.Sprintf("gauge_%d", i)
		refs = append(refs, catalog.Ref{Schema: "main", Table: name})
		c.Schemas[0].Tables = append(c.Schemas[0].Tables, &catalog.Table{Schema: "main", Name: name, Kind: catalog.Ordinary, Columns: []*catalog.Column{{Name: "level", Nullable: true}}})
	}
	ctx, cancel := context.WithCancel(context.Background())
	a := &app{err: io.Discard, out: io.Discard}
	j := rule.Checker{Abilities: sqlite.Engine{}.Abilities("3.45.0"), Rules: allrules.Rules()}
	result := j.Run(ctx, c)
	if len(result.Findings) < 300 {
		t.Fatalf("%d findings", len(result.Findings))
	}
	s := &report.Sheet{Catalog: c, Abilities: j.Abilities, Result: result, Rules: j.Rules}
	if err := a.picture(ctx, s, c, nil, result); err != nil {
		t.Fatal(err)
	}
	var page strings.Builder
	if err := s.HTML(ctx, &page); err != nil || !strings.Contains(page.String(), "gauge_299") {
		t.Fatalf("the page: %v", err)
	}
	var fault faultError
	if _, err := sceneOf(ctx, nil, refs, draw.Options{}); !errors.As(err, &fault) || fault.place == "" {
		t.Errorf("a panic while a sheet is laid out: %v", err)
	}
	cancel()
	page.Reset()
	if err := s.HTML(ctx, &page); !errors.Is(err, context.Canceled) || page.Len() > 0 {
		t.Errorf("the page: %v, %d bytes", err, page.Len())
	}
	s.Pieces = nil
	if err := a.picture(ctx, s, c, nil, result); !errors.Is(err, context.Canceled) || s.Pieces != nil {
		t.Errorf("the diagram: %v, %d pieces", err, len(s.Pieces))
	}
	if _, err := sceneOf(ctx, c, refs, draw.Options{}); !errors.Is(err, context.Canceled) {
		t.Errorf("a sheet: %v", err)
	}
	if r := j.Run(ctx, c); len(r.Findings) >= len(result.Findings) {
		t.Errorf("judging goes on to %d findings", len(r.Findings))
	}
}
