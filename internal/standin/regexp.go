package standin

import (
	"database/sql/driver"
	"fmt"
	"regexp"
	"sync"

	"modernc.org/sqlite"
)

var patterns sync.Map // compiled, by their text

// found is where the pattern fits in the text, or nil.
func found(args []driver.Value) ([]int, error) {
	text := fmt.Sprint(args[1])
	p, ok := patterns.Load(text)
	if !ok {
		compiled, err := regexp.Compile(text)
		if err != nil {
			return nil, err
		}
		p, _ = patterns.LoadOrStore(text, compiled)
	}
	return p.(*regexp.Regexp).FindStringIndex(fmt.Sprint(args[0])), nil
}

// What SQLite lacks of the systems' functions: where a pattern fits first, counted from 1
// (https://docs.aws.amazon.com/redshift/latest/dg/REGEXP_INSTR.html), and whether it does
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/string_functions#regexp_contains).
func init() {
	asked := func(name string, answer func(at []int) driver.Value) {
		sqlite.MustRegisterDeterministicScalarFunction(name, 2, func(_ *sqlite.FunctionContext, args []driver.Value) (driver.Value, error) {
			if args[0] == nil || args[1] == nil {
				return nil, nil
			}
			at, err := found(args)
			return answer(at), err
		})
	}
	asked("nexdal_regexp_instr", func(at []int) driver.Value {
		if at == nil {
			return int64(0)
		}
		return int64(at[0] + 1)
	})
	asked("nexdal_regexp", func(at []int) driver.Value {
		if at == nil {
			return int64(0)
		}
		return int64(1)
	})
}
