package fk

import "nexdal/internal/text"

// refer is the columns and the verb that goes with so many: "a" refers to, "a" and "b" refer to.
func refer(columns []string) string {
	if len(columns) == 1 {
		return text.Names(columns) + " refers to"
	}
	return text.Names(columns) + " refer to"
}
