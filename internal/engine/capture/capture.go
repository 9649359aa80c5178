// Package capture holds the form of a capture: the answers that an engine's own client gave to
// the questions of a survey, as a file. The form is described in docs/capture-format.md.
//
// A record is one line that begins with @:
//
//	@nexdal 1 postgres           a capture begins: the form's number, the engine
//	@probe "ä ß"                 a text that is known: what the client made of it tells
//	@ask 5f2c01aa                a question, by the digest of its text
//	@row 21 ["public","station"] a row: so many characters of JSON, an array of texts and nulls
//	@end 5f2c01aa 1              the question's answer is whole: so many rows
//	@failed 5f2c01aa 42501       or there is none: what the engine had against it
//	@show TABLE ["a", "b"]       the lines behind it are what the client wrote of a statement: the
//	                             names of its columns, and a row with tabs between
//	@done 76                     the capture is whole: so many questions
package capture

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"
	"time"
)

// Form is the number of the form that is written and read.
const Form = 1

// Probe is the text that each capture holds: what became of it tells how the client wrote the
// answers.
const Probe = `ä ß € 水 🌊 \ '"`

// ProbeEscaped is the probe as JSON in a literal in which a backslash escapes what follows.
var ProbeEscaped = strings.NewReplacer(`\`, `\\\\`, "'", "''", `"`, `\\"`).Replace(Probe)

// A Capture is the answers of one database.
type Capture struct {
	Engine string
	// Head says what database it is, and when and as whom it was asked.
	Head    Head
	answers map[string]*Answer
	shown   map[string][][][]byte
}

// A Question is one about the data.
type Question struct {
	SQL  string
	Most int // rows that are wanted
}

// OfData is what stands behind the engine where a capture answers questions about the data.
const OfData = " data"

// Into is where a script's head says that the answers of the kind go: those about the data, of
// all rounds, into one file.
func Into(kind string) string {
	if kind == OfData {
		return ">> data.txt"
	}
	return "> result.txt"
}

// A Head is the first answer.
type Head struct {
	Version, Database, User string
	Moment                  time.Time
}

// An Answer is the rows that came to one question; a nil value is null.
type Answer struct {
	Rows   [][][]byte
	Failed string // what the engine had against the question; "": nothing
}

// Key is how a question is called: a digest of its text.
func Key(question string) string {
	sum := sha256.Sum256([]byte(question))
	return hex.EncodeToString(sum[:4])
}

// ErrOtherProgram says that a capture does not answer a question: its script was written by
// another version of the program.
var ErrOtherProgram = errors.New("the script of this capture was written by another version of Nexdal: write it again, and run it again")

// Answer returns the rows that answer the question.
func (c *Capture) Answer(question string) (*Answer, error) {
	if a := c.answers[Key(question)]; a != nil {
		return a, nil
	}
	return nil, fmt.Errorf("%w (question %s)", ErrOtherProgram, Key(question))
}

// ErrRefused says that the client had no answer to a question.
var ErrRefused = errors.New("the server refused a question")

// Rows hands each row of the answer to take.
func (c *Capture) Rows(question string, take func(row [][]byte) error) error {
	a, err := c.Answer(question)
	if err != nil {
		return err
	}
	if a.Failed != "" {
		return fmt.Errorf("%w: %s (%s)", ErrRefused, Key(question), a.Failed)
	}
	for _, row := range a.Rows {
		if err := take(row); err != nil {
			return err
		}
	}
	return nil
}

// Shown are the rows that show what is named by a kind and names; none: the server did not show
// it.
func (c *Capture) Shown(kind string, names ...string) [][][]byte {
	return c.shown[strings.Join(append([]string{kind}, names...), "\x00")]
}
