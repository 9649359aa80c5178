package compare_test

import (
	"strings"
	"testing"

	"nexdal/internal/catalog"
	"nexdal/internal/compare"
	"nexdal/test/model"
)

// silent are the fields that two databases of one structure may differ in, and why.
var silent = map[string]string{
	"Engine": "the server's", "Database": "the server's", "Surveyed": "when, not what", "Settings": "the server's",
	"Schemas.Tables.Schema":        "the schema's name",
	"Schemas.Tables.Columns.Stats": "figures", "Schemas.Tables.Stats": "figures", "Schemas.Tables.Partitions.Rows": "figures", "Schemas.Tables.Partitions.Parts.Rows": "figures",
	"Schemas.Tables.Indexes.Bytes": "figures", "Schemas.Tables.Indexes.Scans": "figures", "Schemas.Views.Indexes.Bytes": "figures", "Schemas.Views.Indexes.Scans": "figures",
	"Schemas.Sequences.Last":          "figures",
	"Schemas.Tables.PrimaryKey.Index": "the engine's choice", "Schemas.Tables.UniqueKeys.Index": "the engine's choice", "Schemas.Tables.ForeignKeys.TargetIndex": "the engine's choice",
	"Schemas.Tables.Exclusions.Index": "the engine's choice", "Schemas.Tables.Indexes.SystemNamed": "the engine's choice", "Schemas.Views.Indexes.SystemNamed": "the engine's choice",
	"Schemas.Views.Indexes.Origin":  "a view has no keys",
	"Schemas.Tables.Indexes.PartOf": "told by the bounds and columns", "Schemas.Views.Indexes.PartOf": "a view has no partitions",
	"Schemas.Tables.Indexes.Definition": "the engine's text of what is compared", "Schemas.Views.Indexes.Definition": "the engine's text of what is compared",
	"Schemas.Tables.Definition": "the engine's text of what is compared", "Schemas.Tables.NameText": "the engine's text of what is compared",
	"Schemas.Tables.Triggers.Timing": "told by the definition", "Schemas.Tables.Triggers.Events": "told by the definition", "Schemas.Tables.Triggers.PerRow": "told by the definition", "Schemas.Tables.Triggers.Calls": "told by the definition",
	"Schemas.Views.Triggers.Timing": "told by the definition", "Schemas.Views.Triggers.Events": "told by the definition", "Schemas.Views.Triggers.PerRow": "told by the definition", "Schemas.Views.Triggers.Calls": "told by the definition",
	"Schemas.Tables.PartitionBy.Method": "told by the definition", "Schemas.Tables.PartitionBy.Columns": "told by the definition",
	"Schemas.Tables.PartitionBy.Sub.Method": "told by the definition", "Schemas.Tables.PartitionBy.Sub.Columns": "told by the definition",
	"Schemas.Tables.Objects.Needs": "follows from its text", "Schemas.Tables.Needs": "follows from its parts", "Schemas.Tables.Dependants": "told by the views and the like",
	"Schemas.Views.Follows": "follows from its text", "Schemas.Views.Reads": "follows from its text", "Schemas.Views.Objects.Needs": "follows from its text", "Schemas.Types.Needs": "follows from its parts", "Schemas.Objects.Needs": "follows from its text",
	"Schemas.Routines.Needs": "follows from its text", "Schemas.Routines.Touches": "follows from its text", "Objects.Needs": "follows from its text",
	"Schemas.Sequences.UsedBy": "told by the columns", "Schemas.Sequences.Identity": "told by the columns",
	"Schemas.Routines.Language":                "told by the definition",
	"Schemas.Tables.Accepted":                  "what was accepted",
	"Schemas.Types.Attributes.Nullable":        "a column's, not an attribute's",
	"Schemas.Types.Attributes.DefaultName":     "a column's, not an attribute's",
	"Schemas.Types.Attributes.Default":         "a column's, not an attribute's",
	"Schemas.Types.Attributes.Identity":        "a column's, not an attribute's",
	"Schemas.Types.Attributes.Generated":       "a column's, not an attribute's",
	"Schemas.Types.Attributes.Stored":          "a column's, not an attribute's",
	"Schemas.Types.Attributes.Inherited":       "a column's, not an attribute's",
	"Schemas.Types.Attributes.Local":           "a column's, not an attribute's",
	"Schemas.Types.Attributes.Sequence":        "a column's, not an attribute's",
	"Schemas.Types.Attributes.OnUpdate":        "a column's, not an attribute's",
	"Schemas.Types.Attributes.Invisible":       "a column's, not an attribute's",
	"Schemas.Types.Attributes.Options":         "a column's, not an attribute's",
	"Schemas.Types.Attributes.Encoding":        "a column's, not an attribute's",
	"Schemas.Tables.Columns.Type.Underlying":   "follows from the native type",
	"Schemas.Tables.Columns.Type.Family":       "follows from the native type",
	"Schemas.Tables.Columns.Type.Class":        "follows from the native type",
	"Schemas.Tables.Columns.Type.Bits":         "follows from the native type",
	"Schemas.Tables.Columns.Type.Unsigned":     "follows from the native type",
	"Schemas.Tables.Columns.Type.Length":       "follows from the native type",
	"Schemas.Tables.Columns.Type.Padded":       "follows from the native type",
	"Schemas.Tables.Columns.Type.Precision":    "follows from the native type",
	"Schemas.Tables.Columns.Type.Scale":        "follows from the native type",
	"Schemas.Tables.Columns.Type.Zoned":        "follows from the native type",
	"Schemas.Types.Base.Underlying":            "follows from the native type",
	"Schemas.Types.Base.Family":                "follows from the native type",
	"Schemas.Types.Base.Class":                 "follows from the native type",
	"Schemas.Types.Base.Bits":                  "follows from the native type",
	"Schemas.Types.Base.Unsigned":              "follows from the native type",
	"Schemas.Types.Base.Length":                "follows from the native type",
	"Schemas.Types.Base.Padded":                "follows from the native type",
	"Schemas.Types.Base.Precision":             "follows from the native type",
	"Schemas.Types.Base.Scale":                 "follows from the native type",
	"Schemas.Types.Base.Zoned":                 "follows from the native type",
	"Schemas.Types.Attributes.Type.Underlying": "follows from the native type",
	"Schemas.Types.Attributes.Type.Family":     "follows from the native type",
	"Schemas.Types.Attributes.Type.Class":      "follows from the native type",
	"Schemas.Types.Attributes.Type.Bits":       "follows from the native type",
	"Schemas.Types.Attributes.Type.Unsigned":   "follows from the native type",
	"Schemas.Types.Attributes.Type.Length":     "follows from the native type",
	"Schemas.Types.Attributes.Type.Padded":     "follows from the native type",
	"Schemas.Types.Attributes.Type.Precision":  "follows from the native type",
	"Schemas.Types.Attributes.Type.Scale":      "follows from the native type",
	"Schemas.Types.Attributes.Type.Zoned":      "follows from the native type",
	"Schemas.Rights":                           "who may do what differs from server to server", "Schemas.Tables.Rights": "likewise", "Schemas.Views.Rights": "likewise", "Schemas.Sequences.Rights": "likewise",
	"Schemas.Tables.Triggers.Definer": "likewise", "Schemas.Objects.Definer": "likewise", "Objects.Definer": "likewise", "Schemas.Tables.Objects.Definer": "likewise", "Schemas.Views.Objects.Definer": "likewise", "Schemas.Views.Triggers.Definer": "likewise", "Schemas.Types.Rights": "likewise", "Schemas.Routines.Rights": "likewise", "Schemas.Views.Dependants": "told by what leans on it", "Schemas.Sequences.Dependants": "told by what leans on it",
	"Gaps": "told of each source apart", "Faults": "a state, which rules judge", "Schemas.Tables.Objects.Extension": "told by the table", "Schemas.Views.Objects.Extension": "told by the view",
	"Features": "follows from the version", "Schemas.Tables.Exclusions.Operators": "told by its definition",
	"Schemas.Types.Attributes.Stats": "figures", "Schemas.Types.Attributes.NotNull": "attributes of a type take nulls", "Schemas.Types.Attributes.Within": "attributes of a type are fields of none", "Schemas.Types.Attributes.Many": "attributes of a type are fields of none",
}

// TestEveryField: two catalogs that differ in one field alone are found to differ, except for
// the fields that say nothing of the structure.
func TestEveryField(t *testing.T) {
	t.Parallel()
	was := build()
	if d := compare.Catalogs(was, build(), compare.Options{}); len(d) > 0 {
		t.Fatalf("a catalog differs from itself: %+v", d)
	}
	unseen := map[string]bool{}
	for path := range silent {
		unseen[path] = true
	}
	for i, leaf := range model.Leaves(was) {
		c := build()
		model.Leaves(c)[i].Alter()
		d := compare.Catalogs(was, c, compare.Options{})
		prefix := ""
		for path := range silent {
			if leaf.Path == path || strings.HasPrefix(leaf.Path, path+".") || strings.HasPrefix(leaf.Path, path+"[") {
				prefix = path
				delete(unseen, path)
			}
		}
		if (len(d) == 0) != (prefix != "") {
			t.Errorf("%s: %d differences %+v", leaf.Path, len(d), d)
		}
		if back := compare.Catalogs(c, was, compare.Options{}); len(back) != len(d) && leaf.Path != "Schemas.Tables.Name" {
			t.Errorf("%s: %d differences one way, %d the other", leaf.Path, len(d), len(back))
		}
	}
	for path := range unseen {
		t.Errorf("%s is not a field of the model", path)
	}
}

// build is a filled catalog of two schemas whose indexes all were made by people.
func build() *catalog.Catalog {
	c := model.Filled()
	for _, t := range c.Tables() {
		for _, x := range t.Indexes {
			x.Origin = catalog.ByPerson
			x.Parts[0].Column = ""
		}
		for _, k := range append(t.UniqueKeys, t.PrimaryKey) {
			k.Deferred = false
		}
		for _, f := range t.ForeignKeys {
			f.Deferred = false
		}
		for _, x := range t.Exclusions {
			x.Deferred = false
		}
		for _, o := range t.Objects {
			o.Extension = ""
		}
		t.Extension, t.Spread.Style = "", "key"
	}
	for _, s := range c.Schemas {
		s.Extension = ""
		for _, v := range s.Views {
			v.Extension = ""
			for _, x := range v.Indexes {
				x.Parts[0].Column = ""
			}
			for _, o := range v.Objects {
				o.Extension = ""
			}
		}
		for _, q := range s.Sequences {
			q.Extension = ""
		}
		for _, y := range s.Types {
			y.Extension = ""
		}
		for _, r := range s.Routines {
			r.Extension = ""
		}
		for _, o := range s.Objects {
			o.Extension = ""
		}
	}
	for _, o := range c.Objects {
		o.Extension = ""
	}
	return c
}
