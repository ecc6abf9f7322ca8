# Everything a fresh machine needs: `make demo` to try the program, `make test` to prove it.
SHELL := /bin/bash
.DEFAULT_GOAL := help
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
PORT ?= 8765
UV_RANGE := uv>=0.13,<0.14

.PHONY: help setup demo demo-fresh serve test check format bench torture age browser assets screenshots drawings lock clean

help:           ## list these commands
	@grep -hE '^[a-z-]+:.*##' $(MAKEFILE_LIST) | sed -E 's/:[^#]*## */\t/' | expand -t 16

# uv where it can be had (seconds), plain pip otherwise; both check every hash.
define install
	@test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	@if $(BIN)/python -m pip install -q --disable-pip-version-check '$(UV_RANGE)' 2>/dev/null && \
	   $(BIN)/uv pip install -q --python $(BIN)/python --compile-bytecode --require-hashes -r $(1); then :; \
	else $(BIN)/python -m pip install -q --disable-pip-version-check --require-hashes -r $(1); fi
endef

$(VENV)/.setup: requirements.lock pyproject.toml
	@$(PYTHON) -c 'import sys; sys.exit(0 if sys.version_info >= (3, 11) else "Marquetry needs Python 3.11 or newer")'
	@$(PYTHON) -c 'import venv, ensurepip' || { apt-get update -q && apt-get install -y -q python3-venv; }
	$(call install,requirements.lock)
	@$(BIN)/python -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation --no-index -e .
	@touch $@

$(VENV)/.setup-dev: requirements-dev.lock $(VENV)/.setup
	$(call install,requirements-dev.lock)
	@touch $@

setup: $(VENV)/.setup    ## make the environment, nothing else

demo: setup              ## serve the demo workshop; a second start keeps what was changed
	@$(BIN)/marquetry demo --port $(PORT)

demo-fresh: setup        ## put the demo workshop back as it was, then serve it
	@$(BIN)/marquetry demo --fresh --port $(PORT)

serve: setup             ## serve your own workshop
	@$(BIN)/marquetry serve --port $(PORT)

browser:       ## headless Chromium, and poppler to look at PDFs, where there are none yet
	@command -v chromium >/dev/null && command -v chromedriver >/dev/null && command -v pdftoppm >/dev/null || \
	  { apt-get update -q && DEBIAN_FRONTEND=noninteractive apt-get install -y -q --no-install-recommends chromium chromium-driver poppler-utils; }

node_modules/.ok: package-lock.json
	npm ci --silent
	@touch $@

test: $(VENV)/.setup-dev browser node_modules/.ok    ## everything that is tested, headless Chromium included
	$(BIN)/python -m pytest -q -n 3 --dist loadfile --no-loadscope-reorder

check: $(VENV)/.setup-dev    ## format, lint, strict types
	$(BIN)/ruff format --check .
	$(BIN)/ruff check .
	$(BIN)/mypy

format: $(VENV)/.setup-dev    ## put the code in its form, mend what lint can
	$(BIN)/ruff format .
	$(BIN)/ruff check --fix .

bench: $(VENV)/.setup-dev    ## one JSON line per figure
	@$(BIN)/python -m tests.bench_pages

torture: $(VENV)/.setup-dev    ## 20,000 hostile inputs, 10,000 files, 200 kills, 200 rounds warm against fresh: an hour
	@$(BIN)/python -m tests.torture

assets: node_modules/.ok     ## rebuild styles, scripts and fonts from npm
	bash styles/build.sh

age: $(VENV)/.setup-dev    ## keep the demo of a new migration in tests/ages, once
	@$(BIN)/python -m tests.keep_age

screenshots: $(VENV)/.setup-dev browser    ## refresh docs/screenshots from the demo workshop
	@$(BIN)/python -m tests.screenshots

drawings: $(VENV)/.setup-dev    ## refresh docs/drawings
	@$(BIN)/python -m tests.drawings

lock:          ## pin every dependency anew, with its hashes
	$(BIN)/uv pip compile -q --no-header --universal --python-version 3.11 --generate-hashes requirements.in -o requirements.lock
	$(BIN)/uv pip compile -q --no-header --universal --python-version 3.11 --generate-hashes -c requirements.lock requirements-dev.in -o requirements-dev.lock

clean:         ## take away what was made: environment, packages, caches
	rm -rf $(VENV) node_modules .pytest_cache .mypy_cache .ruff_cache .hypothesis
