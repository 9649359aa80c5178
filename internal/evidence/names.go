package evidence

import (
	"slices"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"nexdal/internal/catalog"
)

// words cuts a name at underscores and changes of case, in small letters and
// the singular: GaugeModels gives gauge, model.
func words(name string) []string {
	var all []string
	from := -1 // where the word begins; before the first: -1
	put := func(to int) {
		if from >= 0 {
			all = append(all, singular(strings.ToLower(name[from:to])))
		}
		from = -1
	}
	var before rune // the letter or digit before
	for i, r := range name {
		switch {
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			put(i)
		case from < 0:
			from = i
		case unicode.IsUpper(r) && (unicode.IsLower(before) || unicode.IsUpper(before) && smallNext(name[i:])):
			put(i)
			from = i
		}
		before = r
	}
	put(len(name))
	return all
}

// smallNext reports whether a small letter follows the first letter.
func smallNext(s string) bool {
	_, n := utf8.DecodeRuneInString(s)
	next, _ := utf8.DecodeRuneInString(s[n:])
	return unicode.IsLower(next)
}

var irregular = map[string]string{"people": "person", "children": "child", "men": "man", "women": "woman", "indices": "index", "indexes": "index",
	"vertices": "vertex", "matrices": "matrix", "criteria": "criterion", "media": "medium", "data": "data", "news": "news", "series": "series",
	"species": "species", "analyses": "analysis", "statuses": "status", "aliases": "alias", "buses": "bus", "caches": "cache", "lives": "life", "leaves": "leaf",
	"movies": "movie", "cookies": "cookie", "ids": "id",
	"alias": "alias", "atlas": "atlas", "bias": "bias", "canvas": "canvas", "chaos": "chaos", "gas": "gas", "gases": "gas", "lens": "lens", "lenses": "lens", "atlases": "atlas", "canvases": "canvas"}

func singular(w string) string {
	if s, ok := irregular[w]; ok {
		return s
	}
	ends := func(s string) bool { return strings.HasSuffix(w, s) }
	switch {
	case len(w) > 4 && ends("ies"):
		return w[:len(w)-3] + "y"
	case len(w) > 4 && (ends("sses") || ends("xes") || ends("ches") || ends("shes") || ends("uses")):
		return w[:len(w)-2]
	case len(w) > 3 && ends("s") && !ends("ss") && !ends("us") && !ends("is"):
		return w[:len(w)-1]
	}
	return w
}

// set makes a lookup of words.
func set(list string) *vocabulary {
	return &vocabulary{sync.OnceValue(func() map[string]bool {
		m := map[string]bool{}
		for _, w := range strings.Fields(list) {
			m[w] = true
		}
		return m
	})}
}

// A vocabulary is a list of words, made into a set when it is first asked: most calls of the program ask
// none.
type vocabulary struct{ in func() map[string]bool }

func (w *vocabulary) has(word string) bool { return w.in()[word] }

var (
	// handles are words that a key's or reference's name ends (or begins) in,
	// and that say nothing of what it refers to.
	handles = set("id key no nr num number code fk ref reference uuid guid pk name oid uid sk idx cod rowid pid ident identifier symbol abbr iso")
	// identifiers are words for what tells one thing from another in the world.
	identifiers = set("email mail login username nickname badge isbn issn ean iban bic swift sku slug vin imei imsi imo mmsi callsign ssn passport hostname mac serial barcode plate registration licence license domain url uri")
	// numeric handles stand for a number that identifies; the rest of them may
	// be of another kind than the key, as code is to id.
	plainHandles = set("id key fk ref reference pk oid uid sk idx rowid pid")
	// glued are handles that are found at a word's end without a mark between.
	glued = []string{"number", "code", "uuid", "guid", "key", "id", "no", "nr", "fk", "sk"}
	// above are words for another row of the same table.
	above = set("parent root previous prev next predecessor successor superior boss ancestor head master main original origin base super upper precede follow child sibling supersede replace replaced merged copied copy duplicate reply forked fork linked prior parentid top owning report descendant descendent subordinate")
	// roles are words for what people did or is.
	roles = set("by owner author creator editor assignee reporter manager approver poster sender recipient receiver responsible modifier updater uploader moderator leader supervisor reviewer operator requester requestor submitter writer inspector handler coordinator contact who creat modif valid approve write create deputy captain chief chair secretary clerk boss rep representative guest host spouse mentor coach pupil kin wife husband father mother friend buddy crew pilot judge")
	// persons are words for tables of people and accounts.
	persons = set("user person employee staff member account profile keeper operator actor agent worker login principal personnel human usr emp people contact party customer client patient student subscriber")
	// things end like words for people, and are none.
	things = set("adapter amber anchor answer armor behavior border browser buffer cancer carrier center chapter character cluster color committee computer container controller corner counter courier cover december degree descriptor discover disorder docker elevator error exterior factor favor fiber filter finger flavor floor flower folder former gender generator greater harbor header honor identifier indicator integer interior labor ladder later latter layer lesser letter liter lower major marker master matter meteor meter minor mirror monitor motor never newsletter november number october offer order other outer paper parameter parser pointer power prefer printer prior processor proper provider quarter razor refer register remainder render reorder river router rumor saber scanner scheduler sector selector semester sensor separator september server shower silver slider spacer specifier starter sticker summer super supplier terror theater timber timer together tower tracker trailer transfer tremor trigger tumor under upper vapor vector voucher water weather wrapper zipper")
	// common words say nothing of what they are the name of.
	common = set("id key code name number no nr type kind status state title label date day value text description note position level order sort rank seq sequence version lang language locale year month hour time amount price total count size weight length height width email phone url path file hash token active enabled created updated modified deleted comment message subject body content data first last middle street city zip country region currency unit color colour gender category class group flag priority score percent rate ratio quantity qty line item row col column x y z record rec object obj entity entry")
)

// sides tell two references to the same table apart.
var sides = set("from to source target src dst dest start end first last a b left right in out")

// properties make what they follow another thing: fk_station_type is none of a
// station.
var properties = set("type status state kind level class category mode flag count number code name date group role rank priority order position")

// tableWords follow the name of a thing in the name of its table.
var tableWords = set("master list table tbl header hdr info entity main definition def record base catalog data dim")

// A term is a name taken apart.
type term struct {
	name   string   // as it stands, in small letters
	words  []string // all
	stem   []string // without a handle at either end
	handle string   // the handle; empty: it has none
	front  bool     // the handle stands in front: fk_station
	many   bool     // the last word is a plural
}

func termOf(name string, w []string) term {
	t := term{name: strings.ToLower(name), words: w, stem: w}
	n := len(w)
	t.many = n > 0 && strings.HasSuffix(t.name, "s") && !strings.HasSuffix(t.name, w[n-1])
	switch {
	case n > 1 && handles.has(w[n-1]):
		t.stem, t.handle = w[:n-1], w[n-1]
	case n > 1 && (handles.has(w[0]) && w[0] != "name"):
		t.stem, t.handle, t.front = w[1:], w[0], true
	case n > 2 && slices.ContainsFunc(w[1:n-1], func(x string) bool { return plainHandles.has(x) || x == "nr" || x == "no" }):
		// A role behind the handle: station_id_home.
		i := 1 + slices.IndexFunc(w[1:n-1], func(x string) bool { return plainHandles.has(x) || x == "nr" || x == "no" })
		t.stem, t.handle, t.front = append(slices.Clone(w[:i]), w[i+1:]...), w[i], true
	case n > 1 && !gluedID(w[n-1]) && slices.ContainsFunc(w[:n-1], gluedID):
		// A role behind it, in one word: triggerid_up.
		i := slices.IndexFunc(w[:n-1], gluedID)
		t.stem = append(append(slices.Clone(w[:i]), singular(strings.TrimSuffix(w[i], "id"))), w[i+1:]...)
		t.handle, t.front = "id", true
	case n > 0:
		last := w[n-1]
		for _, h := range glued {
			if rest := strings.TrimSuffix(last, h); rest != last && len(rest) > 2 {
				t.stem, t.handle = append(slices.Clone(w[:n-1]), singular(rest)), h
				break
			}
		}
		if first := w[0]; t.handle == "" && n == 1 && strings.HasPrefix(first, "id") && len(first) > 4 && !beginWithID.has(first) {
			t.stem, t.handle = []string{singular(first[2:])}, "id"
		}
	}
	return t
}

// gluedID reports whether the word is a thing's and "id" in one; valid and the like are none.
func gluedID(w string) bool {
	return len(w) > 4 && strings.HasSuffix(w, "id") && !endInID.has(w)
}

// beginWithID are plain words that begin so.
var beginWithID = set("idea ideal ident identical identifier identity idiom idiot idle idleness idol idyll")

// endInID are plain words that end so.
var endInID = set("acid aid avoid arid bid candid fluid forbid grid hybrid invalid liquid maid mid orchid overlaid paid prepaid raid rapid rigid said skid solid splendid squid steroid stupid timid unpaid valid vivid void cuboid android asteroid centroid geoid cluid repaid hemiid")

// A naming holds the names of a catalog, taken apart once.
type naming struct {
	prefix string // of all tables
	tables map[*catalog.Table][]string
	alone  map[string][]term                    // by the name of a column: as it stands
	terms  map[*catalog.Table]map[string][]term // of tables all of whose columns begin alike: without that, too
	joined map[string]int                       // how many tables have these words for a name
	keys   map[string]int                       // how many tables have a key of this name
}

// of are the terms of a column of the table.
func (n *naming) of(table *catalog.Table, column string) []term {
	if len(n.terms) > 0 {
		if own, ok := n.terms[table]; ok {
			return own[column]
		}
	}
	return n.alone[column]
}

func namesOf(tables []*catalog.Table) *naming {
	n := &naming{prefix: commonPrefix(tables), tables: make(map[*catalog.Table][]string, len(tables)), terms: map[*catalog.Table]map[string][]term{},
		joined: make(map[string]int, len(tables)), keys: map[string]int{}, alone: map[string][]term{}}
	var cut [][]term // of one table's columns
	for _, t := range tables {
		tw := words(strings.TrimPrefix(t.Name, n.prefix))
		if len(tw) == 0 {
			tw = words(t.Name)
		}
		n.tables[t] = tw
		n.joined[join(tw)]++
		cut = cut[:0]
		for _, c := range t.Columns {
			// Of a hundred thousand columns most are named as others are.
			known, ok := n.alone[c.Name]
			if !ok {
				known = []term{termOf(c.Name, words(c.Name))}
				n.alone[c.Name] = known
			}
			cut = append(cut, known)
		}
		if lead := leading(cut); lead != "" {
			n.terms[t] = without(lead, t.Columns, cut)
		}
	}
	return n
}

// leading is the word that nearly all columns of a table begin with, of three
// and more; empty: there is none, or it is a handle.
func leading(columns [][]term) string {
	lead, votes := "", 0 // what most begin with is left over when unlike are struck out in pairs
	first := func(c []term) string {
		if w := c[0].words; len(w) > 1 {
			return w[0]
		}
		return ""
	}
	for _, c := range columns {
		switch w := first(c); {
		case votes == 0:
			lead, votes = w, 1
		case w == lead:
			votes++
		default:
			votes--
		}
	}
	times := 0
	for _, c := range columns {
		if first(c) == lead {
			times++
		}
	}
	if len(columns) < 3 || times*10 < len(columns)*8 || handles.has(lead) {
		return ""
	}
	return lead
}

// without are the terms of a table's columns as they stand, and without the
// word that they begin with.
func without(lead string, columns []*catalog.Column, cut [][]term) map[string][]term {
	byName := make(map[string][]term, len(columns))
	for i, c := range columns {
		list := cut[i]
		if w := list[0].words; len(w) > 1 && w[0] == lead {
			list = append(slices.Clone(list), termOf(strings.Join(w[1:], "_"), w[1:]))
		}
		byName[c.Name] = list
	}
	return byName
}

// speaks tells how much a column's name speaks of the key of a table, from 0
// to 1.
func (n *naming) speaks(child *catalog.Table, column string, parent *catalog.Table, key string) float64 {
	best := 0.0
	tab, own := n.tables[parent], n.tables[child]
	for _, c := range n.of(child, column) {
		for _, k := range n.of(parent, key) {
			best = max(best, n.likeness(c, k, tab, own, parent == child))
		}
	}
	return best
}

// asRole is how much a role speaks for a table of people.
const asRole = 0.62

// people reports whether a table is one of people or accounts, and not one that
// links them to something else.
func (n *naming) people(tab []string) bool {
	last := len(tab) - 1
	return last >= 0 && persons.has(tab[last]) && (last == 0 || n.joined[join(tab[:last])] == 0)
}

// namesThing reports whether the words begin or end with the name of a table
// that is none of people: replaced_by_station.
func (n *naming) namesThing(stem []string) bool {
	for i := range stem {
		for _, part := range [][]string{stem[i:], stem[:len(stem)-i]} {
			if n.joined[join(part)] > 0 && !n.people(part) {
				return true
			}
		}
	}
	return false
}

// likeness compares a column, in a table called own, with the key of a table.
func (n *naming) likeness(c, k term, tab, own []string, self bool) float64 {
	if len(c.words) == 0 || len(tab) == 0 {
		return 0
	}
	score := ends(c.stem, tab, own)
	if self && c.handle == "" && slices.Equal(c.stem, own) {
		score = 0 // named after its own table: what the row itself is called
	}
	if c.front && len(c.stem) > len(tab) && slices.Equal(c.stem[:len(tab)], tab) && !properties.has(c.stem[len(c.stem)-1]) {
		score = max(score, 0.8+0.01*float64(len(tab))) // fk_harbour_home: what follows is the role
	}
	if c.handle == "" && len(c.stem) == 1 && common.has(c.stem[0]) && score < 1 && (self || score < 0.85) && !shortened(c.stem, tab) {
		score *= 0.6 // a line, a level: hardly the line of something
	}
	if c.handle == "" && c.many {
		score *= 0.6 // stations: how many, or which of them
	}
	if c.handle != "" && k.handle != c.handle {
		kind := k.handle
		if kind == "" && len(k.words) == 1 {
			kind = k.words[0]
		}
		switch {
		case kind == c.handle, plainHandles.has(c.handle) && plainHandles.has(kind), c.handle == "fk" || c.handle == "ref":
		case handles.has(kind):
			score *= 0.6 // of another kind: station_code against id
		}
	}
	// The very name of the key, where that says something: station_no in both;
	// or that name with a role in front.
	if telling(k) && n.keys[k.name] < max(4, len(n.tables)/10) {
		switch {
		case (c.name == k.name || slices.Equal(c.words, k.words)) && slices.Equal(c.stem, own) && !slices.Equal(c.stem, tab):
			// named after its own table
		case c.name == k.name || slices.Equal(c.words, k.words):
			score = max(score, 0.9)
		case len(c.words) > len(k.words) && (len(k.words) > 1 || k.handle != "") && slices.Equal(c.words[len(c.words)-len(k.words):], k.words):
			score = max(score, 0.85)
		case len(c.words) > len(k.words) && len(k.words) == 1 && k.handle != "" && c.words[0] == k.words[0] && !properties.has(c.words[len(c.words)-1]):
			score = max(score, 0.86) // triggerid_up
		case k.handle != "" && c.handle != "" && slices.Equal(c.stem, k.stem):
			score = max(score, 0.85)
		}
	}
	if partOf := len(own) > len(tab) && slices.Equal(own[:len(tab)], tab); (self || partOf && c.handle != "") && all(c.stem, above, "by", "to", "of", "for", "from", "with", "in", "into", "as") {
		score = max(score, 0.8)
	}
	// A role: done_by, author_id.
	if n.people(tab) && person(c) && !(c.handle == "" && c.many) && (c.handle == "" || plainHandles.has(c.handle) || k.handle == c.handle || len(k.words) == 1 && k.words[0] == c.handle) {
		part := asRole
		if last := tab[len(tab)-1]; last == "user" || last == "person" || last == "employee" || last == "staff" {
			part += 0.03
		}
		if n.namesThing(c.stem) {
			part = named // only where what it names proves wrong
		}
		score = max(score, part)
	}
	return score
}

// person reports whether the column is named after what somebody did or is.
func person(c term) bool {
	n := len(c.stem)
	if n > 1 && c.stem[n-1] == "to" && strings.HasSuffix(c.stem[n-2], "ed") {
		return true // assigned_to
	}
	return slices.ContainsFunc(c.stem, func(w string) bool {
		return roles.has(w) || persons.has(w) || len(w) >= 5 && !things.has(w) && !above.has(w) && (strings.HasSuffix(w, "er") || strings.HasSuffix(w, "or") || strings.HasSuffix(w, "ee") || strings.HasSuffix(w, "ist"))
	})
}

// all reports whether there are words and each is in the set, except for the
// small ones.
func all(list []string, in *vocabulary, small ...string) bool {
	some := false
	for _, w := range list {
		switch {
		case in.has(w):
			some = true
		case !slices.Contains(small, w):
			return false
		}
	}
	return some
}

// anything are words for a row of whatever table.
var anything = set("row rec record obj object entity entry")

// telling reports whether the name of a key says what it is the key of.
func telling(k term) bool {
	for _, w := range k.stem {
		if len(w) > 2 && !common.has(w) {
			return true
		}
	}
	return len(k.stem) > 1 || len(k.stem) == 1 && k.handle != "" && len(k.stem[0]) > 2 && !anything.has(k.stem[0])
}

// ends compares the stem of a column, in a table called own, with a table's
// words.
func ends(stem, tab, own []string) float64 {
	if len(stem) == 0 || len(stem) == 1 && utf8.RuneCountInString(stem[0]) < 2 {
		return 0 // a letter tells nothing
	}
	join := func(w []string) string { return strings.Join(w, "") } // stationpier is station pier
	switch n := len(tab); {
	case len(stem) == 1 && n == 1 && persons.has(tab[0]) && strings.HasPrefix(stem[0], tab[0]) && (strings.HasSuffix(stem[0], "ed") || roles.has(stem[0][len(tab[0]):])):
		return 0.7 // usermodified
	case slices.Equal(stem, tab) || join(stem) == join(tab):
		return 1
	case len(stem) > n && slices.Equal(stem[len(stem)-n:], tab):
		return 0.9 // a role in front: replaced_by_station
	case len(stem) == 1 && len(join(tab)) > 3 && len(stem[0]) > len(join(tab))+1 && strings.HasSuffix(stem[0], join(tab)):
		return 0.8 // replacedbystation, in one word
	case len(stem) > n && slices.Equal(stem[:n], tab):
		// what follows may be a role, or make it another thing: station_type
		if rest := stem[n:]; all(rest, roles, "from", "to", "by") || all(rest, above, "from", "to", "by", "of") || all(rest, sides) {
			return 0.8
		}
		return 0.4
	case len(stem) < n && slices.Equal(stem, tab[n-len(stem):]):
		if slices.Equal(tab[:n-len(stem)], own) || len(own) > n-len(stem) && slices.Equal(tab[:n-len(stem)], own[:n-len(stem)]) {
			return 0.85 // type in artist, for artist_type; user in auth_group, for auth_user
		}
		return 0.75 // model for gauge_model
	case len(stem) < n && len(own) == 1 && n == len(stem)+1 && abbreviates(own[0], tab[0]) && slices.Equal(stem, tab[1:]):
		return 0.8
	case shortened(stem, tab):
		return 0.8
	case len(stem) == n && slices.EqualFunc(stem, tab, abbreviates):
		return 0.7
	case n > 1 && len(stem) == 1 && (stem[0] == initials(tab)):
		return 0.6
	case len(stem) < n && slices.EqualFunc(stem, tab[n-len(stem):], abbreviates):
		return 0.6 // mod for gauge_model
	case len(stem) > n && slices.EqualFunc(stem[len(stem)-n:], tab, abbreviates):
		return 0.6 // repl_stn
	case len(stem) < n && slices.Equal(stem, tab[:len(stem)]) && all(tab[len(stem):], tableWords):
		return 0.75 // part for part_master
	}
	return 0
}

func initials(tab []string) string {
	s := ""
	for _, w := range tab {
		s += string([]rune(w)[:1])
	}
	return s
}

// shortened reports whether the one word is the first half, or more, of a table's only one: lang
// for language.
func shortened(stem, tab []string) bool {
	return len(stem) == 1 && len(tab) == 1 && len(stem[0]) >= 4 && 2*len(stem[0]) >= len(tab[0]) && len(stem[0]) < len(tab[0]) && strings.HasPrefix(tab[0], stem[0])
}

// abbreviates reports whether the first is the second, a beginning of it, or its
// letters in order from the first on: stn for station.
func abbreviates(short, long string) bool {
	if short == long {
		return true
	}
	if len(short) < 3 || len(short) >= len(long) {
		return false
	}
	if strings.HasPrefix(long, short) {
		return true
	}
	if short[0] != long[0] || len(short) > 5 || strings.ContainsAny(short[1:], "aeiou") && len(short) < 4 {
		return false
	}
	at := 0
	for i := 0; i < len(long) && at < len(short); i++ {
		if long[i] == short[at] {
			at++
		}
	}
	return at == len(short)
}

// commonPrefix is what nearly all tables' names begin with, up to an
// underscore: "sm_".
func commonPrefix(tables []*catalog.Table) string {
	count := map[string]int{}
	for _, t := range tables {
		if i := strings.IndexByte(t.Name, '_'); i > 0 {
			count[t.Name[:i+1]]++
		}
	}
	for p, n := range count {
		if len(tables) > 3 && n*10 >= len(tables)*8 {
			return p
		}
	}
	return ""
}
