package mongodb

import (
	"errors"
	"fmt"
	"regexp"
	"strings"

	"github.com/go-json-experiment/json/jsontext"
	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/engine/sqllex"
)

// compact is a document as a line of extended JSON.
func compact(doc bson.Raw) string {
	text, err := bson.MarshalExtJSON(doc, false, false)
	if err != nil {
		return ""
	}
	return string(text)
}

func compactD(doc bson.D) string {
	text, err := bson.MarshalExtJSON(doc, false, false)
	if err != nil {
		return ""
	}
	return string(text)
}

var errMore = errors.New("it is not one document")

// document reads extended JSON. The driver would take the first of several documents, and leave the
// rest unread.
func document(text string) (bson.D, error) {
	if text != "" && !jsontext.Value(text).IsValid() {
		return nil, errMore
	}
	var d bson.D
	err := bson.UnmarshalExtJSON([]byte(text), false, &d)
	return d, err
}

// typed are values that only extended JSON has: the shell takes them by a function
// (https://www.mongodb.com/docs/mongodb-shell/reference/ejson/).
var typed = regexp.MustCompile(`"\$(oid|date|numberLong|numberDecimal|numberInt|numberDouble|binary|uuid|timestamp|regularExpression|minKey|maxKey)":`)

// A command is written so that the shell runs it and so that it can be read back.
func shell(command bson.D) string {
	text := compactD(command)
	if typed.MatchString(text) {
		return "db.runCommand(EJSON.deserialize(" + text + "))"
	}
	return "db.runCommand(" + text + ")"
}

// errNoCommand says that a statement is none that is known.
var errNoCommand = errors.New("it is no db.runCommand({...}) with a document in extended JSON")

// parse reads a statement of a script. Nil: it does nothing.
func parse(text string) (bson.D, error) {
	var b strings.Builder
	Engine{}.Dialect().Each(text, func(t sqllex.Token) bool {
		if t.Kind != sqllex.Comment {
			b.WriteString(t.Text)
		}
		return true
	})
	text = strings.TrimSuffix(strings.TrimSpace(b.String()), ";")
	if strings.EqualFold(text, "COMMIT") {
		return nil, nil
	}
	inner, ok := strings.CutPrefix(text, "db.runCommand(")
	if !ok || !strings.HasSuffix(inner, ")") {
		return nil, errNoCommand
	}
	inner = inner[:len(inner)-1]
	if rest, ok := strings.CutPrefix(inner, "EJSON.deserialize("); ok {
		inner = strings.TrimSuffix(rest, ")")
	}
	d, err := document(inner)
	if err != nil {
		return nil, fmt.Errorf("%w: %v", errNoCommand, err)
	}
	return d, nil
}
