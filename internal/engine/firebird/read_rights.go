package firebird

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
)

func (r *reader) roles() {
	r.ask(askRoles, func(w *capture.Fields) {
		name := w.Text()
		w.Text()
		r.object(&catalog.Object{Kind: "role", Name: name, Definition: "CREATE ROLE " + ident(name), Comment: w.Text()})
	})
}

// privileges by their letters.
var privileges = map[string]string{"S": "SELECT", "I": "INSERT", "U": "UPDATE", "D": "DELETE", "R": "REFERENCES", "X": "EXECUTE", "G": "USAGE", "M": "MEMBER"}

// Kinds of RDB$USER_PRIVILEGES.RDB$USER_TYPE and RDB$OBJECT_TYPE.
const (
	isUser = 8
	isRole = 13
)

// grantToMake is the right to make, alter or drop objects of a kind, which belongs to no object
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref-security-grant-ddl).
const grantToMake = "right to make"

// made are the kinds of such objects, by the name that stands for all of one.
var made = map[string]string{"SQL$TABLES": "TABLE", "SQL$VIEWS": "VIEW", "SQL$PROCEDURES": "PROCEDURE", "SQL$FUNCTIONS": "FUNCTION", "SQL$PACKAGES": "PACKAGE", "SQL$GENERATORS": "SEQUENCE",
	"SQL$DOMAINS": "DOMAIN", "SQL$EXCEPTIONS": "EXCEPTION", "SQL$ROLES": "ROLE", "SQL$CHARSETS": "CHARACTER SET", "SQL$COLLATIONS": "COLLATION", "SQL$FILTERS": "FILTER", "SQL$DATABASE": "DATABASE"}

// grantable ends a grant that may be handed on.
func grantable(may bool) string {
	if may {
		return " WITH GRANT OPTION"
	}
	return ""
}

// grants: those that an owner has by being one are left out.
func (r *reader) grants() {
	r.ask(askGrants, func(w *capture.Fields) {
		to, kind, by, letter := w.Text(), w.Number(), w.Text(), w.Text()
		option, name, object, column := w.Number(), w.Text(), w.Number(), w.Text()
		var rights *catalog.Rights
		switch t, v := r.tables[name], r.views[name]; {
		case object == isRole || letter == "M":
			if o := r.objects["role "+name]; o != nil {
				o.Definition += ";\nGRANT " + ident(name) + " TO " + ident(to)
				if option > 0 {
					o.Definition += " WITH ADMIN OPTION"
				}
			}
			return
		case object == ofException:
			if o := r.objects["exception "+name]; o != nil && !(kind == isUser && to == r.owners["exception "+name]) {
				o.Definition += ";\nGRANT " + privileges[letter] + " ON EXCEPTION " + ident(name) + " TO " + grantee(to, kind) + grantable(option > 0)
			}
			return
		case made[name] != "":
			what := map[string]string{"C": "CREATE ", "L": "ALTER ANY ", "O": "DROP ANY "}[letter] + made[name]
			if made[name] == "DATABASE" {
				what = strings.Replace(what, "ANY ", "", 1)
			}
			what += " TO " + grantee(to, kind)
			r.object(&catalog.Object{Kind: grantToMake, Name: what, Definition: "GRANT " + what + grantable(option > 0)})
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
		return ident(name)
	}
	return words + " " + ident(name)
}
