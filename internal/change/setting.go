package change

import (
	"fmt"
	"slices"

	"nexdal/internal/catalog"
)

// SetSetting gives a setting kept in the database another value; an empty To
// takes it back to the server's default, named by Default.
type SetSetting struct {
	Name, Scope       string // scope in the engine's words: "database"
	From, To, Default string
}

// On returns no table: the whole database is concerned.
func (c SetSetting) On() catalog.Ref { return catalog.Ref{} }

// Title says what is set.
func (c SetSetting) Title() string {
	if c.To == "" {
		return fmt.Sprintf("reset %s of the %s to its default", c.Name, c.Scope)
	}
	return fmt.Sprintf("set %s of the %s to %s", c.Name, c.Scope, c.To)
}

func (SetSetting) rank() int { return rankSetting }

// apply sets the value.
func (c SetSetting) apply(to *edit, _ catalog.Abilities) error {
	i := slices.IndexFunc(to.Settings, func(s catalog.Setting) bool { return s.Name == c.Name })
	if i < 0 {
		return fmt.Errorf("setting %s is not known", c.Name)
	}
	to.whole().Settings[i].Value = c.To
	if c.To == "" {
		to.Settings[i] = catalog.Setting{Name: c.Name, Value: c.Default, Source: "default"}
	}
	return nil
}

// inverse sets the value that was.
func (c SetSetting) inverse(*catalog.Catalog) (Change, error) {
	return SetSetting{Name: c.Name, Scope: c.Scope, From: c.To, To: c.From, Default: c.Default}, nil
}
