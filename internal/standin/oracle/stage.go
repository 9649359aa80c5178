package oracle

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/capture"
	oracle "nexdal/internal/engine/oracle"
	"nexdal/internal/evidence"
)

// A Stage is where scripts for Oracle are rehearsed: on a paper dictionary, since no outsider may
// make a database on a server as a rule.
type Stage struct{ oracle.Engine }

var _ engine.Rehearser = Stage{}

// Schemes: no address leads to one.
func (Stage) Schemes() []string { return nil }

// Open makes an empty dictionary.
func (Stage) Open(context.Context, string, engine.Options) (engine.Session, error) {
	d, err := New(Enterprise, "PAPER")
	if err != nil {
		return nil, err
	}
	return d.Paper(), nil
}

// Scratch makes a dictionary with the accounts of the catalog.
func (Stage) Scratch(_ context.Context, _ string, like *catalog.Catalog) (engine.Runner, func(context.Context) error, error) {
	edition := Standard
	if s, _ := like.Setting("product"); strings.Contains(s.Value, Enterprise) {
		edition = Enterprise
	}
	var accounts []string
	for _, s := range like.Schemas {
		accounts = append(accounts, s.Name)
	}
	d, err := New(edition, like.Database, accounts...)
	if err != nil {
		return nil, nil, err
	}
	d.numbers = 900_000 // apart from those that the structure has names by
	return d.Paper(), func(context.Context) error { d.Close(); return nil }, nil
}

// Paper is an administrator's session, as the program sees sessions.
func (d *Dictionary) Paper() *Paper { return &Paper{Session: d.As("SYSTEM", true)} }

// A Paper is a session whose surveys are made of captures.
type Paper struct{ *Session }

// Place says what it is.
func (p *Paper) Place() string { return "a simulated dictionary" }

// Close does nothing: the dictionary stays.
func (p *Paper) Close() error { return nil }

// End ends the dictionary.
func (p *Paper) End() { p.d.Close() }

// Exec carries one statement out.
func (p *Paper) Exec(ctx context.Context, sql string) error {
	err := p.Session.Exec(ctx, sql)
	if e, ok := err.(*Error); ok {
		return &engine.StatementError{Code: fmt.Sprintf("ORA-%05d", e.Code), Err: e, Exists: e.Code == 955 || e.Code == 2264 || e.Code == 2275, Missing: e.Code == 942 || e.Code == 1418 || e.Code == 2443 || e.Code == 2289}
	}
	return err
}

// Rows asks, and gives at most so many rows as text.
func (p *Paper) Rows(ctx context.Context, sql string, most int) ([]string, []engine.Row, error) {
	names, rows, err := p.Session.Rows(ctx, sql, most)
	if e, ok := err.(*Error); ok {
		return nil, nil, &engine.StatementError{Code: fmt.Sprintf("ORA-%05d", e.Code), Err: e}
	}
	var list []engine.Row
	for _, r := range rows {
		list = append(list, r)
	}
	return names, list, err
}

// Rollback has nothing to do: what was written is there.
func (p *Paper) Rollback(context.Context) error { return nil }

// Load adds rows. It is told the names as the engine has them.
func (p *Paper) Load(ctx context.Context, table catalog.Ref, columns []string, next func() []any) error {
	names := slices.Clone(columns)
	for i, n := range names {
		names[i] = strings.ToUpper(n)
	}
	return p.Fill(ctx, catalog.Ref{Schema: strings.ToUpper(table.Schema), Table: strings.ToUpper(table.Table)}, names, next)
}

// Asker puts questions about the rows.
func (p *Paper) Asker(context.Context) (evidence.Asker, error) { return p.Questions(), nil }

// Questions about the rows.
func (p *Paper) Questions() evidence.Asker { return oracle.Engine{}.Questions(p.Rows) }

// Capture writes what the capture's script shows.
func (s *Session) Capture(ctx context.Context, w io.Writer) error {
	script, err := oracle.Engine{}.CaptureScript()
	if err != nil {
		return err
	}
	out, err := s.Run(ctx, script)
	if err == nil {
		_, err = io.WriteString(w, out)
	}
	return err
}

// Survey reads the catalog from a capture.
func (p *Paper) Survey(ctx context.Context) (*catalog.Catalog, error) {
	var b strings.Builder
	if err := p.Capture(ctx, &b); err != nil {
		return nil, err
	}
	found, err := capture.Read(strings.NewReader(b.String()))
	if err != nil {
		return nil, fmt.Errorf("%w: %s", err, b.String()[:min(400, b.Len())])
	}
	return oracle.Engine{}.Captured(found[0])
}
