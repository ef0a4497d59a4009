"""The command line. Libraries are imported by the commands that need them, so that ``list`` and ``solve`` start fast."""

from __future__ import annotations

import argparse
import contextlib
import io
import json
import os
import sys
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, NoReturn

from wisecompass import __version__, catalogue, cli_handing, cli_judging, cli_practice, program_log
from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadDocument, BadGiven, WiseCompassError

if TYPE_CHECKING:
    from wisecompass.drafting.conventions import Conventions
    from wisecompass.drafting.givens import Typed
    from wisecompass.drafting.problem import Method, Problem
    from wisecompass.folio.document import Folio
    from wisecompass.folio.page import Page
    from wisecompass.folio.register import Place

SHOW_FAULTS = "WISE_COMPASS_FAULTS"
"""Set in the environment it lets a fault of the program show where it is."""

LARGEST_BRIEF = 1024 * 1024


class _Parser(argparse.ArgumentParser):
    """One line for a usage error, as for every other."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {message} (see {self.prog} --help)\n")


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="wise-compass", description="Constructs a drafter's figure and proves every number.")
    parser.add_argument("--version", action="version", version=f"Wise Compass {__version__}")
    commands = parser.add_subparsers(dest="command", required=True, parser_class=_Parser)
    listing = commands.add_parser("list", help="list the problems")
    listing.add_argument("--json", action="store_true", help="with givens, methods and findings, as JSON")
    solve = commands.add_parser("solve", help="solve one problem")
    solve.add_argument("problem", help="an id from the list, a file {problem, method, givens}, or a folio with --figure")
    solve.add_argument("--figure", metavar="NAME", help="which figure of the folio")
    solve.add_argument("--work", default="", help="what the title block calls the work")
    solve.add_argument("--method", help="default: the first listed")
    solve.add_argument("--letters", default="", metavar="A=K,B=L", help="letters of one's own")
    solve.add_argument(
        "--set", action="append", default=[], metavar="NAME=VALUE", help="a given; may be repeated; lists as 3,4,5"
    )
    solve.add_argument(
        "--turn", type=float, default=0.0, metavar="DEGREES", help="turn the figure on its sheet, anticlockwise"
    )
    solve.add_argument(
        "--leave-out", action="append", default=[], metavar="PART", help="not wanted, such as tangent; may be repeated"
    )
    solve.add_argument(
        "--draw-too", action="append", default=[], metavar="PART", help="wanted beyond what is usual, such as end view"
    )
    solve.add_argument("--solution", type=int, default=None, help="which of several answers is lined in")
    solve.add_argument("--projection", choices=("first", "third"), default="first", help="first or third angle")
    solve.add_argument("--naming", choices=("primes", "indices"), default="primes", help="a′ and a, or A and A₁")
    solve.add_argument("--numbering", choices=("from 0", "from 1"), default="from 0", help="number of the first division")
    solve.add_argument(
        "--counting", choices=("anticlockwise", "clockwise"), default="anticlockwise", help="way of divisions"
    )
    solve.add_argument("--beginning", choices=("right", "top", "left", "bottom"), default="right", help="of divisions")
    words = "front and top view, or elevation and plan"
    solve.add_argument("--vocabulary", choices=("views", "plans"), default="views", help=words)
    solve.add_argument("--points", type=Path, metavar="FILE", help="take points from a CSV table name,x,front,above")
    solve.add_argument("--points-out", type=Path, metavar="FILE", help="write the points in space as such a table")
    solve.add_argument("--json", action="store_true", help="print the report as JSON")
    solve.add_argument("--why", action="store_true", help="say under each step what it rests on")
    solve.add_argument("--one-by-one", action="store_true", help="unfold repetitions and divisions into single steps")
    solve.add_argument("--paper", choices=("A4", "A3", "A2", "A1", "A0", "Letter"), default="A4")
    solve.add_argument("--portrait", action="store_true", help="paper upright")
    solve.add_argument("--scale", default="fit", help="fit, or a ratio such as 1:2")
    for kind in ("svg", "pdf", "dxf", "csv"):
        solve.add_argument(f"--{kind}", type=Path, metavar="FILE", help=f"write {kind.upper()}")
    solve.add_argument("--outlines", action="store_true", help="letters in SVG as outlines, for readers without fonts")
    cli_handing.add_full_size(solve)
    export = commands.add_parser("export", help="export all sheets of a folio")
    export.add_argument("folio", type=Path)
    export.add_argument("--pdf", type=Path, metavar="FILE")
    export.add_argument("--svg-dir", type=Path, metavar="DIR")
    export.add_argument("--dxf-dir", type=Path, metavar="DIR")
    export.add_argument("--outlines", action="store_true", help="letters in SVG as outlines, for readers without fonts")
    new = commands.add_parser("new", help="make an empty folio")
    new.add_argument("folio", type=Path, metavar="FILE")
    new.add_argument("--work", default="", help="what the work is called")
    add = commands.add_parser("add", help="put a figure into a folio")
    add.add_argument("folio", type=Path, metavar="FILE")
    add.add_argument("problem", help="an id from the list")
    add.add_argument("--sheet", metavar="NUMBER", help="of the sheet; default: the last one")
    add.add_argument("--name", help="what the figure is called")
    add.add_argument("--method", help="default: the first listed")
    add.add_argument("--set", action="append", default=[], metavar="NAME=VALUE", help="a given; may be repeated")
    figures = commands.add_parser("figures", help="list the figures of a folio")
    figures.add_argument("folio", type=Path, metavar="FILE")
    figures.add_argument("--json", action="store_true")
    cli_judging.add_parsers(commands)
    cli_practice.add_parsers(commands)
    cli_handing.add_parsers(commands)
    desk = commands.add_parser("desk", help="open the window")
    desk.add_argument("folio", nargs="?", type=Path)
    desk.add_argument("--demo", action="store_true", help="open the sample folio")
    desk.add_argument("--another-window", action="store_true", help="even where one is open already")
    desk.add_argument("--picture", type=Path, metavar="FILE", help="write a picture of the window and end")
    demo = commands.add_parser("demo", help="open the window on the sample folio")
    demo.add_argument("--picture", type=Path, metavar="FILE", help="write a picture of the window and end")
    simulate = commands.add_parser(
        "simulate", help="a plotter or caliper that is not there, in a window, behind a real port"
    )
    simulate.add_argument("device", choices=("plotter", "caliper"))
    simulate.add_argument("--profile", default="simulated plotter", metavar="NAME|FILE", help="of the plotter")
    simulate.add_argument("--picture", type=Path, metavar="FILE", help="write a picture of the window and end")
    commands.add_parser("schema", help="print the JSON Schema of a folio")
    menu = commands.add_parser("menu", help="put the program into the desktop's menu, for this user")
    menu.add_argument("--remove", action="store_true", help="take it out again")
    return parser


def main(argv: Sequence[str] | None = None) -> int:
    """Run a command; 0 when it worked, 2 with one line on standard error when not."""
    for stream in (sys.stdout, sys.stderr):  # a terminal that lacks a sign gets a question mark, not a traceback
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="replace")
    args = _parser().parse_args(argv)
    run = {
        "list": _list,
        "solve": _solve,
        "export": _export,
        "new": _new,
        "add": _add,
        "figures": _figures,
        "desk": _desk,
        "demo": _desk,
        "schema": _schema,
        "menu": _menu,
        "simulate": _simulate,
        "budget": _budget,
        "judge": _judge,
        "photograph": _photograph,
        "turn": _turn,
        "practise": cli_practice.run_practise,
        "mark": cli_practice.run_mark,
        "log": cli_practice.run_log,
        "plot": _plot,
        "tile": cli_handing.run_tile,
        "nest": cli_handing.run_nest,
        "ports": cli_handing.run_ports,
        "profile": cli_handing.run_profile,
    }[args.command]
    program_log.begin()
    program_log.note("%s", args.command)
    try:
        code = run(args)
        sys.stdout.flush()
        return code
    except WiseCompassError as problem:
        return _refuse(str(problem))
    except BrokenPipeError:
        _close_output()
        return 0
    except OSError as reason:
        _close_output()
        return _refuse(f"the output cannot be written: {reason.strerror or reason}")
    except ArithmeticError as reason:
        return _refuse(f"the figure of these very numbers cannot be proved ({reason}); change one of them a little")
    except Exception as fault:
        program_log.fault(args.command, fault)
        if os.environ.get(SHOW_FAULTS):
            raise
        told = " ".join(f"{type(fault).__name__}: {fault}".split())
        return _refuse(f"a fault of the program itself ({told}); set {SHOW_FAULTS}=1 to see where")


def _refuse(sentence: str) -> int:
    with contextlib.suppress(OSError, ValueError):
        print(f"wise-compass: {sentence}", file=sys.stderr)
    return 2


def _close_output() -> None:
    """What is still waiting to be written has nowhere to go: let Python not try again at its end."""
    with contextlib.suppress(OSError, ValueError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


def _list(args: argparse.Namespace) -> int:
    problems = [catalogue.problem(problem_id) for problem_id in catalogue.ids()]
    if args.json:
        print(json.dumps([_described(problem) for problem in problems], ensure_ascii=False, indent=1))
        return 0
    for problem in problems:
        print(f"{problem.id:40} {problem.title}")
        print(f"{'':40} methods: {', '.join(method.name for method in problem.methods)}")
    return 0


def _described(problem: Problem) -> dict[str, object]:
    return {
        "id": problem.id,
        "title": problem.title,
        "brief": problem.brief,
        "givens": [
            {
                "name": item.name,
                "words": item.words,
                "kind": item.form.value,
                "unit": item.form.unit,
                "default": item.default,
                "least": None if item.least is None else float(item.least),
                "most": None if item.most is None else float(item.most),
                "choices": list(item.choices),
            }
            for item in problem.given_list
        ],
        "methods": [{"name": method.name, "exactness": method.exactness.value} for method in problem.methods],
        "findings": {name: kind.unit for name, kind in problem.findings.items()},
    }


def _solve(args: argparse.Namespace) -> int:
    if args.figure is not None:
        return _solve_figure(args)
    problem, method, typed, solution = _request(args)
    conventions = _conventions(args)
    _require_wishes_known(args, problem, method, typed, solution, conventions)
    return _solved(args, problem, method, typed, solution, conventions, None)


def _budget(args: argparse.Namespace) -> int:
    return cli_judging.run_budget(args, _request)


def _judge(args: argparse.Namespace) -> int:
    return cli_judging.run_judge(args, _request)


def _photograph(args: argparse.Namespace) -> int:
    return cli_judging.run_photograph(args, _request)


def _turn(args: argparse.Namespace) -> int:
    return cli_judging.run_turn(args, _request)


def _plot(args: argparse.Namespace) -> int:
    return cli_handing.run_plot(args, _request)


def _left_out(args: argparse.Namespace) -> tuple[str, ...]:
    from wisecompass.drafting.recorder import ASKED

    return (*args.leave_out, *(f"{ASKED}{part}" for part in args.draw_too))


def _require_wishes_known(
    args: argparse.Namespace, problem: Problem, method: Method, typed: Typed, solution: int, conventions: Conventions
) -> None:
    """Refuse a part that this construction has not, and a letter that another of its points has.

    Raises:
        BadGiven: there is one; the sentence says which parts there are.
    """
    from wisecompass.drafting.errors import BadGiven
    from wisecompass.drafting.letters import require_free
    from wisecompass.drafting.marks import Dot
    from wisecompass.drafting.recorder import ASKED
    from wisecompass.drafting.solve import draw

    wanted = _left_out(args)
    if not (wanted or args.letters):
        return
    drawing = draw(problem, typed, method, conventions, solution)
    require_free(conventions.letters, [mark.name for mark in drawing.marks if isinstance(mark, Dot) and mark.name])
    for part in wanted:
        if part not in drawing.wishes:
            asked = part.startswith(ASKED)
            there = [each.removeprefix(ASKED) for each in drawing.wishes if each.startswith(ASKED) is asked]
            what = "drawn too" if asked else "left out"
            have = f"it has {', '.join(there)}" if there else "nothing can be"
            name = part.removeprefix(ASKED)[:40]
            raise BadGiven("left_out", f"“{name}” is no part that can be {what} here; {have}", there[0] if there else "")


def _solve_figure(args: argparse.Namespace) -> int:
    """A figure of a folio with its own method, solution and schools; options that are given stand above them."""
    from wisecompass.folio import register, store
    from wisecompass.folio.links import read_figure
    from wisecompass.folio.print import conventions_of

    folio = store.load(Path(args.problem))
    s, f = register.place_of(folio, args.figure)
    figure = folio.sheets[s].figures[f]
    given = {**figure.givens, **_sets(args.set)}
    figure = replace(
        figure,
        givens=given,
        method=args.method or figure.method,
        solution=args.solution or figure.solution,
        left_out=tuple(dict.fromkeys((*figure.left_out, *_left_out(args)))),
        turn=args.turn or figure.turn,
        letters=args.letters or figure.letters,
    )
    folio = register.replace_figure(folio, (s, f), figure)
    problem = catalogue.problem(figure.problem)
    method, typed, conventions = problem.method(figure.method), read_figure(folio, figure), conventions_of(folio, figure)
    _require_wishes_known(args, problem, method, typed, figure.solution, conventions)
    return _solved(args, problem, method, typed, figure.solution, conventions, (folio, (s, f)))


def _solved(
    args: argparse.Namespace,
    problem: Problem,
    method: Method,
    typed: Typed,
    solution: int,
    conventions: Conventions,
    stands: tuple[Folio, Place] | None,
) -> int:
    """Report on a figure and write its files; ``stands`` is where in a folio it has its place."""
    from wisecompass.drafting.solve import certify, steps_told

    certificate = certify(problem, typed, method, conventions, solution, closed_forms=True)
    if args.full_size or args.tiles or args.pattern:
        _full_size(args, problem, method, typed, solution, conventions, stands)
    elif args.svg or args.pdf or args.dxf:
        page, said = _page(args, problem, method, typed, solution) if stands is None else _page_in(*stands)
        if said:
            print(said, file=sys.stderr)
        work = args.work if stands is None else stands[0].work
        title = " · ".join(part for part in (work, problem.title) if part)
        if args.svg:
            from wisecompass.exchange.svg import svg

            _write(args.svg, svg(page, title, outlines=args.outlines).encode())
        if args.pdf:
            from wisecompass.exchange.pdf import pdf

            _write(args.pdf, pdf([page], title))
        if args.dxf:
            from wisecompass.exchange.dxf import dxf

            _write(args.dxf, dxf(page, title).encode())
    if args.points_out:
        from wisecompass.exchange.points import write_points

        _write(args.points_out, write_points(certificate.points).encode())
    if args.csv:
        from wisecompass.exchange.csv import csv

        _write(args.csv, csv(certificate).encode())
    from wisecompass.exchange.report import in_words, report

    steps = steps_told(problem, typed, method, conventions, solution, args.one_by_one)
    if args.json:
        print(json.dumps(report(problem, method, typed, certificate, conventions, steps), ensure_ascii=False, indent=1))
    else:
        print(in_words(problem, method, typed, certificate, conventions, steps, why=args.why))
    return 0


def _full_size(
    args: argparse.Namespace,
    problem: Problem,
    method: Method,
    typed: Typed,
    solution: int,
    conventions: Conventions,
    stands: tuple[Folio, Place] | None,
) -> None:
    """The figure at 1:1, over the pages of a printer."""
    from wisecompass.drafting.solve import draw
    from wisecompass.folio.tiles import at_full_size, full_size

    if stands is None:
        drawing = draw(problem, typed, method, conventions, solution)
        page, extent = at_full_size(drawing, conventions, problem.title, pattern=args.pattern)
        name = " · ".join(filter(None, (args.work, problem.title)))
    else:
        (folio, place) = stands
        page, extent = full_size(folio, place, args.pattern)
        name = " · ".join(filter(None, (folio.work, folio.sheets[place[0]].figures[place[1]].name)))
    cli_handing.write_tiles(args, page, extent, name)


def _request(args: argparse.Namespace) -> tuple[Problem, Method, Typed, int]:
    """Problem, method, givens and solution from an id and options, or from a brief file."""
    name, method_name, solution = args.problem, args.method, args.solution
    raw: dict[str, str | int | float] = {}
    if name.endswith(".json"):
        name, brief_method, raw, brief_solution = _brief_file(Path(name))
        method_name = method_name or brief_method
        solution = brief_solution if solution is None else solution
    if args.points:
        from wisecompass.exchange.points import as_givens, load_points

        raw |= as_givens(catalogue.problem(name), load_points(args.points))
    raw |= _sets(args.set)
    problem = catalogue.problem(name)
    method = problem.method(method_name)
    return problem, method, problem.read(raw), 1 if solution is None else solution


def _sets(pairs: Sequence[str]) -> dict[str, str]:
    """Givens written as name=value.

    Raises:
        BadGiven: one is written otherwise, or twice.
    """
    found: dict[str, str] = {}
    for pair in pairs:
        key, sign, value = pair.partition("=")
        if not sign:
            raise BadGiven(pair, f"--set {quoted(pair)}: write it as name=value")
        if key.strip() in found:
            raise BadGiven(key, f"--set {quoted(key.strip())} stands there twice")
        found[key.strip()] = value
    return found


BRIEF_KEYS = ("problem", "method", "givens", "solution")


def _brief_file(path: Path) -> tuple[str, str | None, dict[str, str | int | float], int | None]:
    from wisecompass.folio.files import read_json

    data, name = read_json(path, LARGEST_BRIEF, "a brief"), quoted(path.name)
    if not isinstance(data, dict) or not isinstance(data.get("problem"), str):
        raise BadDocument(f"{name} is not a brief: it needs a “problem”")
    for key in data:
        if key not in BRIEF_KEYS:
            raise BadDocument(f"{name}: “{quoted(key)}” is no part of a brief; it has {', '.join(BRIEF_KEYS)}")
    givens, method, solution = data.get("givens", {}), data.get("method"), data.get("solution")
    if not isinstance(givens, dict):
        raise BadDocument(f"{name}: “givens” must be names with numbers, lists or words")
    read: dict[str, str | int | float] = {}
    for given, value in givens.items():
        each = value if isinstance(value, list) else [value]
        if not each or any(isinstance(one, bool) or not isinstance(one, str | int | float) for one in each):
            raise BadDocument(f"{name}: given “{quoted(given)}” must be a number, a list of numbers or a word")
        read[given] = "; ".join(map(str, value)) if isinstance(value, list) else value
    if not (method is None or isinstance(method, str)):
        raise BadDocument(f"{name}: “method” must be a word")
    if solution is not None and (isinstance(solution, bool) or not isinstance(solution, int)):
        raise BadDocument(f"{name}: “solution” must be a whole number")
    return data["problem"], method, read, solution


def _conventions(args: argparse.Namespace) -> Conventions:
    from wisecompass.drafting.conventions import Beginning, Conventions, Counting, Naming, Numbering, Projection, Vocabulary
    from wisecompass.drafting.letters import read_letters

    return Conventions(
        projection=Projection(args.projection),
        naming=Naming(args.naming),
        numbering=Numbering(args.numbering),
        counting=Counting(args.counting),
        beginning=Beginning(args.beginning),
        vocabulary=Vocabulary(args.vocabulary),
        left_out=frozenset(_left_out(args)),
        turn=args.turn,
        letters=read_letters(args.letters),
    )


def _page(args: argparse.Namespace, problem: Problem, method: Method, typed: Typed, solution: int) -> tuple[Page, str]:
    """The page, and what is to be said of its scale."""
    from wisecompass.drafting.solve import draw
    from wisecompass.folio.fit import advice
    from wisecompass.folio.page import compose
    from wisecompass.folio.paper import Paper
    from wisecompass.folio.scales import read_scale
    from wisecompass.folio.title_block import Title

    conventions = _conventions(args)
    drawing = draw(problem, typed, method, conventions, solution)
    paper = Paper(args.paper, not args.portrait)
    scale = read_scale(args.scale)
    page = compose(drawing, paper, Title(work=args.work, sheet=problem.title), conventions, scale)
    return page, advice(drawing, paper, conventions, scale)


def _page_in(folio: Folio, place: Place) -> tuple[Page, str]:
    """The page of a figure that shares its sheet, and what is to be said of its room there."""
    from wisecompass.folio.fit import advice_beside_others
    from wisecompass.folio.print import page_of

    return page_of(folio, place), advice_beside_others(folio, place)


def _write(path: Path, data: bytes) -> None:
    from wisecompass.folio import files

    files.write(path, data)


def _export(args: argparse.Namespace) -> int:
    from wisecompass.exchange.export import sheet_heading, sheet_title
    from wisecompass.exchange.leaves import sheet_pages
    from wisecompass.folio import store
    from wisecompass.folio.print import leaves_of, stems_of

    if not (args.pdf or args.svg_dir or args.dxf_dir):
        raise BadDocument("nothing to write: give --pdf, --svg-dir or --dxf-dir")
    folio = store.load(args.folio)
    leaves, stems = leaves_of(folio), stems_of(folio)
    pages = []
    for page, said in sheet_pages(folio, leaves):
        pages.append(page)
        for sentence in said:
            print(sentence, file=sys.stderr)
    if args.pdf:
        from wisecompass.exchange.pdf import pdf

        headings = [sheet_heading(folio, s) for s in leaves]
        _write(args.pdf, pdf(pages, folio.work or "Wise Compass", folio.drawn_by, headings))
    for folder in (args.svg_dir, args.dxf_dir):
        if folder is not None:
            try:
                folder.mkdir(parents=True, exist_ok=True)
            except OSError as reason:
                raise BadDocument(f"{quoted(folder)} cannot be made: {reason.strerror}") from None
    if args.svg_dir:
        from wisecompass.exchange.svg import svg

        for s, page in zip(leaves, pages, strict=True):
            _write(args.svg_dir / f"{stems[s]}.svg", svg(page, sheet_title(folio, s), outlines=args.outlines).encode())
    if args.dxf_dir:
        _export_dxf(folio, args.dxf_dir)
    print(f"{len(pages)} pages exported")
    return 0


def _export_dxf(folio: Folio, folder: Path) -> None:
    """A file for each figure, for in DXF each is at full size."""
    from wisecompass.exchange.dxf import dxf
    from wisecompass.exchange.export import figure_title
    from wisecompass.folio.print import page_of, stems_of

    for s, stem in stems_of(folio).items():
        for f in range(len(folio.sheets[s].figures)):
            try:
                page = page_of(folio, (s, f))
            except BadDocument:
                continue  # said with its sheet
            _write(folder / f"{stem}-{f + 1}.dxf", dxf(page, figure_title(folio, (s, f))).encode())


def _new(args: argparse.Namespace) -> int:
    from wisecompass.folio import store

    path = store.with_suffix(args.folio)
    if path.exists():
        raise BadDocument(f"{quoted(path.name)} is there already; it is left as it is")
    store.save(store.empty(args.work), path)
    print(f"{path} is an empty folio")
    return 0


def _add(args: argparse.Namespace) -> int:
    from wisecompass.folio import register, store
    from wisecompass.folio.document import Figure
    from wisecompass.folio.links import read_figure

    folio, known = store.load_with_print(args.folio)
    problem = catalogue.problem(args.problem)
    method, raw = problem.method(args.method), _sets(args.set)
    sheet = register.sheet_of(folio, args.sheet)
    fresh = register.fresh_figure(problem.id, folio.conventions.units)
    figure = Figure(problem.id, method.name, {**fresh.givens, **raw})
    problem.require_method(method, read_figure(folio, figure), folio.conventions.units.value)
    folio, place = register.add_figure(folio, figure, sheet)
    if args.name is not None:
        folio = register.rename_figure(folio, place, args.name)
    store.save(folio, args.folio, known)
    added = folio.sheets[place[0]].figures[place[1]]
    print(f"{added.name} stands on sheet {folio.sheets[place[0]].number or folio.sheets[place[0]].name}")
    return 0


def _figures(args: argparse.Namespace) -> int:
    from wisecompass.folio import store
    from wisecompass.folio.links import links_in

    folio = store.load(args.folio)
    rows = [
        {
            "sheet": sheet.number or sheet.name,
            "name": figure.name,
            "problem": figure.problem,
            "givens": figure.givens,
            "links": [{"given": given, "to": link} for given, link in links_in(figure)],
        }
        for sheet in folio.sheets
        for figure in sheet.figures
    ]
    if args.json:
        print(json.dumps(rows, ensure_ascii=False, indent=1))
        return 0
    for sheet in folio.sheets:
        print(f"{sheet.number or '–'}  {sheet.name}")
        for figure in sheet.figures:
            linked = ", ".join(f"{given} from {link}" for given, link in links_in(figure))
            print(f"    {figure.name}  ({figure.problem})" + (f"  {linked}" if linked else ""))
    return 0


def _desk(args: argparse.Namespace) -> int:
    from wisecompass.desk.start import open_desk

    alone = not getattr(args, "another_window", False)
    return open_desk(getattr(args, "folio", None), args.picture, args.command == "demo" or args.demo, alone)


def _simulate(args: argparse.Namespace) -> int:
    from wisecompass.desk.simulated import open_simulated
    from wisecompass.exchange.machine import named_profile

    return open_simulated(args.device, named_profile(args.profile), args.picture)


def _menu(args: argparse.Namespace) -> int:
    from wisecompass import menu_entry

    done = menu_entry.take_out() if args.remove else menu_entry.put_in()
    print(f"{len(done)} files {'removed from' if args.remove else 'written to'} {menu_entry.data_home()}")
    return 0


def _schema(args: argparse.Namespace) -> int:
    from wisecompass.folio import store

    print(json.dumps(store.schema(), indent=1))
    return 0


if __name__ == "__main__":
    sys.exit(main())
