package grammar

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// cursor is one over the text, in a dialect where a bare name stands for its small letters.
func cursor(text string) *Cursor {
	return New(sqllex.Dialect{Brackets: true, DoubledBracket: true, National: true}, text, strings.ToLower)
}

// TestReads: what each method gives of a text, or near what it gives up and what it wanted there.
func TestReads(t *testing.T) {
	for _, x := range []struct {
		text string
		read func(c *Cursor) any
		want string // "! NEAR: WANTED" where it gives up
		rest string // what is left then
	}{
		{"CREATE /* a */ TABLE t", func(c *Cursor) any { return c.Take("create", "table") }, "true", "t"},
		{"CREATE VIEW v", func(c *Cursor) any { return c.Take("create", "table") }, "false", "CREATE VIEW v"},
		{"CREATE", func(c *Cursor) any { return c.Take("create", "table") }, "false", "CREATE"},
		{"ALTER TABLE t", func(c *Cursor) any { c.Need("alter", "table"); return "" }, "", "t"},
		{"ALTER VIEW v", func(c *Cursor) any { c.Need("alter", "table"); return "" }, "! ALTER: alter table", "ALTER VIEW v"},
		{"", func(c *Cursor) any { c.Need("x"); return "" }, "! the end: x", ""},
		{"Visit x", func(c *Cursor) any { return c.Name() }, "visit", "x"},
		{"[Visit]]s] x", func(c *Cursor) any { return c.Name() }, "Visit]s", "x"},
		{`"a ""b""".c`, func(c *Cursor) any { return c.Name() }, `a "b"`, ".c"},
		{"'text'", func(c *Cursor) any { return c.Name() }, "! 'text': a name", "'text'"},
		{"SELECT 1", func(c *Cursor) any { return c.Word() }, "select", "1"},
		{"[select] 1", func(c *Cursor) any { return c.Word() }, "! [select]: a word", "[select] 1"},
		{"SET NULL x", func(c *Cursor) any { return c.OneOf("set default", "set null", "cascade") }, "set null", "x"},
		{"RESTRICT", func(c *Cursor) any { return c.OneOf("set null", "cascade") }, "! RESTRICT: set null or cascade", "RESTRICT"},
		{"visit x", func(c *Cursor) any { return c.Ref("dbo") }, "dbo.visit", "x"},
		{"[Log Book] . Visit x", func(c *Cursor) any { return c.Ref("dbo") }, "Log Book.visit", "x"},
		{"a. x", func(c *Cursor) any { return c.Ref("dbo") }, "a.x", ""},
		{"(a, [B], c) x", func(c *Cursor) any { return c.Names() }, "[a B c]", "x"},
		{"(a b)", func(c *Cursor) any { return c.Names() }, "! b: )", "b)"},
		{"(a,)", func(c *Cursor) any { return c.Names() }, "! ): a name", ")"},
		{"()", func(c *Cursor) any { return c.Names() }, "! ): a name", ")"},
		{"'it''s' x", func(c *Cursor) any { return c.Literal() }, "it's", "x"},
		{"N'it''s' x", func(c *Cursor) any { return c.Literal() }, "it's", "x"},
		{"it", func(c *Cursor) any { return c.Literal() }, "! it: a text in quotes", "it"},
		{"-12 x", func(c *Cursor) any { return c.Number() }, "-12", "x"},
		{"+7 x", func(c *Cursor) any { return c.Number() }, "7", "x"},
		{"-9223372036854775808", func(c *Cursor) any { return c.Number() }, "-9223372036854775808", ""},
		{"1.5", func(c *Cursor) any { return c.Number() }, "! 1.5: a whole number", "1.5"},
		{"9223372036854775808", func(c *Cursor) any { return c.Number() }, "! 9223372036854775808: a whole number", "9223372036854775808"},
		{"(a + (b) * ')') x", func(c *Cursor) any { return c.Bracketed() }, "a + (b) * ')'", "x"},
		{"() x", func(c *Cursor) any { return c.Bracketed() }, "", "x"},
		{"(a (b)", func(c *Cursor) any { return c.Bracketed() }, "! the end: )", ""},
		{"f(a, b) + 1, c", func(c *Cursor) any { return c.Until() }, "f(a, b) + 1", ", c"},
		{"a > 0 NOT NULL", func(c *Cursor) any { return c.Until("not null", "null") }, "a > 0", "NOT NULL"},
		{"null", func(c *Cursor) any { return c.Until("null") }, "null", ""}, // of one word alone
		{"(not null) not null", func(c *Cursor) any { return c.Until("not null") }, "(not null)", "not null"},
		{", c", func(c *Cursor) any { return c.Until() }, "! ,: an expression", ", c"},
		{"a  +\n b ; c", func(c *Cursor) any { return c.Until() }, "a  +\n b", "; c"},
		{"x  y ; z ", func(c *Cursor) any { return c.Rest() }, "x  y ; z", ""},
		{"", func(c *Cursor) any { return c.Rest() }, "", ""},
		{"insert into t; next", func(c *Cursor) any { return c.Statement() }, "insert into t", "; next"},
		{"a (where) b where c", func(c *Cursor) any { return c.Upto("where") }, "a (where) b", "where c"},
		{"a b; where c", func(c *Cursor) any { return c.Upto("where") }, "a b", "; where c"},
		{"a b on c", func(c *Cursor) any { return c.Ahead("on", "c") }, "true", "a b on c"},
		{"a b; on c", func(c *Cursor) any { return c.Ahead("on", "c") }, "false", "a b; on c"},
		{"a b", func(c *Cursor) any { c.Skip(); return fmt.Sprint(c.Before("a"), c.Before("b"), " ", c.Last()) }, "true false a", "b"},
		{"a", func(c *Cursor) any { return c.Before("a") }, "false", "a"},
		{" a -- b\n", func(c *Cursor) any { c.Skip(); return c.Whole() }, "a -- b", ""},
		{";", func(c *Cursor) any { c.End(); return c.Done() }, "true", ""},
		{"", func(c *Cursor) any { c.End(); return c.Peek(0).Text == "" && c.Peek(0).Blank() }, "true", ""},
		{"; x", func(c *Cursor) any { c.End(); return "" }, "! x: the end of the statement", "x"},
	} {
		c := cursor(x.text)
		var got string
		err := Read(func() { got = fmt.Sprint(x.read(c)) })
		var of *SyntaxError
		if errors.As(err, &of) {
			got = "! " + of.Near + ": " + of.Wanted
			if err.Error() != "incorrect syntax near '"+of.Near+"': "+of.Wanted+" was expected" {
				t.Errorf("%s: the error says %q", x.text, err)
			}
		} else if err != nil {
			t.Errorf("%s: %v", x.text, err)
		}
		if rest := c.Rest(); got != x.want || rest != x.rest {
			t.Errorf("%q gives %q and leaves %q, want %q and %q", x.text, got, rest, x.want, x.rest)
		}
	}
}

// TestGivesUp: an error that is no matter of syntax comes back as it is, and what is no giving up
// is not taken for one.
func TestGivesUp(t *testing.T) {
	mine := errors.New("mine")
	if err := Read(func() { Check(nil); Check(mine) }); !errors.Is(err, mine) {
		t.Errorf("it gives up with %v", err)
	}
	if err := Read(func() {}); err != nil {
		t.Errorf("nothing fails, and there is %v", err)
	}
	defer func() {
		if recover() != "other" {
			t.Error("another panic is swallowed")
		}
	}()
	Read(func() { panic("other") })
}

// TestList: each item is read where it stands, and what follows the bracket is left.
func TestList(t *testing.T) {
	var got []string
	c := cursor("(a 1, b 2) rest")
	c.List(func() { got = append(got, c.Name()+"="+fmt.Sprint(c.Number())) })
	if !slices.Equal(got, []string{"a=1", "b=2"}) || c.Name() != "rest" {
		t.Errorf("the list gives %v", got)
	}
	if r := (catalog.Ref{Schema: "dbo", Table: "visit"}); cursor("visit").Ref("dbo") != r {
		t.Error("a bare name is not in the home schema")
	}
}
