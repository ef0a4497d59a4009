"""Whatever is refused, what is offered instead works, and nothing nearer does."""

from __future__ import annotations

import os
import random
import unittest
from fractions import Fraction
from typing import TypeAlias

from wisecompass import catalogue
from wisecompass.arithmetic.expression import Expression
from wisecompass.drafting.errors import BadGiven, Infeasible, WiseCompassError
from wisecompass.drafting.givens import Form, Given
from wisecompass.drafting.problem import Method, Problem

REFUSALS = int(os.environ.get("WISE_COMPASS_REFUSALS", "5"))
"""Of each problem; the long trial takes 50."""

ODD = ("0", "-3", "1/0", "abc", "", "sqrt(-1)", "1/(2-sqrt(4))", "180", "1e9", "2*sqrt(3)", "1 1/2 in", "99999999", "0.0001")


def typed_number(item: Given, rng: random.Random) -> str:
    if item.form.each is Form.COUNT:
        return str(rng.randint(-2, 40))
    if rng.random() < 0.1:
        return rng.choice(ODD)
    if item.form.each is Form.ANGLE:
        return f"{rng.uniform(-20, 200):.3f}"
    if item.form.each is Form.RATIO:
        return f"{rng.uniform(-0.5, 4):.3f}"
    return f"{rng.uniform(-0.1, 1) * rng.choice((10, 100, 1000, 1e6)):.3f}"


def typed(item: Given, rng: random.Random) -> str:
    if item.form is Form.CHOICE:
        return rng.choice(item.choices)
    if item.form.each is item.form:
        return typed_number(item, rng)
    count = rng.randint(1, item.longest + 1) if rng.random() < 0.2 else rng.randint(item.fewest, item.fewest + 2)
    return ", ".join(typed_number(item, rng) for _ in range(min(count, 9)))


Refusal: TypeAlias = tuple[dict[str, str], str, Method | None, WiseCompassError]
"""Givens as typed, the unit of the folio, the method that does not serve if it is one, and the reason."""


class Offers(unittest.TestCase):
    def refusals(self, problem: Problem, rng: random.Random) -> list[Refusal]:
        """Random givens that are refused."""
        found: list[Refusal] = []
        for _ in range(40 * REFUSALS):
            if len(found) == REFUSALS:
                break
            items = [item for item in problem.given_list if rng.random() < 0.6] or [rng.choice(problem.given_list)]
            raw, unit, method = {item.name: typed(item, rng) for item in items}, rng.choice(("mm", "in")), None
            try:
                read = problem.read(raw, unit)
                limited = [one for one in problem.methods if one.only]
                if limited:
                    method = rng.choice(limited)
                    problem.require_method(method, read, unit)
            except WiseCompassError as reason:
                found.append((raw, unit, method, reason))
        return found

    def test_every_offer_works_when_it_is_typed(self) -> None:
        rng = random.Random(1126)
        tried = 0
        for problem in map(catalogue.problem, catalogue.ids()):
            for raw, unit, method, reason in self.refusals(problem, rng):
                with self.subTest(problem=problem.id, raw=raw, unit=unit):
                    assert isinstance(reason, BadGiven | Infeasible)
                    self.assertTrue(reason.offer, str(reason))
                    self.assertLess(len(str(reason)), 420)
                    for text in raw.values():
                        self.assertFalse(len(text) > 60 and text in str(reason))
                    read = problem.read({**raw, **reason.offer}, unit)
                    if method is not None:
                        problem.require(method.only, read)
                    tried += 1
        self.assertGreater(tried, 60 * REFUSALS)

    def test_a_single_number_that_is_offered_is_the_nearest(self) -> None:
        """Between what was typed and what is offered, on either side, nothing else works: tried at random thousandths."""
        rng = random.Random(7)
        nearer, tried = [], 0
        for problem in map(catalogue.problem, catalogue.ids()):
            for raw, unit, method, reason in self.refusals(problem, rng):
                if unit != "mm" or method is not None or not isinstance(reason, Infeasible) or len(reason.offer) != 1:
                    continue
                ((name, text),) = reason.offer.items()
                items = {item.name: item for item in problem.given_list}
                item, was = items[name], items[name].read(raw.get(name, items[name].default))
                offered = item.read(text)
                if not isinstance(was, Expression) or not isinstance(offered, Expression) or item.form is Form.COUNT:
                    continue
                at, to = was.fraction(), offered.fraction()
                if at is None or to is None:
                    continue
                tried += 1
                far = abs(to - at) - Fraction(1, 1000)
                for _ in range(10):
                    place = round((at + far * Fraction(rng.uniform(-1, 1))) * 1000) / Fraction(1000)
                    if abs(place - at) >= far:
                        continue
                    try:
                        problem.read({**raw, name: str(float(place))}, "mm", offers=False)
                    except WiseCompassError:
                        continue
                    nearer.append((problem.id, raw, name, text, float(place)))
        self.assertGreater(tried, 30)
        self.assertEqual(nearer, [])

    def test_where_two_limits_bind_both_numbers_are_named(self) -> None:
        problem = catalogue.problem("space/line-from-view-lengths")
        with self.assertRaisesRegex(BadGiven, "change .* and ") as caught:
            problem.read({"true_length": "abc", "plan_length": "-4", "elevation_length": "1"})
        self.assertGreaterEqual(len(caught.exception.offer), 2)

    def test_offers_of_a_folio_in_inches_say_millimetres(self) -> None:
        problem = catalogue.problem("tangency/arc-two-lines")
        with self.assertRaises(BadGiven) as caught:
            problem.read({"radius": "-3"}, "in")
        self.assertEqual(caught.exception.offer, {"radius": "0.001 mm"})

    def test_numbers_that_are_none_are_decided_where_they_are_read(self) -> None:
        for text, words in (
            ("sqrt(-1)", "root of a negative number"),
            ("1/(2-sqrt(4))", "divides by zero"),
            ("1/(sqrt(2)*sqrt(2)-2)", "cannot be told from zero"),
            ("sqrt(3-2*pi)", "root of a negative number"),
            ("9" * 5000, "longer than 80 characters"),
            (10**5000, "digits"),
            (float("nan"), "not a number"),
            (float("inf"), "not a number"),
        ):
            for problem in map(catalogue.problem, catalogue.ids()):
                item = next((item for item in problem.given_list if item.form.each is not Form.CHOICE), None)
                if item is not None and item.form is item.form.each:
                    with self.subTest(problem=problem.id, text=str(text)[:20] if isinstance(text, str) else "?"):
                        with self.assertRaisesRegex(BadGiven, words) as caught:
                            problem.read({item.name: text})  # type: ignore[dict-item]
                        self.assertLess(len(str(caught.exception)), 300)


class Units(unittest.TestCase):
    def test_a_trailing_dot_does_not_hide_from_the_unit(self) -> None:
        item = catalogue.problem("polygons/from-traverse").given_list[0]
        read = item.read("84.,57., 2*pi, 1/4 in")
        values = [float(each.fraction() or 0) for each in read.items]  # type: ignore[union-attr]
        self.assertEqual((values[0], values[1], values[3]), (84 * 25.4, 57 * 25.4, 25.4 / 4))

    def test_changing_units_keeps_every_list_its_size(self) -> None:
        from wisecompass.arithmetic import PLAIN
        from wisecompass.folio.document import Figure
        from wisecompass.folio.print import with_units

        rng = random.Random(4)
        problem = catalogue.problem("polygons/from-traverse")
        for _ in range(60):
            pieces = [rng.choice(("84.", "57", "3/4", "2*sqrt(3)", "pi", "1 1/2 in", "6 cm", "(4)")) for _ in range(5)]
            text = ", ".join(pieces)
            figure = Figure(problem.id, problem.methods[0].name, {"lengths": text})
            before = problem.read(figure.givens, "in")["lengths"].items  # type: ignore[union-attr]
            after = problem.read(with_units(figure, "in").givens, "mm")["lengths"].items  # type: ignore[union-attr]
            sizes = [[float(each.evaluate(PLAIN)) for each in items] for items in (before, after)]
            self.assertEqual(*sizes, text)

    def test_a_corner_table_keeps_its_millimetres(self) -> None:
        from wisecompass.exchange.points import as_givens, read_points

        problem = catalogue.problem("space/lamina")
        points = read_points("A,10.,12,16\nB,45,40.,57\nC,102,15,24.\n")
        first = problem.read(as_givens(problem, points), "in")["A"].items[0]  # type: ignore[union-attr]
        self.assertEqual(first.fraction(), 10)


if __name__ == "__main__":
    unittest.main()
