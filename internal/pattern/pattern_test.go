package pattern

import (
	"reflect"
	"regexp"
	"sync"
	"testing"
)

// TestPattern: each method answers as that of the compiled expression, from several goroutines.
func TestPattern(t *testing.T) {
	const expression, text = `(a+)(\d)?`, "aa1-a-2"
	p, re := New(expression), regexp.MustCompile(expression)
	mark := func(s string) string { return "<" + s + ">" }
	var all sync.WaitGroup
	for range 4 {
		all.Go(func() {
			for name, pair := range map[string][2]any{
				"MatchString":             {p.MatchString(text), re.MatchString(text)},
				"FindString":              {p.FindString(text), re.FindString(text)},
				"FindAllString":           {p.FindAllString(text, 1), re.FindAllString(text, 1)},
				"FindStringSubmatchIndex": {p.FindStringSubmatchIndex(text), re.FindStringSubmatchIndex(text)},
				"FindStringSubmatch":      {p.FindStringSubmatch(text), re.FindStringSubmatch(text)},
				"FindAllStringSubmatch":   {p.FindAllStringSubmatch(text, -1), re.FindAllStringSubmatch(text, -1)},
				"ReplaceAllString":        {p.ReplaceAllString(text, "$1!"), re.ReplaceAllString(text, "$1!")},
				"ReplaceAllStringFunc":    {p.ReplaceAllStringFunc(text, mark), re.ReplaceAllStringFunc(text, mark)},
			} {
				if !reflect.DeepEqual(pair[0], pair[1]) {
					t.Errorf("%s: %v, want %v", name, pair[0], pair[1])
				}
			}
		})
	}
	all.Wait()
	defer func() {
		if recover() == nil {
			t.Error("what does not compile is taken")
		}
	}()
	New(`(`).MatchString("")
}
