package bigquery

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
)

// A statement is what of CREATE TABLE no view tells by itself.
type statement struct {
	partition string // what stands behind PARTITION BY
}

// clauses reads the statement of a table, as the service writes it
// (https://cloud.google.com/bigquery/docs/reference/standard-sql/data-definition-language#create_table_statement).
func clauses(ddl string) statement {
	var st statement
	words := Engine{}.Dialect().Meaning(ddl)
	depth := 0
	for i, t := range words {
		switch {
		case t.Is("("):
			depth++
		case t.Is(")"):
			depth--
		case depth == 0 && t.Is("PARTITION") && i+2 < len(words) && words[i+1].Is("BY"):
			end := len(ddl)
			for k, in := i+2, 0; k < len(words); k++ {
				w := words[k]
				if w.Is("(") {
					in++
				} else if w.Is(")") {
					in--
				}
				if in == 0 && (w.Is("CLUSTER") || w.Is("OPTIONS") || w.Is("AS") || w.Is(";")) {
					end = w.Start
					break
				}
			}
			st.partition = strings.TrimSpace(ddl[words[i+2].Start:end])
		}
	}
	return st
}

// unquoted is the text of an option, which the views write as it is written in a statement.
func unquoted(value string) string {
	if s, err := strconv.Unquote(value); err == nil {
		return s
	}
	value = strings.TrimSpace(value)
	if len(value) < 2 {
		return value
	}
	return strings.NewReplacer(`\n`, "\n", `\r`, "\r", `\t`, "\t", `\'`, "'", `\"`, `"`, `\\`, `\`).Replace(value[1 : len(value)-1])
}

// options writes an OPTIONS clause with a blank in front, or nothing.
func options(list []string) string {
	if len(list) == 0 {
		return ""
	}
	return " OPTIONS (" + strings.Join(list, ", ") + ")"
}

// described are a column's options, its description first.
func described(comment string, more []string) []string {
	list := slices.DeleteFunc(slices.Clone(more), func(o string) bool { return strings.HasPrefix(o, policyTags) })
	if comment != "" {
		list = append([]string{"description=" + literal(comment)}, list...)
	}
	return list
}

// declared is a column's type with the descriptions of its fields.
func declared(t *catalog.Table, c *catalog.Column) string {
	comments := map[string]string{}
	for _, f := range t.Columns {
		if f.Within != "" && f.Comment != "" {
			comments[f.Name] = f.Comment
		}
	}
	if len(comments) == 0 {
		return c.Type.Native
	}
	return told(c.Name, c.Type.Native, comments)
}

// told writes a type with the comments of the fields in it.
func told(path, typ string, comments map[string]string) string {
	list := fieldsOf(path, typ)
	if list == nil {
		return typ
	}
	parts := make([]string, len(list))
	for i, f := range list {
		name := f.path[len(path)+1:]
		parts[i] = ident(name) + " " + told(f.path, f.typ, comments) + options(described(comments[f.path], nil))
	}
	made := "STRUCT<" + strings.Join(parts, ", ") + ">"
	if strings.HasPrefix(strings.ToUpper(typ), "ARRAY") {
		made = "ARRAY<" + made + ">"
	}
	return made
}

// columnText declares a column.
func columnText(t *catalog.Table, c *catalog.Column) string {
	text := ident(c.Name) + " " + declared(t, c)
	if c.Type.Collation != "" {
		text += " COLLATE " + literal(c.Type.Collation)
	}
	if c.Generated != "" {
		text += " AS (" + c.Generated + ") STORED"
	}
	if c.Default != "" {
		text += " DEFAULT " + c.Default
	}
	if !c.Nullable && c.Type.Family != catalog.Array {
		text += " NOT NULL"
	}
	return text + options(described(c.Comment, c.Options))
}

// tableText writes CREATE TABLE without keys.
func tableText(t *catalog.Table) string {
	var parts []string
	for _, c := range t.Columns {
		if c.Within == "" {
			parts = append(parts, columnText(t, c))
		}
	}
	text := fmt.Sprintf("CREATE TABLE %s (\n  %s\n)", relation(t.Ref()), strings.Join(parts, ",\n  "))
	list := described(t.Comment, t.Options)
	if p := t.PartitionBy; p != nil {
		text += "\nPARTITION BY " + p.Definition
		if p.FilterRequired {
			list = append(list, "require_partition_filter=true")
		}
	}
	if k := t.SortKey; k != nil {
		text += "\nCLUSTER BY " + idents(k.Columns)
	}
	if len(list) > 0 {
		text += "\n" + strings.TrimSpace(options(list))
	}
	return text
}

func addPrimaryKey(on catalog.Ref, k *catalog.Key) string {
	return fmt.Sprintf("ALTER TABLE %s ADD PRIMARY KEY (%s) NOT ENFORCED", relation(on), idents(k.Columns))
}

func addReference(on catalog.Ref, f *catalog.ForeignKey) string {
	name := ""
	if f.Name != "" && !systemNamed.MatchString(f.Name) {
		name = "CONSTRAINT " + ident(f.Name) + " "
	}
	return fmt.Sprintf("ALTER TABLE %s ADD %sFOREIGN KEY (%s) REFERENCES %s (%s) NOT ENFORCED", relation(on), name, idents(f.Columns), relation(f.Target), idents(f.TargetColumns))
}

func dropReference(on catalog.Ref, f *catalog.ForeignKey) string {
	return fmt.Sprintf("ALTER TABLE %s DROP CONSTRAINT %s", relation(on), ident(f.Name))
}
