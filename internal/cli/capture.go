package cli

import (
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/engine"
	"nexdal/internal/engine/all"
)

func (a *app) capture() *cobra.Command {
	var output string
	var names []string
	var clients []string
	for _, e := range all.Captured() {
		names = append(names, e.Name())
		clients = append(clients, e.Name()+" ("+e.CaptureClient()+")")
	}
	c := &cobra.Command{
		Use:   "capture ENGINE [-o FILE]",
		Short: "Write the script that surveys a database which Nexdal may not reach",
		Long: `Capture writes a script for the engine's own client. It puts the questions of a
survey, in one transaction that reads only where the engine has such, and looks at no
row of a table. Give it to somebody who may connect; what the client answers, as a file,
is a SOURCE for every command that a survey file serves:

  nexdal capture postgres -o ask.sql
  psql -X -d saltmere -f ask.sql > result.txt       (by whoever may connect)
  nexdal check result.txt

The data is asked the same way, in a few rounds: see nexdal probe --ask.

The head of the script says how the client is called. The result may come out of a window
or a shell that cuts lines or writes UTF-16; what cannot be put together again is said. A
file may hold several captures: result.txt#saltmere is that of saltmere. Its form is
described in docs/capture-format.md.

Engines, and their clients: ` + strings.Join(clients, ", ") + `.`,
		Example: `  nexdal capture postgres -o ask.sql
  nexdal survey result.txt -o saltmere.json`,
		Args:      cobra.ExactArgs(1),
		ValidArgs: names,
		RunE: func(cmd *cobra.Command, args []string) error {
			e, ok := all.ByName(args[0]).(engine.Capturer)
			if !ok || e.CaptureClient() == "" {
				return wrong("no capture is known for engine %q; give %s", args[0], strings.Join(names, " or "))
			}
			script, err := e.CaptureScript()
			if err != nil {
				return err
			}
			return a.emitText(output, script)
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write (default: standard output)")
	return c
}
