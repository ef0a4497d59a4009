# make demo   sets up and opens the desk on the sample folio
# make test   sets up and runs every check
export OPENBLAS_NUM_THREADS = 1

.PHONY: demo test setup lint unit campaign judge questions bench screenshots contact-sheet lock

PY = .venv/bin/python

demo: setup
	@$(PY) -m wisecompass.cli demo

test:
	@scripts/setup.sh test
	@$(PY) scripts/check.py

setup:
	@scripts/setup.sh

lint: setup
	@$(PY) scripts/check.py lint

unit: setup
	@$(PY) scripts/check.py unit

# The long trials: ten random walks of 300 acts, 200 kills while somebody types in a window, 200 while a process saves, every
# sheet redrawn blind for 50 random givens, every method held against its truth for 200, every pattern derived anew for 200,
# three wishes for every given of every problem, twenty sendings with every fault, every figure put together from pages.
campaign: setup
	@scripts/setup.sh test
	@WISE_COMPASS_SEEDS=10 WISE_COMPASS_ACTS=300 WISE_COMPASS_WINDOW_KILLS=200 WISE_COMPASS_KILLS=200 WISE_COMPASS_REFUSALS=50 \
		WISE_COMPASS_BLIND=50 WISE_COMPASS_ROUNDS=200 WISE_COMPASS_PATTERNS=200 WISE_COMPASS_TURNED=3 \
		WISE_COMPASS_SENDINGS=20 WISE_COMPASS_TILES=all \
		$(PY) scripts/check.py unit test_campaign.py test_files.py test_work.py test_offers.py test_blind.py test_every_problem.py test_patterns.py test_turned.py test_devices.py test_tiles.py

# How right verdicts are, over every method with five random givens and fresh hands; a table by problem.
judge: setup
	@scripts/setup.sh test
	@$(PY) scripts/judge.py

# Twenty-five questions of every problem, held against the proof; a table by problem.
questions: setup
	@$(PY) scripts/questions.py

bench: setup
	@$(PY) scripts/bench.py

screenshots: setup
	@$(PY) scripts/screenshots.py

contact-sheet: setup
	@$(PY) scripts/contact_sheet.py

# Pins every package for Python 3.11 to 3.13 again (needs uv).
lock:
	uv pip compile --universal --python-version 3.11 --extra dev --no-emit-index-url -q -o requirements.lock pyproject.toml
