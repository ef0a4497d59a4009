"""Runs every check: ruff, mypy, import-linter and the tests. The last line is "N passed, N failed".

Usage: check.py [lint | unit [PATTERN]]
"""

from __future__ import annotations

import os
import subprocess
import sys
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
BIN = Path(sys.executable).parent
LINTERS = (
    ("ruff check", [BIN / "ruff", "check", "."]),
    ("ruff format", [BIN / "ruff", "format", "--check", "-q", "."]),
    ("mypy", [BIN / "mypy"]),
    ("import-linter", [BIN / "lint-imports"]),
)


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


def unit(pattern: str = "test_*.py") -> tuple[int, int]:
    """(passed, failed) of the tests."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    os.environ.setdefault("QT_LOGGING_RULES", "*.warning=false")  # the offscreen platform says at every window what it lacks
    sys.path.insert(0, str(ROOT))
    suite = unittest.TestLoader().discover(str(ROOT / "tests"), pattern, str(ROOT))
    result = unittest.TextTestRunner(stream=sys.stdout, verbosity=1).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    return result.testsRun - failed - len(result.skipped), failed


def main() -> int:
    what = sys.argv[1:2]
    passed = failed = 0
    if what in ([], ["lint"]):
        passed, failed = lint()
    if what in ([], ["unit"]):
        more, worse = unit(*sys.argv[2:3])
        passed, failed = passed + more, failed + worse
    print(f"{passed} passed, {failed} failed", flush=True)
    return 1 if failed or not passed else 0


if __name__ == "__main__":
    sys.exit(main())
