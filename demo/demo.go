// Package demo holds the demo database: Saltmere, a made-up agency that runs
// tide gauges along a made-up coast. Its structure is SQL for each engine; its
// rows come from a fixed seed and are the same everywhere.
package demo

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"io/fs"

	"nexdal/internal/pattern"
)

//go:embed *.sql *.yaml
var files embed.FS

// like names the engine whose statements another takes, but for those that the first alone
// reads as more than a comment (https://mariadb.com/kb/en/comment-syntax/).
var like = map[string]string{"mysql": "mariadb"}

var ownComment = pattern.New(`(?s)/\*M!.*?\*/;?`)

// Settings is the text of the demo's settings file for the named engine.
func Settings(engine string) ([]byte, error) {
	text, err := files.ReadFile("nexdal." + engine + ".yaml")
	if errors.Is(err, fs.ErrNotExist) {
		return files.ReadFile("nexdal.yaml")
	}
	return text, err
}

// SQL returns, for the named engine, the statements that build the structure
// and those to run once the rows are in, if any.
func SQL(engine string) (before, after string, err error) {
	of := cmp.Or(like[engine], engine)
	text, err := files.ReadFile(of + ".sql")
	if err != nil {
		return "", "", fmt.Errorf("there is no demo database for engine %q", engine)
	}
	more, err := files.ReadFile(of + ".after.sql")
	if errors.Is(err, fs.ErrNotExist) {
		err = nil
	}
	before, after = string(text), string(more)
	if of != engine {
		before, after = ownComment.ReplaceAllString(before, ""), ownComment.ReplaceAllString(after, "")
	}
	return before, after, err
}
