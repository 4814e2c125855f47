# Naveta: `make demo` to look at it, `make test` to prove it, `make serve` to run it for real.
.DEFAULT_GOAL := help
PY := .venv/bin/python
NAVETA_PORT ?= 8000
# Compiled files are written: without them every process of the tests compiles the whole server again.
unexport PYTHONDONTWRITEBYTECODE

help: ## what there is
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed 's/:.*## /	/'

.venv/ready: requirements.txt core/pyproject.toml
	@echo "Making the Python environment…"
	@python3.11 -m venv .venv 2>/dev/null || python3 -m venv .venv
	@$(PY) -m pip install -q --disable-pip-version-check -r requirements.txt
	@$(PY) -m pip install -q --disable-pip-version-check --no-deps -e core
	@# Tests and tools find server and demo wherever they are started from.
	@printf '%s\n' "$(CURDIR)/server" "$(CURDIR)" > "$$($(PY) -c "import sysconfig; print(sysconfig.get_path('purelib'))")/naveta-places.pth"
	@touch $@

.venv/tests: .venv/ready requirements-test.txt
	@echo "Adding the test tools…"
	@$(PY) -m pip install -q --disable-pip-version-check -r requirements-test.txt
	@touch $@

web/node_modules/.package-lock.json: web/package-lock.json
	@echo "Installing the web's packages…"
	@cd web && npm ci --no-audit --no-fund --silent

web/public/core/pack.json: .venv/ready web/node_modules/.package-lock.json tools/pack_core.py tools/compile_site.mjs $(shell find core -name '*.py' -not -path '*/build/*' 2>/dev/null)
	@echo "Packing the core for the browser…"
	@$(PY) tools/pack_core.py
	@touch $@

# The API's text and the web's types are made, not kept; what of them is kept is the short summary beside the tests.
web/src/api/schema.d.ts: .venv/ready web/node_modules/.package-lock.json $(shell find core server -name '*.py' -not -path '*/build/*' 2>/dev/null)
	@echo "Writing the web's types…"
	@cd server && NAVETA_DATA=$(CURDIR)/build/contract ../$(PY) -m config.contract ../web/openapi.json
	@cd web && npm run --silent types:generate
	@touch $@

web/dist/index.html: web/public/core/pack.json $(shell find web/src web/public -type f -not -path 'web/public/core/*' -not -path 'web/src/api/schema.d.ts' 2>/dev/null) web/index.html web/vite.config.ts
	@echo "Building the web…"
	@cd web && npm run --silent build
	@touch $@

setup: .venv/ready web/dist/index.html ## install and build everything

web/dist/packed: web/dist/index.html
	@echo "Packing what is served…"
	@$(PY) -m whitenoise.compress -q web/dist gz br png woff2 zip whl
	@touch $@

demo: setup web/dist/packed ## build, load the demo, serve it on this machine
	@$(PY) -m demo.run

serve: setup web/dist/packed ## run for real: own data folder, no demo
	@$(PY) server/manage.py migrate -v 0
	@echo "Naveta is at http://127.0.0.1:$(NAVETA_PORT)"
	@cd server && ../.venv/bin/gunicorn config.wsgi:application --bind $${NAVETA_HOST:-127.0.0.1}:$(NAVETA_PORT) --workers 2 --threads 4

bridge: .venv/ready ## readings of a device for this machine's browser: make bridge FROM="tcp:127.0.0.1:4100"
	@$(PY) -m bridge $(FROM)

chromium:
	@command -v chromium-headless-shell >/dev/null || { [ "$$(id -u)" = 0 ] && apt-get update -qq && apt-get install -y -qq chromium-headless-shell >/dev/null; } \
	  || { echo "The browser tests need Debian's chromium: apt-get install chromium-headless-shell"; exit 1; }

lint: .venv/tests
	@.venv/bin/ruff check . && .venv/bin/ruff format --check -q .
	@.venv/bin/mypy
	@.venv/bin/lint-imports

test-web: web/src/api/schema.d.ts ## the web's lint, types and units
	@cd web && npm run --silent lint && npm run --silent types && npm run --silent test

build/core-alone/ready: requirements.txt
	@rm -rf build/core-alone && python3 -m venv build/core-alone
	@build/core-alone/bin/python -m pip install -q --disable-pip-version-check pydantic==$$(sed -n 's/^pydantic==//p' requirements.txt)
	@touch $@

test-core-alone: build/core-alone/ready
	@cd build && PYTHONPATH=$(CURDIR)/core core-alone/bin/python ../tools/core_alone.py

test: .venv/tests setup chromium build/core-alone/ready web/src/api/schema.d.ts ## lint, types, the core alone, core, server, web units and pages, browser; seconds of each stage
	@$(PY) tools/share.py
	@$(PY) tools/gate.py

test-all: .venv/tests setup chromium build/core-alone/ready web/src/api/schema.d.ts ## the same with everything that takes minutes: fuzz of 100,000, kills, restores, all labels, slow pages
	@$(PY) tools/share.py
	@$(PY) tools/gate.py --all

K ?= two_peg
NAMED = $(shell find tests/core tests/server -name 'test_*$(K)*.py')
quick: .venv/tests web/src/api/schema.d.ts ## one kind or feature in seconds: make quick K=two_peg
	@(cd web && npx vitest run --project units --project dom $(subst _,-,$(K)) --passWithNoTests --reporter dot) & web=$$!; \
	  .venv/bin/pytest -m "not long" -p no:schemathesis $(or $(NAMED),tests/core tests/server -k "$(K)"); python=$$?; \
	  wait $$web && [ $$python -eq 0 -o $$python -eq 5 ]

N ?= 20
repeat: .venv/tests setup chromium ## the browser's walks N times, half of them beside two busy processes on pages 2.5 times slower; prints the table
	@$(PY) tools/repeat.py $(N)

test-postgres: .venv/tests ## the server's tests on Debian's PostgreSQL, started in a folder of its own; 16 writers
	@ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || { [ "$$(id -u)" = 0 ] && apt-get update -qq && apt-get install -y -qq postgresql >/dev/null; }
	@.venv/bin/pip install -q --disable-pip-version-check "psycopg[binary]"
	@$(PY) tools/with_postgres.py .venv/bin/pytest -n 2 tests/server

rates: .venv/tests ## honest work judged wrongly, truths inside their intervals: the attack's rates
	@$(PY) -m tools.rates

fuzz: .venv/tests ## 400,000 changed documents: faults of ours, slow answers
	@$(PY) -m tools.fuzz

chaos: .venv/tests setup ## kills under load, a full disk, 200,000 records; prints the figures
	@$(PY) -m tools.chaos

soak: .venv/ready ## fifty readings a second for ten minutes through a bridge, links cut each minute
	@$(PY) -m tools.soak

bench: .venv/tests setup ## ratios: preview against an empty call; the script's size; growth to 200,000 records
	@$(PY) tools/ratios.py
	@$(PY) tools/scale.py

pictures: .venv/tests setup chromium ## take docs/screenshots/ again from the demo
	@command -v pdftoppm >/dev/null || { [ "$$(id -u)" = 0 ] && apt-get install -y -qq poppler-utils >/dev/null; }
	@$(PY) tools/pictures.py

contract: web/src/api/schema.d.ts ## after a change of the API that is meant: write its summary and the web's types
	@cd server && NAVETA_DATA=$(CURDIR)/build/contract ../$(PY) -m config.contract ../web/openapi.json ../tests/server/api_shape.txt

lock: ## lock the Python packages again, without addresses
	@.venv/bin/pip install -q pip-tools
	@.venv/bin/pip-compile -q --no-emit-index-url --no-emit-find-links --strip-extras -o requirements.txt requirements.in
	@.venv/bin/pip-compile -q --no-emit-index-url --no-emit-find-links --strip-extras -o requirements-test.txt requirements-test.in

.PHONY: repeat quick test-all bridge soak test-postgres test-web rates fuzz chaos help setup demo serve chromium lint test-core-alone test bench pictures contract lock
