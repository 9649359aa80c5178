// Package all lists the engines. A new engine is one line here.
package all

import (
	"nexdal/internal/engine"
	"nexdal/internal/engine/bigquery"
	"nexdal/internal/engine/firebird"
	"nexdal/internal/engine/mariadb"
	"nexdal/internal/engine/mongodb"
	"nexdal/internal/engine/mysql"
	"nexdal/internal/engine/oracle"
	"nexdal/internal/engine/postgres"
	"nexdal/internal/engine/redshift"
	"nexdal/internal/engine/sqlite"
	"nexdal/internal/engine/sqlserver"
)

// Engines returns every engine, in the order that help texts name them.
func Engines() []engine.Engine {
	return []engine.Engine{
		sqlite.Engine{},
		postgres.Engine{},
		mariadb.Engine{},
		mysql.Engine,
		firebird.Engine{},
		redshift.Engine{},
		bigquery.Engine{},
		sqlserver.Engine{},
		oracle.Engine{},
		mongodb.Engine{},
	}
}

// Names lists their short names.
func Names() []string {
	var names []string
	for _, e := range Engines() {
		names = append(names, e.Name())
	}
	return names
}

// ByName returns the engine of that short name, or nil.
func ByName(name string) engine.Engine {
	for _, e := range Engines() {
		if e.Name() == name {
			return e
		}
	}
	return nil
}

// Captured lists the engines whose own client can survey for us.
func Captured() []engine.Capturer {
	var list []engine.Capturer
	for _, e := range Engines() {
		if c, ok := e.(engine.Capturer); ok && c.CaptureClient() != "" {
			list = append(list, c)
		}
	}
	return list
}

// ByScheme returns the engine that URLs of the scheme lead to, or nil.
func ByScheme(scheme string) engine.Opener {
	for _, e := range Engines() {
		o, ok := e.(engine.Opener)
		if !ok {
			continue
		}
		for _, s := range o.Schemes() {
			if s == scheme {
				return o
			}
		}
	}
	return nil
}

// ByFile returns the engine whose files begin like this, or nil.
func ByFile(head []byte) engine.FileOpener {
	for _, e := range Engines() {
		if o, ok := e.(engine.FileOpener); ok && o.Owns(head) {
			return o
		}
	}
	return nil
}

// Schemes lists all URL schemes.
func Schemes() []string {
	var all []string
	for _, e := range Engines() {
		if o, ok := e.(engine.Opener); ok {
			all = append(all, o.Schemes()...)
		}
	}
	return all
}

// Served says of each engine which versions are served, in a line.
func Served() []string {
	var lines []string
	for _, e := range Engines() {
		lines = append(lines, e.Title()+" "+e.Serves())
	}
	return lines
}
