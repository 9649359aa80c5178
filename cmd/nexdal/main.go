// Nexdal judges a database's keys and indexes and writes the DDL that puts
// them right.
package main

import (
	"os"

	"nexdal/internal/cli"
)

func main() { os.Exit(cli.Main(os.Args[1:], os.Stdin, os.Stdout, os.Stderr)) }
