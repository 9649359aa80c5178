// Package firebird reads and writes databases of Firebird, 3.0 and later, by the system tables
// that its language reference documents
// (https://firebirdsql.org/file/documentation/html/en/refdocs/fblangref30/firebird-30-language-reference.html#fblangref-appx04-systables).
// Statements are those of the same book.
package firebird

import (
	"net"

	"nexdal/internal/engine"
	"nexdal/internal/engine/firebird/traits"
	"nexdal/internal/engine/firebird/write"
	"nexdal/internal/text"
)

// Engine is Firebird.
type Engine struct {
	traits.Traits
	write.Writer
}

// ClientLine is a call of isql, which stops at the first error. The password it takes from
// ISC_PASSWORD
// (https://firebirdsql.org/file/documentation/html/en/firebirddocs/isql/firebird-isql.html).
func (Engine) ClientLine(address, file string) string {
	c, err := parse(address)
	if address == "" || err != nil {
		return "isql-fb -q -bail -i " + text.Shell(file) + " DATABASE"
	}
	host, port, _ := net.SplitHostPort(c.host)
	return "isql-fb " + text.Shells([]string{"-q", "-bail", "-ch", "UTF8", "-u", c.user, "-i", file, host + "/" + port + ":" + c.database})
}

var (
	_ engine.Opener = Engine{}
	_ engine.Client = Engine{}
)
