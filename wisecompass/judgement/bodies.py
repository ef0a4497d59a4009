"""Bodies of parts to practise on: a base with something on it, cut out of it or through it, in whole millimetres."""

from __future__ import annotations

import random


def pleasant(rng: random.Random) -> str:
    """A body of two or three parts, as text."""
    length, deep, low = _size(rng, 48, 84), _size(rng, 30, 48), _size(rng, 10, 24)
    base = f"box {length} {deep} {low} at 0 0 0"
    return "; ".join([base, *rng.choice(_ON)(rng, length, deep, low)])


def _size(rng: random.Random, least: int, most: int) -> int:
    """An even number of millimetres, so that halves are whole."""
    return 2 * rng.randint(least // 2, most // 2)


def _wedge(rng: random.Random, length: int, deep: int, low: int) -> list[str]:
    long, high = _size(rng, 16, length // 2), _size(rng, 12, 36)
    way, at = rng.choice((("right", length - long), ("left", 0)))
    return [f"wedge {long} {deep} {high} at {at} 0 {low} rising {way}"]


def _step(rng: random.Random, length: int, deep: int, low: int) -> list[str]:
    long, high = _size(rng, 14, length // 2), _size(rng, 12, 34)
    at = rng.choice((0, length - long))
    return [f"box {long} {deep} {high} at {at} 0 {low}"]


def _slot(rng: random.Random, length: int, deep: int, low: int) -> list[str]:
    long, away = _size(rng, 12, length // 3), _size(rng, 4, low - 4)
    at = _size(rng, 10, length - long - 10)
    return [f"less box {long} {deep} {away} at {at} 0 {low - away}"]


def _boss(rng: random.Random, length: int, deep: int, low: int) -> list[str]:
    wide, high = _size(rng, 14, deep - 8), _size(rng, 12, 34)
    return [f"cylinder {wide} {high} at {length // 2} {deep // 2} {low} along up"]


def _bore(rng: random.Random, length: int, deep: int, low: int) -> list[str]:
    wide = _size(rng, 10, deep - 12)
    return [f"less cylinder {wide} {low} at {length // 2} {deep // 2} 0 along up"]


def _cone(rng: random.Random, length: int, deep: int, low: int) -> list[str]:
    wide, high = _size(rng, 16, deep - 8), _size(rng, 20, 44)
    return [f"cone {wide} {high} at {length // 2} {deep // 2} {low} along up"]


def _nut(rng: random.Random, length: int, deep: int, low: int) -> list[str]:
    side, high = _size(rng, 8, deep // 3), _size(rng, 12, 30)
    return [f"prism {rng.choice((4, 6))} {side} {high} at {length // 2} {deep // 2} {low} along up"]


def _cut_step(rng: random.Random, length: int, deep: int, low: int) -> list[str]:
    step, slot = _step(rng, length, deep, low), _size(rng, 8, deep // 2)
    return [*step, f"less box {length} {slot} {low // 2} at 0 {(deep - slot) // 2} 0"]


_ON = (_wedge, _step, _slot, _boss, _bore, _cone, _nut, _cut_step)
