"""Write the questions that are kept of problems whose fair figures take long to find. Run it when a method's drawing or the
numbers of a problem change; it takes some minutes on all cores.

Usage: make_questions.py [PROBLEM ...]
"""

from __future__ import annotations

import random
import sys
import time
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from wisecompass import catalogue
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.folio import kept_questions
from wisecompass.folio.kept_questions import Kept
from wisecompass.folio.practice import Source

MANY = 96
"""Questions of a problem."""

TRIED, SLOW = 12, 0.008
"""After so many questions it is known whether one takes so many seconds on average: of quicker problems none are kept."""


def found(problem_id: str) -> tuple[str, list[Kept]]:
    """The questions of one problem; none if they are found quickly."""
    problem = catalogue.problem(problem_id)
    source, several = Source(problem, random.Random(f"kept/{problem_id}"), keep=False), list[Kept]()
    names = [item.name for item in problem.given_list]
    start = time.process_time()
    for n in range(MANY):
        try:
            question = source.next()
        except WiseCompassError:
            break
        several.append(
            Kept(question.method, question.solution, question.kind, tuple(question.givens[name] for name in names))
        )
        if n + 1 == TRIED and time.process_time() - start < TRIED * SLOW:
            return problem_id, []
    return problem_id, several


def main() -> None:
    wanted = sys.argv[1:] or catalogue.ids()
    known = {each: kept_questions.kept(each) for each in catalogue.ids()} if sys.argv[1:] else {}
    with ProcessPoolExecutor() as pool:
        for problem_id, several in pool.map(found, wanted):
            known[problem_id] = several
            print(f"{problem_id}: {len(several)}", flush=True)
    text = kept_questions.written({each: several for each, several in known.items() if several})
    kept_questions.FILE.write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
