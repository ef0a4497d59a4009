"""Which is which: the body in hand in all five pictures side by side; one that is pressed becomes the figure's."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QAbstractButton, QDialog, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from wisecompass.catalogue import problem
from wisecompass.catalogue.pictorial.outlines import Polyline, outlines
from wisecompass.catalogue.pictorial.projections import PROJECTIONS
from wisecompass.desk.session import PICTURE, Session
from wisecompass.desk.theme import Theme, interface_font, scaled
from wisecompass.drafting.errors import WiseCompassError

TILE = QSize(190, 190)
"""How large each picture is, px."""

WORDS = {
    "isometric": "three axes at 30°, all lengths true",
    "oblique-cavalier": "the front true, depths in full",
    "oblique-cabinet": "the front true, depths halved",
    "one-point": "depths run to one point",
    "two-point": "lengths and depths run to a point each",
}


class Tile(QAbstractButton):
    """One picture with its name and what tells it apart."""

    def __init__(self, name: str, lines: list[Polyline], why: str, theme: Theme, chosen: bool) -> None:
        super().__init__()
        self.name, self.lines, self.why, self.theme, self.chosen = name, lines, why, theme, chosen
        self.setAccessibleName(f"{name}: {WORDS[name]}")
        self.setToolTip(why or f"{WORDS[name]}; press to draw the figure so")
        self.setEnabled(bool(lines))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def sizeHint(self) -> QSize:  # noqa: N802 - Qt's name
        return QSize(scaled(TILE.width()), scaled(TILE.height()))

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.color("paper"))
        if self.chosen or self.hasFocus():
            painter.setPen(QPen(self.theme.color("accent"), 3 if self.chosen else 1.5))
            painter.drawRect(QRectF(self.rect()).adjusted(2, 2, -2, -2))
        head, foot = scaled(26), scaled(38)
        painter.setPen(self.theme.color("paper_ink"))
        painter.setFont(interface_font(14, strong=True))
        painter.drawText(QRectF(8, 6, self.width() - 16, head), Qt.AlignmentFlag.AlignHCenter, self.name)
        painter.setFont(interface_font(12))
        low = QRectF(8, self.height() - foot, self.width() - 16, foot)
        painter.drawText(low, Qt.AlignmentFlag.AlignHCenter | Qt.TextFlag.TextWordWrap, self.why or WORDS[self.name])
        self._picture(painter, QRectF(14, head + 8, self.width() - 28, self.height() - head - foot - 16))

    def _picture(self, painter: QPainter, room: QRectF) -> None:
        spots = [spot for line in self.lines for spot in line]
        if not spots:
            return
        xs, ys = zip(*spots, strict=True)
        wide, high = max(xs) - min(xs) or 1.0, max(ys) - min(ys) or 1.0
        k = min(room.width() / wide, room.height() / high)
        left, top = room.center().x() - k * wide / 2, room.center().y() + k * high / 2
        painter.setPen(QPen(self.theme.color("paper_ink"), 1.6, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        for line in self.lines:
            painter.drawPolyline(QPolygonF([QPointF(left + k * (x - min(xs)), top - k * (y - min(ys))) for x, y in line]))


class WhichIsWhich(QDialog):
    """All five side by side."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Which is which")
        self.chosen = ""
        figure = session.figure
        given = dict(figure.givens) if figure.problem == PICTURE else {"parts": session.given_text("parts")}
        column, row = QVBoxLayout(self), QHBoxLayout()
        head = QLabel("One body, five pictures. Press one to draw the figure so.")
        head.setFont(interface_font(15))
        column.addWidget(head)
        column.addLayout(row)
        self.tiles: list[Tile] = []
        for name in PROJECTIONS:
            lines: list[Polyline] = []
            why = ""
            try:
                lines = outlines(problem(PICTURE), {**given, "projection": name}, session.folio.conventions.units.value)
            except WiseCompassError as reason:
                why = str(reason)
            in_hand = figure.problem == PICTURE and session.given_text("projection") == name
            tile = Tile(name, lines, why, theme, in_hand)
            tile.clicked.connect(lambda _=False, name=name: self._choose(name))
            row.addWidget(tile)
            self.tiles.append(tile)

    def _choose(self, name: str) -> None:
        self.chosen = name
        self.accept()
