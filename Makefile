# Nexdal: make demo builds the program and walks the whole job; make test
# installs what is missing and passes all tests.

COMMIT := $(shell git rev-parse --short=12 HEAD 2>/dev/null)$(shell git diff --quiet HEAD 2>/dev/null || echo .dirty)
LDFLAGS := -s -w -X nexdal/internal/cli.Commit=$(COMMIT)
STATICCHECK := honnef.co/go/tools/cmd/staticcheck@v0.8.2

.PHONY: build release demo test test-versions lint mutants bench bench-evidence fit-evidence profile docs screenshots clean need-test need-screenshots

# Program and tests are compiled alike, so that no package is compiled twice.
export CGO_ENABLED := 0
export GOFLAGS := $(GOFLAGS) -trimpath '-pgo=$(CURDIR)/cmd/nexdal/default.pgo'

build:
	go build -ldflags '$(LDFLAGS)' -o bin/nexdal ./cmd/nexdal

# Archives for every system in dist/: the program, completions, manual pages, documents.
TARGETS := linux/amd64,linux/arm64,darwin/amd64,darwin/arm64,windows/amd64,windows/arm64
release:
	go run ./release -o dist -targets $(TARGETS) -commit $(COMMIT)

demo: build
	./bin/nexdal demo

# go test runs the built program and real servers. Garbage is collected less often than by default:
# there is memory enough, and it saves the Go parts a fifth of their time.
test: export GOGC = 400
test: export NEXDAL_PROGRAM = $(CURDIR)/bin/nexdal
test: need-test build
	@test -z "$$(gofmt -l cmd demo internal release test)" || { echo "gofmt would change:"; gofmt -l cmd demo internal release test; exit 1; }
	go vet ./...
	go test -vet=off -count=1 -timeout 20m -parallel 4 ./test ./test/rulecheck ./... # the longest first, whose tests wait for servers; vetted above
	test/versions/run -few 12 18

# The tests that a PostgreSQL takes part in, on every version that is served: half an hour.
test-versions: need-test build
	test/versions/run 12 13 14 16 17 18

lint:
	@test -z "$$(gofmt -l cmd demo internal release test)" || { gofmt -l cmd demo internal release test; exit 1; }
	go vet ./...
	go run $(STATICCHECK) ./...

# How many deliberate faults in the core the core's own tests notice: some twenty
# minutes a package. mutants PACKAGES=change is for one.
mutants:
	test/mutants/run $(PACKAGES)

bench: need-test build
	@test/need graphviz:dot
	go run ./test/bench

# How many of the references and keys of databases of many styles are found
# again once nothing declares them: of the agency that is listed and of larger ones
# made up with traps, with the primary keys and without, half declared, by samples; and
# how sure the program was of them.
bench-evidence: need-test build
	go run ./test/evidence
	go run ./test/evidence -keyless
	go run ./test/evidence -tables 60
	go run ./test/evidence -tables 60 -keyless
	go run ./test/evidence -tables 60 -declared 50
	go run ./test/evidence -tables 30 -full=false
	go run ./test/evidence -practice

# Fits the weights by which references are told from coincidences, on other databases
# than those that are measured, and writes them into the program.
fit-evidence: need-test
	go run ./test/evidence -fit internal/evidence/weights.go
	gofmt -w internal/evidence/weights.go

# What the program spends its time on, for the compiler; make it anew when the
# hot paths have changed.
profile: need-test
	go build -pgo=off -o /tmp/nexdal-profile ./test/profile
	/tmp/nexdal-profile cmd/nexdal/default.pgo
	rm /tmp/nexdal-profile

# The reference of the rules, from the texts in the rules.
docs: build
	go test ./internal/catalog ./internal/evidence ./internal/report ./internal/settings ./internal/run -run 'TestSchema$$' -update
	go test ./internal/engine/all -run 'TestEachIsWrittenOrRefused$$' -update
	./bin/nexdal settings --format schema > docs/settings.schema.json
	for area in $$(./bin/nexdal rules | grep -o '^ *[a-z]*/' | sed 's|/.*||' | tr -d ' ' | sort -u); do ./bin/nexdal rules "$$area/*" --format markdown > docs/rules/$$area.md; done

screenshots: need-screenshots build
	docs/screenshots/make

# What the tests and pictures need, as Debian packages: psql and a PostgreSQL
# server, sqlite3; a terminal window and a way to take its picture.
need-test:
	@test/mysqlserver/build >/dev/null
	@test/need postgresql:psql sqlite3:sqlite3 postgresql:/usr/lib/postgresql mariadb-server:mariadbd firebird3.0-server:/usr/sbin/firebird firebird3.0-utils:isql-fb chromium:chromium

need-screenshots: need-test
	@test/need xterm:xterm xvfb:Xvfb imagemagick:import fonts-dejavu-core:/usr/share/fonts/truetype/dejavu/DejaVuSansMono.ttf

clean:
	rm -rf bin dist saltmere-demo
