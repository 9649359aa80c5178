package mariadb

import (
	"cmp"
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/mariadb/traits"
	"nexdal/internal/pattern"
)

// viewTexts reads the queries of views. The engine writes them with the name
// of every database; the own one is taken out.
func (r *reader) viewTexts() {
	algorithms := map[catalog.Ref]string{}
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, VIEW_DEFINITION, CHECK_OPTION, SECURITY_TYPE, `+r.Algorithm+`, DEFINER FROM information_schema.VIEWS WHERE %s`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var text, check, security, algorithm, definer string
		if err := scan(&ref.Schema, &ref.Table, &text, &check, &security, &algorithm, &definer); err != nil {
			return err
		}
		v := r.views[ref]
		if v == nil {
			return nil
		}
		algorithms[ref], v.Owner = algorithm, definer
		if text == "" {
			r.gap(ref.Schema, "", "definition of view "+ref.Table, "no SHOW VIEW privilege on it, or on what it reads")
			return nil
		}
		if v.Definition = r.unqualified(ref.Schema, text); lossy(text) {
			r.gap(ref.Schema, "", "definition of view "+ref.Table, traits.FourBytes)
		}
		for _, o := range []struct{ is, not, text string }{{algorithm, "UNDEFINED", "algorithm "}, {security, "DEFINER", "sql security "}, {check, "NONE", "with check option "}} {
			if o.is != o.not {
				v.Options = append(v.Options, o.text+strings.ToLower(o.is))
			}
		}
		for _, o := range r.names.In(Engine{}.Dialect(), text, ref.Schema) {
			if o.Schema != ref.Schema || o.Name != ref.Table {
				v.Reads = append(v.Reads, o)
			}
		}
		return nil
	})
}

var fromSequence = pattern.New("(?i)new\\s*\\.\\s*(`[^`]+`|\\w+)\\s*:?=\\s*(?:nextval\\s*\\(|next\\s+value\\s+for)\\s*([`\\w.$]+)")

func (r *reader) triggers() {
	r.ask(`SELECT EVENT_OBJECT_SCHEMA, EVENT_OBJECT_TABLE, TRIGGER_NAME, ACTION_TIMING, EVENT_MANIPULATION, ACTION_STATEMENT, ACTION_ORDER, COALESCE(SQL_MODE, ''), COALESCE(DEFINER, '')
		FROM information_schema.TRIGGERS WHERE %s`, "EVENT_OBJECT_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var event, body, mode string
		var shown *string
		g := &catalog.Trigger{PerRow: true}
		if err := scan(&ref.Schema, &ref.Table, &g.Name, &g.Timing, &event, &shown, &g.Order, &mode, &g.Definer); err != nil {
			return err
		}
		t := r.tables[ref]
		if t == nil {
			return nil
		}
		g.Timing, event = strings.ToLower(g.Timing), strings.ToLower(event)
		g.Events, g.Mode = []string{event}, mode
		if shown == nil {
			t.Triggers = append(t.Triggers, g)
			r.gap(t.Schema, t.Name, "text of trigger "+g.Name, "it is not shown to this user")
			return nil
		}
		body = *shown
		g.Definition = fmt.Sprintf("CREATE TRIGGER %s %s %s ON %s FOR EACH ROW %s", traits.Ident(g.Name), strings.ToUpper(g.Timing), strings.ToUpper(event), traits.Ident(t.Name), body)
		t.Triggers = append(t.Triggers, g)
		for _, m := range fromSequence.FindAllStringSubmatch(body, -1) {
			c := t.Column(strings.Trim(m[1], "`"))
			for _, o := range r.names.In(traits.DialectIn(mode), m[2], ref.Schema) {
				if c != nil && o.Kind == catalog.KindSequence && c.Sequence == nil {
					r.drawn(o, ref, c, "trigger")
				}
			}
		}
		return nil
	})
}

// routines reads functions and procedures
// (https://mariadb.com/kb/en/information-schema-routines-table/).
func (r *reader) routines() {
	type name struct{ schema, name, kind string }
	parameters := map[name][]string{}
	plain := map[name][]string{}
	r.ask(`SELECT SPECIFIC_SCHEMA, SPECIFIC_NAME, ROUTINE_TYPE, COALESCE(PARAMETER_MODE, ''), COALESCE(PARAMETER_NAME, ''), DTD_IDENTIFIER, COALESCE(CHARACTER_SET_NAME, ''), COALESCE(COLLATION_NAME, '')
		FROM information_schema.PARAMETERS WHERE ORDINAL_POSITION > 0 AND %s ORDER BY SPECIFIC_SCHEMA, SPECIFIC_NAME, ROUTINE_TYPE, ORDINAL_POSITION`, "SPECIFIC_SCHEMA", func(scan func(...any) error) error {
		var n name
		var mode, parameter, native, charset, collation string
		if err := scan(&n.schema, &n.name, &n.kind, &mode, &parameter, &native, &charset, &collation); err != nil {
			return err
		}
		text := traits.Ident(parameter) + " " + native + charsetOf(charset, collation)
		if n.kind == "PROCEDURE" {
			text = mode + " " + text
		}
		parameters[n] = append(parameters[n], text)
		plain[n] = append(plain[n], native)
		return nil
	})
	r.ask(`SELECT ROUTINE_SCHEMA, SPECIFIC_NAME, ROUTINE_TYPE, COALESCE(DTD_IDENTIFIER, ''), COALESCE(CHARACTER_SET_NAME, ''), COALESCE(COLLATION_NAME, ''), COALESCE(ROUTINE_DEFINITION, ''),
			IS_DETERMINISTIC = 'YES', SQL_DATA_ACCESS, SECURITY_TYPE, SQL_MODE, ROUTINE_COMMENT, DEFINER
		FROM information_schema.ROUTINES WHERE %s`, "ROUTINE_SCHEMA", func(scan func(...any) error) error {
		var n name
		var returns, charset, collation, body, access, security, mode string
		var fixed bool
		f := &catalog.Routine{Language: "SQL"}
		if err := scan(&n.schema, &n.name, &n.kind, &returns, &charset, &collation, &body, &fixed, &access, &security, &mode, &f.Comment, &f.Owner); err != nil {
			return err
		}
		s := r.schemas[n.schema]
		if s == nil {
			return nil
		}
		f.Name, f.Kind, f.Arguments, f.Mode = n.name, strings.ToLower(n.kind), strings.Join(plain[n], ", "), mode
		s.Routines = append(s.Routines, f)
		r.invoked[f] = security == "INVOKER"
		if body == "" || n.kind != "FUNCTION" && n.kind != "PROCEDURE" {
			r.gap(n.schema, "", "text of "+f.Kind+" "+f.Name, "it is not shown to this user, or not kept as a statement")
			return nil
		}
		text := fmt.Sprintf("CREATE %s %s(%s)", n.kind, traits.Ident(n.name), strings.Join(parameters[n], ", "))
		if n.kind == "FUNCTION" {
			f.Returns = returns + charsetOf(charset, collation)
			text += " RETURNS " + f.Returns
		}
		for _, o := range []struct {
			is   bool
			text string
		}{{fixed, "DETERMINISTIC"}, {access != "CONTAINS SQL", access}, {security != "DEFINER", "SQL SECURITY " + security}, {f.Comment != "", "COMMENT " + traits.LiteralIn(mode, f.Comment)}} {
			if o.is {
				text += "\n    " + o.text
			}
		}
		f.Definition = text + "\n" + body
		f.Touches = r.names.In(traits.DialectIn(mode), body, n.schema)
		return nil
	})
}

func charsetOf(charset, collation string) string {
	if charset == "" {
		return ""
	}
	text := " CHARSET " + charset
	if collation != "" {
		text += " COLLATE " + collation
	}
	return text
}

// events reads what the server does by the clock
// (https://mariadb.com/kb/en/information-schema-events-table/).
func (r *reader) events() {
	r.ask(`SELECT EVENT_SCHEMA, EVENT_NAME, EVENT_DEFINITION, EVENT_TYPE = 'RECURRING', COALESCE(EXECUTE_AT, ''), COALESCE(INTERVAL_VALUE, ''), COALESCE(INTERVAL_FIELD, ''),
			COALESCE(STARTS, ''), COALESCE(ENDS, ''), STATUS, ON_COMPLETION, EVENT_COMMENT, SQL_MODE, DEFINER
		FROM information_schema.EVENTS WHERE %s`, "EVENT_SCHEMA", func(scan func(...any) error) error {
		var schema, body, at, every, unit, starts, ends, status, after, mode string
		var again bool
		o := &catalog.Object{Kind: "event"}
		if err := scan(&schema, &o.Name, &body, &again, &at, &every, &unit, &starts, &ends, &status, &after, &o.Comment, &mode, &o.Definer); err != nil {
			return err
		}
		when := "AT " + traits.Literal(at)
		if again {
			when = "EVERY " + every + " " + unit
			if strings.ContainsAny(every, ":-. '") {
				when = "EVERY " + traits.Literal(strings.Trim(every, "'")) + " " + unit
			}
			if starts != "" {
				when += " STARTS " + traits.Literal(starts)
			}
			if ends != "" {
				when += " ENDS " + traits.Literal(ends)
			}
		}
		state := map[string]string{"ENABLED": "ENABLE", "DISABLED": "DISABLE", "SLAVESIDE_DISABLED": "DISABLE ON SLAVE"}[status]
		o.Definition = fmt.Sprintf("CREATE EVENT %s ON SCHEDULE %s ON COMPLETION %s %s", traits.Ident(o.Name), when, after, cmp.Or(state, "ENABLE"))
		if o.Comment != "" {
			o.Definition += " COMMENT " + traits.LiteralIn(mode, o.Comment)
		}
		o.Definition += " DO " + body
		o.Mode = mode
		if s := r.schemas[schema]; s != nil {
			s.Objects = append(s.Objects, o)
		}
		return nil
	})
}

// statistics reads the numbers of different values that the indexes keep
// (https://mariadb.com/kb/en/information-schema-statistics-table/) and, where
// ANALYZE was told to, what it noted of values.
func (r *reader) statistics() {
	r.ask(`SELECT TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME, MAX(CARDINALITY) FROM information_schema.STATISTICS
		WHERE SEQ_IN_INDEX = 1 AND SUB_PART IS NULL AND CARDINALITY IS NOT NULL AND COLUMN_NAME IS NOT NULL AND %s GROUP BY TABLE_SCHEMA, TABLE_NAME, COLUMN_NAME`, "TABLE_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var column string
		var distinct float64
		err := scan(&ref.Schema, &ref.Table, &column, &distinct)
		if t := r.tables[ref]; t != nil {
			if c := t.Column(column); c != nil {
				c.Stats.Distinct = &distinct
			}
		}
		return err
	})
	if r.err != nil {
		return
	}
	r.reads()
	if r.Nulls == "" || r.err != nil {
		return
	}
	r.ask(r.Nulls, "db_name", func(scan func(...any) error) error {
		var ref catalog.Ref
		var column string
		var nulls float64
		err := scan(&ref.Schema, &ref.Table, &column, &nulls)
		if t := r.tables[ref]; t != nil {
			if c := t.Column(column); c != nil {
				c.Stats.Nulls = &nulls
			}
		}
		return err
	})
	if r.err != nil && !r.over() { // only some may read the server's own tables
		r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{What: "shares of nulls", Reason: notShown, Figures: true})
		r.err = nil
	}
}
