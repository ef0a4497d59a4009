"""Triangle of its perimeter and the ratio of its sides: the perimeter is divided, and its outer parts swung together."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import PLAIN, Number
from wisecompass.catalogue.triangles.corners import MEASURES, from_sides, line_in_triangle, measure
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point

HANDY = [Fraction(step) * Fraction(10) ** power for power in range(6, -7, -1) for step in (5, 2, 1)]
"""Lengths of one part that suit a scale, mm, from long to short."""


@dataclass(frozen=True)
class PerimeterAndRatio(Givens):
    perimeter: Number = givens.length("perimeter", "168")
    part_a: Number = givens.ratio("parts of side a", "5", Fraction(1, 100), Fraction(1000))
    part_b: Number = givens.ratio("parts of side b", "6", Fraction(1, 100), Fraction(1000))
    part_c: Number = givens.ratio("parts of the base", "7", Fraction(1, 100), Fraction(1000))


def truth(g: PerimeterAndRatio, number: Make) -> Truth:
    share = g.perimeter / (g.part_a + g.part_b + g.part_c)
    a, b, c = g.part_a * share, g.part_b * share, g.part_c * share
    findings = from_sides(a, b, c)
    zero = number(0)
    along = (b * b + c * c - a * a) / (2 * c)
    return Truth(
        points={
            "P": Point(zero, zero),
            "A": Point(b, zero),
            "B": Point(b + c, zero),
            "Q": Point(g.perimeter + 0, zero),
            "C": Point(b + along, findings["altitude"]),
        },
        findings=findings,
    )


def _unit(g: PerimeterAndRatio) -> Fraction:
    """The longest handy part of which the whole number is not longer than the perimeter."""
    plain = g.bound_in(PLAIN)
    rough = plain.perimeter / (plain.part_a + plain.part_b + plain.part_c)

    def fits(unit: Fraction) -> bool:
        top, bottom = unit.numerator, unit.denominator
        return g.decide(lambda h: h.perimeter * bottom - (h.part_a + h.part_b + h.part_c) * top) >= 0

    return next((unit for unit in HANDY if float(unit) < 1.01 * rough and fits(unit)), HANDY[-1])


@method("divided line and arcs", Exactness.EXACT)
def divided_line_and_arcs(b: Board, g: PerimeterAndRatio) -> None:
    start = b.point("P", b.number(0), b.number(0), why="the beginning of the perimeter")
    base = b.level_line(start, "perimeter", pen=Pen.GIVEN)
    end = b.lay_off(base, start, g.perimeter, "Q", why="all three sides in one line")
    sloping = b.set_square_line(start, 30, "slant line", why="any slope will do")
    unit = _unit(g)
    at = start
    marked = []
    for part, name, side in ((g.part_b, "1", "b"), (g.part_c, "2", "c"), (g.part_a, "3", "a")):
        at = b.lay_off(
            sloping,
            at,
            part * unit.numerator / unit.denominator,
            name,
            why=f"the parts of side {side}, {float(_unit(g)):g} mm each",
        )
        marked.append(at)
    last = b.unless(one_more.name, marked[2], lambda: b.lay_off(sloping, marked[2], b.number(unit), "4"))
    closing = b.line(last, end, "closing line")
    left = b.meet(b.parallel(closing, marked[0], "parallel 1"), base, name="A")
    right = b.meet(b.parallel(closing, marked[1], "parallel 2"), base, name="B")
    b.caution("The base is the middle part: the outer two are swung up to meet.")
    first = b.arc(left, span(left, start), why="upwards")
    second = b.arc(right, span(right, end), why="to the first arc")
    b.touch(first, start)
    b.touch(second, end)
    top = b.meet(first, second, plane.upper, "C")
    line_in_triangle(b, left, right, top)
    measure(b, left, right, top)
    sides = (plane.distance(right, top), plane.distance(top, left), plane.distance(left, right))
    b.check("sides a and b are in their ratio", sides[0] * g.part_b - sides[1] * g.part_a)
    b.check("sides b and c are in their ratio", sides[1] * g.part_c - sides[2] * g.part_b)
    b.check("the sides together are the perimeter", sides[0] + sides[1] + sides[2] - g.perimeter)


@slip("the perimeter divided into one part more: marks counted for parts")
def one_more(g: PerimeterAndRatio, number: Make) -> dict[str, Number]:
    share = g.perimeter / (g.part_a + g.part_b + g.part_c + 1)
    return {f"side_{name}": share * part for name, part in (("a", g.part_a + 1), ("b", g.part_b), ("c", g.part_c))}


def _rule(longest: str, one: str, other: str) -> Condition:
    return Condition(
        "a triangle that closes",
        lambda g: getattr(g, one) + getattr(g, other) - getattr(g, longest),
        f"of {{{longest}}} parts one side is not shorter than the other two together, which have {{{one}}} and {{{other}}}",
        (longest, one, other),
        lambda g: {longest: at_most(getattr(g, one) + getattr(g, other) - Fraction(1, 1000))},
        strict=True,
    )


PROBLEM = Problem(
    id="triangles/perimeter-in-ratio",
    title="Triangle of perimeter in a ratio",
    brief="Draw a triangle of perimeter {perimeter} whose sides a, b and base are as {part_a} to {part_b} to {part_c}.",
    givens=PerimeterAndRatio,
    truth=truth,
    methods=(divided_line_and_arcs,),
    findings=MEASURES,
    source="Euclid VI.10 and I.22.",
    conditions=(
        _rule("part_a", "part_b", "part_c"),
        _rule("part_b", "part_a", "part_c"),
        _rule("part_c", "part_a", "part_b"),
    ),
    slips=(one_more,),
)
