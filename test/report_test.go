package test

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// visit opens a page in a browser without a window, with a script that acts as a reader
// would added behind it, and returns what the script found and what the browser said.
func visit(t *testing.T, page, script string) (found map[string]any, said string) {
	t.Helper()
	chromium, err := exec.LookPath("chromium")
	if err != nil {
		if os.Getenv("CI") == "true" {
			t.Fatal(err)
		}
		t.Skip(err)
	}
	folder := t.TempDir()
	copied := filepath.Join(folder, "page.html")
	write(t, copied, strings.Replace(read(t, page), "</body>", `<script>
const said = [];
addEventListener('error', e => said.push(e.message));
const wait = ms => new Promise(r => setTimeout(r, ms));
const all = s => [...document.querySelectorAll(s)];
const put = (id, v) => { const e = document.getElementById(id); e.value = v; e.dispatchEvent(new Event('input')); e.dispatchEvent(new Event('change')); };
const go = async h => { location.hash = h; await wait(30); };
(async () => { const found = {}; try { `+script+` } catch (e) { said.push(String(e)); }
found.said = said; found.requests = performance.getEntriesByType('resource').map(r => r.name);
const out = document.createElement('pre'); out.id = 'found'; out.textContent = JSON.stringify(found); document.body.append(out); })();
</script></body>`, 1))
	c := exec.Command(chromium, "--headless", "--no-sandbox", "--disable-gpu", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync",
		"--user-data-dir="+filepath.Join(folder, "profile"), "--enable-logging=stderr", "--window-size=1280,800", "--virtual-time-budget=6000", "--dump-dom", "file://"+copied)
	var errors strings.Builder
	c.Stderr = &errors
	out, err := c.Output()
	if err != nil {
		t.Fatalf("chromium: %v: %s", err, errors.String())
	}
	m := regexp.MustCompile(`(?s)<pre id="found">(.*?)</pre>`).FindStringSubmatch(string(out))
	if m == nil {
		t.Fatalf("the page's script did not end: %s", errors.String())
	}
	text := strings.NewReplacer("&lt;", "<", "&gt;", ">", "&amp;", "&").Replace(m[1])
	if err := json.Unmarshal([]byte(text), &found); err != nil {
		t.Fatalf("%v: %s", err, text)
	}
	return found, strings.Join(regexp.MustCompile(`(?m)^.*CONSOLE.*$`).FindAllString(errors.String(), -1), "\n")
}

// TestReport drives the page as a reader does: filter, search, open a table, copy a fix,
// find a table on the diagram, by mouse and keyboard, in light and dark.
func TestReport(t *testing.T) {
	t.Parallel()
	folder := demoFolder(t)
	must(t, folder, "report", "saltmere.json", "--evidence", "evidence.json", "--settings", "nexdal.yaml", "--decisions", "decisions.yaml", "-o", "a.html")
	must(t, folder, "report", "saltmere.json", "--evidence", "evidence.json", "--settings", "nexdal.yaml", "--decisions", "decisions.yaml", "-o", "b.html")
	if read(t, filepath.Join(folder, "a.html")) != read(t, filepath.Join(folder, "b.html")) {
		t.Error("the same input gives other bytes")
	}
	found, said := visit(t, filepath.Join(folder, "a.html"), `
found.heading = document.querySelector('h1').textContent; found.first = all('ol.first li').length;
found.lang = document.documentElement.lang; found.headings = all('h1').length;
await go('#/findings'); found.all = all('.finding').length;
put('by-severity', 'error'); found.errors = all('.finding').length; found.onlyErrors = all('.finding').every(f => f.querySelector('.sev.error'));
put('by-severity', ''); put('by-text', 'no index starts'); found.text = all('.finding').length;
put('by-text', ''); put('by-area', 'fk'); found.area = all('.finding').every(f => f.dataset.rule.startsWith('fk/'));
put('by-area', ''); put('by-table', 'visit'); put('by-group', 'rule'); found.groups = all('main h2').length;
const d = all('.finding details').find(d => d.querySelector('pre')); d.open = true; found.sql = d.querySelector('pre').textContent;
let copied = ''; navigator.clipboard && (navigator.clipboard.writeText = async t => { copied = t; });
d.querySelector('button.copy').click(); await wait(30); found.copied = copied === found.sql || d.querySelector('button.copy').textContent;
await go('#/tables'); found.tables = all('tbody tr').length; put('by-name', 'station'); found.named = all('tbody tr').length;
all('tbody a').find(a => a.textContent.endsWith('.station')).click(); await wait(30); found.opened = document.querySelector('h1').textContent; found.columns = all('main h2').some(h => h.textContent === 'Columns'); found.piece = all('.sheet g.t').length;
await go('#/diagram'); found.boxes = all('.sheet.big g.t').length; found.whole = document.querySelector('.sheet.big svg').getAttribute('viewBox');
all('button').find(b => b.textContent === 'Larger').click(); found.zoomed = document.querySelector('.sheet.big svg').getAttribute('viewBox');
put('find', 'gauge'); found.found = document.querySelector('g.found').dataset.id;
document.querySelector('g.found').dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter'})); await wait(30); found.byKey = document.querySelector('h1').textContent;
await go('#/indexes'); found.bars = all('.bars .bar').length;
document.getElementById('theme').click(); found.theme = document.documentElement.dataset.theme;
const lum = c => { const v = c.match(/[\d.]+/g).slice(0, 3).map(x => { x /= 255; return x <= 0.03928 ? x / 12.92 : ((x + 0.055) / 1.055) ** 2.4; }); return 0.2126 * v[0] + 0.7152 * v[1] + 0.0722 * v[2]; };
const contrast = (e, on) => { const a = lum(getComputedStyle(e).color), b = lum(getComputedStyle(on).backgroundColor); return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05); };
found.contrast = [];
for (const hash of ['#/', '#/findings']) for (const dark of [0, 1]) { await go(hash); for (const e of all('main .faint, main .sev, main a, main p').slice(0, 60)) { const on = e.closest('.sev') || document.body; const c = contrast(e, on); if (c < 4.5) found.contrast.push(e.className + ' ' + c.toFixed(2)); } document.getElementById('theme').click(); }
found.unlabelled = 0; for (const hash of ['#/findings', '#/tables', '#/diagram']) { await go(hash); found.unlabelled += all('input, select').filter(e => !e.closest('label')).length; }
found.narrow = document.documentElement.scrollWidth <= innerWidth + 1;`)
	t.Log(found)
	for name, want := range map[string]any{"heading": "Summary", "lang": "en", "headings": 1.0, "onlyErrors": true, "area": true, "copied": true, "opened": "main.station", "columns": true, "found": "main.gauge", "byKey": "main.gauge", "theme": "dark", "unlabelled": 0.0, "narrow": true} {
		if name == "theme" {
			continue // it follows the machine's wish, and is turned round
		}
		if found[name] != want {
			t.Errorf("%s: %v, not %v", name, found[name], want)
		}
	}
	number := func(name string) float64 { n, _ := found[name].(float64); return n }
	if number("first") != 10 || number("errors") == 0 || number("errors") >= number("all") || number("text") == 0 || number("named") == 0 || number("named") >= number("tables") || number("boxes") != number("tables") || number("bars") == 0 || number("piece") < 3 || number("groups") == 0 {
		t.Errorf("%v", found)
	}
	if found["whole"] == found["zoomed"] || !regexp.MustCompile(`(?i)create|alter`).MatchString(fmt.Sprint(found["sql"])) {
		t.Errorf("%v", found)
	}
	for _, name := range []string{"said", "requests", "contrast"} {
		if list, _ := found[name].([]any); len(list) > 0 {
			t.Errorf("%s: %v", name, list)
		}
	}
	if said != "" {
		t.Errorf("the browser said: %s", said)
	}
	must(t, folder, "report", "saltmere.json", "-o", "a.md")
	match(t, "the wiki's page", read(t, filepath.Join(folder, "a.md")), `(?s)# saltmere.*## What to do first.*## Findings.*## Tables.*### main.station`)
}

// TestReportHostile: names that look like markup stay text, in the page and the diagram.
func TestReportHostile(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	db := filepath.Join(folder, "a.db")
	evil := `</script><img src=x onerror="document.title='broken'"> ${1} <b>`
	sqlite(t, db, fmt.Sprintf(`CREATE TABLE %[1]s (id INTEGER PRIMARY KEY, %[1]s TEXT DEFAULT '<i>x</i>'); CREATE TABLE child (id INTEGER PRIMARY KEY, %[2]s INTEGER REFERENCES %[1]s (id)); CREATE INDEX %[3]s ON child (%[2]s); CREATE INDEX again ON child (%[2]s)`,
		quoted(evil), quoted(evil+"2"), quoted(evil+"3")))
	must(t, folder, "report", "a.db", "-o", "a.html")
	found, said := visit(t, filepath.Join(folder, "a.html"), `
for (const h of ['#/', '#/findings', '#/tables', '#/diagram', '#/indexes', '#/table/' + encodeURIComponent(JSON.parse(document.getElementById('data').textContent).tables[0].id)]) await go(h);
found.title = document.title; found.images = all('img, b.evil, i.evil').length; found.shown = document.querySelector('h1').textContent;`)
	if found["images"] != 0.0 || found["title"] == "broken" || !strings.Contains(fmt.Sprint(found["shown"]), "<img") || said != "" {
		t.Errorf("%v %s", found, said)
	}
	must(t, folder, "draw", "a.db", "-o", "a.svg")
	if svg := read(t, filepath.Join(folder, "a.svg")); strings.Contains(svg, "<img") || !strings.Contains(svg, "&lt;/script&gt;") {
		t.Error("a name is markup in the diagram")
	}
}

// TestDraw: what is asked for is on the sheet, in every form, and what cannot be is said.
func TestDraw(t *testing.T) {
	t.Parallel()
	folder := demoFolder(t)
	write(t, filepath.Join(folder, "own.yaml"), "format: 1\nscopes: {visits: ['visit*', station], empty: ['nothing*']}\n")
	for _, x := range []struct{ args, file, says, holds string }{
		{"saltmere.json -o a.svg", "a.svg", "47 tables|tables", `class="table" data-table="main.station"`},
		{"saltmere.json --evidence evidence.json -o b.svg", "b.svg", "", `stroke-dasharray="5 4"`},
		{"saltmere.json --around visit --steps 1 --content keys -o c.svg", "c.svg", `\d tables`, `data-table="main.visit_task"`},
		{"saltmere.json --scope visits --settings own.yaml -o d.svg", "d.svg", `\d tables`, `data-table="main.station"`},
		{"saltmere.json --shade size --theme dark -o e.svg", "e.svg", "", "up to 1,000 rows"},
		{"saltmere.json --shade schema --notation arrows -o f.svg", "f.svg", "", "main"},
		{"saltmere.json --where table.rows>1000 -o g.svg", "g.svg", "", "table.rows&gt;1000"},
		{"saltmere.json station gauge -o h.dot", "h.dot", "2 tables", `"main.station":r\d+:e -> "main.gauge":r`},
		{"saltmere.json station gauge -o i.mmd", "i.mmd", "2 tables", `main_station .*--o\{ main_gauge`},
		{"saltmere.json --sheet 10 -o j.svg", "j.svg", `on \d+ sheets, and an index`, `href="j.1.svg"`},
		{"saltmere.json -o k.png", "k.png", "", "^.PNG"},
	} {
		r := nexdal(t, folder, append([]string{"draw"}, strings.Fields(x.args)...)...)
		if r.status != 0 {
			t.Errorf("%s: status %d: %s", x.args, r.status, r.err)
			continue
		}
		match(t, x.args, r.err, x.says)
		match(t, x.args, read(t, filepath.Join(folder, x.file)), x.holds)
	}
	for _, x := range []struct{ args, says string }{
		{"saltmere.json -o a.gif", "ends in .svg, .png, .dot or .mmd"},
		{"saltmere.json", "ends in .svg"},
		{"saltmere.json nothing* -o a.svg", "no table fits \"nothing\\*\""},
		{"saltmere.json --around nothing -o a.svg", "there is no table nothing"},
		{"saltmere.json --scope other --settings own.yaml -o a.svg", "no scope \"other\""},
		{"saltmere.json --scope empty --settings own.yaml -o a.svg", "nothing to draw"},
		{"saltmere.json --where table.nothing -o a.svg", "--where"},
		{"saltmere.json --content all -o a.svg", "--content takes"},
		{"saltmere.json --scale 0 -o a.png", "--scale"},
	} {
		r := nexdal(t, folder, append([]string{"draw"}, strings.Fields(x.args)...)...)
		if r.status != 2 {
			t.Errorf("%s: status %d", x.args, r.status)
		}
		match(t, x.args, r.err, x.says)
	}
}
