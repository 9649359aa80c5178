package standin

import (
	"database/sql/driver"
	"fmt"
	"sync"

	"modernc.org/sqlite"

	"nexdal/internal/catalog"
)

// The functions of SQLite belong to the whole program: the first argument says to which machine
// a call belongs.
var (
	machines = map[int]*Machine{}
	registry sync.Mutex
)

func register(m *Machine) int {
	registry.Lock()
	defer registry.Unlock()
	id := len(machines) + 1
	for machines[id] != nil {
		id++
	}
	machines[id] = m
	return id
}

func forget(id int) {
	registry.Lock()
	defer registry.Unlock()
	delete(machines, id)
}

func machine(v driver.Value) *Machine {
	registry.Lock()
	defer registry.Unlock()
	n, _ := v.(int64)
	return machines[int(n)]
}

func init() {
	Function("nexdal_number", number)
	Function("nexdal_next", next)
}

// Function makes f one of SQLite's functions, whose first argument is the number of a machine.
func Function(name string, f func(m *Machine, args []driver.Value) (driver.Value, error)) {
	sqlite.MustRegisterScalarFunction(name, -1, func(_ *sqlite.FunctionContext, args []driver.Value) (driver.Value, error) {
		m := machine(args[0])
		if m == nil {
			return nil, fmt.Errorf("the simulated server is closed")
		}
		return f(m, args[1:])
	})
}

func text(v driver.Value) string {
	s, _ := v.(string)
	return s
}

// number is what an identity column of the table gets: the value that was given, or the next.
func number(m *Machine, args []driver.Value) (driver.Value, error) {
	t := m.Catalog.Table(catalog.Ref{Schema: text(args[0]), Table: text(args[1])})
	if t == nil {
		return nil, fmt.Errorf("there is no table %v.%v", args[0], args[1])
	}
	at := int64(1)
	if t.Stats.Counter != nil {
		at = *t.Stats.Counter
	}
	step := int64(1)
	if m.Step != nil {
		step = m.Step(t)
	}
	if given, ok := args[2].(int64); ok {
		if next := given + step; step > 0 && next > at || step < 0 && next < at {
			t.Stats.Counter = &next
		}
		return given, nil
	}
	next := at + step
	t.Stats.Counter = &next
	return at, nil
}

// next draws from a sequence.
func next(m *Machine, args []driver.Value) (driver.Value, error) {
	s := m.Catalog.Schema(text(args[0]))
	if s != nil {
		for _, q := range s.Sequences {
			if q.Name == text(args[1]) {
				n := q.Start
				if q.Last != nil {
					n = *q.Last + q.Increment
				}
				if n > q.Most || n < q.Least {
					if !q.Cycle {
						return nil, fmt.Errorf("sequence %s has come to its end", q.Name)
					}
					n = q.Least
				}
				q.Last = &n
				return n, nil
			}
		}
	}
	return nil, fmt.Errorf("there is no sequence %v.%v", args[0], args[1])
}
