package sqlite

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlite/ddltext"
)

// Scratch makes a file in a temporary folder; the address is not needed.
func (e Engine) Scratch(ctx context.Context, _ string, _ *catalog.Catalog) (engine.Runner, func(context.Context) error, error) {
	folder, err := os.MkdirTemp("", "nexdal-rehearsal-")
	if err != nil {
		return nil, nil, err
	}
	remove := func() error { return os.RemoveAll(folder) }
	path := filepath.Join(folder, "twin.db")
	f, err := os.OpenFile(path, os.O_CREATE|os.O_EXCL|os.O_RDWR, 0o600)
	if err != nil {
		return nil, nil, errors.Join(err, remove())
	}
	s, err := e.connect(ctx, path, f, "rw", "", 5*time.Second, nil)
	if err != nil {
		return nil, nil, errors.Join(err, remove())
	}
	s.place = "a file in a temporary folder"
	// Nobody needs it after a crash.
	if err := s.Exec(ctx, "PRAGMA synchronous = OFF"); err != nil {
		return nil, nil, errors.Join(err, s.Close(), remove())
	}
	return s, func(context.Context) error { return errors.Join(s.Close(), remove()) }, nil
}

// Twin writes the structure, which has no owners here.
func (e Engine) Twin(c *catalog.Catalog) (*engine.Work, []engine.Loss) { return e.Create(c) }

// SampleOf lets the engine write its values out as literals.
func (Engine) SampleOf(t *catalog.Table, most int) string {
	var names, values []string
	for _, c := range t.Columns {
		if c.Generated == "" {
			names, values = append(names, ddltext.Ident(c.Name)), append(values, "quote("+ddltext.Ident(c.Name)+")")
		}
	}
	head := fmt.Sprintf("INSERT INTO %s (%s) VALUES (", ddltext.Ident(t.Name), strings.Join(names, ", "))
	return fmt.Sprintf("SELECT %s || %s || ')' FROM %s LIMIT %d", ddltext.Literal(head), strings.Join(values, " || ', ' || "), ddltext.Ident(t.Name), most)
}

// CountOf counts.
func (Engine) CountOf(t catalog.Ref) string { return "SELECT count(*) FROM " + ddltext.Ident(t.Table) }

// Kept has the connection keep foreign keys.
func (Engine) Kept() []string { return []string{"PRAGMA foreign_keys = ON"} }
