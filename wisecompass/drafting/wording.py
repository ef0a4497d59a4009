"""The sentences of steps, composed in one place so that they are even and could be translated."""

from __future__ import annotations

import re

from wisecompass.drafting.step import Step

_SUBSCRIPTS = str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")

TEMPLATES: dict[str, str] = {
    "point": "Mark {makes}",
    "level": "T-square through {on0}: draw {makes0} level",
    "upright": "Set square on the T-square at {on0}: draw {makes0} upright",
    "set square": "{angle}° set square at {on0}: draw {makes0}, rising to the {hand}",
    "lay off": "Scale along {on1}: measure {setting} from {on0} and mark {makes0}",
    "protract": "Protractor on {on0} along {on1}: mark {setting} and draw {makes0}",
    "arc": "Compass at {setting}{taken}, needle on {on0}: swing {shape}",
    "step off": "Dividers at {setting}: step off round the {on0} from {from}, {count} times",
    "divide circle": "Divide the {on0} into {parts} equal parts",
    "join": "Straightedge through {on0} and {on1}: draw {makes0}",
    "parallel": "Set square along {on0}, slid to {on1}: draw {makes0} parallel",
    "touching": "Set square along {on0}, slid until it touches the {on1}: draw {makes0}",
    "square": "Set square on {on0} at {on1}: draw a square line",
    "crossings": "Straightedge through both crossings of the arcs: draw {makes0}",
    "divide": "Divide {on0}–{on1} into {parts} equal parts",
    "line in": "Line in {edges}",
    "draw edges": "Draw {edges} as {pen} lines",
    "line in arc": "Compass at {setting}, needle on {on0}: line in the arc from {from} to {to}",
    "fair curve": "French curve: fair the curve through all {count} points",
    "say": "{text}",
}


def number_text(value: float, decimals: int = 2) -> str:
    """A number as lettered on a sheet: no trailing zeros, a true minus sign."""
    if abs(value) >= 1e7:
        return f"{value:.3g}"
    text = f"{value:.{decimals}f}".rstrip("0").rstrip(".") if decimals else f"{value:.0f}"
    text = "0" if text in ("-0", "") else text
    return text.replace("-", "−")


def setting_text(step: Step) -> str:
    """The setting with its unit (``18.5 mm``), or nothing."""
    if step.setting is None:
        return ""
    value = float(step.setting)
    return f"{number_text(value)}°" if step.unit == "°" else f"{number_text(value)} {step.unit}"


def lettered(name: str) -> str:
    """A name as lettered: ``T1`` is T₁. What follows a stroke only tells namesakes apart: ``A/flat`` is A."""
    name = name.partition("/")[0]
    match = re.fullmatch(r"([^\W\d_]{1,2})(\d+)(_\d+)?(′*)", name)
    if match is None:
        return name
    head, digits, solution, primes = match.groups()
    return head + (digits + (solution or "").replace("_", ".")).translate(_SUBSCRIPTS) + primes


def spoken(name: str) -> str:
    """A name inside a sentence; names that are words stay as they are."""
    return " ".join(lettered(word) for word in re.sub(r"/[a-z ]+", "", name).split(" "))


def sentence(step: Step) -> str:
    """What the drafter does at this step, in one or two sentences."""
    words = dict(step.words)
    words.setdefault("setting", setting_text(step))
    words["makes"] = listed([spoken(name) for name in step.makes])
    words.update({f"makes{i}": spoken(name) for i, name in enumerate(step.makes)})
    words.update({f"on{i}": spoken(name) for i, name in enumerate(step.on)})
    if "edges" in words:
        words["edges"] = ", ".join(_edge(edge) for edge in words["edges"].split(", "))
    if step.verb == "arc":
        words["taken"] = f" ({spoken(words['taken'])})" if words.get("taken") else ""
        words["shape"] = "the circle" if words.get("shape") == "circle" else "an arc"
    for key in ("from", "to", "first", "last"):
        if key in words:
            words[key] = spoken(words[key])
    text = TEMPLATES[step.verb].format(**words)
    if step.verb == "say":
        text = text.format(**words)
    if step.why:
        text += f", {step.why}" if not step.why[0].isupper() else f". {step.why}"
    text = text.rstrip(".") + "."
    marked = [f"{spoken(point)} is where {_crossing(first, second)}" for point, first, second in step.crossings]
    if len(marked) > 3:
        marked = [f"mark {listed([spoken(point) for point, _, _ in step.crossings])} at the crossings"]
    return text + (f" {_capital('; '.join(marked))}." if marked else "")


def _crossing(first: str, second: str) -> str:
    return f"{spoken(first)} meets {spoken(second)}" if first and second else "they cross"


def _edge(edge: str) -> str:
    """``T1V`` with each letter's number lowered."""
    return re.sub(r"/[a-z ]+", "", edge).translate(_SUBSCRIPTS)


def listed(names: list[str]) -> str:
    """``A``, ``A and B``, ``A, B and C``; a long run is cut to its ends."""
    if len(names) > 5:
        return f"{names[0]}, {names[1]} … {names[-1]}"
    if len(names) < 2:
        return "".join(names)
    return ", ".join(names[:-1]) + " and " + names[-1]


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]
