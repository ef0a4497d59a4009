"""The stand-in for a camera: a page as somebody drew it, photographed from somewhere, with the grain that pictures have."""

from __future__ import annotations

import io
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageDraw, ImageFilter, ImageFont

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark, sampled
from wisecompass.drafting.pens import STROKES
from wisecompass.folio.page import Page
from wisecompass.folio.paper import DRAFTING_FONT
from wisecompass.judgement.photograph import Fit, taken_from

PAPER, TABLE, INK = (250, 247, 238), (120, 112, 98), (38, 40, 44)

ANCHORS = {"left": "ls", "centre": "ms", "right": "rs"}

FINER = 2
"""The sheet is painted so many times as finely as it is photographed."""


@dataclass(frozen=True)
class Camera:
    """Where a picture is taken from: tilt and turn in degrees; dots to the inch of paper; grain in steps of grey."""

    tilt: float = 18.0
    turn: float = 4.0
    dpi: float = 150.0
    grain: float = 6.0


def photographed(page: Page, camera: Camera, seed: int = 1) -> tuple[bytes, Fit]:
    """A picture of a page as PNG, and the map from its pixels to the paper, which nobody knows of a real one."""
    per_mm = camera.dpi / 25.4
    size = round(page.width * per_mm), round(page.height * per_mm)
    sheet = _painted(page, per_mm * FINER)
    fit = taken_from(page.width, page.height, size, camera.tilt, camera.turn)
    to_sheet = np.array([[per_mm * FINER, 0, 0], [0, -per_mm * FINER, page.height * per_mm * FINER], [0, 0, 1]]) @ fit.matrix
    to_sheet = to_sheet / to_sheet[2, 2]
    picture = sheet.transform(
        size, Image.Transform.PERSPECTIVE, to_sheet.reshape(9)[:8].tolist(), Image.Resampling.BICUBIC, fillcolor=TABLE
    )
    picture = picture.filter(ImageFilter.GaussianBlur(0.6))
    grain = np.random.default_rng(seed).normal(0.0, camera.grain, (size[1], size[0], 1))
    grey = np.clip(np.asarray(picture, dtype=float) + grain, 0, 255).astype(np.uint8)
    out = io.BytesIO()
    Image.fromarray(grey).save(out, "PNG")
    return out.getvalue(), fit


def _painted(page: Page, per_mm: float) -> Image.Image:
    """The sheet seen from straight above."""
    picture = Image.new("RGB", (round(page.width * per_mm), round(page.height * per_mm)), PAPER)
    brush = ImageDraw.Draw(picture)
    for mark in (*page.furniture, *page.brief, *page.marks):
        _paint(brush, mark, page.height, per_mm)
    return picture


def _paint(brush: ImageDraw.ImageDraw, mark: Mark, height: float, per_mm: float) -> None:
    if isinstance(mark, marks.Text):
        font = ImageFont.truetype(str(DRAFTING_FONT), max(6, round(mark.height * 1.4 * per_mm)))
        at = mark.x * per_mm, (height - mark.y) * per_mm
        brush.text(at, mark.text, fill=INK, font=font, anchor=ANCHORS[mark.anchor])
    elif isinstance(mark, marks.Dot):
        if mark.shown:
            x, y, r = mark.x * per_mm, (height - mark.y) * per_mm, 0.45 * per_mm
            brush.ellipse((x - r, y - r, x + r, y + r), fill=INK)
    elif isinstance(mark, marks.Segment | marks.Arc | marks.Ellipse | marks.Curve):
        places = [(x * per_mm, (height - y) * per_mm) for x, y in sampled(mark, 96)]
        width = max(1, round(STROKES[mark.pen].width * per_mm))
        brush.line(places, fill=INK, width=width)
