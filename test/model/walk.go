package model

import (
	"fmt"
	"reflect"
	"strings"
	"time"
)

// A Leaf is one value of a structure that holds no others.
type Leaf struct {
	// Path leads to it through fields, without the places in lists:
	// "Schemas.Tables.Columns.Type.Native".
	Path string
	// Alter gives it another value.
	Alter func()
}

// Leaves lists the values below p, a pointer, of each path the first. A list and a
// pointer are leaves too: altered, they lose what they hold.
func Leaves(p any) []Leaf {
	var all []Leaf
	seen := map[string]bool{}
	walk(reflect.ValueOf(p).Elem(), "", func(v reflect.Value, path string) {
		if v.Kind() == reflect.Struct && v.Type() != reflect.TypeFor[time.Time]() || seen[path] {
			return
		}
		if k := v.Kind(); (k == reflect.Pointer || k == reflect.Slice) && v.IsNil() {
			return // holds nothing to lose
		}
		seen[path] = true
		all = append(all, Leaf{path, func() { alter(v) }})
	})
	return all
}

// walk visits v and all that it holds.
func walk(v reflect.Value, path string, visit func(reflect.Value, string)) {
	if path != "" {
		visit(v, path)
	}
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			if e := v.Elem(); e.Kind() == reflect.Struct {
				walkFields(e, path, visit)
			}
		}
	case reflect.Struct:
		walkFields(v, path, visit)
	case reflect.Slice:
		for i := range v.Len() {
			switch e := v.Index(i); {
			case e.Kind() == reflect.Pointer:
				walkFields(e.Elem(), path, visit)
			case e.Kind() == reflect.Struct:
				walkFields(e, path, visit)
			default:
				visit(e, path+"[]")
			}
		}
	}
}

func walkFields(v reflect.Value, path string, visit func(reflect.Value, string)) {
	if v.Type() == reflect.TypeFor[time.Time]() {
		return
	}
	for i := range v.NumField() {
		walk(v.Field(i), strings.TrimPrefix(path+"."+v.Type().Field(i).Name, "."), visit)
	}
}

func alter(v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Slice:
		v.SetZero()
	case reflect.String:
		v.SetString(v.String() + "x")
	case reflect.Float64:
		v.SetFloat(v.Float() + 1)
	case reflect.Bool:
		v.SetBool(!v.Bool())
	case reflect.Int, reflect.Int64:
		v.SetInt(v.Int() + 1)
	case reflect.Struct:
		v.Set(reflect.ValueOf(v.Interface().(time.Time).Add(time.Hour)))
	default:
		panic(fmt.Sprintf("a field of kind %s: say how it is altered", v.Kind()))
	}
}

// Shared lists the paths of what two structures of one shape have in common, so that
// altering the one alters the other: pointers, and lists with room of their own.
func Shared(a, b any) []string {
	var all []string
	shared(reflect.ValueOf(a), reflect.ValueOf(b), "", &all)
	return all
}

func shared(a, b reflect.Value, path string, all *[]string) {
	if a.Kind() != b.Kind() {
		return
	}
	switch a.Kind() {
	case reflect.Pointer:
		if a.IsNil() || b.IsNil() {
			return
		}
		if a.Pointer() == b.Pointer() {
			*all = append(*all, path)
			return
		}
		shared(a.Elem(), b.Elem(), path, all)
	case reflect.Slice:
		if a.Cap() > 0 && b.Cap() > 0 && a.Pointer() == b.Pointer() {
			*all = append(*all, path)
			return
		}
		for i := range min(a.Len(), b.Len()) {
			shared(a.Index(i), b.Index(i), fmt.Sprintf("%s[%d]", path, i), all)
		}
	case reflect.Map:
		if !a.IsNil() && a.Pointer() == b.Pointer() {
			*all = append(*all, path)
		}
	case reflect.Struct:
		if a.Type() == reflect.TypeFor[time.Time]() {
			return
		}
		for i := range a.NumField() {
			shared(a.Field(i), b.Field(i), path+"."+a.Type().Field(i).Name, all)
		}
	}
}

// Diff says where two values of one shape first differ, or "". A list that is empty and
// one that is nil are alike.
func Diff(a, b any) string {
	path, what := diff(reflect.ValueOf(a), reflect.ValueOf(b))
	if what == "" {
		return ""
	}
	return path + ": " + what
}

func diff(a, b reflect.Value) (path, what string) {
	differ := func() (string, string) { return "", show(a) + " and " + show(b) }
	switch a.Kind() {
	case reflect.Pointer:
		switch {
		case a.IsNil() != b.IsNil():
			return differ()
		case !a.IsNil() && a.Pointer() != b.Pointer():
			return diff(a.Elem(), b.Elem())
		}
	case reflect.Slice:
		if a.Len() != b.Len() {
			return differ()
		}
		for i := range a.Len() {
			if path, what = diff(a.Index(i), b.Index(i)); what != "" {
				return fmt.Sprintf("[%d]%s", i, path), what
			}
		}
	case reflect.Struct:
		if a.Type() == reflect.TypeFor[time.Time]() {
			if !a.Interface().(time.Time).Equal(b.Interface().(time.Time)) {
				return differ()
			}
			return "", ""
		}
		for i := range a.NumField() {
			if path, what = diff(a.Field(i), b.Field(i)); what != "" {
				name := ""
				if n := a.FieldByName("Name"); n.IsValid() && n.Kind() == reflect.String {
					name = "(" + n.String() + ")"
				}
				return name + "." + a.Type().Field(i).Name + path, what
			}
		}
	case reflect.Map, reflect.Func, reflect.Interface:
		if !reflect.DeepEqual(a.Interface(), b.Interface()) {
			return differ()
		}
	default:
		if !a.Equal(b) {
			return differ()
		}
	}
	return "", ""
}

// show writes a value in one line, without what is empty, so that two runs write the same.
func show(v reflect.Value) string {
	switch v.Kind() {
	case reflect.Pointer:
		if v.IsNil() {
			return "nil"
		}
		return show(v.Elem())
	case reflect.Struct:
		if t, ok := v.Interface().(time.Time); ok {
			return t.Format(time.RFC3339)
		}
		var fields []string
		for i := range v.NumField() {
			if f := v.Field(i); !f.IsZero() {
				fields = append(fields, v.Type().Field(i).Name+":"+show(f))
			}
		}
		return "{" + strings.Join(fields, " ") + "}"
	case reflect.Slice:
		var items []string
		for i := range v.Len() {
			items = append(items, show(v.Index(i)))
		}
		return "[" + strings.Join(items, " ") + "]"
	case reflect.Func:
		return "func"
	case reflect.String:
		return fmt.Sprintf("%q", v.String())
	}
	return fmt.Sprint(v)
}

// Differences lists all that differs between two values of one shape, a line each. What
// is in a list is told by its name, where it has one, so that a list that lost one in the
// middle differs in that one alone.
func Differences(a, b any) []string {
	var all []string
	differences(reflect.ValueOf(a), reflect.ValueOf(b), "", &all)
	return all
}

func differences(a, b reflect.Value, path string, all *[]string) {
	switch {
	case a.Kind() == reflect.Pointer && !a.IsNil() && !b.IsNil():
		differences(a.Elem(), b.Elem(), path, all)
	case a.Kind() == reflect.Struct && a.Type() != reflect.TypeFor[time.Time]():
		for i := range a.NumField() {
			differences(a.Field(i), b.Field(i), path+"."+a.Type().Field(i).Name, all)
		}
	case a.Kind() == reflect.Slice && hasNames(a.Type()):
		old, new := byName(a), byName(b)
		for i := range a.Len() {
			name := nameOf(a.Index(i))
			if v, ok := new[name]; ok {
				differences(a.Index(i), v, path+"("+name+")", all)
			} else {
				*all = append(*all, fmt.Sprintf("%s: - %s", path, show(a.Index(i))))
			}
		}
		for i := range b.Len() {
			if _, ok := old[nameOf(b.Index(i))]; !ok {
				*all = append(*all, fmt.Sprintf("%s: + %s, at %d", path, show(b.Index(i)), i))
			}
		}
	default:
		if _, what := diff(a, b); what != "" {
			*all = append(*all, path+": "+what)
		}
	}
}

func hasNames(t reflect.Type) bool {
	e := t.Elem()
	if e.Kind() == reflect.Pointer {
		e = e.Elem()
	}
	if e.Kind() != reflect.Struct {
		return false
	}
	f, ok := e.FieldByName("Name")
	return ok && f.Type.Kind() == reflect.String
}

func nameOf(v reflect.Value) string {
	if v.Kind() == reflect.Pointer {
		v = v.Elem()
	}
	return v.FieldByName("Name").String()
}

func byName(list reflect.Value) map[string]reflect.Value {
	all := map[string]reflect.Value{}
	for i := range list.Len() {
		all[nameOf(list.Index(i))] = list.Index(i)
	}
	return all
}
