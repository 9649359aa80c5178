package cli

import (
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/settings"
	"nexdal/internal/text"
)

func (a *app) noteOn() *cobra.Command {
	d := &deciding{app: a}
	c := &cobra.Command{Use: "note TABLE[.COLUMN] TEXT", Short: "Keep what people know of a table or a column", Args: cobra.ExactArgs(2),
		Long: `Note keeps what people know of a table or a column, and no catalog holds, beside
the decisions. describe, report and draw show it; script notes writes it as
comments, on engines that have them. A second note on the same takes the place of
the first; decide withdraw 'note TABLE.COLUMN' takes it back.

With --source, the table or column has to be there.`,
		Example: `  nexdal decide note station.code "as painted on the gauge house"
  nexdal decide note saltmere.tide_table "comes from the harbour office each January" --source saltmere.db`,
		RunE: func(cmd *cobra.Command, args []string) error {
			all, err := a.Decisions(true)
			if err != nil {
				return err
			}
			made, err := d.decision(settings.Accept)
			if err != nil {
				return err
			}
			note := settings.Note{About: args[0], Text: strings.TrimSpace(args[1]), By: made.By, At: made.At}
			if d.source != "" {
				c, err := a.Catalog(cmd.Context(), d.source)
				if err != nil {
					return err
				}
				if _, stray := (&settings.Decisions{Notes: []settings.Note{note}}).NotesOn(c); len(stray) > 0 {
					if _, err := table(c, args[0]); err != nil && !strings.Contains(args[0], ".") {
						return err
					}
					return wrong("there is no table or column %s in %s", args[0], d.source)
				}
			}
			if err := all.PutNote(note); err != nil {
				return wrong("%v", err)
			}
			fmt.Fprintf(a.out, "note on %s\n  %s\n", text.Line(note.About), text.Line(note.Text))
			return a.keep(all)
		}}
	c.Flags().StringVar(&d.source, "source", "", "source that has to hold the table or column")
	c.Flags().StringVar(&d.by, "who", "", "who says so (default: the name you are logged in by)")
	return c
}
