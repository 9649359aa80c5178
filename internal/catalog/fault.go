package catalog

import (
	"cmp"
	"strings"
)

// A Fault is an object that fails whenever it is used, as the engine itself says. It is a state of
// the database, and no part of its structure.
type Fault struct {
	Kind   string `json:"kind"` // of the object: "view", "trigger", "procedure", ...
	Schema string `json:"schema"`
	Table  string `json:"table,omitempty"` // that a trigger belongs to
	Name   string `json:"name"`
	// Definer is the account whose rights it acts with, and that does not exist; empty: the
	// text of the object is what fails.
	Definer string `json:"definer,omitempty"`
	Reason  string `json:"reason,omitempty"` // in the engine's words
}

// On is the table or view that the fault is of; the name alone where it is neither.
func (f Fault) On() Ref { return Ref{Schema: f.Schema, Table: cmp.Or(f.Table, f.Name)} }

func compareFaults(a, b Fault) int {
	return cmp.Or(strings.Compare(a.Schema, b.Schema), strings.Compare(a.Table, b.Table), strings.Compare(a.Kind, b.Kind), strings.Compare(a.Name, b.Name), strings.Compare(a.Definer, b.Definer))
}

// GapAccounts is the gap of a database whose accounts cannot be read.
const GapAccounts = "accounts"
