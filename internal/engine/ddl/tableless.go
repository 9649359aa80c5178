package ddl

import "nexdal/internal/change"

// Tableless says why an engine does not make a change of what belongs to no table, or "". Text looks at
// the definition of a view or a routine that takes another's place, sequence at what is altered of one;
// unwritten is the answer to a change that the engine does not know.
func Tableless(ch change.Change, text func(definition string) string, sequence func(change.AlterSequence) string, unwritten string) string {
	switch ch := ch.(type) {
	case change.CreateSequence, change.DropSequence, change.CreateObjects, change.DropObjects, change.AddLookupTable, change.Undo[change.AddLookupTable]:
		return ""
	case change.AlterSequence:
		return sequence(ch)
	case change.ReplaceView:
		return text(ch.New.Definition)
	case change.ReplaceRoutine:
		return text(ch.New.Definition)
	case change.SetSetting:
		return "the setting is the server's"
	}
	return unwritten
}
