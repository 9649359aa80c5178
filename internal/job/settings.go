package job

import (
	"fmt"
	"os"

	"nexdal/internal/rule/allrules"
	"nexdal/internal/settings"
)

// SettingsIn is the path of the settings; "" where there are none.
func (j *Job) SettingsIn() string {
	path, _ := file(j.SettingsPath, SettingsVariable, SettingsFile)
	return path
}

// Settings reads the settings, once: the file, then what the call sets.
func (j *Job) Settings() (*settings.Settings, error) {
	if j.settings != nil {
		return j.settings, nil
	}
	s := &settings.Settings{Sources: map[string]settings.Source{}, Scopes: map[string][]string{}}
	if path := j.SettingsIn(); path != "" {
		if _, err := os.Stat(path); err != nil {
			return nil, Wrong("the settings in %s cannot be read: %v", path, Cause(err))
		}
		var err error
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
