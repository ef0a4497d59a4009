"""The brief: the problem as a sentence whose numbers are edited where they stand, and the methods under it."""

from __future__ import annotations

import re

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics, QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QToolButton, QVBoxLayout, QWidget

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import Expression
from wisecompass.arithmetic.linked import has_link
from wisecompass.desk.brief_number import LINE, NumberField
from wisecompass.desk.flow import FlowLayout
from wisecompass.desk.method_tag import MethodTag
from wisecompass.desk.parts_list import PartsList
from wisecompass.desk.saying import say
from wisecompass.desk.session import Session
from wisecompass.desk.showing import show_where
from wisecompass.desk.slide import Slide
from wisecompass.desk.theme import UNIT, Theme, interface_font, scaled
from wisecompass.desk.ways import WaysLine, WaysTable
from wisecompass.drafting.errors import BadGiven, Infeasible
from wisecompass.drafting.givens import Form, Given
from wisecompass.drafting.reckoning import reckoned_words
from wisecompass.drafting.recorder import ASKED
from wisecompass.drafting.wording import measured
from wisecompass.folio.fit import beginnings
from wisecompass.folio.links import offered
from wisecompass.judgement.worth import Worth


class ChoiceWord(QPushButton):
    """A word in the sentence that turns over to the next choice when pressed."""

    edited = Signal(str, str)

    def __init__(self, given: Given, word: str, more: tuple[str, ...] = ()) -> None:
        super().__init__(word.replace("_", " "))
        self.given, self.word = given, word
        self.choices = (*given.choices, *more)
        self.setObjectName("choice")
        self.setFont(interface_font(19, strong=True))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(f"{given.words}: {word}")
        self.setToolTip(f"{given.words}: press to turn over ({', '.join(self.choices).replace('_', ' ')})")
        self.clicked.connect(lambda: self.turn(1))

    def sizeHint(self) -> QSize:  # noqa: N802
        return QSize(QFontMetrics(self.font()).horizontalAdvance(self.text()) + 10, scaled(LINE))

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.turn(1 if event.key() == Qt.Key.Key_Up else -1)
            return
        super().keyPressEvent(event)

    def turn(self, way: int) -> None:
        word = self.choices[(self.choices.index(self.word) + way) % len(self.choices)]
        if word in self.given.choices:
            self.set_word(word)
        self.edited.emit(self.given.name, word)

    def set_word(self, word: str) -> None:
        if word == self.word and self.text():
            return
        self.word = word
        self.setText(word.replace("_", " "))
        self.setAccessibleName(f"{self.given.words}: {word}")
        self.updateGeometry()


class WishWord(QPushButton):
    """A part of the construction that is drawn, or left out when pressed."""

    def __init__(self, name: str, session: Session) -> None:
        super().__init__()
        self.name, self.session = name, session
        self.setObjectName("wish")
        self.setFont(interface_font(15, strong=True))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(lambda: session.set_wish(name, name in session.figure.left_out))
        self.refresh()

    def refresh(self) -> None:
        """Say how it stands."""
        words = self.name.removeprefix(ASKED)
        left_out = (self.name in self.session.figure.left_out) is (words == self.name)
        text = f"{'without' if left_out else 'with'} {words}"
        if text != self.text():
            self.setText(text)
            self.setAccessibleName(text)
            self.setToolTip(f"press to {'draw' if left_out else 'leave out'} the {words}")

    def sizeHint(self) -> QSize:  # noqa: N802
        return QSize(QFontMetrics(self.font()).horizontalAdvance(self.text()) + 14, scaled(LINE))


class Brief(QWidget):
    """Sentence, reason where it does not work, and methods."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.setAccessibleName("brief")
        self.session, self.theme = session, theme
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.fields: dict[str, NumberField | ChoiceWord | PartsList] = {}
        self.tails: dict[str, tuple[QLabel, Given, str]] = {}
        self.wishes: list[WishWord] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(2 * UNIT, UNIT, 2 * UNIT, UNIT)
        column.setSpacing(UNIT // 2)
        self.sentence = QWidget()
        self.sentence_flow = FlowLayout(self.sentence, gap=0, leading=4)
        self.reason = QLabel()
        self.reason.setObjectName("reason")
        self.reason.setWordWrap(True)
        self.reason.hide()
        self.counts = QLabel()
        self.counts.setObjectName("quiet")
        self.counts.setWordWrap(True)
        self.slide = Slide(session, theme)
        self.slide_words = QLabel("slides the ringed point of the curve")
        self.slide_words.setObjectName("quiet")
        column.addWidget(self.sentence)
        self.offer = QToolButton()
        self.offer.setText("Take what works")
        self.offer.setObjectName("offer")
        self.offer.setToolTip("take the nearest that works  Ctrl+Return")
        self.offer.clicked.connect(session.take_offer)
        self.offer.hide()
        refusal = QHBoxLayout()
        refusal.addWidget(self.reason, 1)
        refusal.addWidget(self.offer, 0, Qt.AlignmentFlag.AlignTop)
        column.addLayout(refusal)
        row = QHBoxLayout()
        row.setSpacing(2 * UNIT)
        self.line, self.table = WaysLine(theme), WaysTable(theme)
        self.line.unfolded.connect(self._unfold)
        self.table.chosen.connect(self._choose)
        self.table.hide()
        self.turner = _Turner(session)
        row.addWidget(self.line)
        row.addStretch(1)
        row.addWidget(self.slide)
        row.addWidget(self.slide_words)
        row.addWidget(self.turner)
        column.addLayout(row)
        column.addWidget(self.table)
        column.addWidget(self.counts)
        session.figure_changed.connect(self.rebuild)
        session.followed.connect(self.refresh)
        session.covered.connect(self._count_beforehand)
        session.refused.connect(self.refresh)
        session.certified.connect(self.show_worths)
        session.relettered.connect(self._count_beforehand)  # while somebody types nobody knows the acts of the steps
        self.rebuild()

    def rebuild(self) -> None:
        """Set the sentence of another problem."""
        _clear(self.sentence_flow)
        self.fields, self.tails, self.wishes = {}, {}, []
        if self.session.empty:
            self._worded = self._sentence()
            nothing = "Nothing stands on this sheet yet. Pick a problem at the left, or search with Ctrl+K."
            kept = "This figure is kept as it came: its problem is not one of those at the left."
            self._words(kept if self.session.sheet.figures else nothing)
            self.show_worths()
            self.refresh()
            return
        givens = {item.name: item for item in self.session.problem.given_list}
        self._worded = self._sentence()
        for piece in re.split(r"(\{\w+\}[.,;:]?)", self._worded):
            match = re.fullmatch(r"\{(\w+)\}([.,;:]?)", piece)
            if match is None:
                self._words(piece)
            else:
                self._field(givens[match[1]], match[2])
        self.table.set_count(len(self.session.problem.methods))
        if len(self.session.problem.methods) < 2:
            self.line.others.setChecked(False)
        self.show_worths()
        self.refresh()

    def _sentence(self) -> str:
        """The sentence with the words that are chosen in it, in the words of the folio's school."""
        session = self.session
        if session.empty:
            return ""
        choices = [item.name for item in session.problem.given_list if item.form is Form.CHOICE]
        return session.conventions.worded(session.problem.sentence({name: session.given_text(name) for name in choices}))

    def first_field(self) -> QWidget | None:
        return next(iter(self.fields.values()), None)

    def _words(self, text: str) -> None:
        for word in text.split(" "):
            if word:
                label = QLabel(f"{word} ")
                label.setObjectName("sentence")
                label.setFont(interface_font(19))
                label.setFixedHeight(scaled(LINE))
                self.sentence_flow.addWidget(label)

    def _field(self, item: Given, stop: str) -> None:
        text = self.session.given_text(item.name)
        field: NumberField | ChoiceWord | PartsList
        if item.form is Form.PARTS:
            field = PartsList(item, text)
            field.entered.connect(lambda part: self.session.point_at(part=part))
        else:
            kin = tuple(each.word for each in self.session.problem.kin if each.given == item.name)
            field = ChoiceWord(item, text, kin) if item.form is Form.CHOICE else NumberField(item, text)
            if isinstance(field, NumberField):
                field.name_begun.connect(lambda field=field: self._offer_links(field))
        field.edited.connect(self.session.set_given)
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(field)
        tail = QLabel(f"{self._unit_after(item, text)}{stop} ")
        tail.setObjectName("sentence")
        tail.setFont(interface_font(19))
        tail.setFixedHeight(scaled(LINE))
        row.addWidget(tail)
        self.sentence_flow.addWidget(holder)
        self.fields[item.name] = field
        self.tails[item.name] = (tail, item, stop)

    def _show_wishes(self) -> None:
        """At the end of the sentence what may be left out."""
        drawing = self.session.drawing
        wanted = drawing.wishes if drawing is not None and not self.session.empty else []
        if [word.name for word in self.wishes] != wanted:
            for word in self.wishes:
                self.sentence_flow.removeWidget(word)
                _drop(word)
            self.wishes = [WishWord(name, self.session) for name in wanted]
            for word in self.wishes:
                self.sentence_flow.addWidget(word)
        for word in self.wishes:
            word.refresh()

    def _offer_links(self, field: NumberField) -> None:
        """While a name is typed the answers of other figures are offered that are such a quantity."""
        session = self.session
        if not session.empty and field.given.form is not Form.COUNT:
            field.offer_links(offered(session.folio, session.figure, field.given.form.dimension))

    def _linked(self, name: str, text: str) -> str:
        """How a number reads that is led to another figure; nothing of others, or where it leads nowhere."""
        value = self._expression(name) if has_link(text) else None
        return value.said if value is not None else ""

    def _expression(self, name: str) -> Expression | None:
        """A number of the figure in hand as it was read; None while what is typed does not work."""
        drawing, session = self.session.drawing, self.session
        if drawing is None or session.trouble is not None or drawing.problem.id != session.figure.problem:
            return None
        value = drawing.typed.get(name)
        return value if isinstance(value, Expression) else None

    def _unit_after(self, item: Given, text: str) -> str:
        """The unit said after a field: nothing where the drafter has typed one, or after the parts of a body; after a link
        its value."""
        if has_link(text):
            value = self._expression(item.name)
            if value is None or not value.linked:
                return ""
            units = self.session.folio.conventions.units
            return f" ({measured(float(value.evaluate(PLAIN)), item.form.unit, units, 2)})"
        if item.form is Form.PARTS:
            return ""
        if re.search(r"(mm|cm|m|in|ft|\"|°|deg)\s*$", text):
            return ""
        return {"mm": f" {self.session.folio.conventions.units}", "°": "°"}.get(item.form.unit, "")

    def _choose(self, name: str) -> None:
        self.session.set_method(name)
        self.show_worths()

    def refresh(self) -> None:
        """Follow the session: numbers as typed, those that do not work underlined, the reason below."""
        if self._worded != self._sentence():
            held = next((name for name, field in self.fields.items() if field.hasFocus()), "")
            self.rebuild()
            if held in self.fields:
                self.fields[held].setFocus()
            return
        self._show_wishes()
        troubled = self.session.troubled_givens()
        for name, field in self.fields.items():
            text = self.session.given_text(name)
            if isinstance(field, ChoiceWord):
                field.set_word(text)
            else:
                if isinstance(field, NumberField):
                    field.show_given(text, self._linked(name, text))
                elif field.text() != text:
                    field.setText(text)
                field.mark(name in troubled)
                field.setAccessibleDescription(str(self.session.trouble) if name in troubled else "")
            tail, item, stop = self.tails[name]
            said = f"{self._unit_after(item, text)}{stop} "
            if said != tail.text():
                tail.setText(said)
        self.setAccessibleDescription(self._spoken())
        self._count_beforehand()
        show_where(self.slide_words, self.slide.serves)
        trouble = self.session.trouble
        reason = _sentence(self.session.conventions.worded(str(trouble))) if trouble else ""
        if reason != self.reason.text():
            self.reason.setText(reason)
            self.reason.setVisible(trouble is not None)
            if reason:
                say(self, reason)
        offered = isinstance(trouble, BadGiven | Infeasible) and bool(trouble.offer)
        if offered != self.offer.isVisibleTo(self):
            self.offer.setVisible(offered)
        self.show_worths()
        self.turner.refresh()

    def _spoken(self) -> str:
        """The brief as one sentence, as it was when it last admitted a figure."""
        drawing = self.session.drawing
        return "" if drawing is None else self.session.conventions.worded(drawing.problem.spoken(drawing.typed))

    def _count_beforehand(self) -> None:
        """What is counted before the first step; it stands as it was while the givens admit no figure."""
        drawing = self.session.drawing
        said: list[str] = []
        if drawing is not None:
            cover, units = self.session.cover, self.session.conventions.units
            if cover is None:
                said = [drawing.problem.reckoned(drawing.typed), reckoned_words(drawing.steps, units)]
            else:
                said = [reckoned_words(drawing.steps[: cover.settings], units)]
        counted = " ".join(filter(None, [*said, *self._begins(), self.session.advice]))
        if counted != self.counts.text():
            self.counts.setText(counted)
        show_where(self.counts, bool(counted))

    def _begins(self) -> list[str]:
        """Where a figure that shares its sheet begins there."""
        drawing, page = self.session.drawing, self.session.page
        if drawing is None or page is None or page.cell is None:
            return []
        first = beginnings(drawing, page)[:1]
        return [f"Begin: {each}." for each in first]

    def show_worths(self) -> None:
        """The methods with their worth, the best for these numbers first once they have been judged."""
        self._count_beforehand()
        self.line.setVisible(not self.session.empty)
        if self.session.empty:
            self.line.others.setChecked(False)
            return
        worths = self.session.worths
        if {one.method.name for one in worths} != {method.name for method in self.session.problem.methods}:
            worths = [Worth(method, "", True) for method in self.session.problem.methods]
        chosen = self.session.figure.method
        self.line.show_ways(worths, chosen)
        self.table.show_ways(worths, chosen)

    @property
    def tags(self) -> list[MethodTag]:
        """The ways in their order, best first once they are judged."""
        return self.table.tags

    def _unfold(self, wanted: bool) -> None:
        self.table.setVisible(wanted)
        self.show_worths()


class _Turner(QWidget):
    """Turns through the solutions where there are several."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        self.back, self.label, self.on = QToolButton(), QLabel(), QToolButton()
        self.back.setText("←")
        self.on.setText("→")
        self.back.setAccessibleName("previous solution")
        self.on.setAccessibleName("next solution")
        self.back.clicked.connect(lambda: self.turn(-1))
        self.on.clicked.connect(lambda: self.turn(1))
        for widget in (self.back, self.label, self.on):
            row.addWidget(widget)
        self.refresh()

    def refresh(self) -> None:
        drawing = self.session.drawing
        count = drawing.solutions if drawing else 1
        show_where(self, count > 1)
        if not self.session.empty:
            self.label.setText(f"solution {self.session.figure.solution} of {count}")

    def turn(self, way: int) -> None:
        drawing = self.session.drawing
        if drawing is not None and drawing.solutions > 1:
            self.session.set_solution((self.session.figure.solution - 1 + way) % drawing.solutions + 1)


def _sentence(text: str) -> str:
    return text[:1].upper() + text[1:] + "."


def _clear(layout: FlowLayout) -> None:
    while (item := layout.takeAt(0)) is not None:
        widget = item.widget()
        if widget is not None:
            _drop(widget)


def _drop(widget: QWidget) -> None:
    """Take a widget away for good: hidden first, for one that was just laid in is still to be shown."""
    widget.hide()
    for field in (widget, *widget.findChildren(NumberField)):
        if isinstance(field, NumberField):
            field.forget_links()
    widget.setParent(None)
    widget.deleteLater()
