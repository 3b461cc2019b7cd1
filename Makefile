# Everything runs through these targets; stamps keep a second run from doing anything twice.
PYTHON ?= python3
PORT ?= 8427
BIN := .venv/bin
PIP := $(BIN)/python -m pip install --quiet --disable-pip-version-check
WEB := src/jade_perch/web/index.html
FRONT := $(shell find frontend/src frontend/public frontend/index.html -type f 2>/dev/null) \
         frontend/vite.config.ts frontend/package-lock.json docs/rules.md

.PHONY: demo run test tests bench torture busy falter walk screenshots build setup setup-dev lint lint-house lint-page unit-page format types catalogue card-font notices pins clean

demo: build
	@$(BIN)/jade-perch demo --port $(PORT)

run: build
	@$(BIN)/jade-perch serve --port $(PORT)

build: .venv/.runtime $(WEB)

setup: .venv/.runtime frontend/node_modules/.installed
setup-dev: setup .venv/.dev

.venv/.runtime: requirements.txt pyproject.toml
	@$(PYTHON) -c 'import sys; sys.exit(sys.version_info < (3, 11) and "Python 3.11 or newer is needed: make PYTHON=python3.11")'
	@test -x $(BIN)/python || $(PYTHON) -m venv .venv || \
	  { echo "The venv module is missing: apt-get install python3-venv"; exit 1; }
	$(PIP) --require-hashes -r requirements.txt
	$(PIP) --no-deps --no-build-isolation -e .
	@touch $@

.venv/.dev: .venv/.runtime requirements-dev.txt
	$(PIP) --require-hashes -r requirements-dev.txt
	@touch $@

frontend/node_modules/.installed: frontend/package-lock.json
	cd frontend && npm ci --silent
	@touch $@

$(WEB): frontend/node_modules/.installed $(FRONT)
	cd frontend && npm run --silent build
	@touch $@

lint: lint-house lint-page

lint-house: setup-dev
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports

lint-page: setup
	cd frontend && npm run --silent lint
	cd frontend && npm run --silent types

unit-page: setup
	cd frontend && npm run --silent unit

types: setup
	$(BIN)/jade-perch openapi build/openapi.json
	cd frontend && npm run --silent api-types

# What does not wait for each other is done side by side, each told in one piece.
test:
	@$(MAKE) --no-print-directory -j2 -O setup-dev build
	@tools/ensure_chromium
	@$(BIN)/python -m compileall -q src  # once, not by each of many processes
	@$(MAKE) --no-print-directory -j2 -O tests lint unit-page

# a journey waits now and then, and what looks at the code fills that; it is told as it comes
tests: setup-dev build
	+$(BIN)/pytest -n auto --dist worksteal

format: setup-dev
	$(BIN)/ruff check --fix .
	$(BIN)/ruff format .

bench: setup-dev build
	$(BIN)/python tools/bench.py

# The browser journeys ten times over, with every core kept busy by something else.
busy: setup-dev build
	@tools/ensure_chromium
	$(BIN)/python tools/busy.py

# The browser journeys once, over servers that stand still for seconds again and again.
falter: setup-dev build
	@tools/ensure_chromium
	$(BIN)/python -m pytest -p tests.browser.faltering -n auto --dist worksteal -q tests/browser \
	  --ignore tests/browser/test_streams.py

# Every state of the page, measured; also in a real window on a virtual screen.
walk: setup-dev build
	@tools/ensure_chromium
	@tools/ensure_window
	$(BIN)/python tools/walk.py

torture: setup-dev build
	$(BIN)/python tools/torture.py

screenshots: setup-dev build
	@tools/ensure_chromium
	$(BIN)/python tools/screenshots.py

notices: setup
	$(BIN)/python tools/build_notices.py

catalogue:
	$(PYTHON) -m venv build/catalogue
	build/catalogue/bin/python -m pip install --quiet -r tools/catalogue-requirements.txt
	build/catalogue/bin/python tools/build_catalogue.py

card-font: setup
	$(PYTHON) -m venv build/catalogue
	build/catalogue/bin/python -m pip install --quiet -r tools/catalogue-requirements.txt
	build/catalogue/bin/python tools/build_card_font.py

# What is installed is pinned with its hashes; this pins anew, with the newest that fits.
PINS := --quiet --upgrade --generate-hashes --no-emit-index-url --no-emit-trusted-host \
        --no-emit-find-links --no-header --no-annotate --strip-extras --allow-unsafe
pins:
	$(PYTHON) -m venv build/pins
	build/pins/bin/python -m pip install --quiet pip-tools
	build/pins/bin/pip-compile $(PINS) --all-build-deps -o requirements.txt pyproject.toml
	build/pins/bin/pip-compile $(PINS) -o requirements-dev.txt requirements-dev.in

clean:
	rm -rf .venv frontend/node_modules src/jade_perch/web build
