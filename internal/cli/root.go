// Package cli is the command line: the only place that prints, asks or exits.
package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"os/signal"
	"runtime/debug"
	"slices"
	"strings"
	"syscall"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"

	"nexdal/internal/engine"
	"nexdal/internal/job"
	"nexdal/internal/text"
)

// The exit statuses.
const (
	statusDone   = 0
	statusShort  = 1 // findings at or above --fail-on, or a run that did not reach its end
	statusCall   = 2 // the call, or a file given to it, is wrong
	statusSource = 3 // the source could not be reached or read
	statusFault  = 4 // the program itself is at fault

	statusInterrupted = 130 // by a person, or by a system that ends
)

// shortError ends a command that did what it could with status 1. An empty
// message prints nothing: the output has said it already.
type shortError struct{ message string }

func (e shortError) Error() string { return e.message }

// An exitError ends a command whose output has said all; its value is the exit status.
type exitError struct{ status int }

func (exitError) Error() string { return "" }

// exit ends a command with a status.
func exit(status int) error {
	if status == statusDone {
		return nil
	}
	return exitError{status}
}

// wrong makes a mistake in the call.
var wrong = job.Wrong

// partError: the work ended early, and what was done so far was written.
type partError struct{ message string }

func (e partError) Error() string { return e.message }

// app is what the commands share.
type app struct {
	job.Job
	in         io.Reader
	out, err   io.Writer
	colour     string
	quiet      bool
	verbose    bool
	complaints io.Writer // where errors go, also where everything else is to be quiet
}

func newApp(in io.Reader, out, errOut io.Writer) *app {
	return &app{Job: job.Job{In: in}, in: in, out: out, err: errOut, complaints: errOut}
}

// Main runs the program and returns its exit status.
func Main(args []string, in io.Reader, out, errOut io.Writer) int {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	go func() {
		<-ctx.Done()
		stop() // a second interrupt ends the program at once
	}()
	a := newApp(in, out, errOut)
	root := a.root()
	root.SetArgs(args)
	root.SetIn(in)
	root.SetOut(out)
	root.SetErr(errOut)
	return a.status(ctx, guarded(func() error { return root.ExecuteContext(ctx) }))
}

// Command is the command tree, for manual pages and completions.
func Command() *cobra.Command { return newApp(nil, nil, nil).root() }

// faultError is an error that the program itself is to blame for.
type faultError struct {
	error
	place string // in the code
}

// guarded does the work. A panic is a fault, and told as one, with its place; each goroutine
// has to be guarded by itself.
func guarded(work func() error) (err error) {
	defer func() {
		if v := recover(); v != nil {
			err = faultError{fmt.Errorf("%v", v), text.PanicPlace(debug.Stack())}
		}
	}()
	return work()
}

// status says what went wrong, in one sentence, and gives the exit status.
func (a *app) status(ctx context.Context, err error) int {
	var short shortError
	var ended exitError
	var part partError
	var call job.CallError
	var source *engine.SourceError
	var statement *engine.StatementError
	var file *fs.PathError
	var fault faultError
	switch {
	case err == nil:
		return statusDone
	case ctx.Err() != nil && !errors.Is(err, syscall.EPIPE):
		switch {
		case errors.As(err, &part):
			a.complain(part.message)
		case errors.As(err, &short) && short.message != "":
			a.complain(short.message)
		default:
			a.complain("interrupted; nothing was left half-written")
		}
		return statusInterrupted
	case errors.As(err, &short):
		if short.message != "" {
			a.complain(short.message)
		}
		return statusShort
	case errors.As(err, &ended):
		return ended.status
	case errors.As(err, &part):
		a.complain(part.message)
		return statusSource
	case errors.Is(err, syscall.EPIPE):
		return statusDone // the reader has seen enough
	case errors.As(err, &call), errors.Is(err, engine.ErrWrongAddress), errors.As(err, &file):
		a.complain(err.Error())
		return statusCall
	case errors.As(err, &source), errors.As(err, &statement), errors.Is(err, context.DeadlineExceeded):
		a.complain(err.Error())
		return statusSource
	case errors.As(err, &fault):
		a.complain(fmt.Sprintf("a fault of this program, at %s: %v; nothing was left half-written", fault.place, fault.error))
		return statusFault
	}
	a.complain("a fault of this program: " + err.Error())
	return statusFault
}

func (a *app) complain(message string) {
	fmt.Fprintf(a.complaints, "nexdal: %s\n", text.Line(strings.TrimSpace(message)))
}

func (a *app) root() *cobra.Command {
	root := &cobra.Command{
		Use:   "nexdal",
		Short: "Judge a database's keys and indexes, and write the DDL that puts them right",
		Long: `Nexdal reads the catalog of a database that exists, checks its keys, foreign
keys, constraints and indexes against design rules, and writes corrective
scripts that can be read, rehearsed, run and taken back.

A SOURCE is a URL (sqlite:path, postgres://user@host/database,
mariadb://user@host/database, mysql://..., firebird://user@host//file.fdb, sqlserver://...,
redshift://..., bigquery://project/dataset, mongodb://user@host/database), the path of a SQLite
file or of a survey file, docs: and a folder of exported documents, - for a survey on standard
input, or a name from the settings. Passwords come from where the engine's own clients
take them: PG* variables and the password file; MYSQL_PWD and ~/.my.cnf; ISC_PASSWORD;
SQLCMDPASSWORD; GOOGLE_OAUTH_ACCESS_TOKEN; and NEXDAL_MONGODB_PASSWORD.

Settings, decisions and evidence are read from ` + job.SettingsFile + `, ` + job.DecisionsFile + `
and ` + job.EvidenceFile + ` in this folder or the nearest above, or from where
` + job.SettingsVariable + `, ` + job.DecisionsVariable + ` and ` + job.EvidenceVariable + ` say.

Exit status: 0 done; 1 findings at or above --fail-on, differences, or a run
that did not reach its end; 2 the call or a file given to it is wrong; 3 the source could
not be reached or read; 4 a fault of the program itself; 130 interrupted.`,
		Example: `  nexdal demo                              build the demo database and walk the whole job
  nexdal check saltmere.db                 judge a database
  nexdal script fix saltmere.db -o fix.sql write what puts it right, and the way back
  nexdal run fix.sql --on saltmere.db      carry it out`,
		Version:       version(),
		SilenceErrors: true,
		SilenceUsage:  true,
	}
	root.SetVersionTemplate(versionText())
	root.SetFlagErrorFunc(func(c *cobra.Command, err error) error {
		return wrong("%s; see %s --help", text.Plain(err), c.CommandPath())
	})
	root.PersistentPreRunE = func(*cobra.Command, []string) error { return a.ready() }
	flags := root.PersistentFlags()
	flags.StringVar(&a.colour, "color", "auto", "colours: auto (on a terminal, unless NO_COLOR is set), always or never")
	flags.BoolVarP(&a.quiet, "quiet", "q", false, "say nothing on standard error but what went wrong")
	flags.BoolVar(&a.verbose, "verbose", false, "tell on standard error which statements are sent, and how long each takes")
	flags.StringVar(&a.SettingsPath, "settings", "", "file of settings (default: "+job.SettingsFile+", here or in a folder above)")
	compare, demo, rules, settings := a.compare(), a.demo(), a.rules(), a.settings()
	judging := []*cobra.Command{a.outline(), a.describe(), a.draw(), a.probe(), a.check(), a.decide(), a.script(), a.rehearse(), a.run(), a.report()}
	reading := append([]*cobra.Command{a.survey(), compare, demo}, judging...)
	for _, c := range reading {
		a.sourceFlags(c.PersistentFlags())
	}
	for _, c := range append([]*cobra.Command{rules, settings}, judging...) {
		c.PersistentFlags().StringArrayVar(&a.Sets, "set", nil, "set a rule otherwise: RULE=SEVERITY or RULE.OPTION=VALUE (may be given several times)")
	}
	root.AddCommand(append([]*cobra.Command{rules, settings, a.capture()}, reading...)...)
	a.complete(root)
	strict(root)
	return root
}

// sourceFlags are the flags of every command that reads a source.
func (a *app) sourceFlags(flags *pflag.FlagSet) {
	flags.DurationVar(&a.Timeout, "timeout", 0, "longest that one statement may take (default: the engine's choice)")
	flags.DurationVar(&a.LockTimeout, "lock-timeout", 0, "longest to wait for a lock (default 5s)")
	flags.Var((*patterns)(&a.Scope.Schemas), "schema", "look at these schemas alone: names or patterns with * and ?, with commas between them")
	flags.Var((*patterns)(&a.Scope.Without), "without", "leave out these schemas, tables and views: names or patterns, with commas between them")
	flags.StringVar(&a.DecisionsPath, "decisions", "", "file of decisions (default: "+job.DecisionsFile+", here or in a folder above)")
}

// strict makes wrong arguments of every command a mistake in the call, and a
// command that only groups others ask for one of them.
func strict(c *cobra.Command) {
	switch check := c.Args; {
	case c.HasSubCommands() && !c.Runnable():
		c.Args, c.DisableFlagsInUseLine = cobra.ArbitraryArgs, true
		c.RunE = func(c *cobra.Command, args []string) error {
			if len(args) == 0 {
				return c.Help()
			}
			return unknown(c, args[0])
		}
	case check != nil:
		c.Args = func(c *cobra.Command, args []string) error {
			if check(c, args) == nil {
				return nil
			}
			given := text.Plural(int64(len(args)), "argument") + " given"
			if len(args) == 0 {
				given = "no argument given"
			}
			return wrong("%s; write: %s", given, c.UseLine())
		}
	}
	for _, sub := range c.Commands() {
		strict(sub)
	}
}

// unknown says that a command has no such part, and which is nearest.
func unknown(c *cobra.Command, name string) error {
	best, far := "", 1+len(name)/3
	for _, sub := range c.Commands() {
		if d := text.Distance(sub.Name(), name); sub.IsAvailableCommand() && d <= far {
			best, far = sub.Name(), d-1
		}
	}
	if best != "" {
		return wrong("there is no command %s %s; did you mean %s %s?", c.CommandPath(), name, c.CommandPath(), best)
	}
	return wrong("there is no command %s %s; see %s --help", c.CommandPath(), name, c.CommandPath())
}

// ready takes in the flags that all commands have.
func (a *app) ready() error {
	switch {
	case !slices.Contains([]string{"auto", "always", "never"}, a.colour):
		return wrong("--color takes auto, always or never, not %q", a.colour)
	case a.quiet && a.verbose:
		return wrong("--quiet and --verbose contradict each other")
	case a.quiet:
		a.err = io.Discard
	case a.verbose:
		a.Watch = a.watch
	}
	return nil
}
