package job

import (
	"cmp"
	"errors"
	"io/fs"
	"os"

	"nexdal/internal/settings"
)

// BaselineIn is the path of the baseline of a source: the one that the call names, the settings
// for this source, or the environment; "" where there is none.
func (j *Job) BaselineIn(called, source string) (string, error) {
	x, err := j.Named(source)
	return cmp.Or(called, x.Baseline, os.Getenv(BaselineVariable)), err
}

// Since sorts the findings of a subject by its baseline; without one all of them are new. The
// settings may name one that is yet to be written.
func (j *Job) Since(called string, s *Subject) (settings.Since, error) {
	path, err := j.BaselineIn(called, s.Source)
	if err != nil || path == "" {
		return settings.Since{New: s.Result.Findings}, err
	}
	f, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) && called == "" {
		return settings.Since{New: s.Result.Findings}, nil
	}
	if err != nil {
		return settings.Since{}, Wrong("the baseline in %s cannot be read: %v", path, Cause(err))
	}
	defer f.Close()
	b, err := settings.ReadBaseline(f)
	if err != nil {
		return settings.Since{}, Wrong("the baseline in %s cannot be used: %v", path, err)
	}
	since, err := b.Since(s.Catalog, s.Result)
	if err != nil {
		return settings.Since{}, Wrong("the baseline in %s cannot be used: %v", path, err)
	}
	s.Files.Baseline = path
	return since, nil
}
