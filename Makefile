# Everything a fresh machine needs is in `make demo` and `make test`; both set up what is missing.
PYTHON ?= python3
BIN := .venv/bin
SETUP := $(PYTHON) tools/set_up.py
# Byte code is kept, whatever is set outside: each suite imports what another has compiled.
unexport PYTHONDONTWRITEBYTECODE

.PHONY: docs nightly setup demo mdf test test-core test-rest test-window test-display quick golden house mutants lint bench fuzz listening crash screens wheel deb demo-data demo-sound lock

# WITH=outside: references and recorded data that are heavy to install; what they alone hold up is skipped without them.
WITH ?=
setup:
	@$(SETUP) run test $(WITH)

demo:
	@$(SETUP) run
	@$(BIN)/mirkle demo

# What reads MDF4 measurement files: 150 MB that few crews need.
mdf:
	@$(SETUP) run mdf

# Everything without Qt; the window offscreen, and on a real display what a real display can change: keys, focus, sound, pictures.
WITHOUT_QT := MIRKLE_TESTS_WITHOUT_QT=1 $(BIN)/python -m pytest -p no:pytest-qt
ON_A_DISPLAY := tests/gui/test_job.py tests/gui/test_sound.py tests/gui/test_questions.py
# The longest first: so many go on at a time, and what each prints stays together; ALSO=lint has the linters beside them.
JOBS ?= 2
SUITES := test-rest test-core test-window test-display

test: setup
	@$(MAKE) --no-print-directory -j$(JOBS) --keep-going --output-sync=target $(SUITES) $(ALSO)

test-core: setup
	$(WITHOUT_QT) tests/core

test-rest: setup
	$(WITHOUT_QT) tests --ignore tests/core --ignore tests/gui

test-window: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest tests/gui $(ON_A_DISPLAY:%=--ignore=%)

test-display: setup
	xvfb-run -a -s "-screen 0 1400x1000x24" env QT_QPA_PLATFORM=xcb $(BIN)/python -m pytest $(ON_A_DISPLAY)

# Under a minute: linters, types, and the tests of the core that make no world of their own.
WORLDS := $(addprefix tests/core/test_,$(addsuffix .py,causes corners_judged driving followup listening parameters passes promises rehearsal remarks symmetries unsmoothed written_remarks))
quick: lint
	$(WITHOUT_QT) -q tests/core $(WORLDS:%=--ignore=%)

# What the program writes for the demo and twelve worlds, held against what it wrote before; bench/golden.py --renew keeps it anew.
golden: setup
	$(BIN)/python bench/golden.py

# How many seeded changes to the core its tests notice; more than an hour on two processors.
mutants: setup
	$(BIN)/python bench/mutants.py

# What the house looks like in figures: branches, parameters, unnamed numbers, comments and lines.
house: setup
	$(BIN)/python bench/house.py

lint: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports

# What is too long for every change, once a night: harmed files, killed writers, worlds that no fit has opened; every seed is the command's own.
nightly: fuzz crash golden docs
	MIRKLE_NEW_EXAMPLES=1 $(MAKE) --no-print-directory test-core test-rest
	$(BIN)/python bench/trust.py --worlds 10
	$(BIN)/python bench/trust.py --third --worlds 40
	$(BIN)/python bench/books.py
	$(BIN)/python bench/spoken.py --show 0
	$(BIN)/python bench/reading.py
	$(BIN)/python bench/seasons.py
	$(BIN)/python bench/seasons.py --rough
	$(BIN)/python bench/misheard.py

bench: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python bench/bench.py
	$(BIN)/python bench/shelf.py
	$(BIN)/python bench/road.py
	$(BIN)/python bench/books.py
	$(BIN)/python bench/spoken.py --show 0
	$(BIN)/python bench/reading.py
	$(BIN)/python bench/accuracy.py
	$(BIN)/python bench/trust.py
	$(BIN)/python bench/trust.py --third --worlds 40

# Writers killed in the middle of what they keep, projects that somebody damaged, and copies that are merged: nothing may be lost, everything
# else has to open.
KILLS ?= 300
crash: setup
	$(BIN)/python bench/kills.py --kills $(KILLS)
	$(BIN)/python bench/harmed_projects.py --count $(KILLS)
	$(BIN)/python bench/merges.py

# A wheel and a source archive in dist/.
wheel: setup
	$(BIN)/python -c "import setuptools.build_meta as b; b.build_sdist('dist'); b.build_wheel('dist')"

# A Debian package in dist/, for the Python of the Debian it is for: make deb FOR=3.13
deb:
	$(PYTHON) tools/deb.py $(FOR)

# Harmed files of every kind, and files made to hurt a reader.
fuzz: setup
	$(BIN)/python bench/fuzz.py --count 10000
	$(BIN)/python bench/hostile.py

# Needs the synthesisers of Debian's espeak-ng and flite.
listening: setup
	$(BIN)/python bench/listening.py

# The documentation as pages in dist/docs: links that lead nowhere are errors, and the examples for Python are run.
docs:
	@$(SETUP) run docs
	$(BIN)/sphinx-build -q -W --keep-going -b html docs dist/docs
	$(BIN)/sphinx-build -q -W -b doctest docs dist/doctest

screens: setup
	$(BIN)/python -m mirkle.gui.screens docs/screenshots

demo-data: setup
	$(BIN)/python -m mirkle.synthetic.slatehook
	$(BIN)/python -m mirkle.synthetic.isle_rally
	$(BIN)/python -m mirkle.synthetic.first_book

# The synthesiser is a package that nothing else needs.
DEMO := src/mirkle/share/demo
demo-sound:
	@$(SETUP) run sound
	$(BIN)/python -m mirkle.synthetic.voice
	$(BIN)/python -m mirkle.synthetic.camera
	$(BIN)/mirkle listen $(DEMO)/slatehook-morning.opus --notes $(DEMO)/slatehook-notes.txt --run $(DEMO)/slatehook-morning.csv.gz --calls $(DEMO)/slatehook-morning-blocks.vtt --keep $(DEMO)/slatehook-morning-heard.json
	$(BIN)/mirkle listen $(DEMO)/slatehook-third.mkv --notes $(DEMO)/slatehook-afternoon-notes.txt --keep $(DEMO)/slatehook-third-heard.json

# Needs uv; the locks name no index, so they work with any. Versions stay unless requirements/*.in ask for others.
lock:
	for part in run test outside mdf sound docs uv; do \
		uv pip compile -q --generate-hashes --no-emit-index-url --python-version 3.11 --custom-compile-command "make lock" \
			-o requirements/$$part.txt requirements/$$part.in || exit 1; \
	done
