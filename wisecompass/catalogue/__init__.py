"""The problems, in the order of study. A problem is a file in its family's folder that defines ``PROBLEM``.

Adding one is writing that file and listing it in ``FAMILIES``. A problem is imported when it is asked for.
"""

from __future__ import annotations

from importlib import import_module

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import Unknown
from wisecompass.drafting.problem import Problem

FAMILIES: dict[str, tuple[str, ...]] = {
    "lines": (
        "perpendicular-bisector",
        "divide-equally",
        "divide-in-ratio",
        "square-at-end",
        "square-at-point",
        "square-from-point",
        "parallel-through-point",
        "parallel-at-distance",
        "bisect-angle",
        "bisect-angle-without-vertex",
        "trisect-right-angle",
        "copy-angle",
        "compass-angle",
        "root-length",
        "mean-proportional",
        "fourth-proportional",
    ),
    "triangles": (
        "three-sides",
        "two-sides-angle-between",
        "side-two-angles",
        "two-sides-angle-opposite",
        "hypotenuse-leg",
        "circumradius-two-angles",
        "base-altitude-apex-angle",
        "perimeter-base-angles",
        "perimeter-in-ratio",
        "inscribed-circle",
        "circumscribed-circle",
    ),
    "polygons": (
        "square-from-side",
        "square-in-circle",
        "regular-from-side",
        "regular-in-circle",
        "regular-about-circle",
        "octagon-in-square",
        "from-traverse",
    ),
    "tangency": (
        "line-from-point",
        "lines-outside-two-circles",
        "lines-across-two-circles",
        "arc-two-lines",
        "arc-line-circle",
        "arc-two-circles",
        "arc-point-line",
        "arc-point-circle",
        "arc-line-at-point",
        "arc-three-points",
        "arc-three-lines",
        "ogee-parallel-lines",
        "three-circles",
    ),
    "conics": (
        "ellipse",
        "ellipse-tangent-normal",
        "ellipse-tangent-from-point",
        "ellipse-touching-circle",
        "ellipse-axis-point",
        "ellipse-conjugate",
        "parabola-rectangle",
        "focus-directrix",
        "hyperbola-foci",
        "hyperbola-vertex-point",
        "hyperbola-rectangular",
    ),
    "loci": (
        "archimedean-spiral",
        "archimedean-tangent-normal",
        "logarithmic-spiral",
        "cycloid",
        "trochoid",
        "epicycloid",
        "hypocycloid",
        "epitrochoid",
        "hypotrochoid",
        "involute-circle",
        "involute-polygon",
        "helix",
        "conical-helix",
        "helical-strip",
        "coil-spring",
    ),
    "space": (
        "point",
        "line-from-ends",
        "line-inclined-to-both",
        "line-from-view-lengths",
        "lamina",
        "dihedral-angle",
        "line-meets-plane",
        "skew-lines",
        "point-to-plane",
        "hyperbolic-paraboloid",
    ),
    "solids": ("views", "section", "pipes-meeting", "cone-and-pipe", "crates"),
    "pictorial": ("box", "right-wedge", "circle", "polygon-block", "cylinder", "cone", "crates"),
    "developments": (
        "prism",
        "cylinder",
        "pyramid",
        "cone",
        "oblique-cone",
        "rectangle-to-rectangle",
        "square-to-round",
        "round-to-round",
        "elbow",
        "branch",
        "hemisphere",
        "tray",
        "twisted-strip",
    ),
}


def ids() -> list[str]:
    """Ids of all problems."""
    return [f"{family}/{name}" for family, names in FAMILIES.items() for name in names]


def problem(problem_id: str) -> Problem:
    """The problem of that id.

    Raises:
        Unknown: no such problem; the sentence names the likeliest.
    """
    family, _, name = problem_id.partition("/")
    if name not in FAMILIES.get(family, ()):
        import difflib

        close = difflib.get_close_matches(problem_id, ids(), 1, 0.4) or ids()[:1]
        raise Unknown(f"there is no problem “{quoted(problem_id)}”; did you mean {close[0]}?")
    module = import_module(f"{__name__}.{family}.{name.replace('-', '_')}")
    found: Problem = module.PROBLEM
    return found
