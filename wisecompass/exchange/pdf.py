"""PDF at true scale, through reportlab: 100 mm on the drawing at 1:1 are 100.00 mm on the page."""

from __future__ import annotations

import io
from collections.abc import Iterable

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import STROKES
from wisecompass.folio.page import Page, final
from wisecompass.folio.paper import CAP_SHARE, DRAFTING_FAMILY, DRAFTING_FONT


def pdf(pages: Iterable[Page], title: str) -> bytes:
    """The pages as one PDF document."""
    if DRAFTING_FAMILY not in pdfmetrics.getRegisteredFontNames():
        pdfmetrics.registerFont(TTFont(DRAFTING_FAMILY, str(DRAFTING_FONT)))
    buffer = io.BytesIO()
    canvas = Canvas(buffer, invariant=1)
    canvas.setTitle(title)
    for page in pages:
        canvas.setPageSize((page.width * mm, page.height * mm))
        canvas.scale(mm, mm)
        canvas.setLineCap(1)
        for mark in final(page):
            _draw(canvas, mark)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _draw(canvas: Canvas, mark: Mark) -> None:
    stroke = STROKES[mark.pen]
    canvas.setStrokeGray(stroke.grey)
    canvas.setLineWidth(stroke.width)
    canvas.setDash(list(stroke.dashes))
    if isinstance(mark, marks.Segment):
        canvas.line(mark.x1, mark.y1, mark.x2, mark.y2)
    elif isinstance(mark, marks.Arc):
        if abs(mark.sweep) >= 360:
            canvas.circle(mark.cx, mark.cy, mark.radius, stroke=1, fill=0)
        elif mark.radius > 0:
            r = mark.radius
            canvas.arc(mark.cx - r, mark.cy - r, mark.cx + r, mark.cy + r, mark.start, mark.sweep)
    elif isinstance(mark, marks.Ellipse):
        canvas.saveState()
        canvas.translate(mark.cx, mark.cy)
        canvas.rotate(mark.angle)
        canvas.ellipse(-mark.semi_major, -mark.semi_minor, mark.semi_major, mark.semi_minor, stroke=1, fill=0)
        canvas.restoreState()
    elif isinstance(mark, marks.Curve):
        path = canvas.beginPath()
        pieces = mark.pieces()
        path.moveTo(*pieces[0][0])
        for _, first, second, end in pieces:
            path.curveTo(*first, *second, *end)
        canvas.drawPath(path, stroke=1, fill=0)
    elif isinstance(mark, marks.Dot) and mark.shown:
        canvas.setFillGray(0)
        canvas.circle(mark.x, mark.y, 0.3 if mark.pen.value == "grid" else 0.55, stroke=0, fill=1)
    elif isinstance(mark, marks.Text):
        _text(canvas, mark)


def _text(canvas: Canvas, mark: marks.Text) -> None:
    canvas.saveState()
    canvas.setFillGray(0)
    canvas.translate(mark.x, mark.y)
    canvas.rotate(mark.angle)
    canvas.setFont(DRAFTING_FAMILY, mark.height / CAP_SHARE)
    draw = {"left": canvas.drawString, "centre": canvas.drawCentredString, "right": canvas.drawRightString}
    draw[mark.anchor](0, 0, mark.text)
    canvas.restoreState()
