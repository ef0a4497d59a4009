"""What a hand can hope for: how near it comes to each answer on this sheet, which steps cost most, what would help, what
each way keeps to, and what people get wrong."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtCore import QModelIndex
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QToolButton, QVBoxLayout, QWidget

from wisecompass.desk.asking import Asking
from wisecompass.desk.ledger import Row, RowKind, Rows
from wisecompass.desk.session import Session
from wisecompass.desk.theme import UNIT, Theme
from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.answers import Answer
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import measured, number_text
from wisecompass.folio.scales import scale_text

if TYPE_CHECKING:
    from wisecompass.judgement.hands import Reach
    from wisecompass.judgement.helps import Help

SKILLS = ("steady", "ordinary", "rough")

MOST_OF_A_SLIP = 3
"""Figures shown of one slip: enough to recognise it by."""

MOST_STEPS = 5
"""Steps shown of a budget."""

FAILS = 0.005
"""Hands that cannot draw a figure are told of from this share on."""


class HandLeaf(QWidget):
    """Whose hand it is, above what it keeps to."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        line = QHBoxLayout()
        line.setContentsMargins(UNIT, UNIT // 2, UNIT, 0)
        line.setSpacing(2)
        self.skills: dict[str, QToolButton] = {}
        for skill in SKILLS:
            button = QToolButton()
            button.setObjectName("leaf")
            button.setText(skill)
            button.setCheckable(True)
            button.setAccessibleName(f"a {skill} hand")
            button.setToolTip(f"what a {skill} hand keeps to")
            button.clicked.connect(lambda _=False, skill=skill: self.set_hand(skill))
            line.addWidget(button)
            self.skills[skill] = button
        self.learned: Callable[[], str] = lambda: ""
        """What the logbook says of the hand, as it is typed."""
        self.mine = QToolButton()
        self.mine.setObjectName("leaf")
        self.mine.setText("mine")
        self.mine.setAccessibleName("my hand, as the logbook knows it")
        self.mine.setToolTip("my hand, as the logbook knows it from what was measured")
        self.mine.clicked.connect(self.take_learned)
        line.addWidget(self.mine)
        self.own = QLineEdit()
        self.own.setObjectName("part")
        self.own.setPlaceholderText("own: compass=0.2, protractor=0.3")
        self.own.setAccessibleName("your own hand: what its parts stray")
        self.own.setToolTip(
            "standard deviations in mm, of the protractor in degrees, such as needle=0.1, compass=0.2, straightedge=0.1, "
            "protractor=0.3, scale=0.15; Enter takes them"
        )
        self.own.returnPressed.connect(lambda: self.set_hand(self.own.text()))
        line.addStretch(1)
        column.addLayout(line)
        below = QHBoxLayout()
        below.setContentsMargins(2 * UNIT, 0, UNIT, 0)
        below.addWidget(self.own)
        column.addLayout(below)
        self.rows = HandRows(session, theme)
        self.copied = self.rows.copied
        column.addWidget(self.rows, 1)
        session.followed.connect(self._follow)
        self._follow()

    @property
    def table(self) -> object:
        return self.rows.table

    def refresh(self) -> None:
        self.rows.refresh()

    def take_learned(self) -> None:
        """Take the hand that the logbook has learned; where it knows too little that is said."""
        found = self.learned()
        if found:
            self.set_hand(found)
        else:
            self.session.noticed.emit("the logbook knows too little of your hand: write down what you measure (Ctrl+B)")
            self._follow()

    def set_hand(self, text: str) -> None:
        """Take another hand for the folio; what is none is said, and the hand stays."""
        from wisecompass.judgement.hands import read_hand

        text = text.strip()
        try:
            read_hand(text)
        except WiseCompassError as reason:
            self.session.noticed.emit(str(reason))
            self._follow()
            return
        if text != self.session.folio.conventions.hand:
            self.session.set_conventions(hand=text)
        self._follow()

    def _follow(self) -> None:
        hand = self.session.folio.conventions.hand
        for skill, button in self.skills.items():
            button.setChecked(skill == hand)
        if not self.own.hasFocus():
            self.own.setText("" if hand in SKILLS else hand)


class HandRows(Rows):
    """The rows; a click on an answer opens its budget, one on a step goes there."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme)
        self.setAccessibleName("by hand: what a hand keeps to, which steps cost most, and slips")
        self.opened = ""
        self.helps: tuple[str, list[Help]] = ("", [])
        self._asking = Asking(session, self._take_helps, lambda _: self._take_helps([]))
        for signal in (session.followed, session.refused, session.certified):
            signal.connect(self.refresh)
        session.figure_changed.connect(self._close)
        self.refresh()

    def refresh(self, _step: int = 0) -> None:
        """Rows for what the session has now; nothing is worked out while the leaf is not seen."""
        if not self.isVisible():
            return
        certificate = self.session.certificate
        answers = {answer.name: answer for answer in certificate.answers} if certificate is not None else {}
        rows = [*self._reach_rows(), *self._way_rows(), *self._slip_rows(answers)]
        self.table.set_rows(self._worded(rows), self._painter.height)

    def showEvent(self, event: QShowEvent) -> None:  # noqa: N802
        super().showEvent(event)
        self.refresh()

    def _close(self) -> None:
        self.opened, self.helps = "", ("", [])
        self._asking.forget()

    def _copy(self, index: QModelIndex) -> None:
        row = self.table.rows[index.row()]
        if row.step:
            self.session.go_to(row.step)
        elif row.link:
            self.open("" if row.link == self.opened else row.link)
        else:
            super()._copy(index)

    def open(self, name: str) -> None:
        """Show the budget of an answer, and have found what would help."""
        self.opened, self.helps = name, ("", [])
        if name:
            self._asking.ask("helps", name)
        self.refresh()

    def _take_helps(self, found: list[Help]) -> None:
        self.helps = (self.opened, found)
        self.refresh()

    # ------------------------------------------------------------------------------------------------------- rows
    def _reach_rows(self) -> list[Row]:
        """How near the hand comes to each answer; under the one that is opened its steps, the worst first."""
        page, reaches = self.session.page, self.session.reaches
        if not reaches or page is None or self.session.trouble is not None:
            return []
        rows = [Row(RowKind.HEAD, "95 of 100 hands keep to", f"drawn {scale_text(page.scale)}")]
        for name, found in reaches.items():
            unit = self._kind(name).unit
            below = []
            if found.failed > FAILS:
                below.append(f"{number_text(100 * found.failed, 1)} of 100 cannot draw it")
            if found.wild:
                below.append("it magnifies a hair")
            if name != self.opened and found.blame and not below:
                step, share = found.blame[0]
                below.append(f"{100 * share:.0f} % of it at step {step}")
            text = ", ".join(below)
            rows.append(Row(RowKind.ANSWER, self._said(name), self.about(found.reach, unit), text, link=name))
            if name == self.opened:
                rows += self._budget_rows(found, unit)
        return rows

    def _budget_rows(self, found: Reach, unit: str) -> list[Row]:
        drawing = self.session.drawing
        rows = []
        for step, share in found.blame[:MOST_STEPS]:
            told = "" if drawing is None or step > len(drawing.steps) else sentence(drawing.steps[step - 1])
            rows.append(Row(RowKind.STEP, f"Step {step}", f"{100 * share:.0f} %", told, step=step, share=share))
        if self.helps[0] == self.opened:
            for one in self.helps[1]:
                change = f"from {self.about(one.before, unit)} to {self.about(one.after, unit)}"
                rows.append(Row(RowKind.NOTE, f"{one.words[:1].upper()}{one.words[1:]}: {change}."))
            if not self.helps[1]:
                rows.append(Row(RowKind.NOTE, "Nothing that was tried brings it a tenth nearer."))
        return rows

    def _kind(self, name: str) -> Kind:
        return self.session.problem.findings.get(name.split(":")[0], Kind.LENGTH)

    def _said(self, name: str) -> str:
        whole, _, place = name.partition(":")
        return f"{answer_words(whole)}, no. {place}" if place else answer_words(whole)

    def _way_rows(self) -> list[Row]:
        """The ways, best first, each with how far its worst point strays for this hand."""
        page = self.session.page
        judged = [one for one in self.session.worths if one.miss is not None]
        if not judged or page is None or self.session.trouble is not None:
            return []
        rows = [Row(RowKind.HEAD, "Ways", "worst point strays")]
        for one in judged:
            assert one.miss is not None
            away = f"±{measured(one.miss, 'mm', self.units, 2)}"
            below = ", ".join(filter(None, ["best here" if one.best else "", one.words, f"{one.steps} steps"]))
            rows.append(Row(RowKind.ANSWER, one.method.name, away, below, repr(one.miss)))
        return rows

    def _slip_rows(self, answers: Mapping[str, Answer]) -> list[Row]:
        """The mistakes that people make with such a figure, and what their drawing would measure."""
        drawing = self.session.drawing
        if drawing is None or self.session.trouble is not None:
            return []
        rows = []
        for name, figures in drawing.problem.slip_figures(drawing.typed).items():
            changed = []
            for finding, value in figures.items():
                kind = drawing.problem.findings.get(finding, Kind.LENGTH)
                wrong = measured(value, kind.unit, self.units)
                true = answers[finding].value if finding in answers else None
                right = measured(true, kind.unit, self.units) if isinstance(true, float) else ""
                if wrong != right and math.isfinite(value):
                    changed.append(f"{answer_words(finding)} {wrong}" + (f" instead of {right}" if right else ""))
            if changed:
                figured = ", ".join(changed[:MOST_OF_A_SLIP])
                rows.append(Row(RowKind.NOTE, f"{name[:1].upper()}{name[1:]}. Then {figured}."))
        return [Row(RowKind.HEAD, "If you slip", "it would measure"), *rows] if rows else []

    def _worded(self, rows: list[Row]) -> list[Row]:
        worded = self.session.conventions.worded
        return [replace(row, left=worded(row.left), below=worded(row.below)) for row in rows]
