package sqlserver

import (
	"database/sql/driver"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"modernc.org/sqlite"

	"nexdal/internal/catalog"
	"nexdal/internal/standin"
	"nexdal/internal/standin/grammar"
)

// What SQLite lacks of the engine's functions
// (https://learn.microsoft.com/en-us/sql/t-sql/functions/functions).
func init() {
	for name, f := range map[string]func(args []driver.Value) (driver.Value, error){
		"nexdal_convert": convert, "nexdal_len": letters, "nexdal_left": left, "nexdal_right": right, "nexdal_charindex": charIndex, "nexdal_quotename": quoteName, "nexdal_datediff": dateDiff, "nexdal_string_escape": stringEscape,
	} {
		sqlite.MustRegisterDeterministicScalarFunction(name, -1, func(_ *sqlite.FunctionContext, args []driver.Value) (driver.Value, error) { return f(args) })
	}
	for name, f := range map[string]func(d *database, args []driver.Value) driver.Value{
		"nexdal_db_name":   func(d *database, _ []driver.Value) driver.Value { return d.Catalog.Database },
		"nexdal_db_id":     func(*database, []driver.Value) driver.Value { return int64(5) },
		"nexdal_object_id": objectID, "nexdal_serverproperty": property,
		"nexdal_stats_date": func(*database, []driver.Value) driver.Value { return "2026-11-01 00:00:00" },
		"nexdal_has_perms":  func(*database, []driver.Value) driver.Value { return int64(1) },
	} {
		standin.Function(name, func(m *standin.Machine, args []driver.Value) (driver.Value, error) {
			return f(m.Kind().(*database), args), nil
		})
	}
}

func objectID(d *database, args []driver.Value) driver.Value {
	name, _ := args[0].(string)
	var ref catalog.Ref
	if grammar.Read(func() { ref = grammar.New(d.Lexis(), name, func(n string) string { return n }).Ref("dbo") }) != nil {
		return nil
	}
	if d.Catalog.Table(ref) != nil {
		return int64(d.id("table", ref.Schema, ref.Table))
	}
	if s := d.Catalog.Schema(ref.Schema); s != nil {
		for _, q := range s.Sequences {
			if q.Name == ref.Table {
				return int64(d.id("sequence", ref.Schema, ref.Table))
			}
		}
	}
	return nil
}

func property(d *database, args []driver.Value) driver.Value {
	switch name, _ := args[0].(string); strings.ToLower(name) {
	case "productversion":
		return productVersion
	case "productmajorversion":
		major, _, _ := strings.Cut(productVersion, ".")
		return major
	case "edition":
		return d.server.edition.Name
	case "engineedition":
		return fmt.Sprint(d.server.edition.Code)
	}
	return nil
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
		return strconv.FormatFloat(v, 'g', -1, 64)
	case time.Time:
		return v.Format("2006-01-02 15:04:05.999999999")
	}
	return fmt.Sprint(v)
}

// letters leaves out blanks at the end, as LEN does, and counts what lies beyond U+FFFF twice, where
// no collation says otherwise
// (https://learn.microsoft.com/en-us/sql/t-sql/functions/len-transact-sql).
func letters(args []driver.Value) (driver.Value, error) {
	if args[0] == nil {
		return nil, nil
	}
	return int64(len(utf16le(strings.TrimRight(asText(args[0]), " "))) / 2), nil
}

func left(args []driver.Value) (driver.Value, error) {
	if args[0] == nil {
		return nil, nil
	}
	r, n := []rune(asText(args[0])), int(args[1].(int64))
	return string(r[:min(n, len(r))]), nil
}

func right(args []driver.Value) (driver.Value, error) {
	if args[0] == nil {
		return nil, nil
	}
	r, n := []rune(asText(args[0])), int(args[1].(int64))
	return string(r[max(0, len(r)-n):]), nil
}

func charIndex(args []driver.Value) (driver.Value, error) {
	if args[0] == nil || args[1] == nil {
		return nil, nil
	}
	i := strings.Index(asText(args[1]), asText(args[0]))
	if i < 0 {
		return int64(0), nil
	}
	return int64(utf8.RuneCountInString(asText(args[1])[:i]) + 1), nil
}

func quoteName(args []driver.Value) (driver.Value, error) {
	if args[0] == nil {
		return nil, nil
	}
	return bracket(asText(args[0])), nil
}

// stringEscape: https://learn.microsoft.com/en-us/sql/t-sql/functions/string-escape-transact-sql.
func stringEscape(args []driver.Value) (driver.Value, error) {
	if args[0] == nil {
		return nil, nil
	}
	if len(args) != 2 || asText(args[1]) != "json" {
		return nil, fmt.Errorf("STRING_ESCAPE knows json alone")
	}
	var b strings.Builder
	for _, r := range asText(args[0]) {
		switch at := strings.IndexRune("\"\\/\b\f\n\r\t", r); {
		case at >= 0:
			b.WriteByte('\\')
			b.WriteByte(`"\/bfnrt`[at])
		case r < ' ':
			fmt.Fprintf(&b, `\u%04x`, r)
		default:
			b.WriteRune(r)
		}
	}
	return b.String(), nil
}

func dateDiff(args []driver.Value) (driver.Value, error) {
	from, err := momentOf(asText(args[1]))
	if err != nil {
		return nil, err
	}
	to, err := momentOf(asText(args[2]))
	if err != nil {
		return nil, err
	}
	unit := map[string]time.Duration{"second": time.Second, "minute": time.Minute, "hour": time.Hour, "day": 24 * time.Hour}[strings.ToLower(asText(args[0]))]
	if unit == 0 {
		return nil, fmt.Errorf("DATEDIFF by %v is not known", args[0])
	}
	return int64(to.Sub(from) / unit), nil
}

// convert makes a value of the named type, or fails: with the first argument 1 it is null then
// (https://learn.microsoft.com/en-us/sql/t-sql/functions/cast-and-convert-transact-sql).
func convert(args []driver.Value) (driver.Value, error) {
	if args[2] == nil {
		return nil, nil
	}
	v, err := converted(asText(args[1]), args[2], args[3])
	if err != nil && args[0] == int64(1) {
		return nil, nil
	}
	return v, err
}

func converted(native string, v, style driver.Value) (driver.Value, error) {
	base, rest, _ := strings.Cut(native, "(")
	k := kindOf(base)
	if k == nil {
		return v, nil
	}
	sizes := strings.Split(strings.TrimSuffix(rest, ")"), ",")
	text := strings.TrimSpace(asText(v))
	failed := func() (driver.Value, error) {
		return nil, fmt.Errorf("conversion failed when converting the value '%s' to data type %s", text, native)
	}
	switch k.family {
	case catalog.Integer, catalog.Boolean:
		return whole(k, text, failed)
	case catalog.Float, catalog.Decimal:
		if text == "" {
			if k.family == catalog.Decimal {
				return failed()
			}
			return 0.0, nil
		}
		f, err := strconv.ParseFloat(text, 64)
		if err != nil {
			return failed()
		}
		if k.family == catalog.Decimal {
			return exact(base, sizes, f, failed)
		}
		return f, nil
	case catalog.Text:
		return lettered(k, rest, sizes, v, style)
	case catalog.Date, catalog.Timestamp, catalog.Time:
		return dated(base, sizes, text, failed)
	case catalog.UUID:
		return strings.ToUpper(text), nil
	}
	return v, nil
}

func whole(k *kind, text string, failed func() (driver.Value, error)) (driver.Value, error) {
	if text == "" {
		return int64(0), nil
	}
	f, err := strconv.ParseFloat(text, 64)
	if err != nil || strings.ContainsAny(text, "eE") {
		return failed()
	}
	if k.family == catalog.Boolean {
		return map[bool]int64{true: 1}[f != 0], nil
	}
	n, err := strconv.ParseInt(text, 10, 64)
	if err != nil {
		n = int64(f)
	}
	bits := uint(8 * k.bytes)
	low, high := int64(-1)<<(bits-1), int64(1)<<(bits-1)-1
	if k.name == "tinyint" {
		low, high = 0, 255
	}
	if n < low || n > high || math.Abs(f) > 9.3e18 {
		return failed()
	}
	return n, nil
}

// exact rounds to the digits of a decimal.
func exact(base string, sizes []string, f float64, failed func() (driver.Value, error)) (driver.Value, error) {
	precision, scale := 19, 4
	switch base {
	case "smallmoney":
		precision = 10
	case "decimal", "numeric":
		precision, _ = strconv.Atoi(sizes[0])
		scale, _ = strconv.Atoi(sizes[len(sizes)-1])
	}
	if math.Abs(f) >= math.Pow10(precision-scale) {
		return failed()
	}
	rounded := math.Round(f*math.Pow10(scale)) / math.Pow10(scale)
	if scale == 0 {
		return int64(rounded), nil
	}
	return rounded, nil
}

func lettered(k *kind, rest string, sizes []string, v, style driver.Value) (driver.Value, error) {
	text := asText(v)
	if b, ok := v.([]byte); ok && style == int64(0) && strings.HasPrefix(k.name, "n") {
		text = fromUTF16(b)
	} else if ok {
		text = fmt.Sprintf("0x%X", b)
	}
	if style == int64(126) && len(text) > 10 && text[10] == ' ' {
		text = text[:10] + "T" + text[11:]
	}
	if n, err := strconv.Atoi(sizes[0]); err == nil && rest != "" {
		if r := []rune(text); len(r) > n {
			text = string(r[:n])
		} else if k.name == "char" || k.name == "nchar" {
			text += strings.Repeat(" ", n-len(r))
		}
	}
	return text, nil
}

func dated(base string, sizes []string, text string, failed func() (driver.Value, error)) (driver.Value, error) {
	if base == "time" {
		return text, nil
	}
	var at time.Time
	var err error
	for _, layout := range []string{"2006-01-02 15:04:05.999999999", time.DateOnly, "20060102", "2006-01-02T15:04:05.999999999", "2006-01-02 15:04", "2006-01-02 15:04:05.999999999 -07:00"} {
		if at, err = time.Parse(layout, text); err == nil {
			break
		}
	}
	if err != nil {
		return failed()
	}
	switch base {
	case "date":
		return at.Format(time.DateOnly), nil
	case "smalldatetime":
		return at.Round(time.Minute).Format("2006-01-02 15:04:05"), nil
	case "datetime":
		return at.Format("2006-01-02 15:04:05.999"), nil
	case "datetimeoffset":
		return at.Format("2006-01-02 15:04:05.9999999 -07:00"), nil
	}
	digits := 7
	if n, err := strconv.Atoi(sizes[0]); err == nil {
		digits = n
	}
	return at.Round(time.Duration(math.Pow10(9 - digits))).Format("2006-01-02 15:04:05.9999999"), nil
}
