package standin

import (
	"database/sql/driver"
	"fmt"
	"regexp"
	"sync"

	"modernc.org/sqlite"
)

var patterns sync.Map // compiled, by their text

// What the rows' keeper lacks of the engine's functions
// (https://docs.aws.amazon.com/redshift/latest/dg/REGEXP_INSTR.html).
func init() {
	sqlite.MustRegisterDeterministicScalarFunction("nexdal_regexp_instr", 2, func(_ *sqlite.FunctionContext, args []driver.Value) (driver.Value, error) {
		if args[0] == nil || args[1] == nil {
			return nil, nil
		}
		text := fmt.Sprint(args[1])
		p, ok := patterns.Load(text)
		if !ok {
			compiled, err := regexp.Compile(text)
			if err != nil {
				return nil, err
			}
			p, _ = patterns.LoadOrStore(text, compiled)
		}
		at := p.(*regexp.Regexp).FindStringIndex(fmt.Sprint(args[0]))
		if at == nil {
			return int64(0), nil
		}
		return int64(at[0] + 1), nil
	})
}
