"""Paper sizes, drawing scales and the measures of lettering. All lengths are mm on paper."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

SIZES: dict[str, tuple[float, float]] = {
    "A4": (210.0, 297.0),
    "A3": (297.0, 420.0),
    "A2": (420.0, 594.0),
    "A1": (594.0, 841.0),
    "A0": (841.0, 1189.0),
    "Letter": (215.9, 279.4),
}

FONTS = Path(__file__).parent / "fonts"
DRAFTING_FONT = FONTS / "routed-gothic.ttf"
DRAFTING_FAMILY = "Routed Gothic"
CAP_SHARE = 736 / 1024
"""Height of a capital of the drafting face as a share of its em (OS/2 table of the font)."""

FRAME = 8.0
"""Border to paper edge."""

STRIP = 14.0
"""Height of the title strip inside the border."""

LARGEST_LETTERING = 2.5
"""Lettering grows with the sheet up to this many times its size on A4."""

_STEPS = [Fraction(step) * 10**power for power in range(7) for step in ("1", "1.5", "2", "2.5", "5")]

SCALES: tuple[Fraction, ...] = tuple(sorted({*_STEPS, *(1 / step for step in _STEPS)}, reverse=True))
"""Drawing scales, largest first: the steps of ISO 5455, with 1.5 and 2.5 between them where those leave paper empty."""


@dataclass(frozen=True)
class Paper:
    """A sheet of paper; ``size`` is a key of ``SIZES``."""

    size: str = "A4"
    landscape: bool = True

    @property
    def width(self) -> float:
        return SIZES[self.size][int(self.landscape)]

    @property
    def height(self) -> float:
        return SIZES[self.size][int(not self.landscape)]

    @property
    def lettering(self) -> float:
        """How many times larger than on A4 lettering, border and margins are."""
        size = min(math.sqrt(self.width * self.height / (210.0 * 297.0)), LARGEST_LETTERING)
        return 1.0 if size < 1.05 else size


def scale_text(scale: Fraction) -> str:
    """``1:1``, ``2:1``, ``1:2.5``."""
    return f"{float(scale):g}:1" if scale >= 1 else f"1:{float(1 / scale):g}"


def on_paper(length: float, scale: Fraction) -> float:
    """What a true length measures on paper at a drawing scale."""
    return length * float(scale)


_ADVANCES = {
    **dict.fromkeys(" .,:;·|!'ijl₁", 0.4),
    **dict.fromkeys("′″()[]", 0.47),
    **dict.fromkeys("1It-", 0.57),
    **dict.fromkeys("rf°", 0.66),
    **dict.fromkeys("₀₂₃₄₅₆₇₈₉–v/", 0.75),
    **dict.fromkeys("mMW", 1.2),
}
"""Advance of the drafting face's signs as a share of the height of its capitals, where it is not the usual one."""


def text_width(text: str, height: float) -> float:
    """Width of lettering with capitals ``height`` mm high, a little on the generous side."""
    return height * _width_share(text)


@lru_cache(maxsize=4096)
def _width_share(text: str) -> float:
    return sum(_ADVANCES.get(c, 0.95 if c.isupper() or c.isdigit() else 0.82) for c in text)
