"""Sheets to practise on: the question with what is given set out where it belongs and room for the construction, the
answer, and the construction in growing pictures."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.marks import (
    AngleDimension,
    Area,
    Box,
    Dot,
    Letter,
    LinearDimension,
    Mark,
    Placement,
    RadiusDimension,
    placed,
)
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.record import Act
from wisecompass.drafting.sentences import sentence, setting_text
from wisecompass.drafting.solve import Drawing, draw
from wisecompass.drafting.step import Step
from wisecompass.drafting.wording import number_text
from wisecompass.folio.document import Folio, Settings, Sheet
from wisecompass.folio.page import Caption, Cell, Page, caption_height, captioned, compose, shared_room
from wisecompass.folio.paper import Paper
from wisecompass.folio.practice import AT_MOST_TRUE, LEVELS, Question, asked_words
from wisecompass.folio.title_block import Title, furnished
from wisecompass.folio.which_figure import which_figure

LINE_TO_WRITE = "_" * 14

SET_OUT = {
    "place",
    "views",
    "set out in views",
    "level",
    "upright",
    "slant",
    "lay off",
    "circle",
    "protract",
    "join",
    "line in",
}
"""Acts that set out what is given."""

GIVEN_SHARE = 0.4
"""Where more of the steps than this do nothing but set out, they are the construction itself: only lines are given then
that are drawn as such."""

FEWEST_STAGES, MOST_STAGES, A_STAGE = 4, 8, 2
"""The construction is shown in so many growing pictures, each of about so many steps."""

PICTURES = ((8, 4, 2), (6, 3, 2), (4, 2, 2), (2, 2, 1), (1, 1, 1))
"""So many pictures on a page, and how many of them beside and below each other."""

TOLD_AT_MOST = 0.4
"""More of a picture's room its sentences may not take."""

FINE = (Pen.CONSTRUCTION, Pen.PROJECTOR, Pen.LOCUS, Pen.CRATE)


@dataclass(frozen=True)
class Course:
    """What the sheets of a course have in common."""

    work: str = "Worksheet"
    paper: Paper = Paper()
    settings: Settings = Settings()
    tolerance: tuple[float, float] = (2.0, 2.0)
    """What passes, mm of paper and degrees."""

    @property
    def conventions(self) -> Conventions:
        return self.settings.as_conventions()

    def title(self, question: Question, number: str, kind: str) -> Title:
        return Title(work=self.work, sheet=question.found.title, number=number, document_type=kind)


def drawn(question: Question, course: Course) -> Drawing:
    """The figure of a question.

    Raises:
        WiseCompassError: it cannot be drawn by that method.
    """
    method = question.found.method(question.method)
    return draw(question.found, question.typed, method, course.conventions, question.solution)


def question_page(question: Question, course: Course, number: str = "", drawing: Drawing | None = None) -> Page:
    """The question: its brief, what is given at the place that it has in the figure, and lines for what is asked for."""
    drawing = drawing or drawn(question, course)
    told = _told(drawing, question, [*_fields(question), *question.found.cautions], _help(question, drawing, course))
    title = course.title(question, number, "question")
    whole = compose(told, course.paper, title, course.conventions, scales=AT_MOST_TRUE)
    given = replace(told, marks=set_out(drawing))
    page = compose(given, course.paper, title, course.conventions, whole.scale, whole, hold=True, anew=True)
    return replace(page, tints=[])


def _told(drawing: Drawing, question: Question, notes: Sequence[str], more: str) -> Drawing:
    """The drawing whose sheet tells the question and ``more``, and has these notes over its title block."""
    problem = replace(drawing.problem, cautions=tuple(notes), beforehand=lambda _: more, chosen=None)
    return replace(drawing, problem=problem)


def meant(question: Question, drawing: Drawing, course: Course) -> str:
    """Which figure is to be lined in, where several fit; nothing where there is one."""
    count = drawing.solutions
    if count < 2:
        return ""
    others = range(1, count + 1)
    figures = [(drawing if n == question.solution else drawn(replace(question, solution=n), course)).marks for n in others]
    told = which_figure(question.solution - 1, figures) or f"solution {question.solution} of {count}"
    return f"Line in {told} that fit."


def _help(question: Question, drawing: Drawing, course: Course) -> str:
    """What the level of a question tells beyond the brief."""
    said = [meant(question, drawing, course)]
    if question.level < max(LEVELS):
        said.append(f"Method: {question.method}.")
    if question.level == min(LEVELS):
        settings = dict.fromkeys(
            f"{step.instrument.value} {setting_text(step)}" for step in drawing.steps if step.setting is not None
        )
        said.append(f"Settings: {', '.join(settings)}." if settings else "")
    return " ".join(filter(None, said))


def _fields(question: Question) -> list[str]:
    """A line to write on for every figure that is asked for, two beside each other."""
    kinds = question.found.findings
    fields = [f"{asked_words(question, name)} {LINE_TO_WRITE} {kinds[name].unit}".rstrip() for name in question.answers]
    rows = ["     ".join(fields[k : k + 2]) for k in range(0, len(fields), 2)]
    return [line for row in rows for line in ("", row)]


def set_out(drawing: Drawing) -> list[Mark]:
    """What is there before anything is constructed: made of what is given alone, one after the other."""
    last = 0
    for step in drawing.steps:
        if not step.acts or not all(_sets_out(act) for act in step.acts):
            break
        last = step.n
    every = last <= GIVEN_SHARE * len(drawing.steps)
    pens = (Pen.GIVEN, Pen.CENTRE)
    apart = Area | LinearDimension | RadiusDimension | AngleDimension
    return [
        mark
        for mark in drawing.marks
        if mark.step <= last
        and not isinstance(mark, apart)
        and (every or isinstance(mark, Dot | Letter) or mark.pen in pens)
    ]


def _sets_out(act: Act) -> bool:
    return act.do in SET_OUT and (act.set_to or {}).get("from", "given") == "given"


def answer_page(question: Question, course: Course, number: str = "", drawing: Drawing | None = None) -> Page:
    """The finished figure, with the figures asked for and what passes."""
    drawing = drawing or drawn(question, course)
    told = _told(
        drawing, question, [*answer_lines(question, course), *question.found.cautions], f"Method: {question.method}."
    )
    title = course.title(question, number, "answer")
    page = compose(told, course.paper, title, course.conventions, scales=AT_MOST_TRUE)
    return replace(page, tints=[])


def answer_lines(question: Question, course: Course) -> list[str]:
    """The figures asked for, three to a line, with the tolerance at the scale one to one."""
    kinds, (away, turned) = question.found.findings, course.tolerance
    said = []
    for name, value in question.answers.items():
        unit = kinds[name].unit
        passes = f" ± {number_text(turned)}°" if unit == "°" else f" ± {number_text(away)} mm" if unit == "mm" else ""
        told = number_text(value, 2)
        said.append(f"{asked_words(question, name)} = {told}{'' if unit == '°' else ' '}{unit}{passes}".strip())
    return ["     ".join(said[k : k + 3]) for k in range(0, len(said), 3)]


# ------------------------------------------------------------------------------------------------------------ stages
def stages(steps: Sequence[Step]) -> list[list[Step]]:
    """The steps in four to eight groups of about the same size; fewer where there are not so many steps."""
    wanted = min(MOST_STAGES, max(FEWEST_STAGES, round(len(steps) / A_STAGE)), len(steps))
    bounds = [round(k * len(steps) / wanted) for k in range(wanted + 1)] if wanted else []
    return [list(steps[low:high]) for low, high in zip(bounds, bounds[1:], strict=False)]


def stage_pages(question: Question, course: Course, number: str = "", drawing: Drawing | None = None) -> Iterator[Page]:
    """The construction in growing pictures, what is new drawn heavily, each with its sentences."""
    drawing = drawing or drawn(question, course)
    groups = stages(drawing.steps)
    conventions, paper = course.conventions, course.paper
    captions = [
        Caption(f"Picture {k}", " ".join(conventions.worded(f"{step.n}. {sentence(step)}") for step in group))
        for k, group in enumerate(groups, 1)
    ]
    title = course.title(question, number, "stages")
    room, size = shared_room(paper, title, 0), paper.lettering
    _, beside, below = _grid(captions, room, size)
    boxes = _boxes(room, beside, below)
    tallest = max(captions, key=lambda each: caption_height(each, boxes[0][2] - boxes[0][0], size))
    model = Cell(boxes[0], tallest, tells_scale=False)
    whole = compose(drawing, paper, title, conventions, None, cell=model)
    for first in range(0, len(groups), len(boxes)):
        marks: list[Mark] = []
        brief: list[Mark] = []
        for box, caption, group in zip(boxes, captions[first:], groups[first:], strict=False):
            pieces = _picture(drawing, whole, course, title, model, group)
            where = Placement(dx=box[0] - boxes[0][0], dy=box[1] - boxes[0][1])
            marks += [placed(mark, where) for mark in pieces]
            brief += captioned(Cell(box, caption), size)
        furniture = furnished(paper, title, conventions, "", (), f"{question.found.title}: {question.method}")
        yield replace(whole, marks=marks, brief=brief, furniture=furniture, tints=[], dimensions=(), pieces=range(0))


def _picture(drawing: Drawing, whole: Page, course: Course, title: Title, cell: Cell, group: Sequence[Step]) -> list[Mark]:
    """What there is after some steps, on paper, their own lines heavy."""
    first, last = group[0].n, group[-1].n
    apart = LinearDimension | RadiusDimension | AngleDimension
    there = [mark for mark in drawing.marks if mark.step <= last and not isinstance(mark, apart)]
    shown = [
        replace(mark, pen=Pen.OUTLINE) if mark.step >= first and mark.pen in FINE and not isinstance(mark, Area) else mark
        for mark in there
    ]
    page = compose(
        replace(drawing, marks=shown), course.paper, title, course.conventions, whole.scale, whole, hold=True, cell=cell
    )
    return page.marks


def _grid(captions: Sequence[Caption], room: Box, size: float) -> tuple[int, int, int]:
    """How many pictures on a page: as many as leave their sentences room."""
    left, low, right, high = room
    for count, beside, below in PICTURES:
        if count > max(2, len(captions) + 1):
            continue
        width, height = (right - left) / beside, (high - low) / below
        if all(caption_height(each, width, size) <= TOLD_AT_MOST * height for each in captions):
            return count, beside, below
    return PICTURES[-1]


def _boxes(room: Box, beside: int, below: int) -> list[Box]:
    left, low, right, high = room
    width, height = (right - left) / beside, (high - low) / below
    return [
        (left + column * width, high - (row + 1) * height, left + (column + 1) * width, high - row * height)
        for row in range(below)
        for column in range(beside)
    ]


# ------------------------------------------------------------------------------------------------------------ folio
def as_folio(questions: Sequence[Question], course: Course) -> Folio:
    """The questions as a folio, a sheet each."""
    sheets = tuple(
        Sheet(
            name=each.found.title,
            number=str(n),
            figures=(each.figure(f"question {n}", course.conventions.units),),
            paper=course.paper.size,  # type: ignore[arg-type]
            landscape=course.paper.landscape,
        )
        for n, each in enumerate(questions, 1)
    )
    return Folio(course.work, sheets, course.settings)
