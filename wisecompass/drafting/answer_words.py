"""Answers in a drafter's words: what a finding's name stands for on screen and on paper. Names in files and JSON stay."""

from __future__ import annotations

import re

WORDS = {
    "altitude_2": "altitude, second triangle",
    "angle_a": "angle at A",
    "angle_a_2": "angle at A, second triangle",
    "angle_b": "angle at B",
    "angle_b_2": "angle at B, second triangle",
    "angle_c": "angle at C",
    "angle_c_2": "angle at C, second triangle",
    "angle_to_centres": "angle with the line of centres",
    "angle_to_centres_2": "angle of the inner with the line of centres",
    "apart": "projectors apart",
    "apart_2": "projectors apart, second line",
    "area_2": "area, second triangle",
    "axis_angle": "angle of the axis",
    "axis_elevation_length": "front view length of the axis",
    "axis_inclination_vp": "inclination of the axis to VP",
    "axis_plan_angle": "top view angle of the axis",
    "axis_plan_length": "top view length of the axis",
    "b_above": "B above HP",
    "b_front": "B in front of VP",
    "centre_x": "centre to the right",
    "centre_y": "centre upwards",
    "centre_y_2": "centre upwards, second arc",
    "circumradius_2": "circumradius, second triangle",
    "depth_drawn": "depth as drawn",
    "elevation_angle": "front view angle",
    "elevation_length": "front view length",
    "far_rim_visible": "far rim shows",
    "front_drawn": "front as drawn",
    "height_drawn": "height as drawn",
    "ht_front": "HT in front of VP",
    "ht_x": "HT from A's projector",
    "ht_x_2": "HT from A's projector, second line",
    "inclination_hp": "inclination to HP",
    "inclination_vp": "inclination to VP",
    "inradius_2": "inradius, second triangle",
    "length_drawn": "length as drawn",
    "long_axis_drawn": "long axis as drawn",
    "opening_angle": "opening angle at the centre",
    "perimeter_2": "perimeter, second triangle",
    "plan_angle": "top view angle",
    "plan_length": "top view length",
    "radius_a": "radius beyond side a",
    "radius_b": "radius beyond side b",
    "radius_c": "radius beyond side c",
    "radius_end": "radius at the end",
    "radius_side": "radius at the side",
    "refold_gap": "gap when folded up again",
    "right_drawn": "right as drawn",
    "short_axis_drawn": "short axis as drawn",
    "side_a": "side a, opposite A",
    "side_a_2": "side a, second triangle",
    "side_b": "side b, opposite B",
    "side_b_2": "side b, second triangle",
    "side_c": "side c, opposite C",
    "side_c_2": "side c, second triangle",
    "sloping_edge_drawn": "sloping edge as drawn",
    "surface_behind": "surface behind the plane",
    "surface_below": "surface below the plane",
    "tangent_angle_to_radius": "angle of tangent and radius",
    "touch_from_a": "point of touch from A",
    "vanishing_left": "left vanishing point",
    "vanishing_right": "right vanishing point",
    "volume_above": "volume above the plane",
    "volume_before": "volume in front of the plane",
    "volume_behind": "volume behind the plane",
    "volume_below": "volume below the plane",
    "vt_above": "VT above HP",
    "vt_x": "VT from A's projector",
    "vt_x_2": "VT from A's projector, second line",
    "worst_gap_along": "worst gap along the axis",
}
"""Names that are not words as they stand."""

_DRAWN = re.compile(r"(.+)_drawn")


def answer_words(name: str) -> str:
    """A finding's name as a drafter says it.

    >>> answer_words("ht_x")
    "HT from A's projector"
    """
    if name in WORDS:
        return WORDS[name]
    drawn = _DRAWN.fullmatch(name)
    return f"{answer_words(drawn[1])} as drawn" if drawn else name.replace("_", " ")
