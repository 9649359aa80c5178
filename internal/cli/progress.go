package cli

import (
	"fmt"
	"io"
	"math"
	"os"
	"time"

	"github.com/vbauerster/mpb/v8"
	"github.com/vbauerster/mpb/v8/decor"
	"golang.org/x/term"

	"nexdal/internal/evidence"
	"nexdal/internal/text"
)

// progress is a bar on a terminal, and a line every few seconds elsewhere.
type progress struct {
	lines     io.Writer // where there is no terminal
	told      time.Time
	container *mpb.Progress
	bar       *mpb.Bar
	step      string
	said      evidence.Progress
}

// betweenLines is how long nothing more is said where progress is told by lines.
const betweenLines = 5 * time.Second

// bar makes one on standard error.
func (a *app) bar() *progress {
	f, ok := a.err.(*os.File)
	if !ok || !term.IsTerminal(int(f.Fd())) || os.Getenv("TERM") == "dumb" {
		return &progress{lines: a.err, told: time.Now()}
	}
	return &progress{container: mpb.New(mpb.WithOutput(io.Writer(f)), mpb.WithWidth(30), mpb.WithRefreshRate(200*time.Millisecond))}
}

// show moves the bar; every step has one of its own, which goes when the next
// begins.
func (p *progress) show(s evidence.Progress) {
	if p.container == nil {
		if time.Since(p.told) >= betweenLines {
			p.told = time.Now()
			fmt.Fprintf(p.lines, "%s: %d of %d\n", s.Step, s.Done, s.Total)
		}
		return
	}
	p.said = s
	if p.step != s.Step {
		p.drop()
		p.step = s.Step
		rows := func(decor.Statistics) string {
			if p.said.AllRows == 0 || s.Step != "columns" {
				return ""
			}
			return fmt.Sprintf("   %s of about %s", text.Amount(min(p.said.Rows, p.said.AllRows)), text.Plural(p.said.AllRows, "row"))
		}
		p.bar = p.container.AddBar(int64(s.Total), mpb.BarRemoveOnComplete(),
			mpb.PrependDecorators(decor.Name(fmt.Sprintf("  %-20s ", s.Step)), decor.CountersNoUnit("%d of %d ")),
			mpb.AppendDecorators(decor.Any(rows), decor.Name("   "), decor.AverageETA(decor.ET_STYLE_GO), decor.Name(" left")))
	}
	p.bar.SetCurrent(int64(s.Done))
}

func (p *progress) drop() {
	if p.bar != nil && !p.bar.Completed() {
		p.bar.Abort(true)
	}
}

// end takes the bar away.
func (p *progress) end() {
	if p.container != nil {
		p.drop()
		p.container.Wait()
	}
}

// stopwatch adds up the seconds of each step.
type stopwatch struct {
	name  string
	since time.Time
	spent map[string]float64
}

// step ends the step before, if it was another.
func (w *stopwatch) step(name string) {
	if name == w.name {
		return
	}
	now := time.Now()
	if w.name != "" {
		w.spent[w.name] += math.Round(1000*now.Sub(w.since).Seconds()) / 1000
	}
	w.name, w.since = name, now
}

// fetched is told of what is being fetched, where that is not the engine's work.
func (p *progress) fetched(_ string, done, of int64) {
	p.show(evidence.Progress{Step: "documents", Done: int(done), Total: int(of)})
}
