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
	"strings"

	"nexdal/internal/pattern"
)

//go:embed *.sql *.js *.yaml
var files embed.FS

// like names the engine whose statements another takes, but for those that the first alone
// reads as more than a comment (https://mariadb.com/kb/en/comment-syntax/).
var like = map[string]string{"mysql": "mariadb"}

var plain = pattern.New(`^[A-Za-z_][A-Za-z0-9_]*$`)

var ownComment = pattern.New(`(?s)/\*M!.*?\*/;?`)

// Settings is the text of the demo's settings file for the named engine.
func Settings(engine string) ([]byte, error) {
	text, err := files.ReadFile("nexdal." + engine + ".yaml")
	if errors.Is(err, fs.ErrNotExist) {
		return files.ReadFile("nexdal.yaml")
	}
	return text, err
}

// A Choice takes a fix that has to be chosen.
type Choice struct{ Finding, Fix string }

// Choices are those that the walk through the engine's demo makes.
func Choices(engine string) []Choice {
	switch engine {
	case "mongodb":
		return []Choice{{"check/none saltmere.observation validator", "warn"}, {"index/on-nothing saltmere.observation observation_staton nothing", "drop"}, {"key/undeclared saltmere.gauge serial_number", "unique"}}
	case "bigquery":
		return []Choice{{"sort/none saltmere.reading", "sort"}, {"storage/filter-not-required saltmere.tide_table filter", "require"}, {"fk/missing saltmere.feed_delivery (alert_id) to storm_alert", "foreign-key"}}
	}
	return nil
}

// RowsOf returns the rows of every table of the named engine's demo. Where it is played against a
// simulated server, which is slower than a real one, there are fewer.
func RowsOf(engine string) []Table {
	switch engine {
	case "mongodb":
		return Documents()
	case "redshift", "bigquery", "sqlserver", "oracle":
		return rows(perDayFew)
	}
	return Rows()
}

// SQL returns, for the named engine, the statements that build the structure
// and those to run once the rows are in, if any. The schema is named where a
// session cannot let names without one lead there.
func SQL(engine, schema string) (before, after string, err error) {
	of := cmp.Or(like[engine], engine)
	text, err := files.ReadFile(of + ".sql")
	ending := ".sql"
	if errors.Is(err, fs.ErrNotExist) {
		ending = ".js"
		text, err = files.ReadFile(of + ending)
	}
	if err != nil {
		return "", "", fmt.Errorf("there is no demo database for engine %q", engine)
	}
	more, err := files.ReadFile(of + ".after" + ending)
	if errors.Is(err, fs.ErrNotExist) {
		err = nil
	}
	if strings.Contains(string(text), "{schema}") && !plain.MatchString(schema) {
		return "", "", fmt.Errorf("the schema of the demo takes a plain name, of letters, digits and _: not %q", schema)
	}
	before, after = strings.ReplaceAll(string(text), "{schema}", schema), strings.ReplaceAll(string(more), "{schema}", schema)
	if of != engine {
		before, after = ownComment.ReplaceAllString(before, ""), ownComment.ReplaceAllString(after, "")
	}
	return before, after, err
}
