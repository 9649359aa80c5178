package settings

import (
	"path/filepath"
	"slices"

	"go.yaml.in/yaml/v3"

	"nexdal/internal/text"
)

// A Source has a name in the settings, and what belongs to it stands there.
type Source struct {
	Address          string   // a URL, or the path of a file
	Schemas, Without []string // the scope, where the call gives none
	Evidence         string   // path of the evidence file
	Baseline         string   // path of the baseline
	Scratch          string   // URL of a server where twins may be made
	From             string   // "nexdal.yaml, line 12"
	Folder           string   // of the file, where relative paths begin; "" for the current one
}

// Beside is the path as it is from the current folder: relative ones begin where the
// settings are.
func (s Source) Beside(path string) string {
	if path == "" || filepath.IsAbs(path) {
		return path
	}
	return filepath.Join(s.Folder, path)
}

// sourceMembers are what a source may hold.
var sourceMembers = []string{"address", "schemas", "without", "evidence", "baseline", "scratch"}

// source reads an address, or a mapping with all that belongs to a source.
func (r *reader) source(key, value *yaml.Node) error {
	s := Source{From: r.place(key)}
	if r.named {
		s.Folder = filepath.Dir(r.where)
	}
	if value.Kind == yaml.ScalarNode {
		s.Address = value.Value
	} else if err := r.each(value, func(member, v *yaml.Node) error { return r.sourceMember(&s, member, v) }); err != nil {
		return err
	}
	if s.Address == "" {
		return r.wrong(value, "source %s takes an address", key.Value)
	}
	r.s.Sources[key.Value] = s
	return nil
}

func (r *reader) sourceMember(s *Source, member, v *yaml.Node) error {
	var list []string
	into := map[string]*string{"address": &s.Address, "evidence": &s.Evidence, "baseline": &s.Baseline, "scratch": &s.Scratch}[member.Value]
	switch {
	case !slices.Contains(sourceMembers, member.Value):
		return r.wrong(member, "a source has no key %s; nearest is %s", member.Value, text.Nearest(member.Value, sourceMembers))
	case into != nil && v.Kind == yaml.ScalarNode:
		*into = v.Value
		return nil
	case into != nil:
		return r.wrong(v, "%s takes a text", member.Value)
	case v.Kind == yaml.ScalarNode:
		list = []string{v.Value}
	case v.Decode(&list) != nil:
		return r.wrong(v, "%s takes a list of patterns", member.Value)
	}
	if member.Value == "schemas" {
		s.Schemas = list
	} else {
		s.Without = list
	}
	return nil
}
