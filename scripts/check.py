"""Runs every check: ruff, mypy, import-linter and the tests. The last line is "N passed, N failed".

Usage: check.py [lint | unit [PATTERN ...]]
"""

from __future__ import annotations

import ast
import os
import re
import subprocess
import sys
import time
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

LONG = ("test_every_problem",)
"""Files of tests that take long, and are run test by test: those that make nothing once for all of their tests."""

FIRST = (
    "test_exchange",
    "test_desk",
    "test_bodies",
    "test_crate_pictures",
    "test_bad_input",
    "test_nesting",
    "test_campaign",
    "test_corners",
    "test_offers",
    "test_independence",
    "test_patterns",
    "test_solids",
    "test_curves",
    "test_turned",
)
"""Files that take long although they are short; they too begin early, so that no core waits for them in the end."""


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
    """(passed, failed) of the tests; the output of those that a pattern asked for is shown. Each file runs in a process of
    its own, as many at once as there are cores; those that take long begin first, test by test."""
    found = sorted({file for pattern in patterns or ("test_*.py",) for file in (ROOT / "tests").rglob(pattern)})
    found.sort(key=lambda file: (file.stem not in LONG, file.stem not in FIRST, -file.stat().st_size))
    jobs = [job for file in found for job in jobs_of(file)]
    passed = failed = 0
    with ThreadPoolExecutor(os.cpu_count() or 1) as pool:
        for job, (good, bad, text, seconds) in zip(jobs, pool.map(one_job, jobs), strict=True):
            passed, failed = passed + good, failed + bad
            print(f"{job}: {good} passed, {bad} failed in {seconds:.0f} s", flush=True)
            if bad or patterns:
                print(text, flush=True)
    return passed, failed


def jobs_of(file: Path) -> list[str]:
    """A file as the name of a module; one that takes long as the names of its tests."""
    module = ".".join(file.relative_to(ROOT).with_suffix("").parts)
    if file.stem not in LONG:
        return [module]
    classes = [node for node in ast.parse(file.read_text()).body if isinstance(node, ast.ClassDef)]
    return [
        f"{module}.{one.name}.{test.name}"
        for one in classes
        for test in one.body
        if isinstance(test, ast.FunctionDef) and test.name.startswith("test_")
    ]


def one_job(job: str) -> tuple[int, int, str, float]:
    """(passed, failed, output, seconds) of a module or a test, run alone."""
    start = time.monotonic()
    command = [sys.executable, __file__, "file", job]
    run = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, errors="replace", check=False)
    took = time.monotonic() - start
    found = re.search(r"^(\d+) ran, (\d+) skipped, (\d+) bad$", run.stdout, re.MULTILINE)
    if found is None:
        return 0, 1, f"{run.stdout}{run.stderr}\nended with {run.returncode}", took
    ran, skipped, bad = map(int, found.groups())
    return ran - skipped - bad, bad, run.stdout + (run.stderr if bad else ""), took


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
    with ThreadPoolExecutor(1) as beside:  # the linters take one core, the tests what is left
        linted = beside.submit(lint) if what in ([], ["lint"]) else None
        tested = unit(*sys.argv[2:]) if what in ([], ["unit"]) else (0, 0)
        passed, failed = map(sum, zip(tested, linted.result() if linted else (0, 0), strict=True))
    print(f"{passed} passed, {failed} failed", flush=True)
    return 1 if failed or not passed else 0


if __name__ == "__main__":
    sys.exit(main())
