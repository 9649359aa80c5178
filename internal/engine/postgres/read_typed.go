package postgres

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/sqllex"
)

// takesInteger are functions of the engine that take an integer, and no bigint in its place
// (https://www.postgresql.org/docs/current/functions.html).
var takesInteger = []string{"left", "right", "repeat", "lpad", "rpad", "substr", "substring", "overlay", "split_part", "chr", "make_date", "make_time", "make_timestamp", "make_timestamptz", "make_interval",
	"int4range", "int4multirange", "get_byte", "set_byte", "get_bit", "set_bit"}

// A typist finds the columns on whose types the texts of routines rest, of which the engine keeps
// no record: it finds a function by the types of what it is called with, and the rows that a
// PL/pgSQL function returns have to be of just the types that it declares
// (https://www.postgresql.org/docs/current/typeconv-func.html,
// https://www.postgresql.org/docs/current/plpgsql-control-structures.html#PLPGSQL-STATEMENTS-RETURNING).
type typist struct {
	takes map[string]bool // functions that are found by types
	rows  map[string]bool // types that are rows, and the tables with such a type
	fires map[string][]uint32
}

func (r *reader) typist() *typist {
	y := &typist{takes: map[string]bool{}, rows: map[string]bool{"record": true}, fires: map[string][]uint32{}}
	for _, name := range takesInteger {
		y.takes[name] = true
	}
	for _, f := range r.routines {
		if f.Arguments != "" {
			y.takes[f.Name] = true
		}
	}
	for o, t := range r.things {
		if o.class == classClass {
			y.rows[t.Name], y.rows[t.Schema+"."+t.Name], y.rows[relation(catalog.Ref{Schema: t.Schema, Table: t.Name})] = true, true, true
		}
	}
	for oid, t := range r.tables {
		for _, g := range t.Triggers {
			y.fires[g.Calls] = append(y.fires[g.Calls], oid)
		}
	}
	return y
}

// columns are those of the table on whose types the text rests.
func (y *typist) columns(words []sqllex.Token, t *catalog.Table, f *catalog.Routine) []string {
	var all []string
	returns := strings.TrimPrefix(f.Returns, "SETOF ")
	own := returns == t.Name || returns == relation(t.Ref())
	switch {
	case f.Language != "plpgsql":
	case own && len(f.Touches) > 1, !own && y.returnsRows(f, returns) && star(words):
		return names(t)
	case !own && y.returnsRows(f, returns):
		for _, w := range words {
			all = append(all, spoken(w))
		}
	}
	all = append(all, y.given(words)...)
	return slices.DeleteFunc(names(t), func(name string) bool { return !slices.Contains(all, name) })
}

func names(t *catalog.Table) []string {
	all := make([]string, len(t.Columns))
	for i, c := range t.Columns {
		all[i] = c.Name
	}
	return all
}

func (y *typist) returnsRows(f *catalog.Routine, returns string) bool {
	return returns != f.Returns || strings.HasPrefix(returns, "TABLE(") || y.rows[returns]
}

// given are the words between the brackets behind the name of a function that is found by types.
func (y *typist) given(words []sqllex.Token) (all []string) {
	var typed []bool // of the brackets that are open
	for i, w := range words {
		switch {
		case w.Is("("):
			typed = append(typed, i > 0 && y.takes[spoken(words[i-1])] && (i < 2 || !words[i-2].Is("into") && !words[i-2].Is("function")))
		case w.Is(")"):
			typed = typed[:max(0, len(typed)-1)]
		case w.Is(";"):
			typed = nil
		case slices.Contains(typed, true):
			all = append(all, spoken(w))
		}
	}
	return all
}
