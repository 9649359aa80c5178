package name

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
)

// A thing is something with a name that a house may have a template for.
type thing struct {
	kind    string // as in the settings: "primary-key"
	name    string
	columns []string
	target  catalog.Ref // of a foreign key
	rename  change.RenameKind
}

// templated are the kinds, in the order of the documentation, with the
// placeholders that each knows.
var templated = []struct {
	kind         string
	placeholders []string
}{
	{"table", nil},
	{"column", []string{"table"}},
	{"primary-key", []string{"table", "columns"}},
	{"unique", []string{"table", "columns"}},
	{"foreign-key", []string{"table", "columns", "target", "target_columns"}},
	{"check", []string{"table"}},
	{"index", []string{"table", "columns"}},
	{"sequence", []string{"table", "columns"}},
	{"trigger", []string{"table"}},
}

// templates are the options of both rules.
func templates() []rule.Option {
	var all []rule.Option
	for _, k := range templated {
		doc := "template of a " + k.kind + "'s name"
		if k.placeholders != nil {
			doc += ", with {" + strings.Join(k.placeholders, "}, {") + "}"
		}
		all = append(all, rule.Option{Name: k.kind, Default: "", Doc: doc + "; * stands for anything; a text that begins with ^ is a regular expression; empty: any name",
			Check: func(text string) string { _, why := compile(text, k.placeholders, nil); return why }})
	}
	return all
}

var placeholder = pattern.New(`\{([^{}]*)\}`)

// compile makes an expression of a template with the values filled in; why says
// what is wrong with the template.
func compile(text string, known []string, values map[string]string) (re *regexp.Regexp, why string) {
	for _, m := range placeholder.FindAllStringSubmatch(text, -1) {
		counts := strings.Trim(m[1], "0123456789,") == "" && strings.HasPrefix(text, "^") // a{2,3}
		if !slices.Contains(known, m[1]) && !counts {
			return nil, fmt.Sprintf("it has no placeholder {%s}; there are: %s", m[1], strings.Join(known, ", "))
		}
	}
	if !strings.HasPrefix(text, "^") {
		parts := strings.Split(text, "*")
		for i, p := range parts {
			parts[i] = regexp.QuoteMeta(p)
		}
		text = "^" + strings.NewReplacer(`\{`, "{", `\}`, "}").Replace(strings.Join(parts, ".*")) + "$"
	}
	for name, value := range values {
		text = strings.ReplaceAll(text, "{"+name+"}", regexp.QuoteMeta(value))
	}
	if table := values["table"]; catalog.InCaseOf("a", table) == "A" { // as all names are there
		text = "(?i)" + text
	}
	re, err := regexp.Compile(text)
	if err != nil {
		return nil, strings.TrimPrefix(err.Error(), "error parsing regexp: ")
	}
	return re, ""
}

// things are all of the table's that have a name, each with what its template
// may speak of.
func things(p *rule.Pass, t *catalog.Table) []thing {
	all := []thing{{kind: "table", name: t.Name}}
	for _, c := range t.Columns {
		all = append(all, thing{kind: "column", name: c.Name, columns: []string{c.Name}})
	}
	for _, k := range t.Keys() {
		if k.Name == "" || k.Name == p.Abilities.PrimaryKeyName {
			continue
		}
		kind, rename := "unique", change.RenameUniqueKey
		if k == t.PrimaryKey {
			kind, rename = "primary-key", change.RenamePrimaryKey
		}
		all = append(all, thing{kind: kind, name: k.Name, columns: k.Columns, rename: rename})
	}
	for _, f := range t.ForeignKeys {
		if f.Name != "" && !f.Inherited {
			all = append(all, thing{kind: "foreign-key", name: f.Name, columns: f.Columns, target: f.Target, rename: change.RenameForeignKey})
		}
	}
	for _, k := range t.Checks {
		if k.Name != "" && !k.Inherited && k.Column == "" {
			all = append(all, thing{kind: "check", name: k.Name, rename: change.RenameCheck})
		}
	}
	for _, x := range t.Indexes {
		if x.Origin == catalog.ByPerson && !x.Inherited && !x.SystemNamed {
			kind := "index"
			if x.Unique {
				kind = "unique"
			}
			all = append(all, thing{kind: kind, name: x.Name, columns: x.NamedColumns(), rename: change.RenameIndex})
		}
	}
	for _, g := range t.Triggers {
		if !g.Inherited {
			all = append(all, thing{kind: "trigger", name: g.Name})
		}
	}
	return all
}

// values fill a template for the thing.
func (x thing) values(t *catalog.Table) map[string]string {
	v := map[string]string{"table": t.Name}
	if x.kind != "column" && x.kind != "table" {
		v["columns"] = strings.Join(x.columns, "_")
	}
	if x.target.Table != "" {
		v["target"] = x.target.Table
		v["target_columns"] = ""
	}
	return v
}

// expected is the very name that a template without stars gives, or "".
func expected(template string, values map[string]string) string {
	if template == "" || strings.HasPrefix(template, "^") || strings.Contains(template, "*") {
		return ""
	}
	for name, value := range values {
		template = strings.ReplaceAll(template, "{"+name+"}", value)
	}
	return catalog.InCaseOf(template, values["table"])
}

// off reports the things whose name is off their template, those that the engine
// named or the others.
func off(p *rule.Pass, bySystem bool) {
	if !p.IsSet() {
		return // by itself there are no templates
	}
	for _, t := range p.Roots {
		for _, x := range things(p, t) {
			template := p.Word(t, x.kind)
			if template == "" {
				continue
			}
			values := x.values(t)
			if f := foreignKeyOf(t, x); f != nil {
				values["target_columns"] = strings.Join(f.TargetColumns, "_")
			}
			re, why := compile(template, placeholdersOf(x.kind), values)
			if why != "" || re.MatchString(x.name) {
				continue
			}
			made := madeUp(p, t, x)
			if made != bySystem {
				continue
			}
			p.Report(offTemplate(p, t, x, template, expected(template, values), made))
		}
	}
}

// madeUp reports whether the engine itself would call it so.
func madeUp(p *rule.Pass, t *catalog.Table, x thing) bool {
	return p.Abilities.SystemNamed != nil && p.Abilities.SystemNamed(t, strings.ReplaceAll(x.kind, "-", " "), x.name, x.columns)
}

func placeholdersOf(kind string) []string {
	for _, k := range templated {
		if k.kind == kind {
			return k.placeholders
		}
	}
	return nil
}

func foreignKeyOf(t *catalog.Table, x thing) *catalog.ForeignKey {
	if x.kind != "foreign-key" {
		return nil
	}
	for _, f := range t.ForeignKeys {
		if f.Name == x.name {
			return f
		}
	}
	return nil
}

func offTemplate(p *rule.Pass, t *catalog.Table, x thing, template, should string, made bool) rule.Finding {
	kind := strings.ReplaceAll(x.kind, "-", " ")
	found := rule.Finding{Table: t.Ref(), Object: x.name, Columns: x.columns, Part: x.kind, Message: fmt.Sprintf("the name of %s %s does not follow the house's template %s", kind, x.name, template)}
	if made {
		found.Message = fmt.Sprintf("%s %s has the name that the engine made up; the house's template is %s", kind, x.name, template)
	}
	if should != "" && p.Abilities.MaxName > 0 && len(should) > p.Abilities.MaxName {
		found.Advice = fmt.Sprintf("%s would be longer than the engine's %d bytes", should, p.Abilities.MaxName)
		return found
	}
	if should != "" {
		found.Message += ": " + should
	}
	if should != "" && x.rename != "" && !p.Names.Taken(t.Schema, should) {
		p.Names.Take(t.Schema, should)
		found.Fixes = []rule.Fix{{ID: "rename", Title: "rename it to " + should, Changes: []change.Change{change.Rename{Table: t.Ref(), Kind: x.rename, From: x.name, To: should}}}}
	} else {
		found.Advice = "rename it, together with the programs that know the name"
	}
	return found
}
