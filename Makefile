# Dry Lamp. `make demo` and `make test` do everything on a fresh machine that has Python 3.11+, Node 20+ and make.
SHELL := /bin/bash
PYTHON ?= python3
PORT ?= 8411
BIN := .venv/bin
STATIC := src/drylamp/web/static/index.html
FRONT := $(shell find frontend/src frontend/words -type f 2>/dev/null) frontend/index.html frontend/vite.config.ts frontend/package.json

.PHONY: words language help demo serve test check check-python check-front built build dev bench soak wheel screenshots api share setup clean

help:  ## these commands
	@grep -hE "^[a-z]+:.*## " $(MAKEFILE_LIST) | sed -E "s/^([a-z]+):.*## (.*)/  make \1\t\2/" | expand -t 20

demo: $(STATIC)  ## set up, build, start with the demo data, print the address
	$(BIN)/drylamp demo --port $(PORT)

serve: $(STATIC)  ## your own yard
	$(BIN)/drylamp serve --port $(PORT)

test: setup  ## set up and run all checks; pytest's own lines come last
	@scripts/need_chromium
	@$(MAKE) --no-print-directory -j2 --output-sync=target built check-python check-front
	$(BIN)/python scripts/test_share
	$(BIN)/pytest -n 3

check: check-python check-front  ## linters, types, import contracts, tests of the front end

check-python: setup
	$(BIN)/ruff check src tests scripts benchmarks
	$(BIN)/ruff format --check -q src tests
	$(BIN)/mypy
	$(BIN)/lint-imports --no-logo 2>/dev/null || $(BIN)/lint-imports

check-front: setup $(STATIC)
	cd frontend && npm run -s typecheck && npm run -s lint && npm run -s test

built: setup  # many checks start Python anew, some where it may write nothing; the marcher is compiled once for all workers
	@$(BIN)/python -m compileall -q src
	@echo "compiling the marcher"; $(BIN)/python -c "from drylamp.demo.scenario import warm_case; warm_case()"

setup: .setup/python .setup/node  ## Python in .venv and Node in frontend/node_modules, from the lock files

build: $(STATIC)  ## the front end, as Flask serves it

.setup/python: requirements-dev.lock pyproject.toml
	@mkdir -p .setup
	test -x $(BIN)/python || $(PYTHON) -m venv .venv
	$(BIN)/python -m pip install -q --disable-pip-version-check uv==0.13.9
	$(BIN)/uv pip install -q --compile-bytecode --python $(BIN)/python --require-hashes -r requirements-dev.lock
	$(BIN)/uv pip install -q --python $(BIN)/python --no-deps --no-build-isolation -e .
	@touch $@

.setup/node: frontend/package-lock.json
	@mkdir -p .setup
	cd frontend && npm ci --no-progress --loglevel=error
	@touch $@

$(STATIC): $(FRONT) | setup
	cd frontend && npm run -s build

dev: setup  ## Flask and Vite side by side, both reloading
	$(BIN)/python scripts/dev

bench: setup  ## ratios in one run
	$(BIN)/python benchmarks/start.py
	$(BIN)/python benchmarks/bench.py
	$(BIN)/python benchmarks/trials.py
	$(BIN)/python benchmarks/yard.py
	PYTHONPATH=. $(BIN)/python benchmarks/first_view.py

soak: $(STATIC)  ## an hour of odd requests, a thousand kills, full disks, held files; what was lost (nothing may be)
	$(BIN)/python scripts/soak

wheel: $(STATIC)  ## one file to install, the front end inside: dist/drylamp-*.whl
	@rm -rf dist build
	$(BIN)/python -m pip wheel -q --disable-pip-version-check --no-deps --no-build-isolation -w dist .
	@rm -rf build
	@ls dist/*.whl

screenshots: $(STATIC)  ## docs/screenshots from the demo data
	@scripts/need_chromium
	$(BIN)/python scripts/screenshots

api: setup  ## OpenAPI document, the front end's types and the examples from the models
	$(BIN)/python scripts/write_openapi
	$(BIN)/python scripts/write_examples
	cd frontend && npm run -s api

words: setup  ## every sentence of the program into its one catalogue
	$(BIN)/python scripts/gather_words

language: setup  ## lay in a language: make language PO=de.po
	$(BIN)/python scripts/make_language $(PO)

share:  ## how much of the code is tests
	@$(PYTHON) scripts/test_share

clean:  ## take away what setup and build made
	rm -rf .setup src/drylamp/web/static frontend/node_modules .venv
