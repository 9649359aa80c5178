package sqlite

import (
	"encoding/binary"
	"errors"
)

// An object is a row of sqlite_schema.
type object struct {
	kind, name, on, text string
	root                 int64 // page where its tree begins; 0: it has none
}

// objects reads sqlite_schema, which begins on the first page, in the order of
// its rows. The engine would first understand every statement in it, which
// costs more than all the rest of a survey and is not needed for reading them.
func (t *trees) objects(row func(object) error) error {
	if t.encoding != utf8 {
		return errors.New("text is not kept as UTF-8")
	}
	t.record = func(record []byte) error {
		o, err := schemaRow(record)
		if err != nil {
			return err
		}
		return row(o)
	}
	defer func() { t.record = nil }()
	_, err := t.count(1)
	return err
}

var errRecord = errors.New("a row of sqlite_schema is not understood")

// schemaRow takes apart a record of the columns type, name, tbl_name,
// rootpage, sql (https://www.sqlite.org/fileformat2.html section 2.1).
func schemaRow(record []byte) (o object, err error) {
	size, n := varint(record)
	if n == 0 || size < int64(n) || size > int64(len(record)) {
		return o, errRecord
	}
	types, values := record[n:size], record[size:]
	texts := [5]*string{0: &o.kind, 1: &o.name, 2: &o.on, 4: &o.text}
	for i := range texts {
		kind, n := varint(types)
		if n == 0 || kind < 0 {
			return o, errRecord
		}
		types = types[n:]
		size := sizeOf(kind)
		if size > int64(len(values)) {
			return o, errRecord
		}
		value := values[:size]
		values = values[size:]
		switch {
		case kind == 0: // null
		case i == 3 && kind < 10:
			o.root = number(kind, value)
		case i != 3 && kind >= 13 && kind%2 == 1:
			*texts[i] = string(value)
		default:
			return o, errRecord
		}
	}
	return o, nil
}

// sizeOf is how many bytes a value of the serial type takes.
func sizeOf(kind int64) int64 {
	switch {
	case kind < 5:
		return kind
	case kind == 5:
		return 6
	case kind < 8:
		return 8
	case kind < 12:
		return 0
	}
	return (kind - 12) / 2
}

// number reads a whole number of the serial type.
func number(kind int64, value []byte) int64 {
	if kind == 8 || kind == 9 {
		return kind - 8
	}
	var wide [8]byte
	if len(value) > 0 && value[0] >= 0x80 {
		for i := range wide {
			wide[i] = 0xff
		}
	}
	copy(wide[8-len(value):], value)
	return int64(binary.BigEndian.Uint64(wide[:]))
}

// varint reads a number of variable length and says how many bytes it took; 0
// where it does not end.
func varint(text []byte) (value int64, n int) {
	var v uint64
	for i, b := range text {
		if i == 8 {
			return int64(v<<8 | uint64(b)), 9
		}
		v = v<<7 | uint64(b&0x7f)
		if b < 0x80 {
			return int64(v), i + 1
		}
	}
	return 0, 0
}
