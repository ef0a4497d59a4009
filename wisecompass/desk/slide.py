"""The slide: a rule under the sentence along which the chosen point of a curve is drawn from one end to the other."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSlider, QWidget

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import Expression
from wisecompass.desk.session import Session
from wisecompass.desk.showing import show_where
from wisecompass.desk.theme import UNIT, Theme
from wisecompass.drafting import sliding
from wisecompass.drafting.givens import Form

PARTS = 1000
"""Places of the rule for a given that is not counted."""

WIDTH, HEIGHT, END = 200, 22, 8


class Rule(QSlider):
    """A ruled line with a pointer on it."""

    pressed = Signal()

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
        self.theme = theme

    # ------------------------------------------------------------------------------------------------------- pointer
    def _place_at(self, x: float) -> int:
        share = min(1.0, max(0.0, (x - END) / (self.width() - 2 * END)))
        return round(self.minimum() + share * (self.maximum() - self.minimum()))

    def mousePressEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        self.pressed.emit()
        self.setValue(self._place_at(event.position().x()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        if event.buttons():
            self.setValue(self._place_at(event.position().x()))

    # ------------------------------------------------------------------------------------------------------ painting
    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        base, length = self.height() - UNIT / 2, self.width() - 2 * END
        painter.setPen(QPen(self.theme.color("quiet"), 1))
        painter.drawLine(QPointF(END, base), QPointF(END + length, base))
        places = self.maximum() - self.minimum()
        ticks = places if 0 < places <= 48 else 20
        for k in range(ticks + 1):
            x = END + length * k / ticks
            painter.drawLine(QPointF(x, base), QPointF(x, base - (6 if k % 5 == 0 else 3)))
        share = (self.value() - self.minimum()) / (places or 1)
        x = END + length * share
        painter.setPen(QPen(self.theme.color("accent"), 2 if self.hasFocus() else 1))
        painter.setBrush(self.theme.color("accent"))
        painter.drawPolygon(QPolygonF([QPointF(x, base - 4), QPointF(x - 5, base - 13), QPointF(x + 5, base - 13)]))


class Slide(Rule):
    """Shown where the problem in hand has a chosen point. Arrow keys move by one place, Page Up and Down by ten."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(theme)
        self.session = session
        self._following = False
        self.serves = False
        """Whether the problem in hand has a chosen point."""
        self.setAccessibleName("slide the chosen point along the curve")
        self.setToolTip("Slide the chosen point along the curve, or drag it on the sheet")
        self.setFixedSize(WIDTH, HEIGHT)
        self.valueChanged.connect(self._moved)
        session.followed.connect(self.follow)
        session.figure_changed.connect(self.follow)
        self.follow()

    def sizeHint(self) -> QSize:  # noqa: N802 - Qt's name
        return QSize(WIDTH, HEIGHT)

    def follow(self) -> None:
        """Stand where the given stands, or hide where there is none."""
        chosen, drawing = None if self.session.empty else self.session.problem.chosen, self.session.drawing
        here = chosen is not None and drawing is not None and drawing.problem is self.session.problem
        self.serves = here
        show_where(self, here)
        if chosen is None or drawing is None or not here:
            return
        item = sliding.given_of(self.session.problem, chosen)
        least, most = sliding.reach(self.session.problem, chosen, drawing.typed)
        counted = item.form is Form.COUNT
        low, high = (round(least), round(most)) if counted else (0, PARTS)
        typed = drawing.typed[item.name]
        assert isinstance(typed, Expression)
        value = float(typed.evaluate(PLAIN))
        self._following = True
        self.setRange(low, high)
        self.setSingleStep(1 if counted else PARTS // 200)
        self.setPageStep(max(1, (high - low) // 10))
        self.setValue(round(value) if counted else round((value - least) / ((most - least) or 1.0) * PARTS))
        self._following = False

    def _moved(self, place: int) -> None:
        chosen, drawing = self.session.problem.chosen, self.session.drawing
        if self._following or chosen is None or drawing is None:
            return
        item = sliding.given_of(self.session.problem, chosen)
        least, most = sliding.reach(self.session.problem, chosen, drawing.typed)
        value = place if item.form is Form.COUNT else least + (most - least) * place / PARTS
        self.session.set_given(item.name, sliding.as_typed(item, value, least, most))
