"""PDF at true scale, through reportlab: 100 mm on the drawing at 1:1 are 100.00 mm on the page."""

from __future__ import annotations

import io
import math
from collections.abc import Iterable, Sequence

from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import STROKES
from wisecompass.folio.page import Page, drawn_over
from wisecompass.folio.paper import CAP_SHARE, DRAFTING_FAMILY, DRAFTING_FONT

ARC_WITHIN = 5e-4
"""How far a Bézier piece may be from its arc, mm of paper."""


def pdf(pages: Iterable[Page], title: str, author: str = "", headings: Sequence[str] = ()) -> bytes:
    """The pages as one PDF document, with no face but the drafting face and nothing in it that is not so. With ``headings``
    each page has a bookmark, and below it each of several figures its own."""
    if DRAFTING_FAMILY not in pdfmetrics.getRegisteredFontNames():
        pdfmetrics.registerFont(TTFont(DRAFTING_FAMILY, str(DRAFTING_FONT)))
    buffer = io.BytesIO()
    canvas = Canvas(buffer, initialFontName=DRAFTING_FAMILY)
    canvas.setTitle(title)
    canvas.setAuthor(author)
    canvas.setCreator("Wise Compass")
    canvas.setProducer("Wise Compass, with ReportLab")
    canvas.setSubject("Constructed figures at true scale")
    for n, page in enumerate(pages):
        wide, high = (
            page_mm * stretch * mm for page_mm, stretch in zip((page.width, page.height), page.stretch, strict=True)
        )
        canvas.setPageSize((wide, high))
        if n < len(headings):
            _bookmarks(canvas, page, headings[n], f"sheet {n}")
        canvas.scale(mm * page.stretch[0], mm * page.stretch[1])
        canvas.setLineCap(1)
        for mark in page.furniture:
            _draw(canvas, mark)
        if page.window is not None:
            left, low, right, high = page.window
            path = canvas.beginPath()
            path.rect(left, low, right - left, high - low)
            canvas.clipPath(path, stroke=0, fill=0)
        for mark in drawn_over(page):
            _draw(canvas, mark)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _bookmarks(canvas: Canvas, page: Page, heading: str, key: str) -> None:
    canvas.bookmarkPage(key)
    canvas.addOutlineEntry(heading, key, 0, closed=False)
    for k, (name, (left, _, _, high)) in enumerate(page.contents):
        canvas.bookmarkHorizontalAbsolute(f"{key} {k}", high * mm, left * mm)
        canvas.addOutlineEntry(name, f"{key} {k}", 1)


def _draw(canvas: Canvas, mark: Mark) -> None:
    stroke = STROKES[mark.pen]
    canvas.setStrokeGray(stroke.grey)
    canvas.setLineWidth(stroke.width)
    canvas.setDash(list(stroke.dashes))
    if isinstance(mark, marks.Segment):
        canvas.line(mark.x1, mark.y1, mark.x2, mark.y2)
    elif isinstance(mark, marks.Arc):
        if mark.radius > 0:
            _arc(canvas, mark.cx, mark.cy, (mark.radius, mark.radius), mark.start, max(-360.0, min(mark.sweep, 360.0)))
    elif isinstance(mark, marks.Ellipse):
        canvas.saveState()
        canvas.translate(mark.cx, mark.cy)
        canvas.rotate(mark.angle)
        _arc(canvas, 0.0, 0.0, (mark.semi_major, mark.semi_minor), 0.0, 360.0)
        canvas.restoreState()
    elif isinstance(mark, marks.Curve | marks.Ready):
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
    elif isinstance(mark, marks.Gap):
        path = canvas.beginPath()
        first, *others = mark.corners
        path.moveTo(*first)
        for corner in others:
            path.lineTo(*corner)
        path.close()
        canvas.setFillGray(1)
        canvas.drawPath(path, stroke=0, fill=1)


def _arc(canvas: Canvas, cx: float, cy: float, axes: tuple[float, float], start: float, sweep: float) -> None:
    """An arc of an ellipse by as many Bézier pieces as keep it within ``ARC_WITHIN``: the error of one that spans the angle
    t is about r·t⁶ / 27648 · 2 (Goldapp 1991)."""
    (a, b), whole = axes, math.radians(abs(sweep))
    pieces = max(1, math.ceil(whole / min(math.pi / 2, (13824 * ARC_WITHIN / max(a, b)) ** (1 / 6))))
    part = math.radians(sweep) / pieces
    pull = 4 / 3 * math.tan(part / 4)
    path = canvas.beginPath()
    at = math.radians(start)
    path.moveTo(cx + a * math.cos(at), cy + b * math.sin(at))
    for _ in range(pieces):
        end = at + part
        path.curveTo(
            cx + a * (math.cos(at) - pull * math.sin(at)),
            cy + b * (math.sin(at) + pull * math.cos(at)),
            cx + a * (math.cos(end) + pull * math.sin(end)),
            cy + b * (math.sin(end) - pull * math.cos(end)),
            cx + a * math.cos(end),
            cy + b * math.sin(end),
        )
        at = end
    if abs(sweep) >= 360:
        path.close()
    canvas.drawPath(path, stroke=1, fill=0)


def _text(canvas: Canvas, mark: marks.Text) -> None:
    canvas.saveState()
    canvas.setFillGray(0)
    canvas.translate(mark.x, mark.y)
    canvas.rotate(mark.angle)
    canvas.setFont(DRAFTING_FAMILY, mark.height / CAP_SHARE)
    draw = {"left": canvas.drawString, "centre": canvas.drawCentredString, "right": canvas.drawRightString}
    draw[mark.anchor](0, 0, mark.text)
    canvas.restoreState()
