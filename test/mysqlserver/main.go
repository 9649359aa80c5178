// Command mysqlserver is a stand-in for MySQL in tests: it says that it is 8.0.31, speaks the
// protocol, keeps keys, foreign keys and checks in memory, and fills information_schema. It is
// a module of its own, so that the program knows nothing of it.
//
//	mysqlserver HOST:PORT
package main

import (
	"fmt"
	"log"
	"os"

	sqle "github.com/dolthub/go-mysql-server"
	"github.com/dolthub/go-mysql-server/memory"
	"github.com/dolthub/go-mysql-server/server"
	"github.com/dolthub/go-mysql-server/sql"
	"github.com/dolthub/vitess/go/mysql"
)

func main() {
	provider := memory.NewDBProviderWithOpts(memory.NativeIndexProvider(true)).(*memory.DbProvider)
	engine := sqle.NewDefault(provider)
	engine.Analyzer.Catalog.MySQLDb.AddRootAccount()
	s, err := server.NewServerWithHandler(server.Config{Protocol: "tcp", Address: os.Args[1]}, engine, sql.NewContext, memory.NewSessionBuilder(provider), nil,
		func(h mysql.Handler) (mysql.Handler, error) {
			return &errorCount{Handler: h, failed: map[uint32]bool{}}, nil
		})
	if err != nil {
		log.Fatal(err)
	}
	fmt.Println("ready")
	log.Fatal(s.Start())
}
