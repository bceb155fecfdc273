# Everything the project does, from a fresh clone. `make help` lists it.

PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
STATIC := src/hollow_glint/web/static
FRONT_SOURCES := $(shell find frontend/src frontend/public frontend/index.html frontend/*.config.* frontend/tsconfig.json -type f ! -name schema.d.ts ! -name limits.ts)
CONTRACT := $(shell find src/hollow_glint/core src/hollow_glint/formats src/hollow_glint/store src/hollow_glint/web -name "*.py") frontend/scripts/limits.mjs

.PHONY: help setup demo test lint lint-python lint-page test-python test-hostile types bench mutants screenshots wheel clean chromium

help: ## list what can be made
	@grep -hE '^[a-z]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:.*## /\t/' | expand -t 14

setup: $(BIN)/.run $(STATIC)/index.html ## install what the program needs and build the front end

demo: setup ## run with made-up holes and print the address
	$(BIN)/hollow-glint demo $(ARGS)

$(BIN)/.run: requirements/run.txt pyproject.toml
	test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	$(BIN)/python -m pip install --quiet --disable-pip-version-check -r requirements/run.txt
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --no-deps -e .
	$(BIN)/python -m compileall -q src/hollow_glint
	touch $@

$(BIN)/.test: $(BIN)/.run requirements/test.txt
	$(BIN)/python -m pip install --quiet --disable-pip-version-check -r requirements/test.txt
	touch $@

frontend/node_modules/.ready: frontend/package.json frontend/package-lock.json
	cd frontend && npm ci --no-fund --no-audit --loglevel=error
	touch $@

# The front end's types come from the program's own OpenAPI document.
frontend/src/lib/api/schema.d.ts: $(BIN)/.run frontend/node_modules/.ready $(CONTRACT)
	$(BIN)/hollow-glint openapi > frontend/openapi.json
	cd frontend && npm run --silent types

$(STATIC)/index.html: frontend/src/lib/api/schema.d.ts $(FRONT_SOURCES)
	cd frontend && npm run --silent build
	touch $@

chromium:
	command -v chromium > /dev/null || (apt-get update -qq && apt-get install -y -qq chromium)
	command -v openssl > /dev/null || apt-get install -y -qq openssl

lint: $(BIN)/.test $(STATIC)/index.html ## formatting, types and habits, Python and front end
	@$(MAKE) --no-print-directory -j 2 --output-sync=target lint-python lint-page

lint-python: $(BIN)/.test
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports

lint-page: $(STATIC)/index.html
	cd frontend && npm run --silent lint && npm run --silent check

frontend/test-build/modules.js: frontend/modules.ts frontend/vite.modules.config.ts $(STATIC)/index.html
	cd frontend && npm run --silent build:modules

test: lint chromium frontend/test-build/modules.js ## install and run every check
	@$(MAKE) --no-print-directory -j 2 --output-sync=target test-python test-hostile
	$(BIN)/pytest -n 3 --dist loadfile --no-loadscope-reorder tests/browser

# The hostile requests by themselves: what to send is worked out as they are collected, which each worker would do again.
HOSTILE = tests/web/test_schema.py

test-python: $(BIN)/.test
	$(BIN)/pytest -n 2 --ignore $(HOSTILE) tests/core tests/formats tests/reference tests/store tests/web

test-hostile: $(BIN)/.test
	$(BIN)/pytest $(HOSTILE)

bench: $(BIN)/.test $(STATIC)/index.html chromium ## measure speed and memory; writes docs/benchmarks.md
	$(BIN)/python -m benchmarks.run
	EFFORT=8 $(BIN)/pytest -n 2 $$(grep -rl tests.effort tests/core tests/web)

mutants: $(BIN)/.test ## change the core in small ways and see whether its tests notice
	$(BIN)/python -m tools.mutants

screenshots: $(BIN)/.test $(STATIC)/index.html chromium ## take docs/screenshots anew from the demo
	$(BIN)/python -m tools.screenshots

wheel: setup $(BIN)/.test ## build a wheel with the front end in it, into dist/
	rm -rf dist build
	$(BIN)/python -m pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist .
	@ls dist

clean: ## remove what was built and installed here
	rm -rf $(VENV) frontend/node_modules frontend/openapi.json frontend/src/lib/api/schema.d.ts frontend/src/lib/api/limits.ts frontend/test-build $(STATIC) dist build
