package run

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"strings"
	"time"

	"nexdal/internal/catalog"
	"nexdal/internal/engine"
	"nexdal/internal/script"
)

// A Rehearsal is what came of a script on an empty twin of its database.
type Rehearsal struct {
	Place   string              // of the twin, for people
	Losses  []engine.Loss       // what the twin could not be given
	Unbuilt []Unbuilt           // statements of the structure that failed there, as of views that are broken
	Mended  []catalog.ObjectRef // broken in the original, and whole in the twin
	Built   *catalog.Catalog    // the twin before the script
	Failed  error               // why the script did not reach its end, or nil
	After   *catalog.Catalog    // the twin after it; nil where it failed
	Capture []byte              // of the twin after it, where it gives one
	// The same of the way back; nil and nil where there is none, or the script
	// failed.
	BackFailed error
	Back       *catalog.Catalog
	// Rows is what became of the sample of rows; nil where there was none.
	Rows *Rows
}

// An Unbuilt is a statement that makes a part of the structure, and why it failed.
type Unbuilt struct {
	SQL string
	Err error
}

// Rehearse builds an empty database of the structure, carries out the script
// there and then, if there is one, its reversal, and takes the database away
// again. With a sample, the twin holds a few rows before the script begins; their number
// is looked at after each script. An error means that the rehearsal itself did not come about.
func Rehearse(ctx context.Context, stage engine.Rehearser, address string, before *catalog.Catalog, s, back *script.Script, sample *Sample) (r *Rehearsal, err error) {
	before, mended := whole(before)
	twin, discard, err := stage.Scratch(ctx, address, before)
	if err != nil {
		return nil, err
	}
	defer func() {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Minute)
		defer cancel()
		if gone := discard(ctx); gone != nil && err == nil {
			err = fmt.Errorf("the twin %s could not be taken away again: %w", twin.Place(), gone)
		}
	}()
	r = &Rehearsal{Place: twin.Place()}
	var work *engine.Work
	work, r.Losses = stage.Twin(before)
	r.Mended = mended
	for _, sql := range work.Setup {
		if err := twin.Exec(ctx, sql); err != nil {
			return nil, fmt.Errorf("the twin could not be built: %w", err)
		}
	}
	var first error
	for _, st := range work.Steps {
		for _, sql := range st.SQL {
			if sql == "BEGIN" || sql == "BEGIN TRANSACTION" || strings.HasPrefix(sql, "SET TRANSACTION ") || sql == "COMMIT" {
				continue // each by itself, so that one which fails costs nothing else
			}
			if err := twin.Exec(ctx, sql); err != nil {
				if ctx.Err() != nil {
					return nil, err
				}
				first = cmp.Or(first, fmt.Errorf("the twin could not be built: %w: %s", err, sql))
				r.Unbuilt = append(r.Unbuilt, Unbuilt{sql, err})
			}
		}
	}
	if r.Built, err = twin.Survey(ctx); err != nil {
		return nil, err
	}
	for _, t := range before.Tables() {
		if first != nil && r.Built.Table(t.Ref()) == nil {
			return nil, first
		}
	}
	by, samples := stage.(Sampler)
	var held map[catalog.Ref]int64
	look := func(c *catalog.Catalog) error {
		if sample == nil || !samples {
			return nil
		}
		now, err := counts(ctx, by, twin, c)
		if err == nil && held != nil {
			r.Rows.held(held, now)
		}
		if held == nil {
			held = now
		}
		return err
	}
	if sample != nil && samples {
		r.Rows = &Rows{}
		if err := sample.load(ctx, by, twin, r.Built, r.Rows); err != nil {
			return nil, err
		}
	}
	if err := look(r.Built); err != nil {
		return nil, err
	}
	if r.Failed = (&Run{Script: s, On: twin, From: 1, Tries: 1}).All(ctx); r.Failed != nil {
		return r, nil
	}
	if r.After, err = twin.Survey(ctx); err == nil {
		err = look(r.After)
	}
	if c, ok := twin.(engine.SelfCapturing); ok && err == nil {
		var b bytes.Buffer
		err = c.Capture(ctx, &b)
		r.Capture = b.Bytes()
	}
	if err != nil || back == nil {
		return r, err
	}
	if r.BackFailed = (&Run{Script: back, On: twin, From: 1, Tries: 1}).All(ctx); r.BackFailed != nil {
		return r, nil
	}
	if r.Back, err = twin.Survey(ctx); err == nil {
		err = look(r.Back)
	}
	return r, err
}

// All asks the questions and carries out the steps.
func (r *Run) All(ctx context.Context) error {
	if err := r.Preflight(ctx); err != nil {
		return err
	}
	return r.Steps(ctx)
}

// whole returns the catalog with its broken indexes whole: without rows nothing
// keeps them from being built.
func whole(c *catalog.Catalog) (*catalog.Catalog, []catalog.ObjectRef) {
	c = c.Clone()
	var mended []catalog.ObjectRef
	for _, t := range c.Tables() {
		for _, x := range t.Indexes {
			if x.Invalid && t.Kind != catalog.Partitioned {
				x.Invalid = false
				mended = append(mended, catalog.ObjectRef{Kind: "index", Schema: t.Schema, Name: x.Name})
			}
		}
	}
	return c, mended
}
