package upkeep

import (
	"strconv"
	"strings"
	"time"

	"nexdal/internal/pattern"
)

var duration = pattern.New(`^\s*(\d+)\s*(day|week|month|year)s?\s*$`)

// Before is the moment so long before another.
func Before(at time.Time, keep string) (time.Time, bool) {
	m := duration.FindStringSubmatch(strings.ToLower(keep))
	if m == nil {
		return time.Time{}, false
	}
	n, err := strconv.Atoi(m[1])
	if err != nil {
		return time.Time{}, false
	}
	switch m[2] {
	case "day":
		return at.AddDate(0, 0, -n), true
	case "week":
		return at.AddDate(0, 0, -7*n), true
	case "month":
		return at.AddDate(0, -n, 0), true
	}
	return at.AddDate(-n, 0, 0), true
}
