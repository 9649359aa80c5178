package settings

import (
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"go.yaml.in/yaml/v3"

	"nexdal/internal/rule"
	"nexdal/internal/rule/house"
	"nexdal/internal/text"
)

// Settings are what a house set down in nexdal.yaml and on the command line.
type Settings struct {
	Rules   []Placed            // in order; of two that bear on the same, the later holds
	House   []*rule.Rule        // rules of the house's own
	Sources map[string]Source   // by name
	Scopes  map[string][]string // patterns of tables, by the name of the scope
	Price   Price
}

// A Price is what an engine bills for the bytes that it reads.
type Price struct {
	Tebibyte float64 `yaml:"tebibyte"` // of 2^40 bytes; 0: not known
	Currency string  `yaml:"currency"`
}

// Of is the price of so many bytes: "0.42 USD".
func (p Price) Of(bytes int64) string {
	return strings.TrimSpace(fmt.Sprintf("%.2f %s", p.Tebibyte*float64(bytes)/(1<<40), p.Currency))
}

// A Placed setting knows where it was made.
type Placed struct {
	rule.Setting
	From string // "nexdal.yaml, line 12", "--set ..."
}

// Of are the settings alone, as rules take them.
func (s *Settings) Of() []rule.Setting {
	all := make([]rule.Setting, len(s.Rules))
	for i, p := range s.Rules {
		all[i] = p.Setting
	}
	return all
}

// LongestName is the most bytes that the house allows a name for all tables; 0:
// it does not say.
func (s *Settings) LongestName() int {
	longest := 0
	for _, x := range s.Of() {
		if n, ok := x.Options["bytes"].(int64); ok && x.Rule == "name/too-long" && x.Table == "" {
			longest = int(n)
		}
	}
	return longest
}

// Defined says where a setting speaks of a rule of the house that is not there.
func (s *Settings) Defined() error {
	var ids []string
	for _, r := range s.House {
		ids = append(ids, r.ID)
	}
	for _, p := range s.Rules {
		if !strings.HasPrefix(p.Rule, "house/") || strings.ContainsAny(p.Rule, "*?") || slices.Contains(ids, p.Rule) {
			continue
		}
		if len(ids) == 0 {
			return fmt.Errorf("%s: there is no rule %s, nor any other of the house's own", p.From, p.Rule)
		}
		return fmt.Errorf("%s: there is no rule %s; nearest is %s", p.From, p.Rule, text.Nearest(p.Rule, ids))
	}
	return nil
}

// format numbers the file's form.
const format = 1

// reader goes through settings files.
type reader struct {
	s     *Settings
	book  []*rule.Rule
	load  func(path string) ([]byte, error)
	seen  []string // the files that led here
	where string   // of what is being read: a file, or an argument
	named bool     // where is a file, whose lines count
}

// Read reads a settings file and those that it includes. load gives a file's
// text. An error says where in which file.
func Read(path string, load func(string) ([]byte, error), book []*rule.Rule) (*Settings, error) {
	r := &reader{s: &Settings{Sources: map[string]Source{}, Scopes: map[string][]string{}}, book: book, load: load}
	if err := r.file(path); err != nil {
		return nil, err
	}
	return r.s, nil
}

// Set adds a setting given as PATH=VALUE: RULE=SEVERITY, RULE.OPTION=VALUE,
// names.KIND=TEMPLATE, house.LIST=VALUE. Values are YAML.
func (s *Settings) Set(argument string, book []*rule.Rule) error {
	path, text, ok := strings.Cut(argument, "=")
	if !ok || path == "" {
		return fmt.Errorf("%q sets nothing; write RULE=SEVERITY or RULE.OPTION=VALUE", argument)
	}
	r := &reader{s: s, book: book, where: "--set " + argument}
	var value yaml.Node
	if err := yaml.Unmarshal([]byte(text), &value); text == "" {
		return fmt.Errorf("--set %s: %q is no value", argument, text)
	} else if err != nil || len(value.Content) == 0 || value.Content[0].Kind == yaml.MappingNode { // a template: {table}_*
		value.Content = []*yaml.Node{{Kind: yaml.ScalarNode, Value: text}}
	}
	section, key := "rules", path
	for _, own := range []string{"names", "house"} {
		if rest, ok := strings.CutPrefix(path, own+"."); ok {
			section, key = own, rest
		}
	}
	node := value.Content[0]
	if section == "rules" {
		if id, option, ok := strings.Cut(key, "."); ok {
			key = id
			node = &yaml.Node{Kind: yaml.MappingNode, Content: []*yaml.Node{{Kind: yaml.ScalarNode, Value: option}, node}}
		}
	}
	return r.section(section, &yaml.Node{Kind: yaml.MappingNode, Content: []*yaml.Node{{Kind: yaml.ScalarNode, Value: key}, node}})
}

func (r *reader) file(path string) error {
	if slices.Contains(r.seen, path) {
		return fmt.Errorf("%s includes itself, by way of %s", path, strings.Join(r.seen, ", "))
	}
	written, err := r.load(path)
	if err != nil {
		return err
	}
	var doc yaml.Node
	if err := yaml.Unmarshal(written, &doc); err != nil {
		return fmt.Errorf("%s: %s", path, text.Plain(err))
	}
	before, was, named := r.seen, r.where, r.named
	r.seen, r.where, r.named = append(slices.Clone(r.seen), path), path, true
	defer func() { r.seen, r.where, r.named = before, was, named }()
	if len(doc.Content) == 0 {
		return nil
	}
	root := doc.Content[0]
	if root.Kind != yaml.MappingNode {
		return r.wrong(root, "it is not made of keys and values")
	}
	// What is included counts first, so that the file itself can say otherwise.
	for _, first := range []bool{true, false} {
		for i := 0; i < len(root.Content); i += 2 {
			if key := root.Content[i]; (key.Value == "include") == first {
				if err := r.section(key.Value, root.Content[i+1]); err != nil {
					var own placedError
					if errors.As(err, &own) {
						return err
					}
					return r.wrong(key, "%v", err)
				}
			}
		}
	}
	return nil
}

var sections = []string{"format", "include", "sources", "scopes", "rules", "tables", "names", "house", "house-rules", "price"}

func (r *reader) section(name string, n *yaml.Node) error {
	switch name {
	case "format":
		if n.Value != strconv.Itoa(format) {
			return r.wrong(n, "it is of format %s, and this program reads format %d", n.Value, format)
		}
		return nil
	case "include":
		return r.include(n)
	case "sources":
		return r.each(n, r.source)
	case "scopes":
		return r.each(n, func(key, value *yaml.Node) error {
			var patterns []string
			if err := value.Decode(&patterns); err != nil || len(patterns) == 0 {
				return r.wrong(value, "scope %s takes a list of patterns of tables", key.Value)
			}
			r.s.Scopes[key.Value] = patterns
			return nil
		})
	case "rules":
		return r.each(n, func(key, value *yaml.Node) error { return r.rule("", key, value) })
	case "tables":
		return r.each(n, func(table, rules *yaml.Node) error {
			return r.each(rules, func(key, value *yaml.Node) error { return r.rule(table.Value, key, value) })
		})
	case "names":
		return r.each(n, r.name)
	case "house":
		return r.each(n, r.house)
	case "house-rules":
		return r.houseRules(n)
	case "price":
		return r.each(n, func(key, value *yaml.Node) error {
			switch {
			case key.Value == "currency":
				r.s.Price.Currency = value.Value
			case key.Value != "tebibyte":
				return r.wrong(key, "a price has no key %s; there are tebibyte and currency", key.Value)
			case value.Decode(&r.s.Price.Tebibyte) != nil || r.s.Price.Tebibyte < 0:
				return r.wrong(value, "tebibyte takes what 2^40 bytes cost, as 6.25, not %q", value.Value)
			}
			return nil
		})
	}
	return fmt.Errorf("there is no key %s; nearest is %s", name, text.Nearest(name, sections))
}

// placedError says where it is.
type placedError struct{ error }

func (r *reader) wrong(n *yaml.Node, text string, args ...any) error {
	return placedError{fmt.Errorf("%s: "+text, append([]any{r.place(n)}, args...)...)}
}

// place says where a node stands.
func (r *reader) place(n *yaml.Node) string {
	if !r.named {
		return r.where
	}
	return fmt.Sprintf("%s, line %d", r.where, n.Line)
}

// each calls for each key of a mapping, which must not be there twice.
func (r *reader) each(n *yaml.Node, do func(key, value *yaml.Node) error) error {
	if n.Kind != yaml.MappingNode {
		return r.wrong(n, "keys with values are expected here")
	}
	seen := map[string]bool{}
	for i := 0; i < len(n.Content); i += 2 {
		key := n.Content[i]
		if seen[key.Value] {
			return r.wrong(key, "%s is there twice", key.Value)
		}
		seen[key.Value] = true
		if err := do(key, n.Content[i+1]); err != nil {
			return err
		}
	}
	return nil
}

func (r *reader) include(n *yaml.Node) error {
	list := []*yaml.Node{n}
	if n.Kind == yaml.SequenceNode {
		list = n.Content
	}
	for _, f := range list {
		path := f.Value
		if !filepath.IsAbs(path) {
			path = filepath.Join(filepath.Dir(r.where), path)
		}
		if err := r.file(path); err != nil {
			var own placedError
			if errors.As(err, &own) {
				return err
			}
			return r.wrong(f, "%v", err)
		}
	}
	return nil
}

// rule reads the settings of a rule, or of all that a pattern fits.
func (r *reader) rule(table string, key, value *yaml.Node) error {
	var fits []*rule.Rule
	var ids []string
	for _, x := range r.book {
		ids = append(ids, x.ID)
		if x.Is(key.Value) {
			fits = append(fits, x)
		}
	}
	pattern := strings.ContainsAny(key.Value, "*?")
	own := strings.HasPrefix(key.Value, "house/") // may be defined further down
	switch {
	case len(fits) == 0 && pattern && !own:
		return r.wrong(key, "no rule fits %s", key.Value)
	case len(fits) == 0 && !own:
		return r.wrong(key, "there is no rule %s; nearest is %s", key.Value, text.Nearest(key.Value, ids))
	}
	p := Placed{rule.Setting{Rule: key.Value, Table: table, Options: map[string]any{}}, r.place(key)}
	if value.Kind == yaml.ScalarNode {
		if err := r.severity(value, &p); err != nil {
			return err
		}
		r.s.Rules = append(r.s.Rules, p)
		return nil
	}
	err := r.each(value, func(name, v *yaml.Node) error {
		if name.Value == "severity" {
			return r.severity(v, &p)
		}
		var options []string
		known := false
		for _, x := range fits {
			for i := range x.Options {
				o := &x.Options[i]
				options = append(options, o.Name)
				if o.Name != name.Value {
					continue
				}
				known = true
				value, err := r.value(o, v)
				if err != nil {
					return err
				}
				p.Options[o.Name] = value
			}
		}
		if !known {
			if near := text.Nearest(name.Value, append(options, "severity")); near != "" {
				return r.wrong(name, "%s has no option %s; nearest is %s", key.Value, name.Value, near)
			}
		}
		return nil
	})
	r.s.Rules = append(r.s.Rules, p)
	return err
}

func (r *reader) severity(n *yaml.Node, p *Placed) error {
	s := rule.Severity(n.Value)
	if s != rule.Off && !slices.Contains(rule.Severities, s) {
		return r.wrong(n, "%q is no severity; there are error, warning, notice and off", n.Value)
	}
	p.Severity = s
	return nil
}

// value reads an option's value as the rule takes it.
func (r *reader) value(o *rule.Option, n *yaml.Node) (any, error) {
	var value any
	switch o.Default.(type) {
	case []string:
		list := []string{}
		nodes := []*yaml.Node{n}
		if n.Kind == yaml.SequenceNode {
			nodes = n.Content
		}
		for _, x := range nodes {
			if x.Kind != yaml.ScalarNode {
				return nil, r.wrong(x, "%s: it takes a list of texts", o.Name)
			}
			list = append(list, x.Value)
		}
		value = list
	case string:
		value = n.Value
		if n.Kind != yaml.ScalarNode {
			return nil, r.wrong(n, "%s: it takes a text", o.Name)
		}
	default:
		text := strings.ReplaceAll(n.Value, "_", "")
		if whole, err := strconv.ParseInt(text, 10, 64); err == nil {
			value = whole
		} else if f, err := strconv.ParseFloat(text, 64); err == nil {
			value = f
		} else {
			value = n.Value
		}
	}
	if no := o.Accepts(value); no != "" {
		return nil, r.wrong(n, "%s: %s", o.Name, no)
	}
	return value, nil
}

// name reads a template of the house for both rules on names.
func (r *reader) name(key, value *yaml.Node) error {
	return r.spread([]string{"name/pattern", "name/by-system"}, key.Value, "", "", key, value)
}

// spread gives an option to rules, found by their identifiers.
func (r *reader) spread(ids []string, option, table string, on rule.Severity, key, value *yaml.Node) error {
	for _, x := range r.book {
		if !slices.Contains(ids, x.ID) {
			continue
		}
		o := x.Option(option)
		if o == nil {
			var names []string
			for _, o := range x.Options {
				names = append(names, o.Name)
			}
			return r.wrong(key, "there is no key %s here; nearest is %s", option, text.Nearest(option, names))
		}
		v, err := r.value(o, value)
		if err != nil {
			return err
		}
		r.s.Rules = append(r.s.Rules, Placed{rule.Setting{Rule: x.ID, Table: table, Severity: on, Options: map[string]any{option: v}}, r.place(key)})
	}
	return nil
}

// houseLists are the lists of the house, and the rule and option that each stands for.
var houseLists = []struct {
	key, rule, option string
	on                rule.Severity // what turns a rule on that is off by itself
}{
	{"on-delete", "fk/house-actions", "on-delete", rule.Warning},
	{"on-update", "fk/house-actions", "on-update", rule.Warning},
	{"link-tables", "key/link-style", "style", rule.Notice},
	{"required-columns", "column/required", "columns", rule.Warning},
	{"longest-name", "name/too-long", "bytes", ""},
	{"partition-names", "partition/name", "pattern", ""},
	{"comments", "note/missing", "of", rule.Notice},
}

func (r *reader) house(key, value *yaml.Node) error {
	if key.Value == "keep" {
		return r.each(value, func(table, keep *yaml.Node) error {
			return r.spread([]string{"partition/retention"}, "keep", table.Value, "", table, keep)
		})
	}
	keys := []string{"keep"}
	for _, l := range houseLists {
		if l.key == key.Value {
			return r.spread([]string{l.rule}, l.option, "", l.on, key, value)
		}
		keys = append(keys, l.key)
	}
	return r.wrong(key, "there is no key house.%s; nearest is %s", key.Value, text.Nearest(key.Value, keys))
}

func (r *reader) houseRules(n *yaml.Node) error {
	if n.Kind != yaml.SequenceNode {
		return r.wrong(n, "a list of rules is expected here")
	}
	for _, x := range n.Content {
		d := house.Definition{Place: r.place(x)}
		at := map[string]*yaml.Node{}
		err := r.each(x, func(key, value *yaml.Node) error {
			at[key.Value] = value
			into := d.Member(key.Value)
			if into == nil {
				return r.wrong(key, "a rule has no key %s; nearest is %s", key.Value, text.Nearest(key.Value, house.Members))
			}
			if value.Kind == yaml.MappingNode && key.Value == "change" {
				return r.each(value, func(what, how *yaml.Node) error {
					d.Changes = append(d.Changes, [2]string{what.Value, how.Value})
					return nil
				})
			}
			if value.Kind != yaml.ScalarNode {
				return r.wrong(value, "%s takes a text", key.Value)
			}
			*into = value.Value
			return nil
		})
		if err != nil {
			return err
		}
		compiled, member, err := d.Compile()
		if err != nil {
			place := x
			if at[member] != nil {
				place = at[member]
			}
			return r.wrong(place, "%s: %v", member, err)
		}
		if slices.ContainsFunc(r.s.House, func(o *rule.Rule) bool { return o.ID == compiled.ID }) {
			return r.wrong(x, "rule %s is there twice", compiled.ID)
		}
		r.s.House = append(r.s.House, compiled)
	}
	return nil
}
