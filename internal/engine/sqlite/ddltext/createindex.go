package ddltext

import (
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// indexText is a CREATE INDEX statement, understood
// (https://www.sqlite.org/lang_createindex.html).
type indexText struct {
	unique    bool
	parts     []indexPartText
	predicate string
}

// indexPartText is one part: a name, or else an expression.
type indexPartText struct {
	name       string
	expression string
	collation  string
	descending bool
}

// ParseIndex reads the statement as the engine stored it; nil where it is not
// understood.
func ParseIndex(text string) *indexText {
	buffer := tokenBuffers.Get().(*[]sqllex.Token)
	defer tokenBuffers.Put(buffer)
	*buffer = (Texts{}).Dialect().AppendMeaning((*buffer)[:0], text)
	tokens := *buffer
	at := 0
	for at < len(tokens) && !tokens[at].Is("on") {
		at++
	}
	x := &indexText{unique: len(tokens) > 1 && tokens[1].Is("unique")}
	depth, from := 0, 0
	for i := at + 2; i < len(tokens); i++ {
		t := tokens[i]
		switch {
		case t.Is("("):
			if depth++; depth == 1 {
				from = i + 1
			}
		case depth == 1 && (t.Is(",") || t.Is(")")):
			if i == from {
				return nil
			}
			x.parts = append(x.parts, partOf(text, tokens[from:i]))
			from = i + 1
			if t.Is(")") {
				depth--
			}
		case t.Is(")"):
			depth--
		case depth == 0 && t.Is("where") && i+1 < len(tokens):
			x.predicate = text[tokens[i+1].Start:tokens[len(tokens)-1].End]
			return x
		}
	}
	if len(x.parts) == 0 {
		return nil
	}
	return x
}

func partOf(text string, tokens []sqllex.Token) indexPartText {
	var p indexPartText
	n := len(tokens)
	if n > 1 && (tokens[n-1].Is("asc") || tokens[n-1].Is("desc")) {
		n--
		p.descending = tokens[n].Is("desc")
	}
	if n > 2 && tokens[n-2].Is("collate") {
		n -= 2
		p.collation = tokens[n+1].Name()
	}
	if n == 1 && (tokens[0].Kind == sqllex.Word || tokens[0].Kind == sqllex.Quoted) {
		p.name = tokens[0].Name()
	}
	p.expression = text[tokens[0].Start:tokens[n-1].End]
	return p
}

// AddText adds to an index what only its text says: expressions and predicate.
func AddText(x *catalog.Index, text *indexText) {
	if text == nil {
		return
	}
	x.Predicate = text.predicate
	for i := range x.Parts {
		if x.Parts[i].Column == "" && i < len(text.parts) {
			x.Parts[i].Expression = text.parts[i].expression
		}
	}
}

// Index makes the index that the text describes; ok is false where some part
// is no plain column, and only the engine knows its collation.
func (text *indexText) Index(t *catalog.Table, name, definition string) (x *catalog.Index, ok bool) {
	if text == nil {
		return nil, false
	}
	x = &catalog.Index{Name: name, Origin: catalog.ByPerson, Method: "btree", Unique: text.unique, Predicate: text.predicate, Definition: definition}
	for _, p := range text.parts {
		c := ColumnOf(t, p.name)
		if c == nil {
			return nil, false
		}
		part := catalog.IndexPart{Column: c.Name, Descending: p.descending}
		if p.collation != "" && !strings.EqualFold(p.collation, c.Type.Collation) && !(c.Type.Collation == "" && strings.EqualFold(p.collation, "binary")) {
			part.Collation = strings.ToUpper(p.collation)
		}
		x.Parts = append(x.Parts, part)
	}
	return x, true
}

// ColumnOf finds a column by name, without regard to case, as the engine does.
func ColumnOf(t *catalog.Table, name string) *catalog.Column {
	if name == "" {
		return nil
	}
	for _, c := range t.Columns {
		if strings.EqualFold(c.Name, name) {
			return c
		}
	}
	return nil
}
