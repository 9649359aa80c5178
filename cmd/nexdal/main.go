// Nexdal judges a database's keys and indexes and writes the DDL that puts
// them right.
package main

import (
	"os"
	"runtime/debug"
	_ "time/tzdata" // a server's time zone need not be known where this runs

	"nexdal/internal/cli"
)

func main() {
	// A call lives for seconds and builds one large value: collecting less
	// often costs little memory and saves a good part of the time.
	debug.SetGCPercent(200)
	os.Exit(cli.Main(os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}
