"""Letters clicked on a photograph of a sheet, as readings of its construction."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING

from wisecompass.drafting import marks
from wisecompass.drafting.errors import BadGiven
from wisecompass.folio.page import Page
from wisecompass.geometry.curves import Pair

if TYPE_CHECKING:
    from wisecompass.judgement.photograph import Fit
    from wisecompass.judgement.prepared import Reading

CORNERS = ("lower left", "lower right", "upper right", "upper left")
"""The corners of the paper, as they are asked for; any four lettered points serve as well."""

CLICKED = 0.15
"""How well a place is clicked on a picture, as a standard deviation, mm of paper."""

FEWEST = 4


@dataclass(frozen=True)
class Spot:
    """A lettered point of a page: its block, and where it lies on paper, mm."""

    name: str
    block: str
    at: Pair


def lettered(page: Page) -> dict[str, Spot]:
    """The points of a page that bear a letter and can be clicked, by name; of namesakes in several views the first."""
    found: dict[str, Spot] = {}
    for mark in page.marks:
        if isinstance(mark, marks.Dot) and mark.shown and mark.name and not mark.name.startswith("crossing"):
            found.setdefault(mark.name, Spot(mark.name, mark.block, (mark.x, mark.y)))
    return found


def corners(page: Page) -> dict[str, Pair]:
    """The corners of the paper by name, mm."""
    w, h = page.width, page.height
    return dict(zip(CORNERS, ((0.0, 0.0), (w, 0.0), (w, h), (0.0, h)), strict=True))


def fit_of(page: Page, clicked: Mapping[str, Pair]) -> Fit:
    """The map of a photograph from what was clicked: the corners of the paper where four of them were, else the letters.

    Raises:
        BadGiven: there are not four known places, or they lie in a line.
    """
    from wisecompass.judgement.photograph import fitted

    known: dict[str, Pair] = {name: at for name, at in corners(page).items() if name in clicked}
    if len(known) < FEWEST:
        known = {name: spot.at for name, spot in lettered(page).items() if name in clicked}
    return fitted([clicked[name] for name in known], [known[name] for name in known])


def readings(page: Page, clicked: Mapping[str, Pair], fit: Fit, reading: type[Reading]) -> dict[str, Reading]:
    """Where the letters clicked lie, as figures of the construction: ``C.x`` and ``C.y``, in mm of their block."""
    known = lettered(page)
    found: dict[str, Reading] = {}
    for name, pixel in clicked.items():
        if name in CORNERS:
            continue
        if name not in known:
            raise BadGiven("clicked", f"no point of this sheet is lettered “{name}”; it has {', '.join(known)}")
        placement = page.placements[known[name].block]
        x, y = placement.back(*fit.paper(pixel))
        spread = CLICKED / placement.scale
        found[f"{name}.x"], found[f"{name}.y"] = reading(x, spread), reading(y, spread)
    return found
