"""Runs every check: ruff, mypy, import-linter and the tests. The last line is "N passed, N failed".

Usage: check.py [lint | unit [PATTERN ...]]
"""

from __future__ import annotations

import os
import re
import subprocess
import sys
import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
BIN = Path(sys.executable).parent
LINTERS = (
    ("ruff check", [BIN / "ruff", "check", "."]),
    ("ruff format", [BIN / "ruff", "format", "--check", "-q", "."]),
    ("mypy", [BIN / "mypy"]),
    ("import-linter", [BIN / "lint-imports"]),
)

WEIGHTS = {"test_every_problem": 1000, "test_bad_input": 900}
"""Files of tests that take long, so that they are not left for the end."""


def lint() -> tuple[int, int]:
    """(passed, failed) of the linters; the output of a failed one is shown."""
    failed = 0
    for name, command in LINTERS:
        run = subprocess.run([str(part) for part in command], cwd=ROOT, capture_output=True, text=True, check=False)
        print(f"{name}: {'clean' if run.returncode == 0 else 'FAILED'}", flush=True)
        if run.returncode:
            failed += 1
            print(run.stdout + run.stderr, flush=True)
    return len(LINTERS) - failed, failed


def unit(*patterns: str) -> tuple[int, int]:
    """(passed, failed) of the tests. Each file runs in a process of its own, as many at once as there are cores; the
    largest begin first."""
    found = {file for pattern in patterns or ("test_*.py",) for file in (ROOT / "tests").rglob(pattern)}
    files = sorted(found, key=lambda file: -WEIGHTS.get(file.stem, file.stat().st_size / 1000))
    passed = failed = 0
    with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
        for file, (good, bad, text) in zip(files, pool.map(one_file, files), strict=True):
            passed, failed = passed + good, failed + bad
            print(f"{file.relative_to(ROOT)}: {good} passed, {bad} failed", flush=True)
            if bad:
                print(text, flush=True)
    return passed, failed


def one_file(file: Path) -> tuple[int, int, str]:
    """(passed, failed, output) of one file of tests, run alone."""
    module = ".".join(file.relative_to(ROOT).with_suffix("").parts)
    run = subprocess.run(
        [sys.executable, __file__, "file", module], cwd=ROOT, capture_output=True, text=True, errors="replace", check=False
    )
    found = re.search(r"^(\d+) ran, (\d+) skipped, (\d+) bad$", run.stdout, re.MULTILINE)
    if found is None:
        return 0, 1, f"{run.stdout}{run.stderr}\nended with {run.returncode}"
    ran, skipped, bad = map(int, found.groups())
    return ran - skipped - bad, bad, run.stdout + run.stderr


def run_file(module: str) -> int:
    """Run one file of tests in this process."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    os.environ.setdefault("QT_LOGGING_RULES", "*.warning=false")  # the offscreen platform says at every window what it lacks
    sys.path.insert(0, str(ROOT))
    suite = unittest.TestLoader().loadTestsFromName(module)
    result = unittest.TextTestRunner(stream=sys.stdout, verbosity=1).run(suite)
    bad = len({str(test) for test, _ in (*result.failures, *result.errors)}) + len(result.unexpectedSuccesses)
    print(f"{max(result.testsRun, bad)} ran, {len(result.skipped)} skipped, {bad} bad", flush=True)
    return 1 if bad else 0


def main() -> int:
    what = sys.argv[1:2]
    if what == ["file"]:
        return run_file(sys.argv[2])
    passed = failed = 0
    if what in ([], ["lint"]):
        passed, failed = lint()
    if what in ([], ["unit"]):
        more, worse = unit(*sys.argv[2:])
        passed, failed = passed + more, failed + worse
    print(f"{passed} passed, {failed} failed", flush=True)
    return 1 if failed or not passed else 0


if __name__ == "__main__":
    sys.exit(main())
