package column

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var TypeVaries = &rule.Rule{
	ID:          "column/type-varies",
	Title:       "column of another type than its namesakes",
	Severity:    rule.Warning,
	Consequence: rule.Untidy,
	Fixes:       []string{"alter"},
	GivesWay:    []string{"fk/type-differs", "fk/missing", "column/money-approximate", "column/date-in-text", "column/obsolete-type"},
	Options: []rule.Option{
		{Name: "agree", Default: int64(2), Doc: "tables that have to agree on the type; where it is but two, the finding is a notice"},
		{Name: "share", Default: 0.65, Doc: "share of all tables with the column that have to agree"},
		{Name: "except", Default: []string{}, Doc: "names of columns that may be of any type"},
	},
	Doc: `Most tables that have a column of this name agree on its type, and this one has another. Values that fit in one place do not fit in the other, joins convert, and programs that treat them alike are wrong once.

Two tables at least have to agree, and two thirds of all; where it is but two, it is a notice. Names that say nothing of what the values are (id, name, type, value, status, description and the like) are left out, and so are columns that a foreign key ties: fk/type-differs speaks of those. Where only the length of a text differs, it is a notice.

Leave it alone where the same word means two things.

The fix alters the odd one, where its values are bound to fit: a longer text, a wider number. A pre-flight query looks for values that do not. Columns of keys are left to you.`,
	Check: checkTypeVaries,
}

// vague names say nothing of what the values are.
var vague = pattern.New(`(?i)^(.*_)?(id|ids|no|nr|num|name|names|title|label|type|kind|value|val|values|status|state|text|content|body|message|data|description|descr?|comment|comments|note|notes|remark|remarks|key|code|position|pos|order|sort|level|version|size|length|width|height|weight|amount|total|count|number|result|source|target|reference|ref|options|settings|config|params|attributes|metadata|info|path|url|uri|flags?|mode|format|category|priority|subject|summary|scope|action|role|token|hash|active|enabled|default|min|max|start|end|date|time|password|parent|owner|group|tag|tags|extra|details|properties|payload|object|item|event|rank|score|rate|ratio|from|to)$`)

// A use is one column of a name.
type use struct {
	table  *catalog.Table
	column *catalog.Column
}

func checkTypeVaries(p *rule.Pass) error {
	uses := map[string][]use{}
	var order []string
	for _, t := range p.Roots {
		for _, c := range t.Columns {
			if c.Inherited || len(c.Name) < 2 || p.Matches(vague, c.Name) {
				continue // a letter says nothing
			}
			name := strings.ToLower(c.Name)
			if uses[name] == nil {
				order = append(order, name)
			}
			uses[name] = append(uses[name], use{t, c})
		}
	}
	for _, name := range order {
		all := uses[name]
		differs := func(u use) bool { return u.column.Type != all[0].column.Type }
		if len(all) > 2 && slices.ContainsFunc(all, differs) {
			typeVaries(p, all)
		}
	}
	return nil
}

func typeVaries(p *rule.Pass, all []use) {
	common, agree := mostCommon(all)
	if int64(agree) < p.Count(nil, "agree") || float64(agree) < p.Share(nil, "share")*float64(len(all)) {
		return
	}
	for _, u := range all {
		c := u.column
		gap, says := c.Type.GapTo(common)
		if gap == catalog.TypesAgree || tied(p, u.table, c.Name) || slices.Contains(p.Words(u.table, "except"), c.Name) {
			continue
		}
		found := rule.Finding{Table: u.table.Ref(), Object: u.table.Name, Columns: []string{c.Name}, Part: c.Name,
			Message: fmt.Sprintf("\"%s\" is %s here and %s in %s", c.Name, cmp.Or(c.Type.Native, "without a type"), common.Native, text.Plural(int64(agree), "other table")),
			Advice:  "use one type everywhere: " + says}
		if agree == 2 || c.Type.Family == common.Family && c.Type.Family == catalog.Text && c.Type.Collation == common.Collation {
			found.Severity = rule.Notice
		}
		if c.Type.Family == common.Family && gap == catalog.TypeTooSmall && c.Generated == "" && c.Type.Collation == common.Collation {
			found.Advice = ""
			found.Fixes = []rule.Fix{{ID: "alter", Title: fmt.Sprintf("make \"%s\" %s", c.Name, common.Native), Changes: []change.Change{
				change.AlterType{Table: u.table.Ref(), Column: c.Name, From: c.Type, To: common}}}}
		}
		p.Report(found)
	}
}

// mostCommon is the type that most uses have, and how many.
func mostCommon(all []use) (catalog.Type, int) {
	counts := map[catalog.Type]int{}
	var best catalog.Type
	for _, u := range all {
		if counts[u.column.Type]++; counts[u.column.Type] > counts[best] {
			best = u.column.Type
		}
	}
	return best, counts[best]
}

// tied reports whether a key or a foreign key holds the column.
func tied(p *rule.Pass, t *catalog.Table, name string) bool {
	for _, f := range t.ForeignKeys {
		if slices.Contains(f.Columns, name) {
			return true
		}
	}
	for _, r := range p.Lookup.Referrers(t.Ref()) {
		if slices.Contains(r.ForeignKey.TargetColumns, name) {
			return true
		}
	}
	return part(t, name)
}
