# One way of building for running, linting, testing and what ships: a fresh machine compiles
# what Kolvan stands on once, not twice.
export CGO_ENABLED = 0
export GOFLAGS += -trimpath

# demo and test are all a fresh machine needs; the rest is for changing Kolvan.
.PHONY: demo test hard laws mutants lint assets docs notices screenshots figures build release

demo:
	go run ./cmd/kolvan demo

test: chromium
	go test -count 1 -timeout 30m ./...

# What is heavy, ten and more times as often: kills, commands beside a server, mutants, a
# burst. An hour and more; KOLVAN_HARD=0.3 go test … does a share of it.
hard: chromium
	KOLVAN_HARD=1 go test -count 1 -timeout 2h -v -run 'Killed|CommandsWhile|MemoryComesBack|StandsEvery|ManyEdits|NoAddress' ./store ./cmd/kolvan ./web | grep -v '^=== '

# The laws once more with a seed of the day, or RAPID_SEED.
laws:
	@bash .ci/laws

# Small faults, one at a time, drawn by a seed: how many of them the tests notice.
mutants:
	go run ./internal/mutate

# Debian's Chromium, for the browser tests.
.PHONY: chromium
chromium:
	@command -v chromium >/dev/null || test -n "$$KOLVAN_CHROMIUM" || \
	  { sudo=; test "$$(id -u)" = 0 || sudo=sudo; $$sudo apt-get update -qq && DEBIAN_FRONTEND=noninteractive $$sudo apt-get install -y -qq --no-install-recommends chromium; }

lint:
	@files=$$(gofmt -l .); test -z "$$files" || { echo "gofmt: $$files"; exit 1; }
	go vet ./...
	go tool staticcheck ./...

# Fonts, style and scripts, from npm into web/static; committed, so that building
# and running need Go alone.
assets:
	cd web/assets && npm ci --no-audit --no-fund --silent && npm run --silent build

docs:
	go run ./cmd/kolvan rules --markdown > docs/rules.md
	go run ./cmd/kolvan schema > docs/rig.schema.json
	go run ./cmd/kolvan man > docs/kolvan.1

# The licences of all that ships; it reads what npm has put into web/assets.
notices:
	go run ./internal/notices > THIRD_PARTY.made && mv THIRD_PARTY.made THIRD_PARTY.md

screenshots: chromium
	KOLVAN_SCREENSHOTS=1 go test ./web -run TestScreenshots -count 1

# All figures of the README, each by its command, with yardsticks of this machine.
figures:
	bash docs/figures.sh

release:
	bash packaging/release.sh

build:
	go build -ldflags='-s -w -X main.stamped=$(shell git describe --tags --always --dirty 2>/dev/null)' -o bin/kolvan ./cmd/kolvan
