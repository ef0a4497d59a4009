"""The saddle: a hyperbolic paraboloid over an ellipse, by its straight elements.

A and C lie on HP at the ends of the plan's major axis, B and D high over the ends of its minor axis; elements join equal
divisions of opposite sides and run on to the ellipse.  Truth: z = h/2·(1 - x²/a² + y²/b²), which is straight along all four
sides; the rim's elevation is z = h·(1 - x²/a²).
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, hypot, root, tan_deg
from wisecompass.drafting import givens
from wisecompass.drafting.auxiliary import auxiliary
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare, reckoned, span
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3


@dataclass(frozen=True)
class Saddle(Givens):
    major: Number = givens.length("major axis", "144")
    side_angle: Number = givens.angle("angle of the sides to the major axis in plan", "32", "5", "80")
    rise: Number = givens.length("rise", "46")
    elements: int = givens.count("elements a side", "6", 3, 24)


def _half_minor(g: Saddle) -> Number:
    return g.major / 2 * tan_deg(g.side_angle)


def _axis_front(g: Saddle) -> Number:
    """How far the major axis is set in front of VP, so that the plan stands clear of the fold line."""
    return _half_minor(g) + g.major / 8


def _reach(g: Saddle, k: int) -> Number:
    """Half the chord of element k as a share of a and b: √(1/2 - c²/4) with c = 2k/n - 1."""
    c = _share(g, k)
    return root((2 - c * c) / 4)


def _share(g: Saddle, k: int) -> Number:
    """c = 2k/n - 1: how far element k runs from the middle."""
    return (g.major - g.major + 2 * k) / g.elements - 1


def truth(g: Saddle, number: Make) -> Truth:
    a, b, h, axis = g.major / 2, _half_minor(g), g.rise, _axis_front(g)
    zero = number(0)
    square = a * a + b * b
    level = h * a * a / square  # where the shortest line between AB and CD lies
    offset = a * b * b / square
    points: dict[str, Point | Point3] = {
        "A": Point3(zero, axis, zero),
        "B": Point3(a + 0, axis + b, h + 0),
        "C": Point3(g.major + 0, axis, zero),
        "D": Point3(a + 0, axis - b, h + 0),
        "O": Point3(a + 0, axis, h / 2),
        "G": Point3(a - offset, axis + a * a * b / square, level),
        "H": Point3(a + offset, axis - a * a * b / square, level),
    }
    lengths = []
    for k in range(g.elements + 1):
        c, w = _share(g, k), _reach(g, k)
        lengths.append(2 * w * root(square + h * h * c * c))
        for name, x in ((f"P{k}", c / 2 - w), (f"Q{k}", c / 2 + w)):
            points[name] = Point(a + a * x, h * (1 - x * x))
        if 0 < k < g.elements:
            points[f"R{k}"] = Point(a + a * c, h * (1 - c * c) / 2)
    return Truth(
        points=points,
        findings={
            "minor": 2 * b,
            "saddle_height": h / 2,
            "section_radius": b * b / h,
            "shortest_distance": 2 * a * b / root(square),
            "element_lengths": tuple(lengths),
        },
    )


@method("straight elements", Exactness.EXACT_POINTS)
def straight_elements(b: Board, g: Saddle) -> None:
    views = _corners(b, g)
    low, up = views.top_view, views.front_view
    rim, plans, elevations = _elements(b, g, views)
    middle = low.images["O"]
    half, across = g.major / 2, plane.distance(middle, low.images["B"])
    b.find("minor", across * 2)
    in_plan = [end for k in range(g.elements + 1) for end in _ends(b, k, low)]
    b.fair_ellipse(middle, half, across, 0, in_plan, why="the rim in plan")
    b.plot(*rim)
    ends = sorted(rim, key=lambda p: float(p.x)) if b.drawing else rim
    b.fair_curve(lambda: _rim(g), ends, "rim", why="the rim in elevation")
    with b.wish("contour"):
        _contour(b, g, views, plans, elevations)
    sides = (("A", "B"), ("B", "C"), ("C", "D"), ("D", "A"))
    b.line_in(*((view.images[p], view.images[q]) for view in (up, low) for p, q in sides), why="the sides in both views")
    for p, q in sides:
        b.in_space(p, q)
    _section(b, g, views, plans, elevations)
    _shortest(b, views)
    _true_lengths(b, g, views, rim)
    with b.wish("end view", usual=False):
        _end_view(b, g, views)
    b.dimension(low.images["A"], low.images["C"], offset=-8, clear=across, text_at=0.3)
    b.dimension(low.images["D"], low.images["B"], offset=8, clear=half, text_at=0.3)


def _corners(b: Board, g: Saddle) -> Views:
    """Both views of the rhombus: its plan by its angle, its elevation by its rise."""
    clear = _axis_front(g)
    views = Views.on(b, clear + _half_minor(g) + g.rise + g.major / 6)
    half = ("*", ("/", "major", 2), ("tan", "side_angle"))
    zero, front = b.number(0), reckoned(clear, ("+", half, ("/", "major", 8)))
    views.set_out("A", zero, front, zero)
    views.set_out("C", g.major + 0, front, zero)
    views.letter_fold()
    low, up = views.top_view, views.front_view
    axis = views.join(low, "A", "C", why="the major axis", pen=Pen.CENTRE)
    rises = b.unless(from_minor_axis.name, g.side_angle + 0, lambda: 90 - g.side_angle)
    rays = {
        (corner, sign): b.protract(axis, low.images[corner], turn, f"side {name}", why="the side in plan")
        for corner, sign, turn, name in (
            ("A", -1, -rises, "ab"),
            ("C", -1, 180 + rises, "cb"),
            ("A", 1, rises, "ad"),
            ("C", 1, 180 - rises, "cd"),
        )
    }
    views.mark(low, "B", rays["A", -1], rays["C", -1])
    views.mark(low, "D", rays["A", 1], rays["C", 1])
    views.drawn(low, "AB", rays["A", -1])
    views.drawn(low, "CD", rays["C", 1])
    cross = views.join(low, "B", "D", why="the minor axis", pen=Pen.CENTRE)
    views.mark(low, "O", axis, cross)
    b.caution("B and D are high, A and C on HP: the surface is a saddle, not a cap.")
    upright = b.upright_line(low.images["O"], "projector of B and D", why="up to the fold line and on")
    foot = b.meet(upright, views.ground)
    up.images["B"] = up.images["D"] = b.lay_off(upright, foot, g.rise, up.label("B"), why="the rise")
    views.projectors["B"] = upright
    views.feet["B"] = foot
    b.touch(upright, low.images["D"])
    for name in "BD":
        views.know(name)
    return views


def _elements(b: Board, g: Saddle, views: Views) -> tuple[list[Point], list[Line], list[Line]]:
    """All elements in both views; the ends of each on the ellipse come from the circle on the major axis, in which the
    rhombus is a square and the elements stand at 45°. Returns the rim's points in elevation,
    and the elements in plan and in elevation."""
    low, up, n = views.top_view, views.front_view, g.elements
    a, middle = low.images["A"], low.images["O"]
    circle = b.arc(middle, g.major / 2, whole=True, name="circle on AC", why="the ellipse is this circle flattened")
    corner = b.meet(circle, views.line_of(low, "B", "D"), plane.lower, low.label("E"))
    b.line(a, corner, "side of the square")
    names = [f"{k}" for k in range(1, n)]
    on_square = [a, *b.divide(a, corner, n, [f"{k} of ae" for k in names], why="as many parts as elements"), corner]
    sides = {pair: _divided(b, views, pair, n) for pair in ("AB", "DC")}
    others = {pair: _divided_in(b, low, pair, n) for pair in ("AD", "BC")}
    b.caution("Like numbers of opposite sides belong together, both counted from the low corner to the high one and on.")
    plans = _joined(b, sides["AB"][0], sides["DC"][0], "element {}")
    elevations = _joined(b, sides["AB"][1], sides["DC"][1], "element {}′")
    slants = [b.set_square_line(at, 45, f"slant {k}", why="the element in the circle") for k, at in enumerate(on_square)]
    ends = []
    for k, slant in enumerate(slants):
        b.pencil()
        ends.append(b.both(slant, circle, (f"u{k}", f"v{k}"), plane.leftmost))
    found: dict[str, list[Point]] = {"P": [], "Q": []}
    for letter, at in (("P", 0), ("Q", 1)):
        for k, (plan, elevation) in enumerate(zip(plans, elevations, strict=True)):
            upright = b.upright_line(ends[k][at], f"projector {letter}{k}")
            low.images[f"{letter}{k}"] = b.meet(upright, plan, name=low.label(f"{letter}{k}"))
            up.images[f"{letter}{k}"] = b.meet(upright, elevation, name=up.label(f"{letter}{k}"))
            found[letter].append(up.images[f"{letter}{k}"])
            b.from_zero[found[letter][-1].name] = f"{letter}{k}"
    rim = [end for pair in zip(found["P"], found["Q"], strict=True) for end in pair]
    pairs = zip(others["AD"][1:-1], others["BC"][1:-1], strict=True)
    b.line_in(*pairs, why="the other family, which in elevation stands over this one", pen=Pen.GIVEN)
    return rim, plans, elevations


def _joined(b: Board, starts: list[Point], ends: list[Point], name: str) -> list[Line]:
    """Straight lines between like divisions of two sides."""
    pairs = zip(starts, ends, strict=True)
    return [b.line(start, end, name.format(k), pen=Pen.GIVEN) for k, (start, end) in enumerate(pairs)]


def _divided(b: Board, views: Views, pair: str, n: int) -> tuple[list[Point], list[Point]]:
    """A side in equal parts, in plan and elevation: like shares of both views belong together."""
    return _divided_in(b, views.top_view, pair, n), _divided_in(b, views.front_view, pair, n, "′")


def _divided_in(b: Board, view: View, pair: str, n: int, tag: str = "") -> list[Point]:
    start, end = view.images[pair[0]], view.images[pair[1]]
    names = [f"{k}{tag} of {pair.lower()}" for k in range(1, n)]
    return [start, *b.divide(start, end, n, names, why="as many parts as elements"), end]


def _rim(g: Saddle) -> Parametric:
    half, rise = float(g.major) / 2, float(g.rise)
    return Parametric(
        lambda t: (half + half * t, rise * (1 - t * t)),
        lambda t: (half, -2 * rise * t),
        -1.0,
        1.0,
    )


def _contour(b: Board, g: Saddle, views: Views, plans: list[Line], elevations: list[Line]) -> None:
    """The lower contour in elevation: each element touches it over the point where its plan crosses the major axis."""
    low, up = views.top_view, views.front_view
    axis = views.line_of(low, "A", "C")
    touching = []
    b.pencil(why="over the major axis each element touches the contour")
    crossed = [b.meet(plans[k], axis, name=low.label(f"R{k}")) for k in range(1, g.elements)]
    for k, place in enumerate(crossed, 1):
        upright = b.upright_line(place, f"projector R{k}")
        touching.append(b.meet(upright, elevations[k], name=up.label(f"R{k}")))
        b.from_zero[touching[-1].name] = f"R{k}"
    b.plot(*touching)
    through = [up.images["A"], *touching, up.images["C"]]
    b.fair_curve(lambda: _contour_curve(g), through, "contour", why="it touches every element")
    b.caution("The contour lies under the straight sides: nothing of the surface is seen below it.")


def _contour_curve(g: Saddle) -> Parametric:
    half, rise = float(g.major) / 2, float(g.rise) / 2
    return Parametric(
        lambda t: (half + half * t, rise * (1 - t * t)),
        lambda t: (half, -2 * rise * t),
        -1.0,
        1.0,
    )


def _end_view(b: Board, g: Saddle, views: Views) -> None:
    """The view along the major axis: the rim and the section by the plane through B and D are parabolas there."""
    up = views.front_view
    names = ["A", "B", "D", *(f"{letter}{k}" for letter in "PQ" for k in range(g.elements + 1)), "O"]
    along = Line(up.images["A"], views.ground.dx, views.ground.dy, "XY")
    side = auxiliary(views, up, along, names, square=True, why="along the major axis: the end view")
    high, far, bottom = (side.images[name] for name in "BDA")
    through = [side.images[name] for name in names if name[0] in "PQ"]
    b.fair_curve(lambda: _parabola(high, far, bottom), through, "rim from the end", why="the rim, a parabola from the end")
    b.fair_curve(
        lambda: _parabola(high, far, side.images["O"]),
        [high, side.images["O"], far],
        "contour from the end",
        why="the section",
    )


def _section(b: Board, g: Saddle, views: Views, plans: list[Line], elevations: list[Line]) -> None:
    """The section by the upright plane through B and D, folded off the plan: a parabola, and its circle at the saddle."""
    low, up, n = views.top_view, views.front_view, g.elements
    cross = views.line_of(low, "B", "D")
    centre = views.projectors["B"]
    names = ["B", "D"]
    for k in range(1, n):
        name = f"S{k}"
        b.pencil(why="where the element crosses the section plane")
        views.mark(low, name, plans[k], cross)
        views.mark(up, name, elevations[k], centre)
        names.append(name)
    if n % 2:
        b.step_reason("The saddle lies half way up, where both diagonals of the rhombus cross")
        up.images["O"] = b.divide(up.images["B"], views.feet["B"], 2, [up.label("O")])[0]
        names.append("O")
    else:
        low.images["O"], up.images["O"] = low.images[f"S{n // 2}"], up.images[f"S{n // 2}"]
    saddle = views.know("O")
    b.find("saddle_height", saddle.above)
    b.misread(saddle_as_high.name, lambda: {"saddle_height": views.know("B").above})
    new = auxiliary(views, low, low.line("B", "D"), names, why="along bd, for the true shape of the section")
    if not n % 2:
        new.images["O"] = new.images[f"S{n // 2}"]
    order = ["D", *(f"S{k}" for k in range(1, n)), "B"] if n % 2 == 0 else _ordered(n)
    through = [new.images[name] for name in order]
    b.fair_curve(lambda: _parabola(*(new.images[name] for name in "BDO")), through, "section", why="a parabola")
    _circle_at_saddle(b, new.images["B"], new.images["D"], new.images["O"])


def _ordered(n: int) -> list[str]:
    """Of an odd number of elements none goes through the saddle: it stands between the middle two."""
    return ["D", *(f"S{k}" for k in range(1, n // 2 + 1)), "O", *(f"S{k}" for k in range(n // 2 + 1, n)), "B"]


def _ends(b: Board, k: int, view: View) -> tuple[Point, Point]:
    return b.plane_point(view.label(f"P{k}")), b.plane_point(view.label(f"Q{k}"))


def _parabola(high: Point, far: Point, saddle: Point) -> Parametric:
    """The parabola through both ends with its vertex in the saddle, as it lies in the auxiliary view."""
    ux, uy = (float(high.x) - float(far.x)) / 2, (float(high.y) - float(far.y)) / 2
    vx, vy = (float(high.x) + float(far.x)) / 2 - float(saddle.x), (float(high.y) + float(far.y)) / 2 - float(saddle.y)
    x, y = float(saddle.x), float(saddle.y)
    return Parametric(
        lambda t: (x + ux * t + vx * t * t, y + uy * t + vy * t * t),
        lambda t: (ux + 2 * vx * t, uy + 2 * vy * t),
        -1.0,
        1.0,
    )


def _circle_at_saddle(b: Board, high: Point, far: Point, saddle: Point) -> None:
    """Half the latus rectum: the perpendicular at B to OB meets the axis twice the radius beyond the level of B."""
    with b.gathered("axis", Instrument.STRAIGHTEDGE):
        level = b.line(far, high, "level of B and D")
        axis = b.square(level, saddle, "axis of the section")
        top = b.meet(axis, level, name="N")
    across = b.square(Line.through(saddle, high), high, "square at B", why="it meets the axis two radii beyond N")
    with b.may_be_far():
        end = b.meet(across, axis, name="W")
    radius = plane.distance(top, end) / 2
    b.find("section_radius", radius)
    b.check(
        "the section is as steep at B as a parabola", plane.distance(saddle, top) * radius * 2 - _squared(top, high), "mm²"
    )


def _squared(p: Point, q: Point) -> Number:
    return (q.x - p.x) * (q.x - p.x) + (q.y - p.y) * (q.y - p.y)


def _shortest(b: Board, views: Views) -> None:
    """Opposite sides are parallel in plan: the shortest line is level, so it goes through the middle, square to both."""
    low, up = views.top_view, views.front_view
    b.caution("The shortest line is level: in plan it is square to both sides, in elevation it is not square to them.")
    middle = low.images["O"]
    for name, (p, q) in (("G", ("A", "B")), ("H", ("C", "D"))):
        side = views.line_of(low, p, q)
        low.images[name] = b.square_from(side, middle, low.label(name), why="half of the shortest line, in its true length")
        views.project(name, low, up, Line.through(up.images[p], up.images[q]))
        views.know(name)
    both = [(view.images["G"], view.images["H"]) for view in (low, up)]
    b.line_in(*both, why="the shortest distance of AB and CD")
    b.find("shortest_distance", plane.distance(low.images["G"], low.images["H"]))
    b.check("its ends are equally high", up.images["G"].y - up.images["H"].y)


def _true_lengths(b: Board, g: Saddle, views: Views, rim: list[Point]) -> None:
    """A diagram of true lengths: each element's plan along the base, its difference of heights upright."""
    n = g.elements
    with b.block("true lengths"):
        with b.gathered("diagram", Instrument.T_SQUARE):
            foot = b.point("Z/diagram", b.number(0), b.number(0), why="a diagram of true lengths, apart")
            base = b.level_line(foot, "plan lengths")
            upright = b.upright_line(foot, "heights")
        plans = [span(*_ends(b, k, views.top_view)) for k in range(n + 1)]
        lengths = [hypot(bare(flat), absolute(rim[2 * k].y - rim[2 * k + 1].y)) for k, flat in enumerate(plans)]
        shown = range(n // 2 + 1)  # the elements beyond the middle are as long as those before
        feet = [
            b.lay_off(base, foot, plans[k], f"J{k}", why=f"the plan of element {k}, and of element {n - k}") for k in shown
        ]
        with b.block(""):
            why = "to measure the difference of heights from"
            levels = [b.level_line(rim[2 * k], f"level of {rim[2 * k].name}", why=why) for k in shown]
        for k in shown:
            rise = span(rim[2 * k + 1], levels[k])
            high = b.lay_off(upright, foot, rise, f"K{k}", why="how much higher one end is")
            b.joined(feet[k], high, pen=Pen.OUTLINE)
    for k in range((n + 1) // 2):
        b.check(f"elements {k} and {n - k} are equally long", lengths[k] - lengths[n - k])
    b.find("element_lengths", tuple(lengths))


@slip("the saddle taken to be as high as B and D")
def saddle_as_high(g: Saddle, number: Make) -> dict[str, Number]:
    return {"saddle_height": g.rise + 0}


@slip("the angle of the sides laid off from the minor axis")
def from_minor_axis(g: Saddle, number: Make) -> dict[str, Number]:
    return {"minor": g.major / tan_deg(g.side_angle)}


PROBLEM = Problem(
    id="space/hyperbolic-paraboloid",
    title="Saddle over an ellipse",
    brief=(
        "A saddle stands over an ellipse of major axis {major}, whose ends lie on HP; the sides between the corners run at "
        "{side_angle} to it in plan, and the other corners rise {rise}. Draw it with {elements} elements a side."
    ),
    givens=Saddle,
    truth=truth,
    methods=(straight_elements,),
    findings={
        "minor": Kind.LENGTH,
        "saddle_height": Kind.LENGTH,
        "section_radius": Kind.LENGTH,
        "shortest_distance": Kind.LENGTH,
        "element_lengths": Kind.LENGTH,
    },
    source="Hyperbolic paraboloid as a ruled surface (Monge, Hachette); the ellipse as a flattened circle.",
    slips=(saddle_as_high, from_minor_axis),
    cautions=("Figures only: a shell is designed by a licensed engineer under local codes.",),
)
