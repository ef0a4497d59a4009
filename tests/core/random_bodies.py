"""Random bodies of parts, as text and as parts, on a grid where faces often lie flush, or anywhere."""

from __future__ import annotations

import random
from collections.abc import Sequence

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.catalogue.solids.crate_plan import in_floats
from wisecompass.drafting.givens import bind
from wisecompass.geometry.parts import Part

KINDS = ("box", "wedge", "prism", "cylinder", "cone")
WAYS = {"wedge": ("rising", ("left", "right", "front", "back"))}
AXES = ("along", ("right", "back", "up"))


def text(rng: random.Random, kinds: Sequence[str] = KINDS, most: int = 5) -> str:
    """A body of two to ``most`` parts, the first a box."""
    grid = rng.random() < 0.6

    def size(low: int, high: int) -> str:
        return str(rng.randint(low, high) * 3) if grid else f"{rng.uniform(low, high) * 3:.2f}"

    lines = []
    for n in range(rng.randint(2, most)):
        kind = rng.choice(kinds) if n else "box"
        less = "less " if n and rng.random() < 0.35 else ""
        at = f"at {size(0, 8)} {size(0, 8)} {size(0, 8)}"
        if kind in ("box", "wedge"):
            sizes = f"{size(2, 10)} {size(2, 10)} {size(2, 10)}"
        elif kind == "prism":
            sizes = f"{rng.randint(3, 8)} {size(1, 4)} {size(3, 10)}"
        else:
            sizes = f"{size(2, 8)} {size(3, 10)}"
        word, ways = WAYS.get(kind, AXES)
        way = "" if kind == "box" else f" {word} {rng.choice(ways)}"
        lines.append(f"{less}{kind} {sizes} {at}{way}")
    return "; ".join(lines)


def parts(written: str) -> tuple[Part, ...]:
    """The parts of a text, in floats."""
    problem = catalogue.problem("solids/crates")
    return in_floats(bind(problem.givens, problem.read({"parts": written}), PLAIN).parts)
