package read

import (
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/engine/postgres/traits"
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
	takes map[string]string   // functions by their names, and the types of what they are given
	rows  map[string]bool     // types that are rows, and the tables with such a type
	fires map[string][]uint32 // routines that triggers call, and the tables that these are of
}

func (r *reader) typist() *typist {
	y := &typist{takes: map[string]string{}, rows: map[string]bool{"record": true}, fires: map[string][]uint32{}}
	for _, name := range takesInteger {
		y.takes[name] = "integer"
	}
	for _, f := range r.routines {
		y.takes[f.Name] += f.Arguments + ","
	}
	for o, t := range r.things {
		if o.class == classClass {
			y.rows[t.Name], y.rows[t.Schema+"."+t.Name], y.rows[traits.Relation(catalog.Ref{Schema: t.Schema, Table: t.Name})] = true, true, true
		}
	}
	for oid, t := range r.tables {
		for _, g := range t.Triggers {
			if !slices.Contains(y.fires[g.Calls], oid) {
				y.fires[g.Calls] = append(y.fires[g.Calls], oid)
			}
		}
	}
	return y
}

// columns are those of the table on whose types the text rests, in no order.
func (y *typist) columns(words []sqllex.Token, t *catalog.Table, f *catalog.Routine) []string {
	all := y.given(words, t)
	if f.Language != "plpgsql" {
		return all
	}
	switch own := engine.ReturnsRowsOf(f.Returns, t.Schema, t.Name); {
	case own && len(f.Touches) > 1, !own && y.returnsRows(f) && star(words):
		return names(t)
	case !own && y.returnsRows(f):
		for _, w := range words {
			all = append(all, spoken(w))
		}
	}
	return all
}

// returned is the type of what a routine returns one or many of.
func returned(f *catalog.Routine) string { return strings.TrimPrefix(f.Returns, "SETOF ") }

func names(t *catalog.Table) []string {
	all := make([]string, len(t.Columns))
	for i, c := range t.Columns {
		all[i] = c.Name
	}
	return all
}

// returnsRows reports whether what a routine returns has to be of just the types that it declares.
func (y *typist) returnsRows(f *catalog.Routine) bool {
	returns := returned(f)
	return returns != f.Returns || strings.HasPrefix(returns, "TABLE(") || y.rows[returns]
}

// given are the columns of the table between the brackets behind the name of a function that takes
// one of their type. The first brackets of a definition are the routine's own.
func (y *typist) given(words []sqllex.Token, t *catalog.Table) (all []string) {
	var takes []string // of the brackets that are open
	own := len(words) > 0 && words[0].Is("create")
	for i, w := range words {
		switch {
		case w.Is("("):
			types := ""
			if i > 0 && !own {
				types = y.takes[spoken(words[i-1])]
			}
			takes, own = append(takes, types), false
		case w.Is(")"):
			takes = takes[:max(0, len(takes)-1)]
		case w.Is(";"):
			takes = nil
		case len(takes) > 0:
			if c := t.Column(spoken(w)); c != nil && slices.ContainsFunc(takes, func(types string) bool { return asked(types, c.Type) }) {
				all = append(all, c.Name)
			}
		}
	}
	return all
}

// asked reports whether a function that takes the types may be found by one; a smallint finds one that
// takes an integer.
func asked(types string, of catalog.Type) bool {
	if of.Family == catalog.Integer {
		return strings.Contains(types, "integer") || strings.Contains(types, "smallint")
	}
	base, _, _ := strings.Cut(of.Native, "(")
	return strings.Contains(types, base)
}
