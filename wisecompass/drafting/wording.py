"""The sentences of steps, composed in one place so that they are even and could be translated."""

from __future__ import annotations

import re
from functools import lru_cache

from wisecompass.drafting.conventions import Units
from wisecompass.drafting.step import Step

_SUBSCRIPTS = str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")

_NAMED = re.compile(r"(?:[^\W\d_]\d+[′″]?|[^\W\d_]{1,2}\d*[′″]?|–)+")
"""Point names such as T1, b1′, P1–K and P1P2, whose numbers are lowered."""

_IN_TEXT = re.compile(r"\b(?:[A-Z]\d+)+\b")

MOST_LISTED = 8
"""Edges named one by one in a sentence; of more only the first three and the last."""

TEMPLATES: dict[str, str] = {
    "point": "Mark {makes}",
    "level": "T-square through {on0}: draw {makes0} level",
    "upright": "Set square on the T-square at {on0}: draw {makes0} upright",
    "set square": "Set square of {angle}° at {on0}: draw {makes0}, rising to the {hand}",
    "lay off": "Scale along {on1}: measure {setting} from {on0} and mark {makes0}",
    "protract": "Protractor on {on0} along {on1}: mark {setting} and draw {makes0}",
    "arc": "Compass at {setting}{taken}, needle on {on0}: swing {shape}",
    "step off": "Dividers at {setting}: step off round {on0} from {from}, {count} times",
    "step along": "Dividers at {setting}: step off along {on1} from {from}, {count} times",
    "divide circle": "Divide {on0} into {parts} equal parts",
    "join": "Straightedge through {on0} and {on1}: draw {makes0}",
    "parallel": "Set square along {on0}, slid to {on1}: draw {makes0} parallel",
    "touching": "Set square along {on0}, slid until it touches {on1}: draw {makes0}",
    "square": "Set square on {on0} at {on1}: draw a square line",
    "crossings": "Straightedge through {through} of the arcs: draw {makes0}",
    "through crossing": "Straightedge through the crossing of the arcs and the vertex",
    "touch point": "The arcs just touch, on {on1}",
    "divide": "Divide {on0}–{on1} into {parts} equal parts",
    "line in": "Line in {edges}",
    "draw edges": "Draw {edges} as {pen} lines",
    "line in arc": "Compass at {setting}, needle on {on0}: line in the arc from {from} to {to}",
    "line in circle": "Compass at {setting}, needle on {on0}: line in the circle through {from}",
    "fair curve": "French curve: fair the curve through all {count} points",
    "fold line": "T-square: draw {makes0} level",
    "set out": "Set out {point}: {where}",
    "project": "Projector from {on0}",
    "fold": "Set square {how} {on0}: draw {makes0}, {setting} clear of {on1}",
    "datum": "Parallel with {on0} through {on1}: draw {makes0}",
    "transfer": "Projector from {on0} square to {on2}; dividers at {setting} ({on1} from {on3}) mark {makes0} on it, {side}",
    "say": "{text}",
}


def number_text(value: float, decimals: int = 2) -> str:
    """A number as lettered on a sheet: no trailing zeros, a true minus sign."""
    if abs(value) >= 1e7:
        return f"{value:.3g}"
    text = f"{value:.{decimals}f}".rstrip("0").rstrip(".") if decimals else f"{value:.0f}"
    text = "0" if text in ("-0", "") else text
    return text.replace("-", "−")


POWERS = {"mm": 1, "mm/rad": 1, "mm²": 2, "mm³": 3}
"""How often a unit counts in the unit of length."""


def measured(value: float, unit: str, units: Units = Units.MM, decimals: int = 2) -> str:
    """A measured value with its unit. ``unit`` is °, mm, mm², mm³ or nothing; lengths are shown in ``units``."""
    if not unit.startswith("mm"):
        return number_text(value, decimals) + unit
    power = POWERS[unit]
    more = 0 if units is Units.MM else 1
    shown = number_text(value / units.millimetres**power, decimals + more)
    return f"{shown} {units.value}{unit[2:]}"


def setting_text(step: Step, units: Units = Units.MM) -> str:
    """The setting with its unit (``18.5 mm``), or nothing."""
    return "" if step.setting is None else measured(float(step.setting), step.unit, units)


def lowered(text: str) -> str:
    """Running text with the numbers of point names lowered: P1 becomes P₁, and P3P4 becomes P₃P₄."""
    return _IN_TEXT.sub(lambda found: found.group().translate(_SUBSCRIPTS), text)


@lru_cache(maxsize=4096)
def lettered(name: str) -> str:
    """A name as lettered: ``T1`` is T₁. What follows a stroke only tells namesakes apart: ``A/flat`` is A, and ``b/2``,
    a point of a second solution's view, is (b). ``T1_3``, of the third solution, is T₁(3)."""
    name, _, apart = name.partition("/")
    name, _, solution = name.partition("_")
    if solution.isdigit():
        return f"{lettered(name)}({solution})"
    shown = name.translate(_SUBSCRIPTS) if _NAMED.fullmatch(name) else name
    return f"({shown})" if apart.isdigit() else shown


def spoken(name: str) -> str:
    """A name inside a sentence; names that are words stay as they are."""
    return " ".join(lettered(word) for word in re.sub(r"/[a-z][a-z ]*", "", name).split(" "))


def with_article(name: str) -> str:
    """A name inside a sentence: ``the centre line``, but ``edge 1`` and ``T₁`` stand alone."""
    said = spoken(name)
    is_word = len(said) > 2 and said[:3].isalpha() and said[:2].islower() and not said[-1].isdigit()
    describes = said.startswith(("arc about", "circle about", "projector of", "locus of", "bisector of", "square from"))
    return f"the {said}" if (is_word or describes) and not said.startswith("the ") else said


def sentence(step: Step, units: Units = Units.MM) -> str:
    """What the drafter does at this step, in one or two sentences."""
    words = dict(step.words)
    words.setdefault("setting", setting_text(step, units))
    words["makes"] = listed([spoken(name) for name in step.makes])
    words.update({f"makes{i}": with_article(name) for i, name in enumerate(step.makes)})
    words.update({f"on{i}": with_article(name) for i, name in enumerate(step.on)})
    if "edges" in words:
        edges = [spoken(edge) for edge in words["edges"].split(", ")]
        words["edges"] = ", ".join(edges) if len(edges) <= MOST_LISTED else f"{', '.join(edges[:3])} … {edges[-1]}"
    if step.verb == "arc":
        words["taken"] = f" ({spoken(words['taken'])})" if words.get("taken") else ""
        words["shape"] = "the circle" if words.get("shape") == "circle" else "an arc"
    for key in ("from", "to", "first", "last", "through"):
        if key in words:
            words[key] = spoken(words[key])
    verb = "line in circle" if step.verb == "line in arc" and words["from"] == words["to"] else step.verb
    text = TEMPLATES[verb].format(**words)
    if step.verb == "say":
        text = text.format(**words)
    if step.why:
        why = lowered(step.why)
        text += f", {why}" if not why[0].isupper() else f". {why}"
    text = text.rstrip(".") + "."
    return text + _crossing_words(step)


def _crossing_words(step: Step) -> str:
    """`` Mark C where parallel 1 meets parallel 2.``; several points on the same two lines are named together."""
    points: dict[tuple[str, str], list[str]] = {}
    for point, first, second in step.crossings:
        points.setdefault((first, second), []).append(spoken(point))
    if len(points) > 2:
        return f" Mark {listed([name for names in points.values() for name in names])} at the crossings."
    marked = [
        f"{listed(names)} where {with_article(first)} meets {with_article(second)}"
        for (first, second), names in points.items()
    ]
    return f" Mark {' and '.join(marked)}." if marked else ""


def listed(names: list[str]) -> str:
    """``A``, ``A and B``, ``A, B and C``; a long run is cut to its ends."""
    if len(names) > 5:
        return f"{names[0]}, {names[1]} … {names[-1]}"
    if len(names) < 2:
        return "".join(names)
    return ", ".join(names[:-1]) + " and " + names[-1]
