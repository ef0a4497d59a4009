"""Strokes as SVG and DXF for cutters: a layer for each pen, in the order in which they draw, nothing but lines and arcs."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from xml.sax.saxutils import escape

from wisecompass.drafting.pens import STROKES, Pen
from wisecompass.exchange.gcode import Job
from wisecompass.exchange.gcode_picture import mark_of
from wisecompass.exchange.strokes import Stroke
from wisecompass.folio.page import NO_LETTERING, Page

COLOURS: dict[Pen, str] = {
    Pen.CUT: "#c8102e",
    Pen.FOLD: "#1559b7",
    Pen.OUTLINE: "#000000",
}
"""Cutters tell pens by colour where they do not read layers; what is none of these is grey."""

OTHER = "#6f6f6f"


def svg_layers(strokes: Sequence[Stroke], width: float, height: float, title: str = "") -> str:
    """Strokes as SVG, one user unit a millimetre, a group named after each pen."""
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:g}mm" height="{height:g}mm" '
        f'viewBox="0 0 {width:g} {height:g}">\n<title>{escape(title)}</title>\n'
    )
    groups = []
    for pen in dict.fromkeys(stroke.pen for stroke in strokes):
        paths = "\n".join(f'<path d="{_path(stroke, height)}"/>' for stroke in strokes if stroke.pen is pen)
        style = f'fill="none" stroke="{COLOURS.get(pen, OTHER)}" stroke-width="{STROKES[pen].width}"'
        groups.append(f'<g id="{pen}" {style}>\n{paths}\n</g>')
    return head + "\n".join(groups) + "\n</svg>\n"


def _path(stroke: Stroke, height: float) -> str:
    x, y = stroke.start
    pieces = [f"M{_n(x)} {_n(height - y)}"]
    for way in stroke.ways:
        halves = [way] if abs(way.sweep) <= 180 else [way.part(0, 0.5), way.part(0.5, 1)]
        for half in halves:
            x, y = half.end
            end = f"{_n(x)} {_n(height - y)}"
            radius = _n(half.radius)
            pieces.append(f"L{end}" if half.centre is None else f"A{radius} {radius} 0 0 {int(half.sweep < 0)} {end}")
    return "".join(pieces) + ("Z" if stroke.closed else "")


def _n(value: float) -> str:
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def dxf_layers(strokes: Sequence[Stroke], title: str = "") -> str:
    """Strokes as DXF, on layers named after their pens."""
    from wisecompass.exchange.dxf import dxf

    marks = [mark_of(way, stroke.pen) for stroke in strokes for way in stroke.ways]
    return dxf(Page(1.0, 1.0, list(marks), (), [], [], Fraction(1), {}, NO_LETTERING), title)


def plot_file(kind: str, job: Job, title: str) -> bytes:
    """What a job draws as a file of a kind: gcode, svg or dxf."""
    if kind == "gcode":
        return job.text.encode()
    if kind == "svg":
        return svg_layers(job.strokes, *size_of(job.strokes), title).encode()
    return dxf_layers(job.strokes, title).encode()


def size_of(strokes: Sequence[Stroke]) -> tuple[float, float]:
    """How far strokes reach to the right and up."""
    places = [place for stroke in strokes for place in stroke.points()]
    return max((x for x, _ in places), default=1.0) + 1.0, max((y for _, y in places), default=1.0) + 1.0
