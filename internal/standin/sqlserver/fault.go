package sqlserver

import (
	"errors"
	"fmt"
	"strings"

	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// A fault is an error with the number that the engine gives it
// (https://learn.microsoft.com/en-us/sql/relational-databases/errors-events/database-engine-events-and-errors).
type fault struct {
	number  uint32
	message string
}

func (f *fault) Error() string { return f.message }

func refuse(number uint32, format string, args ...any) error {
	return &fault{number, fmt.Sprintf(format, args...)}
}

// beyond is the answer to what the stand-in does not know.
func beyond(what string) error {
	return refuse(40517, "The simulated server does not know %s.", what)
}

// understood says what went wrong in the engine's words.
func (s *client) understood(err error) error {
	var numbered *fault
	var f *standin.Fault
	var syntax *grammar.SyntaxError
	switch {
	case err == nil || errors.As(err, &numbered):
		return err
	case errors.Is(err, standin.ErrBusy):
		return refuse(1222, "Lock request time out period exceeded.")
	case errors.As(err, &syntax):
		return refuse(102, "Incorrect syntax near '%s': %s was expected.", syntax.Near, syntax.Wanted)
	case errors.As(err, &f):
		return refused(f)
	}
	if b := s.Told(err); b != nil {
		return broken(b)
	}
	text := err.Error()
	after := func(words string) string {
		_, rest, _ := strings.Cut(text, words)
		return strings.Trim(strings.SplitN(strings.TrimSpace(rest), " (", 2)[0], " \"")
	}
	switch {
	case strings.Contains(text, "no such table: "):
		return refuse(208, "Invalid object name '%s'. The simulated server has none.", after("no such table: "))
	case strings.Contains(text, "no such column: "):
		return refuse(207, "Invalid column name '%s'.", after("no such column: "))
	case strings.Contains(text, "no such function: "):
		return refuse(195, "'%s' is not a recognized built-in function name of the simulated server.", after("no such function: "))
	case strings.Contains(text, "syntax error"):
		return refuse(102, "Incorrect syntax: %s", text)
	}
	return refuse(50000, "%s", text)
}

func refused(f *standin.Fault) error {
	switch f.Kind {
	case standin.Exists:
		return refuse(2714, "There is already an object named '%s' in the database.", f.Name)
	case standin.Missing:
		return refuse(4902, "Cannot find the object \"%s\" because it does not exist or you do not have permissions.", f.Name)
	case standin.NoColumn:
		return refuse(1911, "Column name '%s' does not exist in the target table or view.", f.Name)
	case standin.HasKey:
		return refuse(1779, "Table '%s' already has a primary key defined on it.", f.Table.Table)
	case standin.Repeats:
		return refuse(1505, "The CREATE UNIQUE INDEX statement terminated because a duplicate key was found for the object name '%s' and the index name '%s'.", f.Table, f.Name)
	case standin.Orphans:
		return refuse(547, "The ALTER TABLE statement conflicted with the FOREIGN KEY constraint \"%s\". The conflict occurred in table \"%s\".", f.Name, f.By)
	case standin.Breaks:
		return refuse(547, "The ALTER TABLE statement conflicted with the CHECK constraint \"%s\". The conflict occurred in table \"%s\".", f.Name, f.Table)
	case standin.Nulls:
		return refuse(8111, "Cannot define PRIMARY KEY constraint on nullable column in table '%s'.", f.Table.Table)
	case standin.TooLong:
		return refuse(2628, "String or binary data would be truncated in table '%s', column '%s'.", f.Table, f.Name)
	case standin.NoNumber:
		return refuse(8115, "Arithmetic overflow error converting to data type of column '%s'.", f.Name)
	case standin.LeanedOn:
		return refuse(3726, "Could not drop object '%s' because it is referenced by a FOREIGN KEY constraint: %s.", f.Name, f.By)
	case standin.NoUniqueKey:
		return refuse(1776, "There are no primary or candidate keys in the referenced table '%s' that match the referencing column list in the foreign key '%s'.", f.Table, f.Name)
	case standin.NotEmpty:
		return refuse(4901, "ALTER TABLE only allows columns to be added that can contain nulls, or have a DEFAULT definition specified. Column '%s' cannot be added to non-empty table '%s'.", f.Name, f.Table.Table)
	}
	return refuse(50000, "%s", f)
}

func broken(b *standin.Broken) error {
	switch b.Kind {
	case "null":
		return refuse(515, "Cannot insert the value NULL into column '%s', table '%s'; column does not allow nulls. %s fails.", b.Column, b.Table, b.Verb)
	case "long":
		return refuse(2628, "String or binary data would be truncated in table '%s', column '%s'.", b.Table, b.Column)
	case "range":
		return refuse(8115, "Arithmetic overflow error converting expression to data type of column '%s'.", b.Column)
	case "unique":
		return refuse(2627, "Violation of UNIQUE KEY constraint '%s'. Cannot insert duplicate key in object '%s'.", b.Name, b.Table)
	case "check":
		return refuse(547, "The %s statement conflicted with the CHECK constraint \"%s\". The conflict occurred in table \"%s\".", b.Verb, b.Name, b.Table)
	case "referred":
		return refuse(547, "The %s statement conflicted with the REFERENCE constraint \"%s\". The conflict occurred in table \"%s\", column '%s'.", b.Verb, b.Name, b.Table, b.Column)
	}
	return refuse(547, "The %s statement conflicted with the FOREIGN KEY constraint \"%s\". The conflict occurred in table \"%s\", column '%s'.", b.Verb, b.Name, b.Table, b.Column)
}
