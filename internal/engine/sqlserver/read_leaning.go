package sqlserver

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/engine/capture"
	"nexdal/internal/engine/sqlserver/traits"
)

// ofPart writes what makes an XML or spatial index, behind its column in CREATE INDEX, as the
// operator class of its one part
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-xml-index-transact-sql).
func (r *reader) ofPart(x *catalog.Index, says string) {
	for i := range x.Parts {
		x.Parts[i].OpClass = says
	}
}

// xmlIndexes tells the indexes on one XML column apart. They rest on the primary key, and those of
// the second kind on the first.
func (r *reader) xmlIndexes() {
	r.ask(askXMLIndexes, func(w *capture.Fields) {
		object, index, under, kind, selective := w.Text(), w.Text(), w.Text(), w.Text(), w.Number() > 1
		x, t := r.indexes[[2]string{object, index}], r.tables[object]
		if x == nil || t == nil {
			return
		}
		x.Tablespace = "" // where its table lies
		first := r.indexes[[2]string{object, under}]
		switch {
		case selective:
			x.Method = "selective xml"
			r.gap(t.Schema, t.Name, "index "+x.Name, "the paths of a selective XML index are not read")
		case first != nil:
			r.ofPart(x, "USING XML INDEX "+traits.Ident(first.Name)+" FOR "+kind)
			t.Dependants = append(t.Dependants, catalog.Dependant{Kind: "XML index", Name: x.Name, On: first.Name})
			return
		default:
			r.ofPart(x, traits.PrimaryXML)
		}
		r.restsOnKey(t, "XML index", x.Name)
	})
}

// spatialIndexes tells how they cut up space
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-spatial-index-transact-sql).
func (r *reader) spatialIndexes() {
	r.ask(askSpatialIndexes, func(w *capture.Fields) {
		object, index, scheme := w.Text(), w.Text(), w.Text()
		x, t := r.indexes[[2]string{object, index}], r.tables[object]
		if x == nil || t == nil {
			return
		}
		says := []string{"USING " + scheme}
		if box := []string{w.Text(), w.Text(), w.Text(), w.Text()}; box[0] != "" && strings.HasPrefix(scheme, "GEOMETRY") {
			says = append(says, "BOUNDING_BOX = ("+strings.Join(box, ", ")+")")
		}
		if levels := []string{w.Text(), w.Text(), w.Text(), w.Text()}; levels[0] != "" && !strings.HasSuffix(scheme, "AUTO_GRID") {
			for i := range levels {
				levels[i] = fmt.Sprintf("LEVEL_%d = %s", i+1, levels[i])
			}
			says = append(says, "GRIDS = ("+strings.Join(levels, ", ")+")")
		}
		if cells := w.Text(); cells != "" {
			says = append(says, "CELLS_PER_OBJECT = "+cells)
		}
		r.ofPart(x, strings.Join(says, ", "))
		r.restsOnKey(t, "spatial index", x.Name)
	})
}

// restsOnKey notes that the primary key cannot go while the thing is there (error 3734).
func (r *reader) restsOnKey(t *catalog.Table, kind, name string) {
	if t.PrimaryKey != nil {
		t.Dependants = append(t.Dependants, catalog.Dependant{Kind: kind, Name: name, On: t.PrimaryKey.Index})
	}
}

// fullText: an index of words finds its rows by a unique index, which cannot go while it is there
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-fulltext-index-transact-sql).
func (r *reader) fullText() {
	const kind = "full-text index"
	r.ask(askFullText, func(w *capture.Fields) {
		object, key, column := w.Text(), w.Text(), w.Text()
		t, x := r.tables[object], r.indexes[[2]string{object, key}]
		if t == nil {
			return
		}
		if !t.LeansOn(kind, t.Name) {
			t.Objects = append(t.Objects, &catalog.Object{Kind: kind, Name: t.Name})
			if x != nil {
				t.Dependants = append(t.Dependants, catalog.Dependant{Kind: kind, Name: t.Name, On: x.Name})
			}
		}
		if name := r.columns[object][column]; name != "" {
			lean(&t.Dependants, kind, t.Name, name)
		}
	})
}

// tracking of changes goes by the primary key
// (https://learn.microsoft.com/en-us/sql/relational-databases/track-changes/about-change-tracking-sql-server).
func (r *reader) tracking() {
	r.ask(askTracking, func(w *capture.Fields) {
		if t := r.tables[w.Text()]; t != nil {
			t.Options = append(t.Options, traits.ChangeTracking)
			r.restsOnKey(t, traits.ChangeTracking, "of "+t.Name)
		}
	})
}

// policies are bound to the columns that they ask about, and hide rows even from the owner
// (https://learn.microsoft.com/en-us/sql/relational-databases/security/row-level-security).
func (r *reader) policies() {
	r.ask(askPolicies, func(w *capture.Fields) {
		schema, name := r.schema(w.Text()), w.Text()
		t, predicate, filters := r.tables[w.Text()], w.Text(), w.Text() == "FILTER" && w.Is("1")
		if schema == nil || t == nil {
			return
		}
		name = schema.Name + "." + name
		if says := catalog.RowFilter + "security policy " + name; filters && !t.Has(says) {
			t.Options = append(t.Options, says)
		}
		if !t.LeansOn("security policy", name) {
			t.Objects = append(t.Objects, &catalog.Object{Kind: "security policy", Name: name})
		}
		lean(&t.Dependants, "security policy", name, "")
		for _, c := range t.Columns {
			if traits.Expressions.Mentions(predicate, c.Name) {
				lean(&t.Dependants, "security policy", name, c.Name)
			}
		}
	})
}
