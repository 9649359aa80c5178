package mariadb

import (
	"bufio"
	"cmp"
	"net"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"

	"nexdal/internal/engine"
	"nexdal/internal/engine/mariadb/traits"
)

// parse makes a connection's settings of a URL, mariadb://user@host:port/db or
// mariadb://user@/db?socket=/run/mysqld/mysqld.sock. What it leaves out comes
// from where the engine's own clients take it: MYSQL_HOST, MYSQL_TCP_PORT,
// MYSQL_UNIX_PORT and MYSQL_PWD (https://mariadb.com/kb/en/mariadb-environment-variables/),
// then the client's part of ~/.my.cnf
// (https://mariadb.com/kb/en/configuring-mariadb-with-option-files/).
func parse(f *traits.Family, address string) (*mysql.Config, error) {
	u, err := url.Parse(address)
	if err != nil || !slices.Contains(f.Schemes, u.Scheme) {
		return nil, &engine.SourceError{Place: engine.Redact(address), Kind: engine.ErrWrongAddress, Hint: "write " + f.Schemes[0] + "://user@host:port/database"}
	}
	file := optionFile()
	c := mysql.NewConfig()
	c.User = cmp.Or(u.User.Username(), file["user"], os.Getenv("USER"), "root")
	password, given := u.User.Password()
	if c.Passwd = password; !given {
		c.Passwd = cmp.Or(os.Getenv("MYSQL_PWD"), file["password"])
	}
	c.DBName = strings.TrimPrefix(u.Path, "/")
	host := u.Hostname()
	socket := u.Query().Get("socket")
	if host == "" && socket == "" {
		socket = cmp.Or(os.Getenv("MYSQL_UNIX_PORT"), file["socket"])
		host = cmp.Or(os.Getenv("MYSQL_HOST"), file["host"], "127.0.0.1")
	}
	c.Net, c.Addr = "tcp", net.JoinHostPort(host, cmp.Or(u.Port(), os.Getenv("MYSQL_TCP_PORT"), file["port"], "3306"))
	if socket != "" {
		c.Net, c.Addr = "unix", socket
	}
	c.Timeout = 10 * time.Second
	c.Collation = "utf8mb4_general_ci"
	c.InterpolateParams = true // one trip for each statement
	_, one := f.Several(nil)
	c.MultiStatements = !one
	return c, nil
}

// optionFile reads the client's settings; a file that is not there holds none.
func optionFile() map[string]string {
	found := map[string]string{}
	home, err := os.UserHomeDir()
	if err != nil {
		return found
	}
	f, err := os.Open(filepath.Join(home, ".my.cnf"))
	if err != nil {
		return found
	}
	defer f.Close()
	ours := false
	for lines := bufio.NewScanner(f); lines.Scan(); {
		line := strings.TrimSpace(lines.Text())
		switch {
		case line == "" || line[0] == '#' || line[0] == ';' || line[0] == '!':
		case line[0] == '[':
			ours = line == "[client]" || line == "[client-server]" || line == "[client-mariadb]" || line == "[mysql]"
		case ours:
			name, value, _ := strings.Cut(line, "=")
			found[strings.TrimSpace(name)] = strings.Trim(strings.TrimSpace(value), `"'`)
		}
	}
	return found
}
