package cli

import (
	"strings"

	"github.com/spf13/cobra"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/script"
)

func (a *app) scriptNotes() *cobra.Command {
	var output string
	c := &cobra.Command{
		Use:   "notes SOURCE -o FILE",
		Short: "Write the notes of people as comments on tables and columns",
		Long: `Notes writes the notes of nexdal decide note as the engine's own comments, for the
tables and columns of the source. A comment that is there stays: the note is put
behind it, unless it says that already. Beside FILE comes the reversal, as with
nexdal script fix.`,
		Example: `  nexdal script notes postgres://dba@db1/saltmere -o notes.sql`,
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			c, w, can, err := a.altering(cmd.Context(), args[0], output)
			if err != nil {
				return err
			}
			if !can.Comments {
				return wrong("%s keeps no comments on tables and columns", w.Title())
			}
			d, err := a.Decisions(false)
			if err != nil {
				return err
			}
			notes, stray := d.NotesOn(c)
			for _, x := range stray {
				a.note("no table or column %s is there; its note is left out", x.About)
			}
			changes := commenting(c, notes)
			if len(changes) == 0 {
				return wrong("there is nothing to do: no note says what is not in the comments already")
			}
			pair, err := script.Carry(w, c, can, changes, "notes")
			if err != nil {
				return wrong("the script cannot be written: %v", err)
			}
			return a.putScripts(args[0], output, pair)
		},
	}
	c.Flags().StringVarP(&output, "output", "o", "", "file to write; the reversal comes beside it (default: standard output, without reversal)")
	return c
}

// commenting are the comments that the notes add to those that are there.
func commenting(c *catalog.Catalog, notes catalog.Notes) []change.Change {
	var changes []change.Change
	add := func(t *catalog.Table, kind, name, is, note string) {
		if note == "" || strings.Contains(is, note) {
			return
		}
		to := note
		if is != "" {
			to = is + "\n" + note
		}
		changes = append(changes, change.SetComment{Table: t.Ref(), Kind: kind, Name: name, From: is, To: to})
	}
	for _, t := range c.Tables() {
		add(t, change.OnTable, "", t.Comment, notes.Of(t.Ref(), ""))
		for _, col := range t.Columns {
			add(t, change.OnColumn, col.Name, col.Comment, notes.Of(t.Ref(), col.Name))
		}
	}
	return changes
}
