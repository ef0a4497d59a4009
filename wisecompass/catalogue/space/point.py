"""Views of one point in any quadrant, and how far it is from the fold line.  Truth: Pythagoras across the fold."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, hypot, larger
from wisecompass.drafting.auxiliary import auxiliary
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line
from wisecompass.geometry.space import Point3


@dataclass(frozen=True)
class PlacedPoint(Givens):
    front: Number = offset("distance in front of VP", "38")
    above: Number = offset("height above HP", "27")


QUADRANTS = {(1, 1): 1, (-1, 1): 2, (-1, -1): 3, (1, -1): 4}


def quadrant(g: PlacedPoint) -> int | None:
    """1 to 4, counted from above HP and in front of VP up and over; None for a point on a plane, between two of them."""
    return QUADRANTS.get((g.decide(lambda h: h.front), g.decide(lambda h: h.above)))


def truth(g: PlacedPoint, number: Make) -> Truth:
    return Truth(
        points={
            "A": Point3(number(0), g.front + 0, g.above + 0),
            "H": Point3(number(0), g.front + 0, number(0)),
            "V": Point3(number(0), number(0), g.above + 0),
        },
        findings={"quadrant": quadrant(g), "distance_to_fold": hypot(g.front, g.above)},
    )


@method("projectors", Exactness.EXACT)
def projectors(b: Board, g: PlacedPoint) -> None:
    size = larger(absolute(g.front), absolute(g.above))
    views = Views.on(b, g.front + absolute(g.front) + absolute(g.above) + size / 2)
    views.set_out("A", b.number(0), g.front, g.above)
    if quadrant(g) is None:
        b.caution("The point lies on a plane of projection, between two quadrants.")
    up, low = views.front_view.images["A"], views.top_view.images["A"]
    b.step_reason(f"Seen in space, {low.name} is the foot of A on HP and {up.name} its foot on VP", makes=["H", "V"])
    b.space_point("H", low.x, views.front(low), b.number(0))
    b.space_point("V", up.x, b.number(0), views.above(up))
    for foot in ("H", "V"):
        b.in_space("A", foot, Pen.PROJECTOR)
    ground = Line(up, views.ground.dx, views.ground.dy, "XY")
    side = auxiliary(views, views.front_view, ground, ("A",), square=True, full=views.wall, why="a side view, end-on to XY")
    b.step("point", Instrument.PENCIL, makes=["O"], why="the fold XY is seen end-on there")
    end = b.meet(views.ground, side.away[views.front_view], name="O")
    b.line(end, side.images["A"], why="the distance from the fold line in its true length", pen=Pen.CONSTRUCTION)
    b.caution("Behind VP the top view stands above XY, below HP the front view below it: both may overlap.")
    apart = plane.distance(end, side.images["A"])
    b.find("distance_to_fold", apart)
    seen = views.know("A")
    b.misread(added.name, lambda: {"distance_to_fold": absolute(seen.front) + absolute(seen.above)})
    b.find("quadrant", quadrant(g))
    b.check("the front view shows the height", views.above(up) - g.above)
    b.check("the side view keeps both distances", apart * apart - g.front * g.front - g.above * g.above, "mm²")
    room = size * 2 / 3
    views.reach(up.moved(-room, room * 0), end)
    b.dimension(end, side.images["A"], offset=-8)


@slip("height and distance added instead of taken square to each other")
def added(g: PlacedPoint, number: Make) -> dict[str, Number]:
    return {"distance_to_fold": absolute(g.front) + absolute(g.above)}


PROBLEM = Problem(
    id="space/point",
    title="Views of a point",
    brief="A point A is {front} in front of VP and {above} above HP. Draw its views; find its distance from the fold line.",
    givens=PlacedPoint,
    truth=truth,
    methods=(projectors,),
    findings={"quadrant": Kind.COUNT, "distance_to_fold": Kind.LENGTH},
    source="Monge, Géométrie descriptive; Euclid I.47 for the distance.",
    conditions=(
        Condition(
            "off the fold line",
            lambda g: g.front * g.front + g.above * g.above,
            "a point with neither distance lies on the fold line itself",
            ("front", "above"),
            lambda g: {"front": "1"},
            strict=True,
        ),
    ),
    slips=(added,),
)
