package mariadb

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/engine/sqllex"
)

// texts reads what the engine tells in the text of a table alone
// (https://mariadb.com/kb/en/show-create-table/): the options of indexes, periods of time,
// and what nobody here has heard of. That is a gap, so that nothing of the table is
// defined again without it.
func (r *reader) texts() {
	for _, s := range r.catalog.Schemas {
		names := make([]string, len(s.Tables))
		for i, t := range s.Tables {
			names[i] = t.Name
		}
		shown := r.shown("TABLE", s.Name, names)
		for _, t := range s.Tables {
			if text, ok := shown[t.Name]; ok {
				r.declared(t, text)
			} else if r.err == nil {
				r.gap(t.Schema, t.Name, "text of the table", "the server does not show it to this user")
			}
		}
	}
}

// shown asks for the statements that make objects of one schema. What the server does not
// show to this user is left out.
func (r *reader) shown(kind, schema string, names []string) map[string]string {
	shown := map[string]string{}
	if r.err == nil {
		r.err = r.show(kind, schema, names, shown)
	}
	return shown
}

// declared takes from a table's text what the views of information_schema leave out.
func (r *reader) declared(t *catalog.Table, text string) {
	clauses, rest := clausesOf(text)
	r.declaredOptions(t, rest)
	for _, clause := range clauses {
		if len(clause) == 0 {
			continue
		}
		if unknown := unknownWords(clause); clause[0].Kind == sqllex.Quoted && unknown != "" {
			r.gap(t.Schema, t.Name, "column "+clause[0].Name(), "it is declared with "+unknown+", which Nexdal does not know")
			continue
		}
		switch {
		case clause[0].Is("PERIOD") && !slices.ContainsFunc(clause, func(k sqllex.Token) bool { return k.Is("SYSTEM_TIME") }):
			r.gap(t.Schema, t.Name, "period "+clause[2].Name(), "Nexdal does not know periods of an application's time")
		case slices.ContainsFunc(clause[:min(3, len(clause))], func(k sqllex.Token) bool { return k.Is("FOREIGN") }):
			r.declaredReference(t, clause)
		case slices.ContainsFunc(clause[:min(2, len(clause))], func(k sqllex.Token) bool { return k.Is("KEY") }):
			r.declaredKey(t, clause)
		}
	}
}

// declaredKey reads the options of an index.
func (r *reader) declaredKey(t *catalog.Table, clause []sqllex.Token) {
	name := "PRIMARY"
	for _, k := range clause[:min(3, len(clause))] {
		if k.Kind == sqllex.Quoted {
			name = k.Name()
			break
		}
	}
	x := t.Index(name)
	if x == nil {
		return
	}
	depth, rest := 0, []string(nil)
	for i := 0; i < len(clause); i++ {
		k := clause[i]
		switch {
		case k.Is("("):
			depth++
		case k.Is(")"):
			depth--
			rest = nil
		case depth > 0 && k.Is("WITHOUT"):
			x.Pinned = "WITHOUT OVERLAPS"
		case depth > 0 || k.Is(r.Unused):
		case k.Is("COMMENT"):
			i++ // the view has it
		default:
			rest = append(rest, k.Text)
		}
	}
	x.Storage = strings.ReplaceAll(strings.Join(rest, " "), " = ", "=")
}

// knownOptions are those of a table that the views tell of, CREATE_OPTIONS aside.
var knownOptions = []string{"ENGINE", "AUTO_INCREMENT", "CHARSET", "COLLATE", "COMMENT"}

// declaredOptions reads what stands behind the parentheses: options, and how partitions
// are cut.
func (r *reader) declaredOptions(t *catalog.Table, rest []sqllex.Token) {
	for i := 0; i < len(rest); i++ {
		k := rest[i]
		if k.Is("PARTITION") {
			r.declaredPartitions(t, rest[i:])
			return
		}
		if k.Is("UNION") {
			r.merged(t, rest[i+1:])
		}
		if k.Is("TABLESPACE") || i+1 < len(rest) && rest[i+1].Is("=") && !slices.ContainsFunc(knownOptions, k.Is) && !strings.Contains(strings.ToLower(" "+t.Storage), " "+strings.ToLower(k.Text)+"=") {
			r.gap(t.Schema, t.Name, "option "+k.Text, "Nexdal does not know it")
		}
	}
}

// merged notes at the tables of UNION=(a, b) that the table stands for them
// (https://mariadb.com/kb/en/merge/).
func (r *reader) merged(t *catalog.Table, words []sqllex.Token) {
	schema := t.Schema
	for i, k := range words {
		switch {
		case k.Is(")"):
			return
		case k.Kind == sqllex.Quoted && i+1 < len(words) && words[i+1].Is("."):
			schema = k.Name()
		case k.Kind == sqllex.Quoted:
			if of := r.tables[catalog.Ref{Schema: schema, Table: k.Name()}]; of != nil {
				of.Dependants = append(of.Dependants, catalog.Dependant{Kind: traits.MergeTable, Name: t.Ref().String()})
			}
			schema = t.Schema
		}
	}
}

// declaredPartitions reads how a history is cut, and tells a default from a list of 0.
func (r *reader) declaredPartitions(t *catalog.Table, words []sqllex.Token) {
	if t.PartitionBy == nil {
		return
	}
	if t.PartitionBy.Method == "system_time" { // PARTITION BY SYSTEM_TIME how (
		how := "system_time"
		for _, k := range words[min(3, len(words)):] {
			if k.Is("(") || k.Is("PARTITIONS") {
				break
			}
			how += " " + k.Text
		}
		t.PartitionBy.Definition = how
	}
	for i, k := range words[:max(0, len(words)-2)] {
		if words[i+1].Is("=") && !k.Is("ENGINE") && !k.Is("COMMENT") {
			r.gap(t.Schema, t.Name, "partition option "+k.Text, "Nexdal does not know it")
		}
		if k.Is("PARTITION") && words[i+2].Is("DEFAULT") {
			for _, p := range t.Partitions {
				if p.Name == words[i+1].Name() {
					p.Bounds = "DEFAULT"
				}
			}
		}
	}
}

// declaredReference takes a foreign key from the text where the views do not show it, as to a
// user who may do nothing but read: CONSTRAINT name FOREIGN KEY (a) REFERENCES db.t (b) ON
// DELETE action.
func (r *reader) declaredReference(t *catalog.Table, clause []sqllex.Token) {
	f := &catalog.ForeignKey{Target: catalog.Ref{Schema: t.Schema}, OnDelete: catalog.Restrict, OnUpdate: catalog.Restrict}
	list, target, depth := &f.Columns, false, 0
	for i, k := range clause {
		switch {
		case k.Is("("):
			depth++
		case k.Is(")"):
			depth--
		case k.Is("REFERENCES"):
			list, target = &f.TargetColumns, true
		case k.Is("ON") && i+2 < len(clause):
			words := []string{clause[i+2].Text}
			if clause[i+2].Is("NO") || clause[i+2].Is("SET") {
				words = append(words, clause[i+3].Text)
			}
			to := &f.OnDelete
			if clause[i+1].Is("UPDATE") {
				to = &f.OnUpdate
			}
			*to = action(strings.Join(words, " "))
		case k.Kind != sqllex.Quoted:
		case depth > 0:
			*list = append(*list, k.Name())
		case !target:
			f.Name = k.Name()
		case clause[i+1].Is("."):
			f.Target.Schema = k.Name()
		default:
			f.Target.Table = k.Name()
		}
	}
	if slices.ContainsFunc(t.ForeignKeys, func(is *catalog.ForeignKey) bool { return is.Name == f.Name }) {
		return
	}
	if of := r.tables[f.Target]; of != nil {
		for _, k := range of.Keys() {
			if f.TargetIndex == "" && slices.Equal(k.Columns, f.TargetColumns) {
				f.TargetIndex = k.Index
			}
		}
	}
	t.ForeignKeys = append(t.ForeignKeys, f)
}

// clausesOf are the definitions between the parentheses of CREATE TABLE, without what is
// blank, and the words behind them.
func clausesOf(text string) (clauses [][]sqllex.Token, rest []sqllex.Token) {
	depth, closed := 0, false
	for _, k := range (Engine{}).Dialect().Tokens(text) {
		if k.Is(")") {
			if depth--; depth == 0 && !closed {
				closed = true
				continue
			}
		}
		switch {
		case k.Blank() || k.Kind == sqllex.Mark:
		case closed:
			rest = append(rest, k)
		case depth == 0 && k.Is("("), depth == 1 && k.Is(","):
			clauses = append(clauses, nil)
		case depth > 0:
			clauses[len(clauses)-1] = append(clauses[len(clauses)-1], k)
		}
		if k.Is("(") {
			depth++
		}
	}
	return clauses, rest
}

// knownWords are those of a column's definition that the model has a place for
// (https://mariadb.com/kb/en/create-table/#column-definitions).
var knownWords = func() map[string]bool {
	all := map[string]bool{}
	for _, w := range strings.Fields("UNSIGNED ZEROFILL CHARACTER SET COLLATE NOT NULL AUTO_INCREMENT INVISIBLE GENERATED ALWAYS AS STORED PERSISTENT VIRTUAL ROW START END WITHOUT SYSTEM VERSIONING CHECK") {
		all[w] = true
	}
	return all
}()

// unknownWords are those of a column's clause that the model has no place for. The type
// comes first, and what stands in parentheses is told by the views.
func unknownWords(clause []sqllex.Token) string {
	var unknown []string
	depth := 0
	for i := 2; i < len(clause); i++ {
		k := clause[i]
		word := strings.ToUpper(k.Text)
		switch {
		case k.Is("("):
			depth++
		case k.Is(")"):
			depth--
		case depth > 0:
		case word == "DEFAULT", word == "COMMENT", word == "UPDATE", word == "SET", word == "COLLATE":
			i++ // its value; what a call of a function is given stands in parentheses
			if i+1 < len(clause) && (clause[i].Is("-") || clause[i].Is("+")) {
				i++
			}
			if i < len(clause) && clause[i].Is("(") {
				i--
			}
		case word == "ON", knownWords[word]:
		default:
			unknown = append(unknown, k.Text)
		}
	}
	return strings.Join(unknown, " ")
}
