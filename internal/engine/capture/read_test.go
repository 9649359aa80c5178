package capture

import (
	"fmt"
	"strings"
	"testing"
	"unicode/utf16"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
)

// written is a capture as a client writes it, of these rows to the second question.
func written(database string, rows ...string) string {
	var b strings.Builder
	row := func(s string) { fmt.Fprintf(&b, "@row %d %s\n", utf8.RuneCountInString(s), s) }
	fmt.Fprintf(&b, "@nexdal 1 postgres\n@probe \"ä ß € 水 🌊 \\\\ '\\\"\"\n@ask head\n")
	row(`["15.5", "` + database + `", "2026-03-01T06:00:00Z", "dba"]`)
	fmt.Fprintf(&b, "@end head 1\n@ask %s\n", Key("q"))
	for _, r := range rows {
		row(r)
	}
	fmt.Fprintf(&b, "@end %s %d\n@done 2\n", Key("q"), len(rows))
	return b.String()
}

// nasty are values that a row of a catalog may hold.
var nasty = [][]string{
	{"plain", "with blanks  in   it and a long tail so that a terminal cuts it in pieces, more than once even, at 80 characters"},
	{"a\tb\nc\r\nd", "\\n is no line feed, \\\\ are two"},
	{"@end " + Key("q") + " 0", "@done 2\n@nexdal 1 postgres\n@row 2 []"},
	{"'\"`;--/*", "]} , [ |"},
	{"ä ß 水 🌊", "\x01\x1b[31m"},
	{strings.Repeat("x y ", 300), strings.Repeat(" ", 200)},
	{"", "<null>"},
}

// json writes a row as an engine does.
func json(values []string) string {
	var all []string
	for _, v := range values {
		if v == "<null>" {
			all = append(all, "null")
			continue
		}
		var b strings.Builder
		for _, r := range v {
			switch {
			case r == '"' || r == '\\':
				b.WriteString(`\` + string(r))
			case r == '\n':
				b.WriteString(`\n`)
			case r < ' ':
				fmt.Fprintf(&b, `\u%04x`, r)
			default:
				b.WriteRune(r)
			}
		}
		all = append(all, `"`+b.String()+`"`)
	}
	return "[" + strings.Join(all, ", ") + "]"
}

func lines(text string, each func(string) string) string {
	var all []string
	for _, line := range strings.Split(strings.TrimSuffix(text, "\n"), "\n") {
		all = append(all, each(line))
	}
	return strings.Join(all, "\n") + "\n"
}

// wrapped cuts lines at a width, as a window does that they are copied from.
func wrapped(text string, width int, trim bool) string {
	return lines(text, func(line string) string {
		var pieces []string
		for r := []rune(line); len(r) > 0; r = r[min(width, len(r)):] {
			p := string(r[:min(width, len(r))])
			if trim {
				p = strings.TrimRight(p, " ")
			}
			pieces = append(pieces, p)
		}
		return strings.Join(pieces, "\n")
	})
}

func as(page *charmap.Charmap, text string) string {
	s, err := page.NewDecoder().String(text)
	if err != nil {
		panic(err)
	}
	return s
}

func sixteen(text string) string {
	b := []byte{0xff, 0xfe}
	for _, u := range utf16.Encode([]rune(text)) {
		b = append(b, byte(u), byte(u>>8))
	}
	return string(b)
}

// TestRead: whatever a client, a shell or a window makes of the lines, the values come back.
func TestRead(t *testing.T) {
	var rows []string
	for _, values := range nasty {
		rows = append(rows, json(values))
	}
	good := written("saltmere", rows...)
	for name, text := range map[string]string{
		"as it is":                  good,
		"CR LF":                     strings.ReplaceAll(good, "\n", "\r\n"),
		"trailing blanks":           lines(good, func(s string) string { return s + "   " }),
		"framed":                    "+----+\n| answer |\n" + lines(good, func(s string) string { return "| " + s + "     |" }),
		"footers":                   lines(good, func(s string) string { return " " + s + "\n(1 row)\n\n answer \n--------" }),
		"prompts between":           "psql (15.5)\nType \"help\" for help.\n\nsaltmere=> \\i ask.sql\n" + good + "saltmere=> \\q\n",
		"cut at 80":                 wrapped(good, 80, false),
		"cut at 80, blanks lost":    wrapped(good, 80, true),
		"cut at 132, blanks lost":   wrapped(good, 132, true),
		"UTF-16":                    sixteen(good),
		"UTF-16 without a mark":     sixteen(good)[2:],
		"UTF-16, CR LF":             sixteen(strings.ReplaceAll(good, "\n", "\r\n")),
		"a mark of UTF-8":           "\xef\xbb\xbf" + good,
		"taken for Windows-1252":    sixteen(as(charmap.Windows1252, good)),
		"taken for code page 850":   as(charmap.CodePage850, good),
		"taken for code page 437":   sixteen(as(charmap.CodePage437, good)),
		"backslashes doubled":       strings.ReplaceAll(good, `\`, `\\`),
		"doubled, and mistaken too": as(charmap.CodePage850, strings.ReplaceAll(good, `\`, `\\`)),
	} {
		t.Run(name, func(t *testing.T) {
			found, err := Read(strings.NewReader(text))
			if err != nil || len(found) != 1 {
				t.Fatalf("%d captures, %v", len(found), err)
			}
			a, err := found[0].Answer("q")
			if err != nil || len(a.Rows) != len(nasty) {
				t.Fatalf("%d rows, %v", len(a.Rows), err)
			}
			for i, want := range nasty {
				for k, w := range want {
					if got := a.Rows[i][k]; (got == nil) != (w == "<null>") || got != nil && string(got) != w {
						t.Errorf("row %d, value %d: %q, and not %q", i, k, got, w)
					}
				}
			}
			if h := found[0].Head; h.Database != "saltmere" || h.User != "dba" || h.Version != "15.5" {
				t.Errorf("the head is %+v", h)
			}
		})
	}
}

// TestReadRefuses: what is not whole is not read, and the message says where it breaks.
func TestReadRefuses(t *testing.T) {
	good := written("saltmere", `["a", "b"]`, `["c", "d"]`)
	for name, c := range map[string]struct{ text, says string }{
		"nothing":             {"", "holds no capture"},
		"something else":      {"CREATE TABLE station (id int);\n", "holds no capture"},
		"cut in a question":   {good[:strings.Index(good, `["c"`)+3], "breaks off in the answer to question 2"},
		"cut behind one":      {good[:strings.Index(good, "@ask "+Key("q"))], "breaks off behind question 1"},
		"cut at the head":     {good[:strings.Index(good, "@ask head")], "breaks off behind question 0"},
		"a row lost":          {strings.Replace(good, "@row 10 [\"a\", \"b\"]\n", "", 1), "has 1 rows, and should have 2"},
		"a question lost":     {good[:strings.Index(good, "@ask "+Key("q"))] + "@done 2\n", "1 of 2 questions"},
		"a row shortened":     {strings.Replace(good, `["a", "b"]`, `["a", ""]`, 1), "is not whole"},
		"an end misplaced":    {strings.Replace(good, "@ask "+Key("q"), "@ask 01234567", 1), "stands where question 01234567"},
		"another begins":      {good[:strings.Index(good, "@done")] + good, "breaks off behind question 2"},
		"a newer form":        {strings.Replace(good, "@nexdal 1", "@nexdal 2", 1), "newer version of Nexdal"},
		"characters lost":     {strings.NewReplacer("水", "?", "🌊", "?").Replace(good), "lost characters"},
		"not UTF-8":           {strings.Replace(good, "ä", "\xe4", 1), "not UTF-8"},
		"two pages":           {as(charmap.CodePage850, good) + "水\n", "two code pages"},
		"no head":             {strings.Replace(good, `, "dba"]`, `]`, 1), "is not whole"},
		"an answer to nobody": {strings.Replace(good, "@row 10 [\"a\"", "@row ten [\"a\"", 1), "no row"},
	} {
		t.Run(name, func(t *testing.T) {
			found, err := Read(strings.NewReader(c.text))
			if err == nil || !strings.Contains(err.Error(), c.says) {
				t.Errorf("%d captures, %v; it should say %q", len(found), err, c.says)
			}
		})
	}
}

// TestReadSeveral: a file may hold several captures, a server may have refused a question, and a
// question that was not put is told from one without rows.
func TestReadSeveral(t *testing.T) {
	refused := strings.Replace(written("tide"), "@end "+Key("q")+" 0", "@failed "+Key("q")+" 42501", 1)
	found, err := Read(strings.NewReader(written("saltmere", `["a"]`) + "noise\n" + refused))
	if err != nil || len(found) != 2 {
		t.Fatalf("%d captures, %v", len(found), err)
	}
	a, err := found[1].Answer("q")
	if err != nil || a.Failed != "42501" || found[1].Head.Database != "tide" {
		t.Errorf("%+v, %v", a, err)
	}
	if _, err := found[0].Answer("another"); err == nil {
		t.Error("a question that was not put is answered")
	}
	if !Is([]byte("psql (15)\n@nexdal 1 postgres\n")) || !Is([]byte(sixteen("x\n@nexdal 1 postgres\n"))) || Is([]byte("SELECT 1")) {
		t.Error("a capture is not told from something else")
	}
}
