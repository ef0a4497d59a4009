"""What is said of a problem without loading it: its title, its methods, givens and findings in a drafter's words."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from typing import Any

from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.problem import Problem

FILE = Path(__file__).parent / "index.json"
"""Made by ``scripts/make_index.py``; a test holds it to the catalogue."""


def described(problem: Problem) -> dict[str, Any]:
    """The entry of a problem."""
    return {
        "title": problem.title,
        "brief": problem.brief,
        "methods": [method.name for method in problem.methods],
        "givens": {item.name: item.words for item in problem.given_list},
        "findings": {name: answer_words(name) for name in problem.findings},
        "forms": {item.name: item.form.value for item in problem.given_list},
        "kinds": {name: kind.value for name, kind in problem.findings.items()},
    }


@cache
def entries() -> dict[str, dict[str, Any]]:
    """All entries by id, in the order of study."""
    found: dict[str, dict[str, Any]] = json.loads(FILE.read_text(encoding="utf-8"))
    return found


def title(problem_id: str) -> str:
    """The title of a problem; of one that is not known what its id says."""
    entry = entries().get(problem_id)
    return entry["title"] if entry is not None else problem_id.split("/")[-1].replace("-", " ").capitalize()


@cache
def search_text(problem_id: str) -> str:
    """All words by which a problem is found, in small letters; none of one that is not known."""
    entry = entries().get(problem_id)
    if entry is None:
        return problem_id.casefold()
    words = (problem_id, entry["title"], entry["brief"], *entry["methods"], *entry["findings"], *entry["findings"].values())
    return " ".join(words).casefold()
