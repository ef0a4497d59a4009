"""The sentences of acts: what a drafter is told, composed from the record alone."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from fractions import Fraction
from itertools import groupby, pairwise
from typing import Any, cast

from wisecompass.drafting.conventions import Units
from wisecompass.drafting.dividing import by_set_squares
from wisecompass.drafting.likewise import swapped
from wisecompass.drafting.record import Act, Ref
from wisecompass.drafting.setting import RECKONED, SPAN, TURN
from wisecompass.drafting.step import Step
from wisecompass.drafting.wording import (
    crossing_words,
    direction_words,
    joint,
    lettered,
    listed,
    lowered,
    measured,
    run,
    side_seen,
    spoken,
    with_article,
)

ALSO = "{on0} is {made} as well"

OPERATORS = {" - ": " − ", " * ": " × ", "-": "−", "_": " "}


EVEN = 1e-6
"""Settings whose steps differ less, mm or degrees, go on evenly."""

LINES = ("level", "upright", "slant", "parallel", "square", "protract", "arc", "circle")
"""What makes lines and arcs with names of their own."""

UNLETTERED = ("crossing ", "tick ")
"""How names begin of places that are used but not worth a letter."""

MARKING = ("meet", "lay off", "touch", "transfer", "project", "slide", "divide", "divide round", "step off", "step along")
"""What marks letters."""

MOST_JOINED = 3
"""From so many on, lines that are only joined are told together."""

STAYS = 3
"""A name that stays for so many rounds is said once with how often."""

MOST_LISTED = 8
"""Edges named one by one in a sentence; of more only the first three and the last."""


def told(act: Act, units: Units = Units.MM) -> str:
    """One act in one sentence, with its why."""
    on_dots = _ON_DOTS.get(act.do) if act.more.get("dots") else None
    return _with_why((on_dots or _SENTENCES[act.do])(act, units), act.why)


def _likewise(step: Step, units: Units) -> str:
    """All further rounds in one sentence: with what in place of what, set to what, and what they make. Where the rounds are
    not alike enough to be told together each is told."""
    length, rounds = step.round_length, step.rounds
    if step.book is None:
        return "Likewise for all others"
    if step.verb == "likewise":
        first = [act for n in range(step.covers[0] - length, step.covers[0]) for act in step.book.of_step(n)]
    else:
        first, rounds = rounds[0], rounds[1:]
    return _others_told(
        first, [[a for acts in rounds[k : k + length] for a in acts] for k in range(0, len(rounds), length)], units
    )


def _others_told(pattern: list[Act], others: list[list[Act]], units: Units) -> str:
    """Rounds as the first is told, with what is another in each."""
    if [act.do for act in pattern] == ["set out in views"]:
        return _set_out_likewise([act for one in others for act in one], units)
    if [act.do for act in pattern] == ["line in arc"]:
        arcs = (tuple(ref_words(each) for each in act.on) for one in others for act in one)
        return f"Likewise {'; '.join(f'about {centre} from {start} to {end}' for centre, start, end in arcs)}."
    swaps = [swapped(pattern, other) for other in others]
    if any(swap is None for swap in swaps):
        return " ".join(_gathered([act for one in others for act in one], units))
    own = {name for act in pattern for name in act.makes}
    text = f"Likewise {'once more' if len(others) == 1 else _times(len(others))}"
    instead: dict[Ref, list[Ref]] = {
        ref: [(swap or {}).get(ref, ref) for swap in swaps] for swap in swaps for ref in swap or ()
    }
    replaced = [
        f"{listed(_in_turn([ref_words(each) for each in column]))} in place of {ref_words(ref)}"
        for ref, column in instead.items()
        if ref not in own and any(each != ref for each in column)
    ]
    if replaced:
        text += f", with {'; '.join(replaced)}"
    settings = []
    for k, act in enumerate(pattern):
        values = [one[k].value or 0.0 for one in others]
        if any(value != act.value for value in values) and act.value is not None:
            unit = "°" if act.do in ("protract", "slant") else "mm"
            texts = [measured(value, unit, units) for value in values]
            follows = act.set_to is not None and act.set_to["from"] == SPAN
            settings.append(run(texts) if follows or _even(values) else listed(texts, every=True))
    if settings:
        text += f", set to {_columns(settings)}"
    made = []
    for letters, word in ((False, "draw"), (True, "mark")):
        shown = [
            _made_in_turn([one[k].makes for one in others])
            for k, act in enumerate(pattern)
            if act.makes and (_is_letter(act) if letters else _is_spoken_of(act))
        ]
        if shown:
            made.append(f"{word} {_columns(shown)}")
    return f"{text}: {' and '.join(made)}." if made else f"{text}."


def _in_turn(names: list[str]) -> list[str]:
    """Names one after the other, those that stay for many rounds once: ``F₁ four times``."""
    stays = [(name, len(list(same))) for name, same in groupby(names)]
    if max(count for _, count in stays) < STAYS:
        return names
    return [name if count == 1 else f"{name} {_times(count)}" for name, count in stays]


def _columns(several: list[str]) -> str:
    """What several acts have in their rounds, one act after the other."""
    return ("; " if any(" and " in each or "," in each for each in several) else " and ").join(several)


def _even(values: list[float]) -> bool:
    """Whether the steps from each to the next are the same."""
    steps = [after - before for before, after in pairwise(values)]
    return not steps or max(steps) - min(steps) < EVEN


def _made_in_turn(makes: list[tuple[str, ...]]) -> str:
    """What each round makes: ``P₂, P₃ and P₄``; where it is several, round by round: ``3 and 4, then 5 and 6``."""
    if all(len(names) == 1 for names in makes):
        return listed([spoken(names[0]) for names in makes])
    return ", then ".join(listed([spoken(name) for name in names]) for names in makes)


def _is_spoken_of(act: Act) -> bool:
    """Whether what an act makes is a line or arc with a name of its own, by which it may be spoken of later."""
    name = act.makes[0]
    return act.do in LINES and name[-1:].isdigit() and not name.startswith(("arc about", "circle about"))


def _is_letter(act: Act) -> bool:
    """Whether what an act makes is lettered."""
    return act.do in MARKING and not act.makes[0].startswith(UNLETTERED)


def _times(count: int) -> str:
    words = ("", "", "twice", "three", "four", "five", "six", "seven", "eight", "nine")
    return "twice" if count == 2 else f"{words[count] if count < len(words) else count} times"


def _gathered(acts: list[Act], units: Units) -> list[str]:
    """The sentences of acts; edges that are lined in one after the other in one, and so lines that are only joined."""
    said_so_far: list[str] = []
    for kind, group in groupby(acts, key=_together):
        several = list(group)
        if kind[0] == "line in between":
            said_so_far.append(_lined_between(several))
        elif kind[0] == "line in":
            said_so_far.append(_lined_in(several))
        elif kind[0] == "lap":
            edges = listed([ref_words((str(act.on[0]), str(act.on[1]))) for act in several])
            said_so_far.append(f"Add laps of {setting_words(several[0], units)} outside {edges}, {several[0].why}.")
        elif kind[0] == "join" and len(several) >= MOST_JOINED:
            said_so_far.append(_with_why(f"Straightedge: draw {listed([_made(act) for act in several])}", several[0].why))
        else:
            said_so_far += [told(act, units) for act in several]
    return said_so_far


def _together(act: Act) -> tuple[object, ...]:
    """What acts have in common that are told in one sentence."""
    if act.do == "line in between":
        return act.do, tuple(act.more.items())
    if act.do == "line in" and not act.way:
        return "line in", tuple(act.more.items())
    if act.do == "lap" and act.why:
        return "lap", act.why
    if act.do == "join" and act.makes[0] == joint(*(str(each) for each in act.on)):
        return "join", act.why
    return "", act.n


def _lined_in(acts: list[Act]) -> str:
    names = [ref_words((str(act.on[0]), str(act.on[1]))) for act in acts]
    listed_names = listed(names, every=len(names) > MOST_LISTED)
    if len(names) > MOST_LISTED and all(one.on[1] == after.on[0] for one, after in pairwise(acts)):
        listed_names = f"{', '.join(names[:3])} … {names[-1]}"  # they run on round a figure
    pen = acts[0].more.get("pen", "outline")
    text = f"Line in {listed_names}" if pen in ("outline", "cut") else f"Draw {listed_names} as {pen} lines"
    why = next((act.why for act in acts if act.why), "")
    return f"{text}{f', {lowered(why)}' if why else ''}."


def _lined_between(acts: list[Act]) -> str:
    """Pieces of lines, each from one line to another, by the lines that they lie on."""
    pieces: dict[str, list[str]] = {}
    for act in acts:
        line, first, last = (str(each) for each in act.on)
        pieces.setdefault(line, []).append(f"from {ref_words(first)} to {ref_words(last)}")
    pen = acts[0].more.get("pen", "outline")
    how = "Line in" if pen in ("outline", "cut") else f"Draw as {pen} lines"
    why = next((act.why for act in acts if act.why), "")
    told_of = "; ".join(f"{ref_words(line)} {' and '.join(several)}" for line, several in pieces.items())
    return f"{how}{f', {lowered(why)}' if why else ''}: {told_of}."


def ref_words(ref: Ref) -> str:
    """A name inside a sentence; a line through two letters by both."""
    if isinstance(ref, str):
        return with_article(ref)
    first, second = ref
    if first.isdigit() and " " not in second and second[:1].isalpha():
        return f"{lettered(first)}–{lettered(second)}"  # 1–p₁: side by side they would read like one name
    return spoken(joint(first, second))


def setting_words(act: Act, units: Units) -> str:
    """What the instrument is set to, and where that comes from: ``18.5 mm (radius)``."""
    to, value = act.set_to, act.value
    assert to is not None and value is not None
    unit = "°" if act.do in ("protract", "slant") else "mm"
    shown = measured(value, unit, units)
    origin = to["from"]
    if origin == "kept":
        return f"the same opening as for {with_article(to['of'])}"
    if origin == "any":
        limits = [f"{word} than {_limit(to[f'{word} than'])}" for word in ("more", "less") if f"{word} than" in to]
        return f"any opening{', '.join(['', *limits])} (say {shown})"
    if origin == SPAN:
        return f"{shown} ({span_words(to)})"
    if origin == TURN:
        share = Fraction(value / 360).limit_denominator(1000)
        return f"{shown} ({share} of a turn)"
    if "written" in to:
        return f"{shown}{typed_sum(str(to['written']))}"
    return f"{shown}{sum_text(to.get('sum', ''), reckoned=origin == RECKONED)}"


def typed_sum(text: str) -> str:
    """A sum of numbers as they were typed, in brackets; nothing of one alone."""
    return f" ({_signed(text)})" if re.search(r"[-+*/]", text) else ""


def _signed(text: str) -> str:
    for sign, printed in OPERATORS.items():
        text = text.replace(sign, printed)
    return text


def _limit(setting: dict[str, object]) -> str:
    return span_words(setting) if setting["from"] == "span" else str(setting.get("sum", "")).replace("_", " ")


def span_words(setting: dict[str, object]) -> str:
    """``M–N``, ``half of A–B``, ``the distance of c from XY``."""
    first, second = cast("list[Any]", setting["of"])
    is_line = isinstance(second, tuple | list) or " " in second or second.startswith("X")
    words = (
        f"the distance of {ref_words(first)} from {ref_words(second)}" if is_line else f"{spoken(first)}–{spoken(second)}"
    )
    times = Fraction(str(setting.get("times", 1)))
    if times == 1:
        return words
    return f"half of {words}" if times == Fraction(1, 2) else f"{times} of {words}" if times < 1 else f"{times} × {words}"


def way_words(act: Act, start: str = "", *, ahead: bool | None = None) -> str:
    """Which way one goes along the line of an act, from a letter on it: told by letters where the line has them, which holds
    for every round alike, else by the sheet."""
    ahead = act.way != "back" if ahead is None else ahead
    match act.sense:
        case ("from", str(vertex)):
            if start == vertex:
                return "outwards" if ahead else "backwards"
            return f"{'away from' if ahead else 'towards'} {spoken(vertex)}"
        case ("pair" | "as" as kind, str(a), str(b)):
            a, b = (b, a) if not ahead else (a, b)
            if kind == "pair" and start in (a, b):
                return f"towards {spoken(b)}" if start == a else f"away from {spoken(a)}"
            return f"the way from {spoken(a)} to {spoken(b)}"
        case ("square", line, str(seen_from)):
            return f"to the {'left' if ahead else 'right'} of {ref_words(line)}, seen from {spoken(seen_from)}"
    return direction_words(*act.seen) if act.seen is not None else ""


def _going(act: Act, ahead: bool) -> str:
    """Which way along a line two crossings are met."""
    if act.sense[0] == "from":
        return f"going {'outwards from' if ahead else 'towards'} {spoken(act.sense[1])}"
    if act.sense[0] == "square":
        return way_words(act, ahead=ahead)
    a, b = (spoken(str(name)) for name in (act.sense[1:] if ahead else act.sense[:0:-1]))
    return f"going from {a} to {b}"


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
        if act.sense:
            return f", the crossing farther on, {_going(act, word == 'along')}"
        return f", the {crossing_words(*act.seen)} crossing"
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
    if act.sense[:1] == ("from",):
        return f"on the {side} of {line}, seen from {spoken(act.sense[1])}"
    dx, dy = act.seen  # the way of the line itself
    if seen := side_seen(side, dx, dy):
        return f"{seen} {line}" if seen in ("above", "below") else f"on the {seen} of {line}"
    if act.sense[:1] == ("pair",):
        return f"on the {side} of {line}, seen from {spoken(act.sense[1])}"
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
            source = sum_text(_size_of(act.more[key].get("sum", ""), value))
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
    return f" ({'reckoned: ' if reckoned else ''}{sum_words(text, items)})"


def sum_words(text: str, items: Sequence[str] = ("x", "y")) -> str:
    """A sum of the record in words."""
    text = _ITEM.sub(lambda found: _item_words(found, items), re.sub(r"\bpi\b", "π", text))
    return _signed(re.sub(r"\babs\(([^()]*)\)", r"|\1|", text))


_ITEM = re.compile(r"(\w+)\[(\d+)\]")


def _item_words(found: re.Match[str], items: Sequence[str]) -> str:
    """A number of a list: ``length 3``; of a point ``x of A``."""
    name, index = found.group(1), int(found.group(2))
    if name == "parts":
        return f"number {index + 1} of the parts"
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
        arm = f" from the part of {line} that runs {way_words(act, str(act.on[1]))}"
    if act.value == 0:
        return f"Straightedge: draw {_made(act)} from {vertex}{arm.replace(' from', ' along', 1)}, turned {turned}"
    if "tool" in act.more:
        return f"Set square on the T-square at {vertex}: draw {_made(act)}, turned {turned}{arm}"
    return f"Protractor on {vertex} along {line}: turn {turned}{arm} and draw {_made(act)}"


def _arc(act: Act, units: Units) -> str:
    circle = "a circle" if act.do == "circle" else "an arc"
    plain = act.makes[0] in (f"arc about {act.on[0]}", f"circle about {act.on[0]}")
    swung = circle if plain else _made(act)
    return f"Compass at {setting_words(act, units)}, needle on {_first(act)}: swing {swung}"


def _letters(act: Act) -> str:
    return listed([spoken(name) for name in act.makes])


def _named(act: Act) -> str:
    return spoken(act.makes[0])


def _lay_off(act: Act, units: Units) -> str:
    assert act.set_to is not None
    tool = "Dividers" if act.set_to["from"] in ("span", "kept") else "Scale"
    way = f" {way_words(act, str(act.on[1]))}" if act.seen is not None else ""
    line, start = (ref_words(each) for each in act.on)
    if count := act.more.get("dots"):
        dots = f"{count} dot{'s' if count > 1 else ''}, {setting_words(act, units)},"
        return f"Count {dots} along {line} from {start}{way} and mark {_made(act)}"
    if act.makes[0].startswith(UNLETTERED):
        return f"{tool} along {line}: tick {setting_words(act, units)} from {start}{way}, {spoken(act.makes[0])}"
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
        where = f"along {line} from {start} {way_words(act, str(act.on[1]))}".rstrip()
    count = _times(len(act.makes)) if len(act.makes) > 1 else "once"
    return f"Dividers at {setting_words(act, units)}: step off {where}, {count}, and mark {_letters(act)}"


def _divide(act: Act, units: Units) -> str:
    a, b = (ref_words(each) for each in act.on)
    if act.more["parts"] == 2:
        return f"Halve {a}–{b} by equal arcs from both ends and mark {_letters(act)}"
    return f"Divide {a}–{b} into {act.more['parts']} equal parts by a slant line and mark {_letters(act)}"


def _divide_round(act: Act, units: Units) -> str:
    begin = act.more["begin"]["value"] % 360
    places = {0: "on the right", 90: "at the top", 180: "on the left", 270: "at the bottom"}
    where = places.get(round(begin, 9), f"at {measured(begin, '°')} from the right")
    count = act.more["parts"]
    squares = by_set_squares(act.more["begin"]["value"], count)
    way = "with set squares" if squares else f"by protractor, {measured(360 / count, '°')} each"
    return f"Divide {_first(act)} into {count} equal parts {way}, {act.turn} beginning {where}: mark {_letters(act)}"


def _fair(act: Act, units: Units) -> str:
    return f"French curve: fair {_made(act)} through {listed([ref_words(name) for name in act.on])}"


def _line_in(act: Act, units: Units) -> str:
    pen = act.more.get("pen", "outline")
    if act.way and act.seen is not None:
        start, line = (ref_words(each) for each in act.on)
        return f"Line in {line} from {start} {way_words(act, str(act.on[0]))}, as far as it is wanted"
    edge = ref_words((str(act.on[0]), str(act.on[1])))
    return f"Line in {edge}" if pen in ("outline", "cut") else f"Draw {edge} as a {pen} line"


def _line_in_arc(act: Act, units: Units) -> str:
    centre, start, end = (ref_words(each) for each in act.on)
    return f"Compass: {_inking(act)} the arc about {centre} from {start} anticlockwise to {end}"


def _line_in_circle(act: Act, units: Units) -> str:
    centre, start = (ref_words(each) for each in act.on)
    return f"Compass: {_inking(act)} the circle about {centre} through {start}"


def _inking(act: Act) -> str:
    return "draw as hidden lines" if act.more.get("pen") == "hidden" else "line in"


def _views(act: Act, units: Units) -> str:
    text = "T-square: draw the fold line XY level and mark 0 on it"
    if act.set_to is None:
        return text
    return f"{text}. Draw the wall line level above it, clear of the front view"


def _set_out_in_views(act: Act, units: Units) -> str:
    """A point of given coordinates: its projector, and how far along it the point lies in each view."""
    up, low, _ = act.makes
    right, above, front = _places(act, units)
    return f"Scale: draw a projector {right}; mark {spoken(up)} on it {above} and {spoken(low)} {front}"


def _places(act: Act, units: Units) -> list[str]:
    """Where a point that is set out in two views stands: along XY, over HP and before VP."""
    said_ways = {
        "right": ("through 0", "to the right of 0", "to the left of 0"),
        "above": ("on XY", "above HP", "below HP"),
        "front": ("on VP", "in front of VP", "behind VP"),
    }
    found = []
    for key, (on, ahead, back) in said_ways.items():
        value = act.more[key]["value"]
        source = sum_text(_size_of(act.more[key].get("sum", ""), value), items=("x", "front", "height"))
        size = f"{measured(abs(value), 'mm', units)}{source}"
        found.append(on if value == 0 else f"{size} {ahead if value > 0 else back}")
    return found


def _size_of(text: str, value: float) -> str:
    """A sum whose way is told by a word: what is only minus something is told by that."""
    bare = re.sub(r"\([^()]*\)", "", re.sub(r"\([^()]*\)", "", text))  # without what stands in brackets
    return text[1:] if value < 0 and text.startswith("-") and not re.search(r" [-+] ", bare) else text


def _set_out_likewise(acts: Sequence[Act], units: Units) -> str:
    """Further points that are set out, each with its places."""
    each = []
    for act in acts:
        up, low, _ = act.makes
        right, above, front = _places(act, units)
        each.append(f"{spoken(up)} {above} and {spoken(low)} {front} on a projector {right}")
    return f"Likewise: {'; '.join(each)}."


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


def _named_by(word: str, text: str, how: str) -> Callable[[Act, Units], str]:
    """The same; ``how`` the line lies is left out where its name begins with it."""
    named, plainly, more = re.compile(rf"(?:{word})\b"), _pair(text), _pair(text + how)

    def compose(act: Act, units: Units) -> str:
        return (plainly if named.match(act.makes[0]) else more)(act, units)

    return compose


_SENTENCES: dict[str, Callable[[Act, Units], str]] = {
    "place": _pair("Mark {made} where there is room"),
    "set out": _set_out,
    "also": _pair(ALSO),
    "level": _named_by("level", "T-square through {on0}: draw {made}", " level"),
    "upright": _named_by("upright", "Set square on the T-square at {on0}: draw {made}", " upright"),
    "slant": lambda act, units: (
        f"Set square of {setting_words(act, units)} at {_first(act)}: draw {_made(act)}, rising to the {act.more['rising']}"
    ),
    "join": _join,
    "join crossings": _pair("Straightedge through both crossings of {on0} and {on1}: draw {made}"),
    "parallel": _named_by("parallel", "Set square along {on0}, slid to {on1}: draw {made}", " parallel to it"),
    "parallel touching": lambda act, units: (
        f"Slide the set square from {_first(act)} until it touches "
        f"{' and '.join(ref_words(each) for each in act.on[1:])} {side_words(act)}: draw {_made(act)}"
    ),
    "square": _named_by("square|perpendicular", "Set square on {on0} at {on1}: draw {made}", ", square to it"),
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
    "line in between": lambda act, units: _lined_between([act]),
    "line in arc": _line_in_arc,
    "line in circle": _line_in_circle,
    "unsaid": _pair("Mark {made}"),
    "hatch": lambda act, units: f"Set square at 45°: hatch within {listed([ref_words(each) for each in act.on])}, thin",
    "lap": _pair("Add a lap of {set} outside {on0}{on1}, its corners cut off at 45°"),
    "reckon": lambda act, units: f"Reckon {_made(act)}: {setting_words(act, units)}",
}


_ON_DOTS: dict[str, Callable[[Act, Units], str]] = {
    "upright": _pair("Straightedge along the dots straight up from {on0}: draw {made}"),
    "slant": lambda act, units: (
        f"Straightedge along the dots from {_first(act)}: draw {_made(act)}, rising to the {act.more['rising']}"
    ),
    "parallel": _pair("Straightedge along the dots through {on1}: draw {made}, parallel to {on0}"),
}
"""The same on dot paper, where the dots guide the straightedge."""


def setting_text(step: Step, units: Units = Units.MM) -> str:
    """The setting with its unit (``18.5 mm``), or nothing."""
    return "" if step.setting is None else measured(float(step.setting), step.unit, units)


def sentence(step: Step, units: Units = Units.MM) -> str:
    """What the drafter does at this step: what is thought, and its acts, each in one sentence."""
    if step.verb == "likewise":
        return _likewise(step, units)
    if step.verb == "other solution":
        shown, *others = step.solutions
        numbers = [str(number) for number in others]
        several = f"Solutions {listed(numbers)} are" if len(numbers) > 1 else f"Solution {numbers[0]} is"
        settings = f"{'their' if len(numbers) > 1 else 'its'} own settings"
        return f"{several} found like solution {shown}, which is shown step by step, with {settings}."
    thought = []
    if step.text:
        thought.append(_with_why(step.text.format(setting=setting_text(step, units)), step.why))
    if step.round_length:
        return " ".join([*thought, *_gathered(step.rounds[0], units), _likewise(step, units)])
    return " ".join([*thought, *_gathered(step.acts, units)]) or f"{step.verb.capitalize()} {listed(step.makes)}."


def _with_why(text: str, why: str) -> str:
    """A sentence with the reason after it."""
    if why:
        why = lowered(why)
        text += f", {why}" if not why[0].isupper() else f". {why}"
    return text.rstrip(".") + "."
