package evidence

import (
	"math"
	"slices"

	"nexdal/internal/catalog"
)

// A trait is something that speaks for a candidate or against it, as a number that is for the most
// part between 0 and 1. They follow Rostin et al., A Machine Learning Approach to Foreign Key
// Discovery (WebDB 2009), and for the randomness of the values Zhang et al., On Multi-Column
// Foreign Key Discovery (VLDB 2010).
type trait int

const (
	isAny       trait = iota // 1 for every candidate: what a column refers to is one of few
	byName                   // how much the column's name speaks of the key
	byNamePlain              // the part of it that is above a half-hearted likeness
	asPerson                 // the name tells a role, and the table is one of people
	withPeople               // and others that are named after roles refer to it
	hasHandle                // the name ends or begins as references do: id, key, fk
	hasNumber                // or as numbers and codes of any kind do: no, code, name
	isCommon                 // the name is a word that says nothing: position, level, type
	isFlag                   // the name is one of what is so or is not: main, active
	keyUnique                // of a unique constraint, not of the primary key
	keyFound                 // of a key that nobody declared, in a table without any
	keyBeside                // of one in a table that has a primary key
	codeBeside               // the same of texts: a code may well be referred to beside a number
	keyLooks                 // of one of these: how much it looks like one that somebody meant
	toSelf                   // the key is of the column's own table
	ownKey                   // the column is itself different in every row
	inOwnKey                 // it is part of its table's combined primary key
	otherType                // the key is of another type, if one that can be compared
	otherSchema
	elsewhere  // columns of the same name refer to it in one table (0.5) or more (1)
	hasOrphans // share of rows without a parent, ten in a hundred and more are 1
	reaches    // of whole numbers: the share of the key's range that the values span
	atEnd      // of whole numbers: how little likely a random draw from the key lies so much at one end of it
	isFew      // how few different values there are: 1 is one, 0 is ten and more
	isVaried   // how many values differ, against a random draw of as many rows
	farKey     // whole numbers of a key that begins where nobody counts to
	rivals     // of whole numbers: how many other keys have them as well
	isText     // texts, dates and codes, by how many differ
	isUUID     // identifiers that are never alike by chance
	isCombined // several columns
	traitCount
)

// traits are those of one candidate.
type traits [traitCount]float64

// TraitNames are those of the traits in their order, as the fitted weights are written.
var TraitNames = [traitCount]string{"isAny", "byName", "byNamePlain", "asPerson", "withPeople", "hasHandle", "hasNumber", "isCommon", "isFlag", "keyUnique", "keyFound", "keyBeside", "codeBeside", "keyLooks",
	"toSelf", "ownKey", "inOwnKey", "otherType", "otherSchema", "elsewhere", "hasOrphans", "reaches", "atEnd", "isFew", "isVaried", "farKey", "rivals", "isText", "isUUID", "isCombined"}

// sum is what speaks for a candidate by the weights, as the logarithm of its odds against there
// being none.
func (x *traits) sum(w *traits) float64 {
	s := 0.0
	for i, v := range x {
		s += v * w[i]
	}
	return s
}

// chances are the probabilities that a column refers to each of its candidates, of which one at
// most is right: a conditional logit (McFadden, 1974) with the choice of none.
func chances(list []candidate, w *traits) []float64 {
	all := make([]float64, len(list))
	total := 1.0
	for i := range list {
		all[i] = math.Exp(min(30, list[i].is.sum(w)))
		total += all[i]
	}
	for i := range all {
		all[i] /= total
	}
	return all
}

// plain is how far a name is above a half-hearted likeness.
func plain(name float64) float64 { return max(0, name-0.7) / 0.3 }

// few is how few so many are.
func few(n int64) float64 { return max(0, 1-math.Log10(float64(n))) }

// lacking is how much the share of rows with a parent leaves to be desired.
func lacking(coverage float64) float64 { return min(1, 10*(1-coverage)) }

// look sets the traits that names, types and the catalog tell.
func (d *discovery) look(x *candidate, t *catalog.Table, c *catalog.Column, k parentKey, own bool) {
	terms := d.names.of(t, c.Name)
	x.is[isAny] = 1
	x.is[byName], x.is[byNamePlain] = x.name, plain(x.name)
	set := func(i trait, is bool) {
		if is {
			x.is[i] = 1
		}
	}
	handle := slices.ContainsFunc(terms, func(x term) bool { return plainHandles.has(x.handle) })
	set(asPerson, x.name >= named && x.name < 0.7 && d.names.people(d.names.tables[k.table]) && slices.ContainsFunc(terms, person))
	set(hasHandle, handle)
	set(hasNumber, !handle && slices.ContainsFunc(terms, func(x term) bool { return x.handle != "" }))
	set(isCommon, slices.ContainsFunc(terms, func(x term) bool {
		return len(x.stem) == 1 && common.has(x.stem[0]) && !shortened(x.stem, d.names.tables[k.table])
	}))
	set(isFlag, !handle && len(terms[0].words) == 1 && (above.has(terms[0].words[0]) || flags.has(terms[0].words[0])))
	switch {
	case k.primary():
	case k.declared:
		x.is[keyUnique] = 1
	case k.table.PrimaryKey != nil && !whole(c.Type):
		x.is[codeBeside], x.is[keyLooks] = 1, k.likely
	case k.table.PrimaryKey != nil:
		x.is[keyBeside], x.is[keyLooks] = 1, k.likely
	default:
		x.is[keyFound], x.is[keyLooks] = 1, k.likely
	}
	set(toSelf, k.table == t)
	set(ownKey, own)
	set(inOwnKey, inKey(t, c.Name))
	set(otherType, c.Type.Native != k.column.Type.Native)
	set(otherSchema, k.table.Schema != t.Schema)
}

// flags are words for what is so or is not.
var flags = set("active enabled disabled visible hidden locked manual public private required deleted archived default open closed valid")

// measure sets the traits that the values tell, before anybody is asked whether each has a parent.
func (d *discovery) measure(x *candidate, c *catalog.Column, f, g *Column) {
	n := distinctOf(f)
	if n == 0 {
		return
	}
	x.is[isFew] = few(n)
	x.is[isVaried] = varied(f, g)
	switch {
	case whole(c.Type):
		x.is[reaches] = x.fit
		if least, _, ok := numbers(g); ok && least > counts {
			x.is[farKey] = 1
		} else {
			x.is[atEnd] = min(1, -float64(n)*math.Log10(max(x.fit, 1e-9))/6)
		}
		if a, b, ok := numbers(f); ok {
			x.is[rivals] = math.Log10(float64(1+d.ranges.holding(a, b))) / 3
		}
	case c.Type.Family == catalog.UUID:
		x.is[isUUID] = 1
	default:
		x.is[isText] = min(1, math.Log10(float64(n))/3)
	}
}

// varied is how many values differ, against the number that as many random choices among the
// key's would give.
func varied(f, g *Column) float64 {
	rows, keys := float64(f.Filled()), float64(g.Filled())
	if rows == 0 || keys == 0 {
		return 0
	}
	return min(1, float64(distinctOf(f))/(keys*(1-math.Exp(-rows/keys))))
}

// ranges counts the keys of whole numbers among which others lie.
type ranges struct{ least, greatest []float64 }

func rangesOf(parents []parentKey) *ranges {
	r := &ranges{}
	for _, k := range parents {
		if a, b, ok := numbers(k.facts); ok && whole(k.column.Type) && (k.declared || k.likely >= 0.5) {
			r.least, r.greatest = append(r.least, a), append(r.greatest, b)
		}
	}
	slices.Sort(r.least)
	slices.Sort(r.greatest)
	return r
}

// holding is about how many keys have numbers from a to b in their range: those that end at b or
// after it, less those that begin after a.
func (r *ranges) holding(a, b float64) int {
	if r == nil {
		return 0
	}
	ends, _ := slices.BinarySearch(r.greatest, b)
	begins, _ := slices.BinarySearchFunc(r.least, a, func(x, a float64) int {
		if x <= a {
			return -1
		}
		return 1
	})
	return max(0, begins-ends)
}
