package job

import (
	"cmp"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
)

// The files that are read where nobody names others: from the current folder, or else from the
// nearest one above it.
const (
	SettingsFile  = "nexdal.yaml"
	DecisionsFile = "nexdal.decisions.yaml"
	EvidenceFile  = "nexdal.evidence.json"
)

// The variables of the environment that name others, where the call does not.
const (
	SettingsVariable  = "NEXDAL_SETTINGS"
	DecisionsVariable = "NEXDAL_DECISIONS"
	EvidenceVariable  = "NEXDAL_EVIDENCE"
	BaselineVariable  = "NEXDAL_BASELINE"
	ScratchVariable   = "NEXDAL_SCRATCH"
)

// file is the path of a file, and whether somebody named it: the call, the environment. Else
// it is the nearest of that name, or "".
func file(called, variable, name string) (path string, named bool) {
	if path = cmp.Or(called, os.Getenv(variable)); path != "" {
		return path, true
	}
	return above(name), false
}

// above looks for a file in the current folder and in those above it. It goes no higher than
// the folder that holds a repository, or than somebody's home: what lies above is not theirs. A
// file above that belongs to somebody else is passed over.
func above(name string) string {
	here, err := os.Getwd()
	if err != nil {
		here = ""
	}
	home, _ := os.UserHomeDir()
	for up := ""; ; up = filepath.Join(up, "..") {
		path := filepath.Join(up, name)
		info, err := os.Stat(path)
		if !errors.Is(err, fs.ErrNotExist) && (up == "" || err == nil && ours(info)) {
			return path
		}
		_, err = os.Stat(filepath.Join(up, ".git"))
		if err == nil || here == "" || here == home || here == filepath.Dir(here) {
			return ""
		}
		here = filepath.Dir(here)
	}
}
