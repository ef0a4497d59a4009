"""The blind hand: redraws a sheet from its acts and the given numbers, and has nothing else.

It knows what ``docs/construction-record.md`` says and no more: its geometry is its own (complex numbers), it never reads
a ``value``, it puts the first point of every part somewhere else, and where the record says "any" it takes another
opening. What it cannot do is an error in the record: an unknown name, a name made twice, an unsaid setting, a second
crossing without a word.
"""

from __future__ import annotations

import ast
import cmath
import math
import operator
import random
import re
from collections.abc import Callable, Mapping, Sequence
from fractions import Fraction
from typing import Any, TypeAlias

Values: TypeAlias = Mapping[str, "float | str | Sequence[float]"]
"""The givens: numbers in mm and degrees, whole numbers, lists of numbers, and texts that hold numbers; other words are of no
use to a hand."""


class Stuck(Exception):
    """An act that cannot be done with what the record says; the sentence says which and why."""


class Hand:
    """Draws act after act. With a ``seed`` every "any" is another opening, without one it is the one that is hinted at."""

    def __init__(self, givens: Values, seed: int | None = None) -> None:
        self.givens, self.seed = givens, seed
        self._random = random.Random(seed or 0)
        self.points: dict[str, complex] = {}
        self.lines: dict[str, tuple[complex, complex]] = {}
        """A place on the line and its way, of unit length."""
        self.arcs: dict[str, tuple[complex, float]] = {}
        self.curves: set[str] = set()
        self.opened: dict[str, float] = {}
        self.strips: dict[str, tuple[float, float, bool]] = {}
        """How far the marks of a strip are from its pencil, and whether that lies between them."""
        self.ink: list[tuple[complex, complex]] = []
        """Pieces of lines that were inked from one line to another."""
        self.placed = 0
        """How many parts have been put on the sheet where there was room: so many shifts are free."""

    def draw(self, acts: Sequence[Mapping[str, Any]]) -> None:
        """Do all acts in their order.

        Raises:
            Stuck: one cannot be done.
        """
        for act in acts:
            do = _ACTS.get(act["do"])
            if do is None:
                raise Stuck(f"act {act['n']}: nobody can do “{act['do']}”, which makes {', '.join(act.get('makes', ()))}")
            try:
                do(self, act)
            except (Stuck, ZeroDivisionError, KeyError, ValueError) as reason:
                raise Stuck(f"act {act['n']}, {act['do']} {act.get('on', '')}: {reason}") from None

    # ------------------------------------------------------------------------------------------------------- names
    def _new(self, name: str) -> str:
        if name in self.points or name in self.lines or name in self.arcs or name in self.curves:
            raise Stuck(f"{name} is there already")
        return name

    def point(self, name: Any) -> complex:
        """A letter that is on the sheet."""
        if not isinstance(name, str) or name not in self.points:
            raise Stuck(f"there is no point {name}")
        return self.points[name]

    def line(self, ref: Any) -> tuple[complex, complex]:
        """A line that is on the sheet, or the one through two letters."""
        if isinstance(ref, str):
            if ref not in self.lines:
                raise Stuck(f"there is no line {ref}")
            return self.lines[ref]
        a, b = (self.point(name) for name in ref)
        return a, _unit(b - a)

    def shape(self, ref: Any) -> tuple[complex, complex | float]:
        """A line with its way, or an arc with its radius."""
        if isinstance(ref, str) and ref in self.arcs:
            return self.arcs[ref]
        return self.line(ref)

    def _keep(self, act: Mapping[str, Any], *places: complex) -> None:
        for name, place in zip(act["makes"], places, strict=False):
            self.points[self._new(name)] = place

    def _rule(self, act: Mapping[str, Any], at: complex, way: complex) -> None:
        self.lines[self._new(act["makes"][0])] = (at, _unit(way))

    # ---------------------------------------------------------------------------------------------------- settings
    def setting(self, act: Mapping[str, Any], key: str = "setting") -> float:
        """What the instrument is set to."""
        found = self._value(act[key])
        if act[key]["from"] == "any" and act.get("makes"):
            self.opened[act["makes"][0]] = found
        return found

    def _value(self, setting: Mapping[str, Any]) -> float:
        origin = setting["from"]
        if origin in ("given", "turn", "square", "reckoned"):
            return self.reckon(setting["sum"], with_roots=origin == "reckoned")
        if origin == "span":
            return self._span(setting["of"]) * float(Fraction(setting.get("times", 1)))
        if origin == "kept":
            return self.opened[setting["of"]]
        if origin == "any":
            return self._any(setting)
        raise Stuck("nobody said what it is set to")

    def _span(self, of: Sequence[Any]) -> float:
        first = self.point(of[0])
        if isinstance(of[1], str) and of[1] in self.points:
            return abs(self.points[of[1]] - first)
        at, way = self.line(of[1])
        return abs(_cross(way, first - at))

    def _any(self, setting: Mapping[str, Any]) -> float:
        about = float(setting["about"])
        if self.seed is None:
            return about
        least = self._value(setting["more than"]) if "more than" in setting else None
        most = self._value(setting["less than"]) if "less than" in setting else None
        share = self._random.uniform(0.1, 0.9)
        if least is not None:
            return least + ((most - least) if most is not None else least) * share
        if most is not None:
            return most * share
        return about * self._random.uniform(0.7, 1.4)

    def reckon(self, text: str, *, with_roots: bool = False) -> float:
        """A sum of givens: + - * / and abs, and where it is reckoned beforehand sqrt, pi, sin, cos, tan too."""
        return float(self._term(ast.parse(text, mode="eval").body, with_roots))

    def _term(self, node: ast.expr, roots: bool) -> float:
        if isinstance(node, ast.Constant) and isinstance(node.value, int | float):
            return node.value
        if isinstance(node, ast.Name):
            if node.id == "pi" and roots:
                return math.pi
            found = self.givens[node.id]
            if isinstance(found, int | float):
                return found
        if isinstance(node, ast.Subscript) and isinstance(node.value, ast.Name) and isinstance(node.slice, ast.Constant):
            several: object = self.givens[node.value.id]
            if isinstance(several, str):
                several = _numbers_of(several)
            if isinstance(several, Sequence) and isinstance(node.slice.value, int):
                return float(several[node.slice.value])
        if isinstance(node, ast.BinOp) and type(node.op) in _SIGNS:
            return _SIGNS[type(node.op)](self._term(node.left, roots), self._term(node.right, roots))
        if isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
            return -self._term(node.operand, roots)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
            name, parts = node.func.id, [self._term(each, roots) for each in node.args]
            if name == "abs" or (roots and name in _FUNCTIONS):
                return _FUNCTIONS[name](*parts)
        raise Stuck(f"{ast.unparse(node)} is no sum of givens")

    # ------------------------------------------------------------------------------------------------------- acts
    def place(self, act: Mapping[str, Any]) -> None:
        self.placed += 1
        if "XY" in self.lines and not act.get("part"):
            self.placed += 1  # a plan put where there is room takes the front view over it along
        self._keep(act, self._somewhere())

    def _somewhere(self) -> complex:
        return complex(self._random.uniform(-90, 90), self._random.uniform(-90, 90))

    def set_out(self, act: Mapping[str, Any]) -> None:
        right, up = (self._value(act[key]) if key in act else 0.0 for key in ("right", "up"))
        self._keep(act, self.point(act["on"][0]) + complex(right, up))

    def also(self, act: Mapping[str, Any]) -> None:
        self._keep(act, self.point(act["on"][0]))

    def level(self, act: Mapping[str, Any]) -> None:
        self._rule(act, self.point(act["on"][0]), 1)

    def upright(self, act: Mapping[str, Any]) -> None:
        self._rule(act, self.point(act["on"][0]), 1j)

    def slant(self, act: Mapping[str, Any]) -> None:
        slope = math.radians(self.setting(act))
        right = 1 if act["rising"] == "right" else -1
        self._rule(act, self.point(act["on"][0]), complex(right * math.cos(slope), math.sin(slope)))

    def join(self, act: Mapping[str, Any]) -> None:
        a, b = (self.point(name) for name in act["on"])
        self._rule(act, a, b - a)

    def join_crossings(self, act: Mapping[str, Any]) -> None:
        left, right = self._both(*(self.shape(name) for name in act["on"]))
        self._rule(act, right, left - right)

    def parallel(self, act: Mapping[str, Any]) -> None:
        line, through = act["on"]
        self._rule(act, self.point(through), self.line(line)[1])

    def parallel_touching(self, act: Mapping[str, Any]) -> None:
        way = self.line(act["on"][0])[1]
        side = {"left of": 1j, "right of": -1j}[act["which"]["side"]]
        touches = [centre + side * way * radius for centre, radius in (self.arcs[name] for name in act["on"][1:])]
        if any(abs(_cross(way, touch - touches[0])) > 1e-7 for touch in touches):
            raise Stuck("no parallel touches all the arcs")
        self._rule(act, touches[0], way)

    def square(self, act: Mapping[str, Any]) -> None:
        line, through = act["on"]
        self._rule(act, self.point(through), 1j * self.line(line)[1])

    def protract(self, act: Mapping[str, Any]) -> None:
        base, vertex = act["on"]
        turn = self.setting(act) * (1 if act["turn"] == "anticlockwise" else -1)
        way = self.line(base)[1] * (-1 if act.get("way") == "back" else 1)
        self._rule(act, self.point(vertex), way * cmath.exp(1j * math.radians(turn)))

    def arc(self, act: Mapping[str, Any]) -> None:
        centre = self.point(act["on"][0])
        self.arcs[self._new(act["makes"][0])] = (centre, self.setting(act))

    def lay_off(self, act: Mapping[str, Any]) -> None:
        line, start = act["on"]
        self._keep(act, self.point(start) + self.line(line)[1] * self._sense(act) * self.setting(act))

    def _sense(self, act: Mapping[str, Any]) -> int:
        return {"along": 1, "back": -1}[act["way"]]

    def meet(self, act: Mapping[str, Any]) -> None:
        first, second = (self.shape(ref) for ref in act["on"])
        if not _is_arc(first) and not _is_arc(second):
            self._keep(act, _lines_meet(first, second))
            return
        if "which" not in act:
            raise Stuck("there are two crossings and no word says which")
        score = self._score(act["which"])
        self._keep(act, *sorted(self._both(first, second), key=score))

    def _both(self, first: Any, second: Any) -> tuple[complex, complex]:
        """Both crossings; of two arcs first the left one, seen from the first centre to the second."""
        if _is_arc(first) and _is_arc(second):
            (p, r), (q, s) = first, second
            apart = q - p
            along = (abs(apart) ** 2 + r * r - s * s) / (2 * abs(apart))
            off = _root(r * r - along * along, r * r)
            middle, way = p + _unit(apart) * along, _unit(apart)
            return middle + 1j * way * off, middle - 1j * way * off
        (centre, radius), (at, way) = (first, second) if _is_arc(first) else (second, first)
        foot = at + way * _dot(way, centre - at)
        half = _root(radius * radius - abs(foot - centre) ** 2, radius * radius)
        return foot - way * half, foot + way * half

    def _score(self, which: Mapping[str, Any]) -> Callable[[complex], float]:
        """What the wanted crossing has less of than the other."""
        word, of = which["side"], which.get("of", ())
        if word in _ON_THE_SHEET:
            return _ON_THE_SHEET[word]
        if word in ("left of", "right of", "along", "back along"):
            at, way = self.line(of[0])
            sign = -1 if word in ("left of", "along") else 1
            if word.endswith("along"):
                return lambda z: sign * _dot(way, z - at)
            return lambda z: sign * _cross(way, z - at)
        if word in ("inside", "outside"):
            centre = self.arcs[of[0]][0]
            return lambda z: abs(z - centre) * (1 if word == "inside" else -1)
        target = self.point(of[0])
        return lambda z: abs(z - target) * (1 if word == "nearest to" else -1)

    def touch(self, act: Mapping[str, Any]) -> None:
        first, second = (self.shape(ref) for ref in act["on"])
        if _is_arc(first) and _is_arc(second):
            (p, r), (q, s) = first, second
            way = _unit(q - p)
            self._keep(act, min((p + way * r, p - way * r), key=lambda z: abs(abs(z - q) - float(s.real))))
            return
        (centre, _), (at, way) = (first, second) if _is_arc(first) else (second, first)
        self._keep(act, at + way * _dot(way, centre - at))

    def step_off(self, act: Mapping[str, Any]) -> None:
        arc, start = act["on"]
        centre, radius = self.arcs[arc]
        turn = 2 * math.asin(self.setting(act) / (2 * radius)) * (1 if act["turn"] == "anticlockwise" else -1)
        spoke = self.point(start) - centre
        self._keep(act, *(centre + spoke * cmath.exp(1j * turn * k) for k in range(1, len(act["makes"]) + 1)))

    def step_along(self, act: Mapping[str, Any]) -> None:
        line, start = act["on"]
        step = self.line(line)[1] * self._sense(act) * self.setting(act)
        self._keep(act, *(self.point(start) + step * k for k in range(1, len(act["makes"]) + 1)))

    def divide(self, act: Mapping[str, Any]) -> None:
        a, b = (self.point(name) for name in act["on"])
        self._keep(act, *(a + (b - a) * k / act["parts"] for k in range(1, len(act["makes"]) + 1)))

    def divide_round(self, act: Mapping[str, Any]) -> None:
        centre, radius = self.arcs[act["on"][0]]
        begin = math.radians(self._value(act["begin"]))
        turn = 2 * math.pi / act["parts"] * (1 if act["turn"] == "anticlockwise" else -1)
        places = (centre + radius * cmath.exp(1j * (begin + turn * k)) for k in range(len(act["makes"])))
        self._keep(act, *places)

    def strip(self, act: Mapping[str, Any]) -> None:
        near, far = self._value(act["first"]), self._value(act["second"])
        self.strips[self._new(act["makes"][0])] = (near, far, bool(act["between"]))
        self.curves.add(act["makes"][0])

    def slide(self, act: Mapping[str, Any]) -> None:
        """The strip lies from its mark on the point to its mark on the line; the pencil is ``first`` from the one."""
        strip, at, line = act["on"]
        near, far, between = self.strips[strip]
        here = self.point(at)
        other = min(
            self._both((here, near + far if between else far - near), self.line(line)), key=self._score(act["which"])
        )
        self._keep(act, here + _unit(other - here) * near * (1 if between else -1))

    def fair(self, act: Mapping[str, Any]) -> None:
        for name in act["on"]:
            self.point(name)
        self.curves.add(act["makes"][0])

    def views(self, act: Mapping[str, Any]) -> None:
        ground = self._somewhere()
        self.placed += 1
        self.points["0"] = ground
        self.lines[self._new("XY")] = (ground, 1)
        if act["angle"] == "third":
            self.lines[self._new("wall line")] = (ground + 1j * self.setting(act), 1)
            self.placed += self.seed is not None
        else:
            self.lines["wall line"] = (ground, 1)

    def set_out_in_views(self, act: Mapping[str, Any]) -> None:
        right, front, above = (self._value(act[key]) for key in ("right", "front", "above"))
        foot, wall = self.points["0"] + right, self.lines["wall line"][0]
        up, low, projector = act["makes"]
        self.points[self._new(up)] = foot + 1j * above
        self.points[self._new(low)] = complex(foot.real, wall.imag - front)
        self.lines[self._new(projector)] = (foot, 1j)

    def project(self, act: Mapping[str, Any]) -> None:
        start, line = act["on"]
        projector = (self.point(start), 1j * self.line(act["across"])[1])
        self._keep(act, _lines_meet(projector, self.line(line)))

    def fold(self, act: Mapping[str, Any]) -> None:
        line, corner = act["on"]
        way, word = self.line(line)[1], act["which"]["side"]
        out = {"left of": 1j, "right of": -1j, "along": 1, "back along": -1}[word] * way
        self.placed += self.seed is not None
        self._rule(act, self.point(corner) + out * self.setting(act), -1j * out)

    def transfer(self, act: Mapping[str, Any]) -> None:
        start, fold = act["on"]
        at, way = self.line(fold)
        here = self.point(start)
        side = {"left of": 1j, "right of": -1j}[act["which"]["side"]]
        self._keep(act, at + way * _dot(way, here - at) + side * way * self.setting(act))

    def line_in(self, act: Mapping[str, Any]) -> None:
        """Inked from point to point, or along a line outwards; an arc also to where a plotted curve crosses it."""
        first, *others = act["on"]
        self.point(first)
        for name in others:
            if not (act["do"] == "line in arc" and name in self.curves):
                self.line(name) if "way" in act else self.point(name)

    def line_in_between(self, act: Mapping[str, Any]) -> None:
        """Inked along a line, from where one crosses it, or from a point on it, to where another does."""
        line, ends = self.line(act["on"][0]), act["on"][1:]
        if any(name in self.curves for name in ends):
            for name in ends:
                if name not in self.curves and name not in self.points:
                    self.line(name)  # it must be there
            return  # to where a plotted curve is crossed
        first, second = (self.points[e] if e in self.points else _lines_meet(line, self.line(e)) for e in ends)
        if abs(second - first) < 1e-9:
            raise Stuck("there is nothing between the two")
        self.ink.append((first, second))

    def say(self, act: Mapping[str, Any]) -> None:
        """What is only said moves no pencil."""


def _numbers_of(text: str) -> list[float]:
    """The numbers of a text in the order in which they are written, lengths in mm; words are passed over."""
    found = []
    for word in text.replace(";", " ").replace(",", ".").split():
        match = re.fullmatch(r"(.*?[\d.)])(mm|cm|m|in|ft)?", word)
        if match and (not word[0].isalpha() or word.startswith(("sqrt", "pi"))):
            size = Hand({}).reckon(match.group(1), with_roots=True)
            found.append(size * {"cm": 10, "m": 1000, "in": 25.4, "ft": 304.8}.get(match.group(2) or "", 1.0))
    return found


def _is_arc(shape: Any) -> bool:
    return isinstance(shape[1], float)


def _unit(way: complex) -> complex:
    return complex(way / abs(way))


def _dot(a: complex, b: complex) -> float:
    return (a.conjugate() * b).real


def _cross(a: complex, b: complex) -> float:
    return (a.conjugate() * b).imag


def _root(value: float, size: float) -> float:
    """A square root; a rounding error below zero counts as zero."""
    if value < -1e-9 * size:
        raise Stuck("they do not meet")
    return math.sqrt(max(value, 0.0))


def _lines_meet(first: Any, second: Any) -> complex:
    (p, v), (q, w) = first, second
    return complex(p + v * _cross(w, q - p) / _cross(w, v))


_SIGNS: dict[type[ast.operator], Callable[[float, float], float]] = {
    ast.Add: operator.add,
    ast.Sub: operator.sub,
    ast.Mult: operator.mul,
    ast.Div: operator.truediv,
}
_FUNCTIONS: dict[str, Callable[..., float]] = {
    "abs": abs,
    "sqrt": math.sqrt,
    "sin": lambda x: math.sin(math.radians(x)),
    "cos": lambda x: math.cos(math.radians(x)),
    "tan": lambda x: math.tan(math.radians(x)),
    "asin": lambda x: math.degrees(math.asin(x)),
    "atan": lambda x: math.degrees(math.atan(x)),
    "log": math.log,
    "exp": math.exp,
}
_ON_THE_SHEET: dict[str, Callable[[complex], float]] = {
    "upper": lambda z: -z.imag,
    "lower": lambda z: z.imag,
    "right": lambda z: -z.real,
    "left": lambda z: z.real,
}
_ACTS: dict[str, Callable[[Hand, Mapping[str, Any]], None]] = {
    "place": Hand.place,
    "set out": Hand.set_out,
    "also": Hand.also,
    "level": Hand.level,
    "upright": Hand.upright,
    "slant": Hand.slant,
    "join": Hand.join,
    "join crossings": Hand.join_crossings,
    "parallel": Hand.parallel,
    "parallel touching": Hand.parallel_touching,
    "square": Hand.square,
    "protract": Hand.protract,
    "arc": Hand.arc,
    "circle": Hand.arc,
    "lay off": Hand.lay_off,
    "meet": Hand.meet,
    "touch": Hand.touch,
    "step off": Hand.step_off,
    "step along": Hand.step_along,
    "divide": Hand.divide,
    "divide round": Hand.divide_round,
    "strip": Hand.strip,
    "slide": Hand.slide,
    "fair": Hand.fair,
    "views": Hand.views,
    "set out in views": Hand.set_out_in_views,
    "project": Hand.project,
    "fold": Hand.fold,
    "transfer": Hand.transfer,
    "line in": Hand.line_in,
    "line in between": Hand.line_in_between,
    "line in arc": Hand.line_in,
    "line in circle": Hand.line_in,
    "reckon": Hand.say,
    "measure": Hand.say,
    "note": Hand.say,
    "lap": Hand.line_in,
    "hatch": Hand.line_in,
}
