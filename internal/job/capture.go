package job

import (
	"errors"
	"os"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
	"nexdal/internal/engine/capture"
	"nexdal/internal/text"
)

// isCapture tells a capture from a database file, whose own tables may be called anything.
func isCapture(head []byte) bool { return all.ByFile(head) == nil && capture.Is(head) }

// chosen tells the path of a file from the database that is meant of those whose captures it
// holds: result.txt#saltmere.
func chosen(name string) (file, database string) {
	if _, err := os.Stat(name); err == nil {
		return name, ""
	}
	if at := strings.LastIndexByte(name, '#'); at > 0 {
		if _, err := os.Stat(name[:at]); err == nil {
			return name[:at], name[at+1:]
		}
	}
	return name, ""
}

// ReadCapture reads the catalog from the capture of a database; an empty name is that of the
// only one in the file.
func ReadCapture(file, database string) (*catalog.Catalog, error) {
	f, err := os.Open(file)
	if err != nil {
		return nil, &engine.SourceError{Place: file, Kind: engine.ErrUnreachable, Err: err}
	}
	defer f.Close()
	unusable := func(err error, hint string) error {
		return &engine.SourceError{Place: file, Kind: errors.New("cannot be used"), Err: err, Hint: hint}
	}
	found, err := capture.Read(f)
	if err != nil {
		return nil, unusable(err, "")
	}
	var of []*capture.Capture
	var names []string
	for _, c := range found {
		if strings.HasSuffix(c.Engine, capture.OfData) {
			return nil, unusable(errors.New("it holds answers about data, and no structure"), "give it to nexdal probe SOURCE --answers")
		}
		name := c.Head.Database
		names = append(names, text.Line(name))
		if database == "" || name == database {
			of = append(of, c)
		}
	}
	switch {
	case len(of) == 0:
		return nil, unusable(errors.New("it holds no capture of "+text.Line(database)), "there are those of "+strings.Join(names, ", "))
	case len(of) > 1 && database == "":
		return nil, unusable(errors.New("it holds captures of "+strings.Join(names, ", ")), "name one, as in "+file+"#"+names[0])
	case len(of) > 1:
		return nil, unusable(errors.New("it holds several captures of "+text.Line(database)), "put each into a file of its own")
	}
	e, ok := all.ByName(of[0].Engine).(engine.Capturer)
	if !ok {
		return nil, unusable(errors.New("it is of engine "+text.Line(of[0].Engine)+", whose captures this program does not read"), "")
	}
	c, err := e.Captured(of[0])
	if err != nil {
		return nil, unusable(err, "")
	}
	return c, nil
}
