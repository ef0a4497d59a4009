"""The step strip: what to do next, readable across a table, and one dot a step."""

from __future__ import annotations

import math
from typing import TypeAlias

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QFont, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QResizeEvent
from PySide6.QtWidgets import QWidget

from wisecompass.desk import instruments
from wisecompass.desk.session import Session
from wisecompass.desk.theme import UNIT, Theme, interface_font, scaled
from wisecompass.drafting.reasons import Reasons
from wisecompass.drafting.sentences import sentence, setting_text
from wisecompass.drafting.wording import measured
from wisecompass.folio.paper import on_paper
from wisecompass.folio.scales import scale_text

SENTENCE, SMALL = 20, 13
PLAY_EVERY = 1400
"""Milliseconds a step when playing."""

HEIGHT, TALL, MOST = 98, 150, 350
"""Of the strip, px, without and with the reasons of a step; and at most, where a sentence is so long that it would be
cut."""

SIZES = SENTENCE, 18, 16, 14
"""Of the sentence, px: the first in which it fits."""

BESIDE = 236
"""Width of what stands before the sentence, px."""

DOTS_BELOW = 32.0
"""Height of the row of dots, px."""

WHY_SHARE = 0.6
"""Of the room for words, for the reasons at most."""

WRAPPED = Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft


WALKING = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Home, Qt.Key.Key_End)
"""Keys that walk through the steps; lists let them pass."""

Piece: TypeAlias = tuple[str, QFont, bool]
"""A word with its face, and whether it is the setting."""


class StepStrip(QWidget):
    """Arrow keys walk, Space plays, Home and End jump; a click on a dot goes there."""

    chosen = Signal(int)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("panel")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.saying_why = False
        self.setFixedHeight(scaled(HEIGHT))
        self.setMouseTracking(True)
        self.setAccessibleName("steps")
        self._painted_dots: tuple[object, QPixmap] | None = None
        self._player = QTimer(self)
        self._player.setInterval(PLAY_EVERY)
        self._player.timeout.connect(self._play_on)
        session.stepped.connect(self._show)
        session.covered.connect(self._show)
        session.followed.connect(self._show)
        self._show()

    def sizeHint(self) -> QSize:  # noqa: N802 - Qt's name
        return QSize(800, HEIGHT)

    # ------------------------------------------------------------------------------------------------------- walking
    @property
    def count(self) -> int:
        return self.session.last_step

    def text(self) -> str:
        """The sentence that is shown."""
        drawing, step = self.session.drawing, self.session.step
        if drawing is None:
            return "Pick a problem at the left: it goes on this sheet, with Shift on a new one. Ctrl+T names work and sheet."
        if step > len(drawing.steps):
            return f"The whole sheet, made in {len(drawing.steps)} steps. ← walks back through them, Home begins."
        conventions = self.session.conventions
        told = conventions.worded(sentence(drawing.steps[step - 1], conventions.units))
        cover = self.session.cover
        return told if cover is None else cover.told(step, told)

    def why(self) -> str:
        """What the step rests on, if that is asked for."""
        drawing, step = self.session.drawing, self.session.step
        if not self.saying_why or drawing is None or step > len(drawing.steps) or self._setting_covered:
            return ""
        conventions = self.session.conventions
        return conventions.worded(" ".join(Reasons(drawing.steps[step - 1], conventions.units).sentences()))

    def say_why(self, wanted: bool) -> None:
        """Show below each sentence what it rests on, or leave it out."""
        self.saying_why = wanted
        self._show()

    @property
    def _told_to(self) -> int:
        """The last step that is told."""
        cover = self.session.cover
        return self.count if cover is None else cover.steps

    @property
    def _setting_covered(self) -> bool:
        cover = self.session.cover
        return cover is not None and self.session.step > cover.settings

    def setting(self) -> str:
        drawing, step = self.session.drawing, self.session.step
        if drawing is None or step > len(drawing.steps) or self._setting_covered:
            return ""
        return setting_text(drawing.steps[step - 1], self.session.conventions.units)

    def on_paper(self) -> str:
        """What the setting measures on this sheet, where the drawing scale is not full size."""
        drawing, page, step = self.session.drawing, self.session.page, self.session.step
        if drawing is None or page is None or page.scale == 1 or step > len(drawing.steps) or self._setting_covered:
            return ""
        setting, unit = drawing.steps[step - 1].setting, drawing.steps[step - 1].unit
        if setting is None or unit != "mm":
            return ""
        shown = measured(on_paper(float(setting), page.scale), "mm", self.session.conventions.units)
        return f"on this sheet {shown} ({scale_text(page.scale)})"

    def figure(self) -> str:
        """Which figure is in hand, where the sheet has several."""
        return self.session.figure.name if len(self.session.sheet.figures) > 1 else ""

    def head(self) -> str:
        if self.session.drawing is None:
            return "Empty sheet"
        if self.session.step > self.count:
            return "Finished"
        return f"Step {self.session.step} of {self.count}"

    def walk(self, way: int) -> None:
        self._player.stop()
        self.session.go_to(self.session.step + way)

    def play(self) -> None:
        """Walk on by itself, from the start when at the end; again to stop."""
        if self._player.isActive():
            self._player.stop()
        else:
            if self.session.step > self.count:
                self.session.go_to(1)
            self._player.start()
        self.update()

    def _play_on(self) -> None:
        if self.session.step > self.count:
            self._player.stop()
        else:
            self.session.go_to(self.session.step + 1)

    def _show(self, _step: int = 0) -> None:
        named = f"{self.figure()}, " if self.figure() else ""
        self.setAccessibleDescription(f"{named}{self.head()}. {self.text()} {self.why()}".rstrip())
        self._make_room()
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:  # noqa: N802
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            with self.session.looking():
                self._make_room()

    def _make_room(self) -> None:
        """Grow for a sentence that would be cut in the smallest face, and no longer than for that."""
        height = scaled(TALL if self.saying_why else HEIGHT)
        room = self._room(height)
        why = self.why()
        if why:
            room = self._without_why(room, why)
        needed = sum(line for _, line in self._broken(room.width(), SIZES[-1]))
        more = max(0.0, needed - room.height()) / (1 - WHY_SHARE if why else 1)
        self.setFixedHeight(min(height + math.ceil(more), scaled(MOST)))

    def _room(self, height: float) -> QRectF:
        """The room for words in a strip of some height."""
        return QRectF(scaled(BESIDE), 2, self.width() - scaled(BESIDE) - 2 * UNIT, height - DOTS_BELOW - 4)

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.walk(1 if key == Qt.Key.Key_Right else -1)
        elif key == Qt.Key.Key_Home:
            self.walk(-self.session.step)
        elif key == Qt.Key.Key_End:
            self.walk(self.count + 1)
        elif key == Qt.Key.Key_Space:
            self.play()
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        step = self.step_at(event.position())
        if step is not None:
            self._player.stop()
            self.session.go_to(step)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        step = self.step_at(event.position())
        drawing = self.session.drawing
        if step is None or drawing is None:
            self.setToolTip("")
        elif step > len(drawing.steps):
            self.setToolTip("the whole sheet")
        else:
            conventions = self.session.conventions
            self.setToolTip(f"{step}. {conventions.worded(sentence(drawing.steps[step - 1], conventions.units))}")

    # -------------------------------------------------------------------------------------------------------- dots
    def dot_centre(self, step: int) -> QPointF:
        """Where the dot of a step lies; the one past the last stands for the whole sheet."""
        left, right = 28.0, self.width() - 28.0
        pitch = min(44.0, (right - left) / max(1, self.count))
        return QPointF(left + pitch * (step - 1), self.height() - DOTS_BELOW / 2 - 2)

    def step_at(self, at: QPointF) -> int | None:
        if at.y() < self.height() - DOTS_BELOW - 4:
            return None
        nearest = min(range(1, self.count + 2), key=lambda step: abs(self.dot_centre(step).x() - at.x()))
        return nearest if abs(self.dot_centre(nearest).x() - at.x()) < 24 else None

    # ---------------------------------------------------------------------------------------------------- painting
    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802
        with QPainter(self) as painter, self.session.looking():
            self._paint(painter)

    def _paint(self, painter: QPainter) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.color("panel"))
        painter.fillRect(QRectF(0, 0, self.width(), 1), self.theme.color("edge"))
        painter.setPen(self.theme.color("quiet"))
        painter.setFont(interface_font(SMALL, strong=True))
        painter.drawText(QPointF(2 * UNIT, scaled(24)), self.head())
        after_head = 2 * UNIT + painter.fontMetrics().horizontalAdvance(self.head()) + 2 * UNIT
        playing = "Space stops" if self._player.isActive() else "← → walk   Space plays   F4 why"
        painter.setFont(interface_font(SMALL))
        below = " · ".join(filter(None, [self.figure(), self.on_paper()])) or playing
        fitting = painter.fontMetrics().elidedText(below, Qt.TextElideMode.ElideMiddle, scaled(BESIDE) - 3 * UNIT)
        painter.drawText(QPointF(2 * UNIT, scaled(46)), fitting)
        if self.session.step <= self.count and self.session.drawing is not None:
            step = self.session.drawing.steps[self.session.step - 1]
            painter.setPen(QPen(self.theme.color("accent"), 1.6))
            instruments.sign(painter, QRectF(after_head, scaled(10), 18, 18), step.instrument)
            painter.setPen(self.theme.color("ink"))
            painter.drawText(QPointF(after_head + 24, scaled(24)), step.instrument.value)
        room = self._room(self.height())
        why = self.why()
        if why:
            room = self._paint_why(painter, room, why)
        self._paint_sentence(painter, room)
        painter.drawPixmap(0, self.height() - round(DOTS_BELOW) - 2, self._dots())
        if self.hasFocus():
            painter.fillRect(QRectF(0, 0, self.width(), 3), self.theme.color("accent"))

    def _paint_why(self, painter: QPainter, room: QRectF, why: str) -> QRectF:
        """What the step rests on, below; the room that is left for the sentence."""
        left = self._without_why(room, why)
        below = QRectF(room.left(), left.bottom() + 2, room.width(), room.bottom() - left.bottom() - 2)
        painter.setFont(interface_font(SMALL))
        painter.setPen(self.theme.color("quiet"))
        painter.drawText(below.adjusted(0, 5, 0, 0), WRAPPED, why)
        painter.setPen(QPen(self.theme.color("edge"), 1))
        painter.drawLine(below.topLeft(), below.topRight())
        return left

    def _without_why(self, room: QRectF, why: str) -> QRectF:
        """The room that reasons leave for the sentence."""
        asked = QRectF(0, 0, room.width(), room.height())
        height = QFontMetricsF(interface_font(SMALL)).boundingRect(asked, WRAPPED, why).height()
        return room.adjusted(0, 0, 0, -min(height, room.height() * WHY_SHARE) - 8)

    def _paint_sentence(self, painter: QPainter, room: QRectF) -> None:
        """The sentence in running lines, its setting much larger; a smaller face where three lines would not fit."""
        for size in SIZES:
            lines = self._broken(room.width(), size)
            height = sum(line_height for _, line_height in lines)
            if height <= room.height():
                break
        y = room.top() + max(0.0, (room.height() - height) / 2)
        for words, line_height in lines:
            x = room.left()
            base = y + line_height * 0.76
            for word, font, is_setting in words:
                painter.setFont(font)
                painter.setPen(self.theme.color("accent" if is_setting else "ink"))
                painter.drawText(QPointF(x, base), word)
                x += QFontMetricsF(font).horizontalAdvance(word)
            y += line_height

    def _broken(self, width: float, size: int) -> list[tuple[list[Piece], float]]:
        plain, large = interface_font(size), interface_font(max(round(size * 1.6), 22), strong=True)
        text, setting = self.text(), self.setting()
        before, found, after = text.partition(setting) if setting else (text, "", "")
        pieces = [(f"{word} ", plain, False) for word in before.split()]
        if found:
            tail = after[: len(after) - len(after.lstrip(",.;:)"))]
            pieces.append((setting, large, True))
            pieces.append((f"{tail} ", plain, False))
            after = after[len(tail) :]
        pieces += [(f"{word} ", plain, False) for word in after.split()]
        lines: list[tuple[list[Piece], float]] = []
        line: list[Piece] = []
        x = 0.0
        for piece in pieces:
            advance = QFontMetricsF(piece[1]).horizontalAdvance(piece[0])
            if line and x + advance > width:
                lines.append((line, self._line_height(line, size)))
                line, x = [], 0.0
            line.append(piece)
            x += advance
        if line:
            lines.append((line, self._line_height(line, size)))
        return lines

    def _line_height(self, line: list[Piece], size: int) -> float:
        return size * (1.75 if any(is_setting for _, _, is_setting in line) else 1.3)

    def _dots(self) -> QPixmap:
        """The row of dots, painted anew only when a step, an instrument or the width has changed."""
        drawing = self.session.drawing
        tools = tuple(step.instrument for step in drawing.steps) if drawing else ()
        key = (self.session.step, tools, self.width(), self._told_to)
        if self._painted_dots is None or self._painted_dots[0] != key:
            ratio = self.devicePixelRatioF()
            row = QPixmap(round(self.width() * ratio), round((DOTS_BELOW + 2) * ratio))
            row.setDevicePixelRatio(ratio)
            row.fill(self.theme.color("panel"))
            painter = QPainter(row)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.translate(0, -(self.height() - round(DOTS_BELOW) - 2))
            self._paint_dots(painter)
            painter.end()
            self._painted_dots = (key, row)
        return self._painted_dots[1]

    def _paint_dots(self, painter: QPainter) -> None:
        drawing = self.session.drawing
        if drawing is None:
            return
        accent, edge, ink = self.theme.color("accent"), self.theme.color("edge"), self.theme.color("quiet")
        first, last = self.dot_centre(1), self.dot_centre(self.count + 1)
        painter.setPen(QPen(edge, 2))
        painter.drawLine(first, last)
        now = self.dot_centre(min(self.session.step, self.count + 1))
        painter.setPen(QPen(accent, 2))
        painter.drawLine(first, now)
        pitch = (last.x() - first.x()) / max(1, self.count)
        if pitch < 26:
            self._paint_many(painter, pitch)
            return
        for n in range(1, self.count + 2):
            at = self.dot_centre(n)
            current = n == self.session.step
            radius = 10.0
            done = n < self.session.step
            painter.setPen(
                QPen(self.theme.color("vermilion") if current else accent if done else edge, 2 if current else 1.4)
            )
            painter.setBrush(self.theme.color("panel"))
            if n > self.count:
                painter.drawRect(QRectF(at.x() - radius, at.y() - radius * 0.8, 2 * radius, radius * 1.6))
                continue
            if n > self._told_to:
                painter.drawEllipse(at, radius / 2, radius / 2)
                continue
            painter.drawEllipse(at, radius, radius)
            painter.setPen(QPen(self.theme.color("vermilion") if current else accent if done else ink, 1.2))
            square = QRectF(at.x() - 5, at.y() - 5, 10, 10)
            instruments.sign(painter, square, drawing.steps[n - 1].instrument)

    def _paint_many(self, painter: QPainter, pitch: float) -> None:
        """So many steps that their dots have no room for a sign: each kind in one go, for there may be hundreds."""
        accent, edge, panel = self.theme.color("accent"), self.theme.color("edge"), self.theme.color("panel")
        radius, now = max(3.0, pitch * 0.36), self.session.step
        done = [self.dot_centre(n) for n in range(1, min(now, self.count + 1))]
        ahead = [self.dot_centre(n) for n in range(now + 1, self.count + 1)]
        for places, color, width in (
            (done, accent, 2 * radius),
            (ahead, edge, 2 * radius),
            (ahead, panel, 2 * radius - 2.8),
        ):
            if places:
                painter.setPen(QPen(color, width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
                painter.drawPoints(places)
        vermilion = self.theme.color("vermilion")
        painter.setPen(QPen(vermilion if now > self.count else edge, 2 if now > self.count else 1.4))
        painter.setBrush(panel)
        end = self.dot_centre(self.count + 1)
        painter.drawRect(QRectF(end.x() - radius, end.y() - radius * 0.8, 2 * radius, radius * 1.6))
        if now <= self.count:
            painter.setBrush(vermilion)
            painter.setPen(QPen(vermilion, 2))
            painter.drawEllipse(self.dot_centre(now), radius + 1.5, radius + 1.5)
