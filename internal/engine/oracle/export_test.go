package oracle

// For tests that carry out what is written, for which the stand-in is needed.
var (
	Safe        = safe
	Literal     = literal
	ClientLines = clientLines
)
