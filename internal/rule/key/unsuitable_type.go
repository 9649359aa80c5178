package key

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

// longKey is how many letters a text of a key may have; addresses of mail and
// pages have fewer.
const longKey = 1000

var UnsuitableType = &rule.Rule{
	ID:          "key/unsuitable-type",
	Title:       "key on a column of a type that makes a poor key",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Doc: `A primary or unique key holds a column of floating point, of a document or array, of binary data without a small bound, or of text of over 1,000 letters.

Two floating-point numbers that look the same need not be equal, so that the key keeps apart what people take for one value, and a reference to it may find nothing. Long values make every index and every reference to them long.

Leave it alone where the values are short in fact, such as digests.

There is no fix: what the key should be is up to you.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, k := range t.Keys() {
				for _, name := range k.Columns {
					c := t.Column(name)
					if c == nil {
						continue
					}
					if why := unsuitable(c.Type); why != "" {
						p.Report(rule.Finding{Table: t.Ref(), Object: label(t, k), Columns: []string{name}, Part: name,
							Message: fmt.Sprintf("the %s holds \"%s\" (%s): %s", kindOf(t, k), name, c.Type.Native, why),
							Advice:  "choose another key: a number, a short code, or an identifier of fixed length"})
					}
				}
			}
		}
		return nil
	},
}

func unsuitable(t catalog.Type) string {
	switch {
	case t.Family == catalog.Float:
		return "numbers that look the same need not be equal"
	case t.Family == catalog.JSON || t.Family == catalog.Array:
		return "the whole document is compared, and what means the same can be written in several ways"
	case t.Family == catalog.Binary && t.Length > 64:
		return "every index and every reference repeats the whole of it"
	case t.Family == catalog.Text && t.Length > longKey:
		return fmt.Sprintf("every index and every reference repeats up to %d letters", t.Length)
	}
	return ""
}

// label names a key: its name, or else its columns.
func label(t *catalog.Table, k *catalog.Key) string {
	if k.Name != "" {
		return k.Name
	}
	return t.Name
}

func kindOf(t *catalog.Table, k *catalog.Key) string {
	if k == t.PrimaryKey {
		return "primary key"
	}
	return "unique key"
}
