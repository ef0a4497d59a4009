"""Lining in: the heavy result, plotted curves, dimensions and tinted pieces."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import asdict

from wisecompass.arithmetic import Number
from wisecompass.drafting import marks
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.recorder import Faired, Recorder
from wisecompass.drafting.setting import Settable, bare
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.wording import measured, number_text
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Oval, Pair, Parametric
from wisecompass.geometry.plane import Line, Point


class Lining(Recorder):
    """The part of the board that draws results rather than construction."""

    def line_in(self, *pairs: tuple[Point, Point], why: str = "", pen: Pen = Pen.OUTLINE) -> None:
        """Line in straight edges, each between two points."""
        verb = "line in" if pen in (Pen.OUTLINE, Pen.CUT) else "draw edges"
        self.step(verb, Instrument.STRAIGHTEDGE, why=why)
        self.steps[-1].makes.extend(f"{a.name}{b.name}" for a, b in pairs)
        for a, b in pairs:
            self.edge(a, b, pen, why=why)

    def edge(self, a: Point, b: Point, pen: Pen = Pen.OUTLINE, name: str = "", why: str = "", *, told: bool = True) -> None:
        """One edge between two points, or a part of one that has a ``name``, within the current step; not ``told`` where
        it only pictures what is there."""
        if told:
            self.note("line in", (a, b), why=why, more={"pen": pen.value})
        if self.drawing:
            pen = self._pen(pen)
            name = name or f"{a.name}{b.name}"
            self.put(marks.Segment, x1=float(a.x), y1=float(a.y), x2=float(b.x), y2=float(b.y), pen=pen, name=name)

    def line_in_along(self, start: Point, line: Line, length: Number, *, back: bool = False, pen: Pen = Pen.OUTLINE) -> None:
        """Line in along a line outwards from a point, so far as it is wanted: about ``length`` mm."""
        self.step("line in", Instrument.STRAIGHTEDGE)
        self.steps[-1].makes.append(line.name)
        self.note("line in", (start, line), go=-1 if back else 1, more={"pen": pen.value})
        if self.drawing:
            end = line.parallel(start).point_at(-length if back else length)
            shape = {"x1": float(start.x), "y1": float(start.y), "x2": float(end.x), "y2": float(end.y)}
            self.put(marks.Segment, pen=self._pen(pen), name=line.name, **shape)

    def line_in_both_ways(self, at: Point, line: Line, reach: Settable) -> None:
        """Line in along a line to both sides of a point, as a tangent is shown."""
        for back in (False, True):
            self.line_in_along(at, line, bare(reach), back=back)

    def line_in_between(
        self,
        line: Line,
        across: tuple[Line | Point | str, Line | Point | str],
        ends: tuple[Point, Point],
        pen: Pen = Pen.OUTLINE,
        why: str = "",
    ) -> None:
        """Line in a line from where one, or a plotted curve, crosses it to where another does, or from a point on it, within
        the current step; ``ends`` are these places."""
        self.note("line in between", (line, *across), why=why, more={"pen": pen.value})
        self.edge(*ends, pen, name=line.name, told=False)

    def line_in_arc(
        self,
        centre: Point,
        start: Point,
        end: Point,
        name: str = "",
        why: str = "",
        pen: Pen = Pen.OUTLINE,
        curves: tuple[str, str] = ("", ""),
    ) -> None:
        """Line in the arc anticlockwise from ``start`` to ``end``; or from where one of the plotted ``curves`` crosses it to
        where another does, at these places."""
        radius = plane.distance(centre, start)
        first, last = curves[0] or start, curves[1] or end
        on = (centre.name, *(each if isinstance(each, str) else each.name for each in (first, last)))
        self.step("line in arc", Instrument.COMPASS, setting=radius, on=on, makes=[name], why=why)
        if on[1] == on[2] and not any(curves):
            self.note("line in circle", (centre, start), why=why, more=_inked(pen))
        else:
            self.note("line in arc", (centre, first, last), why=why, more=_inked(pen))
        self._put_arc(centre, start, end, name, pen)

    def _put_arc(self, centre: Point, start: Point, end: Point, name: str, pen: Pen) -> None:
        if self.drawing:
            first, turn = float(plane.direction(centre, start)), float(plane.turn_at(centre, start, end))
            sweep = turn % 360 or 360.0
            self.put(
                marks.Arc,
                cx=float(centre.x),
                cy=float(centre.y),
                radius=float(plane.distance(centre, start)),
                start=first,
                sweep=sweep,
                pen=self._pen(pen),
                name=name,
            )

    def fair_ellipse(
        self, centre: Point, semi_major: Number, semi_minor: Number, angle: int, through: Sequence[Point], why: str = ""
    ) -> None:
        """Fair the ellipse through its plotted points. The mark is the true ellipse, not a spline through them."""
        self.step("fair curve", Instrument.CURVE, on=tuple(p.name for p in through), why=why)
        self.steps[-1].makes.append("ellipse")
        self.note("fair", through, ("ellipse",), why=why, more={"closed": True})
        self.faired.append(Faired(tuple(through), True, self._block))
        if self.drawing:
            self.put(
                marks.Ellipse,
                cx=float(centre.x),
                cy=float(centre.y),
                semi_major=float(semi_major),
                semi_minor=float(semi_minor),
                angle=float(angle),
                pen=self._pen(Pen.OUTLINE),
                name="ellipse",
            )

    def fair_curve(
        self,
        curve: Callable[[], Parametric | Oval | list[tuple[Parametric, Pen]]],
        through: Sequence[Point],
        name: str = "curve",
        *,
        closed: bool = False,
        why: str = "",
    ) -> None:
        """Fair a curve through its plotted points, given in their order (if ``closed``, in any). The mark is the true
        curve, which is asked for only where it is drawn; it may come in parts with pens of their own, seen and hidden."""
        self.step("fair curve", Instrument.CURVE, on=tuple(p.name for p in through), why=why)
        self.steps[-1].makes.append(name)
        self.note("fair", through, (name,), why=why, more={"closed": closed})
        self.faired.append(Faired(tuple(through), closed, self._block))
        if self.drawing:
            whole = curve()
            if isinstance(whole, Oval):
                self.put(marks.Ellipse, **asdict(whole), pen=self._pen(Pen.OUTLINE), name=name)
                return
            for part, pen in [(whole, Pen.OUTLINE)] if isinstance(whole, Parametric) else whole:
                self.put(marks.Curve, of=part, pen=self._pen(pen), name=name)

    def hatch(self, through: Sequence[Point], outline: Callable[[], Sequence[Pair]] | None = None, why: str = "") -> None:
        """Hatch a section thin, at 45°: within straight edges between points, or within the outline that they lie on."""
        self.step("hatch", Instrument.SET_SQUARE, on=tuple(p.name for p in through), why=why)
        self.note("hatch", through, why=why)
        if self.drawing:
            corners = [(float(p.x), float(p.y)) for p in through] if outline is None else outline()
            self.put(marks.Hatch, corners=tuple(corners), pen=Pen.DIMENSION)

    def tint(self, *corners: Point) -> None:
        """Tint a piece in the current step, to show what it works on."""
        if self.drawing:
            self.put(marks.Area, corners=tuple((float(p.x), float(p.y)) for p in corners))

    def tint_line(self, a: Point, b: Point) -> None:
        """Tint a line of another view that the current step takes a length from."""
        if self.drawing:
            self.put(marks.Area, corners=((float(a.x), float(a.y)), (float(b.x), float(b.y))))

    def letter(self, at: Point, name: str, toward: Pair) -> None:
        """Letter a place that is no point of the figure, in a direction from it if there is room."""
        if self.drawing:
            self.put(marks.Letter, x=float(at.x), y=float(at.y), name=name, toward=toward, pen=Pen.LETTERING)

    def dimension(
        self,
        a: Point,
        b: Point,
        *,
        offset: float = 9.0,
        clear: Number | None = None,
        text_at: float = 0.5,
        true: Number | None = None,
    ) -> None:
        """Dimension the length a–b; the line stands ``offset`` mm of paper to the left of the way from a to b,
        and ``clear`` mm of the figure farther out; its text at the share ``text_at`` of the way. The text is the
        length drawn, or the ``true`` one in a picture that shortens it."""
        if self._dimensioned:
            text = self._length_text(float(plane.distance(a, b) if true is None else true))
            self.put(
                marks.LinearDimension,
                x1=float(a.x),
                y1=float(a.y),
                x2=float(b.x),
                y2=float(b.y),
                text=text,
                offset=offset,
                clear=0.0 if clear is None else float(clear),
                text_at=text_at,
                pen=Pen.DIMENSION,
            )

    def dimension_radius(self, centre: Point, on: Point, *, across: bool = False) -> None:
        """Dimension a radius, with its leader from the centre to ``on``; or the diameter, right ``across``."""
        if self._dimensioned:
            radius = float(plane.distance(centre, on))
            text = f"Ø{self._length_text(2 * radius)}" if across else f"R{self._length_text(radius)}"
            self.put(
                marks.RadiusDimension,
                cx=float(centre.x),
                cy=float(centre.y),
                x=float(on.x),
                y=float(on.y),
                text=text,
                across=across,
                pen=Pen.DIMENSION,
            )

    def dimension_angle(self, vertex: Point, a: Point, b: Point, *, radius: float = 14.0) -> None:
        """Dimension the angle anticlockwise from vertex-a to vertex-b."""
        if self._dimensioned:
            sweep = float(plane.turn_at(vertex, a, b)) % 360
            self.put(
                marks.AngleDimension,
                x=float(vertex.x),
                y=float(vertex.y),
                start=float(plane.direction(vertex, a)),
                sweep=sweep,
                text=f"{number_text(sweep)}°",
                radius=radius,
                pen=Pen.DIMENSION,
            )

    @property
    def _dimensioned(self) -> bool:
        """Only what all solutions share and the wanted one are dimensioned."""
        return self.drawing and self._solution in (0, self.wanted_solution)

    def _length_text(self, length: float) -> str:
        """A length as dimensioned: in the folio's unit, without naming it."""
        return measured(length, "mm", self.conventions.units).split(" ")[0]

    def _pen(self, pen: Pen) -> Pen:
        """A solution that is not the wanted one is drawn as a locus instead of being lined in."""
        if pen is Pen.OUTLINE and self._solution not in (0, self.wanted_solution):
            return Pen.LOCUS
        return pen


def _inked(pen: Pen) -> dict[str, str] | None:
    """What the record says of the pen of an arc: nothing where it is the outline's."""
    return None if pen is Pen.OUTLINE else {"pen": pen.value}
