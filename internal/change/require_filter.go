package change

import (
	"fmt"

	"nexdal/internal/catalog"
)

// RequireFilter has a partitioned table refuse queries that do not say which parts they read, or
// take them again.
type RequireFilter struct {
	Table    catalog.Ref
	Required bool
}

func (c RequireFilter) On() catalog.Ref { return c.Table }
func (RequireFilter) rank() int         { return rankSetting }

func (c RequireFilter) Title() string {
	if c.Required {
		return fmt.Sprintf("require a filter on the partitions of %s", c.Table)
	}
	return fmt.Sprintf("require no filter on the partitions of %s", c.Table)
}

// apply sets it.
func (c RequireFilter) apply(to *edit, _ catalog.Abilities) error {
	t, err := to.table(c.Table)
	if err != nil {
		return err
	}
	if t.PartitionBy == nil {
		return fmt.Errorf("%s is not partitioned", c.Table)
	}
	t.PartitionBy.FilterRequired = c.Required
	return nil
}

// inverse sets what was.
func (c RequireFilter) inverse(before *catalog.Catalog) (Change, error) {
	t := before.Table(c.Table)
	if t == nil || t.PartitionBy == nil {
		return nil, fmt.Errorf("%s is not partitioned", c.Table)
	}
	return RequireFilter{c.Table, t.PartitionBy.FilterRequired}, nil
}
