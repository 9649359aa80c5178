package text

import (
	"encoding/json"
	"errors"
	"flag"
	"strings"
	"testing"
	"time"

	"github.com/spf13/pflag"
	"go.yaml.in/yaml/v3"
)

// TestPlain: what libraries say comes in plain words, with the place and the value, and without the
// names of types.
func TestPlain(t *testing.T) {
	var file struct {
		Format int       `json:"format" yaml:"format"`
		List   []string  `json:"list" yaml:"list"`
		At     time.Time `json:"at"`
	}
	fromJSON := func(s string) error { return json.Unmarshal([]byte(s), &file) }
	fromYAML := func(s string) error {
		d := yaml.NewDecoder(strings.NewReader(s))
		d.KnownFields(true)
		return d.Decode(&file)
	}
	call := func(args ...string) error {
		f := pflag.NewFlagSet("x", pflag.ContinueOnError)
		f.IntP("top", "t", 0, "")
		f.Duration("budget", 0, "")
		f.Float64("scale", 0, "")
		f.Bool("all", false, "")
		return f.Parse(args)
	}
	for _, c := range []struct {
		err  error
		want string
	}{
		{fromJSON(`{"format":"x"}`), "the value of format is of another kind than is expected there"},
		{fromJSON(`[1]`), "a value is of another kind than is expected there"},
		{fromJSON(`{"format":`), "it ends early"},
		{fromJSON(`format`), "it is not JSON"},
		{fromYAML("format: 1\nlist: 7\n"), "line 2: the value is of another kind than is expected there"},
		{fromYAML("format: 1\nlits: [a]\n"), "line 2: there is no key lits"},
		{call("--top", "x"), `--top takes a number, not "x"`},
		{call("-t", "1.5"), `--top takes a number, not "1.5"`},
		{call("--scale", "big"), `--scale takes a number, not "big"`},
		{call("--budget", "soon"), `--budget takes a length of time such as 10m, not "soon"`},
		{call("--all=perhaps"), `--all takes true or false, not "perhaps"`},
		{errors.New("something else"), "something else"},
		{flag.ErrHelp, "flag: help requested"},
	} {
		if c.err == nil {
			t.Errorf("no error for %s", c.want)
		} else if got := Plain(c.err); got != c.want {
			t.Errorf("%v: %q, want %q", c.err, got, c.want)
		}
	}
}
