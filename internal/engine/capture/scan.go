package capture

import (
	"fmt"
	"reflect"
	"strconv"
)

// Scan puts the values of a row where they are wanted, each by put; a null only into a pointer or
// a list.
func Scan(row [][]byte, put func(i int, into any) error, into ...any) error {
	if len(into) != len(row) {
		return fmt.Errorf("%d values, and %d are wanted", len(row), len(into))
	}
	for i, p := range into {
		if row[i] != nil {
			if err := put(i, p); err != nil {
				return fmt.Errorf("value %d: %w", i+1, err)
			}
			continue
		}
		to := reflect.ValueOf(p).Elem()
		if to.Kind() != reflect.Pointer && to.Kind() != reflect.Slice {
			return fmt.Errorf("value %d is null", i+1)
		}
		to.SetZero()
	}
	return nil
}

// Scanner puts the values of a row where they are wanted, by Put.
func Scanner(row [][]byte) func(into ...any) error {
	return func(into ...any) error {
		return Scan(row, func(i int, p any) error { return Put(row[i], p) }, into...)
	}
}

// Put reads a value as what it is wanted as: a text, a number or a truth.
func Put(value []byte, into any) error {
	to := reflect.ValueOf(into).Elem()
	switch text := string(value); {
	case to.Kind() == reflect.Pointer:
		to.Set(reflect.New(to.Type().Elem()))
		return Put(value, to.Interface())
	case to.Kind() == reflect.String:
		to.SetString(text)
	case to.Kind() == reflect.Bool:
		to.SetBool(text == "1" || text == "t" || text == "true")
	case to.CanInt():
		n, err := strconv.ParseInt(text, 10, to.Type().Bits())
		if err != nil {
			return err
		}
		to.SetInt(n)
	case to.CanFloat():
		f, err := strconv.ParseFloat(text, to.Type().Bits())
		if err != nil {
			return err
		}
		to.SetFloat(f)
	default:
		return fmt.Errorf("nothing is read into a %T", into)
	}
	return nil
}

// Texts are the values of a row as texts, nil where they are null.
func Texts(row [][]byte) []*string {
	texts := make([]*string, len(row))
	for i, v := range row {
		if v != nil {
			text := string(v)
			texts[i] = &text
		}
	}
	return texts
}
