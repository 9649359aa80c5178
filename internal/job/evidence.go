package job

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
	"nexdal/internal/text"
)

// ReadEvidence reads an evidence file.
func ReadEvidence(path string) (*evidence.Evidence, error) {
	data, err := os.ReadFile(path)
	if err != nil {
		return nil, Wrong("the evidence in %s cannot be read: %v", path, Cause(err))
	}
	var e evidence.Evidence
	switch err := json.Unmarshal(data, &e); {
	case err != nil:
		return nil, Wrong("%s is no evidence file: %s; make one with nexdal probe", path, text.Plain(err))
	case e.Kind != "evidence":
		return nil, Wrong("%s is no evidence file; make one with nexdal probe", path)
	case e.Format != evidence.Format:
		return nil, Wrong("%s is evidence of format %d, and this program reads format %d", path, e.Format, evidence.Format)
	}
	return &e, nil
}

// EvidenceOf reads the evidence file, if one is named, and says where it does not belong
// to the catalog, if there is one.
func EvidenceOf(path string, c *catalog.Catalog) (*evidence.Evidence, error) {
	if path == "" {
		return nil, nil
	}
	e, err := ReadEvidence(path)
	if err != nil {
		return nil, err
	}
	if c != nil && (e.Engine.Name != c.Engine.Name || e.Database != c.Database) {
		return nil, CallError{otherError{fmt.Errorf("%s is evidence of %s %s, and the source is %s %s", path, e.Engine.Name, e.Database, c.Engine.Name, c.Database)}}
	}
	return e, nil
}

// EvidenceFor reads the evidence for a source and gives its path: the file that the call
// names, the settings for this source, or the environment; else the nearest [EvidenceFile],
// where it is of this database. Without any, both are empty. The catalog may be nil: then the
// evidence is not held against it.
func (j *Job) EvidenceFor(called, source string, c *catalog.Catalog) (*evidence.Evidence, string, error) {
	if called == "" && source != "" {
		x, err := j.Named(source)
		if err != nil {
			return nil, "", err
		}
		called = x.Evidence
	}
	path, named := file(called, EvidenceVariable, EvidenceFile)
	e, err := EvidenceOf(path, c)
	var other otherError
	if !named && errors.As(err, &other) {
		return nil, "", nil
	}
	return e, path, err
}

// An otherError says that a file is about another database.
type otherError struct{ error }

// Evidence reads the evidence for a catalog, as [Job.EvidenceFor] does, without what was refused,
// and gives the catalog the references that were accepted by a pattern.
func (j *Job) Evidence(called, source string, c *catalog.Catalog) (*evidence.Evidence, error) {
	e, _, err := j.evidence(called, source, c)
	return e, err
}

func (j *Job) evidence(called, source string, c *catalog.Catalog) (*evidence.Evidence, string, error) {
	e, path, err := j.EvidenceFor(called, source, c)
	if err != nil || e == nil {
		return e, path, err
	}
	d, err := j.Decisions(false)
	if err != nil {
		return nil, "", err
	}
	d.Strike(e, Today())
	return e, path, j.Accept(c, e)
}
