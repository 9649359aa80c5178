package oracle

import "testing"

// TestNumbering: which triggers do nothing but number a column, and so can go.
func TestNumbering(t *testing.T) {
	const head = "CREATE OR REPLACE TRIGGER raft_numbered BEFORE INSERT ON raft FOR EACH ROW "
	for _, c := range []struct {
		name, text string
		column     string
		from       name
		alone      bool
	}{
		{"assigned", head + "BEGIN :NEW.id := raft_no.NEXTVAL; END;", "ID", name{"SALTMERE", "RAFT_NO"}, true},
		{"selected", head + "BEGIN SELECT raft_no.NEXTVAL INTO :NEW.id FROM dual; END;", "ID", name{"SALTMERE", "RAFT_NO"}, true},
		{"of another account, and quoted", head + `BEGIN :new."Id" := stores."Raft no".nextval; END raft_numbered;`, "Id", name{"STORES", "Raft no"}, true},
		{"where there is none", head + "BEGIN IF :NEW.id IS NULL THEN :NEW.id := raft_no.NEXTVAL; END IF; END;", "ID", name{"SALTMERE", "RAFT_NO"}, true},
		{"when there is none", head + "WHEN (new.id IS NULL) BEGIN :NEW.id := raft_no.NEXTVAL; END;", "ID", name{"SALTMERE", "RAFT_NO"}, true},
		{"for some rows", head + "WHEN (new.kind = 'pier') BEGIN :NEW.id := raft_no.NEXTVAL; END;", "ID", name{"SALTMERE", "RAFT_NO"}, false},
		{"when another is null", head + "WHEN (new.kind IS NULL) BEGIN :NEW.id := raft_no.NEXTVAL; END;", "ID", name{"SALTMERE", "RAFT_NO"}, false},
		{"where another is null", head + "BEGIN IF :NEW.kind IS NULL THEN :NEW.id := raft_no.NEXTVAL; END IF; END;", "ID", name{"SALTMERE", "RAFT_NO"}, false},
		{"where there is one", head + "BEGIN IF :NEW.id IS NOT NULL THEN :NEW.id := raft_no.NEXTVAL; END IF; END;", "ID", name{"SALTMERE", "RAFT_NO"}, false},
		{"and more", head + "BEGIN :NEW.id := raft_no.NEXTVAL; :NEW.seen := SYSDATE; END;", "ID", name{"SALTMERE", "RAFT_NO"}, false},
		{"more first", head + "BEGIN log_it(:NEW.kind); :NEW.id := raft_no.NEXTVAL; END;", "ID", name{"SALTMERE", "RAFT_NO"}, false},
		{"or otherwise", head + "BEGIN IF :NEW.id IS NULL THEN :NEW.id := raft_no.NEXTVAL; ELSE RAISE no_number; END IF; END;", "ID", name{"SALTMERE", "RAFT_NO"}, false},
		{"reckoned", head + "BEGIN :NEW.id := raft_no.NEXTVAL * 10; END;", "", name{}, false},
		{"a variable first", head + "DECLARE n NUMBER; BEGIN :NEW.id := raft_no.NEXTVAL; END;", "ID", name{"SALTMERE", "RAFT_NO"}, false},
		{"in a comment", head + "BEGIN -- :NEW.id := raft_no.NEXTVAL;\n NULL; END;", "", name{}, false},
		{"in a text", head + "BEGIN say(q'[:NEW.id := raft_no.NEXTVAL;]'); END;", "", name{}, false},
		{"the last number", head + "BEGIN :NEW.id := raft_no.CURRVAL; END;", "", name{}, false},
		{"cut off", head + "BEGIN :NEW.id :=", "", name{}, false},
		{"nothing", "", "", name{}, false},
	} {
		found, alone := numbering(meaning(c.text), "SALTMERE")
		if alone != c.alone {
			t.Errorf("%s: it does nothing else: %v", c.name, alone)
		}
		if c.column == "" {
			if len(found) > 0 {
				t.Errorf("%s: found %v", c.name, found)
			}
			continue
		}
		if len(found) != 1 || found[c.column] != c.from {
			t.Errorf("%s: found %v, want %s from %v", c.name, found, c.column, c.from)
		}
	}
}
