package mariadb

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
)

// faults finds what acts with the rights of an account that does not exist, so that every call
// fails (https://mariadb.com/kb/en/account-names/, https://mariadb.com/kb/en/mysqluser-table/).
// Who may not read the accounts does not learn of it.
func (r *reader) faults() {
	accounts := map[string]bool{"": true}
	err := r.rows(question{text: "SELECT CONCAT(User, '@', Host) FROM mysql.user"}, func(scan func(...any) error) error {
		var account string
		err := scan(&account)
		accounts[account] = true
		return err
	})
	if r.over() {
		r.err = err
		return
	}
	if err != nil {
		r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{What: catalog.GapAccounts, Reason: "no SELECT privilege on mysql.user", Figures: true})
		return
	}
	note := func(f catalog.Fault, definer string) {
		if f.Definer = definer; !accounts[definer] && !strings.HasPrefix(definer, "CURRENT_USER") {
			r.catalog.Faults = append(r.catalog.Faults, f)
		}
	}
	for _, s := range r.catalog.Schemas {
		for _, v := range s.Views {
			if slices.Contains(v.Options, "sql security invoker") {
				continue // it acts with the rights of who asks it
			}
			note(catalog.Fault{Kind: catalog.KindView, Schema: s.Name, Name: v.Name}, v.Owner)
		}
		for _, t := range s.Tables {
			for _, g := range t.Triggers {
				note(catalog.Fault{Kind: "trigger", Schema: s.Name, Table: t.Name, Name: g.Name}, g.Definer)
			}
		}
		for _, f := range s.Routines {
			if r.invoked[f] {
				continue
			}
			note(catalog.Fault{Kind: f.Kind, Schema: s.Name, Name: f.Name}, f.Owner)
		}
		for _, o := range s.Objects {
			note(catalog.Fault{Kind: o.Kind, Schema: s.Name, Name: o.Name}, o.Definer)
		}
	}
}
