package main

import (
	"fmt"
	"math/rand/v2"
	"strings"
)

// large makes up an agency of so many tables, the same for a seed: things, what belongs to them,
// what links them and what is logged of them, among columns that look like references and are none.
func large(tables int, seed uint64) []*thing {
	l := &landscape{Rand: rand.New(rand.NewPCG(seed, 11)), named: map[string]bool{}}
	for _, name := range nouns[:min(len(nouns), max(8, tables/4))] {
		l.noun(name)
	}
	for len(l.all) < tables {
		switch t := l.pick(); l.IntN(6) {
		case 0, 1:
			l.part(t)
		case 2:
			l.link(t, l.pick())
		case 3:
			l.log(t)
		case 4:
			l.owned(t)
		default:
			l.lonely()
		}
	}
	return l.all
}

type landscape struct {
	*rand.Rand
	all    []*thing
	things []*thing // what others refer to
	named  map[string]bool
}

var nouns = strings.Fields("station gauge keeper harbour boat sensor channel survey chart buoy beacon mast cable pump valve depot crew permit vessel contract vendor parcel parish sluice lock warden alarm schedule notice panel profile script tide storm budget invoice photo report licence zone course")

var (
	facets   = strings.Fields("tag macro history setting condition contact address inventory attachment comment event cost photo position reading option translation alias limit value")
	uses     = strings.Fields("queue task job session audit cache counter window import export")
	inFront  = strings.Fields("parent source master proxy home first backup main origin start end default previous")
	alones   = strings.Fields("template proxy")
	doers    = strings.Fields("owner author editor created_by approved_by operator done_by captain contact")
	flags    = strings.Fields("main active enabled visible locked flags manual public required hidden")
	ranks    = strings.Fields("priority severity level rank weight grade step status type mode source state evaltype value_type class")
	places   = strings.Split("position,sort_order,line_no,stop_no,sheet_no,shift_no,logger_no,row_no,page,slot,x,y,width,height,seq_no,counter_no,revision", ",")
	counters = strings.Fields("retries errors pieces minutes size port total count delay timeout clock lastchange expires ttl users")
	texts    = strings.Fields("name:name description:note url:blank comment:note unit:blank lang:constant color:word command:title key_:number params:blank")
)

func (l *landscape) new(name string, rows int) *thing {
	if l.named[name] {
		return nil
	}
	l.named[name] = true
	t := &thing{name: name, rows: rows}
	l.all = append(l.all, t)
	return t
}

func (l *landscape) pick() *thing { return l.things[l.IntN(len(l.things))] }

func (l *landscape) rows() int {
	return int(float64([]int{4, 12, 30, 60, 150, 400, 900, 2500}[l.IntN(8)]) * (0.7 + 0.6*l.Float64()))
}

func (l *landscape) noun(name string) {
	t := l.new(name, l.rows())
	l.fill(t, 4+l.IntN(8))
	if len(l.things) > 2 {
		for range l.IntN(3) {
			l.refer(t, l.pick(), false)
		}
	}
	if l.IntN(3) == 0 {
		t.members = append(t.members, member{name: inFront[l.IntN(4)], to: t, nulls: 60})
	}
	if l.IntN(4) == 0 { // what its name does not tell
		t.members = append(t.members, member{name: alones[l.IntN(len(alones))], to: t, nulls: 40, alone: true})
	}
	l.things = append(l.things, t)
}

// done adds who did something to what is kept of a thing.
func (l *landscape) done(t *thing) {
	for _, x := range l.things {
		if x.name == "keeper" && l.IntN(3) == 0 {
			t.members = append(t.members, member{name: strings.ReplaceAll(doers[l.IntN(len(doers))], "_", " "), to: x, nulls: []int{0, 20}[l.IntN(2)]})
		}
	}
}

// refer adds a reference, now and then under a role.
func (l *landscape) refer(t, to *thing, required bool) {
	m := member{to: to}
	if !required {
		m.nulls = []int{0, 0, 0, 30, 80}[l.IntN(5)]
	}
	if l.IntN(5) == 0 || t == to {
		m.name = inFront[l.IntN(len(inFront))]
	}
	if l.IntN(25) == 0 {
		m.orphans = 2
	}
	for _, x := range t.members {
		if x.to == to && x.name == m.name {
			return
		}
	}
	t.members = append(t.members, m)
}

func (l *landscape) part(t *thing) {
	p := l.new(t.name+" "+facets[l.IntN(len(facets))], l.rows())
	if p == nil {
		return
	}
	l.refer(p, t, true)
	l.done(p)
	l.fill(p, 2+l.IntN(6))
	if l.IntN(3) == 0 {
		l.refer(p, l.pick(), false)
	}
	if l.IntN(3) == 0 {
		l.things = append(l.things, p)
	}
}

// owned has the key of another thing for its own: one to one.
func (l *landscape) owned(t *thing) {
	p := l.new(t.name+" "+uses[l.IntN(len(uses))], max(4, t.rows/2))
	if p == nil {
		return
	}
	p.parts = []member{{to: t}}
	l.fill(p, 2+l.IntN(4))
}

func (l *landscape) link(a, b *thing) {
	if a == b {
		return
	}
	p := l.new(a.name+" "+b.name, l.rows())
	if p == nil {
		return
	}
	p.parts = []member{{to: a}, {to: b}}
	l.fill(p, l.IntN(3))
}

func (l *landscape) log(t *thing) {
	p := l.new(t.name+" "+uses[l.IntN(len(uses))], 2*l.rows())
	if p == nil {
		return
	}
	l.refer(p, t, false)
	l.done(p)
	l.fill(p, 4+l.IntN(8))
}

// lonely refers to nothing, and has all that looks like it.
func (l *landscape) lonely() {
	p := l.new(fmt.Sprintf("%s %s", uses[l.IntN(len(uses))], facets[l.IntN(len(facets))]), l.rows())
	if p != nil {
		l.fill(p, 5+l.IntN(8))
	}
}

// fill adds columns that refer to nothing.
func (l *landscape) fill(t *thing, columns int) {
	for range columns {
		m := member{}
		switch l.IntN(8) {
		case 0:
			m.name, m.kind = flags[l.IntN(len(flags))], "flag"
		case 1:
			m.name, m.kind = ranks[l.IntN(len(ranks))], "rank"
		case 2:
			m.name, m.kind = places[l.IntN(len(places))], []string{"line", "place", "serial", "nothing", "hour"}[l.IntN(5)]
		case 3:
			m.name, m.kind = counters[l.IntN(len(counters))], []string{"count", "amounts", "nothing", "epoch", "place"}[l.IntN(5)]
		case 4:
			m.name, m.kind = []string{"created", "changed", "seen"}[l.IntN(3)], "stamp"
		default:
			m.name, m.kind, _ = strings.Cut(texts[l.IntN(len(texts))], ":")
		}
		m.name = strings.ReplaceAll(m.name, "_", " ")
		if l.IntN(5) == 0 {
			m.nulls = 30
		}
		twice := false
		for _, x := range t.members {
			twice = twice || x.name == m.name
		}
		if !twice {
			t.members = append(t.members, m)
		}
	}
}
