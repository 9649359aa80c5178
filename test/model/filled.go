// Package model makes catalogs for tests and takes them apart again: catalogs in
// which every field is set, random ones that hold together, and walks over all
// fields, so that a test speaks of the whole model without naming its parts.
package model

import (
	"fmt"
	"reflect"
	"time"

	"nexdal/internal/catalog"
)

// Filled returns a catalog in which every exported field is set, every list holds
// two, every name is there once, and every reference names the first schema.
func Filled() *catalog.Catalog {
	c := &catalog.Catalog{}
	f := filler{depth: map[reflect.Type]int{}}
	f.fill(reflect.ValueOf(c).Elem())
	c.Schemas[0].Name = "saltmere"
	for _, s := range c.Schemas {
		for _, t := range s.Tables {
			t.Schema = s.Name
		}
	}
	c.Sort()
	return c
}

// filler sets fields to values that differ from one another.
type filler struct {
	n     int
	depth map[reflect.Type]int // how deep it is in lists and pointers of a type: some hold their own kind
}

func (f *filler) fill(v reflect.Value) {
	f.n++
	switch v.Kind() {
	case reflect.Pointer, reflect.Slice:
		if f.depth[v.Type()] == 2 {
			return
		}
		f.depth[v.Type()]++
		defer func() { f.depth[v.Type()]-- }()
		if v.Kind() == reflect.Pointer {
			v.Set(reflect.New(v.Type().Elem()))
			f.fill(v.Elem())
			return
		}
		v.Set(reflect.MakeSlice(v.Type(), 2, 2))
		for i := range 2 {
			f.fill(v.Index(i))
		}
	case reflect.Struct:
		if v.Type() == reflect.TypeFor[time.Time]() {
			v.Set(reflect.ValueOf(time.Date(2026, 11, 23, 8, 0, f.n, 0, time.UTC)))
			return
		}
		for i := range v.NumField() {
			if v.Type().Field(i).Name == "Schema" {
				v.Field(i).SetString("saltmere")
			} else {
				f.fill(v.Field(i))
			}
		}
	case reflect.String:
		v.SetString(fmt.Sprintf("n%06d", f.n))
	case reflect.Float64:
		v.SetFloat(float64(f.n) / 8)
	case reflect.Bool:
		v.SetBool(true)
	case reflect.Int, reflect.Int64:
		v.SetInt(int64(f.n))
	default:
		panic(fmt.Sprintf("a field of kind %s: say how it is filled", v.Kind()))
	}
}
