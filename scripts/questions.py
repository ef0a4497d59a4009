"""Many questions of every problem: each is solved, its answers are held against the proof, its figure against what is fair.
A table by problem: questions, kinds, how long one took.

Usage: questions.py [--each N] [--seed S] [PROBLEM ...]
"""

from __future__ import annotations

import argparse
import collections
import random
import statistics
import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from wisecompass import catalogue
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.solve import certify
from wisecompass.folio.paper import Paper
from wisecompass.folio.practice import LEAST_CROSSING, Question, Source, fairness
from wisecompass.folio.worksheets import Course, drawn


def wrong(question: Question) -> str:
    """What is wrong with a question, or nothing."""
    method = question.found.method(question.method)
    certificate = certify(question.found, question.typed, method, solution=question.solution)
    proved = {each.name: each.value for each in certificate.answers}
    for name, value in question.answers.items():
        told = proved[name]
        if not isinstance(told, float) or abs(told - value) > 1e-9 * (1 + abs(told)):
            return f"{name} is {told} and not {value}"
    return ""


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("problems", nargs="*")
    parser.add_argument("--each", type=int, default=25)
    parser.add_argument("--seed", type=int, default=int(time.time()))
    args = parser.parse_args()
    print(f"seed {args.seed}")
    total, bad, shallow = 0, 0, 0
    every: list[float] = []
    for each in args.problems or catalogue.ids():
        source = Source(catalogue.problem(each), random.Random(f"{args.seed}/{each}"))
        times: list[float] = []
        kinds: collections.Counter[str] = collections.Counter()
        angle, said = 90.0, ""
        for _ in range(args.each):
            begun = time.perf_counter()
            try:
                question = source.next()
            except WiseCompassError as reason:
                said = str(reason)
                break
            times.append(time.perf_counter() - begun)
            kinds.update(question.kind.split(", "))
            trouble = wrong(question)
            bad += bool(trouble)
            said = trouble or said
            crossing = fairness(drawn(question, Course()), Paper()).crossing
            shallow += crossing < LEAST_CROSSING
            angle = min(angle, crossing)
        total += len(times)
        every += times
        took = f"median {1e3 * statistics.median(times):4.0f} ms, at most {1e3 * max(times):5.0f}" if times else ""
        print(f"{each:40} {len(times):4}  {len(kinds):3} kinds  {took}  least crossing {angle:4.1f}°  {said}", flush=True)
    slow = sorted(every)[int(0.9 * len(every))]
    print(
        f"{total} questions, {bad} wrong, {shallow} with a crossing under {LEAST_CROSSING:g}° that the problem's own figure "
        f"has too; one takes {1e3 * statistics.median(every):.0f} ms, nine of ten at most {1e3 * slow:.0f}"
    )


if __name__ == "__main__":
    main()
