package firebird

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/firebird/traits"
)

func (r *reader) roles() {
	r.ask(askRoles, func(w *capture.Fields) {
		name := w.Text()
		w.Text()
		r.object(&catalog.Object{Kind: "role", Name: name, Definition: "CREATE ROLE " + traits.Ident(name), Comment: w.Text()})
	})
}

// privileges by their letters.
var privileges = map[string]string{"S": "SELECT", "I": "INSERT", "U": "UPDATE", "D": "DELETE", "R": "REFERENCES", "X": "EXECUTE", "G": "USAGE", "M": "MEMBER"}

// Kinds of RDB$USER_PRIVILEGES.RDB$USER_TYPE and RDB$OBJECT_TYPE.
const (
	isUser = 8
	isRole = 13
)

// made are the kinds of such objects, by the name that stands for all of one.
var made = map[string]string{"SQL$TABLES": "TABLE", "SQL$VIEWS": "VIEW", "SQL$PROCEDURES": "PROCEDURE", "SQL$FUNCTIONS": "FUNCTION", "SQL$PACKAGES": "PACKAGE", "SQL$GENERATORS": "SEQUENCE",
	"SQL$DOMAINS": "DOMAIN", "SQL$EXCEPTIONS": "EXCEPTION", "SQL$ROLES": "ROLE", "SQL$CHARSETS": "CHARACTER SET", "SQL$COLLATIONS": "COLLATION", "SQL$FILTERS": "FILTER", "SQL$DATABASE": "DATABASE"}

// grants: those that an owner has by being one are left out.
func (r *reader) grants() {
	r.ask(askGrants, func(w *capture.Fields) {
		to, kind, by, letter := w.Text(), w.Number(), w.Text(), w.Text()
		option, name, object, column := w.Number(), w.Text(), w.Number(), w.Text()
		var rights *catalog.Rights
		switch t, v := r.tables[name], r.views[name]; {
		case object == isRole || letter == "M":
			if o := r.objects["role "+name]; o != nil {
				o.Definition += ";\nGRANT " + traits.Ident(name) + " TO " + traits.Ident(to)
				if option > 0 {
					o.Definition += " WITH ADMIN OPTION"
				}
			}
			return
		case object == ofException:
			if o := r.objects["exception "+name]; o != nil && !(kind == isUser && to == r.owners["exception "+name]) {
				o.Definition += ";\nGRANT " + privileges[letter] + " ON EXCEPTION " + traits.Ident(name) + " TO " + grantee(to, kind) + traits.Grantable(option > 0)
			}
			return
		case made[name] != "":
			what := map[string]string{"C": "CREATE ", "L": "ALTER ANY ", "O": "DROP ANY "}[letter] + made[name]
			if made[name] == "DATABASE" {
				what = strings.Replace(what, "ANY ", "", 1)
			}
			what += " TO " + grantee(to, kind)
			r.object(&catalog.Object{Kind: traits.GrantToMake, Name: what, Definition: "GRANT " + what + traits.Grantable(option > 0)})
			return
		case t != nil && (object == ofTable || object == ofView):
			rights = &t.Rights
		case v != nil && (object == ofTable || object == ofView):
			rights = &v.Rights
		case r.routines[routineKind(object)+" "+name] != nil:
			rights = &r.routines[routineKind(object)+" "+name].Rights
		case object == ofGenerator && r.sequences[name] != nil:
			rights = &r.sequences[name].Rights
		default:
			return
		}
		if kind == isUser && to == rights.Owner {
			return
		}
		g := catalog.Grant{To: grantee(to, kind), What: privileges[letter], Grantable: option > 0, Column: column}
		if g.What == "" {
			g.What = letter
		}
		if by != rights.Owner {
			g.By = by
		}
		rights.Granted = true
		rights.Grants = append(rights.Grants, g)
	})
	for _, t := range r.c.Tables() {
		slices.SortFunc(t.Grants, func(a, b catalog.Grant) int { return strings.Compare(a.To+a.What+a.Column, b.To+b.What+b.Column) })
	}
}

// grantee says of whom is no user what it is.
func grantee(name string, kind int) string {
	words := map[int]string{ofView: "VIEW", ofTrigger: "TRIGGER", ofProcedure: "PROCEDURE", ofFunction: "FUNCTION", ofHeader: "PACKAGE", isRole: "ROLE"}[kind]
	switch {
	case name == "PUBLIC":
		return name
	case words == "":
		return traits.Ident(name)
	}
	return words + " " + traits.Ident(name)
}
