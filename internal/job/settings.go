package job

import (
	"errors"
	"fmt"
	"io/fs"
	"os"

	"nexdal/internal/rule/allrules"
	"nexdal/internal/settings"
)

// SettingsFile is read where it lies in the folder that the program is called in, unless
// another is named.
const SettingsFile = "nexdal.yaml"

// Settings reads the settings, once: the file, then what the call sets.
func (j *Job) Settings() (*settings.Settings, error) {
	if j.settings != nil {
		return j.settings, nil
	}
	path, named := j.SettingsPath, j.SettingsPath != ""
	if !named {
		path = SettingsFile
	}
	s := &settings.Settings{Sources: map[string]settings.Source{}, Scopes: map[string][]string{}}
	_, err := os.Stat(path)
	switch {
	case errors.Is(err, fs.ErrNotExist) && !named:
	case err != nil:
		return nil, Wrong("the settings in %s cannot be read: %v", path, Cause(err))
	default:
		if s, err = settings.Read(path, load, allrules.Rules()); err != nil {
			return nil, Wrong("the settings cannot be used: %v", err)
		}
	}
	for _, x := range j.Sets {
		if err := s.Set(x, allrules.Rules()); err != nil {
			return nil, Wrong("%v", err)
		}
	}
	if err := s.Defined(); err != nil {
		return nil, Wrong("the settings cannot be used: %v", err)
	}
	j.settings = s
	return s, nil
}

// load reads a settings file.
func load(path string) ([]byte, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return nil, fmt.Errorf("%s cannot be read: %v", path, Cause(err))
	}
	return text, nil
}
