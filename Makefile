# make setup   install everything and compile kernels     make demo   demo data, then serve
# make test    every check and test, the browser's too    make format  lay out the code
PYTHON ?= python3
PORT ?= 8765
BIN := .venv/bin
export PYTHONDONTWRITEBYTECODE =

.PHONY: setup demo serve test lint unit web-test browser-test browser tests format benchmark clean

setup: .venv/.ready web/dist/index.html

# The demo needs what runs; tests and checks need more, which is installed when they are asked for.
.venv/.run: requirements/run.txt pyproject.toml
	@echo "Python: what Plinto needs to run"
	$(PYTHON) -m venv .venv
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements/run.txt
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps -e .
	@echo "Compiling the kernels"
	$(BIN)/plinto warm-up
	touch $@

.venv/.ready: .venv/.run requirements/dev.txt
	@echo "Python: what tests and checks need"
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements/dev.txt
	touch $@

web/node_modules/.ready: web/package-lock.json
	@echo "The interface's libraries"
	cd web && npm ci --no-audit --no-fund --loglevel=error
	touch $@

web/dist/index.html: web/node_modules/.ready server/openapi.json $(shell find web/src web/index.html web/vite.config.ts -type f)
	@echo "Building the interface"
	cd web && npm run --silent build

demo: .venv/.run
	@$(BIN)/plinto probe-port --port $(PORT)
	@$(MAKE) --no-print-directory web/dist/index.html
	@echo "Setting up the demo: invented conditions, artwork and documents"
	$(BIN)/plinto demo
	$(BIN)/plinto serve --port $(PORT)

serve: .venv/.run web/dist/index.html
	$(BIN)/plinto serve --port $(PORT)

browser:
	@sh scripts/ensure-browser.sh

lint: .venv/.ready web/node_modules/.ready
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/python scripts/notices.py --check
	cd web && npm run --silent api && npm run --silent lint && npx tsc --noEmit

unit: .venv/.ready
	$(BIN)/pytest -n 2 --dist loadfile core/tests cli/tests server/tests

web-test: web/node_modules/.ready
	cd web && npm run --silent api && npm test --silent

browser-test: setup browser
	$(BIN)/pytest e2e

# Where Chromium cannot be installed the rest is tested all the same; it is said, and make fails.
test: setup lint unit web-test
	@if sh scripts/ensure-browser.sh; then $(MAKE) --no-print-directory browser-test; \
	else echo "LEFT OUT: the browser tests, because Chromium is not here. Everything else passed." >&2; exit 1; fi

format: .venv/.ready web/node_modules/.ready
	$(BIN)/ruff check --fix .
	$(BIN)/ruff format .
	cd web && npm run --silent format

benchmark: .venv/.ready
	$(BIN)/python benchmarks/pixels.py
	$(BIN)/python benchmarks/preview.py
	$(BIN)/python benchmarks/delivery.py
	$(BIN)/python benchmarks/documents.py
	$(BIN)/python benchmarks/examination.py

clean:
	rm -rf .venv web/node_modules web/dist var
