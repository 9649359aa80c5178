package test

import (
	"encoding/json"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"nexdal/test/server"
)

// quayside is a sound structure in the ways of many houses, with rows: whatever in it looks like a
// reference, a key or a code is either declared or none.
var quayside = []struct {
	name, columns string
	rows          int
	row           func(i int) []any
}{
	{"harbour", "id {id}, code varchar(8) NOT NULL UNIQUE, name varchar(60) NOT NULL UNIQUE, old_id integer NOT NULL UNIQUE, hull_limit integer NOT NULL, created_at {at} NOT NULL", 40,
		func(i int) []any { return []any{i, code("H", i), code("Harbour ", i*7), 41 - i, 5 + i%9, at(i)} }},
	{"boat", "id {id}, harbour_id {ref} NOT NULL REFERENCES harbour (id), mmsi integer NOT NULL UNIQUE, berth_no integer NOT NULL, deck integer NOT NULL, position integer NOT NULL, main integer NOT NULL CHECK (main IN (0, 1)), captain varchar(40), home varchar(40) NOT NULL, UNIQUE (harbour_id, berth_no), UNIQUE (harbour_id, position)", 300,
		func(i int) []any {
			return []any{i, 1 + i*7%40, 235_000_000 + i*37, 1 + i/40, 1 + i%4, 20 - i/40, i % 2, person(i), code("Bay ", i%30)}
		}},
	{"boat_log", "id {id}, boat_id {ref} NOT NULL REFERENCES boat (id), entry_no integer NOT NULL, page integer NOT NULL, level integer NOT NULL, weight integer NOT NULL, status varchar(12) NOT NULL CHECK (status IN ('open', 'closed', 'void')), batch_id integer NOT NULL, thread_id integer NOT NULL, UNIQUE (boat_id, entry_no)", 3000,
		func(i int) []any {
			return []any{i, 1 + i*11%300, 1 + i/300, 1 + i%250, i % 7, 100 + i*13%900, oneOf(i, "open", "closed", "void"), 7000 + i/10, 1 + i%16}
		}},
	{"auth_group", "id {id}, name varchar(40) NOT NULL UNIQUE", 6, func(i int) []any { return []any{i, code("Group ", i)} }},
	{"auth_user", "id {id}, login varchar(40) NOT NULL UNIQUE, email varchar(80) NOT NULL UNIQUE, active integer NOT NULL CHECK (active IN (0, 1)), logins integer NOT NULL, joined_at {at} NOT NULL", 120,
		func(i int) []any {
			return []any{i, code("user", i), code("post", i*3) + "@quay.example", i % 2, i * 3 % 50, at(i)}
		}},
	{"auth_user_group", "id {id}, user_id {ref} NOT NULL REFERENCES auth_user (id), group_id {ref} NOT NULL REFERENCES auth_group (id), UNIQUE (user_id, group_id)", 200,
		func(i int) []any { return []any{i, 1 + i%120, 1 + (i/120+i*5)%6} }},
	{"user_profile", "user_id {ref} NOT NULL PRIMARY KEY REFERENCES auth_user (id), bio varchar(200), font_size integer NOT NULL", 80, func(i int) []any { return []any{i, nil, 8 + i%9} }},
	{"content_kind", "id {id}, app varchar(20) NOT NULL, model varchar(20) NOT NULL, UNIQUE (app, model)", 12, func(i int) []any { return []any{i, code("app", i%3), code("model", i)} }},
	{"activity", "id {id}, kind_id {ref} NOT NULL REFERENCES content_kind (id), object_id {ref} NOT NULL, user_id {ref} NOT NULL REFERENCES auth_user (id), done_at {at} NOT NULL, duration_ms integer NOT NULL", 1500,
		func(i int) []any { return []any{i, 1 + i%12, 1 + i*17%290, 1 + i*7%120, at(i), i * 31 % 5000} }},
	{"remark", "id {id}, remarkable_type varchar(20) NOT NULL CHECK (remarkable_type IN ('Boat', 'Harbour', 'Place')), remarkable_id {ref} NOT NULL, body varchar(200) NOT NULL", 400,
		func(i int) []any {
			return []any{i, oneOf(i, "Boat", "Harbour", "Place"), 1 + i*3%40, "seen " + code("by ", i*i)}
		}},
	{"place", "id {id}, parent_id {ref} REFERENCES place (id), lft integer NOT NULL UNIQUE, rgt integer NOT NULL UNIQUE, depth integer NOT NULL, path varchar(80) NOT NULL UNIQUE", 90,
		func(i int) []any {
			parent := any(nil)
			if i > 1 {
				parent = i / 2
			}
			return []any{i, parent, 2*i - 1, 2 * i, len(fmt.Sprintf("%b", i)), fmt.Sprintf("/%b", i)}
		}},
	{"place_path", "ancestor_id {ref} NOT NULL REFERENCES place (id), descendant_id {ref} NOT NULL REFERENCES place (id), depth integer NOT NULL, PRIMARY KEY (ancestor_id, descendant_id)", 176,
		func(i int) []any {
			if i > 89 {
				return []any{(i - 86) / 4, i - 86, 2}
			}
			return []any{(i + 1) / 2, i + 1, 1}
		}},
	{"calendar_day", "date_key integer NOT NULL PRIMARY KEY, the_day {day} NOT NULL UNIQUE, year_no integer NOT NULL, month_no integer NOT NULL, weekday integer NOT NULL CHECK (weekday BETWEEN 1 AND 7)", 360,
		func(i int) []any { return []any{dayKey(i), day(i), 2024, int(date(i).Month()), 1 + i%7} }},
	{"tide_fact", "id {id}, date_key integer NOT NULL REFERENCES calendar_day (date_key), harbour_id {ref} NOT NULL REFERENCES harbour (id), high_cm integer NOT NULL, low_cm integer NOT NULL, tide_no integer NOT NULL, UNIQUE (harbour_id, date_key, tide_no)", 2000,
		func(i int) []any {
			return []any{i, dayKey(1 + i/40%360), 1 + i%40, 200 + i*7%300, i * 3 % 90, 1 + i/14400}
		}},
	{"language", "code char(2) NOT NULL PRIMARY KEY, name varchar(40) NOT NULL UNIQUE", 5, func(i int) []any { return []any{lang(i), "Language " + lang(i)} }},
	{"harbour_text", "harbour_id {ref} NOT NULL REFERENCES harbour (id), lang char(2) NOT NULL REFERENCES language (code), title varchar(60) NOT NULL, PRIMARY KEY (harbour_id, lang)", 120,
		func(i int) []any { return []any{1 + (i-1)%40, lang(1 + (i-1)/40), "Title " + fmt.Sprint(i)} }},
	{"outbox", "id {id}, topic varchar(30) NOT NULL, payload text NOT NULL, attempts integer NOT NULL, http_status integer, available_at {at} NOT NULL, locked_by varchar(40)", 500,
		func(i int) []any {
			return []any{i, code("topic.", i%25), "{}" + fmt.Sprint(i), i % 4, oneNumber(i, 200, 404, 500), at(i), nil}
		}},
	{"currency", "code char(3) NOT NULL PRIMARY KEY, digits integer NOT NULL CHECK (digits BETWEEN 0 AND 4)", 4, func(i int) []any { return []any{money(i), i % 3} }},
	{"product", "code varchar(10) NOT NULL PRIMARY KEY, name varchar(40) NOT NULL UNIQUE, price numeric(10,2) NOT NULL, currency char(3) NOT NULL REFERENCES currency (code), shelf integer NOT NULL, ean varchar(13) UNIQUE NOT NULL", 150,
		func(i int) []any {
			return []any{code("P", i), code("Rope ", i), fmt.Sprintf("%d.%02d", i, i%100), money(1 + i%4), 1 + i%25, fmt.Sprintf("40%011d", i*97)}
		}},
	{"price_history", "product_code varchar(10) NOT NULL REFERENCES product (code), valid_from {day} NOT NULL, price numeric(10,2) NOT NULL, PRIMARY KEY (product_code, valid_from)", 450,
		func(i int) []any {
			return []any{code("P", 1+(i-1)%150), day(1 + (i-1)/150*30), fmt.Sprintf("%d.%02d", i%90, i%100)}
		}},
	{"invoice", "id {id}, invoice_no integer NOT NULL UNIQUE, year_no integer NOT NULL, customer_no varchar(12) NOT NULL, vat_id varchar(14), user_id {ref} NOT NULL REFERENCES auth_user (id), currency char(3) NOT NULL REFERENCES currency (code)", 400,
		func(i int) []any {
			return []any{i, 100_000 + i, 2020 + i%5, fmt.Sprintf("C%06d", i*7919%900), nil, 1 + i*13%120, money(1 + i*i%4)}
		}},
	{"invoice_line", "invoice_id {ref} NOT NULL REFERENCES invoice (id), line_no integer NOT NULL, product_code varchar(10) NOT NULL REFERENCES product (code), quantity integer NOT NULL CHECK (quantity > 0), unit_price numeric(10,2) NOT NULL, PRIMARY KEY (invoice_id, line_no)", 1600,
		func(i int) []any {
			return []any{1 + (i-1)%400, 1 + (i-1)/400, code("P", 1+i*31%150), 1 + i%12, fmt.Sprintf("%d.%02d", i%70, i%100)}
		}},
	{"harbour_audit", "audit_id {id}, id {ref} NOT NULL, code varchar(8) NOT NULL, operation char(1) NOT NULL CHECK (operation IN ('I', 'U', 'D')), changed_at {at} NOT NULL, by_login varchar(40) NOT NULL", 600,
		func(i int) []any {
			return []any{i, 1 + i*7%60, code("H", 1+i*7%60), oneOf(i, "I", "U", "D"), at(i), code("admin", i%40)}
		}},
	{"setting", "name varchar(60) NOT NULL PRIMARY KEY, value varchar(200)", 30, func(i int) []any { return []any{code("quay.option.", i), fmt.Sprint(i)} }},
	{"web_session", "id char(32) NOT NULL PRIMARY KEY, user_id {ref} REFERENCES auth_user (id), seen_at {at} NOT NULL, port integer NOT NULL", 250,
		func(i int) []any { return []any{hex(i), either(i, nil, 1+i%120), at(i), 1024 + i*37%60000} }},
	{"web_request", "id {id}, request_id char(36) NOT NULL UNIQUE, session_id char(32) NOT NULL, node_id integer NOT NULL, pid integer NOT NULL, url varchar(200) NOT NULL, took_ms integer NOT NULL, bytes_sent integer NOT NULL", 2500,
		func(i int) []any {
			return []any{i, guid(i), hex(1 + i*3%600), 1 + i%4, 300 + i*7%3000, "/quay/" + fmt.Sprint(i%90), i * 17 % 900, i * 101 % 90000}
		}},
	{"sensor", "id {id}, serial varchar(20) NOT NULL UNIQUE, bus integer NOT NULL, address integer NOT NULL, channel integer NOT NULL, firmware varchar(12) NOT NULL, calibrated_at {at}, UNIQUE (bus, address)", 64,
		func(i int) []any {
			return []any{i, fmt.Sprintf("SN-%06d", i*7919), 1 + i%4, 1 + i/4, 1 + i%8, fmt.Sprintf("1.%d.0", i%3), at(i)}
		}},
	{"sensor_reading", "sensor_id {ref} NOT NULL REFERENCES sensor (id), taken_at {at} NOT NULL, reading numeric(8,3) NOT NULL, quality integer NOT NULL CHECK (quality BETWEEN 0 AND 9), PRIMARY KEY (sensor_id, taken_at)", 4000,
		func(i int) []any {
			return []any{1 + (i-1)%64, at((i - 1) / 64), fmt.Sprintf("%d.%03d", i%400, i%1000), i % 10}
		}},
	{"rate_version", "rate_no integer NOT NULL, version integer NOT NULL, percent integer NOT NULL, partner_id integer NOT NULL, PRIMARY KEY (rate_no, version)", 120,
		func(i int) []any { return []any{1 + (i-1)%40, 1 + (i-1)/40, i % 30, 50_000 + i*7919%9000} }},
	{"shift_plan", "id {id}, year_no integer NOT NULL, week_no integer NOT NULL, weekday integer NOT NULL CHECK (weekday BETWEEN 1 AND 7), shift_no integer NOT NULL, user_id {ref} NOT NULL REFERENCES auth_user (id), UNIQUE (year_no, week_no, weekday, shift_no)", 728,
		func(i int) []any { i--; return []any{i + 1, 2024, 1 + i/14, 1 + i/2%7, 1 + i%2, 1 + i*7%120} }},
	{"chart_tile", "zoom integer NOT NULL, x integer NOT NULL, y integer NOT NULL, checksum char(40) NOT NULL, color char(6) NOT NULL, PRIMARY KEY (zoom, x, y)", 400,
		func(i int) []any {
			i--
			return []any{9, i % 20, i / 20, hex(i) + "00000000", fmt.Sprintf("%06x", i%40*99)}
		}},
	{"form_answer", "id {id}, user_id {ref} NOT NULL REFERENCES auth_user (id), question_no integer NOT NULL, answer integer NOT NULL, seconds integer NOT NULL, UNIQUE (user_id, question_no)", 1200,
		func(i int) []any { return []any{i, 1 + (i-1)%120, 1 + (i-1)/120, 1 + i*3%5, 2 + i*7%90} }},
	{"mail_out", "id {id}, sender varchar(80) NOT NULL, recipient varchar(80) NOT NULL, subject varchar(80) NOT NULL, postcode varchar(8), city varchar(40), retries integer NOT NULL, error_code integer", 700,
		func(i int) []any {
			return []any{i, "no-reply@quay.example", code("guest", i%90) + "@bay.example", "Tide " + fmt.Sprint(i%300), fmt.Sprintf("%05d", 10000+i*37%700), code("Town ", i%60), i % 3, either(i, nil, 421+i%30)}
		}},
}

func code(prefix string, i int) string { return fmt.Sprintf("%s%03d", prefix, i) }
func at(i int) string {
	return fmt.Sprintf("2024-%02d-%02d %02d:%02d:%02d", 1+i/28/24%12, 1+i/24%28, i%24, i*7%60, i*13%60)
}
func date(i int) time.Time { return time.Date(2024, 1, i, 0, 0, 0, 0, time.UTC) }
func day(i int) string     { return date(i).Format(time.DateOnly) }
func dayKey(i int) string  { return date(i).Format("20060102") }
func person(i int) string  { return fmt.Sprintf("Keeper %c%c %d", 'A'+i%26, 'a'+i*7%26, i*7919%997) }
func hex(i int) string     { return fmt.Sprintf("%032x", uint64(i)*0x9E3779B97F4A7C15) }
func guid(i int) string {
	h := hex(i*31 + 7)
	return h[16:24] + "-" + h[24:28] + "-4" + h[29:32] + "-8" + h[25:28] + "-" + h[20:32]
}
func oneOf(i int, of ...string) string { return of[i*7%len(of)] }
func oneNumber(i int, of ...int) any   { return of[i*7%len(of)] }
func either(i int, of ...any) any      { return of[i%len(of)] }
func lang(i int) string                { return []string{"", "de", "en", "fr", "nl", "da"}[i] }
func money(i int) string               { return []string{"", "EUR", "GBP", "DKK", "NOK"}[i] }

// quaysideScript is the structure and its rows for an engine, with its references declared or not,
// and what refers to what.
func quaysideScript(engine string, declared bool) (script string, references []string) {
	as := map[string][]string{
		"sqlite":   {"{id}", "integer PRIMARY KEY", "{ref}", "integer", "{at}", "datetime", "{day}", "date"},
		"postgres": {"{id}", "bigint GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY", "{ref}", "bigint", "{at}", "timestamptz", "{day}", "date"},
		"mariadb":  {"{id}", "bigint NOT NULL AUTO_INCREMENT PRIMARY KEY", "{ref}", "bigint", "{at}", "datetime", "{day}", "date"},
	}[engine]
	var b, after strings.Builder
	for _, t := range quayside {
		columns := t.columns
		for _, c := range strings.Split(t.columns, ", ") {
			name, _, _ := strings.Cut(c, " ")
			from := strings.Index(c, " REFERENCES")
			if from < 0 {
				continue
			}
			references = append(references, t.name+" ("+name+") to "+strings.TrimPrefix(c[from:], " REFERENCES "))
			columns = strings.Replace(columns, c[from:], "", 1)
			if declared { // beside the columns: what stands at one MariaDB reads and forgets
				columns += ", FOREIGN KEY (" + name + ")" + c[from:]
			}
			if leads := strings.Contains(c, "PRIMARY KEY") || strings.Contains(t.columns, "KEY ("+name+",") || strings.Contains(t.columns, "UNIQUE ("+name+","); !leads {
				fmt.Fprintf(&after, "CREATE INDEX %s_%s_idx ON %s (%s);\n", t.name, name, t.name, name)
			}
		}
		fmt.Fprintf(&b, "CREATE TABLE %s (%s);\n", t.name, strings.NewReplacer(as...).Replace(columns))
		for from := 1; from <= t.rows; from += 500 {
			fmt.Fprintf(&b, "INSERT INTO %s VALUES\n", t.name)
			for i := from; i < min(from+500, t.rows+1); i++ {
				values := make([]string, len(t.row(i)))
				for j, v := range t.row(i) {
					switch v := v.(type) {
					case nil:
						values[j] = "NULL"
					case string:
						values[j] = "'" + v + "'"
					default:
						values[j] = fmt.Sprint(v)
					}
				}
				fmt.Fprintf(&b, "%s(%s)", map[bool]string{true: "", false: ",\n"}[i == from], strings.Join(values, ", "))
			}
			b.WriteString(";\n")
		}
		if first, _, _ := strings.Cut(columns, " "); engine == "postgres" && strings.Contains(columns, "{id}") {
			fmt.Fprintf(&b, "SELECT setval(pg_get_serial_sequence('%s', '%s'), %d);\n", t.name, first, t.rows)
		}
	}
	slices.Sort(references)
	return b.String() + after.String(), references
}

// TestSoundRows: a sound structure of many houses' ways, with rows, gets no error, no warning and
// no reference; with its foreign keys gone, those are found and no other.
func TestSoundRows(t *testing.T) {
	t.Parallel()
	for engine, open := range map[string]func(*testing.T, string) string{
		"sqlite": func(t *testing.T, sql string) string {
			_, db := build(t, sql)
			return db
		},
		"postgres": func(t *testing.T, sql string) string {
			p := server.StartPostgres(t)
			name := p.Database(t)
			p.Query(t, name, sql+"ANALYZE;\n")
			return p.URL(name)
		},
		"mariadb": func(t *testing.T, sql string) string {
			m := server.StartMariaDB(t)
			name := m.Database(t)
			m.Query(t, name, sql)
			return m.URL(name)
		},
	} {
		t.Run(engine, func(t *testing.T) {
			sql, _ := quaysideScript(engine, true)
			source := open(t, sql)
			file := filepath.Join(t.TempDir(), "e.json")
			must(t, "/", "probe", source, "-o", file)
			for _, f := range findings(t, source, "--evidence", file) {
				if f.Severity != "notice" {
					t.Errorf("%s %s %s %s: %s", f.Severity, f.Rule, f.Table, f.Object, f.Message)
				}
			}
			if found := undeclaredReferences(t, file); len(found) > 0 {
				t.Errorf("made up:\n%s", strings.Join(found, "\n"))
			}
			sql, wanted := quaysideScript(engine, false)
			must(t, "/", "probe", open(t, sql), "-o", file)
			wanted = slices.DeleteFunc(wanted, func(r string) bool { return strings.Contains(r, "(lang)") }) // three values: perhaps one
			if found := undeclaredReferences(t, file); !slices.Equal(found, wanted) {
				t.Errorf("found:\n%s\nwanted:\n%s", strings.Join(found, "\n"), strings.Join(wanted, "\n"))
			}
		})
	}
}

// undeclaredReferences are the references of an evidence file that nothing declares, in order.
func undeclaredReferences(t *testing.T, file string) (all []string) {
	var e struct {
		References []struct {
			Table, Target string
			Columns       []string
			TargetColumns []string `json:"target_columns"`
			Declared      bool
		}
	}
	if err := json.Unmarshal([]byte(read(t, file)), &e); err != nil {
		t.Fatal(err)
	}
	for _, r := range e.References {
		if !r.Declared {
			all = append(all, r.Table+" ("+strings.Join(r.Columns, ", ")+") to "+r.Target+" ("+strings.Join(r.TargetColumns, ", ")+")")
		}
	}
	slices.Sort(all)
	return all
}
