"""Why a step leads where it does: for every act the theorem that it rests on, in a sentence, told with the sheet's letters.

A letter that is marked where two lines or arcs cross has what each of them gives to all its points; so a construction's
reason is the chain of its crossings.
"""

from __future__ import annotations

from collections.abc import Callable

from wisecompass.drafting.conventions import Units
from wisecompass.drafting.record import Act, Ref
from wisecompass.drafting.sentences import ref_words, setting_words
from wisecompass.drafting.setting import ANY
from wisecompass.drafting.step import Step
from wisecompass.drafting.wording import listed, spoken

THEOREMS = {
    "place": "The figure may lie anywhere: only its own lengths and angles count.",
    "set out": "Two lengths square to each other fix a point.",
    "also": "Both names stand for one point.",
    "level": "The T-square keeps all level lines parallel with each other.",
    "upright": "The set square stands at 90° on the T-square, so an upright is square to every level line.",
    "slant": "A set square keeps its angle wherever it stands on the T-square.",
    "join": "Through two points runs one straight line.",
    "parallel": "Slid along a straightedge a set square keeps its direction.",
    "square": "The set square's two short edges stand at 90°.",
    "protract": "The angle between two rays is the same wherever along them it is read.",
    "step off": "Equal chords of one circle cut off equal arcs.",
    "step along": "Equal steps add up: so many of them are so many times one.",
    "divide": "Parallels cut two lines in the same proportion: equal spaces on a slant line give equal spaces on any other.",
    "halve": "Equal arcs from both ends cross on the line that is as far from one end as from the other.",
    "divide round": "Equal angles at the centre cut off equal arcs.",
    "strip": "With its marks on two lines square to each other the strip's pencil runs on an ellipse: the marks are as far "
    "from it as the half axes are long.",
    "slide": "The pencil's distances from the marks are the half axes, so it stands on the ellipse wherever the strip lies.",
    "fair": "The plotted points are right; between them the curve bends as evenly as they let it.",
    "views": "HP and VP stand square to each other; with one laid flat both views of a point stand on one upright.",
    "set out in views": "The front view shows how high a point is, the top view how far in front; one projector holds both.",
    "project": "All views of a point that share a fold line stand on one projector, square to it.",
    "transfer": "The views on either side of a view lie equally far from their fold lines: both show the same distance.",
    "lap": "It lies beyond the edge and leaves the pattern's own lengths as they are.",
    "hatch": "Hatching says that the solid is cut there; what lies behind the cut is left plain.",
    "reckon": "A sum of the given numbers; nothing on the sheet is needed for it.",
    "line in": "Only what is asked for is lined in; the construction stays, for it is the proof.",
    "line in between": "Only what is asked for is lined in; the construction stays, for it is the proof.",
}
"""What an act of each kind rests on."""

FOLDS = {
    "along": "Seen square to it a line shows its true length.",
    "square to": "A line seen along itself is a point, and every plane through it is seen on edge.",
}


class Reasons:
    """The reasons of a whole run's steps."""

    def __init__(self, step: Step, units: Units = Units.MM) -> None:
        self.units = units
        self._step = step
        by_step = {} if step.book is None else step.book.record.by_step
        self._made: dict[str, Act] = {name: act for acts in by_step.values() for act in acts for name in act.makes}

    def sentences(self) -> list[str]:
        """Of the acts that the step tells, each sentence once."""
        return list(dict.fromkeys(self.reason(act) for act in self._step.told))

    def reason(self, act: Act) -> str:
        """What an act rests on."""
        found = _BY_KIND.get(act.do)
        return found(self, act) if found is not None else THEOREMS[act.do]

    # --------------------------------------------------------------------------------------------- what lines keep
    def kept(self, ref: Ref) -> str:
        """What every point of a line or arc is: ``18.5 mm (radius) from A``, ``level with P``."""
        act = None if isinstance(ref, tuple) else self._made.get(ref)
        if act is None or act.do not in _KEPT:
            return (
                f"in line with {spoken(ref[0])} and {spoken(ref[1])}" if isinstance(ref, tuple) else f"on {ref_words(ref)}"
            )
        return _KEPT[act.do](self, act)

    def setting(self, act: Act) -> str:
        """What an instrument is set to; an opening that may be any is only told as the same."""
        if act.set_to is not None and act.set_to["from"] in (ANY, "kept"):
            return "one opening"
        return setting_words(act, self.units)

    def _equal(self, one: Ref, other: Ref) -> tuple[str, str] | None:
        """The centres of two arcs that are swung with the same opening."""
        acts = [self._made.get(str(ref)) for ref in (one, other)]
        if any(act is None or act.do not in ("arc", "circle") for act in acts):
            return None
        first, second = acts
        assert first is not None and second is not None
        if first.value != second.value or first.on == second.on:
            return None
        return str(first.on[0]), str(second.on[0])

    # ---------------------------------------------------------------------------------------------------- kinds
    def _arc(self, act: Act) -> str:
        return f"Every point of {'the circle' if act.do == 'circle' else 'the arc'} is {self._from_centre(act)}."

    def _from_centre(self, act: Act) -> str:
        return f"{self.setting(act)} from {spoken(str(act.on[0]))}"

    def _touching(self, act: Act) -> str:
        arc = self._made[str(act.on[1])]
        return f"A line that touches equal arcs swung from {ref_words(act.on[0])} is everywhere {self._off(act, arc)}."

    def _off(self, act: Act, arc: Act) -> str:
        return f"{self.setting(arc)} from {ref_words(act.on[0])}"

    def _common_chord(self, act: Act) -> str:
        ends = self._equal(*act.on)
        if ends is None:
            return "The line through both crossings of two circles is square to the line of their centres."
        a, b = map(spoken, ends)
        return f"All points that are as far from {a} as from {b} lie on one line; it halves {a}–{b} and is square to it."

    def _join(self, act: Act) -> str:
        """Two points; where they are the tips of a kite its diagonal halves the angle."""
        vertex, tip = act.on
        met = self._made.get(str(tip))
        ends = self._equal(*met.on) if met is not None and met.do == "meet" else None
        if ends is not None:
            through = [self._made.get(end) for end in ends]
            arcs = [set(one.on) if one is not None and one.do == "meet" else set() for one in through]
            swung = [self._made.get(str(ref)) for ref in arcs[0] & arcs[1]]
            if any(arc is not None and arc.do in ("arc", "circle") and arc.on[:1] == (vertex,) for arc in swung):
                v, p, q = spoken(str(vertex)), *map(spoken, ends)
                arms = f"{v}–{p} equals {v}–{q}, and the last two arcs are equal"
                return f"{arms}: the long diagonal of such a kite halves its angle."
        return THEOREMS["join"]

    def _meet(self, act: Act) -> str:
        letters = listed([spoken(name) for name in act.makes])
        is_are = "is" if len(act.makes) == 1 else "are"
        ends = self._equal(*act.on)
        if ends is not None:
            return f"{letters} {is_are} as far from {spoken(ends[0])} as from {spoken(ends[1])}."
        for line, other in (act.on, act.on[::-1]):
            across = self._made.get(str(line))
            if across is not None and across.do == "square" and across.on[0] == other:
                return f"{letters} is the point of {ref_words(other)} that is nearest to {spoken(str(across.on[1]))}."
        one, other = (self.kept(ref) for ref in act.on)
        both = f"{letters} {is_are} {one} and {other}"
        return f"{both}." if one != other else f"{letters} {is_are} on both."

    def _lay_off(self, act: Act) -> str:
        line, start = ref_words(act.on[0]), spoken(str(act.on[1]))
        return f"{spoken(act.makes[0])} is {self.setting(act)} from {start}, measured along {line}."

    def _touch(self, act: Act) -> str:
        arcs = [ref for ref in act.on if (made := self._made.get(str(ref))) is not None and made.do in ("arc", "circle")]
        if len(arcs) == 2:
            return "Two circles that touch do so on the line of their centres."
        return "A tangent is square to the radius at the point where it touches."

    def _divide(self, act: Act) -> str:
        return THEOREMS["halve" if act.more["parts"] == 2 else "divide"]

    def _step_off(self, act: Act) -> str:
        swung = self._made.get(str(act.on[0]))
        if swung is not None and swung.set_to is not None and swung.value == act.value:
            return "A chord as long as the radius makes a triangle of three equal sides with the centre: it spans 60°."
        return THEOREMS["step off"]

    def _line_in_arc(self, act: Act) -> str:
        centre, start, end = (spoken(str(name)) for name in act.on)
        if any(str(name) in self._made and self._made[str(name)].do == "fair" for name in act.on[1:]):
            return f"It ends where it meets the plotted curve; all of it is equally far from {centre}."
        return f"{start} and {end} are equally far from {centre}, so one arc about it joins them."


_BY_KIND: dict[str, Callable[[Reasons, Act], str]] = {
    "arc": Reasons._arc,
    "circle": Reasons._arc,
    "parallel touching": Reasons._touching,
    "join crossings": Reasons._common_chord,
    "join": Reasons._join,
    "meet": Reasons._meet,
    "lay off": Reasons._lay_off,
    "touch": Reasons._touch,
    "divide": Reasons._divide,
    "step off": Reasons._step_off,
    "fold": lambda _, act: FOLDS[act.more["how"]],
    "line in arc": Reasons._line_in_arc,
    "line in circle": lambda _, act: f"{spoken(str(act.on[1]))} lies on it, and so its radius is right.",
}

_KEPT: dict[str, Callable[[Reasons, Act], str]] = {
    "arc": Reasons._from_centre,
    "circle": Reasons._from_centre,
    "level": lambda _, act: f"level with {spoken(str(act.on[0]))}",
    "upright": lambda _, act: f"straight above or below {spoken(str(act.on[0]))}",
    "slant": lambda why, act: f"on the slope of {why.setting(act)} through {spoken(str(act.on[0]))}",
    "join": lambda _, act: f"in line with {spoken(str(act.on[0]))} and {spoken(str(act.on[1]))}",
    "parallel": lambda _, act: f"on the parallel with {ref_words(act.on[0])} through {spoken(str(act.on[1]))}",
    "square": lambda _, act: f"on the perpendicular to {ref_words(act.on[0])} through {spoken(str(act.on[1]))}",
    "protract": lambda why, act: f"where the angle at {spoken(str(act.on[1]))} is {why.setting(act)}",
    "parallel touching": lambda why, act: why._off(act, why._made[str(act.on[1])]),
}
"""What all points of the line or arc that such an act makes have in common."""
