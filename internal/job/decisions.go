package job

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/settings"
)

// DecisionsIn is the path of the file of decisions. Where there is none yet, it is beside the
// settings, or in the current folder.
func (j *Job) DecisionsIn() string {
	path, _ := file(j.DecisionsPath, DecisionsVariable, DecisionsFile)
	if path == "" {
		path = filepath.Join(filepath.Dir(above(SettingsFile)), DecisionsFile)
	}
	return path
}

// Decisions reads the decisions, once. A file that is not there decides nothing, but one
// that was named must be there, unless it is about to be written: then this has to be the
// first to ask.
func (j *Job) Decisions(write bool) (*settings.Decisions, error) {
	if j.decisions != nil {
		return j.decisions, nil
	}
	_, named := file(j.DecisionsPath, DecisionsVariable, DecisionsFile)
	path := j.DecisionsIn()
	f, err := os.Open(path)
	switch {
	case errors.Is(err, fs.ErrNotExist) && (write || !named):
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

// Notes are what people know of the catalog's tables and columns.
func (j *Job) Notes(c *catalog.Catalog) (catalog.Notes, error) {
	d, err := j.Decisions(false)
	if err != nil {
		return nil, err
	}
	on, _ := d.NotesOn(c)
	return on, nil
}
