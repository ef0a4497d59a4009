"""Drawing scales: those of ISO 5455, and what somebody types for one."""

from __future__ import annotations

import re
from fractions import Fraction

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadGiven

_ISO = [Fraction(step) * 10**power for power in range(7) for step in (1, 2, 5)]
_BETWEEN = [Fraction(step) * 10**power for power in range(7) for step in ("1.5", "2.5")]

LARGEST, SMALLEST = Fraction(1000), Fraction(1, 10_000)
"""Beyond these nobody asks for a scale. A figure of kilometres is still fitted to its paper."""


def _both_ways(steps: list[Fraction]) -> tuple[Fraction, ...]:
    every = {*steps, *(1 / step for step in steps)}
    return tuple(sorted((scale for scale in every if scale <= LARGEST), reverse=True))


SCALES = _both_ways(_ISO)
"""The scales of ISO 5455, largest first."""

WITH_BETWEEN = _both_ways([*_ISO, *_BETWEEN])
"""The same with steps between them, where those leave paper empty."""

_RATIO = re.compile(r"\s*(\d{1,9}(?:[.,]\d{1,6})?)\s*:\s*(\d{1,9}(?:[.,]\d{1,6})?)\s*")


def scale_text(scale: Fraction) -> str:
    """``1:1``, ``2:1``, ``1:2.5``."""
    return f"{float(scale):g}:1" if scale >= 1 else f"1:{float(1 / scale):g}"


def read_scale(text: str) -> Fraction | None:
    """``1:2`` as a number; None for "fit".

    Raises:
        BadGiven: neither, or beyond 1:10000 and 1000:1.
    """
    if text.strip().lower() == "fit":
        return None
    match = _RATIO.fullmatch(text)
    above, below = (Fraction(part.replace(",", ".")) for part in match.groups()) if match else (0, 0)
    if not above or not below:
        raise BadGiven("scale", f"scale “{quoted(text)}” is neither “fit” nor a ratio such as 1:2", "fit")
    scale = Fraction(above) / Fraction(below)
    if not SMALLEST <= scale <= LARGEST:
        nearest = scale_text(min(max(scale, SMALLEST), LARGEST))
        raise BadGiven(
            "scale", f"scale {quoted(text)} is beyond 1:10000 and 1000:1; the nearest that works is {nearest}", nearest
        )
    return scale
