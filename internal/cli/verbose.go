package cli

import (
	"fmt"
	"strings"
	"sync"
	"time"

	"nexdal/internal/text"
)

// longestStatement bounds what is shown of one statement, in bytes; long ones are tables of values.
const longestStatement = 2000

// spoken keeps lines of several connections apart.
var spoken sync.Mutex

// watch tells of a statement, in a line.
func (a *app) watch(statement string, took time.Duration, err error) {
	says := text.Line(text.OneLine(statement))
	if len(says) > longestStatement {
		says = strings.ToValidUTF8(says[:longestStatement], "") + " ..."
	}
	if err != nil {
		says += "   -- failed: " + text.Line(text.OneLine(err.Error()))
	}
	spoken.Lock()
	defer spoken.Unlock()
	fmt.Fprintf(a.err, "%9.3f ms  %s\n", float64(took.Microseconds())/1000, says)
}

// note writes a line on standard error, of those that --quiet keeps back.
func (a *app) note(format string, args ...any) {
	fmt.Fprintf(a.err, format+"\n", args...)
}
