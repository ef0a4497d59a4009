"""Front and top view as frames on one sheet that share the fold line.

A method carries distances from view to view by projectors, as on paper; it never peeks at space. In first angle the
front view stands on the fold line and the top view hangs below it. In third angle the top view is above: it hangs
from its own trace of VP, ``gap`` mm over the ground line on which the front view stands.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.pens import Pen
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class Views:
    """The two principal views on a board, with the lines that distances are measured from."""

    board: Board
    ground: Line
    """HP seen on edge, in the front view; in first angle also VP on edge, in the top view: the fold line."""
    wall: Line
    """VP seen on edge, in the top view."""

    @staticmethod
    def on(board: Board, gap: Number) -> Views:
        """Draw the fold line; ``gap`` is the room that third angle needs between the views."""
        origin = Point(board.number(0), board.number(0))
        ground = board.level_line(origin, "fold line XY", why="HP and VP fold along it", pen=Pen.GIVEN)
        if board.conventions.projection is Projection.FIRST:
            return Views(board, ground, ground)
        wall = board.level_line(origin.moved(gap * 0, gap), "wall line", why="VP on edge, for the top view", pen=Pen.GIVEN)
        return Views(board, ground, wall)

    def in_front_view(self, name: str, x: Number, above: Number) -> Point:
        """Set out a point of the front view by its height above the ground line."""
        return Point(x, self.ground.at.y + above, self.board.conventions.front_name(name))

    def in_top_view(self, name: str, x: Number, front: Number) -> Point:
        """Set out a point of the top view by its distance in front of the wall line."""
        return Point(x, self.wall.at.y - front, self.board.conventions.top_name(name))

    def reach(self, *points: Point) -> None:
        """Draw the ground line, and the wall line where it is another, past all these points, and letter its ends."""
        if not self.board.drawing:
            return
        xs = [float(point.x) for point in points]
        room = max((max(xs) - min(xs)) * 0.11, 1e-9)
        for line in (self.ground,) if self.ground == self.wall else (self.ground, self.wall):
            for x, letter, anchor in ((min(xs) - room, "X", "right"), (max(xs) + room, "Y", "left")):
                end = Point(x, line.at.y)
                self.board.extend(line, end)
                self.board.letter(Point(x - room * (0.3 if letter == "X" else -0.3), line.at.y), letter, anchor=anchor)

    def above(self, point: Point) -> Number:
        """Height above HP of a point of the front view."""
        return point.y - self.ground.at.y

    def front(self, point: Point) -> Number:
        """Distance in front of VP of a point of the top view."""
        return self.wall.at.y - point.y

    def read(self, name: str, front_view: Point, top_view: Point) -> None:
        """Report the space point that two views show."""
        self.board.space_point(name, top_view.x, self.front(top_view), self.above(front_view))
