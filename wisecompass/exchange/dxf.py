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
from wisecompass.folio.dimensions import ARROW, GAP, HEIGHT
from wisecompass.folio.page import Page
from wisecompass.folio.paper import DRAFTING_FONT
from wisecompass.folio.scales import scale_text
from wisecompass.geometry.curves import TOLERANCE

_ALIGN = {
    "left": TextEntityAlignment.LEFT,
    "centre": TextEntityAlignment.CENTER,
    "right": TextEntityAlignment.RIGHT,
}


COLOURS: dict[Pen, int] = {
    Pen.OUTLINE: 7,
    Pen.GIVEN: 3,
    Pen.CONSTRUCTION: 8,
    Pen.PROJECTOR: 9,
    Pen.HIDDEN: 4,
    Pen.CENTRE: 1,
    Pen.LOCUS: 30,
    Pen.CRATE: 32,
    Pen.CUT: 5,
    Pen.FOLD: 6,
    Pen.DIMENSION: 2,
    Pen.LETTERING: 40,
    Pen.GRID: 252,
    Pen.BORDER: 250,
}
"""Colours of the layers, as the format numbers them, so that a reader tells them apart."""

STYLE = "drafting"
"""Name of the style of texts and of dimensions."""

ALIKE = 6
"""Decimals of a millimetre to which two marks of one pen must agree to be the same mark drawn twice."""


def dxf(page: Page, title: str = "") -> str:
    """The figure of a page as DXF text; blocks keep their places, at full size. Dimensions are dimensions."""
    document = new("R2010", setup=False, units=4)
    _layers(document)
    scale = float(page.scale)
    _dimension_style(document, scale)
    document.header["$LTSCALE"] = 1 / scale  # dashes are so long on paper
    document.header.custom_vars.append("Title", title)
    document.header.custom_vars.append("Scale", scale_text(page.scale))
    space = document.modelspace()
    drawn: set[tuple[object, ...]] = set()
    for index, mark in enumerate(page.marks):
        if index not in page.pieces and _first(mark, drawn):
            _add(space, mark, scale)
    for dimension in page.dimensions:
        _add_dimension(space, dimension, scale)
    low, high = _extents(page, scale)
    document.header["$EXTMIN"], document.header["$EXTMAX"] = low, high
    document.header["$LIMMIN"], document.header["$LIMMAX"] = low[:2], high[:2]
    space.reset_extents(low, high)
    buffer = io.StringIO()
    document.write(buffer)
    return buffer.getvalue()


def _first(mark: Mark, drawn: set[tuple[object, ...]]) -> bool:
    """Whether a line or arc of that pen is not there yet, from whichever end it was drawn."""
    if isinstance(mark, marks.Segment):
        ends = sorted([(round(mark.x1, ALIKE), round(mark.y1, ALIKE)), (round(mark.x2, ALIKE), round(mark.y2, ALIKE))])
        key: tuple[object, ...] = (mark.pen, *ends)
    elif isinstance(mark, marks.Arc):
        numbers = (mark.cx, mark.cy, mark.radius, mark.start % 360, mark.sweep)
        key = (mark.pen, *(round(each, ALIKE) for each in numbers))
    else:
        return True
    if key in drawn:
        return False
    drawn.add(key)
    return True


def _extents(page: Page, scale: float) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    left, low, right, high = marks.bounds([mark for mark in page.marks if not isinstance(mark, marks.Dot) or mark.shown])
    return (left / scale, low / scale, 0.0), (right / scale, high / scale, 0.0)


def _layers(document: Document) -> None:
    document.styles.add(STYLE, font=DRAFTING_FONT.name)
    for pen in Pen:
        stroke = STROKES[pen]
        if stroke.dashes:
            pattern = [sum(stroke.dashes), *(d if i % 2 == 0 else -d for i, d in enumerate(stroke.dashes))]
            document.linetypes.add(pen.value, pattern, description=f"{pen.value} line")
        document.layers.add(
            pen.value,
            color=COLOURS[pen],
            linetype=pen.value if stroke.dashes else "CONTINUOUS",
            lineweight=_line_weight(stroke.width),
        )


def _dimension_style(document: Document, scale: float) -> None:
    """Dimensions as on the sheet: sizes in mm of paper, enlarged to the drawing."""
    style = document.dimstyles.new(STYLE)
    style.dxf.dimtxsty = STYLE
    style.dxf.dimtxt, style.dxf.dimasz = HEIGHT, ARROW
    style.dxf.dimexo, style.dxf.dimexe, style.dxf.dimgap = 1.2, 1.5, GAP
    style.dxf.dimtad, style.dxf.dimtih, style.dxf.dimtoh = 1, 0, 0
    style.dxf.dimscale = 1 / scale
    style.dxf.dimdec, style.dxf.dimzin = 2, 8


def _add_dimension(space: Modelspace, mark: Mark, scale: float) -> None:
    """A dimension whose text is the one on the sheet, whatever units a reader would put there."""
    style = {"layer": Pen.DIMENSION.value}
    if isinstance(mark, marks.LinearDimension):
        ends = (mark.x1 / scale, mark.y1 / scale), (mark.x2 / scale, mark.y2 / scale)
        away = math.copysign(abs(mark.offset) + mark.clear, mark.offset) / scale
        space.add_aligned_dim(*ends, distance=away, text=mark.text, dimstyle=STYLE, dxfattribs=style).render()
    elif isinstance(mark, marks.RadiusDimension):
        centre, point = (mark.cx / scale, mark.cy / scale), (mark.x / scale, mark.y / scale)
        add = space.add_diameter_dim if mark.across else space.add_radius_dim
        add(centre, mpoint=point, text=mark.text, dimstyle=STYLE, dxfattribs=style).render()
    elif isinstance(mark, marks.AngleDimension) and mark.sweep > 0:
        centre, radius = (mark.x / scale, mark.y / scale), mark.radius / scale
        space.add_angular_dim_cra(
            centre, radius, mark.start, mark.start + mark.sweep, 0.0, text=mark.text, dimstyle=STYLE, dxfattribs=style
        ).render()


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
            begins, ends = sorted((mark.start, mark.start + mark.sweep))  # the format knows arcs anticlockwise alone
            space.add_arc(centre, radius, begins, ends, dxfattribs=style)
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
