package text

import (
	"regexp"
	"strings"
	"sync"
)

// Plain says in plain words what a library has against a file or an argument. What it does not
// know it leaves as it is.
func Plain(err error) string {
	said := OneLine(err.Error())
	for _, s := range sayings() {
		if m := s.of.FindStringSubmatchIndex(said); m != nil {
			return said[:m[0]] + string(s.of.ExpandString(nil, s.plain, said, m)) + said[m[1]:]
		}
	}
	return strings.TrimPrefix(strings.TrimPrefix(said, "yaml: "), "json: ")
}

type saying struct {
	of    *regexp.Regexp
	plain string
}

// sayings are those of encoding/json and its successor, of the YAML library, of strconv, time and
// pflag.
var sayings = sync.OnceValue(func() []saying {
	var all []saying
	for _, s := range [][2]string{
		{`(?:yaml: )?unmarshal errors: line (\d+): field (\S+) not found in type \S+.*`, "line $1: there is no key $2"},
		{`(?:yaml: )?unmarshal errors: line (\d+): cannot unmarshal .*`, "line $1: the value is of another kind than is expected there"},
		{`(?:yaml: )?unmarshal errors: `, ""},
		{`json: cannot unmarshal .*within "([^"]*)".*`, "the value at $1 is of another kind than is expected there"},
		{`json: unknown object member name "([^"]*)".*`, "there is no member $1"},
		{`json: cannot unmarshal \S+ into Go struct field \w*\.(\S+) of type .*`, "the value of $1 is of another kind than is expected there"},
		{`json: cannot unmarshal .*`, "a value is of another kind than is expected there"},
		{`unexpected end of JSON input|unexpected EOF`, "it ends early"},
		{`invalid character .*`, "it is not JSON"},
		{`invalid argument ("[^"]*") for "(?:-\w, )?(--[\w-]+)" flag: strconv\.Parse(?:Int|Uint|Float): .*`, "$2 takes a number, not $1"},
		{`invalid argument ("[^"]*") for "(?:-\w, )?(--[\w-]+)" flag: time: .*`, "$2 takes a length of time such as 10m, not $1"},
		{`invalid argument ("[^"]*") for "(?:-\w, )?(--[\w-]+)" flag: strconv\.ParseBool: .*`, "$2 takes true or false, not $1"},
	} {
		all = append(all, saying{regexp.MustCompile(s[0]), s[1]})
	}
	return all
})
