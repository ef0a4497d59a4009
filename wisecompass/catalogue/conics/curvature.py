"""The centre of curvature of any conic, by two perpendiculars: the radius of curvature is the normal over the square of the
cosine between normal and focal ray (Mannheim)."""

from __future__ import annotations

from wisecompass.drafting.board import Board
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


def centre_of_curvature(b: Board, at: Point, normal: Line, axis: Line, ray: Line, name: str) -> Point:
    """Where the normal meets the focal axis a perpendicular to it meets the focal ray; one to that ray ends at the centre.
    On a parabola the ray may be parallel to the axis instead. Reports the radius of curvature."""
    with b.may_be_far():
        on_axis = b.meet(normal, axis, name="N")
        across = b.square(normal, on_axis, "square at N", why=f"to the normal, as far as the {ray.name}")
        turn = b.meet(across, ray, name="K")
        back = b.square(ray, turn, "square at K", why=f"to the {ray.name}, as far as the normal")
        centre = b.meet(back, normal, name=name)
    b.find("curvature_radius", plane.distance(at, centre))
    return centre
