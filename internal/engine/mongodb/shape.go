package mongodb

import (
	"bytes"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"go.mongodb.org/mongo-driver/v2/bson"
)

// Types of values, as queries name them
// (https://www.mongodb.com/docs/manual/reference/bson-types/).
const (
	ofNull   = "null"
	ofObject = "object"
	ofArray  = "array"
	ofUUID   = "uuid" // binary data of subtype 4
)

var aliases = map[bson.Type]string{bson.TypeDouble: "double", bson.TypeString: "string", bson.TypeEmbeddedDocument: ofObject, bson.TypeArray: ofArray, bson.TypeBinary: "binData", bson.TypeUndefined: "undefined",
	bson.TypeObjectID: "objectId", bson.TypeBoolean: "bool", bson.TypeDateTime: "date", bson.TypeNull: ofNull, bson.TypeRegex: "regex", bson.TypeDBPointer: "dbPointer", bson.TypeJavaScript: "javascript", bson.TypeSymbol: "symbol",
	bson.TypeCodeWithScope: "javascriptWithScope", bson.TypeInt32: "int", bson.TypeTimestamp: "timestamp", bson.TypeInt64: "long", bson.TypeDecimal128: "decimal", bson.TypeMinKey: "minKey", bson.TypeMaxKey: "maxKey"}

func aliasOf(v bson.RawValue) string {
	if v.Type == bson.TypeBinary {
		if subtype, _, ok := v.BinaryOK(); ok && subtype == 4 {
			return ofUUID
		}
	}
	return aliases[v.Type]
}

// How many names one level may have, each of them rare, before they are taken for values: as where
// days or stations name the fields.
const (
	mostNames = 64
	rare      = 0.1
	mostKept  = 4000 // names that are told apart while documents are looked at
	everyName = "*"
)

// A shape is what the documents of a collection have in common, or the objects that a field holds.
type shape struct {
	n      int64 // how many were looked at
	fields map[string]*field
	order  []string // as they were met
	folded bool     // names are values, beyond those that are there
}

// A field is one name of a shape.
type field struct {
	seen    int64            // objects that have it, null or not
	types   map[string]int64 // of its values, and of the elements of a list those of the list
	inner   *shape           // of the objects that it holds
	element *field           // of the lists that it holds
	longest int64            // elements of the longest list
}

func newShape() *shape { return &shape{fields: map[string]*field{}} }

func newField() *field { return &field{types: map[string]int64{}} }

// add looks at a document.
func (s *shape) add(doc bson.Raw) {
	s.n++
	elements, err := doc.Elements()
	if err != nil {
		return
	}
	several := map[*field]bool{}
	for _, e := range elements {
		key, err := e.KeyErr()
		if err != nil {
			continue
		}
		f := s.field(key)
		if several[f] { // names that are values count once a document
			f.value(e.Value())
			continue
		}
		several[f] = true
		f.seen++
		f.value(e.Value())
	}
}

func (s *shape) field(name string) *field {
	f := s.fields[name]
	if f == nil && s.folded {
		name = everyName
		f = s.fields[name]
	}
	if f == nil {
		f = newField()
		s.fields[name] = f
		s.order = append(s.order, name)
		if len(s.order) > mostKept {
			s.fold()
			return s.field(name)
		}
	}
	return f
}

// likeValue are names that are days, numbers or identifiers.
var likeValue = regexp.MustCompile(`^([0-9]+|[0-9]{4}-[0-9]{2}(-[0-9]{2}.*)?|[0-9a-f]{24}|[0-9a-f]{8}-[0-9a-f]{4}-.*|.*[^0-9][0-9]{3,})$`)

// fold puts the rare names of a level that has very many together: they are values.
func (s *shape) fold() {
	var few []string
	for _, name := range s.order {
		if f := s.fields[name]; name != everyName && (float64(f.seen) < rare*float64(s.n) || likeValue.MatchString(name)) {
			few = append(few, name)
		}
	}
	if len(few) <= mostNames {
		return
	}
	all := s.fields[everyName]
	if all == nil {
		all = newField()
		s.fields[everyName] = all
		s.order = append(s.order, everyName)
	}
	for _, name := range few {
		all.merge(s.fields[name])
		delete(s.fields, name)
	}
	s.order = slices.DeleteFunc(s.order, func(name string) bool { return s.fields[name] == nil })
	s.folded = true
}

// merge adds what is known of another field.
func (f *field) merge(o *field) {
	f.seen += o.seen
	for kind, n := range o.types {
		f.types[kind] += n
	}
	f.longest = max(f.longest, o.longest)
	if o.inner != nil {
		if f.inner == nil {
			f.inner = newShape()
		}
		f.inner.n += o.inner.n
		for _, name := range o.inner.order {
			f.inner.field(name).merge(o.inner.fields[name])
		}
	}
	if o.element != nil {
		if f.element == nil {
			f.element = newField()
		}
		f.element.merge(o.element)
	}
}

// value looks at one.
func (f *field) value(v bson.RawValue) {
	f.types[aliasOf(v)]++
	switch v.Type {
	case bson.TypeEmbeddedDocument:
		if f.inner == nil {
			f.inner = newShape()
		}
		f.inner.add(v.Document())
	case bson.TypeArray:
		if f.element == nil {
			f.element = newField()
		}
		values, err := v.Array().Values()
		if err != nil {
			return
		}
		f.longest = max(f.longest, int64(len(values)))
		for _, e := range values {
			f.element.seen++
			f.element.value(e)
		}
	}
}

// plain is a value as text: identifiers of both kinds alike, moments in UTC. False: it is no plain
// value.
func plain(v bson.RawValue) (string, bool) {
	switch v.Type {
	case bson.TypeString:
		return v.StringValue(), true
	case bson.TypeObjectID:
		return v.ObjectID().Hex(), true
	case bson.TypeInt32:
		return strconv.FormatInt(int64(v.Int32()), 10), true
	case bson.TypeInt64:
		return strconv.FormatInt(v.Int64(), 10), true
	case bson.TypeDouble:
		return strconv.FormatFloat(v.Double(), 'g', -1, 64), true
	case bson.TypeDecimal128:
		return v.Decimal128().String(), true
	case bson.TypeBoolean:
		return map[bool]string{true: "1", false: "0"}[v.Boolean()], true
	case bson.TypeDateTime:
		return v.Time().UTC().Format("2006-01-02 15:04:05.000"), true
	case bson.TypeBinary:
		if subtype, data := v.Binary(); subtype == 4 && len(data) == 16 {
			return uuid(data), true
		}
	case bson.TypeSymbol:
		return v.Symbol(), true
	}
	return "", false
}

const hexDigits = "0123456789abcdef"

func uuid(data []byte) string {
	var b bytes.Buffer
	for i, c := range data {
		if i == 4 || i == 6 || i == 8 || i == 10 {
			b.WriteByte('-')
		}
		b.WriteByte(hexDigits[c>>4])
		b.WriteByte(hexDigits[c&15])
	}
	return b.String()
}

// finish folds what is to be folded, all the way down.
func (s *shape) finish() {
	s.fold()
	for _, f := range s.fields {
		for e := f; e != nil; e = e.element {
			if e.inner != nil {
				e.inner.finish()
			}
		}
	}
}

// step is a name as part of a path: a dot in it is no step.
func step(name string) string {
	if name == "" {
		return `""`
	}
	return strings.NewReplacer(`\`, `\\`, `.`, `\.`).Replace(name)
}

// join is the path to a field below another.
func join(prefix, name string) string {
	if prefix == "" {
		return step(name)
	}
	return prefix + "." + step(name)
}
