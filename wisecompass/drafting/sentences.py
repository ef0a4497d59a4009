"""The sentences of acts: what a drafter is told, composed from the record alone."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import Any, cast

from wisecompass.drafting.conventions import Units
from wisecompass.drafting.record import Act, Ref
from wisecompass.drafting.setting import RECKONED, SPAN, TURN
from wisecompass.drafting.step import Step
from wisecompass.drafting.wording import listed, lowered, measured, spoken, with_article

SLIGHT = 0.02
"""A way that leans less than this, as a share of its length, is called level or upright."""

ALSO = "{on0} is {made} as well"

OPERATORS = {" - ": " − ", " * ": " × ", "-": "−", "_": " "}


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


def told(act: Act, units: Units = Units.MM) -> str:
    """One act in one sentence, with its why."""
    text = _SENTENCES[act.do](act, units)
    if act.why:
        why = lowered(act.why)
        text += f", {why}" if not why[0].isupper() else f". {why}"
    return text.rstrip(".") + "."


def _likewise(step: Step, units: Units) -> str:
    """All further rounds in one sentence: with what in place of what, set to what, and what they make. Where the rounds are
    not alike enough to be told together each is told."""
    length, rounds = int(step.words["round"]), step.rounds
    if step.book is None:
        return "Likewise for all others"
    pattern = [act for n in range(step.covers[0] - length, step.covers[0]) for act in step.book.of_step(n)]
    others = [[act for acts in rounds[k : k + length] for act in acts] for k in range(0, len(rounds), length)]
    alike = all([act.do for act in other] == [act.do for act in pattern] for other in others)
    if not alike or any(act.do == "transfer" and act.value == 0 for act in pattern):
        return " ".join(_gathered(step.acts, units))
    every = [pattern, *others]
    own = [{name for act in one for name in act.makes} for one in every]
    swapped: dict[Ref, list[str]] = {}
    settings, makes = [], []
    for k, act in enumerate(pattern):
        for j, ref in enumerate(act.on):
            column = [one[k].on[j] for one in others]
            if any(each != ref for each in column) and str(ref) not in own[0]:
                swapped.setdefault(ref, [ref_words(each) for each in column])
        for j, ref in enumerate(_span_of(act)):
            column = [_span_of(one[k])[j] if _span_of(one[k]) else ref for one in others]
            if any(each != ref for each in column) and str(ref) not in own[0]:
                swapped.setdefault(ref, [ref_words(each) for each in column])
        values = [one[k].value for one in every]
        if any(value is not None and value != act.value for value in values):
            unit = "°" if act.do in ("protract", "slant") else "mm"
            settings.append(listed([measured(value or 0.0, unit, units) for value in values[1:]]))
        for j, name in enumerate(act.makes):
            if _is_letter(act, name):
                makes.append(listed([spoken(one[k].makes[j]) for one in others]))
    text = f"Likewise {'once more' if len(others) == 1 else _times(len(others))}"
    if swapped:
        text += ", with " + " and ".join(f"{listed(column)} in place of {ref_words(ref)}" for ref, column in swapped.items())
    if settings:
        text += f", set to {' and '.join(settings)}"
    return f"{text}: mark {' and '.join(makes)}." if makes else f"{text}."


def _span_of(act: Act) -> list[Ref]:
    """The two things whose distance an act takes, if it takes one."""
    return list(act.set_to["of"]) if act.set_to is not None and act.set_to["from"] == SPAN else []


def _is_letter(act: Act, name: str) -> bool:
    return act.do in ("meet", "lay off", "touch", "transfer", "project", "slide") and not name.startswith("crossing ")


def _times(count: int) -> str:
    words = ("", "", "twice", "three", "four", "five", "six", "seven", "eight", "nine")
    return "twice" if count == 2 else f"{words[count] if count < len(words) else count} times"


def _gathered(acts: list[Act], units: Units) -> list[str]:
    """The sentences of acts, edges that are lined in one after the other in one."""
    said_so_far: list[str] = []
    edges: list[Act] = []
    for act in [*acts, None]:
        together = act is not None and act.do == "line in" and not act.way
        if act is not None and together and (not edges or edges[0].more == act.more):
            edges.append(act)
            continue
        if edges:
            said_so_far.append(_lined_in(edges))
            edges = []
        if act is not None and together:
            edges = [act]
        elif act is not None:
            said_so_far.append(told(act, units))
    return said_so_far


def _lined_in(acts: list[Act]) -> str:
    names = ["".join(ref_words(each) for each in act.on) for act in acts]
    listed_names = ", ".join(names) if len(names) > MOST_LISTED else listed(names)
    if len(names) > MOST_LISTED:
        listed_names = f"{', '.join(names[:3])} … {names[-1]}"
    pen = acts[0].more.get("pen", "outline")
    text = f"Line in {listed_names}" if pen in ("outline", "cut") else f"Draw {listed_names} as {pen} lines"
    why = next((act.why for act in acts if act.why), "")
    return f"{text}{f', {lowered(why)}' if why else ''}."


def ref_words(ref: Ref) -> str:
    """A name inside a sentence; a line through two letters by both."""
    if isinstance(ref, str):
        return with_article(ref)
    return f"{spoken(ref[0])}{'' if ref[1][:1].isalpha() else '–'}{spoken(ref[1])}"


def setting_words(act: Act, units: Units) -> str:
    """What the instrument is set to, and where that comes from: ``18.5 mm (radius)``."""
    to, value = act.set_to, act.value
    assert to is not None and value is not None
    unit = "°" if act.do in ("protract", "slant") else "mm"
    shown = measured(value, unit, units)
    origin = to["from"]
    if origin == "kept":
        return f"the same opening as {with_article(to['of'])}"
    if origin == "any":
        limits = [f"{word} than {_limit(to[f'{word} than'])}" for word in ("more", "less") if f"{word} than" in to]
        return f"any opening{', '.join(['', *limits])} (say {shown})"
    if origin == SPAN:
        return f"{shown} ({span_words(to)})"
    if origin == TURN:
        share = Fraction(value / 360).limit_denominator(1000)
        return f"{shown} ({share} of a turn)"
    return f"{shown}{sum_text(to.get('sum', ''), reckoned=origin == RECKONED)}"


def _limit(setting: dict[str, object]) -> str:
    return span_words(setting) if setting["from"] == "span" else str(setting.get("sum", "")).replace("_", " ")


def span_words(setting: dict[str, object]) -> str:
    """``M–N``, ``half of A–B``, ``the distance of c from XY``."""
    first, second = cast("list[Any]", setting["of"])
    is_line = isinstance(second, tuple | list) or " " in second or second.startswith("X")
    words = f"the distance of {spoken(first)} from {ref_words(second)}" if is_line else f"{spoken(first)}–{spoken(second)}"
    times = Fraction(str(setting.get("times", 1)))
    if times == 1:
        return words
    return f"half of {words}" if times == Fraction(1, 2) else f"{times} of {words}" if times < 1 else f"{times} × {words}"


def direction_words(dx: float, dy: float) -> str:
    """A way on the sheet: ``to the right``, ``upwards``, ``down to the left``."""
    size = math.hypot(dx, dy) or 1.0
    level = "" if abs(dx) < SLIGHT * size else "to the right" if dx > 0 else "to the left"
    upright = "" if abs(dy) < SLIGHT * size else "up" if dy > 0 else "down"
    if level and upright:
        return f"{upright} {level}"
    return level or f"{upright}wards"


def which_words(act: Act) -> str:
    """Which crossing is meant, in words that hold on paper, with a comma before; nothing where there is one only."""
    if act.which is None:
        return ""
    word, of = act.which
    if word in ("upper", "lower"):
        return f", the {word} crossing"
    if word in ("left", "right"):
        return f", the {word}-hand crossing"
    if word in ("along", "back along") and act.seen is not None:
        dx, dy = act.seen
        if abs(dy) > abs(dx):
            return f", the {'upper' if dy > 0 else 'lower'} crossing"
        return f", the {'right' if dx > 0 else 'left'}-hand crossing"
    if word in ("left of", "right of"):
        return f", {side_words(act)}"
    if word in ("inside", "outside"):
        return f", {word} {ref_words(of[0])}"
    return f", {'' if word.startswith('other') else 'the crossing '}{word} {ref_words(of[0])}"


def side_words(act: Act) -> str:
    """On which side of a line: above or below a level one, else left or right seen along its way."""
    assert act.which is not None
    word, of = act.which
    side, line = word.split(" ")[0], ref_words(of[0])
    if act.seen is None:
        return f"on the {side} of {line}"
    dx, dy = act.seen  # the way of the line itself
    size = math.hypot(dx, dy) or 1.0
    if abs(dy) < SLIGHT * size:
        return f"{'above' if (side == 'left') == (dx > 0) else 'below'} {line}"
    if abs(dx) < SLIGHT * size:
        turned = side if dy > 0 else {"left": "right", "right": "left"}[side]
        return f"on the {turned} of {line}"
    if isinstance(of[0], tuple):
        return f"on the {side} of {line}, seen from {spoken(of[0][0])}"
    return f"on the {side} of {line}, seen {direction_words(dx, dy)}"


def _first(act: Act) -> str:
    return ref_words(act.on[0])


def _made(act: Act) -> str:
    return with_article(act.makes[0])


def _set_out(act: Act, units: Units) -> str:
    ways = []
    for key, words in (("right", ("to the right", "to the left")), ("up", ("up", "down"))):
        if key in act.more:
            value = act.more[key]["value"]
            source = sum_text(act.more[key].get("sum", ""))
            ways.append(f"{measured(abs(value), 'mm', units)}{source} {words[value < 0]}")
    return (
        f"From {_first(act)} go {' and '.join(ways)}: mark {_made(act)}"
        if ways
        else f"{_made(act)} is {_first(act)} as well"
    )


def sum_text(text: str, *, reckoned: bool = False, items: Sequence[str] = ("x", "y")) -> str:
    """A sum of the record in words, in brackets; nothing of a plain number. ``items`` are what the numbers of a point are
    called."""
    if not text or text.isdigit():
        return ""
    text = _ITEM.sub(lambda found: _item_words(found, items), re.sub(r"\bpi\b", "π", text))
    for sign, printed in OPERATORS.items():
        text = text.replace(sign, printed)
    return f" ({'reckoned: ' if reckoned else ''}{text})"


_ITEM = re.compile(r"(\w+)\[(\d+)\]")


def _item_words(found: re.Match[str], items: Sequence[str]) -> str:
    """A number of a list: ``length 3``; of a point ``x of A``."""
    name, index = found.group(1), int(found.group(2))
    if name.endswith("s"):
        return f"{name[:-1]} {index + 1}"
    return f"{items[index]} of {name}"


def _join(act: Act, units: Units) -> str:
    a, b = (ref_words(each) for each in act.on)
    return f"Straightedge through {a} and {b}: draw {_made(act)}"


def _protract(act: Act, units: Units) -> str:
    line, vertex = (ref_words(each) for each in act.on)
    turned, arm = f"{setting_words(act, units)} {act.turn}", ""
    if act.seen is not None:
        arm = f" from the part of {line} that runs {direction_words(*act.seen)}"
    if "tool" in act.more:
        return f"Set square on the T-square at {vertex}: draw {_made(act)}, turned {turned}{arm}"
    return f"Protractor on {vertex} along {line}: turn {turned}{arm} and draw {_made(act)}"


def _arc(act: Act, units: Units) -> str:
    circle = "a circle" if act.do == "circle" else "an arc"
    plain = act.makes[0] in (f"arc about {act.on[0]}", f"circle about {act.on[0]}")
    swung = circle if plain else f"the {_named(act)}".replace("the the", "the")
    return f"Compass at {setting_words(act, units)}, needle on {_first(act)}: swing {swung}"


def _letters(act: Act) -> str:
    return listed([spoken(name) for name in act.makes])


def _named(act: Act) -> str:
    return spoken(act.makes[0])


def _lay_off(act: Act, units: Units) -> str:
    assert act.set_to is not None
    tool = "Dividers" if act.set_to["from"] in ("span", "kept") else "Scale"
    way = f" {direction_words(*act.seen)}" if act.seen is not None else ""
    line, start = (ref_words(each) for each in act.on)
    return f"{tool} along {line}: lay off {setting_words(act, units)} from {start}{way} and mark {_made(act)}"


def _meet(act: Act, units: Units) -> str:
    one, other = (ref_words(each) for each in act.on)
    names = [spoken(name) for name in act.makes]
    if len(names) == 2:
        first = which_words(act).removeprefix(", ")
        return f"Mark {names[0]} and {names[1]} where {one} meets {other}: {names[0]} is {first}"
    if names[0].startswith("crossing "):
        return f"Mark {names[0]} with a small cross where {one} meets {other}{which_words(act)}"
    return f"Mark {names[0]} where {one} meets {other}{which_words(act)}"


def _stepped(act: Act, units: Units) -> str:
    line, start = (ref_words(each) for each in act.on)
    if act.do == "step off":
        where = f"round {line} from {start}, {act.turn}"
    else:
        where = f"along {line} from {start} {direction_words(*act.seen) if act.seen else ''}".rstrip()
    count = f"{len(act.makes)} times" if len(act.makes) > 1 else "once"
    return f"Dividers at {setting_words(act, units)}: step off {where}, {count}, and mark {_letters(act)}"


def _divide(act: Act, units: Units) -> str:
    a, b = (ref_words(each) for each in act.on)
    return f"Divide {a}–{b} into {act.more['parts']} equal parts and mark {_letters(act)}"


def _divide_round(act: Act, units: Units) -> str:
    begin = act.more["begin"]["value"] % 360
    places = {0: "on the right", 90: "at the top", 180: "on the left", 270: "at the bottom"}
    where = places.get(round(begin, 9), f"at {measured(begin, '°')} from the right")
    parts = f"Divide {_first(act)} into {act.more['parts']} equal parts"
    return f"{parts}, {act.turn} beginning {where}: mark {_letters(act)}"


def _fair(act: Act, units: Units) -> str:
    return f"French curve: fair {_made(act)} through {listed([ref_words(name) for name in act.on])}"


def _line_in(act: Act, units: Units) -> str:
    pen = act.more.get("pen", "outline")
    if act.way and act.seen is not None:
        start, line = (ref_words(each) for each in act.on)
        return f"Line in {line} from {start} {direction_words(*act.seen)}, as far as it is wanted"
    edge = "".join(ref_words(each) for each in act.on)
    return f"Line in {edge}" if pen in ("outline", "cut") else f"Draw {edge} as a {pen} line"


def _line_in_arc(act: Act, units: Units) -> str:
    centre, start, end = (ref_words(each) for each in act.on)
    return f"Compass: line in the arc about {centre} from {start} anticlockwise to {end}"


def _views(act: Act, units: Units) -> str:
    text = "T-square: draw the fold line XY level and mark 0 on it"
    if act.set_to is None:
        return text
    return f"{text}. Draw the wall line level above it, clear of the front view"


def _set_out_in_views(act: Act, units: Units) -> str:
    up, low, _ = act.makes
    said_ways = {
        "right": ("through 0", "to the right of 0", "to the left of 0"),
        "above": ("on XY", "above HP", "below HP"),
        "front": ("on VP", "in front of VP", "behind VP"),
    }
    found = {}
    for key, (on, ahead, back) in said_ways.items():
        value = act.more[key]["value"]
        source = sum_text(act.more[key].get("sum", ""), items=("x", "front", "height"))
        size = f"{measured(abs(value), 'mm', units)}{source}"
        found[key] = on if value == 0 else f"{size} {ahead if value > 0 else back}"
    marked = f"mark {spoken(up)} on it {found['above']} and {spoken(low)} {found['front']}"
    return f"Scale: draw a projector {found['right']}; {marked}"


def _fold(act: Act, units: Units) -> str:
    corner, how = ref_words(act.on[1]), act.more["how"]
    assert act.which is not None
    side = side_words(act) if act.which[0].endswith(" of") else f"{direction_words(*act.seen)} from it" if act.seen else ""
    square = how == "square to"
    laid = f"Set square on {_first(act)}" if square else f"Set square along {_first(act)}"
    line = f"draw the fold line {_named(act)} {'square' if square else 'parallel'} to it"
    return f"{laid}: {line}, clear of {corner}, {side}"


def _transfer(act: Act, units: Units) -> str:
    start, fold = (ref_words(each) for each in act.on)
    if act.value == 0:
        return f"Projector from {start} square to {fold}: mark {_made(act)} where it meets it"
    side = f", {act.more['side']} {start}" if act.more["side"] else f", {side_words(act)}"
    return (
        f"Projector from {start} square to {fold}; dividers at {setting_words(act, units)}: "
        f"set it off from {fold}{side}, and mark {_made(act)}"
    )


def _strip(act: Act, units: Units) -> str:
    marks = (act.more[key] for key in ("first", "second"))
    first, second = (f"{measured(mark['value'], 'mm', units)}{sum_text(mark.get('sum', ''))}" for mark in marks)
    side = "on the other side of it" if act.more["between"] else "on the same side"
    return f"Mark a strip of paper: the pencil's place, a first mark {first} from it, and a second {second} from it {side}"


def _pair(text: str) -> Callable[[Act, Units], str]:
    """A sentence that says the first and second thing it stands on, and the first that it makes."""

    def compose(act: Act, units: Units) -> str:
        on = [ref_words(each) for each in act.on]
        words = {f"on{index}": each for index, each in enumerate(on)}
        made = with_article(act.makes[0]) if act.makes else ""
        return text.format(**words, made=made, set=setting_words(act, units) if act.set_to is not None else "")

    return compose


_SENTENCES: dict[str, Callable[[Act, Units], str]] = {
    "place": _pair("Mark {made} where there is room"),
    "set out": _set_out,
    "also": _pair(ALSO),
    "level": _pair("T-square through {on0}: draw {made} level"),
    "upright": _pair("Set square on the T-square at {on0}: draw {made} upright"),
    "slant": lambda act, units: (
        f"Set square of {setting_words(act, units)} at {_first(act)}: draw {_made(act)}, rising to the {act.more['rising']}"
    ),
    "join": _join,
    "join crossings": _pair("Straightedge through both crossings of {on0} and {on1}: draw {made}"),
    "parallel": _pair("Set square along {on0}, slid to {on1}: draw {made} parallel to it"),
    "parallel touching": lambda act, units: (
        f"Slide the set square from {_first(act)} until it touches "
        f"{' and '.join(ref_words(each) for each in act.on[1:])} {side_words(act)}: draw {_made(act)}"
    ),
    "square": _pair("Set square on {on0} at {on1}: draw {made}, square to it"),
    "protract": _protract,
    "arc": _arc,
    "circle": _arc,
    "lay off": _lay_off,
    "meet": _meet,
    "touch": _pair("Mark {made} where {on0} just touches {on1}"),
    "step off": _stepped,
    "step along": _stepped,
    "divide": _divide,
    "divide round": _divide_round,
    "strip": _strip,
    "slide": lambda act, units: (
        f"Lay the strip with its first mark on {ref_words(act.on[1])}, the second on {ref_words(act.on[2])}"
        f"{which_words(act)}: prick {_made(act)}"
    ),
    "fair": _fair,
    "views": _views,
    "set out in views": _set_out_in_views,
    "project": lambda act, units: (
        f"Projector from {_first(act)} square to {with_article(act.more['across'])}: "
        f"mark {_made(act)} on {ref_words(act.on[1])}"
    ),
    "fold": _fold,
    "transfer": _transfer,
    "line in": _line_in,
    "line in arc": _line_in_arc,
    "line in circle": _pair("Compass: line in the circle about {on0} through {on1}"),
    "unsaid": _pair("Mark {made}"),
    "lap": _pair("Add a lap of {set} outside {on0}{on1}, its corners cut off at 45°"),
    "reckon": lambda act, units: f"Reckon {_made(act)}: {setting_words(act, units)}",
}


def setting_text(step: Step, units: Units = Units.MM) -> str:
    """The setting with its unit (``18.5 mm``), or nothing."""
    return "" if step.setting is None else measured(float(step.setting), step.unit, units)


def sentence(step: Step, units: Units = Units.MM) -> str:
    """What the drafter does at this step: its acts, each in one sentence."""
    if step.verb == "likewise":
        return _likewise(step, units)
    if step.verb == "other solution":
        numbers = step.words["numbers"].split()
        several = f"Solutions {listed(numbers)} are" if len(numbers) > 1 else f"Solution {numbers[0]} is"
        settings = f"{'their' if len(numbers) > 1 else 'its'} own settings"
        return f"{several} found like solution {step.words['shown']}, which is shown step by step, with {settings}."
    if step.verb != "say" and step.acts:
        return " ".join(_gathered(step.acts, units))
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
