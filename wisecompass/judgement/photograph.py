"""A photograph of a sheet: the map from its pixels to the paper, found from places that are known, and the letters clicked
on it as readings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np

from wisecompass.drafting.errors import BadGiven
from wisecompass.judgement.hands import Floats

Spot: TypeAlias = tuple[float, float]

FEWEST = 4
"""So many known places fix a picture taken from anywhere."""

FLAT = 1e-6
"""Known places of which three lie so nearly in a line, as a share of how far they are apart, fix nothing."""


@dataclass(frozen=True)
class Fit:
    """The map from pixels to mm of paper (and back), as matrices of a projectivity, and how far the places that it was found
    from miss it: the root mean square, mm of paper. With four places alone there is nothing to miss."""

    matrix: Floats
    residual: float

    def paper(self, pixel: Spot) -> Spot:
        """Where on the paper a pixel lies, mm."""
        return _mapped(self.matrix, pixel)

    def pixel(self, spot: Spot) -> Spot:
        """Where on the picture a place of the paper lies."""
        return _mapped(np.asarray(np.linalg.inv(self.matrix), dtype=np.float64), spot)


def _mapped(matrix: Floats, spot: Spot) -> Spot:
    x, y, w = matrix @ np.array([spot[0], spot[1], 1.0])
    return float(x / w), float(y / w)


def fitted(pixels: Sequence[Spot], paper: Sequence[Spot]) -> Fit:
    """The projectivity from pixels to paper, by least squares over four places or more (the direct linear transformation on
    coordinates about their middle, Hartley 1997).

    Raises:
        BadGiven: fewer than four, or three of four in a line.
    """
    if len(pixels) < FEWEST or len(pixels) != len(paper):
        raise BadGiven("places", f"{len(pixels)} known places do not fix a photograph; at least {FEWEST} are needed")
    for places, what in ((pixels, "clicked"), (paper, "known")):
        if not _spread_out(np.array(places, dtype=float)):
            raise BadGiven(
                "places", f"the places {what} lie in a line, or two fall together; choose four that span the sheet"
            )
    own, there = _about_middle(np.array(pixels, dtype=float)), _about_middle(np.array(paper, dtype=float))
    rows = []
    for pixel, spot in zip(pixels, paper, strict=True):
        (u, v), (x, y) = _mapped(own, pixel), _mapped(there, spot)
        rows += [[u, v, 1, 0, 0, 0, -x * u, -x * v, -x], [0, 0, 0, u, v, 1, -y * u, -y * v, -y]]
    _, _, right = np.linalg.svd(np.array(rows))
    matrix = np.linalg.inv(there) @ right[-1].reshape(3, 3) @ own
    misses = [np.hypot(*(np.array(_mapped(matrix, p)) - np.array(s))) for p, s in zip(pixels, paper, strict=True)]
    return Fit(matrix, float(np.sqrt(np.mean(np.square(misses)))))


def _about_middle(places: Floats) -> Floats:
    """The similarity that brings places about zero, as far from it as √2 on average."""
    middle = places.mean(axis=0)
    size = np.sqrt(2) / max(float(np.hypot(*(places - middle).T).mean()), 1e-12)
    return np.array([[size, 0, -size * middle[0]], [0, size, -size * middle[1]], [0, 0, 1]])


def _spread_out(places: Floats) -> bool:
    """Whether some four of the places are such that no three of them lie in a line."""
    size = float(np.hypot(*(places - places.mean(axis=0)).T).max())
    if size == 0:
        return False
    least = FLAT * size * size

    def area(i: int, j: int, k: int) -> float:
        (ax, ay), (bx, by), (cx, cy) = places[i], places[j], places[k]
        return float(abs((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)))

    count = len(places)
    fours = ((i, j, k, m) for i in range(count) for j in range(i) for k in range(j) for m in range(k))
    return any(min(area(i, j, k), area(i, j, m), area(i, k, m), area(j, k, m)) > 1e4 * least for i, j, k, m in fours)


def taken_from(width: float, height: float, pixels: tuple[int, int], tilt: float, turn: float) -> Fit:
    """The map of a camera that looks at a sheet of a width and height in mm: tilted and turned by some degrees, so that the
    whole sheet fills a picture of so many pixels but for a margin."""
    corners = np.array([(0, 0), (width, 0), (width, height), (0, height)], dtype=float)
    about = corners - corners.mean(axis=0)
    spin, lean = np.radians(turn), np.radians(tilt)
    turned = about @ np.array([[np.cos(spin), np.sin(spin)], [-np.sin(spin), np.cos(spin)]])
    away = 2.2 * max(width, height)
    depth = away + turned[:, 1] * np.sin(lean)
    seen = np.stack([turned[:, 0] / depth, turned[:, 1] * np.cos(lean) / depth], axis=1) * away
    low, high = seen.min(axis=0), seen.max(axis=0)
    size = min(0.92 * pixels[0] / (high[0] - low[0]), 0.92 * pixels[1] / (high[1] - low[1]))
    middle = (low + high) / 2
    on_picture = [(pixels[0] / 2 + size * (x - middle[0]), pixels[1] / 2 - size * (y - middle[1])) for x, y in seen]
    return fitted(on_picture, [(float(x), float(y)) for x, y in corners])
