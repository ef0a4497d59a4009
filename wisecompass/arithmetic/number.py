"""Functions that act alike on a float, a ball and an array of simulated hands.

Each function looks at the type of its argument and calls the room that knows it. ``ball`` and ``hand`` are
imported when the first ball or array turns up, so that a plain run needs neither python-flint nor NumPy.

Constants inside a construction are whole numbers or come from ``Board.number``: a float such as 0.1 is not the
decimal it looks like, and would spoil a proved bound without anybody noticing.
"""

from __future__ import annotations

from collections.abc import Callable
from types import ModuleType
from typing import Any, Protocol

from wisecompass.arithmetic import plain


class Number(Protocol):
    """What a construction may do with a number of any arithmetic."""

    def __add__(self, other: Any, /) -> Number: ...
    def __radd__(self, other: Any, /) -> Number: ...
    def __sub__(self, other: Any, /) -> Number: ...
    def __rsub__(self, other: Any, /) -> Number: ...
    def __mul__(self, other: Any, /) -> Number: ...
    def __rmul__(self, other: Any, /) -> Number: ...
    def __truediv__(self, other: Any, /) -> Number: ...
    def __rtruediv__(self, other: Any, /) -> Number: ...
    def __neg__(self) -> Number: ...
    def __abs__(self) -> Number: ...
    def __float__(self) -> float: ...


_ROOMS: dict[type, ModuleType] = {float: plain}
"""The room of every kind of number that has turned up."""


def _room(x: object) -> ModuleType:
    room = _ROOMS.get(type(x))
    if room is None:
        room = _ROOMS[type(x)] = _found(x)
    return room


def _found(x: object) -> ModuleType:
    kind = type(x)
    if kind.__module__.startswith("numpy"):
        from wisecompass.arithmetic import hand

        return hand
    if kind.__module__.startswith("flint") and kind.__name__ != "fmpq":
        from wisecompass.arithmetic import ball

        return ball
    if kind.__name__ == "Traced":
        from wisecompass.arithmetic import tape

        return tape
    raise TypeError(f"{x!r} belongs to no arithmetic; make constants with number()")


def _of(function: str, x: Any) -> Number:
    """Call a function of the room that a number belongs to."""
    room = _ROOMS.get(type(x))
    if room is None:
        x = _bare(x)
        room = _room(x)
    result: Number = getattr(room, function)(x)
    return result


def _of_all(function: str, *numbers: Any) -> Number:
    """Call a function of the room that the first of several numbers belongs to; of a float with hands beside it theirs."""
    bare = [_bare(each) for each in numbers]
    room = _room(bare[0])
    if room is plain:
        room = next((_room(each) for each in bare if type(each).__module__ == "numpy"), plain)
    result: Number = getattr(room, function)(*bare)
    return result


def _bare(x: Any) -> Any:
    """The number that a setting holds (see ``drafting.setting``); any other is its own."""
    return x if type(x) in _ROOMS else getattr(x, "number", x)


def sqrt(x: Number) -> Number:
    """Square root; NaN below zero."""
    return _of("sqrt", x)


def root(x: Number) -> Number:
    """Square root of a number known not to be negative, such as a sum of squares or a squared half chord.

    A ball that dips below zero is cut off there. A float a rounding error below zero counts as zero; further
    below, and in every hand for which the arc misses its line, the result is NaN.
    """
    return plain.root(x) if type(x) is float else _of("root", x)


def hypot(x: Number, y: Number) -> Number:
    """√(x² + y²)."""
    return root(x * x + y * y)


def sin_deg(angle: Number) -> Number:
    """Sine of an angle in degrees; exact at multiples of 90."""
    return _of("sin_deg", angle)


def cos_deg(angle: Number) -> Number:
    """Cosine of an angle in degrees; exact at multiples of 90."""
    return _of("cos_deg", angle)


def tan_deg(angle: Number) -> Number:
    """Tangent of an angle in degrees."""
    return sin_deg(angle) / cos_deg(angle)


def asin_deg(x: Number) -> Number:
    """Angle in degrees, -90 to 90, whose sine is x."""
    return _of("asin_deg", x)


def acos_deg(x: Number) -> Number:
    """Angle in degrees, 0 to 180, whose cosine is x."""
    return _of("acos_deg", x)


def atan2_deg(y: Number, x: Number) -> Number:
    """Direction of (x, y) in degrees, above -180 and up to 180."""
    return _of_all("atan2_deg", y, x)


def log(x: Number) -> Number:
    """Natural logarithm."""
    return _of("log", x)


def absolute(x: Number) -> Number:
    """Size without sign."""
    return x.__abs__()


def pi_times(x: Number) -> Number:
    """π · x."""
    return _of("pi_times", x)


def elliptic_e(m: Number) -> Number:
    """Complete elliptic integral of the second kind E(m), m = k², for 0 ≤ m ≤ 1 (DLMF 19.2.8)."""
    return _of("elliptic_e", m)


def focal_arc(eccentricity: Number, first: Number, last: Number) -> Number:
    """Length of the conic r = 1 / (1 + e cos φ) between two directions from its focus, in degrees from the near vertex:
    the integral of √(1 + 2 e cos φ + e²) / (1 + e cos φ)² (from r² + r′², in polar coordinates)."""
    return _of_all("focal_arc", eccentricity, first, last)


def turning_integral(value: Callable[[Any, Any, Callable[[Any], Any]], Any], first: Number, last: Number) -> Number:
    """The integral of a value over the angle, in radians, between two directions in degrees. The value gets the cosine and
    the sine of the angle and a square root to use, and must be smooth between the two."""
    found: Number = _room(first).turning_integral(value, first, last)
    return found


def larger(x: Number, y: Number) -> Number:
    """The larger of two numbers; for balls, a ball that surely holds it."""
    return _of_all("larger", x, y)


def smaller(x: Number, y: Number) -> Number:
    """The smaller of two numbers; for balls, a ball that surely holds it."""
    return -larger(-x, -y)


def pick(score_first: Number, score_second: Number, first: Number, second: Number) -> Number:
    """``first`` where its score is not above the other's, else ``second``; hand by hand in arrays.

    Raises:
        Undecided: the two scores are balls that overlap and the choices differ.
    """
    return _of_all("pick", score_first, score_second, first, second)


def roughly(x: Number) -> float:
    """A number as a float, for planning where things go: a ball's middle, the steady hand of an array."""
    if type(x) is float:
        return x
    room = _ROOMS.get(type(x))
    if room is None:
        x = _bare(x)
        room = _room(x)
    return float(room.roughly(x))


def sign_of(x: Number) -> int:
    """-1, 0 or 1 for a float, a ball or (by its steady hand) an array; 0 also for a ball that holds zero."""
    return int(_room(x).sign_of(x))


def is_zero(x: Number) -> bool:
    """Whether a number is zero and nothing else: a ball that only holds zero is not."""
    return bool(_room(x).is_zero(x))
