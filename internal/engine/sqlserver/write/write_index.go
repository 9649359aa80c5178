package write

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/engine"
	"nexdal/internal/engine/ddl"
	"nexdal/internal/engine/sqlserver/traits"
)

// The versions from which on a build can be stopped and taken up again: ALTER INDEX, CREATE
// INDEX, and the index behind a constraint
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/alter-index-transact-sql#resumable-index-operations,
// https://learn.microsoft.com/en-us/sql/t-sql/statements/create-index-transact-sql#resumable-index-operations,
// https://learn.microsoft.com/en-us/sql/relational-databases/security/resumable-add-table-constraints).
const (
	since2017 = 14
	since2019 = 15
	since2022 = 16
	never     = 1 << 30
)

// builds adds a step that builds an index, while others write where the edition can, and so that
// it can be stopped and taken up again where the version, from since on, can.
func (w *writer) builds(title string, x *catalog.Index, since int, build func(more string) string) {
	t := w.Now.Table(w.Item.Change.On())
	if !ready(w.From, t, x) {
		w.blocks(title, x, build(""))
		return
	}
	l := w.Sized(ddl.Takes("readers and writers wait for a moment at the beginning and the end", engine.BlocksBriefly), t.Ref())
	if !w.stoppable(t, x, since) {
		w.Step(title, l, build("ONLINE = ON"))
		return
	}
	name := fmt.Sprintf("%s ON %s", traits.Ident(x.Name), traits.Relation(t.Ref()))
	w.Add(engine.Step{Title: title, Lock: l.Says, Blocks: l.Blocks, SQL: []string{build("ONLINE = ON, RESUMABLE = ON")},
		CleanUp: fmt.Sprintf("IF EXISTS (SELECT 1 FROM sys.index_resumable_operations WHERE object_id = OBJECT_ID(%s) AND name = %s) ALTER INDEX %s ABORT", traits.Literal(traits.Relation(t.Ref())), traits.Literal(x.Name), name),
		Notes:   []string{fmt.Sprintf("ALTER INDEX %s PAUSE stops it, and the same statement goes on from there; the log can be cut off meanwhile", name)}})
}

// blocks adds a step that builds an index while writers, or all others, wait.
func (w *writer) blocks(title string, x *catalog.Index, sql string) {
	says := "shared lock: writers wait while it is built"
	if x.Clustered {
		says = forLong
	}
	w.Step(title, w.Sized(ddl.Takes(says, engine.BlocksAtWork), w.Item.Change.On()), sql)
}

// stoppable reports whether the build of the index can be stopped. The manual names keys on
// computed columns and on timestamps that cannot; of filters it says nothing, and they are left out.
func (w *writer) stoppable(t *catalog.Table, x *catalog.Index, since int) bool {
	return (traits.Major(w.From.Engine.Version) >= since || traits.Azure(w.From) && since != never) && x.Predicate == "" && !slices.ContainsFunc(x.Parts, func(p catalog.IndexPart) bool {
		c := t.Column(p.Column)
		return c != nil && (c.Generated != "" || c.Type.Native == "rowversion" || c.Type.Native == "timestamp")
	})
}

// replaceIndex writes the dropping of an index and the making of another of its name, further on,
// as one statement: there is no moment without it, and where it keeps the rows in order, the other
// indexes are built once
// (https://learn.microsoft.com/en-us/sql/t-sql/statements/create-index-transact-sql#drop_existing---on--off-).
// It reports whether it did.
func (w *writer) replaceIndex(at int) bool {
	drop := w.Plan[at].Change.(change.DropIndex)
	t := w.Now.Table(drop.Table)
	old := t.Index(drop.Name)
	for i := at + 1; i < len(w.Plan); i++ {
		if w.Plan[i].Change.On() != drop.Table {
			continue
		}
		create, ok := w.Plan[i].Change.(change.CreateIndex)
		if !ok {
			return false // it might rest on what comes between
		}
		x := create.Index
		switch {
		case x.Name != drop.Name:
			continue
		case old == nil, old.Invalid, old.Method != "btree", x.Method != "btree", old.Clustered && !x.Clustered, x.Tablespace != old.Tablespace:
			return false
		}
		w.Several([]int{at, i})
		if x.Unique {
			w.askAlike(drop.Table, x.Columns(), x.Predicate)
		}
		w.builds(fmt.Sprintf("replace index %s of %s", x.Name, drop.Table), x, never, func(more string) string {
			if more != "" {
				more = ", " + more
			}
			return indexText(t, x, "DROP_EXISTING = ON"+more)
		})
		return true
	}
	return false
}
