package oracle

import (
	"context"
	"fmt"
	"strings"
)

// longest is what a line takes
// (https://docs.oracle.com/en/database/oracle/oracle-database/19/sqpug/SQL-Plus-limits.html).
const longest = 4999

// A client reads scripts line by line, as SQL*Plus does: it knows no quotes, so that a semicolon
// at the end of a line ends a statement wherever it stands.
type client struct {
	s          *Session
	out        strings.Builder
	stop       bool // at the first error
	blankLines bool
	defines    bool
	prefix     bool
}

// Run carries a script out as SQL*Plus would, and gives what that shows. An error is what the
// script stopped at.
func (s *Session) Run(ctx context.Context, script string) (string, error) {
	c := &client{s: s, defines: true, prefix: true}
	s.says = func(line string) { c.out.WriteString(line + "\n") }
	defer func() { s.says = func(string) {} }()
	err := c.read(ctx, script)
	return c.out.String(), err
}

func (c *client) read(ctx context.Context, script string) error {
	var lines []string
	block := false
	for line := range strings.SplitSeq(script, "\n") {
		line = strings.TrimSuffix(line, "\r")
		plain := strings.TrimSpace(line)
		if len(line) > longest {
			return fmt.Errorf("SP2-0027: Input is too long (> %d characters) - line ignored", longest)
		}
		if c.prefix && len(lines) > 0 && strings.HasPrefix(plain, "#") {
			return fmt.Errorf("SP2-0042: unknown command %q", plain)
		}
		if c.defines && strings.Contains(line, "&") {
			return fmt.Errorf("SP2-0552: a value for & is asked for: %s", line)
		}
		switch {
		case len(lines) == 0 && (plain == "" || strings.HasPrefix(plain, "--")):
			continue
		case len(lines) == 0:
			done, exit, err := c.command(plain)
			if err != nil || exit {
				return err
			}
			if done {
				continue
			}
			block = opens(line)
		case plain == "/":
			if err := c.send(ctx, strings.Join(lines, "\n")); err != nil {
				return err
			}
			lines, block = nil, false
			continue
		case plain == "." && !block, plain == "." && block, plain == "" && !block && !c.blankLines:
			lines, block = nil, false // goes into the buffer, and is not run
			continue
		}
		if !block && strings.HasSuffix(plain, "-") && !strings.HasPrefix(plain, "--") {
			line = strings.TrimSuffix(strings.TrimRight(line, " "), "-")
		}
		lines = append(lines, line)
		if len(lines) <= 6 && !block {
			block = opens(strings.Join(lines, "\n"))
		}
		if !block && strings.HasSuffix(plain, ";") && !commented(line) {
			text := strings.Join(lines, "\n")
			if err := c.send(ctx, strings.TrimSuffix(strings.TrimRight(text, " \t"), ";")); err != nil {
				return err
			}
			lines = nil
		}
	}
	return nil
}

// commented reports whether the line is a comment from its first sign on.
func commented(line string) bool { return strings.HasPrefix(strings.TrimSpace(line), "--") }

// opens reports whether a text begins a block, which a slash ends.
func opens(text string) bool {
	var kept []string
	for line := range strings.SplitSeq(text, "\n") {
		if !commented(line) {
			kept = append(kept, line)
		}
	}
	words := strings.Fields(strings.ToUpper(strings.Join(kept, " ")))
	if len(words) == 0 {
		return false
	}
	if strings.TrimSuffix(words[0], ";") == "BEGIN" || words[0] == "DECLARE" {
		return true
	}
	if words[0] != "CREATE" {
		return false
	}
	for _, w := range words[1:] {
		switch w {
		case "OR", "REPLACE", "EDITIONABLE", "NONEDITIONABLE":
		case "TRIGGER", "FUNCTION", "PROCEDURE", "PACKAGE", "TYPE":
			return true
		default:
			return false
		}
	}
	return false
}

// command carries out what is for the client.
func (c *client) command(line string) (done, exit bool, err error) {
	words := strings.Fields(strings.ToUpper(strings.TrimSuffix(line, ";")))
	is := func(i int, word string) bool { return len(words) > i && words[i] == word }
	switch words[0] {
	case "WHENEVER":
		c.stop = c.stop || is(1, "SQLERROR") && is(2, "EXIT")
	case "SET":
		if is(1, "TRANSACTION") || is(1, "CONSTRAINTS") || is(1, "ROLE") {
			return false, false, nil
		}
		on := is(2, "ON")
		switch {
		case is(1, "SQLBLANKLINES"):
			c.blankLines = on
		case is(1, "DEFINE"):
			c.defines = on
		case is(1, "SQLPREFIX"):
			c.prefix = !is(2, "OFF")
		}
	case "VARIABLE":
		c.s.variables[":"+strings.ToLower(words[1])] = nil
	case "PROMPT":
		c.out.WriteString(strings.TrimSpace(line[len("PROMPT"):]) + "\n")
	case "EXIT":
		return true, true, nil
	case "REM", "REMARK", "COLUMN", "SPOOL":
	default:
		return false, false, nil
	}
	return true, false, nil
}

// send hands a statement to the server.
func (c *client) send(ctx context.Context, sql string) error {
	err := c.s.Exec(ctx, sql)
	if err == nil {
		return nil
	}
	c.out.WriteString(err.Error() + "\n")
	if c.stop {
		return err
	}
	return nil
}
