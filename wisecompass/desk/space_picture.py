"""A small picture in space beside the views: both planes of projection, the figure, its projections, and the plane of each
auxiliary view. It follows the current step and turns under the pointer: it is what one misses who cannot see why a view is
swung."""

from __future__ import annotations

import math
from itertools import combinations, pairwise

from PySide6.QtCore import QPointF, QSize, Qt, QTimer
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QStyle, QWidget

from wisecompass.desk.session import Session
from wisecompass.desk.showing import show_where
from wisecompass.desk.slide import Rule
from wisecompass.desk.theme import Theme, interface_font
from wisecompass.drafting.motion import Folding, Motion
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import Drawing
from wisecompass.drafting.view import Placed, Triple

HEIGHT, LOWEST, EDGE = 196, 128, 14
TURN, TILT = -38.0, 26.0
"""Degrees by which it is turned about the upright and tilted at first: from the right or the left, from above."""

SLIDER, PARTS = 20, 1000
"""Height of the rule for motions, and its places."""

FRAME, RUN = 25, 900
"""Milliseconds from one picture of a motion to the next, and of the whole."""

MANY = 6
"""Of more points than so many the letters are left away while they move: they would run over each other."""

PICTURED = ("space", "solids", "loci", "pictorial", "developments")
"""Families that are worked in views of things in space."""

BEYOND = 0.14
"""How far the planes reach beyond the figure, as a share of its size."""


class SpacePicture(QWidget):
    """Drag or arrow keys turn it, a double click or 0 turns it back."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.turn, self.tilt = TURN, TILT
        self._looked_at = ("", 0)
        self._pressed: QPointF | None = None
        self.calm = False
        """Whether somebody wants nothing to move by itself."""
        self._shown: Motion | None = None
        """The motion that was shown last."""
        self._painted: tuple[object, QPixmap] | None = None
        """The picture as it was painted last, and how."""
        self._stale = False
        """Whether there is something else to show."""
        self.setObjectName("panel")
        self.setMinimumHeight(LOWEST)
        self.setMaximumHeight(HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("picture in space")
        self.setToolTip("The figure in space; drag or arrow keys turn it, double click turns it back")
        session.pointed.connect(self._repaint)
        self.slider = self._make_slider()
        self._run = QTimer(self)
        self._run.setInterval(FRAME)
        self._run.timeout.connect(self._run_on)
        session.followed.connect(self.follow)
        session.stepped.connect(self._stepped)
        self.follow()

    def _make_slider(self) -> Rule:
        """The rule that runs a motion to and fro."""
        slider = Rule(self.theme, self)
        slider.setRange(0, PARTS)
        slider.setValue(PARTS)
        slider.setAccessibleName("run the motion to and fro")
        slider.setToolTip("Run the motion of this step to and fro")
        slider.valueChanged.connect(self._repaint)
        slider.pressed.connect(lambda: self._run.stop())
        slider.hide()
        return slider

    def sizeHint(self) -> QSize:  # noqa: N802 - Qt's name
        return QSize(280, HEIGHT)

    def follow(self) -> None:
        """Shown where the figure in hand is worked in views of points in space."""
        drawing = self.session.drawing
        there = drawing is not None and _is_in_space(drawing) and drawing.problem.family in PICTURED
        show_where(self, there)
        looked_at = (drawing.problem.id, self.session.figure.solution) if drawing is not None and there else self._looked_at
        if looked_at != self._looked_at:
            self._looked_at = looked_at
            self.turn_back()
        self._stepped()

    def _stepped(self, _step: int = 0) -> None:
        """Another step: what moves in it is run once from its beginning to its end, or only shown there."""
        before, self._shown = self._shown, self.motion
        moves = self._shown is not None and self._shown.moves
        self.slider.setVisible(moves)
        if self._shown is None or self._shown != before:
            self._run.stop()
            self.slider.setValue(PARTS)
            if moves and before is not None and self.isVisible() and self.moving:
                self.slider.setValue(0)
                self._run.start()
        self._repaint()

    def _run_on(self) -> None:
        self.slider.setValue(self.slider.value() + PARTS * FRAME // RUN)
        if self.slider.value() >= PARTS:
            self._run.stop()

    @property
    def motion(self) -> Motion | None:
        """How the figure moves, or lies, in the step at hand."""
        drawing, step = self.session.drawing, self.session.step
        if drawing is None:
            return None
        return next((motion for motion in drawing.motions if motion.first <= step <= motion.last), None)

    @property
    def moving(self) -> bool:
        """Whether motions run by themselves: not where the system, or this program, is asked to move little."""
        return not self.calm and bool(self.style().styleHint(QStyle.StyleHint.SH_Widget_Animation_Duration, None, self))

    def resizeEvent(self, event: QResizeEvent) -> None:  # noqa: N802
        self.slider.setGeometry(EDGE, self.height() - SLIDER, self.width() - 2 * EDGE, SLIDER)
        super().resizeEvent(event)

    def _repaint(self, _step: int = 0) -> None:
        """Paint it anew. That the sheet below it is painted is no reason to: while somebody types it follows later."""
        self._stale = True
        self.update()

    # -------------------------------------------------------------------------------------------------------- turning
    def seen(self, place: Triple) -> tuple[float, float]:
        """Where a place in space is seen, before it is fitted to the widget: to the right and upwards."""
        x, front, above = place
        a, e = math.radians(self.turn), math.radians(self.tilt)
        right = x * math.cos(a) + front * math.sin(a)
        near = -x * math.sin(a) + front * math.cos(a)
        return right, above * math.cos(e) - near * math.sin(e)

    def rotate(self, turn: float, tilt: float) -> None:
        self.turn = (self.turn + turn + 180.0) % 360.0 - 180.0
        self.tilt = min(90.0, max(-90.0, self.tilt + tilt))
        self._repaint()

    def turn_back(self) -> None:
        """Look from above, from the right or the left: from where the figure is seen more openly."""
        self.turn, self.tilt = max((TURN, -TURN), key=self._openness), TILT
        self._repaint()

    def _openness(self, turn: float) -> tuple[float, float]:
        """How wide the edges spread as they are seen from there, pair by pair, and how long they are."""
        drawing = self.session.drawing
        if drawing is None:
            return 0.0, 0.0
        self.turn, self.tilt = turn, TILT
        places = {name: complex(*self.seen(place)) for name, (place, _) in drawing.in_space.items()}
        edges = [places[b] - places[a] for a, b in dict.fromkeys((beam.a, beam.b) for beam in drawing.beams if not beam.way)]
        spread = sum(abs((p.conjugate() * q).imag) for p, q in combinations(edges, 2))
        return spread, sum(map(abs, edges))

    def mousePressEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        self._pressed = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        if self._pressed is not None and event.buttons():
            moved = event.position() - self._pressed
            self._pressed = event.position()
            self.rotate(moved.x() * 0.6, moved.y() * 0.6)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        self._pressed = None

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        self.turn_back()

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        turns = {Qt.Key.Key_Left: (-8, 0), Qt.Key.Key_Right: (8, 0), Qt.Key.Key_Up: (0, 8), Qt.Key.Key_Down: (0, -8)}
        if event.key() in turns:
            self.rotate(*turns[Qt.Key(event.key())])
        elif event.key() == Qt.Key.Key_0:
            self.turn_back()
        else:
            super().keyPressEvent(event)

    # ------------------------------------------------------------------------------------------------------- painting
    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802
        ratio = self.devicePixelRatioF()
        how = (self.size(), ratio, self.theme)
        waits = self._stale and self.session.glancing.page is None
        if self._painted is None or self._painted[0] != how or waits:
            picture = QPixmap(self.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            with QPainter(picture) as painter, self.session.looking():
                self._paint(painter)
            self._painted, self._stale = (how, picture), False
        with QPainter(self) as painter:
            painter.drawPixmap(0, 0, self._painted[1])

    def _paint(self, painter: QPainter) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.color("panel"))
        drawing = self.session.drawing
        if drawing is None or not _is_in_space(drawing):
            return
        step = self.session.step
        motion, share = self.motion, self.slider.value() / PARTS
        if motion is not None and motion.folding is not None:
            self._folding(painter, drawing, motion.folding, share)
            return
        rest = {name: place for name, (place, _) in drawing.in_space.items()}
        runs = [place for beam in drawing.beams for place in beam.way]
        places = rest if motion is None else {name: motion.placed(place, share) for name, place in rest.items()}
        figure = [*rest.values(), *runs, *(() if motion is None else _reached(drawing, list(rest.values())))]
        room = _room(figure)
        sides = [(view.step, _plane_of(view, figure)) for view in drawing.placed]
        self._fit([*_corners_of(room), *(corner for _, corners in sides for corner in corners)])
        self._planes(painter, room)
        for made, corners in sides:
            if made <= step:
                self._auxiliary(painter, corners, made == step)
        by = step if motion is None else motion.last  # what moves is there before its places are read off
        known = {name for name, (_, found) in drawing.in_space.items() if found <= by}
        if motion is not None and not known:
            known = set(rest)
        for name in known:
            letter = name.partition("_")[0] if motion is None or len(known) <= MANY else ""
            self._projected(painter, letter, places[name], drawing.in_space[name][1] == step)
        if motion is not None and motion.path:
            self._walk(painter, motion, share)
        for beam in sorted(drawing.beams, key=lambda beam: (beam.step <= step, beam.step == step)):
            walking = motion is not None and motion.path and share < 1
            for a, c in pairwise(beam.way) if not walking or beam.pen is not Pen.OUTLINE else ():
                self._beam(painter, a, c, beam.pen, beam.step - step)
            if beam.a in known and beam.b in known:
                if motion is not None and motion.moves:
                    self._left_behind(painter, rest[beam.a], rest[beam.b])
                self._beam(painter, places[beam.a], places[beam.b], beam.pen, beam.step - step)
        self._pointed_at(painter)

    def _pointed_at(self, painter: QPainter) -> None:
        """The edges of a body that are pointed at, broad."""
        tint = QColor(self.theme.color("accent"))
        tint.setAlpha(140)
        painter.setPen(QPen(tint, 6.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        for each in self.session.belongings:
            for a, c in pairwise(each.way):
                self._line(painter, a, c)

    def _walk(self, painter: QPainter, motion: Motion, share: float) -> None:
        """A point that has walked a share of its path, with its arm from the axis."""
        passed = motion.walked(share)
        for a, c in pairwise(motion.path[:passed]):
            self._beam(painter, a, c, Pen.OUTLINE, 0)
        self._beam(painter, motion.axis[passed - 1], motion.path[passed - 1], Pen.OUTLINE, 0)

    def _folding(self, painter: QPainter, drawing: Drawing, folding: Folding, share: float) -> None:
        """The body and its pattern on the way, without the planes: as large as both let it be."""
        places = {name: place for name, (place, _) in drawing.in_space.items()}
        ways = [
            beam.way or (places[beam.a], places[beam.b])
            for beam in drawing.beams
            if beam.way or {beam.a, beam.b} <= set(places)
        ]
        self._fit([*folding.reach, *(place for way in ways for place in way)])
        painter.setPen(QPen(self.theme.color("ink"), 1.4))
        for way in ways:
            for a, c in pairwise(way):
                self._line(painter, a, c)
        tint = QColor(self.theme.color("accent"))
        tint.setAlpha(46)
        painter.setBrush(tint)
        painter.setPen(QPen(self.theme.color("vermilion"), 1.2))
        for corners in folding.faces(share):
            painter.drawPolygon(QPolygonF([self._spot(corner) for corner in corners]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        self._pointed_at(painter)

    def _fit(self, corners: list[Triple]) -> None:
        spots = [self.seen(corner) for corner in corners]
        xs, ys = zip(*spots, strict=True)
        width, height = max(xs) - min(xs) or 1.0, max(ys) - min(ys) or 1.0
        foot = SLIDER if self.slider.isVisible() else 0
        self._k = min((self.width() - 2 * EDGE) / width, (self.height() - 2 * EDGE - foot) / height)
        self._x = self.width() / 2 - self._k * (max(xs) + min(xs)) / 2
        self._y = (self.height() - foot) / 2 + self._k * (max(ys) + min(ys)) / 2

    def _spot(self, place: Triple) -> QPointF:
        x, y = self.seen(place)
        return QPointF(self._x + self._k * x, self._y - self._k * y)

    def _line(self, painter: QPainter, a: Triple, b: Triple) -> None:
        painter.drawLine(self._spot(a), self._spot(b))

    def _planes(self, painter: QPainter, room: tuple[Triple, Triple]) -> None:
        (x0, f0, h0), (x1, f1, h1) = room
        for corners, name in (
            (((x0, 0.0, h0), (x1, 0.0, h0), (x1, 0.0, h1), (x0, 0.0, h1)), "VP"),
            (((x0, f0, 0.0), (x1, f0, 0.0), (x1, f1, 0.0), (x0, f1, 0.0)), "HP"),
        ):
            tint = QColor(self.theme.color("tint"))
            tint.setAlpha(70)
            painter.setBrush(tint)
            painter.setPen(QPen(self.theme.color("quiet"), 1))
            painter.drawPolygon(QPolygonF([self._spot(corner) for corner in corners]))
            painter.setFont(interface_font(11))
            painter.drawText(self._spot(corners[2]) + QPointF(-18, 12), name)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self.theme.color("ink"), 1.6))
        self._line(painter, (x0, 0.0, 0.0), (x1, 0.0, 0.0))

    def _auxiliary(self, painter: QPainter, corners: list[Triple], new: bool) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        color = self.theme.color("vermilion" if new else "accent")
        painter.setPen(QPen(color, 1.6 if new else 1.0, Qt.PenStyle.SolidLine if new else Qt.PenStyle.DashLine))
        painter.drawPolygon(QPolygonF([self._spot(corner) for corner in corners]))

    def _projected(self, painter: QPainter, name: str, place: Triple, new: bool) -> None:
        x, front, above = place
        painter.setPen(QPen(self.theme.color("edge"), 1, Qt.PenStyle.DotLine))
        self._line(painter, place, (x, front, 0.0))
        self._line(painter, place, (x, 0.0, above))
        painter.setPen(QPen(self.theme.color("vermilion" if new else "ink"), 1))
        painter.setBrush(self.theme.color("vermilion" if new else "ink"))
        spot = self._spot(place)
        painter.drawEllipse(spot, 2.0, 2.0)
        painter.setFont(interface_font(12, strong=True))
        painter.drawText(spot + QPointF(4, -4), name)

    def _left_behind(self, painter: QPainter, a: Triple, b: Triple) -> None:
        """Where an edge that moves lies in the end."""
        painter.setPen(QPen(self.theme.color("edge"), 1, Qt.PenStyle.DashLine))
        self._line(painter, a, b)

    def _beam(self, painter: QPainter, a: Triple, b: Triple, pen: Pen, ahead: int) -> None:
        """An edge with its projections; thin while the step that draws it is still ``ahead``."""
        painter.setPen(QPen(self.theme.color("quiet"), 1))
        self._line(painter, (a[0], a[1], 0.0), (b[0], b[1], 0.0))
        self._line(painter, (a[0], 0.0, a[2]), (b[0], 0.0, b[2]))
        thin = ahead > 0 or pen in (Pen.PROJECTOR, Pen.CONSTRUCTION)
        painter.setPen(QPen(self.theme.color("ink" if ahead else "vermilion"), 1.0 if thin else 2.2))
        self._line(painter, a, b)


def _is_in_space(drawing: Drawing) -> bool:
    """Whether there is anything of a figure to show in space."""
    return bool(drawing.in_space) or any(beam.way for beam in drawing.beams)


def _reached(drawing: Drawing, places: list[Triple]) -> list[Triple]:
    """Where a figure lies at the beginning and at the end of its motions, so that all has room."""
    return [each.placed(place, share) for each in drawing.motions for share in (0.0, 1.0) for place in places]


def _room(places: list[Triple]) -> tuple[Triple, Triple]:
    """The box of the figure and the fold line, with white round it."""
    low = [min(values) for values in zip(*places, strict=True)]
    high = [max(values) for values in zip(*places, strict=True)]
    white = BEYOND * (max(h - o for h, o in zip(high, low, strict=True)) or abs(high[1]) + abs(high[2]) or 1.0)
    least = (
        low[0] - white,
        min(0.0, low[1] - white if low[1] < 0 else 0.0),
        min(0.0, low[2] - white if low[2] < 0 else 0.0),
    )
    return least, (high[0] + white, max(0.0, high[1]) + white, max(0.0, high[2]) + white)


def _plane_of(view: Placed, places: list[Triple]) -> list[Triple]:
    """The corners of the plane of an auxiliary view, behind the figure as it is looked at."""
    along, across = ([_dot(place, axis) for place in places] for axis in (view.along, view.across))
    out = max(_dot(place, view.outward) for place in places)
    size = max(max(along) - min(along), max(across) - min(across), 1e-9)
    white = BEYOND * size
    low, high, left, right = min(across) - white, max(across) + white, min(along) - white, max(along) + white
    return [
        _sum(view.along, s, view.across, t, view.outward, out + white)
        for s, t in ((left, low), (right, low), (right, high), (left, high))
    ]


def _corners_of(room: tuple[Triple, Triple]) -> list[Triple]:
    (x0, f0, h0), (x1, f1, h1) = room
    return [(x, front, above) for x in (x0, x1) for front in (f0, f1) for above in (h0, h1)]


def _dot(a: Triple, b: Triple) -> float:
    return sum(p * q for p, q in zip(a, b, strict=True))


def _sum(a: Triple, s: float, b: Triple, t: float, c: Triple, u: float) -> Triple:
    x, front, above = (p * s + q * t + r * u for p, q, r in zip(a, b, c, strict=True))
    return x, front, above
