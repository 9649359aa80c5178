package cli

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"os/user"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/settings"
)

// decisionsFile is read where it lies in the folder that the program is called
// in, unless another is named.
const decisionsFile = "nexdal.decisions.yaml"

func (a *app) decisionsPath() string {
	if a.decisions != "" {
		return a.decisions
	}
	return decisionsFile
}

// decided reads the decisions, once. A file that is not there decides nothing,
// but one that was named must be there, unless it is about to be written: then
// this has to be the first to ask.
func (a *app) decided(write bool) (*settings.Decisions, error) {
	if a.said != nil {
		return a.said, nil
	}
	path := a.decisionsPath()
	f, err := os.Open(path)
	switch {
	case errors.Is(err, fs.ErrNotExist) && (write || a.decisions == ""):
		a.said = &settings.Decisions{}
		return a.said, nil
	case err != nil:
		return nil, wrong("the decisions in %s cannot be read: %v", path, cause(err))
	}
	defer f.Close()
	if a.said, err = settings.ReadDecisions(f); err != nil {
		return nil, wrong("the decisions in %s cannot be used: %v", path, err)
	}
	return a.said, nil
}

func (a *app) keep(d *settings.Decisions) error {
	return a.emit(a.decisionsPath(), func(w io.Writer) error { return d.Write(w) })
}

// accept gives the catalog the references that were accepted.
func (a *app) accept(c *catalog.Catalog, e *evidence.Evidence) error {
	d, err := a.decided(false)
	if err == nil {
		d.Accepted(c, e, today())
	}
	return err
}

func today() time.Time { return time.Now().Truncate(24 * time.Hour) }

// who is the person at the keyboard, as the system knows them.
func who() string {
	if u, err := user.Current(); err == nil && u.Username != "" {
		return u.Username
	}
	return os.Getenv("USER")
}

// evidenceOf reads the evidence file, if one is named, and says where it does
// not belong to the catalog.
func evidenceOf(path string, c *catalog.Catalog) (*evidence.Evidence, error) {
	if path == "" {
		return nil, nil
	}
	e, err := readEvidence(path)
	if err != nil {
		return nil, err
	}
	if c != nil && (e.Engine.Name != c.Engine.Name || e.Database != c.Database) {
		return nil, wrong("%s is evidence of %s %s, and the source is %s %s", path, e.Engine.Name, e.Database, c.Engine.Name, c.Database)
	}
	return e, nil
}

// says tells a decision in a line.
func says(x *settings.Decision) string {
	s := string(x.Verdict)
	if x.Fix != "" {
		s += " " + x.Fix
	}
	s += fmt.Sprintf(" by %s on %s", x.By, x.At)
	if x.Because != "" {
		s += ": " + x.Because
	}
	if !x.Until.IsZero() {
		s += fmt.Sprintf(" (until %s)", x.Until)
	}
	return s
}
