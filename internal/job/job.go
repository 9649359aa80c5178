// Package job is what the commands have in common before they print: it opens sources and
// reads catalogs, settings, decisions and evidence; it judges, plans, and has scripts
// written. It prints nothing and knows no flag.
package job

import (
	"fmt"
	"io"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/settings"
)

// A Job is what one call of the program works by.
type Job struct {
	Full                 bool  // all rows are looked at for a structure that nothing declares
	Rows                 int64 // how many of a table are fetched at most; 0: all
	Fetched              func(what string, done, of int64)
	Meter                *engine.Meter // of what an engine that bills it reads; nil: no limit
	Watch                engine.Watch  // is told of each statement; nil: nobody wants to know
	In                   io.Reader     // where the source "-" is read from
	Timeout, LockTimeout time.Duration // of a statement and of a lock; zero: the engine's own
	Scope                catalog.Scope // what is looked at; a source may have its own in the settings
	DecisionsPath        string        // "": the nearest [DecisionsFile]
	SettingsPath         string        // "": the nearest [SettingsFile]
	Sets                 []string      // what the call sets, as RULE=SEVERITY or RULE.OPTION=VALUE

	decisions *settings.Decisions // what the file holds, once it was read
	settings  *settings.Settings  // what the file and the call hold, once they were read
}

// A CallError is a mistake in the call, or in a file that was given to it.
type CallError struct{ error }

// Unwrap gives the cause.
func (e CallError) Unwrap() error { return e.error }

// Wrong makes one; the format is that of [fmt.Errorf].
func Wrong(format string, args ...any) error { return CallError{fmt.Errorf(format, args...)} }

// Cause is the last part of a file error, without the file's name.
func Cause(err error) string {
	s := err.Error()
	if i := strings.LastIndex(s, ": "); i >= 0 {
		return s[i+2:]
	}
	return s
}

// Today is the day by which decisions hold or have ended.
func Today() time.Time { return time.Now().Truncate(24 * time.Hour) }
