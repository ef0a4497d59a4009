"""Makes the single strokes with which a plotter writes: the middle lines of the drafting face, whose letters are all drawn
with one round pen.

The middle line is what is left of the Voronoi diagram of places along a letter's outline when all that lies near the outline
is taken away. Coordinates are thousandths of the em.

Usage: make_strokes.py
"""

from __future__ import annotations

import json
import math
from collections import defaultdict
from pathlib import Path

import numpy as np
from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.ttLib import TTFont
from scipy.spatial import Voronoi, cKDTree

ROOT = Path(__file__).resolve().parent.parent
FACE = ROOT / "wisecompass" / "folio" / "fonts" / "mill-lettering.ttf"
STROKES = ROOT / "wisecompass" / "folio" / "fonts" / "mill-strokes.json"

APART = 3.0
"""Between the places along an outline, thousandths of the em."""

NEAR = 2.0
"""How far a stroke may be from the middle line, thousandths of the em."""

TOUCH = 12.0
"""Half the way that a pen goes for a dot, thousandths of the em."""

Pair = tuple[float, float]


def outlines(font: TTFont, name: str, share: float) -> list[list[Pair]]:
    """Places along the contours of a letter."""
    glyphs = font.getGlyphSet()
    record = DecomposingRecordingPen(glyphs)
    glyphs[name].draw(record)
    found: list[list[Pair]] = []
    at: Pair = (0.0, 0.0)
    for verb, points in record.value:
        scaled = [(x * share, y * share) for x, y in (p for p in points if p is not None)]
        if verb == "moveTo":
            found.append([scaled[0]])
        elif verb == "lineTo":
            found[-1] += walked(at, scaled[0])
        elif verb == "qCurveTo":
            *bends, end = scaled if points[-1] is not None else [*scaled, between(scaled[-1], scaled[0])]
            if points[-1] is None:  # a contour of bends alone
                found.append([end])
                at = end
            for k, bend in enumerate(bends):
                middle = end if k == len(bends) - 1 else between(bend, bends[k + 1])
                found[-1] += [quadratic(at, bend, middle, t / 12) for t in range(1, 13)]
                at = middle
        elif verb == "closePath":
            found[-1] += walked(at, found[-1][0])
        at = found[-1][-1]
    return found


def between(a: Pair, b: Pair) -> Pair:
    return (a[0] + b[0]) / 2, (a[1] + b[1]) / 2


def quadratic(a: Pair, b: Pair, c: Pair, t: float) -> Pair:
    return tuple((1 - t) ** 2 * p + 2 * t * (1 - t) * q + t * t * r for p, q, r in zip(a, b, c, strict=True))  # type: ignore[return-value]


def walked(a: Pair, b: Pair) -> list[Pair]:
    count = max(1, math.ceil(math.dist(a, b) / APART))
    return [(a[0] + (b[0] - a[0]) * k / count, a[1] + (b[1] - a[1]) * k / count) for k in range(1, count + 1)]


def middle_lines(contours: list[list[Pair]], half: float) -> list[list[Pair]]:
    """Chains along the middle of the strokes of a letter whose pen is ``half`` wide to either side."""
    places = np.unique(np.array([p for contour in contours for p in contour]).round(2), axis=0)
    if len(places) < 8:
        return dots(contours, half)
    diagram = Voronoi(places)
    distance, _ = cKDTree(places).query(diagram.vertices)
    inside = (distance > 0.8 * half) & (distance < 1.6 * half) & within(diagram.vertices, contours)
    clusters = grouped(diagram.vertices, [k for k, yes in enumerate(inside) if yes], 0.3 * half)
    edges = {
        tuple(sorted((clusters[a], clusters[b])))
        for a, b in diagram.ridge_vertices
        if a >= 0 and b >= 0 and inside[a] and inside[b] and clusters[a] != clusters[b]
    }
    chains = chained(edges)
    lengths = [sum(math.dist(a, b) for a, b in zip(c, c[1:], strict=False)) for c in chains]
    return [straightened(c) for c, length in zip(chains, lengths, strict=True) if length > 0.8 * half] + dots(contours, half)


def dots(contours: list[list[Pair]], half: float) -> list[list[Pair]]:
    """A touch of the pen for each contour that is no larger than the pen."""
    found = []
    for contour in contours:
        (left, low), (right, high) = (tuple(map(each, zip(*contour, strict=True))) for each in (min, max))
        if max(right - left, high - low) < 3.2 * half:
            x, y = (left + right) / 2, (low + high) / 2
            found.append([(x - TOUCH, y), (x + TOUCH, y)])
    return found


def within(vertices: np.ndarray, contours: list[list[Pair]]) -> np.ndarray:
    """Which places lie in the ink, by the winding of the outlines."""
    x, y = vertices.T
    turns = np.zeros(len(vertices), dtype=int)
    for contour in contours:
        for (x1, y1), (x2, y2) in zip(contour, [*contour[1:], contour[0]], strict=True):
            if y1 != y2:
                crossed = ((y1 <= y) != (y2 <= y)) & (x < x1 + (y - y1) * (x2 - x1) / (y2 - y1))
                turns += np.where(crossed, 1 if y2 > y1 else -1, 0)
    return turns != 0


def grouped(vertices: np.ndarray, chosen: list[int], near: float) -> dict[int, Pair]:
    """Vertices that lie close together, as one place."""
    found: dict[int, Pair] = {}
    heads: list[Pair] = []
    for k in chosen:
        x, y = vertices[k]
        for head in heads:
            if math.hypot(head[0] - x, head[1] - y) < near:
                found[k] = head
                break
        else:
            heads.append((float(x), float(y)))
            found[k] = heads[-1]
    return found


def chained(edges: set[tuple[Pair, Pair]]) -> list[list[Pair]]:
    """Edges as chains from fork to fork."""
    ways: dict[Pair, set[Pair]] = defaultdict(set)
    for a, b in edges:
        ways[a].add(b)
        ways[b].add(a)
    chains = []
    starts = sorted(ways, key=lambda p: (len(ways[p]) == 2, p))
    for start in starts:
        while ways[start]:
            chain = [start]
            at = start
            while ways[at]:
                to = min(ways[at])
                ways[at].discard(to)
                ways[to].discard(at)
                chain.append(to)
                at = to
                if len(ways[at]) != 1:
                    break
            chains.append(chain)
    return chains


def straightened(chain: list[Pair]) -> list[Pair]:
    """The chain with no more corners than its bends need (Douglas and Peucker)."""
    if len(chain) < 3:
        return chain
    (ax, ay), (bx, by) = chain[0], chain[-1]
    base = math.hypot(bx - ax, by - ay)

    def off(p: Pair) -> float:
        if base < 1e-9:
            return math.dist(p, chain[0])
        return abs((bx - ax) * (p[1] - ay) - (by - ay) * (p[0] - ax)) / base

    worst = max(range(1, len(chain) - 1), key=lambda k: off(chain[k]))
    if off(chain[worst]) <= NEAR:
        return [chain[0], chain[-1]]
    return [*straightened(chain[: worst + 1])[:-1], *straightened(chain[worst:])]


def main() -> None:
    font = TTFont(FACE)
    share = 1000 / font["head"].unitsPerEm
    names = font.getBestCmap()
    bar = outlines(font, names[ord("|")], share)
    half = (max(x for c in bar for x, _ in c) - min(x for c in bar for x, _ in c)) / 2
    letters = {}
    for code, name in sorted(names.items()):
        if chr(code).isprintable() and code < 0x2300:
            contours = outlines(font, name, share)
            chains = middle_lines(contours, half) if contours else []
            flat = [[round(v) for point in chain for v in point] for chain in chains]
            letters[chr(code)] = [round(font["hmtx"][name][0] * share), flat]
    STROKES.write_text(json.dumps(letters, ensure_ascii=False, separators=(",", ":")))
    print(f"{len(letters)} signs, {STROKES.stat().st_size} bytes, half a stroke {half:.1f}")


if __name__ == "__main__":
    main()
