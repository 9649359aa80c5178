package mongodb

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/go-json-experiment/json/jsontext"
	"go.mongodb.org/mongo-driver/v2/bson"

	"nexdal/internal/engine/mongodb/filter"
	"nexdal/internal/engine/sqllex"
)

// lexis cuts what the shell runs.
var lexis = sqllex.Dialect{TextQuotes: true, SlashComments: true}

// Script carries out calls of db.runCommand one after another, up to the first that fails, as mongosh
// does with a file. It knows no other JavaScript.
func (s *Server) Script(database, script string) error {
	for _, st := range lexis.Statements(script) {
		if st.Text == "" {
			continue
		}
		inner, ok := strings.CutPrefix(bare(st.Text), "db.runCommand(")
		inner, closed := strings.CutSuffix(strings.TrimSuffix(inner, ";"), ")")
		if !ok || !closed {
			return fmt.Errorf("the simulated shell knows db.runCommand alone: %s", st.Text[:min(60, len(st.Text))])
		}
		if rest, is := strings.CutPrefix(inner, "EJSON.deserialize("); is {
			inner = strings.TrimSuffix(rest, ")")
		}
		if !jsontext.Value(inner).IsValid() {
			return fmt.Errorf("the simulated shell takes one document in a call: %s", st.Text[:min(60, len(st.Text))])
		}
		var command bson.D
		if err := bson.UnmarshalExtJSON([]byte(inner), false, &command); err != nil {
			return fmt.Errorf("%w: %s", err, st.Text[:min(60, len(st.Text))])
		}
		if _, err := s.Run(database, command); err != nil {
			return err
		}
	}
	return nil
}

// bare leaves comments out.
func bare(text string) string {
	var b strings.Builder
	lexis.Each(text, func(t sqllex.Token) bool {
		if t.Kind != sqllex.Comment {
			b.WriteString(t.Text)
		}
		return true
	})
	return strings.TrimSpace(b.String())
}

// Age has all indexes be there for two months, as far as the counting of their use goes.
func (s *Server) Age() {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	for _, of := range s.databases {
		for _, c := range of {
			for _, x := range c.indexes {
				c.since[text(filter.Get(x, "name"))] = time.Now().AddDate(0, -2, 0)
			}
		}
	}
}

// Dump is all that the server keeps of a database besides the documents.
func (s *Server) Dump(database string) string {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	var b strings.Builder
	for _, name := range sortedNames(s.databases[database]) {
		c := s.databases[database][name]
		told := slices.DeleteFunc(byName(c.options), func(o bson.E) bool { // what holds anyway
			return o.Key == "validationAction" && o.Value == "error" || o.Key == "validationLevel" && o.Value == "strict"
		})
		fmt.Fprintf(&b, "%s %s %v\n", c.kind, name, told)
		var indexes []string
		for _, x := range c.indexes {
			indexes = append(indexes, fmt.Sprintf("  %v\n", byName(x)))
		}
		slices.Sort(indexes) // their order has no meaning
		b.WriteString(strings.Join(indexes, ""))
	}
	return b.String()
}

// byName puts options in order, which has no meaning either.
func byName(options bson.D) bson.D {
	return slices.SortedFunc(slices.Values(options), func(a, b bson.E) int { return strings.Compare(a.Key, b.Key) })
}
