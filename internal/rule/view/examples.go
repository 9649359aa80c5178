package view

import "embed"

// Examples are the scripts that the rules are tested with; they are shown as
// examples too.
//
//go:embed testdata
var Examples embed.FS
