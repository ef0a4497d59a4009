"""The commands that judge: what a hand can hope for, and questions turned round."""

from __future__ import annotations

import argparse
import json
from fractions import Fraction
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadGiven

if TYPE_CHECKING:
    from collections.abc import Callable

    from wisecompass.drafting.givens import Typed
    from wisecompass.drafting.hand import Hand
    from wisecompass.drafting.problem import Method, Problem
    from wisecompass.drafting.solve import Drawing
    from wisecompass.folio.page import Page
    from wisecompass.judgement.hands import OnPaper
    from wisecompass.judgement.prepared import Reading

    Request = tuple[Problem, Method, Typed, int]


PAPERS = ("A4", "A3", "A2", "A1", "A0", "Letter")


def add_parsers(commands: Any) -> None:
    """The parsers of these commands."""
    budget = commands.add_parser("budget", help="how near a hand comes, which steps cost most, and what hangs on what")
    _common(budget)
    hand = "steady, ordinary, rough, or needle=0.1,compass=0.2,…: standard deviations in mm, of the protractor in degrees"
    budget.add_argument("--hand", default="ordinary", help=hand)
    budget.add_argument("--scale", default="1:1", help="the drawing scale, such as 1:2")
    budget.add_argument(
        "--tolerance", action="append", default=[], metavar="NAME=VALUE", help="of a given, to be carried to the answers"
    )
    judge = commands.add_parser("judge", help="what measured figures say of a drawing: hand error, a slip, or which step")
    _common(judge)
    judge.add_argument("--hand", default="ordinary", help=hand)
    judge.add_argument("--scale", default="1:1", help="the drawing scale, such as 1:2")
    shows = "what the paper shows, such as setback=25.3 or A-C=58±0.3; may be repeated"
    judge.add_argument("--measured", action="append", default=[], metavar="NAME=VALUE", help=shows)
    judge.add_argument("--readings", metavar="FILE", help="the same as a CSV table figure,measured,accuracy")
    clicks = "letters clicked on a photograph: a CSV table name,x,y in pixels, the paper's corners as lower left and so on"
    judge.add_argument("--clicks", metavar="FILE", help=clicks)
    judge.add_argument("--paper", choices=PAPERS, default="A4", help="of the photograph's sheet")
    judge.add_argument("--portrait", action="store_true", help="that paper upright")
    judge.add_argument("--tolerance", default="shop", help="school, shop, or mm of paper and degrees: 0.3, 0.25")
    photo = commands.add_parser("photograph", help="a picture of a sheet as some hand draws it: the stand-in for a camera")
    _common(photo)
    photo.add_argument("--out", metavar="FILE", help="where the PNG goes")
    lie = "where the letters and corners lie on it, as judge --clicks reads them"
    photo.add_argument("--clicks-out", metavar="FILE", help=lie)
    photo.add_argument("--hand", default="ordinary", help=hand)
    photo.add_argument("--scale", default="fit", help="fit, or a ratio such as 1:2")
    photo.add_argument("--paper", choices=PAPERS, default="A4")
    photo.add_argument("--portrait", action="store_true", help="paper upright")
    photo.add_argument("--seed", type=int, default=1, help="which of all such hands")
    photo.add_argument("--slip", type=int, metavar="N", help="make the N-th mistake of those that --slips lists")
    photo.add_argument("--slips", action="store_true", help="list the mistakes that this method has, and end")
    photo.add_argument("--gross", metavar="STEP=MM", help="go wrong at a step by so many mm of paper, or degrees")
    photo.add_argument("--tilt", type=float, default=18.0, help="of the camera, degrees")
    photo.add_argument("--dpi", type=float, default=150.0, help="dots to the inch of paper")
    turn = commands.add_parser("turn", help="what a given must be for an answer to be what is wished")
    _common(turn)
    turn.add_argument("--want", required=True, metavar="FINDING=VALUE", help="an answer and what it should be")
    turn.add_argument("--vary", required=True, metavar="GIVEN[=LOW,HIGH]", help="the given that may give way")


def _common(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("problem", help="an id from the list, or a file {problem, method, givens}")
    parser.add_argument("--method", help="default: the first listed")
    parser.add_argument("--set", action="append", default=[], metavar="NAME=VALUE", help="a given; may be repeated")
    parser.add_argument("--solution", type=int, default=None, help="which of several answers is lined in")
    parser.add_argument("--json", action="store_true")
    parser.set_defaults(points=None)


def run_budget(args: argparse.Namespace, request: Callable[[argparse.Namespace], Request]) -> int:
    """Reaches, blame and helps of every answer, and the slopes by every given."""
    from wisecompass.judgement.hands import reaches, read_hand
    from wisecompass.judgement.sensitivity import carried, sensitivities

    sheet = _sheet(args, request)
    problem, method, typed, scale = sheet.problem, sheet.method, sheet.typed, sheet.scale
    hand = read_hand(args.hand)
    found, slopes = reaches(sheet, hand), sensitivities(problem, typed)
    tolerances = _tolerances(args.tolerance, problem, typed)
    within = carried(problem, typed, tolerances) if tolerances else {}
    if args.json:
        told: dict[str, Any] = {
            "problem": problem.id,
            "method": method.name,
            "scale": scale,
            "findings": {
                name: {
                    "spread": each.spread,
                    "reach": each.reach,
                    "failed": each.failed,
                    "wild": each.wild,
                    "blame": [{"step": step, "share": share} for step, share in each.blame],
                }
                for name, each in found.items()
            },
            "sensitivity": {name: {given: _slope(one) for given, one in row.items()} for name, row in slopes.items() if row},
        }
        if within:
            told["carried"] = {n: {"low": c.low, "high": c.high, "proved": c.proved} for n, c in within.items()}
        print(json.dumps(told, ensure_ascii=False, indent=2, allow_nan=False))
        return 0
    _print_budget(problem, sheet, hand, found, slopes, within)
    return 0


def _sheet(args: argparse.Namespace, request: Callable[[argparse.Namespace], Request]) -> OnPaper:
    """The construction that is asked about, on its paper."""
    from wisecompass.folio.scales import read_scale
    from wisecompass.judgement.hands import OnPaper

    problem, method, typed, solution = request(args)
    problem.require_method(method, typed)
    scale = read_scale(args.scale)
    if scale is None:
        raise BadGiven("scale", "--scale fit: a hand's reach hangs on the scale; give a ratio such as 1:2", "1:1")
    return OnPaper(problem, typed, method, float(scale), solution=solution)


def run_judge(args: argparse.Namespace, request: Callable[[argparse.Namespace], Request]) -> int:
    """The verdict on what was measured."""
    from pathlib import Path

    from wisecompass.judgement.asked import finding_words
    from wisecompass.judgement.hands import read_hand
    from wisecompass.judgement.marking import kind_of_figure, passes, read_reading, read_table, read_tolerance
    from wisecompass.judgement.prepared import prepare
    from wisecompass.judgement.verdict import judge

    sheet = _sheet(args, request)
    tolerance = read_tolerance(args.tolerance)
    prepared = prepare(sheet, read_hand(args.hand))
    measured = {}
    if args.readings:
        try:
            measured = read_table(prepared, Path(args.readings).read_bytes())
        except OSError as reason:
            raise BadGiven("readings", f"{quoted(args.readings)} cannot be read: {reason.strerror}") from None
    if args.clicks:
        measured |= _clicked(args, sheet)
    for pair in args.measured:
        name, sign, text = (part.strip() for part in pair.partition("="))
        if not sign:
            raise BadGiven("measured", f"--measured {quoted(pair)}: write it as name=value")
        measured[name] = read_reading(prepared, name, text)
    verdict = judge(prepared, measured)
    if args.json:
        words = {"within": "within hand error", "slip": "slip", "step": "step"}.get(verdict.kind, "cannot tell")
        told = {
            "problem": sheet.problem.id,
            "method": sheet.method.name,
            "verdict": words,
            "slip": verdict.slips[0].words if verdict.slips else None,
            "step": verdict.steps[0].step if verdict.steps else None,
            "steps": [each.step for each in verdict.steps],
            "chances": {each.words: each.share for each in verdict.causes if each.share > 1e-6},
            "measured": {
                name: {
                    "value": one.value,
                    "true": one.true,
                    "spread": one.spread,
                    "verdict": "within hand error" if one.within else "beyond hand error",
                    "passes": passes(prepared, name, one, tolerance),
                }
                for name, one in verdict.measured.items()
            },
            "next": verdict.next or None,
            "said": verdict.said,
        }
        print(json.dumps(told, ensure_ascii=False, indent=2, allow_nan=False))
        return 0
    letters = {name.rsplit(".", 1)[0] for name in verdict.measured if name.endswith((".x", ".y"))}
    if letters:
        print(f"{len(letters)} letters were clicked: where and how the figure lies on the paper does not count.")
    for name, one in verdict.measured.items():
        if name.endswith((".x", ".y")):
            continue
        unit = _unit(kind_of_figure(prepared, name).unit)
        hand = "within hand error" if one.within else "beyond hand error"
        kept = "passes" if passes(prepared, name, one, tolerance) else "does not pass"
        true, spread = f"{one.true:.6g}{unit}", f"{_short(1.96 * one.spread)}{unit}"
        print(f"{finding_words(name)} {one.value:g}{unit}, should be {true} (a hand keeps to ±{spread}): {hand}, {kept}")
    print(f"{verdict.said[:1].upper()}{verdict.said[1:]}.")
    for each in verdict.causes[:4]:
        if each.share >= 0.01:
            print(f"  {100 * each.share:.0f} of 100: {each.words}")
    return 0


def _page(args: argparse.Namespace, sheet: OnPaper, drawing: Drawing | None = None, fit: bool = False) -> Page:
    """The sheet as it is laid out on the paper that is named."""
    from fractions import Fraction

    from wisecompass.drafting.conventions import Conventions
    from wisecompass.drafting.solve import draw
    from wisecompass.folio.page import compose
    from wisecompass.folio.paper import Paper
    from wisecompass.folio.title_block import Title

    drawing = drawing or draw(sheet.problem, sheet.typed, sheet.method, solution=sheet.solution)
    scale = None if fit else Fraction(sheet.scale).limit_denominator(10_000)
    title = Title(sheet=sheet.problem.title)
    return compose(drawing, Paper(args.paper, not args.portrait), title, Conventions(), scale)


def _clicked(args: argparse.Namespace, sheet: OnPaper) -> dict[str, Reading]:
    """Readings from a table of clicks."""
    import csv
    from pathlib import Path

    from wisecompass.folio.clicked import fit_of, readings
    from wisecompass.judgement.prepared import Reading

    clicked: dict[str, tuple[float, float]] = {}
    try:
        lines = [*csv.reader(Path(args.clicks).read_text(encoding="utf-8-sig").splitlines())]
    except (OSError, UnicodeDecodeError, csv.Error) as reason:
        raise BadGiven("clicks", f"{quoted(args.clicks)} cannot be read: {reason}") from None
    for number, line in enumerate(lines, 1):
        if not line or line[0].strip() in ("", "name"):
            continue
        try:
            name, x, y = line[0].strip(), float(line[1]), float(line[2])
        except (IndexError, ValueError):
            raise BadGiven("clicks", f"line {number} of the clicks: a letter and two numbers must stand there") from None
        clicked[name] = (x, y)
    page = _page(args, sheet)
    return readings(page, clicked, fit_of(page, clicked), Reading)


def run_photograph(args: argparse.Namespace, request: Callable[[argparse.Namespace], Request]) -> int:
    """The stand-in for a camera."""
    import csv
    from dataclasses import replace
    from pathlib import Path

    from wisecompass.drafting.hand import OneHand
    from wisecompass.drafting.solve import draw
    from wisecompass.exchange.camera import Camera, photographed
    from wisecompass.folio import files
    from wisecompass.folio.clicked import corners, lettered
    from wisecompass.folio.scales import read_scale, scale_text
    from wisecompass.judgement.hands import OnPaper, probe, read_hand

    problem, method, typed, solution = request(args)
    problem.require_method(method, typed)
    asked = read_scale(args.scale)
    sheet = OnPaper(problem, typed, method, float(asked or 1), solution=solution)
    forks = replace(sheet, taken=-1).by(None).forks
    if args.slips:
        for n, fork in enumerate(forks):
            print(f"{n}  step {sheet.told_step(fork.step)}: {fork.words}")
        return 0
    if not args.out:
        raise BadGiven("out", "--out FILE says where the picture goes")
    if args.slip is not None and not 0 <= args.slip < len(forks):
        raise BadGiven("slip", f"there is no mistake {args.slip}; this method has 0 to {len(forks) - 1} (see --slips)")
    if not 40 <= args.dpi <= 600:
        raise BadGiven("dpi", f"{args.dpi:g} dots to the inch are beyond 40 to 600; the nearest that works is 150", "150")
    scale = float(_page(args, sheet, fit=asked is None).scale)
    sheet = replace(sheet, scale=scale)
    hand = read_hand(args.hand).on_paper(scale)
    gross = None
    if args.gross:
        step, _, size = args.gross.partition("=")
        strays = probe(sheet, read_hand(args.hand))
        try:
            own = [n for n, each in enumerate(strays.draws) if sheet.told_step(each.step) == int(step)]
            place = max(own, key=lambda n: float(abs(strays.moves[:, n]).sum()))  # the one that shows most
            part = strays.draws[place].part
            gross = place, float(size) / (1 if part == "protractor" else scale) / getattr(hand, part)
        except (ValueError, ZeroDivisionError):
            raise BadGiven("gross", f"--gross {quoted(args.gross)}: write it as step=mm, with a step that strays") from None
    drawing = draw(problem, typed, method, solution=solution, unsteadiness=OneHand(hand, args.seed, gross), taken=args.slip)
    page, true = _page(args, sheet, drawing), _page(args, sheet)
    page = replace(page, placements=true.placements)
    png, fit = photographed(page, Camera(tilt=args.tilt, dpi=args.dpi), args.seed)
    files.write(Path(args.out), png)
    if args.clicks_out:
        import io

        out = io.StringIO()
        table = csv.writer(out)
        table.writerow(("name", "x", "y"))
        spots = {**corners(page), **{name: spot.at for name, spot in lettered(page).items()}}
        for name, at in spots.items():
            x, y = fit.pixel(at)
            table.writerow((name, f"{x:.1f}", f"{y:.1f}"))
        files.write(Path(args.clicks_out), out.getvalue().encode())
    made = f": {forks[args.slip].words}" if args.slip is not None else ""
    print(f"wrote {args.out}, drawn {scale_text(page.scale)}{made}")
    return 0


def _slope(slope: Any) -> float | None:
    return None if slope.value is None else float(slope.value.middle)


def _print_budget(problem: Problem, sheet: Any, hand: Hand, found: Any, slopes: Any, within: Any) -> None:
    from wisecompass.drafting.tracing import kind_of
    from wisecompass.drafting.wording import number_text
    from wisecompass.judgement.asked import finding_words
    from wisecompass.judgement.helps import helps
    from wisecompass.judgement.sensitivity import in_order

    print(f"{problem.title}, by {sheet.method.name}: 95 of 100 such hands keep to")
    for name, each in found.items():
        unit = kind_of(problem, name).unit
        wild = "; it magnifies a hair" if each.wild else ""
        failed = f"; {number_text(100 * each.failed, 1)} of 100 cannot draw it" if each.failed > 0.005 else ""
        print(f"  {finding_words(name)}: ±{_short(each.reach)}{_unit(unit)}{wild}{failed}")
        if each.blame:
            print("    most of it at", ", ".join(f"step {n} ({100 * share:.0f} %)" for n, share in each.blame[:3]))
        for help_ in helps(sheet, name, hand)[:2]:
            print(f"    {help_.words}: from ±{_short(help_.before)} to ±{_short(help_.after)}{_unit(unit)}")
    print("One unit more of a given changes")
    for name in in_order(problem, [name for name, row in slopes.items() if row]):
        told = [f"{given} {_signed(_slope(one))}" for given, one in slopes[name].items() if _slope(one) != 0.0]
        print(f"  {finding_words(name)}: {', '.join(told) or 'nothing'}")
    for name, each in within.items():
        proved = "" if each.proved else " (as the slopes here say)"
        unit = _unit(kind_of(problem, name).unit)
        print(f"With these tolerances {finding_words(name)} lies from {each.low:.6g} to {each.high:.6g}{unit}{proved}")


def _short(value: float) -> str:
    from wisecompass.drafting.wording import number_text

    return number_text(value, 2 if value >= 0.1 else 3 if value >= 0.01 else 5)


def _signed(value: float | None) -> str:
    return "differs to either side" if value is None else f"{value:+.5g}".replace("-", "−")


def _unit(unit: str) -> str:
    return unit if unit.startswith("°") or not unit else f" {unit}"


def _tolerances(pairs: list[str], problem: Problem, typed: Typed) -> dict[str, Fraction]:
    """Tolerances by given."""
    from wisecompass.drafting.step import Kind
    from wisecompass.drafting.tracing import numerics
    from wisecompass.judgement.asked import read_number

    names = {each.name: each for each in numerics(problem, typed)}
    found = {}
    for pair in pairs:
        name, sign, text = pair.partition("=")
        if not sign or name.strip() not in names:
            raise BadGiven(name, f"--tolerance {quoted(pair)}: write name=value with a number among {', '.join(names)}")
        kind = {"mm": Kind.LENGTH, "°": Kind.ANGLE}.get(names[name.strip()].unit, Kind.RATIO)
        size = read_number(text, f"tolerance of {name.strip()}", kind)
        if size < 0:
            raise BadGiven(name, f"tolerance of {name.strip()} {quoted(text)} is below zero; the least is 0")
        found[name.strip()] = size
    return found


def run_turn(args: argparse.Namespace, request: Callable[[argparse.Namespace], Request]) -> int:
    """A question turned round."""
    from wisecompass.drafting.tracing import kind_of
    from wisecompass.judgement.asked import finding_words, read_number, said
    from wisecompass.judgement.turned import turn

    problem, _, typed, _ = request(args)
    finding, sign, text = (part.strip() for part in args.want.partition("="))
    if not sign:
        raise BadGiven("want", f"--want {quoted(args.want)}: write it as finding=value")
    if finding.split(":")[0] not in problem.findings:
        raise BadGiven("want", f"“{quoted(finding)}” is no answer of {problem.id}; it has {', '.join(problem.findings)}")
    wish = read_number(text, finding_words(finding), kind_of(problem, finding))
    given, limits = _limits(args.vary)
    asked = turn(problem, typed, given, finding, wish, limits)
    if not args.json:
        print(said(asked, problem))
        return 0
    told = {
        "problem": problem.id,
        "want": {"finding": finding, "value": float(wish)},
        "vary": {"given": given, "low": float(asked.limits[0]), "high": float(asked.limits[1])},
        "solutions": [
            {
                "given": given,
                "value": float(value.ball.middle),
                "bound": float(value.ball.bound_about(float(value.ball.middle))),
                "proved": not asked.searched,
                "touching": value.touching,
                "finding": float(wish),
            }
            for value in asked.values
        ],
        "complete": asked.complete,
        "intervals": [[float(low), float(high)] for low, high in asked.intervals],
        "unsettled": [[float(low), float(high)] for low, high in asked.unsettled],
        "range": list(asked.range) if asked.range else None,
        "nearest": {"given": asked.nearest[0], "finding": asked.nearest[1]} if asked.nearest else None,
        "said": said(asked, problem),
    }
    print(json.dumps(told, ensure_ascii=False, indent=2, allow_nan=False))
    return 0


def _limits(text: str) -> tuple[str, tuple[Fraction, Fraction] | None]:
    """The given that may give way, and between what."""
    from wisecompass.arithmetic.expression import Unreadable, read

    given, sign, rest = text.partition("=")
    if not sign:
        return given.strip(), None
    ends = []
    for piece in rest.replace(";", ",").split(","):
        try:
            value = read(piece.strip()).fraction()
        except Unreadable as reason:
            raise BadGiven(given, f"--vary {quoted(text)}: {reason}") from None
        if value is not None:
            ends.append(value)
    if len(ends) != 2 or ends[0] >= ends[1]:
        raise BadGiven(given, f"--vary {quoted(text)}: write it as given=low,high with low below high")
    return given.strip(), (ends[0], ends[1])
