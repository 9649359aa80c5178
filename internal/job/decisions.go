package job

import (
	"errors"
	"io/fs"
	"os"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/settings"
)

// DecisionsFile is read where it lies in the folder that the program is called in, unless
// another is named.
const DecisionsFile = "nexdal.decisions.yaml"

// DecisionsIn is the path of the file of decisions.
func (j *Job) DecisionsIn() string {
	if j.DecisionsPath != "" {
		return j.DecisionsPath
	}
	return DecisionsFile
}

// Decisions reads the decisions, once. A file that is not there decides nothing, but one
// that was named must be there, unless it is about to be written: then this has to be the
// first to ask.
func (j *Job) Decisions(write bool) (*settings.Decisions, error) {
	if j.decisions != nil {
		return j.decisions, nil
	}
	path := j.DecisionsIn()
	f, err := os.Open(path)
	switch {
	case errors.Is(err, fs.ErrNotExist) && (write || j.DecisionsPath == ""):
		j.decisions = &settings.Decisions{}
		return j.decisions, nil
	case err != nil:
		return nil, Wrong("the decisions in %s cannot be read: %v", path, Cause(err))
	}
	defer f.Close()
	if j.decisions, err = settings.ReadDecisions(f); err != nil {
		return nil, Wrong("the decisions in %s cannot be used: %v", path, err)
	}
	return j.decisions, nil
}

// Accept gives the catalog the references that were accepted; those that a pattern
// accepted come from the evidence, which may be nil.
func (j *Job) Accept(c *catalog.Catalog, e *evidence.Evidence) error {
	d, err := j.Decisions(false)
	if err == nil {
		d.Accepted(c, e, Today())
	}
	return err
}

// ReadBaseline reads a baseline, which has to be of this database.
func ReadBaseline(path string, c *catalog.Catalog) (*settings.Baseline, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, Wrong("the baseline in %s cannot be read: %v", path, Cause(err))
	}
	defer f.Close()
	b, err := settings.ReadBaseline(f)
	switch {
	case err != nil:
		return nil, Wrong("the baseline in %s cannot be used: %v", path, err)
	case b.Engine != c.Engine.Name || b.Database != c.Database:
		return nil, Wrong("%s is a baseline of %s %s, and the source is %s %s", path, b.Engine, b.Database, c.Engine.Name, c.Database)
	}
	return b, nil
}
