"""Makes the lettering of the sheets from Routed Gothic: its 1 gets a flag (ISO 3098), so that nobody takes it for an I.

The face is under the SIL Open Font Licence with its name reserved, so the altered one has a name of its own.

Usage: make_lettering.py
"""

from __future__ import annotations

import math
from pathlib import Path

from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

ROOT = Path(__file__).resolve().parent.parent
ORIGINAL = ROOT / "scripts" / "lettering" / "routed-gothic.ttf"
ALTERED = ROOT / "wisecompass" / "folio" / "fonts" / "mill-lettering.ttf"
FAMILY = "Mill Lettering"

ENDS = 8
"""Corners of the half circle at each end of a stroke."""


def stroke(a: tuple[float, float], b: tuple[float, float], half: float) -> list[tuple[int, int]]:
    """The outline of a stroke with round ends, clockwise."""
    way = math.atan2(b[1] - a[1], b[0] - a[0])
    corners = []
    for (x, y), start in ((b, way + math.pi / 2), (a, way - math.pi / 2)):
        for k in range(ENDS + 1):
            turn = start - math.pi * k / ENDS
            corners.append((round(x + half * math.cos(turn)), round(y + half * math.sin(turn))))
    return corners


def with_flag(font: TTFont, name: str) -> None:
    """Give a figure one, of whatever size, its flag: from the top of the stem down to the left."""
    glyphs = font.getGlyphSet()
    record = DecomposingRecordingPen(glyphs)
    glyphs[name].draw(record)
    xs = [x for _, points in record.value for x, _ in (p for p in points if p)]
    ys = [y for _, points in record.value for _, y in (p for p in points if p)]
    left, right, low, high = min(xs), max(xs), min(ys), max(ys)
    half, tall = (right - left) / 2, high - low
    shift = round(0.1 * tall)
    pen = TTGlyphPen(None)
    for verb, points in record.value:
        getattr(pen, verb)(*(None if p is None else (p[0] + shift, p[1]) for p in points))
    top = ((left + right) / 2 + shift, high - half)
    corners = stroke(top, (top[0] - 0.25 * tall, top[1] - 0.21 * tall), half * 0.94)
    pen.moveTo(corners[0])
    for corner in corners[1:]:
        pen.lineTo(corner)
    pen.closePath()
    advance, bearing = font["hmtx"][name]
    font["glyf"][name] = pen.glyph()
    font["hmtx"][name] = (advance + shift, bearing)


def main() -> None:
    font = TTFont(ORIGINAL)
    names = font.getBestCmap()
    for sign in "1₁¹":
        if ord(sign) in names:
            with_flag(font, names[ord(sign)])
    for record in font["name"].names:
        if record.nameID in (1, 3, 4, 16):
            record.string = FAMILY
        elif record.nameID == 6:
            record.string = FAMILY.replace(" ", "")
    font.save(ALTERED)


if __name__ == "__main__":
    main()
