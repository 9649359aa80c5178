package main

import (
	_ "embed"
	"fmt"
	"strconv"
	"strings"
)

//go:embed agency.txt
var agency string

// A thing is a table of the agency before it is given names.
type thing struct {
	name    string
	rows    int
	parts   []member // what the key is made of, where it has none of its own
	members []member
}

// A member is a value of a kind, or a reference to another thing.
type member struct {
	name    string // of a value, or the role of a reference; "" is the target's name
	kind    string // of a value
	to      *thing
	nulls   int // in a hundred
	orphans int
	alone   bool // its name tells the role and nothing of the target
}

func model() ([]*thing, error) {
	var all []*thing
	byName := map[string]*thing{}
	type line struct {
		t              *thing
		parts, members string
	}
	var lines []line
	for _, s := range strings.Split(agency, "\n") {
		if s == "" || s[0] == '#' {
			continue
		}
		f := strings.Split(s, "|")
		name, parts, _ := strings.Cut(strings.TrimSpace(f[0]), " / ")
		rows, err := strconv.Atoi(strings.TrimSpace(f[1]))
		if err != nil {
			return nil, err
		}
		t := &thing{name: name, rows: rows}
		all, byName[name] = append(all, t), t
		lines = append(lines, line{t, parts, f[2]})
	}
	for _, l := range lines {
		for _, s := range strings.Split(l.members, ",") {
			m, err := parse(s, byName)
			if err != nil {
				return nil, err
			}
			l.t.members = append(l.t.members, m)
		}
		if l.parts == "" {
			continue
		}
		for _, s := range strings.Split(l.parts, ",") {
			if !strings.Contains(s, ":") {
				s = ">" + strings.TrimSpace(s)
			}
			m, err := parse(s, byName)
			if err != nil {
				return nil, err
			}
			l.t.parts = append(l.t.parts, m)
		}
	}
	return all, nil
}

func parse(s string, byName map[string]*thing) (m member, err error) {
	s = strings.TrimSpace(s)
	number := func(mark string) (n int) {
		if before, after, ok := strings.Cut(s, mark); ok && err == nil {
			s = before
			n, err = strconv.Atoi(after)
		}
		return n
	}
	m.orphans, m.nulls = number("!"), number("?")
	if role, target, ok := strings.Cut(s, ">"); ok {
		m.name, m.to = role, byName[target]
		if m.to == nil {
			return m, fmt.Errorf("there is no %q", target)
		}
		return m, err
	}
	m.name, m.kind, _ = strings.Cut(s, ":")
	return m, err
}
