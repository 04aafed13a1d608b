# Everything starts here: `make demo` to use it, `make test` to check it.
.DEFAULT_GOAL := help
.PHONY: help demo test lint types contract lock validate bench screenshots soak build setup check clean
.PHONY: backup restore export-all import-all
SHELL := /bin/sh

PORT ?= 8000
PY := .venv/bin/python
WEB_TYPES := web/src/api/schema.ts
WEB_SOURCES := $(shell find web/src web/public web/index.html web/vite.config.ts docs/guide docs/screenshots -type f)

help:
	@echo "make demo [PORT=8000]  set up, build, load the demo, serve on this machine"
	@echo "make test              set up, lint, check types, run every test"
	@echo "make validate          judge and cure 500 designs that somebody might build; takes an hour"
	@echo "make bench             time the core and the drag"
	@echo "make screenshots       take the pictures in docs/screenshots anew"
	@echo "make soak              edits, kills, nonsense, a dead network and hostile files at once, for ten minutes"
	@echo "make backup [TO=file]  one checked file of all that is stored, also while it is served"
	@echo "make restore FROM=file put a backup in the store's place; what was there is kept"
	@echo "make export-all TO=folder, make import-all FROM=folder   everything as open files, and back"
	@echo "make contract lock     write the API contract, the lock files anew"

demo: .venv/.kernel web/dist/.built
	@exec $(PY) server/manage.py serve --demo --port $(PORT)

test: setup .venv/.dev web/dist/.built
	@tests/ensure-chromium
	$(MAKE) --no-print-directory -j2 --output-sync=target lint types
	cd web && npm run -s test
	$(PY) -m pytest core/tests server/tests -n 2 --dist worksteal
	$(PY) -m pytest tests -n 2 --dist worksteal

lint: .venv/.dev $(WEB_TYPES)
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	PYTHONPATH=server .venv/bin/lint-imports --no-logo
	cd web && npm run -s lint

types: .venv/.dev $(WEB_TYPES)
	.venv/bin/mypy
	MYPYPATH=core/tests .venv/bin/mypy core/tests
	MYPYPATH=server/tests:core/tests .venv/bin/mypy server/tests
	MYPYPATH=tests/browser .venv/bin/mypy tests/browser bench
	cd web && npm run -s types

contract: .venv/.dev web/node_modules/.installed
	$(PY) server/manage.py export_openapi_schema --api builds.api.api --indent 1 --sorted > server/contract/openapi.json
	$(PY) server/manage.py export_register > server/contract/register.json
	$(PY) -m oak_lever.design.schema > docs/design.schema.json
	$(PY) -m oak_lever.truck.schema > docs/truck.schema.json
	$(PY) -m oak_lever.figures.page > docs/figures.md

lock: .venv/.uv
	.venv/bin/uv pip compile -q --generate-hashes --no-header --no-annotate --extra server pyproject.toml -o requirements.txt
	.venv/bin/uv pip compile -q --generate-hashes --no-header --no-annotate --extra server --group dev pyproject.toml -c requirements.txt -o requirements-dev.txt
	cd web && npm install --package-lock-only && node ../tests/strip-funding.mjs package-lock.json

validate: setup .venv/.dev
	OAK_LEVER_DESIGNS=$(or $(DESIGNS),500) $(PY) -m pytest core/tests/test_09_advice.py core/tests/test_21_true.py core/tests/test_22_sentences.py core/tests/test_23_sheets_of_anything.py

soak: setup .venv/.dev web/dist/.built
	OAK_LEVER_FUZZ=200 $(PY) -m pytest server/tests/test_08_fuzz.py
	OAK_LEVER_SOAK=$(or $(SECONDS),600) $(PY) -m pytest -s tests/browser/test_soak.py

backup: .venv/.installed
	@$(PY) server/manage.py backup_store $(if $(TO),"$(TO)")

restore: .venv/.installed
	@test -n "$(FROM)" || { echo "Say which backup: make restore FROM=var/backups/..."; exit 1; }
	@$(PY) server/manage.py restore_store "$(FROM)"

export-all: .venv/.installed
	@test -n "$(TO)" || { echo "Say where to: make export-all TO=folder"; exit 1; }
	@$(PY) server/manage.py export_store "$(TO)"

import-all: .venv/.installed
	@test -n "$(FROM)" || { echo "Say where from: make import-all FROM=folder"; exit 1; }
	@$(PY) server/manage.py import_store "$(FROM)"

bench: setup .venv/.dev web/dist/.built
	@tests/ensure-chromium
	$(PY) -m bench

screenshots: setup .venv/.dev web/dist/.built
	@tests/ensure-chromium
	$(PY) -m bench.screenshots

setup: .venv/.kernel $(WEB_TYPES)
build: web/dist/.built
check: test

clean:
	rm -rf .venv web/node_modules web/dist

.venv/.uv:
	@python3 -m venv .venv || { echo "Python's venv is missing: install python3-venv."; exit 1; }
	@.venv/bin/pip install -q --disable-pip-version-check uv
	@touch $@

.venv/.installed: .venv/.uv requirements.txt pyproject.toml
	@echo "Installing the Python packages ..."
	@.venv/bin/uv pip install -q --compile-bytecode --python $(PY) --require-hashes -r requirements.txt
	@.venv/bin/uv pip install -q --python $(PY) --no-deps -e .
	@touch $@

.venv/.dev: .venv/.installed requirements-dev.txt
	@.venv/bin/uv pip install -q --python $(PY) --require-hashes -r requirements-dev.txt
	@touch $@

# Compiling takes a while once; done here, no first drag has to wait for it.
.venv/.kernel: .venv/.installed $(wildcard core/oak_lever/motion/*.py core/oak_lever/motion/kernel/*.py) core/oak_lever/tolerances.py
	@echo "Compiling the motion kernel ..."
	@$(PY) -m compileall -q core/oak_lever server
	@$(PY) -m oak_lever.warm
	@touch $@

web/node_modules/.installed: web/package-lock.json
	@echo "Installing the web packages ..."
	@cd web && npm ci --silent --no-fund --no-audit
	@touch $@

# The page's types of the API, from the API's own contract.
$(WEB_TYPES): server/contract/openapi.json web/node_modules/.installed
	@cd web && npm run -s contract > /dev/null && npx prettier --write --log-level warn src/api/schema.ts

web/dist/.built: $(WEB_TYPES) $(WEB_SOURCES)
	@echo "Building the page ..."
	@cd web && npm run -s build -- --logLevel warn
	@.venv/bin/python -m whitenoise.compress -q web/dist
	@touch $@

web/dist/.built: | .venv/.installed
