// Package check holds the rules on conditions that rows must meet.
package check

func name(s, without string) string {
	if s == "" {
		return without
	}
	return s
}
