"""How the answers hang on the givens: an answer asked backwards, what one unit of each given changes, and what tolerances
leave of the answers."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QModelIndex, QSize, Qt
from PySide6.QtGui import QKeyEvent, QShowEvent
from PySide6.QtWidgets import QGridLayout, QLabel, QLineEdit, QMenu, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from wisecompass.desk.asking import Asking
from wisecompass.desk.ledger import Row, RowKind, Rows
from wisecompass.desk.session import Session
from wisecompass.desk.theme import UNIT, Theme
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.givens import Form, Listed, split_list
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import measured, number_text

if TYPE_CHECKING:
    from wisecompass.drafting.tracing import Numeric
    from wisecompass.judgement.sensitivity import Carried, Slope
    from wisecompass.judgement.wishes import Turned

TOLERANCE = Fraction(1, 2)
"""What a workshop mostly lets pass on every given, mm and degrees."""

DIGITS = 15
"""Figures of a value that is taken into the brief."""


class Chooser(QToolButton):
    """One of several names, each with its words; a press shows all, arrow keys go from one to the next."""

    def __init__(self, words: str) -> None:
        super().__init__()
        self.words, self.items, self.chosen = words, list[tuple[str, str]](), ""
        self.setObjectName("chooser")
        self.setToolTip(words)
        self.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.setMenu(QMenu(self))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)

    def offer(self, items: list[tuple[str, str]]) -> None:
        """Show other names, of which the one chosen stays if it is among them."""
        self.items = items
        menu = self.menu()
        menu.clear()
        for words, name in items:
            menu.addAction(words).triggered.connect(lambda _=False, name=name: self.choose(name))
        if not self.choose(self.chosen) and items:
            self.choose(items[0][1])

    def choose(self, name: str) -> bool:
        """Take a name, if it is offered."""
        words = next((words for words, each in self.items if each == name), None)
        if words is None:
            return False
        self.chosen = name
        self.setText(f"{words} ▾")
        self.setAccessibleName(f"{self.words}: {words}")
        return True

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        way = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)
        if way and self.items:
            names = [name for _, name in self.items]
            self.choose(names[(names.index(self.chosen) + way) % len(names)])
        else:
            super().keyPressEvent(event)

    def minimumSizeHint(self) -> QSize:  # noqa: N802
        return QSize(60, super().minimumSizeHint().height())


class Depends(QWidget):
    """A question turned round above its answer, and the slopes."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        grid = QGridLayout()
        grid.setContentsMargins(2 * UNIT, UNIT, UNIT, UNIT // 2)
        grid.setHorizontalSpacing(UNIT)
        grid.setVerticalSpacing(4)
        self.finding = Chooser("the answer that should be another")
        self.wish = QLineEdit()
        self.wish.setObjectName("part")
        self.wish.setAccessibleName("what the answer should be; Enter looks for it")
        self.wish.setPlaceholderText("type it, Enter")
        self.wish.returnPressed.connect(self.ask)
        self.given = Chooser("the number that may give way")
        self.limits = QLineEdit()
        self.limits.setObjectName("part")
        self.limits.setAccessibleName("between which limits it may give way, such as 10, 90; empty means its own")
        self.limits.setPlaceholderText("within its limits")
        self.limits.returnPressed.connect(self.ask)
        for row, (words, widget) in enumerate(
            (("", self.finding), ("should be", self.wish), ("by another", self.given), ("from, to", self.limits))
        ):
            if words:
                label = QLabel(words)
                label.setObjectName("quiet")
                grid.addWidget(label, row, 0)
                grid.addWidget(widget, row, 1)
            else:
                grid.addWidget(widget, row, 0, 1, 2)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        self.rows = DependsRows(session, theme)
        self.copied = self.rows.copied
        column.addWidget(self.rows, 1)
        self._asking = Asking(session, self.rows.show_turned, self.rows.show_refusal)
        self._names: tuple[object, ...] = ()
        for signal in (session.followed, session.certified):
            signal.connect(self._follow)
        self._follow()

    def showEvent(self, event: QShowEvent) -> None:  # noqa: N802
        super().showEvent(event)
        self._follow()

    def _follow(self) -> None:
        """What can be asked about the figure in hand."""
        if not self.isVisible() or self.session.empty or self.session.drawing is None:
            return
        answers = _numeric(self.session)
        givens = _givens(self.session)
        names = (self.session.place, tuple(answers), tuple(each.name for each in givens))
        if names == self._names:
            return
        self._names = names
        from wisecompass.judgement.asked import finding_words

        worded = self.session.conventions.worded
        for box, items in (
            (self.finding, [(worded(finding_words(name)), name) for name in answers]),
            (self.given, [(worded(each.words), each.name) for each in givens]),
        ):
            box.offer(items)
        self.rows.show_turned(None)

    def choose(self, finding: str) -> None:
        """Ask about an answer: what it should be is typed next."""
        if self.finding.choose(finding):
            self.wish.setFocus()
            self.wish.selectAll()

    def ask(self) -> None:
        """Have the values looked for; what cannot be read is said."""
        from wisecompass.drafting.tracing import kind_of
        from wisecompass.judgement.asked import finding_words, read_number

        finding, given = self.finding.chosen, self.given.chosen
        if not finding or not given or self.session.trouble is not None:
            return
        unit = self.session.conventions.units.value
        try:
            kind = kind_of(self.session.problem, finding)
            wish = read_number(self.wish.text(), finding_words(finding), kind, unit)
            limits = self._limits(given, unit)
        except WiseCompassError as reason:
            self.rows.show_refusal(str(reason))
            return
        self.rows.show_refusal("looking for values …")
        self._asking.ask("turn", given, finding, wish, limits)

    def _limits(self, given: str, unit: str) -> tuple[Fraction, Fraction] | None:
        from wisecompass.judgement.asked import read_number

        text = self.limits.text().strip()
        if not text:
            return None
        which = next(each for each in _givens(self.session) if each.name == given)
        kind = {"mm": Kind.LENGTH, "°": Kind.ANGLE}.get(which.unit, Kind.RATIO)
        ends = [read_number(piece, "limit", kind, unit) for piece in split_list(text)]
        if len(ends) != 2:
            from wisecompass.drafting.errors import BadGiven

            raise BadGiven(given, f"limits “{text}” are not two numbers; write them as 10, 90")
        return ends[0], ends[1]


def _numeric(session: Session) -> list[str]:
    """The answers that are numbers, of the figure as it was last proved."""
    certificate = session.certificate
    if certificate is None:
        return [name for name, kind in session.problem.findings.items() if kind not in (Kind.CHOICE, Kind.POINT)]
    found = []
    for answer in certificate.answers:
        if isinstance(answer.value, list):
            found += [f"{answer.name}:{k}" for k in range(1, len(answer.value) + 1)]
        elif isinstance(answer.value, float | int) and not isinstance(answer.value, bool):
            found.append(answer.name)
    return found


def _givens(session: Session) -> list[Numeric]:
    from wisecompass.drafting.tracing import numerics

    return numerics(session.problem, session.typed)


class DependsRows(Rows):
    """What came of the question, and the slopes; a click on a value takes it into the brief."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme)
        self.setAccessibleName("depends: values that bring an answer about, and what each given changes")
        self._turned: Turned | None = None
        self._refusal = ""
        self._slopes: tuple[dict[str, dict[str, Slope]], dict[str, Carried]] = ({}, {})
        self._of: object = None
        self._asking = Asking(session, self._take_slopes, lambda _: self._take_slopes(({}, {})))
        for signal in (session.followed, session.refused, session.certified):
            signal.connect(self.refresh)

    def showEvent(self, event: QShowEvent) -> None:  # noqa: N802
        super().showEvent(event)
        self.refresh()

    def show_turned(self, found: Turned | None) -> None:
        self._turned, self._refusal = found, ""
        self.refresh()

    def show_refusal(self, sentence: str) -> None:
        self._turned, self._refusal = None, sentence
        self.refresh()

    def _take_slopes(self, found: tuple[dict[str, dict[str, Slope]], dict[str, Carried]]) -> None:
        self._slopes = found
        self._show()

    def refresh(self, _step: int = 0) -> None:
        """Rows for the figure as it is; slopes are asked for when the proof is there, while the leaf is seen."""
        if not self.isVisible():
            return
        session = self.session
        if session.empty or session.drawing is None:
            self._slopes, self._turned, self._refusal = ({}, {}), None, ""
        elif session.certificate is not None and self._of is not session.certificate.answers and session.trouble is None:
            self._of = session.certificate.answers
            sizes = {each.name: TOLERANCE for each in _givens(session) if each.form is not Form.COUNT}
            self._asking.ask("depends", sizes)
        self._show()

    def _show(self) -> None:
        rows = [*self._turned_rows(), *self._slope_rows(), *self._carried_rows()]
        self.table.set_rows(self._worded(rows), self._painter.height)

    def _copy(self, index: QModelIndex) -> None:
        row = self.table.rows[index.row()]
        if row.kind is RowKind.VALUE and self._turned is not None:
            take(self.session, self._turned.given, row.copy)
            self.copied.emit(f"{row.left} {row.right} is in the brief")
        else:
            super()._copy(index)

    # ------------------------------------------------------------------------------------------------------- rows
    def _turned_rows(self) -> list[Row]:
        if self._refusal:
            return [Row(RowKind.NOTE, self._refusal)]
        asked = self._turned
        if asked is None or self.session.empty:
            return []
        from wisecompass.judgement.asked import said

        sentence = said(asked, self.session.problem, self.units)
        told = f"{sentence[:1].upper()}{sentence[1:]}."
        rows = [Row(RowKind.HEAD, "Turned round", "a click takes it"), Row(RowKind.NOTE, told)]
        for value in asked.values:
            number = float(value.ball.middle)
            shown = measured(number, asked.given.unit, self.units, 4)
            sure = "found by trial" if asked.searched else "proved"
            below = f"{sure}; it only just reaches it" if value.touching else sure
            rows.append(Row(RowKind.VALUE, asked.given.words, shown, below, typed_text(number)))
        if not asked.values and not asked.intervals and asked.nearest is not None:
            at, _ = asked.nearest
            shown = measured(at, asked.given.unit, self.units, 4)
            rows.append(Row(RowKind.VALUE, asked.given.words, shown, "the nearest that can be had", typed_text(at)))
        return rows

    def _slope_rows(self) -> list[Row]:
        slopes, _ = self._slopes
        if not slopes or self.session.empty or self.session.trouble is not None:
            return []
        from wisecompass.judgement.asked import finding_words

        problem = self.session.problem
        rows = []
        for which in _givens(self.session):
            unit = {"mm": "per mm", "°": "per degree"}.get(which.unit, "one more")
            own = []
            for name in _few(problem, slopes):
                slope = slopes[name].get(which.name)
                if slope is not None and (slope.value is None or slope.value.middle):
                    own.append(Row(RowKind.ANSWER, finding_words(name), self._change(slope, problem, name)))
            rows += [Row(RowKind.HEAD, which.words, unit), *own] if own else []
        return rows

    def _change(self, slope: Slope, problem: Problem, name: str) -> str:
        from wisecompass.drafting.tracing import kind_of

        unit = kind_of(problem, name).unit
        tail = unit if unit.startswith("°") or not unit else f" {unit}"
        if slope.value is None:
            sides = [float(each.middle) for each in (slope.below, slope.above) if each is not None]
            return " / ".join(signed(each) for each in sides) + tail
        return signed(float(slope.value.middle)) + tail

    def _carried_rows(self) -> list[Row]:
        _, within = self._slopes
        if not within or self.session.empty or self.session.trouble is not None:
            return []
        from wisecompass.drafting.tracing import kind_of
        from wisecompass.judgement.asked import finding_words

        problem = self.session.problem
        size = number_text(float(TOLERANCE))
        rows = [Row(RowKind.HEAD, "Tolerances", f"±{size} mm, ±{size}° each")]
        for name in _few(problem, within):
            unit = kind_of(problem, name).unit
            low, high = (measured(value, unit, self.units, 2) for value in (within[name].low, within[name].high))
            below = f"to {high}" + ("" if within[name].proved else ", as the slopes here say")
            rows.append(Row(RowKind.ANSWER, finding_words(name), low, below, f"{within[name].low!r} {within[name].high!r}"))
        return rows


MOST_SHOWN = 40
"""So many numbers of an answer that is a list are shown."""


def _few(problem: Problem, names: Any) -> Sequence[str]:
    from wisecompass.judgement.sensitivity import in_order

    return in_order(problem, list(names))[:MOST_SHOWN]


def signed(value: float) -> str:
    """A change with its sign, in four figures."""
    text = f"{value:+.4g}" if abs(value) < 1e5 else f"{value:+.3g}"
    return text.replace("-", "−")


def typed_text(value: float) -> str:
    """A value as it is typed into a brief."""
    return f"{value:.{DIGITS}g}"


def take(session: Session, which: Numeric, text: str) -> None:
    """Put a value into the brief, in mm or degrees whatever the folio's unit; of a list or point in its place."""
    if which.given.form.is_length:
        text = f"{text} mm"
    if which.place is not None:
        text = _in_its_place(session, which, text)
    session.set_givens({which.given.name: text})


def _in_its_place(session: Session, which: Numeric, text: str) -> str:
    """The text of a list, a point or the parts of a body with one of its numbers changed."""
    assert which.place is not None
    old, listed = session.given_text(which.given.name), session.typed[which.given.name]
    if which.given.form is not Form.PARTS:
        pieces = split_list(old)
        pieces[which.place - 1] = text
        return "; ".join(pieces)
    assert isinstance(listed, Listed)
    at = 0
    for k, item in enumerate(listed.items, 1):
        at = old.index(item.text, at)
        if k == which.place:
            return f"{old[:at]}{text.removesuffix(' mm')}{old[at + len(item.text) :]}"
        at += len(item.text)
    return old
