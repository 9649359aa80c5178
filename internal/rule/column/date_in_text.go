package column

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/pattern"
	"nexdal/internal/rule"
	"nexdal/internal/text"
)

var DateInText = &rule.Rule{
	ID:          "column/date-in-text",
	Title:       "date or time kept in text or a number",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Applies:     func(can catalog.Abilities) bool { return can.DateTypes },
	Needs:       []rule.Need{rule.Evidence},
	Doc: `By its name, or since all of its values read as one, the column holds a date or a moment, and its type is a text or a number. Anything can be written there, also the 31st of February; comparing and sorting go by letters; no function for dates works on it without conversion, and an index on it serves no search by range.

Where only the name speaks for it, it is a notice. Numbers are reported only where their name says that they are dates (as 20240131), not seconds of a clock.

Leave it alone where values are not complete dates (a year and a month, "spring 1950"), or the engine has no types for dates.

There is no fix: conversion takes a look at how the values are written. nexdal probe says how many read as a date.`,
	Check: func(p *rule.Pass) error {
		for _, t := range p.Roots {
			for _, c := range t.Columns {
				dateInText(p, t, c)
			}
		}
		return nil
	},
}

var (
	dated    = pattern.New(`(?i)(^|_)(date|datetime|timestamp|birthday|dob)$|(ed|born|paid|sent|done|due|begun|taken|made|seen|read|written|bought|sold|left|begins|ends|starts|expires)_(at|on)$|(?-i:[a-z](Date|Time|At)$)|^date_|^(created|updated|modified|changed)$`)
	dateOnly = pattern.New(`(?i)(^|_)date$|(?-i:[a-z]Date$)|^date_of`)
	notDated = pattern.New(`(?i)format|zone|(^|_)(look|based|depends|turned|switched|located|is|has|logged|add|hands?)_?(at|on)$`)
)

// fewDates is how many values have to read as dates.
const fewDates = 20

func dateInText(p *rule.Pass, t *catalog.Table, c *catalog.Column) {
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Columns: []string{c.Name}, Part: c.Name, Advice: "a type for dates"}
	if c.Type.Family == catalog.Text && p.Data != nil {
		if f := p.Data.Column(t, c.Name); f != nil && f.Dates != nil {
			filled := f.Filled()
			if f.Empty != nil {
				filled -= *f.Empty
			}
			if filled >= fewDates && *f.Dates == filled {
				found.Certainty = rule.CertaintyOf(!f.Sampled)
				found.Message = fmt.Sprintf("all of %s in \"%s\" (%s) read as dates", text.Plural(filled, "value"), c.Name, c.Type.Native)
				p.Report(found)
			}
			return // the data has spoken
		}
	}
	switch {
	case p.Matches(notDated, c.Name):
	case c.Type.Family == catalog.Text && p.Matches(dated, c.Name) && c.Type.Length <= 40 && c.Type.Length != 1,
		c.Type.Family == catalog.Integer && p.Matches(dateOnly, c.Name) && c.Type.Bits == 32:
		found.Severity = rule.Notice
		found.Message = fmt.Sprintf("\"%s\" is named like a date and is %s: anything can be written there", c.Name, c.Type.Native)
		p.Report(found)
	}
}
