# Sand Pocket: the everyday commands. `make help` lists them.
SHELL := /bin/bash
.DEFAULT_GOAL := help
PYTHON ?= python3
VENV := .venv
PY := $(VENV)/bin/python
NPM := npm --prefix frontend
# Compiled Python lies beside the other things that are made, and not among the sources.
unexport PYTHONDONTWRITEBYTECODE
export PYTHONPYCACHEPREFIX ?= $(CURDIR)/.local/pycache
ARGS ?=
TYPES := frontend/src/lib/api/tables.gen.ts

.PHONY: help demo demo-reset dev backup restore test test-frontend test-ops lint format types texts bench load soak fuzz build setup setup-test pytest schema screenshots clean

help: ## this list
	@awk -F ':.*## ' '/^[a-z-]+:.*## /{printf "  make %-12s %s\n", $$1, $$2}' $(MAKEFILE_LIST)

demo: setup build ## install what is missing, start the demonstration, print its address (PORT=8700 to choose)
	@$(PY) scripts/demo.py

demo-reset: setup ## start the demonstration's story over
	@$(PY) scripts/demo.py --reset

dev: setup types ## the demonstration with hot reload of server and interface
	@$(PY) scripts/demo.py --dev

test: setup-test ## every check and every test: style, types, layers, core, server, interface, screens
	@$(PY) scripts/run_tests.py $(ARGS)

test-frontend: setup-test types ## the interface's own tests, without a browser
	$(NPM) test --silent -- --reporter=dot --reporter=junit --outputFile.junit=../.local/tests/vitest.xml

test-ops: setup-test build ## operations: kills, proxy, earlier backups, two demonstrations at once, requests by chance
	@$(PY) scripts/with_database.py $(PY) -m pytest tests/operations -n 2 --dist worksteal $(ARGS)

pytest: setup-test build ## only pytest, e.g. make pytest ARGS="tests/core -x"
	@$(PY) scripts/with_database.py $(PY) -m pytest $(ARGS)

lint: setup-test types ## ruff, mypy, import-linter, published schema, svelte-check, ESLint, prettier
	$(VENV)/bin/ruff check .
	$(VENV)/bin/ruff format --check .
	SAND_POCKET_SECRET_KEY=checks DATABASE_URL=postgresql://checks@127.0.0.1/checks $(VENV)/bin/mypy
	$(VENV)/bin/lint-imports --no-logo
	$(PY) scripts/generate_types.py --check
	$(PY) scripts/test_share.py
	$(PY) scripts/check_words.py
	$(NPM) run --silent check
	$(NPM) run --silent lint
	$(NPM) run --silent format:check

format: setup-test ## ruff and prettier, writing
	$(VENV)/bin/ruff check --fix .
	$(VENV)/bin/ruff format .
	$(NPM) run --silent format

types: $(TYPES) ## the interface's types and tables from the core and the server; make build does it too

texts: types ## frontend/locales/en.po, every text of the interface (SAND_POCKET_LANGUAGE=de: and that language's; build with the same)
	$(NPM) run --silent texts > /dev/null

schema: setup ## docs/build-file.schema.json and docs/terms.md, after a change of the build file or of a term
	$(PY) scripts/generate_types.py --schema

backup: setup ## the demonstration's database into a file (TO=folder), as an operator does
	@$(PY) scripts/with_demo_database.py manage.py backup $(or $(TO),.local/backups)

restore: setup ## the demonstration's database as it was in a backup (FROM=file)
	@$(PY) scripts/with_demo_database.py manage.py restore $(FROM)

bench: setup-test build ## measure the computation and the screen
	@$(PY) scripts/with_database.py $(PY) benchmarks/run.py $(ARGS)

load: setup-test build ## fifty builders through the proxy for a minute, then an abuser beside them (ARGS="--seconds 20")
	@$(PY) scripts/loading.py $(ARGS)

soak: setup-test build ## 5,000 saves over 20 kills of web, workers and database (ARGS="--saves 500 --kills 6")
	@$(PY) scripts/soaking.py $(ARGS)

fuzz: setup-test build ## more than 20,000 requests by chance over the whole API
	@SAND_POCKET_FUZZ=$(or $(CASES),290) $(PY) scripts/with_database.py $(PY) -m pytest -q -n 2 tests/operations/test_fuzz.py $(ARGS)

screenshots: setup-test build ## the pictures of docs/screenshots from the demonstration
	@$(PY) scripts/with_database.py $(PY) scripts/screenshots.py

# --- what the above stand on; each step only when its inputs changed -------------------------------------------------

setup: .local/system-packages $(VENV)/installed frontend/node_modules/.installed .local/compiled/.done

# The engine's compiled code; once, so that no person waits for it. Another source makes another folder.
ENGINE_SOURCES := $(wildcard boardmath/engine/*.py boardmath/physics/*.py) planner/warm_cache.py
.local/compiled/.done: $(ENGINE_SOURCES) $(VENV)/installed
	@mkdir -p .local/compiled && $(PY) -m planner compile > /dev/null && touch $@

setup-test: setup .local/test-packages $(VENV)/installed-dev

.local/system-packages: scripts/system_packages.sh
	@mkdir -p .local && bash scripts/system_packages.sh server && touch $@

.local/test-packages: scripts/system_packages.sh
	@mkdir -p .local && bash scripts/system_packages.sh browser && touch $@

$(VENV)/bin/python:
	$(PYTHON) -m venv $(VENV)

$(VENV)/installed: requirements.lock | $(VENV)/bin/python
	$(PY) -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	@touch $@

$(VENV)/installed-dev: requirements-dev.lock $(VENV)/installed
	$(PY) -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements-dev.lock
	@touch $@

frontend/node_modules/.installed: frontend/package.json frontend/package-lock.json
	# Not `npm ci`: it refuses a lock without the optional packages of platforms that a registry does not carry.
	$(NPM) install --no-save --no-audit --no-fund --loglevel=error
	@touch $@

build: frontend/dist/.built ## the interface, compressed
# The OpenAPI document, its types and the core's tables; of any source of the core or the server.
PYTHON_SOURCES := $(shell find boardmath planner controller server -name '*.py' 2>/dev/null) scripts/generate_types.py
$(TYPES): $(PYTHON_SOURCES) $(VENV)/installed frontend/node_modules/.installed
	$(PY) scripts/generate_types.py
	@touch $@

INTERFACE_SOURCES := $(shell find frontend/src frontend/public -type f 2>/dev/null) frontend/index.html frontend/vite.config.ts
frontend/dist/.built: $(TYPES) $(INTERFACE_SOURCES) frontend/node_modules/.installed $(VENV)/installed
	$(NPM) run --silent build -- --logLevel warn
	$(PY) -m whitenoise.compress --quiet frontend/dist
	@touch $@

clean: ## what was built or installed here; the demonstration's data stays
	rm -rf $(VENV) frontend/node_modules frontend/dist .local/compiled .local/system-packages .local/test-packages
