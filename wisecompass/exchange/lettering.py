"""Letters of the drafting face as shapes."""

from __future__ import annotations

from functools import cache
from typing import Any

from wisecompass.folio.paper import CAP_SHARE, DRAFTING_FONT


@cache
def _face() -> Any:
    from fontTools.ttLib import TTFont

    return TTFont(DRAFTING_FONT)


def outline(text: str, height: float) -> tuple[str, float]:
    """Text with capitals ``height`` mm high as SVG path data from its origin, y downwards, and its width in mm."""
    from fontTools.pens.svgPathPen import SVGPathPen
    from fontTools.pens.transformPen import TransformPen

    face = _face()
    names, glyphs = face.getBestCmap(), face.getGlyphSet()
    share, at = height / CAP_SHARE / face["head"].unitsPerEm, 0.0
    pen = SVGPathPen(glyphs, lambda value: f"{value:.4f}".rstrip("0").rstrip("."))
    for sign in text:
        glyph = glyphs[names.get(ord(sign), ".notdef")]
        glyph.draw(TransformPen(pen, (share, 0, 0, -share, at, 0)))
        at += glyph.width * share
    return pen.getCommands(), at
