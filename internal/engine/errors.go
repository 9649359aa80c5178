package engine

import (
	"errors"
	"fmt"
	"net/url"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/text"
)

// What can go wrong with a source. Errors that wrap one of these name the
// place and what to do, in one sentence, and hold no secret.
var (
	ErrUnreachable  = errors.New("cannot be reached")
	ErrRefused      = errors.New("refused the login")
	ErrNotDatabase  = errors.New("is not a database")
	ErrDamaged      = errors.New("is damaged")
	ErrNoPrivilege  = errors.New("no privilege")
	ErrBusy         = errors.New("is locked by somebody else")
	ErrWrongAddress = errors.New("is not a usable address")
)

// A SourceError is a failure to reach or read a source.
type SourceError struct {
	Place string // for people, without secrets
	Kind  error  // one of the errors above, or nil
	Hint  string // what to do
	Err   error  // what the driver said
}

// Error gives one sentence.
func (e *SourceError) Error() string {
	said := e.Place
	if e.Kind != nil {
		said += " " + e.Kind.Error()
	}
	if e.Err != nil {
		said += ": " + text.OneLine(e.Err.Error())
	}
	if e.Hint != "" {
		said += "; " + e.Hint
	}
	return said
}

// Unwrap lets errors.Is find the kind and the cause.
func (e *SourceError) Unwrap() []error {
	var all []error
	for _, err := range []error{e.Kind, e.Err} {
		if err != nil {
			all = append(all, err)
		}
	}
	return all
}

// A StatementError is what the engine said to a statement.
type StatementError struct {
	Code string // the engine's own: SQLSTATE, or a result code
	// Exists: the object that the statement creates is there already.
	Exists bool
	// Missing: what the statement drops or alters is not there.
	Missing bool
	// Busy: somebody else held what it needs for longer than it may wait.
	Busy bool
	Err  error
}

// Error gives the engine's words in one line.
func (e *StatementError) Error() string {
	if e.Code == "" {
		return text.OneLine(e.Err.Error())
	}
	return fmt.Sprintf("%s (%s)", text.OneLine(e.Err.Error()), e.Code)
}

// Unwrap gives the driver's error.
func (e *StatementError) Unwrap() error { return e.Err }

// A TableError says that the changes of one table cannot be written together.
type TableError struct {
	Table catalog.Ref
	Err   error
}

// Error names the table.
func (e *TableError) Error() string { return fmt.Sprintf("%s: %v", e.Table, e.Err) }

// Unwrap gives the cause.
func (e *TableError) Unwrap() error { return e.Err }

var secretParameter = pattern.New(`(?i)\b(password|passwd|pwd|sslpassword)\s*=\s*('(?:[^'\\]|\\.)*'|[^\s&]+)`)

// Redact takes the password out of a URL or a key=value address.
func Redact(address string) string {
	if u, err := url.Parse(address); err == nil && u.User != nil {
		if _, has := u.User.Password(); has {
			u.User = url.UserPassword(u.User.Username(), "***")
			address = strings.Replace(u.String(), "%2A%2A%2A", "***", 1)
		}
	} else if scheme, rest, ok := strings.Cut(address, "://"); ok {
		// Not a well-formed URL: hide whatever stands before the last @.
		if at := strings.LastIndexByte(rest, '@'); at >= 0 {
			user, _, _ := strings.Cut(rest[:at], ":")
			address = scheme + "://" + user + ":***" + rest[at:]
		}
	}
	return secretParameter.ReplaceAllString(address, "$1=***")
}
