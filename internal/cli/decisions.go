package cli

import (
	"fmt"
	"io"
	"os"
	"os/user"

	"nexdal/internal/settings"
)

func (a *app) keep(d *settings.Decisions) error {
	return a.emit(a.DecisionsIn(), func(w io.Writer) error { return d.Write(w) })
}

// who is the person at the keyboard, as the system knows them.
func who() string {
	if u, err := user.Current(); err == nil && u.Username != "" {
		return u.Username
	}
	return os.Getenv("USER")
}

// says tells a decision in a line.
func says(x *settings.Decision) string {
	s := string(x.Verdict)
	if x.Fix != "" {
		s += " " + x.Fix
	}
	s += fmt.Sprintf(" by %s on %s", x.By, x.At)
	if x.Because != "" {
		s += ": " + x.Because
	}
	if !x.Until.IsZero() {
		s += fmt.Sprintf(" (until %s)", x.Until)
	}
	return s
}
