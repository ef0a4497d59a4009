"""What the window works on: the folio, the figure in hand, its drawing, its certificate, and the way back."""

from __future__ import annotations

from dataclasses import replace
from importlib import import_module
from pathlib import Path
from threading import Thread
from time import monotonic
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QUndoCommand, QUndoStack

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import Expression
from wisecompass.catalogue import problem
from wisecompass.desk.rest import Rest
from wisecompass.drafting.conventions import Conventions, Units
from wisecompass.drafting.errors import BadGiven, Infeasible, WiseCompassError
from wisecompass.drafting.givens import Form, Typed
from wisecompass.drafting.marks import Dot
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.recorder import Detail
from wisecompass.drafting.sliding import given_of, nearest, reach
from wisecompass.drafting.solve import Certificate, Drawing, certify, draw
from wisecompass.folio.document import Figure, Folio, PaperSize, Sheet
from wisecompass.folio.fit import advice
from wisecompass.folio.page import Page, Title, compose
from wisecompass.folio.print import read_scale, with_units
from wisecompass.judgement.worth import Worth, judge, ranked, worths

LETTER_AFTER, CERTIFY_AFTER, CLOSED_FORMS_AFTER, JUDGE_AFTER = 40, 0, 250, 500
"""Milliseconds of rest before letters find better places, before the proof is run, before closed forms are looked for and
before the methods are judged, one at a time; each after what comes before it, so that a key never waits for them all."""

MANY_LATER = 310
"""So much later begins the rest of a figure of many steps, whose lines and letters would be in the way of the next key."""

MANY_STEPS, VERY_MANY_STEPS = 60, 110
"""Of a figure with so many steps the construction lines follow what is typed only in the next pause, of one with very many
its points and letters too; what is lined in follows each key."""

LOAD_FAIRING_AFTER = 1500
"""Milliseconds of the first rest before the packages that fair a curve are loaded, so that the first curve need not wait."""

FOLLOW_WITHIN = 0.1
"""Seconds after which the rest of the desk follows even if keys come so fast that there is no time between them."""


class _Change(QUndoCommand):
    """A folio before and after; changes of the same given in a row melt into one."""

    def __init__(self, session: Session, after: Folio, place: tuple[int, int], words: str, melt: str) -> None:
        super().__init__(words)
        self.session, self.before, self.after, self.melt = session, session.folio, after, melt
        self.place_before, self.place_after = session.place, place

    def redo(self) -> None:
        self.session._adopt(self.after, self.place_after)

    def undo(self) -> None:
        self.session._adopt(self.before, self.place_before)

    def id(self) -> int:
        return 1 if self.melt else -1

    def mergeWith(self, other: QUndoCommand) -> bool:  # noqa: N802 - Qt's name
        if not isinstance(other, _Change) or other.melt != self.melt or not self.melt:
            return False
        if other.place_after != self.place_after:
            return False
        self.after = other.after
        return True


class Session(QObject):
    """The state of the desk. All changes go through ``set_*`` and can be undone."""

    figure_changed = Signal()
    """Another figure or problem is in hand."""
    drawn = Signal()
    """The drawing has changed: the sheet shows it at once."""
    followed = Signal()
    """What stands beside the sheet is to show what the session has: at once, and while somebody types as soon as the sheet
    has been painted."""
    refused = Signal()
    """The givens as typed admit no figure; ``trouble`` says why, the last drawing stands."""
    relettered = Signal()
    """Letters on the page have moved; the drawing is the same."""
    certified = Signal()
    stepped = Signal(int)
    folio_changed = Signal()
    noticed = Signal(str)

    def __init__(self, folio: Folio, path: Path | None = None, sheet: int = 0) -> None:
        super().__init__()
        self.folio, self.path = folio, path
        self.place = (sheet, 0)
        self.undo_stack = QUndoStack(self)
        self.pending: dict[str, str] = {}
        self.trouble: WiseCompassError | None = None
        self.drawing: Drawing | None = None
        self.page: Page | None = None
        self.certificate: Certificate | None = None
        self.worths: list[Worth] = []
        self.step = 1
        self.proving = False
        self._typing = False
        self.letters_wait = False
        """While somebody types letters go with their points; for better places, and those of new points, they wait."""
        self._detail = Detail.WHOLE
        self.advice = ""
        """What is to be said of the drawing scale and the paper, once there was time to look."""
        self.held = False
        """While something is dragged the figure keeps its scale and place."""
        self._last_read: tuple[object, Typed] = (None, {})
        self.rest = Rest(
            self,
            (
                (LETTER_AFTER, self._letter_in_rest),
                (CERTIFY_AFTER, self._certify),
                (CLOSED_FORMS_AFTER, self._find_closed_forms),
                (JUDGE_AFTER, self._judge_next),
            ),
        )
        self._judged: list[Worth] = []
        self._fairing_timer = self._timer(LOAD_FAIRING_AFTER, _load_fairing)
        self._follow_timer = self._timer(0, self.follow)
        self._behind_since: float | None = None
        self.undo_stack.indexChanged.connect(self._follow)
        self._draw()
        self.step = self.last_step + 1

    def _timer(self, delay: int, act: object) -> QTimer:
        timer = QTimer(self)
        timer.setSingleShot(True)
        timer.setInterval(delay)
        timer.timeout.connect(act)
        return timer

    # ------------------------------------------------------------------------------------------------------ reading
    @property
    def sheet(self) -> Sheet:
        return self.folio.sheets[self.place[0]]

    @property
    def figure(self) -> Figure:
        return self.sheet.figures[self.place[1]]

    @property
    def problem(self) -> Problem:
        return problem(self.figure.problem)

    @property
    def method(self) -> Method:
        """The method of the figure in hand."""
        return self.problem.method(self.figure.method)

    @property
    def conventions(self) -> Conventions:
        return self.folio.conventions.as_conventions()

    @property
    def typed(self) -> Typed:
        assert self.drawing is not None
        return self.drawing.typed

    @property
    def last_step(self) -> int:
        return len(self.drawing.steps) if self.drawing else 0

    def given_text(self, name: str) -> str:
        """A given as it stands in the brief: as typed, even where it does not work."""
        if name in self.pending:
            return self.pending[name]
        for item in self.problem.given_list:
            if item.name == name:
                return self.figure.givens.get(name, item.default)
        raise KeyError(name)

    def troubled_givens(self) -> tuple[str, ...]:
        """The givens to underline."""
        if isinstance(self.trouble, BadGiven):
            return (self.trouble.given,)
        return self.trouble.givens if isinstance(self.trouble, Infeasible) else ()

    # ----------------------------------------------------------------------------------------------------- changing
    def set_given(self, name: str, text: str) -> None:
        """Take a given as typed; the sheet follows if it admits a figure."""
        self.pending[name] = text
        raw = {**self.figure.givens, **self.pending}
        try:
            typed = self._read(replace(self.figure, givens=raw))
            method = self._serving(typed)
        except WiseCompassError as reason:
            self.trouble = reason
            self.refused.emit()
            return
        self.pending = {}
        after = replace(self.figure, givens=raw, method=method.name, solution=1)
        self._typing = True
        self._push(after, f"{name.replace('_', ' ')} {text}", melt=name)
        self._typing = False

    def set_givens(self, raw: dict[str, str]) -> None:
        """Take several givens at once; the sheet follows if they admit a figure."""
        self.pending = {**self.pending, **raw}
        whole = {**self.figure.givens, **self.pending}
        try:
            method = self._serving(self._read(replace(self.figure, givens=whole)))
        except WiseCompassError as reason:
            self.trouble = reason
            self.refused.emit()
            return
        self._push(replace(self.figure, givens=whole, method=method.name, solution=1), "points of a table")

    def slide_to(self, x: float, y: float) -> None:
        """Take the chosen point of the curve nearest to (x, y), in mm of its block."""
        chosen = self.problem.chosen
        if chosen is not None and self.drawing is not None and self.trouble is None:
            self.set_given(chosen.given, nearest(self.problem, chosen, self.typed, x, y))

    def move_view(self, name: str, place: float) -> None:
        """Put an auxiliary view so far from the view beside it; negative: on its other side."""
        places = {**self.figure.places, name: round(place, 2)}
        self._typing = True
        self._push(replace(self.figure, places=places), f"view {name}", melt=f"view {name}")
        self._typing = False

    def free_views(self) -> None:
        """Let the program place all auxiliary views again."""
        if self.figure.places:
            self._push(replace(self.figure, places={}), "views placed by the program")

    def release(self) -> None:
        """What was dragged is let go: lay the figure out anew on the paper."""
        if self.held:
            self.held = False
            self._letter_anew()

    def chosen_dot(self) -> Dot | None:
        """The chosen point of the curve as it lies on the page."""
        chosen = self.problem.chosen
        if chosen is None or self.page is None or self.drawing is None or self.drawing.problem is not self.problem:
            return None
        name = chosen.point
        if given_of(self.problem, chosen).form is Form.COUNT:
            value = self.typed[chosen.given]
            assert isinstance(value, Expression)
            least, most = reach(self.problem, chosen, self.typed)
            at = round(min(max(float(value.evaluate(PLAIN)), least), most))
            name = name.format(at + self.conventions.first_number)
        return next((m for m in self.page.marks if isinstance(m, Dot) and m.name == name and m.block == chosen.block), None)

    def _serving(self, typed: Typed) -> Method:
        """The figure's method if it serves, else the first that does.

        Raises:
            Infeasible: none serves.
        """
        asked = self.method
        reason = self.problem.serves(asked, typed)
        if reason is None:
            return asked
        for method in self.problem.methods:
            if self.problem.serves(method, typed) is None:
                self.noticed.emit(f"{reason}: drawn by {method.name}".replace("; the nearest that works is", "; nearest"))
                return method
        raise reason

    def set_method(self, name: str) -> None:
        reason = self.problem.serves(self.problem.method(name), self.typed)
        if reason is not None:
            self.noticed.emit(str(reason))
            return
        self._push(replace(self.figure, method=name, solution=1, places={}), f"method {name}")

    def set_solution(self, number: int) -> None:
        self._push(replace(self.figure, solution=number), f"solution {number}")

    def set_paper(self, size: PaperSize, landscape: bool) -> None:
        self._push_sheet(replace(self.sheet, paper=size, landscape=landscape), f"paper {size}")

    def set_scale(self, scale: str) -> None:
        self._push(replace(self.figure, scale=scale), f"scale {scale}")

    def set_conventions(self, **changes: Any) -> None:
        settings = replace(self.folio.conventions, **changes)
        self._push_folio(replace(self.folio, conventions=settings), self.place, "conventions")

    def set_units(self, units: Units) -> None:
        """Show lengths in other units. What was typed without a unit keeps its size: its old unit is written out."""
        old = self.folio.conventions.units.value
        sheets = tuple(
            replace(sheet, figures=tuple(with_units(figure, old) for figure in sheet.figures)) for sheet in self.folio.sheets
        )
        settings = replace(self.folio.conventions, units=units)
        self._push_folio(replace(self.folio, sheets=sheets, conventions=settings), self.place, f"units {units}")

    def set_problem(self, problem_id: str) -> None:
        """Put a problem with its defaults on a new sheet at the end, or turn to the sheet that has it untouched."""
        found = problem(problem_id)
        fresh = Figure(found.id, found.methods[0].name)
        if self.folio.conventions.units is not Units.MM:
            fresh = with_units(fresh, "mm")
        for s, sheet in enumerate(self.folio.sheets):
            for f, figure in enumerate(sheet.figures):
                if figure.problem == problem_id:
                    self.turn_to(s, f)
                    return
        count = len(self.folio.sheets) + 1
        sheet = Sheet(found.title, f"BM-{count:02d}", (fresh,))
        self._push_folio(
            replace(self.folio, sheets=(*self.folio.sheets, sheet)), (count - 1, 0), f"new sheet: {found.title}"
        )

    def turn_to(self, sheet: int, figure: int = 0) -> None:
        """Take another figure in hand. Turning sheets is not a change of the folio."""
        self.pending = {}
        self.place = (sheet, figure)
        self.figure_changed.emit()
        self._draw()
        self.go_to(self.last_step + 1)

    def replace_folio(self, folio: Folio, path: Path | None) -> None:
        """Open another folio; the way back begins anew."""
        self.folio, self.path, self.place, self.pending = folio, path, (0, 0), {}
        self.undo_stack.clear()
        self.folio_changed.emit()
        self.turn_to(0, 0)

    def go_to(self, step: int) -> None:
        """Show the sheet as it stands at a step; one past the last is the whole sheet."""
        self.step = max(1, min(step, self.last_step + 1))
        self.stepped.emit(self.step)

    # -------------------------------------------------------------------------------------------------------- inner
    def _push(self, figure: Figure, words: str, melt: str = "") -> None:
        s, f = self.place
        figures = (*self.sheet.figures[:f], figure, *self.sheet.figures[f + 1 :])
        sheets = (*self.folio.sheets[:s], replace(self.sheet, figures=figures), *self.folio.sheets[s + 1 :])
        self._push_folio(replace(self.folio, sheets=sheets), self.place, words, melt)

    def _push_sheet(self, sheet: Sheet, words: str) -> None:
        s = self.place[0]
        sheets = (*self.folio.sheets[:s], sheet, *self.folio.sheets[s + 1 :])
        self._push_folio(replace(self.folio, sheets=sheets), self.place, words)

    def _push_folio(self, folio: Folio, place: tuple[int, int], words: str, melt: str = "") -> None:
        self.undo_stack.push(_Change(self, folio, place, words, melt))

    def _adopt(self, folio: Folio, place: tuple[int, int]) -> None:
        before = self.figure.problem
        sheets_before, moved = self.folio.sheets, place != self.place
        self.folio, self.place, self.pending = folio, place, {}
        if moved or before != self.figure.problem:
            self.figure_changed.emit()
        whole = self.step > self.last_step or moved
        self._draw()
        step = self.last_step + 1 if whole else min(self.step, self.last_step + 1)
        if self._typing:
            self.step = step  # what shows it follows the drawing
        else:
            self.go_to(step)
        if [(s.name, s.number) for s in folio.sheets] != [(s.name, s.number) for s in sheets_before]:
            self.folio_changed.emit()

    def _draw(self) -> None:
        """Draw the figure in floats and lay it out; the proof follows when there is time."""
        figure = self.figure
        try:
            typed = self._read(figure)
            kept = self.page if self._typing else None
            detail = Detail.WHOLE if kept is None else _detail(self.last_step)
            drawing = draw(self.problem, typed, self.method, self.conventions, figure.solution, detail, figure.places)
            title = Title(self.folio.work, self.sheet.name, self.sheet.number)
            page = compose(
                drawing,
                self.sheet.as_paper(),
                title,
                self.conventions,
                read_scale(figure.scale),
                kept,
                self.held or detail is Detail.RESULT,
            )
        except WiseCompassError as reason:
            self.trouble = reason
            self.refused.emit()
            return
        self.trouble = None
        self.letters_wait, self._detail = self._typing, detail
        self.drawing, self.page, self.certificate = drawing, page, None
        self.rest.stop()
        if self._fairing_timer.isActive():
            self._fairing_timer.start()
        if self.proving:
            self.rest.begin(0 if detail is Detail.WHOLE else MANY_LATER)
        self.drawn.emit()
        self._follow()

    def _follow(self, _index: int = 0) -> None:
        """Let the rest of the desk follow: while somebody types when there is time for it, but soon."""
        now = monotonic()
        self._behind_since = self._behind_since or now
        if self._typing and now - self._behind_since < FOLLOW_WITHIN:
            self._follow_timer.start()
        else:
            self.follow()

    def follow(self) -> None:
        """Let the rest of the desk show now what the sheet shows."""
        self._follow_timer.stop()
        self._behind_since = None
        self.followed.emit()

    def _read(self, figure: Figure) -> Typed:
        """The givens of a figure, read once however often they are asked for."""
        key = (figure.problem, tuple(figure.givens.items()), self.folio.conventions.units.value)
        if self._last_read[0] != key:
            self._last_read = (key, problem(figure.problem).read(figure.givens, key[2]))
        return self._last_read[1]

    def begin_proving(self) -> None:
        """From now on prove what is drawn; before the first picture is on the screen there is no time for it."""
        self.proving = True
        self.rest.begin()
        self._fairing_timer.start()

    def _letter_in_rest(self) -> bool:
        if self.letters_wait and not self.held and self.trouble is None:
            self._letter_anew()
        return False

    def _certify(self) -> bool:
        if self.drawing is None or self.trouble is not None:
            return False
        self._prove(closed_forms=False)
        paper, scale = self.sheet.as_paper(), read_scale(self.figure.scale)
        self.advice = advice(self.drawing, paper, self.conventions, scale)
        found = worths(self.problem, self.typed)
        if {(one.method.name, one.serves) for one in found} != {(one.method.name, one.serves) for one in self.worths}:
            self.worths = found  # else what was judged last stands until it is judged anew
        self.certified.emit()
        return False

    def _letter_anew(self) -> None:
        """While somebody types, letters move with their points; in the pause they find their best places, and the lines
        of a figure of many steps are drawn."""
        assert self.drawing is not None
        self.letters_wait = False
        if self._detail is not Detail.WHOLE:
            self._detail = Detail.WHOLE
            drawn = self.drawing
            figure = self.figure
            self.drawing = draw(
                drawn.problem, drawn.typed, drawn.method, self.conventions, figure.solution, places=figure.places
            )
        title = Title(self.folio.work, self.sheet.name, self.sheet.number)
        scale = read_scale(self.figure.scale)
        self.page = compose(self.drawing, self.sheet.as_paper(), title, self.conventions, scale)
        self.relettered.emit()

    def _find_closed_forms(self) -> bool:
        self._judged = []
        if self.drawing is not None and self.trouble is None:
            self._prove(closed_forms=True)
            self.certified.emit()
        return False

    def _judge_next(self) -> bool:
        """Judge one more method; with the last they are all ranked."""
        if self.drawing is None or self.trouble is not None:
            return False
        methods = self.problem.methods
        self._judged.append(judge(self.problem, self.typed, methods[len(self._judged)]))
        if len(self._judged) < len(methods):
            return True
        self.worths = ranked(self._judged)
        self.certified.emit()
        return False

    def _prove(self, closed_forms: bool) -> None:
        assert self.drawing is not None
        self.certificate = certify(
            self.problem, self.typed, self.drawing.method, self.conventions, self.figure.solution, closed_forms
        )

    def settle(self) -> None:
        """Run at once what waits for a pause: the rest of the desk, the proof, the closed forms and the judgement."""
        self.follow()
        self.rest.settle()


def _load_fairing() -> None:
    Thread(target=import_module, args=("wisecompass.judgement.fairing",)).start()


def _detail(steps: int) -> Detail:
    """How much of a figure of so many steps follows each key."""
    return Detail.WHOLE if steps < MANY_STEPS else Detail.POINTS if steps < VERY_MANY_STEPS else Detail.RESULT
