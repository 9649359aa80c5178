package job

import (
	"encoding/json"
	"os"

	"nexdal/internal/catalog"
	"nexdal/internal/evidence"
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
		return nil, Wrong("%s is no evidence file: %v; make one with nexdal probe", path, err)
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
		return nil, Wrong("%s is evidence of %s %s, and the source is %s %s", path, e.Engine.Name, e.Database, c.Engine.Name, c.Database)
	}
	return e, nil
}

// Evidence reads the evidence for a catalog, without what was refused, and gives the
// catalog the references that were accepted by a pattern.
func (j *Job) Evidence(path string, c *catalog.Catalog) (*evidence.Evidence, error) {
	e, err := EvidenceOf(path, c)
	if err != nil || e == nil {
		return e, err
	}
	d, err := j.Decisions(false)
	if err != nil {
		return nil, err
	}
	d.Strike(e, Today())
	return e, j.Accept(c, e)
}
