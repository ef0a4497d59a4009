"""What every pattern is given beside the body: seam, laps, thickness, ends, and which side of the sheet lies up."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic import PLAIN, Arithmetic, Number, is_zero, roughly
from wisecompass.drafting.givens import Givens, at_most, choice, count, offset
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.setting import bare

CAUTIONS = (
    "Sheet metal cuts: gloves for handling, eyes shielded for cutting.",
    "The pattern is geometry; a joint that carries load is designed by a qualified person.",
)

ENDS = ("none", "base", "both")

LAPPED = ("all edges", "the seam", "both rims", "the lower rim", "the upper rim")
"""Where the laps hang."""


class Jointed(Givens):
    """How a body of sheet is joined; a problem says with its own givens along which line."""

    if TYPE_CHECKING:

        @property
        def lap(self) -> Number: ...
        @property
        def thickness(self) -> Number: ...
        @property
        def inside(self) -> str: ...

    @property
    def has_thickness(self) -> bool:
        return not is_zero(bare(self.thickness))

    @property
    def is_lapped(self) -> bool:
        return not is_zero(bare(self.lap))

    def laps_at(self, where: str) -> bool:
        """Whether there are laps at the ``seam``, or at the ``lower`` or ``upper`` rim."""
        on = getattr(self, "lap_on", LAPPED[0])
        several = {"all edges": ("seam", "lower", "upper"), "both rims": ("lower", "upper"), "the seam": ("seam",)}
        return self.is_lapped and where in several.get(on, (on.removeprefix("the ").removesuffix(" rim"),))

    @property
    def way_round(self) -> int:
        """1 where the lines follow each other in the pattern anticlockwise as seen from above, −1 with the inside up."""
        return -1 if self.inside == "up" else 1


def neutral_line(g: Any) -> str:
    """The rule by which sheet is laid out, where it has a thickness."""
    if not roughly(bare(g.thickness)):
        return ""
    return "Sizes are inside sizes; sheet bends on its neutral line: the pattern is taken half the thickness outside."


@dataclass(frozen=True)
class Seamed(Jointed):
    """How a body is laid out and joined."""

    seam: int = count("number of the line that the seam lies on", "1", 1, 96)
    lap: Number = offset("lap", "0", least=Fraction(0))
    thickness: Number = offset("sheet thickness", "0", least=Fraction(0), most=Fraction(50))
    inside: str = choice("inside of the sheet", "down", "up")

    def round_from_seam(self, count: int) -> list[int]:
        """The lines from the seam round to the seam again, from left to right in the pattern. Lines are counted from 0,
        anticlockwise as seen from above; with the inside up they follow each other the other way."""
        return [(self.seam - 1 + self.way_round * k) % count for k in range(count + 1)]


@dataclass(frozen=True)
class Sheet(Seamed):
    """One whose laps may hang on some edges only, and whose ends may be laid out as well."""

    lap_on: str = choice("laps on", *LAPPED)
    ends: str = choice("ends laid out", *ENDS)


class OnNeutralLine(Givens):
    """A body of sheet on its neutral line, where one of its sizes differs from the given one of the same name. What it does
    not say of itself is as given."""

    given: Any

    def __init__(self, given: Givens) -> None:
        object.__setattr__(self, "given", given)

    def __getattr__(self, name: str) -> Any:
        if name.startswith("_") or name == "given":
            raise AttributeError(name)
        return getattr(self.given, name)

    def decide(self, margin: Callable[[Any], Number]) -> int:
        body = type(self)
        found: int = self.given.decide(lambda h: margin(body(h)))
        return found

    def decide_all(self, margins: Callable[[Any], Sequence[Number]], *, rational: bool = True) -> tuple[int, ...]:
        body = type(self)
        found: tuple[int, ...] = self.given.decide_all(lambda h: margins(body(h)), rational=rational)
        return found

    def bound_in(self, arithmetic: Arithmetic) -> Any:
        return type(self)(self.given.bound_in(arithmetic))


def seam_is_there(lines: str, count: Callable[[Any], int]) -> Condition:
    """The seam lies on one of the lines that there are; ``lines`` says what these are."""
    return Condition(
        "the seam on a line that is there",
        lambda g: roughly_zero(g) + count(g) - g.seam,
        f"there is no {lines} {{seam}} for the seam",
        ("seam",),
        lambda g: {"seam": str(count(g))},
    )


def roughly_zero(g: Jointed) -> Number:
    """Zero in the arithmetic of the givens."""
    return g.thickness * 0


def thin_enough(size: str, *, rolled: bool = True) -> Condition:
    """Sheet thicker than half the given ``size`` cannot be rolled to that diameter, or bent round that side."""
    half = "it is thicker than the radius" if rolled else "it is thicker than half of that"
    return Condition(
        f"sheet no thicker than half the {size.replace('_', ' ')}",
        lambda g: getattr(g, size) / 2 - g.thickness,
        f"sheet {{thickness}} thick cannot be {'rolled' if rolled else 'bent'} to {{{size}}}: {half}",
        ("thickness", size),
        lambda g: {"thickness": at_most(getattr(g, size) / 2)},
    )


def lap_fits(what: str, edge: Callable[[Any], Number], *at: str) -> Condition:
    """A lap is no wider than half the edge that it hangs on; ``at`` says where that is, seam, lower or upper rim."""

    def room(g: Any) -> Number:
        left: Number = edge(g) / 2 - g.lap if not at or any(map(g.laps_at, at)) else g.lap * 0 + 1
        return left

    return Condition(
        f"the lap within {what}",
        room,
        f"a lap of {{lap}} is too wide for {what}: it may be half of that",
        ("lap",),
        lambda g: {"lap": at_most(Fraction(roughly(edge(g.bound_in(PLAIN)))) / 2)},
    )
