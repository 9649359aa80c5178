package name

import "nexdal/internal/rule"

var Pattern = &rule.Rule{
	ID:          "name/pattern",
	Title:       "name that does not follow the house's template",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"rename"},
	Options:     templates(),
	Doc: `The house has a template for names of this kind, and this name is off it. Without templates (names in the settings) nothing is reported.

A template is text with placeholders: {table}, {columns} (joined by _), of a foreign key also {target} and {target_columns}. A star stands for anything. A text that begins with ^ is a regular expression, with the same placeholders; that is how tables and columns are bound to small letters.

Names that the engine made up are name/by-system's to say.

The fix renames constraints and indexes, where the template gives the whole name and the engine can. Tables, columns and triggers are left to you, since programs know their names.`,
	Check: func(p *rule.Pass) error {
		off(p, false)
		return nil
	},
}

var BySystem = &rule.Rule{
	ID:          "name/by-system",
	Title:       "name that the engine made up",
	Severity:    rule.Notice,
	Consequence: rule.Untidy,
	Fixes:       []string{"rename"},
	Options:     templates(),
	Doc: `The constraint or index was declared without a name, and the engine made one up, which the house has a template for. Such names differ between the databases of one schema, so that a script that drops one by name works here and fails there.

Without templates (names in the settings) nothing is reported.

The fix renames it as the template says, where that gives the whole name and the engine can.`,
	Check: func(p *rule.Pass) error {
		off(p, true)
		return nil
	},
}
