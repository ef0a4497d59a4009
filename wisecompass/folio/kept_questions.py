"""Questions that were found beforehand, of problems whose fair figures are rare or take long to draw: each was drawn once
and found fair on the smallest sheet. ``scripts/make_questions.py`` writes the file."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from wisecompass.folio.paper import Paper

FILE = Path(__file__).parent / "kept-questions.json"

SMALLEST = Paper()
"""The sheet that all of them fit: what is fair on it is so on every larger one."""


@dataclass(frozen=True)
class Kept:
    """Givens as typed in the problem's own order, the method, the solution that is lined in, and what kind of figure it
    is."""

    method: str
    solution: int
    kind: str
    values: tuple[str, ...]


@lru_cache(maxsize=1)
def _file() -> dict[str, Any]:
    found: dict[str, Any] = json.loads(FILE.read_text(encoding="utf-8")) if FILE.exists() else {}
    return found


def kept(problem_id: str) -> list[Kept]:
    """The questions that are kept of a problem."""
    return [Kept(method, solution, kind, tuple(values)) for method, solution, kind, values in _file().get(problem_id, ())]


def written(found: dict[str, list[Kept]]) -> str:
    """The text of the file."""
    rows = {
        problem: [[each.method, each.solution, each.kind, list(each.values)] for each in several]
        for problem, several in sorted(found.items())
    }
    lines = (
        f"{json.dumps(problem)}: [\n" + ",\n".join(json.dumps(row, ensure_ascii=False) for row in several) + "\n]"
        for problem, several in rows.items()
    )
    return "{\n" + ",\n".join(lines) + "\n}\n"


def fits(paper: Paper) -> bool:
    """Whether what is fair on the smallest sheet is fair on this one."""
    return paper.width >= SMALLEST.width and paper.height >= SMALLEST.height
