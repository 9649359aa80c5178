package evidence

import (
	"encoding/json"
	"strings"
)

// Withhold takes the values of columns out, and leaves the figures. It is asked
// of each column whether its values stay in.
func (e *Evidence) Withhold(hidden func(schema, table, column string) bool) {
	some := false
	hides := func(schema, table string, columns []string) bool {
		for _, c := range columns {
			if hidden(schema, table, c) {
				some = true
				return true
			}
		}
		return false
	}
	for i := range e.Columns {
		if c := &e.Columns[i]; hides(c.Schema, c.Table, []string{c.Column}) {
			c.Least, c.Greatest, c.Values = nil, nil, nil
		}
	}
	for _, list := range [][]Reference{e.References, e.Perhaps} {
		for i := range list {
			if r := &list[i]; hides(r.Schema, r.Table, r.Columns) {
				r.Samples = nil
			}
		}
	}
	for i := range e.Promises {
		// What a check or a question shows may be of any column of the table.
		p := &e.Promises[i]
		columns := p.Columns
		if p.Origin == "proposed" || p.Kind == "check" {
			for _, c := range e.Columns {
				if c.Schema == p.Schema && c.Table == p.Table {
					columns = append(columns, c.Column)
				}
			}
		}
		if hides(p.Schema, p.Table, columns) {
			p.Samples = nil
		}
	}
	for i := range e.Counters {
		if k := &e.Counters[i]; hides(k.Schema, k.Table, []string{k.Column}) {
			k.Greatest, k.Next = nil, nil
		}
	}
	if some {
		e.Answers.forget()
	}
}

// forget leaves only the answers that hold no value; the others are asked for
// again.
func (a Answers) forget() {
	for question, answer := range a {
		var with struct{ Samples []string }
		if strings.HasPrefix(question, `"profile"`) || strings.HasPrefix(question, `"values"`) || json.Unmarshal(answer, &with) == nil && len(with.Samples) > 0 {
			delete(a, question)
		}
	}
}
