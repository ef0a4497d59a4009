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
DRAFTING_FONT = FONTS / "mill-lettering.ttf"
DRAFTING_FAMILY = "Mill Lettering"
CAP_SHARE = 736 / 1024
"""Height of a capital of the drafting face as a share of its em (OS/2 table of the font)."""

FILING_EDGE, EDGE = 20.0, 10.0
"""From the paper's edge to the frame, on the left for filing and on the other sides (ISO 5457), mm on every size."""

CENTRING = 5.0
"""How far a centring mark runs on inside the frame."""

TITLE_ROW, FIELD_ROW = 13.0, 9.0
"""Heights of the title block's row of titles and of its row of fields."""

LARGEST_LETTERING = 2.5
"""Lettering grows with the sheet up to this many times its size on A4."""


@dataclass(frozen=True)
class Paper:
    """A sheet of paper; ``size`` is a key of ``SIZES``, unless it has its ``own`` width and height, mm."""

    size: str = "A4"
    landscape: bool = True
    own: tuple[float, float] | None = None

    @property
    def width(self) -> float:
        return self.own[0] if self.own else SIZES[self.size][int(self.landscape)]

    @property
    def height(self) -> float:
        return self.own[1] if self.own else SIZES[self.size][int(not self.landscape)]

    @property
    def frame(self) -> tuple[float, float, float, float]:
        """The drawing space: left, low, right, high."""
        return FILING_EDGE, EDGE, self.width - EDGE, self.height - EDGE

    @property
    def lettering(self) -> float:
        """How many times larger than on A4 lettering, border and margins are; on paper of its own size they are as on A4."""
        if self.own:
            return 1.0
        size = min(math.sqrt(self.width * self.height / (210.0 * 297.0)), LARGEST_LETTERING)
        return 1.0 if size < 1.05 else size


def on_paper(length: float, scale: Fraction) -> float:
    """What a true length measures on paper at a drawing scale."""
    return length * float(scale)


_ADVANCES = {
    **dict.fromkeys(" .,:;·|!'ijl", 0.4),
    "₁": 0.46,
    **dict.fromkeys("′″()[]", 0.47),
    **dict.fromkeys("1It-", 0.6),
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
