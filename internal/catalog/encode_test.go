package catalog

import (
	"bytes"
	"encoding/json"
	"reflect"
	"testing"

	"nexdal/internal/text"
	"time"
)

// nested: fill is within something that may hold more of its own kind.
var nested bool

// fill sets every exported field below v, so that no member of the survey
// file can be forgotten; empty leaves every second one as it is.
func fill(v reflect.Value, empty bool, n *int) {
	*n++
	if v.Type() == reflect.TypeFor[[]*Partition]() || v.Type() == reflect.TypeFor[*PartitionKey]() { // these hold themselves
		if nested {
			return
		}
		nested = true
		defer func() { nested = false }()
	}
	if empty && *n%2 == 0 && v.Kind() != reflect.Struct {
		return
	}
	switch v.Kind() {
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		fill(v.Elem(), empty, n)
	case reflect.Struct:
		if v.Type() == reflect.TypeFor[time.Time]() {
			v.Set(reflect.ValueOf(time.Date(2026, 11, 23, 8, 0, *n%60, 0, time.UTC)))
			return
		}
		for i := range v.NumField() {
			fill(v.Field(i), empty, n)
		}
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 2, 2))
		for i := range 2 {
			if item := v.Index(i); item.Kind() == reflect.Pointer {
				item.Set(reflect.New(item.Type().Elem())) // a list holds no nil
				fill(item.Elem(), empty, n)
			} else {
				fill(item, empty, n)
			}
		}
	case reflect.Map:
		v.Set(reflect.MakeMap(v.Type()))
		for _, name := range []string{"b <&>", "a\"\n\x01é\u2028"} {
			item := reflect.New(v.Type().Elem()).Elem()
			fill(item, false, n)
			v.SetMapIndex(reflect.ValueOf(name), item)
		}
	case reflect.String:
		v.SetString([]string{"plain", "q\"uo\\te", "line\nfeed\t\x00\x7f", "é😀\u2028 <b>&", "bad\xff"}[*n%5])
	case reflect.Float64:
		v.SetFloat(float64(*n) / 7)
	case reflect.Bool:
		v.SetBool(true)
	case reflect.Int, reflect.Int64:
		v.SetInt(int64(*n))
	}
}

// TestEncode holds the hand-written encoder to what the standard one makes of
// the same struct tags.
func TestEncode(t *testing.T) {
	for _, empty := range []bool{false, true} {
		for start := range 7 {
			s, n := survey{}, start
			fill(reflect.ValueOf(&s).Elem(), empty, &n)
			if s.Schemas == nil {
				s.Schemas = []*Schema{} // as Write makes sure
			}
			if s.Statistics != nil && s.Statistics.Tables == nil {
				s.Statistics.Tables = []tableFigures{}
			}
			s.Format = 1
			if start == 6 && len(s.Schemas) > 0 { // enough to be written on several cores
				for range 123 {
					s.Schemas[0].Tables = append(s.Schemas[0].Tables, s.Schemas[0].Tables...)[:min(2*len(s.Schemas[0].Tables), 777)]
				}
			}
			var want, laidOut, got bytes.Buffer
			e := json.NewEncoder(&want)
			e.SetEscapeHTML(false)
			if err := e.Encode(s); err != nil {
				t.Fatal(err)
			}
			if err := s.encode(&laidOut); err != nil {
				t.Fatal(err)
			}
			if err := json.Compact(&got, laidOut.Bytes()); err != nil {
				t.Fatal(err)
			}
			want.Truncate(want.Len() - 1) // the line feed
			want = *bytes.NewBuffer(text.JSON(want.Bytes()))
			if !bytes.Equal(got.Bytes(), want.Bytes()) {
				a, b := bytes.Split(got.Bytes(), []byte(",")), bytes.Split(want.Bytes(), []byte(","))
				for i := range min(len(a), len(b)) {
					if !bytes.Equal(a[i], b[i]) {
						t.Fatalf("start %d, member %d:\n%s\n%s", start, i+1, a[i], b[i])
					}
				}
				t.Fatal("one is shorter than the other")
			}
		}
	}
}
