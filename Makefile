# One command starts it (`make demo`), one tests it (`make test`); both install all they need.
SHELL := /bin/bash
.SHELLFLAGS := -eu -o pipefail -c
.DEFAULT_GOAL := help
PY := .venv/bin/python
UV := .venv/bin/uv
PORT ?= 8321
CHROMIUM := /usr/bin/chromium
# The engine compiles once, before two test processes would do it side by side.
WARM := $(PY) -c "from thermaxis.core.physics.warm_up import warm_up; warm_up()"
SUDO := $(shell [ "$$(id -u)" = 0 ] || echo sudo)
export NPM_CONFIG_UPDATE_NOTIFIER := false
# Compiled once, not by each process a test starts.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: help setup demo serve upgrade dev audit attack damaged soak kills mutants test quick lint types core-test web-test browser-test screenshots notices stats lock schema bench clean

help:
	@grep -E '^[a-z-]+:.*##' Makefile | sed -E 's/:[^#]*## /  /'

.stamps/venv: requirements/uv.txt requirements/dev.txt pyproject.toml
	@mkdir -p .stamps
	[ -x $(PY) ] || python3 -m venv .venv
	.venv/bin/pip install --quiet --disable-pip-version-check --require-hashes -r requirements/uv.txt
	$(UV) pip sync --quiet --compile-bytecode --require-hashes requirements/dev.txt
	$(UV) pip install --quiet --no-deps --no-build-isolation -e .
	@touch $@

.stamps/node: web/package-lock.json
	@mkdir -p .stamps
	cd web && npm ci --silent
	@touch $@

.stamps/build: .stamps/node openapi.json web/index.html web/vite.config.ts src/thermaxis/core/data/quantities.json $(shell find web/src -type f 2>/dev/null)
	cd web && npm run --silent types && npm run --silent build
	@touch $@

# The journeys take the shell without a window where there is one; the whole browser does as well.
.stamps/browser:
	@mkdir -p .stamps
	[ -x $(CHROMIUM) -a -x $(CHROMIUM)-headless-shell ] \
	  || { $(SUDO) apt-get update -qq && $(SUDO) apt-get install -y -qq chromium chromium-headless-shell; } \
	  || [ -x $(CHROMIUM) ]
	@touch $@

setup: .stamps/venv .stamps/node .stamps/build ## install everything and build the page

demo: .stamps/venv .stamps/build ## start with the demo data and print the address
	$(PY) -m thermaxis.config.older
	$(PY) manage.py migrate --verbosity 0
	$(PY) manage.py load_demo
	$(PY) manage.py collectstatic --noinput --clear --verbosity 0
	PORT=$(PORT) $(PY) -m thermaxis.demo.serve

serve: .stamps/venv .stamps/build ## serve what is in the database, without demo data and demo sign-in
	$(PY) -m thermaxis.config.commands migrate
	$(PY) manage.py collectstatic --noinput --clear --verbosity 0
	PORT=$(PORT) $(PY) -m thermaxis.config.server

# Installing touches no data; a backup that fails ends it before anything does.
upgrade: .stamps/venv .stamps/build ## with the server stopped: install this version, back up, bring the database to it, look it over
	@var="$${THERMAXIS_VAR:-var}"; [ ! -s "$$var/thermaxis.sqlite3" ] \
	  || $(PY) -m thermaxis.config.commands backup "$$var/before-upgrade-$$(date -u +%Y%m%d-%H%M%S).backup"
	$(PY) -m thermaxis.config.commands migrate
	$(PY) -m thermaxis.config.commands doctor

dev: .stamps/venv .stamps/node ## Django and Vite side by side, both reloading
	$(PY) manage.py migrate --verbosity 0
	$(PY) manage.py load_demo
	(cd web && npm run dev) & vite=$$!; trap 'kill $$vite' EXIT; \
	THERMAXIS_DEBUG=1 THERMAXIS_DEMO_SIGN_IN=1 $(PY) manage.py runserver 127.0.0.1:$(PORT)

test: lint types core-test web-test browser-test ## everything: lint, types, walls, core, API, front end, browser

quick: .stamps/venv .stamps/build ## before each commit: style, types, and the tests nearest to what changed
	$(PY) tools/quick.py

lint: .stamps/venv .stamps/build ## style and import walls
	.venv/bin/ruff check . && .venv/bin/ruff format --check .
	.venv/bin/lint-imports --no-cache
	$(PY) tools/orm_guard.py
	$(PY) tools/prose.py
	cd web && npm run --silent lint

types: .stamps/venv .stamps/build ## mypy strict and tsc
	.venv/bin/mypy
	cd web && npm run --silent typecheck

core-test: .stamps/venv .stamps/build ## core, formats, apps and API
	$(WARM)
	$(PY) -m pytest tests --ignore=tests/browser -q -n 3 --dist worksteal

web-test: .stamps/build ## front-end units
	cd web && npm test --silent

browser-test: .stamps/venv .stamps/build .stamps/browser ## journeys in Chromium
	$(WARM)
	$(PY) -m pytest tests/browser -q -n 3 --dist worksteal

attack: .stamps/venv .stamps/build ## ten minutes of damaged files and odd requests against the served application
	$(PY) -m tests.attack.attack

damaged: .stamps/venv ## ten thousand damaged files of every kind: no error of ours, and what is refused changes nothing
	$(PY) -m tests.attack.damaged

mutants: .stamps/venv .stamps/build ## plant small faults, one at a time, and name those no test finds
	$(WARM)
	$(PY) -m tests.mutants

soak: .stamps/venv .stamps/build ## fifty people at work for five minutes on the served application, four heavy questions beside them
	$(PY) -m tests.attack.soak

kills: .stamps/venv .stamps/build ## two hundred kills in the middle of writes: what was answered is there
	$(PY) -m tests.attack.kills 200

.stamps/audit: requirements/audit.txt .stamps/venv
	python3 -m venv .stamps/audit-venv
	$(UV) pip install --quiet --python .stamps/audit-venv/bin/python --require-hashes -r requirements/audit.txt
	@touch $@

# What could not be asked about ends it as well: not looked up is not clean.
audit: .stamps/audit .stamps/node ## what is built in, against the published lists of weaknesses (before each release, where they can be reached)
	.stamps/audit-venv/bin/pip-audit --strict --require-hashes --disable-pip -r requirements/app.txt
	cd web && npm audit

screenshots: .stamps/venv .stamps/build .stamps/browser ## docs/screenshots from the demo data
	$(PY) -m pytest tests/browser/screenshots.py -q

bench: .stamps/venv .stamps/build .stamps/browser ## engine against a general solver, convergence, what-if in the browser, neighbours
	$(PY) -m benchmarks.engine
	$(PY) -m benchmarks.convergence
	$(PY) -m benchmarks.what_if
	$(PY) -m benchmarks.bedding
	$(PY) -m benchmarks.neighbours

notices: .stamps/venv .stamps/node ## THIRD-PARTY.md from what is installed
	$(PY) tools/notices.py

stats: ## lines of code and the share of tests
	@python3 tools/stats.py

schema: .stamps/venv .stamps/node ## openapi.json and the TypeScript made from it; the objects of a new database
	rm -rf .stamps/fresh
	THERMAXIS_VAR=.stamps/fresh $(PY) manage.py migrate --verbosity 0
	$(PY) -m thermaxis.apps.safekeeping.schema .stamps/fresh/thermaxis.sqlite3
	$(PY) manage.py write_schema openapi.json
	cd web && npm run --silent types

lock: .stamps/venv ## lock files without host names
	$(UV) pip compile -q --generate-hashes --no-header requirements/uv.in -o requirements/uv.txt
	$(UV) pip compile -q --generate-hashes --no-header requirements/app.in -o requirements/app.txt
	$(UV) pip compile -q --generate-hashes --no-header requirements/dev.in -o requirements/dev.txt
	$(UV) pip compile -q --generate-hashes --no-header requirements/audit.in -o requirements/audit.txt

clean: ## forget what was installed and built (the database stays)
	rm -rf .venv .stamps web/node_modules web/dist
