package bigquery

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/standin/grammar"
)

// A node is a type, or a field of one.
type node struct {
	name, description string
	kind              string // INT64, STRUCT, ARRAY
	sizes             string // (10, 2)
	inner             []*node
}

var plainTypes = map[string]catalog.Family{"INT64": catalog.Integer, "FLOAT64": catalog.Float, "NUMERIC": catalog.Decimal, "BIGNUMERIC": catalog.Decimal, "BOOL": catalog.Boolean, "STRING": catalog.Text, "BYTES": catalog.Binary,
	"DATE": catalog.Date, "TIME": catalog.Time, "DATETIME": catalog.Timestamp, "TIMESTAMP": catalog.Timestamp, "INTERVAL": catalog.Interval, "JSON": catalog.JSON, "GEOGRAPHY": catalog.Other}

// nodeOf reads a type
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-types).
func nodeOf(c *grammar.Cursor) *node {
	n := &node{kind: strings.ToUpper(c.Word())}
	switch n.kind {
	case "ARRAY":
		c.Need("<")
		n.inner = []*node{nodeOf(c)}
		c.Need(">")
		if n.inner[0].kind == "ARRAY" {
			grammar.Fail(refuse("Arrays of arrays are not supported"))
		}
	case "STRUCT":
		c.Need("<")
		for {
			name := c.Name()
			f := nodeOf(c)
			f.name = name
			if c.Take("OPTIONS") {
				for _, o := range optionsOf(c) {
					if o.name == "description" {
						f.description = o.text()
					}
				}
			}
			n.inner = append(n.inner, f)
			if !c.Take(",") {
				break
			}
		}
		c.Need(">")
	default:
		if _, ok := plainTypes[n.kind]; !ok {
			grammar.Fail(refuse("Type not found: %s", n.kind))
		}
		if c.Is("(") {
			n.sizes = "(" + c.Bracketed() + ")"
		}
	}
	return n
}

// native is how the views write it.
func (n *node) native() string { return n.written(false) }

// declared has the descriptions of fields as well.
func (n *node) declared() string { return n.written(true) }

func (n *node) written(all bool) string {
	switch n.kind {
	case "ARRAY":
		return "ARRAY<" + n.inner[0].written(all) + ">"
	case "STRUCT":
		parts := make([]string, len(n.inner))
		for i, f := range n.inner {
			parts[i] = f.name + " " + f.written(all)
			if all && f.description != "" {
				parts[i] += " OPTIONS(description=" + strconv.Quote(f.description) + ")"
			}
		}
		return "STRUCT<" + strings.Join(parts, ", ") + ">"
	}
	return n.kind + n.sizes
}

// typ is what the machine keeps of it.
func (n *node) typ() catalog.Type {
	t := catalog.Type{Native: n.native(), Underlying: n.declared(), Family: catalog.Other}
	if n.kind == "ARRAY" {
		t.Family = catalog.Array
	}
	if f, ok := plainTypes[n.kind]; ok {
		t.Family = f
	}
	if t.Family == catalog.Integer {
		t.Bits = 64
	}
	if t.Family == catalog.Text || t.Family == catalog.Binary {
		fmt.Sscanf(n.sizes, "(%d", &t.Length)
	}
	return t
}

// fields visits the fields in a type by their paths.
func (n *node) fields(path string, visit func(path string, f *node)) {
	if n.kind == "ARRAY" {
		n.inner[0].fields(path, visit)
		return
	}
	for _, f := range n.inner {
		visit(path+"."+f.name, f)
		f.fields(path+"."+f.name, visit)
	}
}

// read reads the type of a column again.
func (p *Project) read(t catalog.Type) *node {
	var n *node
	if err := grammar.Read(func() { n = nodeOf(grammar.New(p.Lexis(), t.Underlying, asIs)) }); err != nil {
		return &node{kind: "STRING"}
	}
	return n
}

// An option is one of OPTIONS (name=value, ...), as it is written.
type option struct{ name, value string }

func (o option) text() string { return unescaped(o.value) }

func optionsOf(c *grammar.Cursor) []option {
	var all []option
	if c.Is("(", ")") {
		c.Bracketed()
		return nil
	}
	c.List(func() {
		name := c.Word()
		c.Need("=")
		value := ""
		if c.Is("[") { // a list, which may hold commas
			depth := 0
			var b strings.Builder
			for {
				t := c.Peek(0)
				b.WriteString(t.Text)
				if t.Is(",") {
					b.WriteString(" ")
				}
				c.Skip()
				if t.Is("[") {
					depth++
				} else if t.Is("]") {
					depth--
				}
				if depth == 0 || c.Done() {
					break
				}
			}
			value = b.String()
		} else {
			value = c.Until()
		}
		all = append(all, option{name, value})
	})
	return all
}

// known are the options of a table.
var known = []string{"description", "require_partition_filter", "partition_expiration_days", "expiration_timestamp", "friendly_name", "labels", "kms_key_name"}

// set gives a table options; NULL takes one away.
func set(t *catalog.Table, list []option) error {
	for _, o := range list {
		switch {
		case !slices.Contains(known, o.name):
			return refuse("Unknown option: %s", o.name)
		case o.name == "description":
			if t.Comment = ""; !strings.EqualFold(o.value, "NULL") {
				t.Comment = o.text()
			}
		case o.name == "require_partition_filter":
			if t.PartitionBy == nil {
				return refuse("require_partition_filter can only be set on partitioned tables")
			}
			t.PartitionBy.FilterRequired = strings.EqualFold(o.value, "true")
		default:
			t.Options = slices.DeleteFunc(t.Options, func(was string) bool { return strings.HasPrefix(was, o.name+"=") })
			if !strings.EqualFold(o.value, "NULL") {
				value := o.value
				if strings.HasPrefix(value, "'") || strings.HasPrefix(value, `"`) {
					value = strconv.Quote(o.text())
				}
				t.Options = append(t.Options, o.name+"="+value)
				slices.Sort(t.Options)
			}
		}
	}
	return nil
}

// unescaped is the text that a literal stands for
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/lexical#string_and_bytes_literals).
func unescaped(literal string) string {
	raw := false
	for len(literal) > 0 && literal[0] != '\'' && literal[0] != '"' {
		raw = raw || literal[0]|0x20 == 'r'
		literal = literal[1:]
	}
	n := 1
	if len(literal) >= 6 && literal[0] == literal[1] && literal[1] == literal[2] {
		n = 3
	}
	if len(literal) < 2*n {
		return literal
	}
	text := literal[n : len(literal)-n]
	if raw {
		return text
	}
	return escapes.Replace(text)
}

var escapes = strings.NewReplacer(`\\`, `\`, `\n`, "\n", `\r`, "\r", `\t`, "\t", `\'`, "'", `\"`, `"`, "\\`", "`")
