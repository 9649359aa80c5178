package oracle

import (
	"database/sql/driver"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"time"
	"unicode/utf16"

	"modernc.org/sqlite"
)

// What SQLite lacks of the functions
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/Functions.html).
func init() {
	for name, f := range map[string]func(args []driver.Value) (driver.Value, error){
		"nexdal_ora_to_char": toChar, "nexdal_ora_moment": toMoment, "nexdal_ora_unistr": unistr, "nexdal_ora_asciistr": asciistr, "nexdal_ora_regexp": regexpLike,
		"nexdal_ora_valid": validConversion, "nexdal_ora_lpad": lpad, "nexdal_ora_to_number": toNumber, "nexdal_ora_trunc": trunc,
	} {
		sqlite.MustRegisterDeterministicScalarFunction(name, -1, func(_ *sqlite.FunctionContext, args []driver.Value) (driver.Value, error) {
			if len(args) == 0 || args[0] == nil {
				return nil, nil
			}
			return f(args)
		})
	}
}

func asText(v driver.Value) string {
	switch v := v.(type) {
	case string:
		return v
	case []byte:
		return string(v)
	case float64:
		if v == math.Trunc(v) && math.Abs(v) < 1e15 {
			return strconv.FormatFloat(v, 'f', -1, 64)
		}
		return strings.TrimPrefix(strconv.FormatFloat(v, 'f', -1, 64), "0")
	}
	return fmt.Sprint(v)
}

// layouts of moments, as they are kept and written.
var layouts = []string{"2006-01-02 15:04:05.999999999", "2006-01-02T15:04:05.999999999", time.DateOnly, "2006-01-02 15:04", "20060102"}

func momentOf(text string) (time.Time, error) {
	var at time.Time
	var err error
	for _, layout := range layouts {
		if at, err = time.Parse(layout, strings.TrimSpace(text)); err == nil {
			return at, nil
		}
	}
	return at, refuse(1843, "not a valid month: %s", text)
}

// toChar writes a value as text; a format is for moments.
func toChar(args []driver.Value) (driver.Value, error) {
	if len(args) == 1 {
		return asText(args[0]), nil
	}
	at, err := momentOf(asText(args[0]))
	if err != nil {
		return nil, err
	}
	format := strings.NewReplacer(`"T"`, "T", `"Z"`, "Z", "YYYY", "2006", "MM", "01", "DD", "02", "HH24", "15", "MI", "04", "SS", "05").Replace(asText(args[1]))
	return at.Format(format), nil
}

func toMoment(args []driver.Value) (driver.Value, error) {
	at, err := momentOf(asText(args[0]))
	if err != nil {
		return nil, err
	}
	return at.Format("2006-01-02 15:04:05.999999999"), nil
}

func toNumber(args []driver.Value) (driver.Value, error) {
	if n, err := strconv.ParseInt(asText(args[0]), 10, 64); err == nil {
		return n, nil
	}
	f, err := strconv.ParseFloat(asText(args[0]), 64)
	if err != nil {
		return nil, refuse(1722, "invalid number")
	}
	return f, nil
}

func trunc(args []driver.Value) (driver.Value, error) {
	switch v := args[0].(type) {
	case int64:
		return v, nil
	case float64:
		return math.Trunc(v), nil
	}
	at, err := momentOf(asText(args[0]))
	if err != nil {
		return nil, err
	}
	return at.Format(time.DateOnly) + " 00:00:00", nil
}

func unistr(args []driver.Value) (driver.Value, error) {
	var b strings.Builder
	var units []uint16
	text := asText(args[0])
	flush := func() {
		b.WriteString(string(utf16.Decode(units)))
		units = nil
	}
	for i := 0; i < len(text); {
		if text[i] == '\\' && i+4 < len(text) {
			n, err := strconv.ParseUint(text[i+1:i+5], 16, 16)
			if err != nil {
				return nil, refuse(30186, "'\\' must be followed by four hexdecimal characters or another '\\'")
			}
			units = append(units, uint16(n))
			i += 5
			continue
		}
		flush()
		b.WriteByte(text[i])
		i++
	}
	flush()
	return b.String(), nil
}

func asciistr(args []driver.Value) (driver.Value, error) { return asciiOf(asText(args[0])), nil }

// asciiOf writes what is not ASCII, and backslashes, by UTF-16 units
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqlrf/ASCIISTR.html).
func asciiOf(text string) string {
	var b strings.Builder
	for _, r := range text {
		if r < 0x80 && r != '\\' {
			b.WriteRune(r)
			continue
		}
		for _, u := range utf16.Encode([]rune{r}) {
			fmt.Fprintf(&b, `\%04X`, u)
		}
	}
	return b.String()
}

func regexpLike(args []driver.Value) (driver.Value, error) {
	re, err := regexp.Compile(asText(args[1]))
	if err != nil {
		return nil, refuse(12725, "unmatched parentheses in regular expression")
	}
	return map[bool]int64{true: 1}[re.MatchString(asText(args[0]))], nil
}

// validConversion is VALIDATE_CONVERSION to a date.
func validConversion(args []driver.Value) (driver.Value, error) {
	_, err := momentOf(asText(args[0]))
	return map[bool]int64{true: 1}[err == nil], nil
}

func lpad(args []driver.Value) (driver.Value, error) {
	text, n, by := asText(args[0]), int(args[1].(int64)), " "
	if len(args) > 2 {
		by = asText(args[2])
	}
	for len([]rune(text)) < n {
		text = by + text
	}
	return text, nil
}

// kept is a value as the rows have it: an empty text is a null.
func kept(v any) any {
	switch v := v.(type) {
	case string:
		if v == "" {
			return nil
		}
	case bool:
		return map[bool]int64{true: 1}[v]
	case time.Time:
		return v.UTC().Format("2006-01-02 15:04:05.999999999")
	}
	return v
}
