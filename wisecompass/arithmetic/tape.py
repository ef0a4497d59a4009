"""A tape: numbers that remember how they came about, so that what was reckoned once can be reckoned again for other givens,
with its slope and curvature, without running the reckoning anew.

Whatever is decided on the way (a sign, the larger of two, which of two crossings) becomes a guard: the number that it was
decided by, and its sign. The tape holds wherever all its guards have the signs that they had."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from typing import TYPE_CHECKING, Any, TypeAlias, cast

from flint import acb, arb, arb_series, fmpq

from wisecompass.arithmetic import ball
from wisecompass.arithmetic.systems import Arithmetic

if TYPE_CHECKING:
    from wisecompass.arithmetic.number import Number

TERMS = 3
"""Value, slope and half the curvature."""

Along: TypeAlias = arb | arb_series
"""A number that does not change with the given in hand, or one that does: its value, slope and half its curvature."""


@dataclass(frozen=True)
class Guard:
    """A number of the tape and the sign by which something was decided."""

    node: int
    sign: int


@dataclass
class Tape:
    """All that was reckoned, in its order."""

    acts: list[tuple[str, Any, Any]] = field(default_factory=list)
    values: list[arb] = field(default_factory=list)
    inputs: dict[str, int] = field(default_factory=dict)
    hangs: list[bool] = field(default_factory=list)
    """Of every number whether it hangs on any input."""
    guards: list[Guard] = field(default_factory=list)
    sealed: set[int] = field(default_factory=set)
    """Numbers whose slope nobody knows: integrals. What hangs on one tells nothing of other givens."""
    local: set[int] = field(default_factory=set)
    """Roots that were sought: they have their slope, but only here."""
    leaks: list[int] = field(default_factory=list)
    """Numbers that were used past the tape, as floats: it tells nothing of other values of the givens that they hang on."""

    def add(self, act: str, first: Any, second: Any, value: arb) -> Traced:
        """One more number."""
        hangs = any(isinstance(each, int) and self.hangs[each] for each in (first, second)) or act == "input"
        self.acts.append((act, first, second))
        self.values.append(value)
        self.hangs.append(hangs)
        return Traced(self, len(self.acts) - 1, value)

    def given(self, name: str, value: arb) -> Traced:
        """A number that may be another one when the tape is run again."""
        found = self.add("input", None, None, value)
        self.inputs[name] = found.index
        return found

    def guard(self, value: Any, sign: int) -> None:
        """Something hangs on the sign of a number."""
        if isinstance(value, Traced) and self.hangs[value.index]:
            self.guards.append(Guard(value.index, sign))

    _hanging: dict[tuple[int, str], bool] = field(default_factory=dict)

    # ------------------------------------------------------------------------------------------------ again
    def cone(self, targets: Iterable[int]) -> list[int]:
        """All numbers that these hang on, in their order."""
        wanted, waiting = set[int](), list(targets)
        while waiting:
            node = waiting.pop()
            if node in wanted:
                continue
            wanted.add(node)
            _, first, second = self.acts[node]
            waiting += [each for each in (first, second) if isinstance(each, int)]
        return sorted(wanted)

    def along(self, given: str, at: arb, cone: Sequence[int], others: Mapping[str, arb] | None = None) -> dict[int, Along]:
        """The numbers of a cone with one given anywhere in a ball, the ``others`` in theirs or as they were: with slope and
        curvature by that one."""
        moved = self.inputs[given]
        wide = {self.inputs[name]: value for name, value in (others or {}).items()}
        found: dict[int, Along] = {}
        with ball.terms(TERMS):
            for node in cone:
                act, first, second = self.acts[node]
                if node == moved:
                    found[node] = arb_series([at, 1])
                    continue
                a, b = found.get(first), found.get(second)
                if act in ("input", "constant"):
                    found[node] = wide.get(node, self.values[node])
                elif wide or isinstance(a, arb_series) or isinstance(b, arb_series):
                    found[node] = _DONE[act](a, b)
                else:
                    found[node] = self.values[node]
        return found

    def over(self, given: str, box: arb, way: arb, point: Mapping[int, Along], cone: Sequence[int]) -> dict[int, Along]:
        """The same over a whole ball of the given, whose ``point`` has been run; ``way`` is the ball less that point. Every
        number is the narrower of what its balls say and of what its slope says from the point on, and so is its slope."""
        moved = self.inputs[given]
        found: dict[int, Along] = {}
        with ball.terms(TERMS):
            for node in cone:
                if node == moved:
                    found[node] = arb_series([box, 1])
                    continue
                here = point[node]
                if type(here) is not arb_series:
                    found[node] = here
                    continue
                act, first, second = self.acts[node]
                wide = _DONE[act](found.get(first), found.get(second))
                value, slope, bend = wide[0], wide[1], wide[2]
                if bend.is_finite():
                    slope = _both(slope, here[1] + 2 * bend * way)
                if slope.is_finite():
                    value = _both(value, here[0] + slope * way)
                found[node] = arb_series([value, slope, bend])
        return found

    def hangs_on(self, node: int, given: str) -> bool:
        """Whether a number hangs on a given."""
        key = (node, given)
        if key not in self._hanging:
            self._hanging[key] = self.inputs[given] in self.cone([node])
        return self._hanging[key]


class Traced:
    """A number on a tape."""

    __slots__ = ("index", "tape", "value")

    def __init__(self, tape: Tape, index: int, value: arb) -> None:
        self.tape, self.index, self.value = tape, index, value

    def _other(self, other: Any) -> Traced | None:
        """Another number of the tape; a whole number or fraction is put on it."""
        if type(other) is Traced:
            return other
        held = getattr(other, "number", other)
        if type(held) is Traced:
            return held
        if not isinstance(held, int | Fraction | fmpq | arb):
            return None
        value = held if isinstance(held, arb) else arb(held) if isinstance(held, int | fmpq) else ball.number(held)
        return self.tape.add("constant", None, None, value)

    def _with(self, act: str, other: Any, *, turned: bool = False) -> Any:
        if type(other) is acb or type(other) is float:
            return self._past_the_tape(act, other, turned)
        second = self._other(other)
        if second is None:
            return NotImplemented
        a, b = (second, self) if turned else (self, second)
        return self.tape.add(act, a.index, b.index, _PLAINLY[act](a.value, b.value))

    def _past_the_tape(self, act: str, other: Any, turned: bool) -> Any:
        """Within an integral, which is sealed, a number is like any other; a float leaks."""
        kind = type(other)
        if kind is float:
            self._leaks()
        mine: Any = kind(self.value) if kind is acb else float(self.value.mid())
        return _PLAINLY[act](other, mine) if turned else _PLAINLY[act](mine, other)

    def __add__(self, other: Any) -> Any:
        return self._with("+", other)

    def __radd__(self, other: Any) -> Any:
        return self._with("+", other, turned=True)

    def __sub__(self, other: Any) -> Any:
        return self._with("-", other)

    def __rsub__(self, other: Any) -> Any:
        return self._with("-", other, turned=True)

    def __mul__(self, other: Any) -> Any:
        return self._with("*", other)

    def __rmul__(self, other: Any) -> Any:
        return self._with("*", other, turned=True)

    def __truediv__(self, other: Any) -> Any:
        return self._with("/", other)

    def __rtruediv__(self, other: Any) -> Any:
        return self._with("/", other, turned=True)

    def __neg__(self) -> Traced:
        return self.tape.add("neg", self.index, None, -self.value)

    def __abs__(self) -> Traced:
        return -self if sign_of(self) < 0 else self

    def __float__(self) -> float:
        self._leaks()
        return float(self.value.mid())

    def __int__(self) -> int:
        self._leaks()
        return int(float(self.value.mid()))

    def _leaks(self) -> None:
        if self.tape.hangs[self.index]:
            self.tape.leaks.append(self.index)

    def _less(self, other: Any) -> int:
        return sign_of(self - other)

    def __lt__(self, other: Any) -> bool:
        return self._less(other) < 0

    def __le__(self, other: Any) -> bool:
        return self._less(other) <= 0

    def __gt__(self, other: Any) -> bool:
        return self._less(other) > 0

    def __ge__(self, other: Any) -> bool:
        return self._less(other) >= 0

    def __eq__(self, other: Any) -> bool:
        return self is other or (isinstance(other, Traced | int | Fraction) and self._less(other) == 0)

    __hash__ = None  # type: ignore[assignment]

    def __repr__(self) -> str:
        return f"Traced({self.index}: {self.value})"


class Taping(Arithmetic):
    """The arithmetic whose numbers are on a tape."""

    name = "tape"

    def __init__(self, tape: Tape) -> None:
        self.tape = tape

    def number(self, value: int | Fraction) -> Number:
        return cast("Number", self.tape.add("constant", None, None, ball.number(value)))


# ------------------------------------------------------------------------------------------- the functions of a number
def _of_one(act: str) -> Callable[[Traced], Traced]:
    return lambda x: x.tape.add(act, x.index, None, _PLAINLY[act](x.value, None))


def sign_of(x: Traced) -> int:
    sign = ball.sign_of(x.value)
    x.tape.guard(x, sign)
    return sign


def is_zero(x: Traced) -> bool:
    return ball.is_zero(x.value) if not x.tape.hangs[x.index] else sign_of(x) == 0


def larger(x: Traced, y: Traced) -> Traced:
    return x if sign_of(x - y) >= 0 else y


def pick(score_first: Traced, score_second: Traced, first: Traced, second: Traced) -> Traced:
    return first if sign_of(score_second - score_first) >= 0 else second


def roughly(x: Traced) -> float:
    return float(x)


def untaped(x: Any) -> arb:
    """The ball that a number of the tape had when it was reckoned."""
    return cast("arb", x.value if isinstance(x, Traced) else x)


def implicit(tape: Tape, root: arb, value: Any, slope: Any) -> Traced:
    """A root that was found in balls: one Newton step about it, whose slope by every given is the root's (the theorem of
    implicit functions), but nowhere else."""
    about = _on(tape, root)
    found = about - value / slope
    tape.local.add(found.index)
    return Traced(tape, found.index, root)


def atan2_deg(y: Traced, x: Traced) -> Traced:
    return x.tape.add("atan2", y.index, _on(y.tape, x).index, _PLAINLY["atan2"](y.value, _on(y.tape, x).value))


def focal_arc(eccentricity: Traced, first: Traced, last: Traced) -> Traced:
    return _sealed(eccentricity, ball.focal_arc(eccentricity.value, first.value, last.value))


def turning_integral(value: Callable[..., Any], first: Traced, last: Traced) -> Traced:
    return _sealed(first, ball.turning_integral(value, first.value, last.value))


def _sealed(x: Traced, value: arb) -> Traced:
    """A number whose slope nobody knows."""
    found = x.tape.add("constant", None, None, value)
    x.tape.sealed.add(found.index)
    return found


def _on(tape: Tape, x: Any) -> Traced:
    return x if isinstance(x, Traced) else tape.add("constant", None, None, arb(x))


def parts_of(x: Along) -> tuple[arb, arb, arb]:
    """Value, slope and half the curvature."""
    return (x[0], x[1], x[2]) if isinstance(x, arb_series) else (x, arb(0), arb(0))


def _both(one: arb, other: arb) -> arb:
    """What lies in both of two enclosures of one number."""
    if not one.is_finite():
        return other
    return one.intersection(other) if other.is_finite() and one.overlaps(other) else one


def _unknown(value: arb) -> arb_series:
    return arb_series([value, arb.nan(), arb.nan()])


def _root(a: Any, _: Any) -> Any:
    if not isinstance(a, arb_series):
        return ball.root(a)
    return a.sqrt() if a[0] > 0 else _unknown(ball.root(a[0]))


def _inverse(name: str) -> Callable[[Any, Any], Any]:
    """Arc sine or arc cosine in degrees; at the ends of their range no slope is known."""
    plainly = {"asin": ball.asin_deg, "acos": ball.acos_deg}[name]

    def done(a: Any, _: Any) -> Any:
        if not isinstance(a, arb_series):
            return plainly(a)
        if -1 < a[0] < 1:
            return getattr(a, name)() * 180 / arb.pi()
        return _unknown(plainly(a[0]))

    return done


def _direction(y: Any, x: Any) -> Any:
    if not (isinstance(y, arb_series) or isinstance(x, arb_series)):
        return ball.atan2_deg(y, x)
    y_here, x_here = parts_of(y)[0], parts_of(x)[0]
    if (y_here.contains(0) and not x_here > 0) or not (x_here.is_finite() and y_here.is_finite()):
        return _unknown(arb.nan())  # across the cut a direction leaps
    y, x = (each if isinstance(each, arb_series) else arb_series([each]) for each in (y, x))
    around = x * x + y * y
    if around[0].contains(0):
        return _unknown(ball.atan2_deg(y_here, x_here))
    turning = (x * y.derivative() - y * x.derivative()) / around
    return arb_series([ball.atan2_deg(y_here, x_here)]) + turning.integral() * 180 / arb.pi()


def _elliptic(a: Any, _: Any) -> Any:
    if not isinstance(a, arb_series):
        return ball.elliptic_e(a)
    m = acb(a[0])
    e, k = m.elliptic_e().real, m.elliptic_k().real
    slope = (e - k) / (2 * a[0])  # DLMF 19.4.2
    return arb_series([e, slope * a[1], arb.nan()])


def _divided(a: Any, b: Any) -> Any:
    if isinstance(b, arb_series):
        return a / b if not b[0].contains(0) else _unknown(arb.nan())
    return a / b if not b.contains(0) or not isinstance(a, arb_series) else _unknown(arb.nan())


_DONE: dict[str, Callable[[Any, Any], Any]] = {
    "+": lambda a, b: a + b,
    "-": lambda a, b: a - b,
    "*": lambda a, b: a * b,
    "/": _divided,
    "neg": lambda a, _: -a,
    "sqrt": lambda a, _: a.sqrt() if not isinstance(a, arb_series) or a[0] > 0 else _unknown(a[0].sqrt()),
    "root": _root,
    "sin": lambda a, _: (a / 180).sin_pi(),
    "cos": lambda a, _: (a / 180).cos_pi(),
    "asin": _inverse("asin"),
    "acos": _inverse("acos"),
    "atan2": _direction,
    "log": lambda a, _: a.log() if not isinstance(a, arb_series) or a[0] > 0 else _unknown(arb.nan()),
    "pi": lambda a, _: a * arb.pi(),
    "elliptic": _elliptic,
}
_PLAINLY: dict[str, Callable[[Any, Any], Any]] = {**_DONE, "/": lambda a, b: a / b}

sqrt, root, sin_deg, cos_deg = (_of_one(act) for act in ("sqrt", "root", "sin", "cos"))
asin_deg, acos_deg, log, pi_times, elliptic_e = (_of_one(act) for act in ("asin", "acos", "log", "pi", "elliptic"))
