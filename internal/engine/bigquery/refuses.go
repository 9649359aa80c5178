package bigquery

import (
	"fmt"
	"slices"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
)

// mostKeyed is how many columns a key has at most
// (https://cloud.google.com/bigquery/docs/primary-foreign-keys).
const mostKeyed = 16

// unwritten is the answer to what has no statement.
const unwritten = "BigQuery has no statement for it"

// Refuses says why the change cannot be written, or "".
func (e Engine) Refuses(c *catalog.Catalog, ch change.Change) string {
	t := c.Table(ch.On())
	if t != nil && t.Kind != catalog.Ordinary {
		return fmt.Sprintf("the rows of %s lie elsewhere", t.Name)
	}
	switch ch := ch.(type) {
	case change.AddKey:
		return refusesKey(t, ch.Key, ch.Primary)
	case change.ReplaceKey:
		if ch.From.Key == nil || ch.To.Key == nil {
			return "BigQuery has no indexes"
		}
		if !ch.From.Primary {
			return noUnique
		}
		return refusesKey(t, ch.To.Key, ch.To.Primary)
	case change.AddForeignKey:
		return refusesReference(c, t, ch.ForeignKey)
	case change.DropKey:
		for _, r := range c.Lookup().Referrers(ch.On()) {
			return fmt.Sprintf("foreign key %s of %s refers to it", r.ForeignKey.Name, r.Table.Name)
		}
		return ""
	case change.DropForeignKey, change.RequireFilter, change.NoReversal, change.DropObjects, change.CreateObjects:
		return ""
	case change.SetSortKey:
		if ch.To != nil {
			if ch.To.Interleaved {
				return "there is no interleaved order"
			}
			if why := refusesClusters(t, ch.To.Columns); why != "" {
				return why
			}
		}
		return refusesCopy(t)
	case change.PartitionTable:
		if len(ch.Parts) > 0 || ch.Key != nil {
			return "the engine makes the partitions itself"
		}
		return refusesCopy(t)
	case change.SetNullable:
		if !ch.Nullable {
			return "a column that is there cannot be made required: the table has to be built anew"
		}
		return ""
	case change.SetDefault:
		return ""
	case change.SetComment:
		if c := t.Column(ch.Name); ch.Kind == change.OnConstraint || ch.Kind == change.OnColumn && c != nil && c.Within != "" {
			return fmt.Sprintf("%s takes no description by a statement", ch.Name)
		}
		return ""
	case change.AddColumn:
		switch {
		case !ch.Column.Nullable:
			return "a column that is added takes null"
		case ch.Column.Identity != catalog.NoIdentity:
			return "no column is numbered"
		case len(fieldsOf(ch.Column.Name, ch.Column.Type.Native)) > 0:
			return "a column with fields is left to you (ALTER TABLE ... ADD COLUMN)"
		case ch.Column.Generated != "":
			return "a computed column cannot be added"
		}
		return ""
	case change.DropColumn:
		return refusesDrop(t, ch.Column)
	case change.AlterType:
		if !widens(ch.From, ch.To) {
			return fmt.Sprintf("%s cannot be made %s: the table has to be built anew", ch.From.Native, ch.To.Native)
		}
		if t.SortKey != nil && slices.Contains(t.SortKey.Columns, ch.Column) || t.PartitionBy != nil && slices.Contains(t.PartitionBy.Columns, ch.Column) {
			return fmt.Sprintf("%s is laid out by %s", t.Name, ch.Column)
		}
		return ""
	case change.AddSurrogateKey:
		return "no column is numbered: a key would have to come with the rows, as GENERATE_UUID() gives it"
	case change.AddCheck:
		return "BigQuery has no checks"
	case change.CreateIndex, change.DropIndex, change.RebuildIndex:
		return "BigQuery has no indexes"
	}
	return unwritten
}

const noUnique = "BigQuery has no unique keys besides the primary one"

func refusesKey(t *catalog.Table, k *catalog.Key, primary bool) string {
	if !primary {
		return noUnique
	}
	if len(k.Columns) > mostKeyed {
		return fmt.Sprintf("a key has %d columns at most", mostKeyed)
	}
	return refusesKeyed(t, k.Columns)
}

// refusesKeyed: a key is on columns of plain types
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language#primary_key).
func refusesKeyed(t *catalog.Table, columns []string) string {
	for _, name := range columns {
		c := t.Column(name)
		if c == nil {
			continue
		}
		switch {
		case c.Within != "":
			return fmt.Sprintf("%s is a field of %s, and a key is on columns", name, c.Within)
		case c.Type.Family == catalog.Array, c.Type.Family == catalog.JSON, c.Type.Family == catalog.Other:
			return fmt.Sprintf("no key is on a %s", c.Type.Native)
		}
	}
	return ""
}

// refusesReference: a foreign key refers to the primary key of a table of its own dataset, column by
// column of the same type
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language#foreign_key).
func refusesReference(c *catalog.Catalog, t *catalog.Table, f *catalog.ForeignKey) string {
	to := c.Table(f.Target)
	switch {
	case to == nil:
		return fmt.Sprintf("%s is not among the tables that were read", f.Target)
	case f.Target.Schema != t.Schema:
		return fmt.Sprintf("a foreign key stays within its dataset, and %s is in %s", to.Name, to.Schema)
	case to.PrimaryKey == nil || !catalog.SameColumns(to.PrimaryKey.Columns, f.TargetColumns):
		return fmt.Sprintf("a foreign key refers to the primary key, and (%s) is not that of %s", strings.Join(f.TargetColumns, ", "), to.Name)
	}
	for i, name := range f.Columns {
		a, b := t.Column(name), to.Column(f.TargetColumns[i])
		if a == nil || b == nil {
			continue
		}
		ofA, _, _ := strings.Cut(a.Type.Native, "(")
		ofB, _, _ := strings.Cut(b.Type.Native, "(")
		if ofA != ofB {
			return fmt.Sprintf("%s is %s, and what it refers to is %s", name, a.Type.Native, b.Type.Native)
		}
	}
	return refusesKeyed(t, f.Columns)
}

// refusesClusters: https://cloud.google.com/bigquery/docs/clustered-tables#cluster_column_types.
func refusesClusters(t *catalog.Table, columns []string) string {
	if len(columns) > mostClustered {
		return fmt.Sprintf("a table is clustered by %d columns at most", mostClustered)
	}
	for _, name := range columns {
		c := t.Column(name)
		if c == nil {
			continue
		}
		switch {
		case c.Within != "":
			return fmt.Sprintf("%s is a field of %s, and a table is clustered by columns", name, c.Within)
		case c.Type.Family == catalog.Float, c.Type.Family == catalog.Array, c.Type.Family == catalog.JSON, c.Type.Family == catalog.Other, c.Type.Family == catalog.Binary, c.Type.Family == catalog.Time, c.Type.Family == catalog.Interval:
			return fmt.Sprintf("no table is clustered by a %s", c.Type.Native)
		}
	}
	return ""
}

// refusesCopy says what a copy of the table would lack.
func refusesCopy(t *catalog.Table) string {
	if t.PartitionBy != nil && len(t.PartitionBy.Columns) == 0 {
		return fmt.Sprintf("%s is partitioned by when rows came, which a copy would forget", t.Name)
	}
	for _, c := range t.Columns {
		for _, o := range c.Options {
			if strings.HasPrefix(o, policyTags) {
				return fmt.Sprintf("the policy tags of %s would be lost in a copy", c.Name)
			}
		}
	}
	for _, d := range t.Dependants {
		return fmt.Sprintf("%s %s leans on it", d.Kind, d.Name)
	}
	return ""
}

// refusesDrop: https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language#alter_table_drop_column_statement.
func refusesDrop(t *catalog.Table, name string) string {
	c := t.Column(name)
	switch {
	case c == nil:
		return ""
	case c.Within != "":
		return "a field of a STRUCT cannot be dropped alone"
	case t.SortKey != nil && slices.Contains(t.SortKey.Columns, name), t.PartitionBy != nil && slices.Contains(t.PartitionBy.Columns, name):
		return fmt.Sprintf("%s is laid out by %s", t.Name, name)
	case t.PrimaryKey != nil && slices.Contains(t.PrimaryKey.Columns, name), t.Refers(name):
		return fmt.Sprintf("a key of %s holds %s", t.Name, name)
	}
	return ""
}

// widens reports whether a type can be made another in place
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language#alter_column_set_data_type_statement).
func widens(from, to catalog.Type) bool {
	kind := func(t catalog.Type) string { name, _, _ := strings.Cut(t.Native, "("); return name }
	switch kind(from) {
	case "INT64":
		return slices.Contains([]string{"NUMERIC", "BIGNUMERIC", "FLOAT64"}, to.Native)
	case "NUMERIC":
		if kind(to) == "NUMERIC" || kind(to) == "BIGNUMERIC" {
			return to.Scale >= from.Scale && to.Precision-to.Scale >= from.Precision-from.Scale
		}
		return to.Native == "FLOAT64" && from.Native == "NUMERIC"
	case "BIGNUMERIC":
		return kind(to) == "BIGNUMERIC" && to.Scale >= from.Scale && to.Precision-to.Scale >= from.Precision-from.Scale
	case "STRING", "BYTES":
		return kind(to) == kind(from) && (to.Length == 0 || from.Length > 0 && to.Length >= from.Length)
	}
	return false
}
