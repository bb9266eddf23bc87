# make setup   install everything and compile kernels     make demo   demo data, then serve
# make test    every check and test, the browser's too    make format  lay out the code
PYTHON ?= python3
PORT ?= 8765
BIN := .venv/bin
export PYTHONDONTWRITEBYTECODE =

.PHONY: setup demo serve test lint unit web-test browser-test browser format benchmark clean

setup: .venv/.ready web/dist/index.html

.venv/.ready: requirements/dev.txt pyproject.toml
	$(PYTHON) -m venv .venv
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements/dev.txt
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation -e .
	$(BIN)/plinto warm-up
	touch $@

web/node_modules/.ready: web/package-lock.json
	cd web && npm ci --no-audit --no-fund --loglevel=error
	touch $@

web/dist/index.html: web/node_modules/.ready server/openapi.json $(shell find web/src web/index.html web/vite.config.ts -type f)
	cd web && npm run --silent build

demo: setup
	$(BIN)/plinto demo
	$(BIN)/plinto serve --port $(PORT)

serve: setup
	$(BIN)/plinto serve --port $(PORT)

browser:
	@sh scripts/ensure-browser.sh

lint: .venv/.ready web/node_modules/.ready
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	cd web && npm run --silent api && npm run --silent lint && npx tsc --noEmit

unit: .venv/.ready
	$(BIN)/pytest -n 2 --dist loadfile core/tests cli/tests server/tests

web-test: web/node_modules/.ready
	cd web && npm run --silent api && npm test --silent

browser-test: setup browser
	$(BIN)/pytest e2e

test: setup browser lint unit web-test browser-test

format: .venv/.ready
	$(BIN)/ruff check --fix .
	$(BIN)/ruff format .

benchmark: .venv/.ready
	$(BIN)/python benchmarks/pixels.py
	$(BIN)/python benchmarks/preview.py
	$(BIN)/python benchmarks/delivery.py
	$(BIN)/python benchmarks/documents.py

clean:
	rm -rf .venv web/node_modules web/dist var
