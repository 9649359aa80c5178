package name

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var TwoForms = &rule.Rule{
	ID:          "name/two-forms",
	Title:       "one thing in two spellings",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	GivesWay:    []string{"name/pattern"},
	Options: []rule.Option{
		{Name: "share", Default: 0.75, Doc: "share of the tables that have to be of one number, singular or plural, for the others to be reported"},
	},
	Doc: `Columns of the same letters are written in two ways (stationid and station_id), or a few tables are named in the plural where nearly all are in the singular, or the other way round. Whoever writes a statement has to look up which.

The spelling that fewer tables have is reported. Of tables, only those whose number is plain by the word's end; at least six have to agree.

There is no fix: a rename breaks every program that knows the name.`,
	Check: func(p *rule.Pass) error {
		columnForms(p)
		tableForms(p)
		return nil
	},
}

// A spelling is one way that a name is written, and where.
type spelling struct {
	name string
	in   []*catalog.Table
}

func columnForms(p *rule.Pass) {
	forms, known := map[string][]*spelling{}, map[string]*spelling{}
	var order []string
	for _, t := range p.Roots {
		for _, c := range t.Columns {
			s := known[c.Name]
			if s == nil {
				s = &spelling{name: c.Name}
				known[c.Name] = s
				if letters := strings.ToLower(strings.ReplaceAll(c.Name, "_", "")); len(letters) >= 4 {
					if forms[letters] == nil {
						order = append(order, letters)
					}
					forms[letters] = append(forms[letters], s)
				}
			}
			s.in = append(s.in, t)
		}
	}
	for _, letters := range order {
		list := forms[letters]
		if len(list) < 2 {
			continue
		}
		slices.SortStableFunc(list, func(a, b *spelling) int { return len(b.in) - len(a.in) })
		for _, odd := range list[1:] {
			for _, t := range odd.in {
				p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{odd.name}, Part: odd.name,
					Message: fmt.Sprintf("\"%s\" here is \"%s\" in %s", odd.name, list[0].name, tableNames(list[0].in)), Advice: "one spelling for one thing"})
			}
		}
	}
}

func tableNames(tables []*catalog.Table) string {
	names := make([]string, 0, 3)
	for _, t := range tables[:min(2, len(tables))] {
		names = append(names, t.Name)
	}
	if more := len(tables) - 2; more > 0 {
		names = append(names, fmt.Sprintf("%d more", more))
	}
	return text.List(names)
}

var (
	plural   = pattern.New(`(?i)([^sui'x]s|ies|[sxz]es|ches|shes)$`)
	noPlural = pattern.New(`(?i)(ss|us|is|ws|series|species|status|address|access|process|class|business|progress|analysis|basis|bonus|bus|canvas|alias|gas|atlas|lens|sms|gps|dns|https|css|os|ms|ics)$`)
	noNumber = pattern.New(`(?i)(data|info|metadata|staff|equipment|history|log|logs|stock|media|cache|content|feedback|hardware|software|news|stats|statistics|settings|config|preferences|permissions|meta|people|children|men|women|feet|audit|archive|inventory|sheep|fish|traffic|text|queue|tree|schema)$`)
)

func tableForms(p *rule.Pass) {
	var many, one []*catalog.Table
	for _, t := range p.Roots {
		word := t.Name
		if i := strings.LastIndexByte(word, '_'); i >= 0 {
			word = word[i+1:]
		}
		switch {
		case len(word) < 4 || !letters.MatchString(word) || noNumber.MatchString(word):
		case plural.MatchString(word) && !noPlural.MatchString(word):
			many = append(many, t)
		default:
			one = append(one, t)
		}
	}
	common, odd, says := one, many, "in the plural; nearly all tables are in the singular"
	if len(many) > len(one) {
		common, odd, says = many, one, "in the singular; nearly all tables are in the plural"
	}
	if len(common) < 6 || float64(len(common)) < p.Share(nil, "share")*float64(len(common)+len(odd)) {
		return
	}
	for _, t := range odd {
		p.Report(rule.Finding{Table: t.Ref(), Object: t.Name, Message: fmt.Sprintf("\"%s\" is named %s", t.Name, says), Advice: "one number for all"})
	}
}

var letters = pattern.New(`^[A-Za-z]+$`)
