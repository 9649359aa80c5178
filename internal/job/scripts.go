package job

import (
	"errors"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/compare"
	"nexdal/internal/engine/all"
	"nexdal/internal/script"
)

// ReadScript reads a script file in the dialect that its head names, and gives its text
// too.
func ReadScript(path string) (*script.Script, string, error) {
	text, err := os.ReadFile(path)
	if err != nil {
		return nil, "", Wrong("%s cannot be read: %v", path, errors.Unwrap(err))
	}
	name, err := script.EngineName(string(text))
	if err != nil {
		return nil, "", Wrong("%s is %v; write one with nexdal script", path, err)
	}
	e := all.ByName(name)
	if e == nil {
		return nil, "", Wrong("%s was written for engine %q, which this program does not know", path, name)
	}
	s, err := script.Read(string(text), e.Dialect())
	if err != nil {
		return nil, "", Wrong("%s cannot be run: %v; write it again with nexdal script", path, err)
	}
	return s, string(text), nil
}

// JournalOf is where the journal of a script's runs lies.
func JournalOf(path string) string { return stem(path) + ".journal.jsonl" }

// Beside names a file that belongs to another: fix.reversal.sql of fix.sql.
func Beside(path, word string) string { return stem(path) + "." + word + filepath.Ext(path) }

// SurveyBeside is the like for a survey: fix.before.json of fix.sql.
func SurveyBeside(path, word string) string { return stem(path) + "." + word + ".json" }

func stem(path string) string { return strings.TrimSuffix(path, filepath.Ext(path)) }

// Companion reads a survey that was written beside a script; nil where the script has
// none, or the file is not there any more.
func Companion(path, name string) (*catalog.Catalog, error) {
	if name == "" {
		return nil, nil
	}
	at := filepath.Join(filepath.Dir(path), filepath.Base(name))
	if _, err := os.Stat(at); err != nil {
		return nil, nil
	}
	return ReadSurvey(at)
}

// Differ compares a structure with what there is of its schemas.
func Differ(planned, is *catalog.Catalog) []compare.Difference {
	is = is.Comparable()
	is.Schemas = slices.DeleteFunc(is.Schemas, func(s *catalog.Schema) bool { return planned.Schema(s.Name) == nil })
	return compare.Catalogs(planned.Comparable(), is, compare.Options{})
}
