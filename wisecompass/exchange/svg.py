"""SVG at true size: one user unit is one millimetre."""

from __future__ import annotations

import base64
import math
from collections.abc import Iterable
from xml.sax.saxutils import escape

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import STROKES
from wisecompass.exchange import lettering
from wisecompass.folio.page import Page, drawn_over
from wisecompass.folio.paper import CAP_SHARE, DRAFTING_FAMILY, DRAFTING_FONT


def svg(page: Page, title: str = "", *, outlines: bool = False) -> str:
    """The page as an SVG document with the drafting face embedded; with ``outlines`` its letters are drawn, for readers
    that pass over embedded faces."""
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{page.width:g}mm" height="{page.height:g}mm" '
        f'viewBox="0 0 {page.width:g} {page.height:g}">\n'
        f"<title>{escape(title)}</title>\n"
    )
    if not outlines:
        font = base64.b64encode(DRAFTING_FONT.read_bytes()).decode("ascii")
        head += (
            f"<style>@font-face{{font-family:'{DRAFTING_FAMILY}';src:url(data:font/ttf;base64,{font})}}"
            f"text{{font-family:'{DRAFTING_FAMILY}',sans-serif}}</style>\n"
        )
    head += f'<rect width="{page.width:g}" height="{page.height:g}" fill="white"/>\n'

    def shown(drawn: Iterable[Mark]) -> str:
        pieces = (_outlined(mark, page.height) if outlines else _element(mark, page.height) for mark in drawn)
        return "\n".join(piece for piece in pieces if piece)

    figure = shown(drawn_over(page))
    if page.window is not None:
        left, low, right, high = page.window
        box = f'x="{_n(left)}" y="{_n(page.height - high)}" width="{_n(right - left)}" height="{_n(high - low)}"'
        clip = f'<clipPath id="window"><rect {box}/></clipPath>'
        figure = f'{clip}\n<g clip-path="url(#window)">\n{figure}\n</g>'
    return head + shown(page.furniture) + "\n" + figure + "\n</svg>\n"


def _outlined(mark: Mark, height: float) -> str:
    """A mark whose letters are shapes."""
    if not isinstance(mark, marks.Text):
        return _element(mark, height)
    shapes, width = lettering.outline(mark.text, mark.height)
    x = mark.x - {"left": 0.0, "centre": width / 2, "right": width}[mark.anchor] if not mark.angle else mark.x
    back = {"left": 0.0, "centre": width / 2, "right": width}[mark.anchor] if mark.angle else 0.0
    turn = f"translate({_n(x)} {_n(height - mark.y)})rotate({_n(-mark.angle)})translate({_n(-back)} 0)"
    return f'<path class="lettering" aria-label="{escape(mark.text, QUOTES)}" transform="{turn}" d="{shapes}"/>'


QUOTES = {'"': "&quot;"}


def _n(value: float) -> str:
    return f"{value:.5f}".rstrip("0").rstrip(".")


def _stroke(mark: Mark) -> str:
    stroke = STROKES[mark.pen]
    tone = round(255 * stroke.grey)
    dashes = f' stroke-dasharray="{" ".join(map(_n, stroke.dashes))}"' if stroke.dashes else ""
    return (
        f'class="{mark.pen}" fill="none" stroke="rgb({tone},{tone},{tone})" stroke-width="{stroke.width}" '
        f'stroke-linecap="round"{dashes}'
    )


def _element(mark: Mark, height: float) -> str:
    if isinstance(mark, marks.Segment):
        return (
            f'<line x1="{_n(mark.x1)}" y1="{_n(height - mark.y1)}" x2="{_n(mark.x2)}" y2="{_n(height - mark.y2)}" '
            f"{_stroke(mark)}/>"
        )
    if isinstance(mark, marks.Arc):
        return _arc(mark, height)
    if isinstance(mark, marks.Ellipse):
        turn = f"rotate({_n(-mark.angle)} {_n(mark.cx)} {_n(height - mark.cy)})"
        return (
            f'<ellipse cx="{_n(mark.cx)}" cy="{_n(height - mark.cy)}" rx="{_n(mark.semi_major)}" '
            f'ry="{_n(mark.semi_minor)}" transform="{turn}" {_stroke(mark)}/>'
        )
    if isinstance(mark, marks.Curve | marks.Ready):
        pieces = mark.pieces()
        chain = [pieces[0][0], *(point for piece in pieces for point in piece[1:])]
        first, *others = (f"{_n(x)} {_n(height - y)}" for x, y in chain)
        return f'<path d="M{first}C{" ".join(others)}" {_stroke(mark)}/>'
    if isinstance(mark, marks.Dot):
        if not mark.shown:
            return ""
        radius = 0.3 if mark.pen.value == "grid" else 0.55
        return f'<circle cx="{_n(mark.x)}" cy="{_n(height - mark.y)}" r="{radius}" fill="black"/>'
    if isinstance(mark, marks.Text):
        return _text(mark, height)
    if isinstance(mark, marks.Gap):
        corners = " ".join(f"{_n(x)},{_n(height - y)}" for x, y in mark.corners)
        return f'<polygon class="gap" points="{corners}" fill="white"/>'
    return ""


def _arc(mark: marks.Arc, height: float) -> str:
    if abs(mark.sweep) >= 360:
        return f'<circle cx="{_n(mark.cx)}" cy="{_n(height - mark.cy)}" r="{_n(mark.radius)}" {_stroke(mark)}/>'
    (x1, y1), (x2, y2) = mark.end(0.0), mark.end(1.0)
    large = int(abs(mark.sweep) > 180)
    turn = int(mark.sweep < 0)
    radius = _n(mark.radius)
    path = f"M{_n(x1)} {_n(height - y1)}A{radius} {radius} 0 {large} {turn} {_n(x2)} {_n(height - y2)}"
    return f'<path d="{path}" {_stroke(mark)}/>'


def _text(mark: marks.Text, height: float) -> str:
    anchor = {"left": "start", "centre": "middle", "right": "end"}[mark.anchor]
    x, y = _n(mark.x), _n(height - mark.y)
    turn = f' transform="rotate({_n(-mark.angle)} {x} {y})"' if not math.isclose(mark.angle, 0.0) else ""
    size = _n(mark.height / CAP_SHARE)
    return f'<text x="{x}" y="{y}" font-size="{size}" text-anchor="{anchor}"{turn}>{escape(mark.text)}</text>'
