"""The names that other programs rely on: ids, givens, methods and findings of each problem."""

from __future__ import annotations

import re
import unittest
from pathlib import Path

from wisecompass import catalogue

README = Path(__file__).parents[2] / "README.md"

TRIANGLE = "side_a side_b side_c angle_a angle_b angle_c perimeter area altitude inradius circumradius"
REGULAR = (
    "side circumradius apothem interior_angle central_angle perimeter area across_flats across_corners "
    "closing_side closing_error"
)

PATTERN = "lateral_area area perimeter seam_length refold_gap"

CONTRACT: dict[str, tuple[str, tuple[str, ...], str]] = {
    "lines/perpendicular-bisector": ("length", ("equal arcs",), "half_length"),
    "lines/divide-equally": ("length parts", ("slant line and parallels",), "part_length"),
    "lines/divide-in-ratio": ("length first second", ("slant line and parallels",), "first_part second_part"),
    "lines/square-at-end": ("length", ("four equal arcs", "semicircle", "three-four-five"), "angle"),
    "lines/square-at-point": ("length offset", ("equal arcs",), "angle"),
    "lines/parallel-through-point": ("height offset", ("rhombus of arcs", "two squares"), "distance"),
    "lines/trisect-right-angle": ("radius", ("radius steps",), "third"),
    "lines/bisect-angle-without-vertex": (
        "opening_left opening_right length",
        ("parallels inside", "transversal bisectors"),
        "half_angle",
    ),
    "polygons/octagon-in-square": ("square", ("half diagonals",), "side"),
    "tangency/arc-three-points": ("A B C", ("bisectors",), "radius centre_x centre_y"),
    "tangency/arc-line-at-point": ("offset point_x point_y", ("square and bisector",), "radius"),
    "conics/hyperbola-vertex-point": (
        "vertices point_x point_y divisions",
        ("rectangle",),
        "eccentricity asymptote_angle",
    ),
    "conics/ellipse-tangent-from-point": (
        "major minor point_x point_y",
        ("director circle arcs",),
        "tangent_length_1 tangent_length_2 angle_between",
    ),
    "lines/square-from-point": ("height offset", ("two arcs", "semicircle"), "foot_offset height"),
    "lines/parallel-at-distance": ("distance", ("swung arcs", "two squares"), "distance"),
    "lines/bisect-angle": ("angle", ("equal arcs",), "half_angle"),
    "lines/copy-angle": ("angle", ("chord transfer",), "angle"),
    "lines/compass-angle": ("angle", ("sixty and bisect",), "angle"),
    "lines/root-length": (
        "radicand unit",
        ("half sum and half difference", "mean of n and 1", "stacked right triangles"),
        "length",
    ),
    "lines/mean-proportional": ("first second", ("semicircle",), "mean"),
    "lines/fourth-proportional": ("first second third", ("parallel across an angle",), "fourth"),
    "triangles/three-sides": ("base left right", ("two arcs",), TRIANGLE),
    "triangles/two-sides-angle-between": ("base side angle at", ("protractor and arc",), TRIANGLE),
    "triangles/side-two-angles": ("base left_angle right_angle", ("two rays",), TRIANGLE),
    "triangles/two-sides-angle-opposite": (
        "base left_angle right",
        ("ray and arc",),
        " ".join([TRIANGLE, *(f"{name}_2" for name in TRIANGLE.split())]),
    ),
    "triangles/hypotenuse-leg": ("hypotenuse leg", ("semicircle",), TRIANGLE),
    "triangles/circumradius-two-angles": (
        "circumradius angle_a angle_b",
        ("central angles", "tangent and angles"),
        TRIANGLE,
    ),
    "triangles/base-altitude-apex-angle": ("base altitude apex_angle", ("arc of equal angles", "centre angles"), TRIANGLE),
    "triangles/perimeter-base-angles": ("perimeter left_angle right_angle", ("halved angles",), TRIANGLE),
    "triangles/perimeter-in-ratio": ("perimeter part_a part_b part_c", ("divided line and arcs",), TRIANGLE),
    "triangles/inscribed-circle": ("base left right", ("bisectors",), f"{TRIANGLE} touch_from_a"),
    "triangles/circumscribed-circle": ("base left right", ("perpendicular bisectors",), TRIANGLE),
    "polygons/square-from-side": ("side", ("four equal arcs", "set square"), f"{REGULAR} diagonal"),
    "polygons/square-in-circle": ("diameter", ("crossing diameters", "six steps and a rectangle"), REGULAR),
    "polygons/regular-from-side": (
        "sides side",
        (
            "central angle",
            "exterior angles",
            "semicircle division",
            "four-six centre line",
            "golden pentagon",
            "hexagon arcs",
            "octagon corners",
        ),
        REGULAR,
    ),
    "polygons/regular-in-circle": (
        "sides diameter",
        ("central angle", "diameter division", "golden pentagon", "radius steps", "bisected quarters"),
        REGULAR,
    ),
    "polygons/regular-about-circle": ("sides across_flats", ("tangents at the divisions",), REGULAR),
    "polygons/from-traverse": ("lengths angles", ("sides and angles",), "closing_gap area"),
    "tangency/line-from-point": ("radius distance", ("semicircle on the distance",), "tangent_length angle_between"),
    "tangency/lines-outside-two-circles": (
        "radius_1 radius_2 distance",
        ("difference circle",),
        "tangent_length angle_to_centres belt_length",
    ),
    "tangency/lines-across-two-circles": (
        "radius_1 radius_2 distance",
        ("sum circle",),
        "tangent_length angle_to_centres belt_length",
    ),
    "tangency/arc-two-lines": (
        "angle radius",
        ("swung arcs", "perpendicular offsets", "corner arcs"),
        "setback centre_distance arc_angle arc_length",
    ),
    "tangency/arc-line-circle": (
        "line_distance circle_radius radius contact side",
        ("parallel and arc",),
        "centre_offset solutions",
    ),
    "tangency/arc-two-circles": (
        "radius_1 radius_2 distance radius contact_1 contact_2",
        ("radii added and subtracted",),
        "centre_x centre_y contact_gap_1 contact_gap_2",
    ),
    "tangency/arc-point-line": ("distance radius", ("parallel and arc",), "centre_offset"),
    "tangency/arc-point-circle": ("circle_radius distance radius contact", ("two arcs",), "centre_x centre_y"),
    "tangency/arc-three-lines": (
        "base left_angle right_angle",
        ("bisectors",),
        "radius radius_a radius_b radius_c",
    ),
    "tangency/ogee-parallel-lines": ("span rise split", ("chord and bisectors",), "radius_1 radius_2 arc_angle"),
    "tangency/three-circles": (
        "radius_1 radius_2 radius_3 centre_2 centre_3",
        ("offset and inversion",),
        "radius radius_2 radius_3 radius_4 radius_5 radius_6 radius_7 radius_8 count",
    ),
    "conics/ellipse": (
        "major minor divisions orientation",
        ("concentric circles", "trammel", "foci arcs", "rectangle", "four centres"),
        "focal_distance eccentricity area perimeter radius_end radius_side worst_gap",
    ),
    "conics/ellipse-tangent-normal": (
        "major minor position",
        ("bisected focal rays", "auxiliary circle tangent"),
        "focal_distance tangent_angle normal_angle focal_sum",
    ),
    "conics/ellipse-touching-circle": ("major minor position radius contact", ("normal",), "centre_x centre_y"),
    "conics/ellipse-axis-point": ("major point_x point_y", ("trammel", "concentric circles"), "minor"),
    "conics/ellipse-conjugate": (
        "first second angle",
        ("parallelogram", "rotated half-diameter"),
        "major minor axis_angle",
    ),
    "conics/parabola-rectangle": (
        "base height divisions",
        ("rectangle", "tangents", "offsets", "focus arcs"),
        "focal_length directrix_distance",
    ),
    "conics/focus-directrix": (
        "focus_distance eccentricity divisions",
        ("eccentricity scale",),
        "vertex_distance semi_major kind",
    ),
    "conics/hyperbola-foci": ("vertices foci", ("foci arcs",), "eccentricity asymptote_angle"),
    "conics/hyperbola-rectangular": ("point_x point_y", ("radial lines",), "constant vertex_distance"),
    "loci/archimedean-spiral": (
        "inner_diameter outer_diameter turns direction start_angle divisions",
        ("divided gap",),
        "pitch step spaces arc_length",
    ),
    "loci/archimedean-tangent-normal": (
        "inner_diameter outer_diameter turns direction start_angle divisions turned",
        ("constant of the curve",),
        "radius constant tangent_angle_to_radius",
    ),
    "loci/logarithmic-spiral": (
        "first_radius ratio step_angle turns",
        ("similar triangles",),
        "last_radius tangent_angle_to_radius",
    ),
    "loci/cycloid": (
        "rolling_diameter turns divisions",
        ("rolled circle", "levels and rolling radius"),
        "base_length arc_length area",
    ),
    "loci/trochoid": ("rolling_diameter tracing_radius turns", ("rolled circle",), "base_length kind"),
    "loci/epicycloid": ("base_diameter rolling_diameter", ("rolled circle", "concentric arcs"), "sector_angle arc_length"),
    "loci/hypocycloid": ("base_diameter rolling_diameter", ("rolled circle", "concentric arcs"), "sector_angle arc_length"),
    "loci/epitrochoid": ("base_diameter rolling_diameter", ("rolled circle",), "sector_angle"),
    "loci/hypotrochoid": ("base_diameter rolling_diameter", ("rolled circle",), "sector_angle"),
    "loci/involute-circle": ("diameter turns divisions", ("unwound tangents",), "string_length end_radius"),
    "loci/involute-polygon": ("sides side", ("swung corners",), "string_length"),
    "loci/helix": (
        "diameter lead turns hand divisions",
        ("end view and projected divisions",),
        "helix_angle length_per_turn length height",
    ),
    "loci/conical-helix": ("base_diameter height turns divisions", ("end view and projected divisions",), "length"),
    "loci/helical-strip": (
        "outer_diameter inner_diameter lead turns hand",
        ("two helices",),
        "outer_length inner_length outer_angle inner_angle",
    ),
    "loci/coil-spring": ("mean_diameter wire lead turns hand", ("helix and wire circles",), "wire_length helix_angle"),
    "space/point": ("front above", ("projectors",), "quadrant distance_to_fold"),
    "space/line-from-ends": (
        "a_front a_above b_front b_above apart",
        ("rotation", "auxiliary view", "right triangle", "trapezoid"),
        "true_length inclination_hp inclination_vp plan_length elevation_length plan_angle elevation_angle "
        "ht_x ht_front vt_x vt_above",
    ),
    "space/line-from-view-lengths": (
        "true_length plan_length elevation_length a_front a_above",
        ("right triangles",),
        "inclination_hp inclination_vp apart b_front b_above",
    ),
    "space/lamina": (
        "A B C",
        ("horizontal line and two auxiliary views", "rabatment about a level line"),
        "side_a side_b side_c angle_a angle_b angle_c area inclination_hp inclination_vp",
    ),
    "space/dihedral-angle": (
        "A B C D E F",
        ("horizontal cuts", "edges piercing"),
        "dihedral_angle obtuse_angle line_length line_start line_end extended",
    ),
    "space/line-meets-plane": ("A B C P Q", ("cutting plane", "edge view"), "pierce inside angle_to_plane"),
    "space/skew-lines": (
        "A B C D",
        ("auxiliary with parallel lines, then point view", "plane through one parallel to the other"),
        "shortest_distance angle_between foot_1 foot_2 horizontal_distance",
    ),
    "space/point-to-plane": ("A B C P", ("edge view",), "distance foot"),
    "space/hyperbolic-paraboloid": (
        "major side_angle rise elements",
        ("straight elements",),
        "minor saddle_height section_radius shortest_distance element_lengths",
    ),
    "solids/section": (
        "kind sides base top height turned plane plane_angle plane_height plane_front",
        ("cut points projected",),
        "section_area section_perimeter section_kind major minor volume_below volume_above surface_below volume_behind "
        "volume_before surface_behind",
    ),
    "solids/crates": (
        "parts views crate",
        ("each view by projectors",),
        "volume surface_area length depth height parts pieces",
    ),
    "pictorial/box": (
        "front height right scale hidden_edges",
        ("crate from the lower corner", "crate from the upper corner"),
        "front_drawn height_drawn right_drawn",
    ),
    "pictorial/right-wedge": (
        "front height right triangle",
        ("half crate",),
        "sloping_edge sloping_edge_drawn volume",
    ),
    "pictorial/circle": (
        "diameter face scale divisions share",
        ("four centres", "ordinates", "diagonal rule"),
        "long_axis short_axis long_axis_drawn short_axis_drawn radius_end radius_side worst_gap",
    ),
    "pictorial/polygon-block": (
        "sides side thickness bore face",
        ("crate measured from its sides", "crate measured from its centre"),
        "across_flats across_corners crate_width crate_height far_rim_visible far_rim_gap",
    ),
    "pictorial/cylinder": (
        "diameter height axis",
        ("crate and four centres", "ordinates"),
        "outline_length long_axis short_axis volume surface_area worst_gap",
    ),
    "pictorial/crates": (
        "parts projection scale receding_angle recedes eye_distance eye_height eye_right turned",
        ("crates",),
        "length_drawn depth_drawn height_drawn vanishing_left vanishing_right volume",
    ),
    "pictorial/cone": (
        "diameter height",
        ("crate and four centres", "ordinates"),
        "contours contour_angle slant_length volume",
    ),
    "space/line-inclined-to-both": (
        "true_length inclination_hp inclination_vp a_front a_above",
        ("rotation about the end", "auxiliary planes"),
        "plan_length elevation_length plan_angle elevation_angle b_front b_above apart ht_x ht_front vt_x vt_above",
    ),
    "developments/prism": (
        "sides side height cut cut_angle cut_height turned seam lap thickness inside lap_on ends",
        ("parallel lines",),
        f"longest_edge shortest_edge girth edge_lengths {PATTERN}",
    ),
    "developments/cylinder": (
        "diameter height cut cut_angle cut_height divisions seam lap thickness inside lap_on ends",
        ("parallel lines",),
        f"longest shortest girth generator_lengths {PATTERN}",
    ),
    "developments/pyramid": (
        "sides side height cut cut_angle cut_height turned seam lap thickness inside lap_on ends",
        ("radial lines",),
        f"slant_edge sector_angle edge_lengths {PATTERN}",
    ),
    "developments/cone": (
        "diameter height cut cut_angle cut_height divisions seam lap thickness inside lap_on ends",
        ("radial lines",),
        f"slant_length sector_angle longest shortest girth generator_lengths {PATTERN}",
    ),
    "developments/oblique-cone": (
        "diameter height offset top_height divisions seam lap thickness inside lap_on ends",
        ("triangulation", "triangulation with the girth divided"),
        f"longest shortest girth generator_lengths worst_gap {PATTERN}",
    ),
    "developments/rectangle-to-rectangle": (
        "bottom_length bottom_width top_length top_width offset_x offset_y height seam lap thickness inside lap_on ends",
        ("triangulation",),
        f"edge_1 edge_2 edge_3 edge_4 diagonal_1 diagonal_2 diagonal_3 diagonal_4 edge_lengths {PATTERN}",
    ),
    "developments/square-to-round": (
        "length width diameter offset_x offset_y height divisions seam lap thickness inside lap_on ends",
        ("triangulation", "triangulation with the girth divided"),
        f"longest shortest generator_lengths worst_gap flat_sides_1 flat_sides_4 {PATTERN}",
    ),
    "developments/round-to-round": (
        "bottom_diameter top_diameter offset tilt height divisions seam lap thickness inside lap_on ends",
        ("triangulation",),
        f"longest shortest generator_lengths worst_gap {PATTERN}",
    ),
    "developments/elbow": (
        "diameter bend_angle pieces throat_radius divisions seam lap thickness inside",
        ("parallel lines",),
        f"mitre_angle back_length throat_length blank_length girth {PATTERN}",
    ),
    "developments/branch": (
        "main_diameter branch_diameter angle offset branch_length divisions seam lap thickness inside",
        ("parallel lines",),
        f"longest shortest hole_length hole_width girth {PATTERN}",
    ),
    "developments/hemisphere": (
        "diameter by parts divisions lap thickness inside",
        ("gores", "zones"),
        "gore_length gore_width worst_gap lateral_area area perimeter",
    ),
    "developments/tray": (
        "length width height flange lap thickness inside",
        ("straight folds",),
        "blank_length blank_width lateral_area area perimeter refold_gap",
    ),
    "developments/twisted-strip": (
        "outer_diameter inner_diameter lead turns",
        ("ring blank",),
        "blank_outer blank_inner blank_angle worst_gap lateral_area area perimeter",
    ),
}


class Contract(unittest.TestCase):
    def test_every_problem_of_the_plane_is_there(self) -> None:
        plane_families = ("lines", "triangles", "polygons", "tangency", "conics", "loci")
        wanted = [problem_id for problem_id in CONTRACT if problem_id.split("/")[0] in plane_families]
        listed = [problem_id for problem_id in catalogue.ids() if problem_id.split("/")[0] in plane_families]
        self.assertEqual(sorted(wanted), sorted(listed))

    def test_givens_have_their_names_and_order(self) -> None:
        for problem_id, (givens, _, _) in CONTRACT.items():
            names = [item.name for item in catalogue.problem(problem_id).given_list]
            self.assertEqual(names[: len(givens.split())], givens.split(), problem_id)

    def test_methods_have_their_names_and_the_first_is_the_default(self) -> None:
        for problem_id, (_, methods, _) in CONTRACT.items():
            problem = catalogue.problem(problem_id)
            self.assertEqual([method.name for method in problem.methods], list(methods), problem_id)
            self.assertEqual(problem.method(None).name, methods[0])

    def test_findings_have_their_names(self) -> None:
        for problem_id, (_, _, findings) in CONTRACT.items():
            missing = set(findings.split()) - set(catalogue.problem(problem_id).findings)
            self.assertEqual(missing, set(), problem_id)

    def test_the_readme_lists_every_problem_with_its_methods(self) -> None:
        text = README.read_text(encoding="utf-8")
        table = text.split("## What it can do")[1].split("\n\n")[1]
        rows = [line.split("|")[1:3] for line in table.splitlines() if line.startswith("| `")]
        listed = {name: said for names, said in rows for name in re.findall(r"`([\w/-]+)`", names)}
        self.assertEqual(sorted(listed), sorted(catalogue.ids()))
        for problem_id, said in listed.items():
            for method in catalogue.problem(problem_id).methods:
                self.assertIn(method.name, said, problem_id)


if __name__ == "__main__":
    unittest.main()
