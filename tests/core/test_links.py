"""A number in a brief that is another figure's answer: exact through the chain, followed, refused in one sentence."""

from __future__ import annotations

import json
import random
import unittest
from dataclasses import replace
from fractions import Fraction

from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.arithmetic import BALL, PLAIN
from wisecompass.arithmetic.ball import precision
from wisecompass.arithmetic.expression import Expression, Unreadable, read, with_unit
from wisecompass.arithmetic.linked import ANGLE, LENGTH, Linked
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.errors import BadDocument, BadGiven, WiseCompassError
from wisecompass.drafting.solve import certify
from wisecompass.drafting.step import Kind
from wisecompass.folio import links, register, store
from wisecompass.folio.document import Figure, Folio, Settings
from wisecompass.folio.print import sheet_page


def figure(problem_id: str, name: str, **givens: str) -> Figure:
    return Figure(problem_id, catalogue.problem(problem_id).methods[0].name, givens, name=name)


def folio_of(*figures: Figure, units: Units = Units.MM) -> Folio:
    folio = store.empty("Barn", Settings(units=units))
    for each in figures:
        folio, _ = register.add_figure(folio, each, 0)
    return folio


RAFTER = figure("space/line-from-ends", "hip rafter", a_front="14", a_above="9", b_front="52", b_above="61", apart="47")


def linked(text: str, folio: Folio | None = None, **more: str) -> Expression:
    """A square's side as it is read in a folio with the rafter."""
    square = figure("polygons/square-from-side", "pad", side=text, **more)
    value = links.read_figure(register.add_figure(folio or folio_of(RAFTER), square, 0)[0], square)["side"]
    assert isinstance(value, Expression)
    return value


class Values(unittest.TestCase):
    def test_a_chain_is_as_exact_as_its_first_number(self) -> None:
        """38² + 52² + 47² = 6357: the side is a third of its root in every arithmetic, whatever is asked for first."""
        value = linked("hip-rafter.true_length / 3")
        self.assertAlmostEqual(float(value.evaluate(PLAIN)), 6357**0.5 / 3, places=12)
        with precision(300):
            ball = value.evaluate(BALL)
            self.assertTrue((9 * ball * ball).contains(6357))  # type: ignore[operator,union-attr]
            self.assertLess(float(ball.rad()), 1e-80)  # type: ignore[union-attr]
        folio = folio_of(RAFTER, figure("polygons/square-from-side", "pad", side="hip-rafter.true_length / 3"))
        pad = folio.sheets[0].figures[1]
        problem = catalogue.problem(pad.problem)
        certificate = certify(problem, links.read_figure(folio, pad), problem.methods[0], closed_forms=True)
        found = {answer.name: answer for answer in certificate.answers}
        self.assertEqual(found["perimeter"].closed_form, "4√6357 / 3")
        self.assertTrue(found["perimeter"].proved)
        self.assertTrue(all(check.holds for check in certificate.checks))

    def test_any_number_of_any_problem_can_be_led_on(self) -> None:
        """Over random givens a linked length is in floats and in balls what its figure's truth has, and no more."""
        rng = random.Random(16)
        tried = 0
        for problem_id in catalogue.ids():
            problem = catalogue.problem(problem_id)
            typed = feasible(problem, problem.methods[0], rng)
            raw = {name: value if isinstance(value, str) else value.text for name, value in typed.items()}
            truth = problem.find_truth(typed, PLAIN)
            source = Figure(problem_id, problem.methods[0].name, raw, name="source")
            for name, kind in problem.findings.items():
                value = truth.findings.get(name)
                if kind is not Kind.LENGTH or not isinstance(value, float) or not 0.01 < value < 1e5:
                    continue
                pad = figure("polygons/square-from-side", "pad", side=f"source.{name} * 2")
                try:
                    side = links.read_figure(folio_of(source, pad), pad)["side"]
                except BadGiven as reason:
                    self.fail(f"{problem_id} {name}: {reason}")
                assert isinstance(side, Expression)
                self.assertEqual(float(side.evaluate(PLAIN)), 2 * value, (problem_id, name))
                with precision():
                    ball = side.evaluate(BALL)
                    self.assertLess(abs(float(ball.mid()) - 2 * value), 1e-6 * (1 + value), (problem_id, name))  # type: ignore[union-attr]
                tried += 1
                break
        self.assertGreater(tried, 60)

    def test_what_hangs_on_a_number_follows_it_through_ten_figures(self) -> None:
        chain = [figure("triangles/three-sides", "t0", base="71", left="58", right="43")]
        chain += [
            figure("triangles/three-sides", f"t{k}", base=f"t{k - 1}.perimeter / 3", left="58", right="43")
            for k in range(1, 11)
        ]
        folio = folio_of(*chain)
        for base in (71.0, 60.5):
            first = replace(folio.sheets[0].figures[0], givens={"base": str(base), "left": "58", "right": "43"})
            folio = register.replace_figure(folio, (0, 0), first)
            wanted = base
            for _ in range(10):
                wanted = (wanted + 58 + 43) / 3
            last = links.read_figure(folio, folio.sheets[0].figures[10])["base"]
            assert isinstance(last, Expression)
            self.assertAlmostEqual(float(last.evaluate(PLAIN)), wanted, places=10)
            self.assertEqual(len(links.sources(folio, folio.sheets[0].figures[10])), 10)

    def test_bare_numbers_beside_a_link_have_the_folios_unit(self) -> None:
        inches = folio_of(RAFTER, units=Units.INCH)
        inches = register.replace_figure(
            inches, (0, 0), replace(RAFTER, givens={n: f"{v} mm" for n, v in RAFTER.givens.items()})
        )
        length = 6357**0.5
        for text, wanted in (
            ("hip-rafter.true_length", length),
            ("hip-rafter.true_length + 2", length + 50.8),
            ("2 - hip-rafter.true_length / 10", 50.8 - length / 10),
            ("hip-rafter.true_length / hip-rafter.plan_length", 25.4 * length / (38**2 + 47**2) ** 0.5),
        ):
            square = figure("polygons/square-from-side", "pad", side=text)
            if "plan_length" in text:  # a plain number where a length is wanted
                with self.assertRaisesRegex(BadGiven, "is a plain number; it must be a length"):
                    links.read_figure(register.add_figure(inches, square, 0)[0], square)
                continue
            side = links.read_figure(register.add_figure(inches, square, 0)[0], square)["side"]
            assert isinstance(side, Expression)
            self.assertAlmostEqual(float(side.evaluate(PLAIN)), wanted, places=9, msg=text)

    def test_a_number_of_a_list_and_of_a_brief(self) -> None:
        self.assertEqual(linked("hip-rafter.a_front").fraction(), 14)
        hopper = figure("developments/rectangle-to-rectangle", "hopper")
        truth = catalogue.problem(hopper.problem).find_truth(links.read_figure(folio_of(hopper), hopper), PLAIN)
        name = next(name for name, value in truth.findings.items() if isinstance(value, tuple))
        many = truth.findings[name]
        assert isinstance(many, tuple)
        value = linked(f"hopper.{name}.2", folio_of(hopper))
        self.assertEqual(float(value.evaluate(PLAIN)), float(many[1]))  # type: ignore[arg-type]
        for text in (f"hopper.{name}", f"hopper.{name}.99", "hopper.seam_length.1"):
            with self.assertRaisesRegex(WiseCompassError, "say which|not a list"):
                linked(text, folio_of(hopper))

    def test_units_are_written_after_what_has_none(self) -> None:
        self.assertEqual(with_unit("pad.side + 2", "cm"), "pad.side + 2 cm")
        self.assertEqual(with_unit("pad.side", "cm"), "pad.side")

    def test_numbers_are_no_links(self) -> None:
        def none(*_: object) -> Linked:
            raise AssertionError("asked for")

        for text, value in (("18.5", "37/2"), ("3.in", "381/5"), ("84.", "84"), ("1 1/2 in", "381/10"), ("2*3.5", "7")):
            self.assertEqual(read(text, links=none).fraction(), Fraction(value))

    def test_a_minus_is_no_hyphen_where_the_name_says_so(self) -> None:
        def length(name: str, finding: str, item: int | None) -> Linked:
            if name != "hip":
                raise Unreadable("no")
            return Linked("hip · length", LENGTH, lambda arithmetic: arithmetic.number(10))

        self.assertEqual(float(read("84-hip.length", links=length).evaluate(PLAIN)), 74.0)
        self.assertEqual(read("84-hip.length", links=length).dimension, LENGTH)


class Refusals(unittest.TestCase):
    def says(self, text: str, words: str, folio: Folio | None = None) -> None:
        with self.assertRaisesRegex(WiseCompassError, words) as caught:
            linked(text, folio)
        self.assertEqual(len(str(caught.exception).splitlines()), 1)

    def test_each_in_one_sentence(self) -> None:
        self.says("hip-raftr.true_length", "no figure “hip-raftr” in this folio; there is “hip-rafter”")
        self.says("hip-rafter.girth", "hip rafter has no “girth”; it has true_length")
        self.says("hip-rafter.inclination_hp", "is an angle; it must be a length")
        self.says("hip-rafter.true_length + hip-rafter.inclination_hp", "a length and an angle cannot be added")
        self.says("hip-rafter.true_length / 0", "divides by zero")
        self.says("sqrt(0 - hip-rafter.true_length)", "root of a negative")
        self.says("pad.side", "pad would hang on itself: pad ← pad")
        self.says("hip-rafter.ht_x", "is no number", folio_of(replace(RAFTER, givens={**RAFTER.givens, "b_above": "9"})))
        self.says("hip-rafter.true_length - 5000", "too small")

    def test_circles_are_named(self) -> None:
        one = figure("polygons/square-from-side", "one", side="two.side")
        two = figure("polygons/square-from-side", "two", side="one.side / 2")
        with self.assertRaisesRegex(WiseCompassError, "one ← two ← one"):
            links.read_figure(folio_of(one, two), one)

    def test_without_a_folio_there_is_nothing_to_link_to(self) -> None:
        with self.assertRaisesRegex(BadGiven, "no folio"):
            catalogue.problem("polygons/square-from-side").read({"side": "hip-rafter.true_length"})

    def test_a_link_to_a_refused_or_lost_figure_is_kept_and_said(self) -> None:
        pad = figure("polygons/square-from-side", "pad", side="hip-rafter.true_length")
        broken = folio_of(replace(RAFTER, problem="space/unheard-of"), pad)
        for folio, words in ((folio_of(pad), "no figure “hip-rafter”"), (broken, "hip rafter admits no figure")):
            again = store.checked(json.loads(store.dumps(folio)), "again")
            self.assertEqual(again, folio)
            _, said = sheet_page(folio, 0)
            self.assertRegex(" ".join(said), words)


class Names(unittest.TestCase):
    def test_a_new_name_keeps_its_links(self) -> None:
        folio = folio_of(
            RAFTER, figure("polygons/square-from-side", "pad", side="hip-rafter.true_length / 3 + hip-rafter.apart")
        )
        wanted = float(linked("hip-rafter.true_length / 3 + hip-rafter.apart").evaluate(PLAIN))
        for name in ("main rafter", "крокв 2", "梁", "a.b (c)", "7", "x" * 60, "Hip-Rafter"):
            folio = register.rename_figure(folio, (0, 0), name)
            value = links.read_figure(folio, folio.sheets[0].figures[1])["side"]
            assert isinstance(value, Expression)
            self.assertEqual(float(value.evaluate(PLAIN)), wanted, name)
        self.assertIn("Hip-Rafter", folio.sheets[0].figures[1].givens["side"])

    def test_no_two_figures_are_called_alike_in_a_link(self) -> None:
        folio = folio_of(RAFTER, replace(RAFTER, name="hip-rafter"), replace(RAFTER, name="hip  rafter!"))
        names = register.figure_names(folio)
        self.assertEqual(len({links.slug(name) for name in names}), 3, names)
        with self.assertRaisesRegex(BadDocument, "name of another figure; free is"):
            register.rename_figure(folio, (0, 1), "hip-rafter")

    def test_what_is_offered_fits_and_can_be_typed(self) -> None:
        folio = folio_of(RAFTER, figure("triangles/three-sides", "gusset"))
        pad = figure("polygons/square-from-side", "pad")
        offered = links.offered(folio, pad, LENGTH)
        self.assertIn("hip-rafter.true_length", offered)
        self.assertIn("gusset.perimeter", offered)
        self.assertNotIn("gusset.area", offered)
        for link in offered:
            self.assertGreater(float(linked(f"sqrt({link}*{link}) + 1", folio).evaluate(PLAIN)), 1.0)
        self.assertIn("gusset.angle_a", links.offered(folio, pad, ANGLE))


if __name__ == "__main__":
    unittest.main()
