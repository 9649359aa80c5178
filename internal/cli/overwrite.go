package cli

import (
	"bytes"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"nexdal/internal/engine/all"
	"nexdal/internal/job"
	"nexdal/internal/run"
	"nexdal/internal/text"
)

// headBytes is how much of a file tells what it is.
const headBytes = 512

// replaceable refuses to put a file in place of one that does not look as if it had been
// written by the same command: a database, a script of somebody else's, a text.
func replaceable(path, fresh string) error {
	old, err := beginning(path)
	if err != nil || len(old) == 0 {
		return nil // nothing is there, or nothing is in it
	}
	if all.ByFile(old) != nil {
		return wrong("%s is a database, and is not overwritten; name another file with -o", path)
	}
	is, err := beginning(fresh)
	if err == nil && shape(old) != shape(is) {
		return wrong("%s is there, and does not look like what this command writes; name another file with -o, or move it away", path)
	}
	return nil
}

func beginning(path string) ([]byte, error) {
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	head := make([]byte, headBytes)
	n, err := io.ReadFull(f, head)
	if n > 0 {
		err = nil
	}
	return head[:n], err
}

// shape is what the beginning of a file has in common with others of its kind.
func shape(head []byte) string {
	s := string(head)
	switch {
	case strings.HasPrefix(s, "\x89PNG"):
		return "png"
	case strings.Contains(s, "written by nexdal"):
		return "script"
	case isSurvey(head):
		return "survey"
	case strings.HasPrefix(s, "{"):
		_, rest, _ := strings.Cut(s, `"`)
		key, _, _ := strings.Cut(rest, `"`)
		return "json " + key
	case strings.HasPrefix(s, "<"):
		return s[:min(len(s), 14)]
	case strings.Contains(s, "surveyed 20"):
		return "text of a survey"
	}
	line, _, _ := strings.Cut(s, "\n")
	word, _, _ := strings.Cut(strings.TrimSpace(line), " ")
	return "text " + word
}

func isSurvey(head []byte) bool { return bytes.Contains(head, []byte(`"kind": "survey"`)) }

// apart refuses to write the result over what it is read from.
func apart(source string, outputs ...string) error {
	from, err := os.Stat(source)
	if err != nil {
		return nil // no file
	}
	for _, path := range outputs {
		if to, err := os.Stat(path); err == nil && os.SameFile(from, to) {
			return wrong("%s is the source, and is not overwritten; name another file with -o", path)
		}
	}
	return nil
}

// notRun refuses to write a script over one that was carried out, wholly or in part, and
// not taken back: its way back would be gone.
func notRun(output string) error {
	done, err := run.Standing(job.JournalOf(output), job.JournalOf(job.Beside(output, "reversal")))
	if err != nil || !done {
		return nil
	}
	if _, err := os.Stat(output); err != nil {
		return nil
	}
	free := ""
	for n := 2; free == ""; n++ {
		name := job.Beside(output, fmt.Sprint(n))
		if _, err := os.Stat(name); err != nil {
			free = name
		}
	}
	return wrong("%s was carried out, and its way back, %s, would be overwritten; write to %s, which is free", output, text.Line(filepath.Base(job.Beside(output, "reversal"))), free)
}
