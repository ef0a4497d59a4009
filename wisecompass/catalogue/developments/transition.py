"""What patterns between two rims that are laid out by triangles share: findings, measuring, and what they are worth."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise

from wisecompass.arithmetic import Number, absolute, pi_times, roughly
from wisecompass.catalogue.developments.pattern import Fair, Net, Strip, around, fold
from wisecompass.catalogue.developments.rims import greatest, least
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Value
from wisecompass.drafting.step import Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import panels, plane
from wisecompass.geometry.curves import smooth_through
from wisecompass.geometry.plane import Point

FINDINGS = {
    "longest": Kind.LENGTH,
    "shortest": Kind.LENGTH,
    "lateral_area": Kind.AREA,
    "area": Kind.AREA,
    "perimeter": Kind.LENGTH,
    "seam_length": Kind.LENGTH,
    "generator_lengths": Kind.LENGTH,
    "refold_gap": Kind.LENGTH,
    "worst_gap": Kind.LENGTH,
}


def faired(b: Board) -> Fair:
    """A rim through the points as they were laid out."""

    def fair(through: Sequence[Point], title: str, pen: Pen) -> None:
        points = [p for k, p in enumerate(through) if not k or p is not through[k - 1]]
        spots = [(roughly(p.x), roughly(p.y)) for p in points]
        b.fair_curve(lambda: [(smooth_through(spots, closed=False), pen)], points, title, why="through the plotted points")

    return fair


def figures(lengths: Sequence[Number], lateral: Number, ends: Number, outline: Number) -> dict[str, Value]:
    """What every one reports; ``lengths`` are those of its lines from the seam round, ``outline`` that of all rims."""
    return {
        "longest": greatest(lengths),
        "shortest": least(lengths),
        "lateral_area": lateral,
        "area": lateral + ends,
        "perimeter": outline + lengths[0] * 2,
        "seam_length": lengths[0],
        "generator_lengths": tuple(lengths),
    }


def measure(b: Board, strip: Strip, ends: Number, outline: Number, begun: int, views: Views) -> None:
    """The same on the drawing; ``ends`` and ``outline`` are what the ends add."""
    lengths = [plane.distance(p, q) for p, q in zip(strip.lows, strip.highs, strict=True)][:-1]
    flat, net = strip.flat, panels.triangles(strip.names)
    sizes = [absolute(plane.polygon_area([flat[name] for name in panel.corners])) for panel in net]
    lateral, seam = sum(sizes[1:], sizes[0]), lengths[0]
    for name, value in figures(lengths, lateral, ends, around(strip.outline) - seam * 2 + outline).items():
        b.find(name, value)
    fold(b, Net(net, flat, strip.on_body), begun, (views.front_view.images, views.top_view.images))


def ends_of(kind: str, lower: tuple[Number, Number], upper: tuple[Number, Number]) -> tuple[Number, Number]:
    """Area and outline of the ends that are laid out, each given by these."""
    zero = lower[0] * 0
    if kind == "none":
        return zero, zero
    return lower if kind == "base" else (lower[0] + upper[0], lower[1] + upper[1])


def disc(diameter: Number) -> tuple[Number, Number]:
    """Area and girth of a circle."""
    return pi_times(diameter * diameter) / 4, pi_times(diameter)


def worth(found: Mapping[str, float]) -> str:
    return (
        f"the surface stands off the facets by up to {found['worst_gap']:.3f} mm; folded the pattern misses them by "
        f"{found['refold_gap']:.3f} mm"
    )


def show(b: Board, lower: Sequence[str], upper: Sequence[str], lines: Sequence[tuple[str, str]]) -> None:
    """Both rims and the lines between them, in the picture in space."""
    for row in (lower, upper):
        for p, q in pairwise([*row, row[0]]):
            b.in_space(p, q)
    for low, high in dict.fromkeys(lines):
        b.in_space(low, high)
