"""What the paper measures: a field for every figure that can be read off, the verdict on all of it, and on a click what was
drawn instead."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtCore import QModelIndex, Qt, Signal
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QLineEdit, QScrollArea, QToolButton, QVBoxLayout, QWidget

from wisecompass.desk.asking import Asking
from wisecompass.desk.ledger import Row, RowKind, Rows
from wisecompass.desk.session import Session
from wisecompass.desk.theme import UNIT, Theme, scaled
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.wording import measured as shown

if TYPE_CHECKING:
    from wisecompass.drafting.marks import Mark
    from wisecompass.judgement.prepared import Reading
    from wisecompass.service import Marked, Measurable

TOLERANCES = ("shop", "school")
TOLD = {"shop": "±0.5 mm and ±0.5° of paper", "school": "±2 mm and ±2° of paper"}

MOST_FIELDS = 24
"""So many figures have a field of their own; others are distances of letters picked on the sheet."""

FIELD, FIELDS = 27, 216
"""How high a field is, and how high all of them may stand before they scroll, px."""


class MeasuredLeaf(QWidget):
    """The fields above the verdict."""

    photograph_wanted = Signal()
    judged = Signal(object)
    """The verdict on what was measured; None for none."""
    drawn_instead = Signal(object)
    """Marks of a drawing with a mistake, in their blocks; None for none."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self._own: dict[str, str] | None = None
        self._own_of: object = None
        """What was typed for the figure in hand, and which that is."""
        self.fields: dict[str, QLineEdit] = {}
        self.units: dict[str, str] = {}
        """What each field is measured in."""
        self.tolerance = TOLERANCES[0]
        self.clicked: dict[str, Reading] = {}
        """The letters that were clicked on a photograph."""
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        line = QHBoxLayout()
        line.setContentsMargins(UNIT, UNIT // 2, UNIT, 0)
        self.passing: dict[str, QToolButton] = {}
        for name in TOLERANCES:
            button = QToolButton()
            button.setObjectName("leaf")
            button.setText(name)
            button.setCheckable(True)
            button.setChecked(name == self.tolerance)
            button.setAccessibleName(f"tolerance of a {name}: {TOLD[name]}")
            button.setToolTip(TOLD[name])
            button.clicked.connect(lambda _=False, name=name: self.set_tolerance(name))
            line.addWidget(button)
            self.passing[name] = button
        line.addStretch(1)
        photo = QToolButton()
        photo.setObjectName("add")
        photo.setText("photograph …")
        photo.setAccessibleName("lay a photograph of the sheet under the drawing")
        photo.setToolTip("PNG or JPEG: click the corners of the paper, then letters by name")
        photo.clicked.connect(self.photograph_wanted)
        line.addWidget(photo)
        column.addLayout(line)
        self._held = QWidget()
        self.grid = QGridLayout(self._held)
        self.grid.setContentsMargins(2 * UNIT, 4, UNIT, 4)
        self.grid.setHorizontalSpacing(UNIT)
        self.grid.setVerticalSpacing(3)
        self.grid.setColumnStretch(0, 1)
        self.area = QScrollArea()
        self.area.setObjectName("parts")
        self.area.setWidgetResizable(True)
        self.area.setFrameShape(QScrollArea.Shape.NoFrame)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setWidget(self._held)
        column.addWidget(self.area)
        self.rows = VerdictRows(session, theme)
        self.rows.chosen.connect(self._show_instead)
        self.copied = self.rows.copied
        column.addWidget(self.rows, 1)
        self._names = Asking(session, self._take_names, self.rows.refuse)
        self._verdict = Asking(session, self._take_verdict, self.rows.refuse)
        self._instead = Asking(session, self._take_instead, lambda _: self._take_instead(None))
        self._of: object = None
        for signal in (session.certified, session.followed):
            signal.connect(self._follow)
        session.figure_changed.connect(self._leave)
        session.readings_kept.connect(self._kept)

    # ----------------------------------------------------------------------------------------------------- fields
    @property
    def _key(self) -> tuple[object, ...]:
        if self.session.empty:
            return ()
        return id(self.session.work.history), self.session.place, self.session.figure.name, self.session.figure.problem

    @property
    def own(self) -> dict[str, str]:
        """What was typed for the figure in hand, at first what its folio has of it."""
        if self._own is None or self._own_of != self._key:
            kept = {} if self.session.empty else self.session.folio.readings.get(self.session.figure.name, {})
            self._own, self._own_of = dict(kept), self._key
        return self._own

    def _kept(self) -> None:
        """Readings were put down, taken away because other numbers are asked for, or brought back by undoing that."""
        if self.session.empty or not self.session.figure.name:
            return
        kept = self.session.folio.readings.get(self.session.figure.name, {})
        if kept != {name: text.strip() for name, text in self.own.items() if text.strip()}:
            self._own = None
            self._of = None
            for name, field in self.fields.items():
                field.setText(kept.get(name, ""))
            self.judge()

    def showEvent(self, event: QShowEvent) -> None:  # noqa: N802
        super().showEvent(event)
        self._follow()

    def hideEvent(self, event: object) -> None:  # noqa: N802
        self.drawn_instead.emit(None)

    def _leave(self) -> None:
        self._of, self.clicked = None, {}
        self.rows.show_marked(None)
        self.drawn_instead.emit(None)

    def _follow(self) -> None:
        """Have what can be measured found, once the figure is proved and while somebody looks."""
        self._kept()
        session = self.session
        if not self.isVisible() or session.empty or session.certificate is None or session.trouble is not None:
            return
        if self._of is not session.certificate.answers:
            self._of = session.certificate.answers
            self._names.ask("measurable")

    def _take_names(self, found: list[Measurable]) -> None:
        from wisecompass.judgement.asked import finding_words

        while (item := self.grid.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.hide()
                widget.setParent(None)
                widget.deleteLater()
        self.fields = {}
        pairs = [name for name in self.own if "-" in name]
        units = self.units = {each.name: each.unit for each in found}
        worded = self.session.conventions.worded
        for row, name in enumerate([*(each.name for each in found[:MOST_FIELDS]), *pairs]):
            label = QLabel(worded(finding_words(name)))
            label.setWordWrap(True)
            field = QLineEdit(self.own.get(name, ""))
            field.setObjectName("part")
            field.setAccessibleName(f"measured {finding_words(name)}")
            field.setPlaceholderText(units.get(name, "mm") or "measured")
            field.setFixedWidth(scaled(92))
            field.setAlignment(Qt.AlignmentFlag.AlignRight)
            field.editingFinished.connect(self.judge)
            self.grid.addWidget(label, row, 0)
            self.grid.addWidget(field, row, 1)
            self.fields[name] = field
        self.area.setFixedHeight(min(len(self.fields) * scaled(FIELD) + UNIT, scaled(FIELDS)))
        if not self.fields:
            self.rows.refuse("Nothing on this sheet can be judged by measuring: no answer of it strays.")
        self.judge()

    def add_pair(self, first: str, second: str) -> None:
        """A field for the distance of two letters that were picked on the sheet."""
        self.own.setdefault(f"{first}-{second}", "")
        self._names.ask("measurable")

    def take_reading(self, mm: float) -> str:
        """A reading of a caliper, in mm of paper, into the field in hand, or the first that is empty; the next field is then
        in hand. A sentence where it goes nowhere."""
        page = self.session.page
        lengths = [name for name in self.fields if self.units.get(name, "mm") == "mm"]
        if page is None or not lengths:
            return "no length can be measured here"
        hand = next((name for name, field in self.fields.items() if field.hasFocus()), None)
        if hand is not None and hand not in lengths:
            return f"a caliper measures lengths, and this field wants {self.units[hand]}"
        name = hand or next((each for each in lengths if not self.fields[each].text().strip()), lengths[-1])
        true = abs(mm) / float(page.scale)
        self.fields[name].setText(f"{true:.2f} mm" if self.session.conventions.units is not Units.MM else f"{true:.2f}")
        after = lengths[lengths.index(name) + 1 :]
        if after:
            self.fields[after[0]].setFocus()
            self.area.ensureWidgetVisible(self.fields[after[0]])
        self.judge()
        return ""

    def set_clicked(self, found: dict[str, Reading] | None) -> None:
        """Judge the letters that were clicked on a photograph with what is typed."""
        self.clicked = found or {}
        self.judge()

    def set_tolerance(self, name: str) -> None:
        self.tolerance = name
        for each, button in self.passing.items():
            button.setChecked(each == name)
        self.judge()

    # ---------------------------------------------------------------------------------------------------- verdict
    def judge(self) -> None:
        """Have what is typed judged, if anything is."""
        self.own.update({name: field.text() for name, field in self.fields.items()})
        typed = {name: text for name, text in self.own.items() if text.strip() and name in self.fields}
        self.session.keep_readings({name: text.strip() for name, text in self.own.items() if text.strip()})
        self.drawn_instead.emit(None)
        if not typed and not self.clicked:
            self.rows.show_marked(None)
            self.judged.emit(None)
            return
        self._verdict.ask("judge", typed, self.tolerance, self.session.conventions.units.value, self.clicked)

    def _take_verdict(self, marked: Marked) -> None:
        self.rows.show_marked(marked)
        self.judged.emit(marked)

    def _show_instead(self, fork: object) -> None:
        if fork is None:
            self.drawn_instead.emit(None)
        else:
            self._instead.ask("instead", fork)

    def _take_instead(self, marks: list[Mark] | None) -> None:
        self.drawn_instead.emit(marks)


class VerdictRows(Rows):
    """The verdict, each figure, what else it may be; a click on a mistake shows its drawing, one on a step goes there."""

    chosen = Signal(object)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme)
        self.setAccessibleName("verdict on what was measured")
        self._marked: Marked | None = None
        self._refusal = ""
        self.fork: int | None = None

    def show_marked(self, marked: Marked | None) -> None:
        self._marked, self._refusal, self.fork = marked, "", None
        self._show()

    def refuse(self, sentence: str) -> None:
        self._marked, self._refusal = None, sentence
        self._show()

    def _show(self) -> None:
        self.table.set_rows(self._worded(self._rows_now()), self._painter.height)

    def _rows_now(self) -> list[Row]:
        if self._refusal:
            return [Row(RowKind.NOTE, self._refusal)]
        if self._marked is None:
            return [Row(RowKind.NOTE, "Type what the paper shows: 25.3, or 25.3 ± 0.5 with how well it could be read.")]
        from wisecompass.judgement.asked import finding_words

        verdict = self._marked.verdict
        said = verdict.said
        good = verdict.kind == "within"
        rows = [Row(RowKind.HEAD, "Verdict"), Row(RowKind.CHECK if good else RowKind.NOTE, f"{said[:1].upper()}{said[1:]}.")]
        if verdict.wild:
            names = ", ".join(map(finding_words, verdict.wild))
            rows.append(Row(RowKind.NOTE, f"{names} magnifies a hair here: it says nothing of the drawing."))
        letters = {name.rsplit(".", 1)[0] for name in verdict.measured if name.endswith((".x", ".y"))}
        if letters:
            rows.append(Row(RowKind.NOTE, f"{len(letters)} letters were clicked; where the figure lies does not count."))
        for name, one in verdict.measured.items():
            if name.endswith((".x", ".y")):
                continue
            unit = self._marked.units[name]
            hand = "within" if one.within else "beyond"
            kept = "passes" if self._marked.passes[name] else "fails"
            off = one.value - one.true
            below = f"off by {shown(abs(off), unit, self.units, 2)}, {hand} hand error"
            rows.append(Row(RowKind.ANSWER, finding_words(name), shown(one.value, unit, self.units, 2), below, hand=kept))
        rows.append(Row(RowKind.HEAD, "What it may be", "of 100"))
        for cause in verdict.causes[:6]:
            if cause.share >= 0.01:
                words = f"{cause.words[:1].upper()}{cause.words[1:]}"
                below = "a click shows what was drawn instead" if cause.fork is not None else ""
                link, share = "" if cause.fork is None else str(cause.fork), f"{100 * cause.share:.0f}"
                rows.append(Row(RowKind.STEP, words, share, below, link=link, step=cause.step, share=cause.share))
        return rows

    def _copy(self, index: QModelIndex) -> None:
        row = self.table.rows[index.row()]
        if row.link:
            self.fork = None if self.fork == int(row.link) else int(row.link)
            self.chosen.emit(self.fork)
        elif row.step:
            self.session.go_to(row.step)
        else:
            super()._copy(index)

    def _worded(self, rows: list[Row]) -> list[Row]:
        worded = self.session.conventions.worded
        return [replace(row, left=worded(row.left)) for row in rows]
