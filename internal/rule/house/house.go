// Package house makes rules of what a house writes in its settings: a condition
// over one kind of thing in CEL (https://cel.dev), a message with values filled
// in, a severity, and perhaps a change.
package house

import (
	"context"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"cel.dev/cel-go/cel"
	"cel.dev/cel-go/common/ast"
	"cel.dev/cel-go/ext"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// A Definition is a rule as a house writes it.
type Definition struct {
	ID, Title, For, When, Message, Severity, Advice, Doc string
	// Changes are what to do and how: "forbid-null": "true".
	Changes [][2]string
	Place   string // where it is written
	change  string
}

// Members are the keys of a definition.
var Members = []string{"id", "title", "for", "when", "message", "severity", "advice", "doc", "change"}

// Member is where the value of a key goes, or nil where there is no such key.
func (d *Definition) Member(key string) *string {
	switch key {
	case "id":
		return &d.ID
	case "title":
		return &d.Title
	case "for":
		return &d.For
	case "when":
		return &d.When
	case "message":
		return &d.Message
	case "severity":
		return &d.Severity
	case "advice":
		return &d.Advice
	case "doc":
		return &d.Doc
	case "change":
		return &d.change
	}
	return nil
}

var slug = pattern.New(`^[a-z][a-z0-9-]*$`)

// Compile makes a rule of the definition. Where that fails it says which key is
// at fault.
func (d *Definition) Compile() (*rule.Rule, string, error) {
	name, ok := strings.CutPrefix(d.ID, "house/")
	switch {
	case !ok || !slug.MatchString(name):
		return nil, "id", fmt.Errorf("%q is no identifier; write house/ and small letters, digits and dashes", d.ID)
	case !slices.Contains(kinds, d.For):
		return nil, "for", fmt.Errorf("a rule is for one of %s, not %q", strings.Join(kinds, ", "), d.For)
	case strings.TrimSpace(d.When) == "":
		return nil, "when", errors.New("the condition is missing")
	case strings.TrimSpace(d.Message) == "":
		return nil, "message", errors.New("the message is missing")
	case d.change != "":
		return nil, "change", errors.New("it takes keys with values")
	}
	severity := rule.Warning
	if d.Severity != "" {
		if severity = rule.Severity(d.Severity); severity != rule.Off && !slices.Contains(rule.Severities, severity) {
			return nil, "severity", fmt.Errorf("%q is no severity; there are error, warning, notice and off", d.Severity)
		}
	}
	env, err := environment(d.For)
	if err != nil {
		return nil, "for", err
	}
	when, err := compile(env, d.When, cel.BoolType)
	if err != nil {
		return nil, "when", err
	}
	message, err := template(env, d.Message)
	if err != nil {
		return nil, "message", err
	}
	if err := d.checkChanges(); err != nil {
		return nil, "change", err
	}
	h := &houseRule{d, when, message}
	title := d.Title
	if title == "" {
		title = "rule of the house"
	}
	doc := d.Doc
	if doc == "" {
		doc = fmt.Sprintf("A rule of the house, for every %s for which this holds: %s", d.For, d.When)
	}
	consequence := rule.Untidy
	if severity == rule.Error {
		consequence = rule.Unprotected
	}
	return &rule.Rule{ID: d.ID, Title: title, Severity: severity, Consequence: consequence, Doc: doc, Fixes: []string{"house"}, Check: h.check}, "", nil
}

// environment is what an expression for the kind may speak of.
func environment(kind string) (*cel.Env, error) {
	var types []any
	for _, v := range []any{Table{}, Column{}, Key{}, Reference{}, Index{}, Check{}, Trigger{}, Sequence{}, View{}, Database{}} {
		types = append(types, reflect.TypeOf(v))
	}
	types = append(types, ext.ParseStructTags(true))
	options := []cel.EnvOption{ext.NativeTypes(types...), ext.Strings(), ext.Lists(), ext.Sets(),
		cel.Variable("database", cel.ObjectType("house.Database")), cel.Variable(kind, cel.ObjectType("house."+strings.ToUpper(kind[:1])+kind[1:]))}
	if kind != "table" && kind != "sequence" && kind != "view" {
		options = append(options, cel.Variable("table", cel.ObjectType("house.Table")))
	}
	return cel.NewEnv(options...)
}

// mostCost bounds what one evaluation may take, in CEL's own units: an
// expression that goes over all pairs of columns of a wide table stays below.
const mostCost = 5_000_000

// longest is how long one evaluation may take, whatever it costs.
const longest = 2 * time.Second

// expression is compiled once and evaluated often.
type expression struct {
	program cel.Program
	members map[string]bool // figures that it speaks of
}

func compile(env *cel.Env, text string, want *cel.Type) (*expression, error) {
	tree, issues := env.Compile(text)
	if issues != nil && issues.Err() != nil {
		first := issues.Errors()[0]
		return nil, fmt.Errorf("at %d:%d: %s", first.Location.Line(), first.Location.Column()+1, firstLine(first.Message))
	}
	if want != nil && !tree.OutputType().IsExactType(want) && !tree.OutputType().IsExactType(cel.DynType) {
		return nil, fmt.Errorf("it gives %s where %s is needed", tree.OutputType(), want)
	}
	program, err := env.Program(tree, cel.CostLimit(mostCost), cel.InterruptCheckFrequency(1000), cel.EvalOptions(cel.OptOptimize))
	if err != nil {
		return nil, err
	}
	x := &expression{program, map[string]bool{}}
	ast.PostOrderVisit(tree.NativeRep().Expr(), ast.NewExprVisitor(func(e ast.Expr) {
		if e.Kind() == ast.SelectKind && figures[e.AsSelect().FieldName()] != nil {
			x.members[e.AsSelect().FieldName()] = true
		}
	}))
	return x, nil
}

func firstLine(s string) string { line, _, _ := strings.Cut(s, "\n"); return line }

// A piece of a message is text, or an expression whose value stands there.
type piece struct {
	text string
	expr *expression
}

// template cuts a message at its braces: "{table.name} has no comment".
func template(env *cel.Env, text string) ([]piece, error) {
	var pieces []piece
	for text != "" {
		before, rest, found := strings.Cut(text, "{")
		pieces = append(pieces, piece{text: before})
		if !found {
			break
		}
		inside, after, found := strings.Cut(rest, "}")
		if !found {
			return nil, fmt.Errorf("the brace before %q is not closed", rest)
		}
		x, err := compile(env, inside, nil)
		if err != nil {
			return nil, fmt.Errorf("{%s}: %w", inside, err)
		}
		pieces = append(pieces, piece{expr: x})
		text = after
	}
	return pieces, nil
}

type houseRule struct {
	*Definition
	when    *expression
	message []piece
}

func (h *houseRule) check(p *rule.Pass) error {
	database := Database{p.Catalog.Database, p.Catalog.Engine.Name, p.Catalog.Engine.Version}
	var last *catalog.Table // the parts of a table share its view
	var view Table
	unknown, failed, why := 0, 0, ""
	subjects(p, h.For, func(s subject) {
		for member := range h.when.members {
			if !figures[member](s.table, s.index) {
				unknown++
				return
			}
		}
		values := map[string]any{"database": database, h.For: s.value}
		if s.table != nil && h.For != "table" {
			if last != s.table {
				last, view = s.table, tableView(p, s.table)
			}
			values["table"] = view
		}
		holds, err := evaluate(h.when, values)
		if err != nil {
			failed, why = failed+1, err.Error()
			return
		}
		if holds == true {
			p.Report(h.finding(p, s, values))
		}
	})
	p.Uncounted(unknown)
	p.NotJudged("a condition that can be evaluated: "+why, "correct it in "+h.Place, failed)
	return nil
}

func evaluate(x *expression, values map[string]any) (any, error) {
	ctx, stop := context.WithTimeout(context.Background(), longest)
	defer stop()
	out, _, err := x.program.ContextEval(ctx, values)
	if err != nil {
		return nil, err
	}
	return out.Value(), nil
}

func (h *houseRule) finding(p *rule.Pass, s subject, values map[string]any) rule.Finding {
	var b strings.Builder
	for _, part := range h.message {
		if part.expr == nil {
			b.WriteString(part.text)
			continue
		}
		value, err := evaluate(part.expr, values)
		if err != nil {
			value = "?"
		}
		if list, ok := value.([]string); ok {
			value = text.List(list)
		}
		fmt.Fprint(&b, value)
	}
	found := rule.Finding{Object: s.name, Columns: s.columns, Message: b.String(), Advice: h.Advice}
	if s.table != nil {
		found.Table = s.table.Ref()
	} else {
		found.Table = catalog.Ref{Schema: s.schema}
	}
	if h.For == "column" {
		found.Object, found.Part = s.table.Name, s.name
	}
	if fix, ok := h.fix(p, s); ok {
		found.Fixes = []rule.Fix{fix}
	}
	return found
}
