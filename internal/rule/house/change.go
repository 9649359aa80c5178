package house

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

// What a rule may have done about a thing, by kind.
var doable = map[string][]string{
	"column":    {"forbid-null", "default"},
	"reference": {"index", "on-delete", "on-update"},
	"index":     {"drop", "rename"},
	"key":       {"rename"},
	"check":     {"drop"},
}

var actions = []string{string(catalog.NoAction), string(catalog.Restrict), string(catalog.Cascade), string(catalog.SetNull)}

func (d *Definition) checkChanges() error {
	for _, c := range d.Changes {
		what, how := c[0], c[1]
		list := doable[d.For]
		switch {
		case len(list) == 0:
			return fmt.Errorf("nothing can be done about a %s by a rule of the house", d.For)
		case !slices.Contains(list, what):
			return fmt.Errorf("there is no change %s of a %s; nearest is %s", what, d.For, text.Nearest(what, list))
		case (what == "forbid-null" || what == "drop" || what == "index") && how != "true":
			return fmt.Errorf("%s takes true", what)
		case strings.HasPrefix(what, "on-") && !slices.Contains(actions, how):
			return fmt.Errorf("%s takes one of %s", what, strings.Join(actions, ", "))
		case how == "":
			return fmt.Errorf("%s takes a value", what)
		}
	}
	return nil
}

// fix is what the definition has done about the subject.
func (h *houseRule) fix(p *rule.Pass, s subject) (rule.Fix, bool) {
	fix := rule.Fix{ID: "house"}
	add := func(ch change.Change) { fix.Changes = append(fix.Changes, ch) }
	for _, c := range h.Changes {
		switch what, how := c[0], c[1]; what {
		case "forbid-null":
			if s.column.Nullable {
				add(change.SetNullable{Table: s.table.Ref(), Column: s.column.Name})
			}
		case "default":
			add(change.SetDefault{Table: s.table.Ref(), Column: s.column.Name, From: s.column.Default, To: how})
		case "index":
			x := &catalog.Index{Name: p.Names.Free(s.table.Schema, "idx", append([]string{s.table.Name}, s.foreign.Columns...)...), Origin: catalog.ByPerson, Method: "btree"}
			for _, name := range s.foreign.Columns {
				x.Parts = append(x.Parts, catalog.IndexPart{Column: name})
			}
			add(change.CreateIndex{Table: s.table.Ref(), Index: x})
		case "on-delete", "on-update":
			altered := s.foreign.Clone()
			if what == "on-delete" {
				altered.OnDelete = catalog.Action(how)
			} else {
				altered.OnUpdate = catalog.Action(how)
			}
			add(change.AlterForeignKey{Table: s.table.Ref(), Old: s.foreign, New: altered})
		case "drop":
			switch {
			case s.index != nil && s.index.Origin == catalog.ByPerson && s.index.Pinned == "":
				add(change.DropIndex{Table: s.table.Ref(), Name: s.index.Name})
			case h.For == "check":
				for _, k := range s.table.Checks {
					if k.Name == s.name {
						add(change.DropCheck{Table: s.table.Ref(), Check: k})
					}
				}
			}
		case "rename":
			to := strings.NewReplacer("{table}", s.table.Name, "{columns}", strings.Join(s.columns, "_")).Replace(how)
			if to == s.name || p.Names.Taken(s.table.Schema, to) {
				continue
			}
			p.Names.Take(s.table.Schema, to)
			kind := change.RenameIndex
			if s.key != nil {
				kind = change.RenameUniqueKey
				if s.key == s.table.PrimaryKey {
					kind = change.RenamePrimaryKey
				}
			}
			add(change.Rename{Table: s.table.Ref(), Kind: kind, From: s.name, To: to})
		}
	}
	titles := make([]string, len(fix.Changes))
	for i, ch := range fix.Changes {
		titles[i] = ch.Title()
	}
	fix.Title = strings.Join(titles, "; ")
	return fix, len(fix.Changes) > 0
}
