package compare

import (
	"testing"

	"nexdal/internal/catalog"
)

// TestClash: a name that is taken on another table bars a new one where the engine lets no two
// have it, and there alone.
func TestClash(t *testing.T) {
	table := func(name, index, key string) *catalog.Table {
		return &catalog.Table{Schema: "saltmere", Name: name, UniqueKeys: []*catalog.Key{{Name: key}}, ForeignKeys: []*catalog.ForeignKey{{}}, Indexes: []*catalog.Index{{Name: index}}}
	}
	there := &catalog.Catalog{Schemas: []*catalog.Schema{{Name: "saltmere", Tables: []*catalog.Table{table("raft", "by_no", "no_key")}}}}
	apart, shared := catalog.Abilities{IndexNamesPerTable: true}, catalog.Abilities{ConstraintNamesPerSchema: true}
	for _, c := range []struct {
		name string
		new  *catalog.Table
		can  catalog.Abilities
		want string
	}{
		{"an index", table("pier", "by_no", "other"), shared, "its index by_no has the name of one of saltmere.raft"},
		{"a key", table("pier", "other", "no_key"), shared, "its constraint no_key has the name of one of saltmere.raft"},
		{"an index called as a key is", table("pier", "no_key", "by_no"), shared, ""},
		{"neither", table("pier", "by_no", "no_key"), apart, ""},
		{"itself", table("raft", "by_no", "no_key"), shared, ""},
		{"another schema", &catalog.Table{Schema: "harbour", Name: "pier", Indexes: []*catalog.Index{{Name: "by_no"}}}, shared, ""},
	} {
		if got := Clash(there, c.new, c.can); got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}
