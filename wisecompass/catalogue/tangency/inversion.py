"""Inversion by hand: a point is carried to its image on the ray from the centre by two similar triangles, a circle to the
circle over the images of a diameter's ends, and a line touching both images is what the wanted circle becomes."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import absolute, roughly
from wisecompass.catalogue.tangency.eight_circles import Layout, ThreeCircles, shrunk
from wisecompass.catalogue.tangency.touching import solution_name
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import bind_rational
from wisecompass.drafting.setting import span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class Image:
    """What an offset circle becomes: a circle, a point (``dot``), or a line where it passes through the centre."""

    shape: Circle | Line
    dot: bool = False
    through: Point | None = None
    """A point of its circle."""


@dataclass(frozen=True)
class Ray:
    """A line through the inversion centre, its perpendicular there, and where both meet the inversion circle."""

    line: Line
    across: Line
    across_end: Point
    end: Point


def inversion_circle(b: Board, g: ThreeCircles, centre: Point) -> Circle:
    """Any will do: one about as far out as the other centres keeps the images on the sheet."""
    exact = bind_rational(ThreeCircles, g.__dict__["_typed"])
    far = sum(abs(value) for value in (*exact.centre_2, *exact.centre_3)) / 2 or exact.radius_2 + exact.radius_3
    radius = b.any_opening(b.number(Fraction(f"{float(far):.2g}")))
    return b.arc(centre, radius, whole=True, name="inversion circle", why="any size will do")


@dataclass(frozen=True)
class Inversion:
    """The way to one solution: ``n`` is its number, ``circle`` the inversion circle about circle 1's centre. ``known``
    holds the images that solutions before it have used, by circle and sign."""

    b: Board
    g: ThreeCircles
    laid: Layout
    n: int
    circle: Circle
    known: dict[tuple[int, int], Image]

    def named(self, name: str) -> str:
        return solution_name(name, self.n)

    # -------------------------------------------------------------------------------------------------------- points
    def ray(self, line: Line) -> Ray:
        """Set up a line through the centre for inverting points of it."""
        b, centre = self.b, self.circle.centre
        across = b.square(line, centre, "square at O1", why="to set up similar triangles")
        end = b.meet(across, self.circle, plane.beyond(across))
        return Ray(line, across, end, b.meet(line, self.circle, plane.beyond(line)))

    def invert(self, ray: Ray, point: Point, name: str) -> Point:
        """The image of a point of a ray: its distance times the image's is the square of the inversion circle's radius."""
        b, centre = self.b, self.circle.centre
        slope = b.line(point, ray.across_end, f"slope of {point.name}")
        carried = b.parallel(slope, ray.end, "carried line", why="which cuts the square at the image's distance")
        height = b.meet(carried, ray.across)
        swung = b.arc(centre, span(centre, height), why="down to the ray")
        b.touch(swung, height)
        return b.meet(swung, ray.line, plane.nearest(point), self.named(name))

    # ------------------------------------------------------------------------------------------------------- circles
    def image(self, i: int, given: Circle) -> Image:
        """The image of given circle 2 (``i`` 0) or 3 (1), offset by the radius of circle 1: drawn where it is shown, and
        once for all other solutions that need it."""
        key = (i, self.laid.found.signs[i])
        if self.n == self.b.wanted_solution or key not in self.known:
            self.known[key] = self._drawn_image(i, given)
        return self.known[key]

    def _drawn_image(self, i: int, given: Circle) -> Image:
        b, tag = self.b, str(i + 2)
        radius = absolute(shrunk(self.g, self.laid.found.signs)[i])
        line = self._line_to(i, given.centre)
        if self.laid.offset[i] == 0:
            return Image(Circle(self.invert(self.ray(line), given.centre, f"N{tag}"), radius), dot=True)
        taken = f"radius {tag} {'less' if self.laid.found.signs[i] > 0 else 'and'} radius 1"
        offset = b.arc(given.centre, radius, whole=True, name=f"offset circle {tag}", why=taken)
        far = b.meet(offset, line, plane.beyond(line), self.named(f"U{tag}"))
        near = b.meet(offset, line, plane.short_of(line), self.named(f"V{tag}"))
        ray = self.ray(line)
        far_image = self.invert(ray, far, f"N{tag}")
        if self.laid.power[i] == 0:
            return Image(b.square(line, far_image, f"image {tag}", why="a circle through O1 becomes a line"))
        near_image = self.invert(ray, near, f"W{tag}")
        middle = b.meet(b.bisector(far_image, near_image, f"bisector {tag}"), line, name=self.named(f"M{tag}"))
        return Image(b.circle_through(middle, far_image, name=f"image {tag}"), through=far_image)

    def _line_to(self, i: int, centre: Point) -> Line:
        if self.laid.same_centre[i] == 0:
            return self.b.level_line(self.circle.centre, "level ray")
        return self.b.line(self.circle.centre, centre, f"ray to O{i + 2}")

    # ------------------------------------------------------------------------------------------------------ tangents
    def tangent(self, images: list[Image]) -> Line:
        """The line that touches both images and becomes the wanted circle."""
        first, second = images
        lines = [image.shape for image in images if isinstance(image.shape, Line)]
        if lines:
            (circle,) = (image for image in images if isinstance(image.shape, Circle))
            return self._parallel_tangent(lines[0], circle)
        assert isinstance(first.shape, Circle) and isinstance(second.shape, Circle)
        if first.dot and second.dot:
            return self.b.line(first.shape.centre, second.shape.centre, "tangent", why="both images are points")
        big, small = images if self.laid.larger >= 0 else images[::-1]
        assert isinstance(big.shape, Circle)
        touch = self._touch(big, small)
        radius = Line.through(big.shape.centre, touch, "radius")
        return self.b.square(radius, touch, "tangent", why="square to the radius")

    def _parallel_tangent(self, line: Line, image: Image) -> Line:
        assert isinstance(image.shape, Circle)
        centre, why = image.shape.centre, "it touches both images"
        if image.dot:
            return self.b.parallel(line, centre, "tangent", why=why)
        across = self.b.square(line, centre, "square to the image")
        target = self._towards(centre)
        ahead = across.dx * (target.x - centre.x) + across.dy * (target.y - centre.y)
        wanted = (plane.beyond if roughly(ahead) > 0 else plane.short_of)(across)
        touch = self.b.meet(across, image.shape, wanted, self.named("S"))
        return self.b.parallel(line, touch, "tangent", why=why)

    def _touch(self, larger: Image, smaller: Image) -> Point:
        """Where the tangent touches the larger image, by the circle of the sum or the difference of both radii."""
        b, big, small = self.b, larger.shape, smaller.shape
        assert isinstance(big, Circle) and isinstance(small, Circle)
        axis = b.line(big.centre, small.centre, "centre line")
        senses = [offset * power for offset, power in zip(self.laid.offset, self.laid.power, strict=True)]
        crossing = senses[0] * senses[1] < 0  # images of opposite sense are touched on opposite sides
        if self.laid.found.root == 0:
            b.step_through(axis, big)
            return b.meet(axis, big, plane.beyond(axis), self.named("S"))
        side = roughly(plane.side_of(self._towards(big.centre), axis))
        wanted = (plane.left_of if side > 0 else plane.right_of)(axis)
        if not crossing and self.laid.larger == 0:
            return b.meet(b.square(axis, big.centre, "square to the centres"), big, wanted, self.named("S"))
        helper = big
        if smaller.through is not None:
            rim = b.meet(axis, big, plane.beyond(axis))
            carried = span(small.centre, smaller.through)
            end = b.lay_off(axis, rim, carried, self.named("H"), back=not crossing, why="the radius of the smaller image")
            taken = "the sum of both images" if crossing else "the difference of both images"
            helper = b.arc(big.centre, span(big.centre, end), whole=True, name="helper circle", why=taken)
        middle = b.meet(b.bisector(big.centre, small.centre, "bisector"), axis, name=self.named("M"))
        arch = b.arc(middle, span(middle, small.centre), why="across the helper circle")
        ray = b.line(big.centre, b.meet(arch, helper, wanted, self.named("Q")), "radius", why="on to the image")
        return b.meet(ray, big, plane.beyond(ray), self.named("S"))

    def _towards(self, point: Point) -> Point:
        """Roughly the foot of the perpendicular from a point on the tangent, to tell two crossings apart."""
        b, radius = self.b, self.circle.radius
        x, y = b.number(self.laid.x), b.number(self.laid.y)
        share = (radius * radius / 2 - point.x * x - point.y * y) / (x * x + y * y)
        return Point(point.x + x * share, point.y + y * share)
