// Package sqlserver reads and writes databases of Microsoft SQL Server, 2016 and later, and
// those of its family in Azure, by the catalog views that its manual documents
// (https://learn.microsoft.com/en-us/sql/relational-databases/system-catalog-views/).
package sqlserver

import (
	"strconv"

	"nexdal/internal/engine"
	"nexdal/internal/engine/sqlserver/traits"
	"nexdal/internal/engine/sqlserver/write"
	"nexdal/internal/text"
)

// Engine is SQL Server.
type Engine struct {
	traits.Traits
	write.Writer
}

// ClientLine is a call of sqlcmd, which stops at the first error, and for which $(name) is a text
// like others
// (https://learn.microsoft.com/en-us/sql/tools/sqlcmd/sqlcmd-utility).
func (Engine) ClientLine(address, file string) string {
	if address == "" {
		return "sqlcmd -b -x -I -d DATABASE -i " + file
	}
	c, err := parse(address)
	if err != nil {
		return "sqlcmd -b -x -I -i " + file
	}
	return "sqlcmd " + text.Shells([]string{"-b", "-x", "-I", "-S", c.Host + "," + strconv.FormatUint(c.Port, 10), "-d", c.Database, "-i", file})
}

var (
	_ engine.Opener = Engine{}
	_ engine.Client = Engine{}
)
