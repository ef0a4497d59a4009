"""What the window works on: the folio, the figure in hand, its drawing, its certificate, and the way back."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from time import monotonic
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer, Signal

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import Expression, quoted
from wisecompass.catalogue import index as contents
from wisecompass.catalogue import problem
from wisecompass.desk.covering import Cover
from wisecompass.desk.errands import Errands
from wisecompass.desk.glancing import Glancing
from wisecompass.desk.helper import Helper
from wisecompass.desk.neighbours import Neighbours
from wisecompass.desk.rest import Rest
from wisecompass.drafting.conventions import Conventions, Units
from wisecompass.drafting.errors import BadGiven, Infeasible, Unknown, WiseCompassError
from wisecompass.drafting.givens import Form, Typed
from wisecompass.drafting.letters import read_letters, require_free
from wisecompass.drafting.marks import Dot
from wisecompass.drafting.problem import Kin, Method, Problem
from wisecompass.drafting.recorder import Detail
from wisecompass.drafting.sliding import given_of, nearest, reach
from wisecompass.drafting.solve import Certificate, Drawing, draw
from wisecompass.drafting.view import Belonging
from wisecompass.folio import register
from wisecompass.folio.document import Figure, Folio, PaperSize, Sheet
from wisecompass.folio.going_on import in_the_way
from wisecompass.folio.history import with_readings
from wisecompass.folio.links import read_figure, read_from
from wisecompass.folio.page import NO_LETTERING, Cell, Lettering, Page, blank, told_anew
from wisecompass.folio.print import (
    Plan,
    conventions_of,
    drawn,
    inside,
    laid_from,
    laid_out,
    last_of_each,
    on_what_it_goes_on_with,
    places_of,
    plan_of,
    refused_page,
    too_close,
    tried,
    with_rooms,
    with_units,
)
from wisecompass.folio.register import Place
from wisecompass.folio.scales import read_scale
from wisecompass.folio.title_block import title_of
from wisecompass.folio.work import Work
from wisecompass.judgement.worth import Worth
from wisecompass.service import Reply, Task, refused

if TYPE_CHECKING:
    from wisecompass.folio.practice import Question
    from wisecompass.judgement.hands import Reach

ASK_AFTER, LETTER_AFTER, AHEAD_AFTER = 30, 270, 5
"""Milliseconds of rest before the proof, the closed forms and the judgement of the methods are asked for, and from then on
before letters find better places: longer than somebody who types leaves between two keys. Of what is shown at a glance
all but the letters is asked for as soon as the sheet was painted."""

MANY_STEPS, VERY_MANY_STEPS = 60, 110
"""Of a figure with so many steps the construction lines follow what is typed only in the next pause, of one with very many
its points and letters too; what is lined in follows each key."""

FOLLOW_WITHIN = 0.1
"""Seconds after which the rest of the desk follows even if keys come so fast that there is no time between them."""


LETTERINGS_KEPT = 256
"""Of so many pages it is remembered where their letters stand."""

PICTURE = "pictorial/crates"
"""The problem that pictures a body made of parts."""


class Session(QObject):
    """The state of the desk. All changes go through ``set_*`` and can be undone."""

    figure_changed = Signal()
    """Another figure or problem is in hand."""
    pointed = Signal()
    """Other edges of a body are pointed at."""
    drawn = Signal()
    """The drawing has changed: the sheet shows it at once."""
    followed = Signal()
    """What stands beside the sheet is to show what the session has: at once, and while somebody types as soon as the sheet
    has been painted."""
    refused = Signal()
    """The givens as typed admit no figure; ``trouble`` says why, the last drawing stands."""
    glanced = Signal()
    """The sheet is to show what ``glancing`` has, until the drawing follows."""
    proved_ahead = Signal()
    """The certificate is of what is shown at a glance."""
    relettered = Signal()
    """Letters on the page have moved; the drawing is the same."""
    certified = Signal()
    stepped = Signal(int)
    turning = Signal(int, int)
    """A sheet and its figure are about to be taken in hand."""
    readings_kept = Signal()
    """What was measured was put down in the folio."""
    folio_changed = Signal()
    history_moved = Signal()
    """What can be undone and done again is another change."""
    noticed = Signal(str)
    covered = Signal()
    """Something of the figure in hand is covered or uncovered."""

    def __init__(self, work: Work | Folio, path: Path | None = None, sheet: int = 0, helper: Helper | None = None) -> None:
        """``helper`` proves and judges beside the desk; without one it is done here, when there is a rest."""
        super().__init__()
        self._work = work if isinstance(work, Work) else Work.on(work, path, place=(sheet, 0))
        self.place = self._work.history.now.place
        self.pending: dict[str, str] = {}
        self._just_typed: tuple[str, str] | None = None
        """What is being taken, before it is anywhere else: whoever looks meanwhile sees what was typed."""
        self.glancing = Glancing(self)
        self._looking = False
        self.trouble: WiseCompassError | None = None
        self._drawing: Drawing | None = None
        self._last_step = 0
        self._page: Page | None = None
        self.plan: Plan | None = None
        """Which part of the sheet each of its figures has; while somebody types they keep theirs."""
        self.neighbours = Neighbours(self)
        self._to_lay_out: Callable[[], None] | None = None
        self.certificate: Certificate | None = None
        self.worths: list[Worth] = []
        self.reaches: dict[str, Reach] = {}
        """How near a hand comes to each answer of the sheet as it is drawn; nothing until it is known."""
        self.step = 1
        self._covers: list[Cover] = []
        self.proving = False
        self._typing = self._turning = False
        self.letters_wait = False
        """While somebody types letters go with their points; for better places, and those of new points, they wait."""
        self._detail = Detail.WHOLE
        self.one_by_one = False
        """Whether repetitions and divisions are walked through one by one instead of being told once."""
        self.advice = ""
        """What is to be said of the drawing scale and the paper, once there was time to look."""
        self.held = False
        """While something is dragged the figure keeps its scale and place."""
        self._last_read: tuple[object, Typed] = (None, {})
        self.errands = Errands(self, helper)
        self.rest = Rest(self, ((ASK_AFTER, self.errands.ask), (LETTER_AFTER, self._letter_in_rest)))
        self._pointed: tuple[int, ...] = ()
        self._part = 0
        self._letterings: dict[Any, Lettering] = {}
        self.helper = helper
        self._follow_timer = self._timer(0, self.follow)
        self._lay_out_timer = self._timer(0, self._lay_out)
        self._take_timer = self._timer(0, self._take_in_pause)
        self._ahead_timer = self._timer(AHEAD_AFTER, lambda: self.errands.ahead(self._work.folio, self.glancing.figure))
        self._behind_since: float | None = None
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
    def work(self) -> Work:
        """The folio with its history and file, with all that has been typed."""
        self._take_typed()
        return self._work

    @contextmanager
    def looking(self) -> Iterator[None]:
        """Look at all as it was drawn last: for who paints, which is no reason to take what has just been typed."""
        before, self._looking = self._looking, True
        try:
            yield
        finally:
            self._looking = before

    @property
    def drawing(self) -> Drawing | None:
        """What is drawn, without what the sheet shows only at a glance; None on empty paper."""
        self._lay_out()
        return self._drawing

    @property
    def page(self) -> Page | None:
        """The drawing as it lies on its paper."""
        self._lay_out()
        return self._page

    @property
    def folio(self) -> Folio:
        return self.work.folio

    @property
    def path(self) -> Path | None:
        return self.work.path

    @property
    def sheet(self) -> Sheet:
        return self.folio.sheets[self.place[0]]

    @property
    def empty(self) -> bool:
        """Whether nothing stands on the sheet in hand that can be worked on."""
        return not self.sheet.figures or not self.known

    @property
    def known(self) -> bool:
        """Whether the problem of the figure in hand is one of the catalogue; a figure of another is kept as it is."""
        return bool(self.sheet.figures) and self.figure.problem in contents.entries()

    @property
    def figure(self) -> Figure:
        """The figure in hand; there is none on an empty sheet."""
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
        return conventions_of(self.folio, self.figure if self.sheet.figures else None)

    @property
    def typed(self) -> Typed:
        self._take_typed()
        assert self.drawing is not None
        return self.drawing.typed

    @property
    def last_step(self) -> int:
        return self._last_step

    def given_text(self, name: str) -> str:
        """A given as it stands in the brief: as typed, even where it does not work."""
        if self._just_typed is not None and self._just_typed[0] == name:
            return self._just_typed[1]
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
        """Take a given as typed; the sheet follows if it admits a figure. A word that leads to another problem about the
        same thing turns the figure into that."""
        self._just_typed = name, text
        try:
            self._take_or_glance(name, text)
        finally:
            self._just_typed = None

    def _take_or_glance(self, name: str, text: str) -> None:
        if self._may_glance and self.glancing.takes(self._work.folio, self._page, name, text):
            self.pending[name] = text
            self.errands.stop()
            self._follow_timer.stop()  # the rest of the desk follows the whole
            self.certificate = None
            self._take_timer.start(self.glancing.pause)
            self._ahead_timer.start()
            self.glanced.emit()
        else:
            self._take_given(name, text)

    def _take_given(self, name: str, text: str) -> None:
        """Take it now."""
        self._take_typed()
        kin = next((each for each in self.problem.kin if (each.given, each.word) == (name, text)), None)
        if kin is not None:
            self._turn_into(kin)
            return
        self.pending[name] = text
        raw = {**self.figure.givens, **self.pending}
        try:
            typed = self._read(replace(self.figure, givens=raw))
            method = self._serving(typed)
        except WiseCompassError as reason:
            self._refuse(reason, replace(self.figure, givens=raw))
            return
        self.pending = {}
        after = replace(self.figure, givens=raw, method=method.name, solution=1)
        self._typing = True
        self._push(after, f"{name.replace('_', ' ')} {text}", melt=name)
        self._typing = False

    @property
    def _may_glance(self) -> bool:
        """Whether the whole sheet stands, as the glance shows it."""
        if self.helper is None or not self.proving or self.one_by_one or not self.glancing.is_ready:
            return False
        self._lay_out()
        return self.trouble is None and self.step > self._last_step

    def _take_typed(self) -> None:
        """Take now what the sheet has shown at a glance."""
        if self._looking:
            return
        typed = self.glancing.let_go()
        if typed is not None:
            self._take_timer.stop()
            begun = monotonic()
            self._take_given(*typed)
            self.glancing.took = monotonic() - begun

    def picture_as(self, projection: str) -> None:
        """Draw the body in hand in one of the pictures."""
        if self.figure.problem == PICTURE:
            self.set_given("projection", projection)
            return
        kin = next((each for each in self.problem.kin if each.problem == PICTURE), None)
        if kin is not None:
            self._turn_into(kin, {"projection": projection})

    def _turn_into(self, kin: Kin, more: dict[str, str] | None = None) -> None:
        shared = {name: self.figure.givens[name] for name in kin.shared if name in self.figure.givens}
        way = problem(kin.problem).methods[0].name
        after = replace(self.figure, problem=kin.problem, method=way, givens=shared | (more or {}), solution=1, places={})
        self._push(after, f"turned into {kin.word}")

    def set_givens(self, raw: dict[str, str]) -> None:
        """Take several givens at once; the sheet follows if they admit a figure."""
        self.pending = {**self.pending, **raw}
        whole = {**self.figure.givens, **self.pending}
        try:
            method = self._serving(self._read(replace(self.figure, givens=whole)))
        except WiseCompassError as reason:
            self._refuse(reason, replace(self.figure, givens=whole))
            return
        self._push(replace(self.figure, givens=whole, method=method.name, solution=1), "points of a table")

    def _refuse(self, reason: WiseCompassError, figure: Figure) -> None:
        """Say why there is no figure; what there would be is looked for beside the desk. What was said of the last figure,
        its proof and its scale, is not said of this one."""
        self._lay_out()  # what works was drawn before it: else it would come after the refusal and take it away
        self.trouble = reason
        self.advice = ""
        self.errands.stop()
        task = Task.of(self.folio, self.place, figure)
        if self.helper is not None and self.proving:
            self.errands.offer(task)
        elif isinstance(reason, BadGiven | Infeasible):
            self.trouble = refused(task) or reason
        self.refused.emit()

    def answered_ahead(self, reply: Reply) -> None:
        """What is shown at a glance is proved, which is said before the whole of it is drawn; or it cannot be."""
        if self.glancing.typed is None:
            return
        if reply.kind == "proof":
            self.certificate = reply.body
            with self.looking():
                self.proved_ahead.emit()
        self._take_timer.start(self.glancing.pause)

    def _take_in_pause(self) -> None:
        """Have the folio take what is typed, now that nobody types; the proof of it comes first, if it comes soon."""
        still = self.glancing.longest if self.errands.waits_ahead else 0
        if still:
            self._take_timer.start(still)
        else:
            self._take_typed()

    def take_offer(self) -> None:
        """Take what is offered instead of a number that admits no figure."""
        if isinstance(self.trouble, BadGiven | Infeasible) and self.trouble.offer:
            self.set_givens(self.trouble.offer)

    def slide_to(self, x: float, y: float) -> None:
        """Take the chosen point of the curve nearest to (x, y), in mm of its block."""
        chosen = None if self.empty else self.problem.chosen
        if chosen is not None and self.drawing is not None and self.trouble is None:
            self.set_given(chosen.given, nearest(self.problem, chosen, self.typed, x, y))

    @property
    def drawing_ends(self) -> list[int]:
        """For each figure of the sheet in hand the last one of the drawing that it belongs to."""
        if not any(figure.goes_on for figure in self.sheet.figures):
            return list(range(len(self.sheet.figures)))
        return last_of_each(self.folio, self.place[0], [tried(self.folio, each) for each in self.sheet.figures])

    def figure_at(self, x: float, y: float) -> int | None:
        """Which figure of the sheet has a place of the paper as its part; the one in hand before others."""
        if self.plan is None:
            return None
        f = self.place[1]
        cells = self.plan.cells
        for n in (f, *(n for n in range(len(cells)) if n != f)):
            cell = cells[n] if n < len(cells) else None
            if cell is not None and cell.box[0] <= x <= cell.box[2] and cell.box[1] <= y <= cell.box[3]:
                return n
        return None

    def move_figure(self, dx: float, dy: float) -> None:
        """Move the figure in hand on its sheet, mm of paper; it stays inside the frame, and all figures of the sheet keep
        the places that they have from now on."""
        if not self.sheet.figures or self.page is None:
            return
        s, f = self.place
        folio = with_rooms(self.folio, s, self.plan)
        figure = folio.sheets[s].figures[f]
        assert figure.room is not None
        moved = inside(self.sheet.as_paper(), (figure.room[0] + dx, figure.room[1] + dy, *figure.room[2:]))
        folio = register.replace_figure(folio, self.place, replace(figure, room=moved))
        self._push_folio(folio, self.place, f"{figure.name} moved", melt=f"room {figure.name}")

    def shift_block(self, block: str, dx: float, dy: float) -> None:
        """Move one block of the figure in hand by itself, mm of paper."""
        if self.empty or self.page is None or block not in self.page.placements:
            return
        x, y = self.figure.shifts.get(block, (0.0, 0.0))
        shifts = {**self.figure.shifts, block: (round(x + dx, 2), round(y + dy, 2))}
        self._push(replace(self.figure, shifts=shifts), f"{block or 'views'} moved", melt=f"block {block}")

    def set_wish(self, name: str, wanted: bool) -> None:
        """Draw a part of the construction, or leave it out."""
        left_out = tuple(each for each in self.figure.left_out if each != name)
        if not wanted:
            left_out = (*left_out, name)
        if left_out != self.figure.left_out:
            self._push(replace(self.figure, left_out=left_out), f"{name} {'drawn' if wanted else 'left out'}")

    def set_letters(self, text: str) -> None:
        """Call points of the figure in hand otherwise: ``A=K, B=L``; nothing gives them their letters back.

        Raises:
            BadGiven: it is written otherwise, or a letter is taken.
        """
        letters = read_letters(text)
        if self.drawing is not None:
            require_free(letters, [dot.name for dot in self.drawing.marks if isinstance(dot, Dot) and dot.name])
        tidy = ", ".join(f"{old}={new}" for old, new in letters)
        if not self.empty and tidy != self.figure.letters:
            self._push(replace(self.figure, letters=tidy), f"letters {tidy}" if tidy else "its own letters again")

    def set_turn(self, degrees: float) -> None:
        """Turn the figure in hand on its sheet, anticlockwise."""
        turn = round((degrees + 180.0) % 360.0 - 180.0, 4)
        if not self.empty and turn != self.figure.turn:
            self._push(replace(self.figure, turn=turn), f"turned {turn:g}°")

    def set_whole_circles(self, wanted: bool) -> None:
        """Draw circles of the construction whole, or only their arcs."""
        if not self.empty and wanted != self.figure.whole_circles:
            self._push(replace(self.figure, whole_circles=wanted), "whole circles" if wanted else "arcs")

    def free_figures(self) -> None:
        """Let the planner place all figures of the sheet, and their blocks, again."""
        figures = tuple(replace(figure, room=None, shifts={}) for figure in self.sheet.figures)
        if figures != self.sheet.figures:
            self._push_sheet(replace(self.sheet, figures=figures), "figures placed by the planner")

    def set_one_scale(self, wanted: bool) -> None:
        """Have all fitted figures of the sheet drawn at one scale, or each at its own."""
        if wanted != self.sheet.one_scale:
            self._push_sheet(replace(self.sheet, one_scale=wanted), "one scale" if wanted else "scales of their own")

    def move_view(self, name: str, place: float) -> None:
        """Put an auxiliary view so far from the view beside it; negative: on its other side."""
        places = {**self.figure.places, name: round(place, 2)}
        self._typing = True
        self._push(replace(self.figure, places=places), f"view {name}", melt=f"view {name}")
        self._typing = False

    def free_views(self) -> None:
        """Let the program place all auxiliary views again."""
        if not self.empty and self.figure.places:
            self._push(replace(self.figure, places={}), "views placed by the program")

    def release(self) -> None:
        """What was dragged is let go: lay the figure out anew on the paper."""
        if self.held:
            self.held = False
            self.letter_anew()

    def chosen_dot(self) -> Dot | None:
        """The chosen point of the curve as it lies on the page."""
        chosen = None if self.empty else self.problem.chosen
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
                self.noticed.emit(f"{reason}: drawn by {method.name}")
                return method
        raise reason

    @property
    def belongings(self) -> list[Belonging]:
        """The edges of a body that are pointed at: one, or all of a part; else the panel of a pattern that the step at hand
        lays out, of several the first."""
        drawing = self.drawing
        if drawing is None:
            return []
        if self._part:
            return [each for each in drawing.belongings if self._part in each.parts]
        if not self._pointed:
            return [each for each in drawing.belongings if each.step and each.step == self.step][:1]
        return [drawing.belongings[n] for n in self._pointed if n < len(drawing.belongings)]

    def point_at(self, edges: tuple[int, ...] = (), part: int = 0) -> None:
        """Point at edges of a body by their numbers, at a whole part by its number, or at nothing: they are tinted in every
        view and in the picture in space."""
        if (edges, part) != (self._pointed, self._part):
            self._pointed, self._part = edges, part
            self.pointed.emit()

    def set_method(self, name: str) -> None:
        if self.drawing is None:
            return
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
        """Draw the figure in hand at a scale, or "fit".

        Raises:
            BadGiven: it is none, or beyond what anybody draws.
        """
        read_scale(scale)
        if not self.empty:
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
        """Turn to the figure of a problem, or put one on a new sheet at the end."""
        for s, f in places_of(self.folio):
            figures = self.folio.sheets[s].figures
            if figures and figures[f].problem == problem_id:
                self.turn_to(s, f)
                return
        self.add_problem(problem_id, new_sheet=True)

    def add_problem(self, problem_id: str, *, new_sheet: bool = False) -> None:
        """Put a problem with its defaults on the sheet in hand, or on a new one behind it."""
        found = problem(problem_id)
        folio, place = self.folio, self.place
        if new_sheet and not (len(folio.sheets) == 1 and self.empty):
            names = [sheet.name for sheet in folio.sheets]
            folio, place = register.add_sheet(folio, len(folio.sheets) - 1, register.unique(found.title, names))
        figure = register.fresh_figure(problem_id, folio.conventions.units)
        folio, place = register.add_figure(folio, figure, place[0])
        self.change(folio, place, f"new figure: {found.title}")

    def go_on(self, problem_id: str) -> None:
        """Go on with the drawing of the figure in hand by another problem, which takes from it what both briefs state."""
        before = self.figure.name
        folio, place = register.go_on(self.folio, self.place, problem_id)
        self.change(folio, place, f"gone on with {before}")
        base, own = (tried(self.folio, self.sheet.figures[self.place[1] - k]) for k in (1, 0))
        if isinstance(base, Drawing) and isinstance(own, Drawing) and not own.goes_on:
            letters = ", ".join(filter(None, in_the_way(base, own))) or "its letters"
            self.noticed.emit(
                f"it stands by itself: {letters} stand for other points in {before}; try another way of either"
            )

    def change(self, folio: Folio, place: Place, words: str) -> None:
        """Another folio, or another place in it, as one step that can be undone."""
        if folio is not self.folio:
            self._push_folio(folio, place, words)
        elif place != self.place:
            self.turn_to(*place)

    @property
    def can_undo(self) -> bool:
        return self.work.history.can_undo

    @property
    def can_redo(self) -> bool:
        return self.work.history.can_redo

    def undo(self) -> None:
        """The folio before the last change."""
        if self.can_undo:
            self._leave_drawn()
            folio, place = self.work.history.undo()
            self.history_moved.emit()
            self._adopt(folio, place)

    def redo(self) -> None:
        if self.can_redo:
            self._leave_drawn()
            folio, place = self.work.history.redo()
            self.history_moved.emit()
            self._adopt(folio, place)

    def turn_to(self, sheet: int, figure: int = 0) -> None:
        """Take another figure in hand. Turning sheets is not a change of the folio."""
        self.turning.emit(sheet, figure)
        self.pending = {}
        self.work.history.part()
        self._leave_drawn()
        self.place = (sheet, figure)
        self.figure_changed.emit()
        self._turning = self.helper is not None
        self._draw()
        self._turning = False
        self.go_to(self.last_step + 1)

    def take(self, work: Work) -> None:
        """Take another folio in hand, with its own way back."""
        self._take_typed()
        self._leave_drawn()
        self._work, self.place, self.pending = work, work.history.now.place, {}
        self._last_read = (None, {})
        self.history_moved.emit()
        self.folio_changed.emit()
        self.turn_to(*self.place)

    def replace_folio(self, folio: Folio, path: Path | None) -> None:
        """Take a folio in hand that is as it is in its file."""
        self.take(Work.on(folio, path))

    def keep_readings(self, readings: dict[str, str]) -> None:
        """Keep what was measured of the figure in hand with the folio, and in its draft."""
        if not self.empty and self.figure.name:
            before = self.folio
            self.work.read(self.figure.name, readings)
            if self.folio is not before:
                self.readings_kept.emit()

    def set_one_by_one(self, wanted: bool) -> None:
        """Walk through repetitions and divisions one by one, or have them told once."""
        self.one_by_one = wanted
        self.pending = {}
        self._draw()
        self.go_to(min(self.step, self.last_step + 1))

    def go_to(self, step: int) -> None:
        """Show the sheet as it stands at a step; one past the last is the whole sheet. Who goes to a step of a figure that
        has just been typed wants it told."""
        if step <= self.last_step and self._detail is not Detail.WHOLE and self.letters_may_come:
            self.letter_anew()
        most = self.last_step + 1 if self.cover is None else min(self.cover.steps, self.last_step + 1)
        self.step = max(1, min(step, most))
        self.stepped.emit(self.step)

    # ----------------------------------------------------------------------------------------------------- practice
    @property
    def cover(self) -> Cover | None:
        """What of the figure in hand is covered; nothing of another, or of other numbers."""
        return None if self.empty else self.cover_of(self.figure)

    def cover_of(self, figure: Figure) -> Cover | None:
        """What of a figure is covered."""
        mine = (cover for cover in self._covers if cover.is_of(figure))
        return next((cover for cover in mine if cover.read == read_from(self.folio, figure)), None)

    def _covered_now(self, figure: Figure, level: int) -> Cover:
        return Cover(figure, level, read_from(self.folio, figure))

    def cover_up(self, level: int | None) -> None:
        """Cover the figure in hand, to practise on it; with None it is not covered any more."""
        if not self.empty:
            self._covers = [each for each in self._covers if not each.is_of(self.figure)]
            self._covers += [] if level is None else [self._covered_now(self.figure, level)]
        self.go_to(1 if self.cover is not None else self.last_step + 1)
        self._covers_changed()

    def _covers_changed(self) -> None:
        self.covered.emit()
        self.neighbours.refresh()

    def uncover(self, act: Callable[[Cover], None]) -> None:
        """Uncover something, and show it."""
        if self.cover is not None:
            steps = self.cover.steps
            act(self.cover)
            self.go_to(self.cover.steps if self.cover.steps > steps else self.step)
            self.covered.emit()

    def practise(self, question: Question) -> None:
        """Put a question in the place of the figure in hand, covered."""
        self._covers = [each for each in self._covers if each.of.name != self.figure.name]
        asked = question.instead(self.figure, self.conventions.units)
        folio = register.replace_figure(self.folio, self.place, asked)
        self._push_folio(with_readings(folio, self.figure.name, {}), self.place, "another like it")
        self.readings_kept.emit()
        self.cover_up(question.level)

    def practise_sheet(self, asked: dict[int, Question]) -> None:
        """Put questions in the places of figures of the sheet in hand, all of them covered, and what hangs on them too."""
        units = self.conventions.units
        figures = tuple(asked[n].instead(each, units) if n in asked else each for n, each in enumerate(self.sheet.figures))
        names = {each.name for each in figures}
        level = next(iter(asked.values())).level
        self._covers = [each for each in self._covers if each.of.name not in names] + [
            Cover(each, level) for each in figures
        ]
        s = self.place[0]
        sheets = (*self.folio.sheets[:s], replace(self.sheet, figures=figures), *self.folio.sheets[s + 1 :])
        readings = {name: read for name, read in self.folio.readings.items() if name not in names}
        self._push_folio(replace(self.folio, sheets=sheets, readings=readings), self.place, "another sheet like it")
        self.readings_kept.emit()
        self._covers += [self._covered_now(each, level) for each in figures]
        self.go_to(1)
        self._covers_changed()

    # -------------------------------------------------------------------------------------------------------- inner
    def _push(self, figure: Figure, words: str, melt: str = "") -> None:
        self._push_folio(register.replace_figure(self.folio, self.place, figure), self.place, words, melt)

    def _push_sheet(self, sheet: Sheet, words: str) -> None:
        s = self.place[0]
        sheets = (*self.folio.sheets[:s], sheet, *self.folio.sheets[s + 1 :])
        self._push_folio(replace(self.folio, sheets=sheets), self.place, words)

    def _push_folio(self, folio: Folio, place: tuple[int, int], words: str, melt: str = "") -> None:
        self._leave_drawn()
        self.work.history.push(folio, place, words, melt)
        self.history_moved.emit()
        self._adopt(folio, place)

    def _adopt(self, folio: Folio, place: Place) -> None:
        """Show the folio of the history as it is now at a place."""
        sheets_before = self._shown_register
        moved = place != self.place
        self.place, self.pending = place, {}
        if moved or self._shown_problem != self._problem_in_hand:
            self.figure_changed.emit()
        whole = self.step > self.last_step or moved
        self._draw()
        step = self.last_step + 1 if whole else min(self.step, self.last_step + 1)
        if self._typing:
            self.step = step  # what shows it follows the drawing
        else:
            self.go_to(step)
        if self._register() != sheets_before:
            self.folio_changed.emit()

    @property
    def _problem_in_hand(self) -> str:
        return "" if self.empty else self.figure.problem

    def _register(self) -> object:
        """What a list of the folio's sheets and figures shows."""
        return [(s.name, s.number, [(f.name, f.problem) for f in s.figures]) for s in self.folio.sheets]

    def _draw(self) -> None:
        """Draw the figure in floats and lay it out; the proof follows when there is time."""
        self._shown_problem, self._shown_register = self._problem_in_hand, self._register()
        self.errands.begin()
        self._to_lay_out = None
        if self.empty:
            self._draw_nothing(self._unknown())
            return
        figure = self.figure
        try:
            typed = self._read(figure)
            kept = self._page if self._typing else None
            if kept is not None and self.proving and self.glancing.holds_up and not self.errands.is_ahead:
                self.errands.ahead(self.folio, figure)
            before = self._drawing
            standing = before is not None and self.step <= len(before.steps)
            detail = Detail.WHOLE if kept is None or standing or before is None else _detail(before.operations)
            if detail is Detail.WHOLE and not self.one_by_one and kept is None:
                drawing = drawn(self.folio, figure)  # it may be remembered
            else:
                drawing = draw(
                    self.problem,
                    typed,
                    self.method,
                    self.conventions,
                    figure.solution,
                    detail,
                    figure.places,
                    self.one_by_one,
                    before.steps if before is not None else (),
                )
                drawing = on_what_it_goes_on_with(self.folio, figure, drawing)
            self._last_step, self.certificate, self.reaches = len(drawing.steps), None, {}
            if self._typing and self.helper is not None:  # the next key may come in between
                self._to_lay_out = lambda: self._show_laid_out(drawing, kept, detail)
                self._lay_out_timer.start()
            else:
                self._show_laid_out(drawing, kept, detail)
        except WiseCompassError as reason:
            self._not_drawn(reason)
        except ArithmeticError as reason:
            self._not_drawn(too_close(reason))

    def _unknown(self) -> WiseCompassError | None:
        """What is said of a figure whose problem this program has not."""
        if not self.sheet.figures or self.known:
            return None
        return Unknown(
            f"“{quoted(self.figure.problem)}” is a problem that this Wise Compass does not know; the figure is kept"
        )

    def _not_drawn(self, reason: WiseCompassError) -> None:
        """Say why; the last drawing of the problem stands, if there is one."""
        if self._drawing is None or self._drawing.problem.id != self.figure.problem:
            self._draw_nothing(reason)
            return
        self.trouble = reason
        self.refused.emit()

    def _leave_drawn(self) -> None:
        """What has been drawn is not laid out any more: another figure comes in its stead."""
        self._lay_out_timer.stop()
        self._to_lay_out = None

    def _lay_out(self) -> None:
        """Lay out now what has been drawn."""
        if self._to_lay_out is not None:
            self._lay_out_timer.stop()
            act, self._to_lay_out = self._to_lay_out, None
            try:
                act()
            except WiseCompassError as reason:
                self._not_drawn(reason)

    def _show_laid_out(self, drawing: Drawing, kept: Page | None, detail: Detail) -> None:
        cell = self._cell(drawing, kept)
        key = None if kept is not None or self.one_by_one else laid_from(self.folio, self.place, cell)
        lettering = self._letterings.get(key)
        later = key is not None and lettering is None and self.helper is not None and self.proving
        hold = self.held or detail is Detail.RESULT
        lettering = NO_LETTERING if later else lettering
        page = laid_out(self.folio, self.place, drawing, kept, hold, lettering, cell)
        if key is not None and not later:
            self.remember_letters(key, page.lettering)
        self.trouble = None
        self.letters_wait, self._detail = kept is not None or later, detail
        self._drawing, self._page = drawing, page
        self.rest.stop()
        self.errands.keep_ahead()
        if self.proving:
            self.rest.begin(-ASK_AFTER if self.errands.is_ahead else 0)
        self.drawn.emit()
        self._follow(soon=kept is not None or self._turning)
        if later:
            self.errands.letters()

    def remember_letters(self, key: Any, lettering: Lettering) -> None:
        """Where letters stand on a page, for the next time that it is laid out."""
        self._letterings[key] = lettering
        while len(self._letterings) > LETTERINGS_KEPT:
            del self._letterings[next(iter(self._letterings))]

    def _cell(self, drawing: Drawing, kept: Page | None = None) -> Cell | None:
        """The part of the sheet that the figure in hand has: while somebody types the same, else what the planner says."""
        s, f = self.place
        if kept is None or self.plan is None or len(self.plan.cells) != len(self.sheet.figures):
            self.plan = plan_of(self.folio, s, {f: drawing})
        cell = self.plan.cells[f]
        if kept is not None and kept.cell is not None and cell is not None and self._drawing is not None:
            cell = told_anew(replace(cell, caption=kept.cell.caption), self._drawing, drawing, self.conventions)
        return replace(cell, silent=False) if cell is not None and cell.silent else cell

    def _draw_nothing(self, reason: WiseCompassError | None) -> None:
        """Empty paper: nothing stands on this sheet, or what stands there cannot be drawn, for a ``reason``."""
        self.rest.stop()
        self.trouble, self.advice = reason, ""
        self._drawing, self.certificate, self.worths, self._last_step, self.reaches = None, None, [], 0, {}
        self._page = blank(self.sheet.as_paper(), title_of(self.folio, self.place), self.conventions)
        self.plan = None
        if reason is not None and self.sheet.figures:
            s, f = self.place
            self.plan = plan_of(self.folio, s)
            self._page = refused_page(self.folio, self.place, self.plan.cells[f], reason)
        self.drawn.emit()
        if reason is not None:
            self.refused.emit()
        self._follow()

    def _follow(self, soon: bool = False) -> None:
        """Let the rest of the desk follow: while somebody types or turns sheets when there is time for it, but soon."""
        now = monotonic()
        self._behind_since = self._behind_since or now
        if soon and now - self._behind_since < FOLLOW_WITHIN:
            self._follow_timer.start()
        else:
            self.follow()

    def follow(self) -> None:
        """Let the rest of the desk show now what the sheet shows."""
        self._follow_timer.stop()
        self.neighbours.refresh()
        self._behind_since = None
        self.followed.emit()

    def _read(self, figure: Figure) -> Typed:
        """The givens of a figure, read once however often they are asked for."""
        key = read_from(self.folio, figure)
        if self._last_read[0] != key:
            self._last_read = (key, read_figure(self.folio, figure, offers=False))
        return self._last_read[1]

    def begin_proving(self) -> None:
        """From now on prove what is drawn; before the first picture is on the screen there is no time for it."""
        self.proving = True
        if self.helper is not None:
            self.helper.start()
        import flint  # noqa: F401 - from now on what hangs on a sign is decided with its fractions, ten times as quick

        if self.drawing is not None:
            self.rest.begin()

    @property
    def letters_may_come(self) -> bool:
        """Whether letters wait for better places, and nothing stands against it."""
        return self.letters_wait and not self.held and self.trouble is None

    def _letter_in_rest(self) -> bool:
        if self.letters_may_come and not self.errands.for_letters:
            if self.helper is None:
                self.letter_anew()
            else:
                self.errands.letters()
        return False

    def letter_anew(self, lettering: Lettering | None = None) -> None:
        """While somebody types, letters move with their points; in the pause they find their best places, and the lines
        of a figure of many steps are drawn. Who has looked for the places brings the ``lettering``."""
        assert self.drawing is not None
        self.letters_wait, step = False, self.step
        if self._detail is not Detail.WHOLE:
            self._detail = Detail.WHOLE
            drawn = self.drawing
            figure = self.figure
            self._drawing = draw(
                drawn.problem,
                drawn.typed,
                drawn.method,
                self.conventions,
                figure.solution,
                places=figure.places,
                one_by_one=self.one_by_one,
            )
            self._drawing = on_what_it_goes_on_with(self.folio, figure, self._drawing)
            whole, self._last_step = self.step > self._last_step, len(self._drawing.steps)
            if whole:  # in less detail it may have been told in fewer steps
                self.step = self._last_step + 1
        drawing = self._drawing or self.drawing
        before = self.plan
        cell = self._cell(drawing)
        self._page = laid_out(self.folio, self.place, drawing, lettering=lettering, cell=cell)
        if not self.one_by_one:
            self.remember_letters(laid_from(self.folio, self.place, cell), self._page.lettering)
        if self.plan != before:
            self.neighbours.refresh()
        self.relettered.emit()
        if self.step != step:
            self.stepped.emit(self.step)

    def settle(self) -> None:
        """Run at once what waits for a pause: the rest of the desk, the proof, the closed forms and the judgement."""
        self.follow()
        self.rest.settle()
        self.errands.wait()


def _detail(steps: int) -> Detail:
    """How much of a figure of so many steps follows each key."""
    return Detail.LINES if steps < MANY_STEPS else Detail.POINTS if steps < VERY_MANY_STEPS else Detail.RESULT
