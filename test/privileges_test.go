package test

import (
	"path/filepath"
	"strings"
	"testing"

	"nexdal/test/server"
)

// TestPrivileges: what the server leaves out for want of a privilege is told as not read;
// what it tells in another place is read from there.
func TestPrivileges(t *testing.T) {
	t.Parallel()
	m := server.StartMariaDB(t)
	name, folder := m.Database(t), t.TempDir()
	path := filepath.Join(folder, "build.sql")
	write(t, path, `CREATE TABLE station (station_id int, kind int CHECK (kind > 0), PRIMARY KEY (station_id, kind));
		CREATE TABLE gauge (gauge_id int PRIMARY KEY, station_id int, kind int, CONSTRAINT stands_at FOREIGN KEY (station_id, kind) REFERENCES station (station_id, kind) ON DELETE SET NULL ON UPDATE CASCADE);
		CREATE TRIGGER noted BEFORE INSERT ON station FOR EACH ROW SET NEW.kind = 1; CREATE FUNCTION one() RETURNS int RETURN 1; CREATE EVENT nightly ON SCHEDULE EVERY 1 DAY DISABLE DO DELETE FROM gauge;
		CREATE USER `+name+`_reader@localhost, `+name+`_writer@localhost, `+name+`_holder@localhost; CREATE ROLE `+name+`_role;
		GRANT SELECT ON `+name+`.* TO `+name+`_reader@localhost; GRANT SELECT, INSERT ON `+name+`.* TO `+name+`_writer@localhost;
		GRANT SELECT, TRIGGER, EVENT, EXECUTE ON `+name+`.* TO `+name+`_role; GRANT `+name+`_role TO `+name+`_holder@localhost; SET DEFAULT ROLE `+name+`_role FOR `+name+`_holder@localhost;`)
	if out, err := m.File(name, path); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	must(t, folder, "survey", m.URL(name), "-o", "root.json")
	for _, c := range []struct{ user, differs, unread string }{
		{"reader", "3 added", "triggers events functions"},
		{"writer", "2 added, 1 altered", "triggers events functions"},
		{"holder", "", ""}, // as its role may
	} {
		source := strings.Replace(m.URL(name), "root@", name+"_"+c.user+"@", 1)
		must(t, folder, "survey", source, "-o", c.user+".json")
		out := nexdal(t, folder, "compare", c.user+".json", "root.json").out
		if !strings.Contains(out, c.differs) || strings.Contains(out, "foreign key") || strings.Contains(out, "check ") {
			t.Errorf("%s: %s", c.user, out)
		}
		check, script := nexdal(t, folder, "check", source).out, must(t, folder, "script", "fix", source)
		for _, what := range []string{"triggers", "events", "functions"} {
			_, unread, _ := strings.Cut(check, "\nNot read\n")
			if want := strings.Contains(c.unread, what); strings.Contains(unread, name+"  "+what) != want || strings.Contains(script, "-- unread:     "+name+" "+what) != want {
				t.Errorf("%s, %s not read: %s\n%s", c.user, what, check, script[:min(2000, len(script))])
			}
		}
	}
}
