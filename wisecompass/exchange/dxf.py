"""DXF R2010 through ezdxf: the figure at true size in mm, real ARC, CIRCLE, ELLIPSE and LINE, else SPLINE; layers named
after pens."""

from __future__ import annotations

import io
import math
from dataclasses import replace

from ezdxf.document import Drawing as Document
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new
from ezdxf.layouts.layout import Modelspace

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import STROKES, Pen
from wisecompass.folio.page import Page
from wisecompass.geometry.curves import TOLERANCE

_ALIGN = {
    "left": TextEntityAlignment.LEFT,
    "centre": TextEntityAlignment.CENTER,
    "right": TextEntityAlignment.RIGHT,
}


def dxf(page: Page) -> str:
    """The figure of a page as DXF text; blocks keep their places, at full size."""
    document = new("R2010", setup=False, units=4)
    _layers(document)
    space = document.modelspace()
    scale = float(page.scale)
    for mark in page.marks:
        _add(space, mark, scale)
    buffer = io.StringIO()
    document.write(buffer)
    return buffer.getvalue()


def _layers(document: Document) -> None:
    document.styles.add("drafting", font="routed-gothic.ttf")
    for pen in Pen:
        stroke = STROKES[pen]
        if stroke.dashes:
            pattern = [sum(stroke.dashes), *(d if i % 2 == 0 else -d for i, d in enumerate(stroke.dashes))]
            document.linetypes.add(pen.value, pattern, description=f"{pen.value} line")
        document.layers.add(
            pen.value, linetype=pen.value if stroke.dashes else "CONTINUOUS", lineweight=_line_weight(stroke.width)
        )


def _line_weight(width: float) -> int:
    """The nearest line weight that the format knows, in hundredths of a millimetre."""
    known = (13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70)
    return min(known, key=lambda weight: abs(weight - 100 * width))


def _add(space: Modelspace, mark: Mark, scale: float) -> None:
    style = {"layer": mark.pen.value}
    if isinstance(mark, marks.Segment):
        space.add_line((mark.x1 / scale, mark.y1 / scale), (mark.x2 / scale, mark.y2 / scale), dxfattribs=style)
    elif isinstance(mark, marks.Arc) and mark.radius > 0:
        centre, radius = (mark.cx / scale, mark.cy / scale), mark.radius / scale
        if abs(mark.sweep) >= 360:
            space.add_circle(centre, radius, dxfattribs=style)
        else:
            space.add_arc(centre, radius, mark.start, mark.start + mark.sweep, dxfattribs=style)
    elif isinstance(mark, marks.Ellipse):
        turn = math.radians(mark.angle)
        axis = (mark.semi_major * math.cos(turn) / scale, mark.semi_major * math.sin(turn) / scale)
        ratio = min(1.0, mark.semi_minor / mark.semi_major)
        if ratio == 1.0:
            space.add_circle((mark.cx / scale, mark.cy / scale), mark.semi_major / scale, dxfattribs=style)
        else:
            space.add_ellipse((mark.cx / scale, mark.cy / scale), axis, ratio, dxfattribs=style)
    elif isinstance(mark, marks.Curve):
        _spline(space, mark, scale, style)
    elif isinstance(mark, marks.Dot) and mark.shown:
        space.add_point((mark.x / scale, mark.y / scale), dxfattribs=style)
    elif isinstance(mark, marks.Text):
        shrunk = replace(mark, x=mark.x / scale, y=mark.y / scale, height=mark.height / scale)
        text = space.add_text(
            shrunk.text, height=shrunk.height, rotation=shrunk.angle, dxfattribs={**style, "style": "drafting"}
        )
        text.set_placement((shrunk.x, shrunk.y), align=_ALIGN[shrunk.anchor])


def _spline(space: Modelspace, mark: marks.Curve, scale: float, style: dict[str, str]) -> None:
    """The Bézier pieces as one cubic SPLINE: each joint a knot of multiplicity three; true within
    ``TOLERANCE`` at full size, whatever the scale of the sheet."""
    pieces = mark.pieces(TOLERANCE * scale)
    chain = [pieces[0][0], *(point for piece in pieces for point in piece[1:])]
    last = len(pieces)
    spline = space.add_spline(dxfattribs={**style, "degree": 3})
    spline.control_points = [(x / scale, y / scale, 0.0) for x, y in chain]
    spline.knots = [0.0] * 4 + [float(k) for k in range(1, last) for _ in range(3)] + [float(last)] * 4
