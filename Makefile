# Two commands do everything on a fresh machine: `make demo` and `make test`.
PYTHON ?= python3
VENV := .venv
BIN := $(VENV)/bin
RUN := $(VENV)/.runs
STAMP := $(VENV)/.ready
PIP := $(BIN)/python -m pip install --quiet --disable-pip-version-check
# What Qt needs of the system, besides Xvfb for machines without a screen.
SYSTEM := libegl1 libgl1 libxkbcommon0 libxkbcommon-x11-0 libdbus-1-3 libfontconfig1 libxcb-cursor0 libxcb-icccm4 \
	libxcb-image0 libxcb-keysyms1 libxcb-render-util0 libxcb-shape0 libxcb-xkb1 libpulse0 libasound2 xvfb xauth

# A window manager, for the tests on a real screen.
MANAGER := openbox

.PHONY: compare package package-test release setup demo test check said fuzz sweep mutants kills bench screenshots pictures songs companions lock

setup: $(STAMP)

# What runs the program; `make test` needs more.
$(RUN): requirements.lock pyproject.toml tools/system_libraries.sh
	sh tools/system_libraries.sh $(SYSTEM)
	$(PYTHON) -m venv $(VENV)
	$(PIP) --require-hashes -r requirements.lock
	PYTHONWARNINGS=ignore $(PIP) --no-deps --no-build-isolation -e .
	$(BIN)/python -m compileall -q yellow_hinge
	touch $(RUN)

$(STAMP): $(RUN) requirements-dev.lock
	sh tools/system_libraries.sh $(MANAGER)
	$(PIP) --require-hashes -r requirements-dev.lock
	touch $(STAMP)

demo: $(RUN)
	sh tools/with_screen.sh $(BIN)/yellow-hinge --demo

test: $(STAMP)
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest --numprocesses auto --maxprocesses 4 --dist worksteal

# Long runs, each with its figures: damaged files of every kind, and windows that are killed while they edit.
fuzz: $(STAMP)
	$(BIN)/python -m tests.fuzz.readers 10000
	$(BIN)/python -m tests.fuzz.charts 1000000
	$(BIN)/python -m tests.fuzz.own_data 3000

# Every pattern over charts, demo songs and manners: what is struck is what is shown. Then every quality, bass, root,
# colour, style and hand: each voicing is heard as the chord that is written.
# The whole table takes hours: `make sweep SWEEP="0 0"` is one of its 64 parts.
SWEEP = 0 63
sweep: $(STAMP)
	$(BIN)/python -m tests.core.rhythm.truth all
	EXAMPLES=120 $(BIN)/python -m pytest --quiet --numprocesses auto tests/core tests/app tests/io
	ALL_KEYS=1 $(BIN)/python -m pytest --quiet --numprocesses auto tests/core tests/io tests/ui tests/cli
	seq $(SWEEP) | xargs -P $$(nproc) -I PART $(BIN)/python -m tests.core.leading.test_identity PART 64

# What the program says of the demo songs, written anew where a change of it is meant.
said: $(STAMP)
	$(BIN)/python -m tests.cli.said

# Lines of core, io and app changed one at a time: how many of a random sample a test notices. Within an hour for 300.
MUTANTS = 300
mutants: $(STAMP)
	$(BIN)/python -m tools.mutants $(MUTANTS)

# The hands of 200 made-up songs and the demo songs, here and in another tree: for changes that change nothing.
REV = HEAD~1
compare: $(STAMP)
	$(BIN)/python -m tools.compare $(REV)

kills: $(STAMP)
	sh tools/with_screen.sh $(BIN)/python -m tests.kills.run 100
	$(BIN)/python -m tests.kills.book 25

check: $(STAMP)
	$(BIN)/ruff check yellow_hinge tests benchmarks tools
	$(BIN)/ruff format --check yellow_hinge tests benchmarks tools
	$(BIN)/mypy
	$(BIN)/lint-imports
	$(MAKE) test

bench: $(STAMP)
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m benchmarks.run

screenshots: $(STAMP)
	$(BIN)/python -m tools.screenshots docs/screenshots

# Every picture of the documentation beside what the program shows now; `make test` compares a few.
pictures: $(STAMP)
	ALL_PICTURES=1 $(BIN)/python -m pytest tests/ui/test_screenshots.py

# The shipped songs anew, with the hands of today's prices.
songs: $(STAMP)
	$(BIN)/python -m tools.demo_takes

companions: $(STAMP)
	$(BIN)/python -m tools.companions

lock: $(STAMP)
	$(BIN)/python -m tools.lock

# The wheel, the source archive, one folder with its own Python and a Debian package of it, in dist/.
PACKING := .venv-package
$(PACKING)/.ready: requirements.lock requirements-package.lock
	sh tools/system_libraries.sh $(SYSTEM)
	$(PYTHON) -m venv $(PACKING)
	$(PACKING)/bin/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	$(PACKING)/bin/python -m pip install --quiet --disable-pip-version-check --require-hashes -r requirements-package.lock
	touch $(PACKING)/.ready

package: $(PACKING)/.ready
	$(PACKING)/bin/python -m tools.package

# The package installed, used and removed in a clean root; needs root rights and debootstrap.
package-test: package
	$(PYTHON) -m tools.package_test

# Everything that has to be right before it is handed out.
release:
	sh tools/release.sh
