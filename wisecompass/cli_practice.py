"""The commands to practise by: questions, worksheets, class sets and their marking, and the logbook."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

from wisecompass.drafting.errors import BadDocument, BadGiven

if TYPE_CHECKING:
    from wisecompass.folio.logbook import Logbook
    from wisecompass.folio.practice import Question
    from wisecompass.folio.worksheets import Course

PAPERS = ("A4", "A3", "A2", "A1", "A0", "Letter")


def add_parsers(commands: Any) -> None:
    """The parsers of these commands."""
    practise = commands.add_parser("practise", help="new questions, as worksheets if they are wanted")
    practise.add_argument("what", nargs="+", metavar="ID|FAMILY", help="problems, families, or all")
    practise.add_argument(
        "--count", type=int, default=1, metavar="N", help="how many questions, or how many each pupil gets"
    )
    practise.add_argument("--seed", type=int, default=1, metavar="S", help="the same seed gives the same questions")
    levels = "1: all settings are shown; 2: the method is named; 3: the brief alone"
    practise.add_argument("--level", type=int, default=1, help=levels)
    practise.add_argument("--method", help="of all questions; default: any that serves")
    practise.add_argument("--json", action="store_true")
    for kind, words in (("questions", "question"), ("answers", "answer"), ("stages", "stage")):
        practise.add_argument(f"--{kind}", type=Path, metavar="FILE", help=f"write the {words} sheets as PDF")
    practise.add_argument("--folio", type=Path, metavar="FILE", help="write a folio that opens at the desk")
    practise.add_argument("--set", dest="kept", type=Path, metavar="FILE", help="write the set, to mark it by")
    practise.add_argument(
        "--class", dest="pupils", type=int, metavar="N", help="a set with other numbers for each of N pupils"
    )
    practise.add_argument("--dir", type=Path, metavar="DIR", help="where the class set goes")
    practise.add_argument("--work", default="Worksheet", help="what the title blocks say")
    practise.add_argument("--paper", choices=PAPERS, default="A4")
    practise.add_argument("--portrait", action="store_true", help="paper upright")
    practise.add_argument("--tolerance", default="school", help="school, shop, or mm of paper and degrees: 0.3, 0.25")
    mark = commands.add_parser("mark", help="mark a set by a table of what all pupils measured")
    mark.add_argument("set", type=Path, metavar="SET.json")
    table = "CSV with the columns sheet, question, figure, measured, and accuracy and scale if they are wanted"
    mark.add_argument("--measured", type=Path, required=True, metavar="FILE", help=table)
    mark.add_argument("--tolerance", default="school", help="school, shop, or mm of paper and degrees: 0.3, 0.25")
    mark.add_argument("--json", action="store_true")
    log = commands.add_parser("log", help="the logbook: what was drawn, how it went, what to practise next")
    log.add_argument("--by", choices=("piece", "day", "problem"), default="piece")
    log.add_argument("--json", action="store_true", help="everything, as JSON")
    log.add_argument("--csv", type=Path, metavar="FILE", help="write the pieces of work as a table")
    log.add_argument("--delete", type=int, metavar="N", help="take piece N out")
    log.add_argument("--delete-all", action="store_true", help="take everything out")
    log.add_argument("--file", type=Path, metavar="FILE", help="another logbook than the usual one")


# ------------------------------------------------------------------------------------------------------------ practise
def run_practise(args: argparse.Namespace) -> int:
    """New questions, told or written as sheets."""
    from wisecompass.folio.practice import questions
    from wisecompass.folio.worksheets import drawn, meant

    course = _course(args)
    if args.pupils is not None:
        return _class_set(args, course)
    asked = list(questions(args.what, args.count, args.seed, args.level, course.paper, args.method))
    _write_sheets(args, course, asked)
    if args.json:
        told = [
            {
                "problem": each.problem,
                "method": each.method,
                "givens": each.givens,
                "brief": each.brief,
                "answers": each.answers,
                "level": each.level,
                "kind": each.kind,
                "solution": each.solution,
            }
            for each in asked
        ]
        print(json.dumps({"seed": args.seed, "questions": told}, ensure_ascii=False, indent=2))
        return 0
    for n, each in enumerate(asked, 1):
        print(" ".join(filter(None, (f"{n}. {each.brief}", meant(each, drawn(each, course), course)))))
        if each.level < 3:
            print(f"   Method: {each.method}.")
    return 0


def _course(args: argparse.Namespace) -> Course:
    from wisecompass.folio.paper import Paper
    from wisecompass.folio.worksheets import Course
    from wisecompass.judgement.marking import read_tolerance

    return Course(args.work, Paper(args.paper, not args.portrait), tolerance=read_tolerance(args.tolerance))


def _write_sheets(args: argparse.Namespace, course: Course, asked: list[Question]) -> None:
    from wisecompass.exchange.class_set import as_json, sheets

    for kind in ("questions", "answers", "stages"):
        path: Path | None = getattr(args, kind)
        if path is not None:
            path.write_bytes(sheets(asked, course, kind))
    if args.kept is not None:
        args.kept.write_text(as_json([asked], course), "utf-8")
    if args.folio is not None:
        from wisecompass.folio import store
        from wisecompass.folio.worksheets import as_folio

        store.save(as_folio(asked, course), args.folio)


def _class_set(args: argparse.Namespace, course: Course) -> int:
    from wisecompass.exchange.class_set import Order, make_set

    if args.dir is None:
        raise BadGiven("dir", "--class needs --dir, the folder that the set goes to", "class")
    order = Order(tuple(args.what), args.count, args.seed, args.level, pupils=args.pupils)
    shown = sys.stderr.isatty()

    def tell(far: str) -> None:
        if shown:
            print(f"\rsheets of pupil {far}", end="", file=sys.stderr)

    written = make_set(order, course, args.dir, tell)
    if shown:
        print(file=sys.stderr)
    print(f"{len(written)} files in {args.dir}")
    return 0


# ---------------------------------------------------------------------------------------------------------------- mark
def run_mark(args: argparse.Namespace) -> int:
    """Verdicts on a whole set."""
    from dataclasses import asdict

    from wisecompass.exchange.class_set import read_set
    from wisecompass.exchange.set_marking import mark_set
    from wisecompass.judgement.marking import read_tolerance

    sheets = read_set(args.set)
    try:
        data = args.measured.read_bytes()
    except OSError as reason:
        raise BadDocument(f"{args.measured} cannot be read: {reason.strerror or reason}") from None
    found = mark_set(sheets, data, read_tolerance(args.tolerance))
    if args.json:
        told = {
            "sheets": [asdict(each) for each in found.marked],
            "missing": list(found.missing),
            "common": {str(number): dict(counts) for number, counts in found.common.items()},
        }
        print(json.dumps(told, ensure_ascii=False, indent=2))
        return 0
    for each in found.marked:
        said = each.trouble or f"{each.said}; {each.passed} of {each.measured} pass"
        print(f"sheet {each.sheet}, question {each.question} ({each.problem}): {said}")
    if found.missing:
        print(f"nothing from sheet{'s' * (len(found.missing) > 1)} {', '.join(map(str, found.missing))}")
    for number, counts in found.common.items():
        for words, times in counts.items():
            print(f"question {number}, {times} time{'s' * (times > 1)}: {words}")
    return 0


# ----------------------------------------------------------------------------------------------------------------- log
def run_log(args: argparse.Namespace) -> int:
    """The logbook, as text, table or JSON."""
    from wisecompass.folio.logbook import Logbook

    book = Logbook(args.file)
    if book.trouble:
        print(f"wise-compass: {book.trouble}", file=sys.stderr)
    if args.delete_all:
        count = book.delete_all()
        print(f"{count} piece{'s' * (count != 1)} of work taken out")
        return 0
    if args.delete is not None:
        book.delete(args.delete)
        print(f"piece {args.delete} taken out")
        return 0
    if args.csv is not None:
        args.csv.write_text(book.as_csv(), "utf-8", newline="")
    if args.json:
        print(json.dumps(book.as_json(), ensure_ascii=False, indent=2))
    elif args.csv is None:
        _print_log(book, args.by)
    return 0


def _print_log(book: Logbook, by: str) -> None:
    if by == "piece":
        for piece in book.pieces():
            said = piece.said or piece.verdict or "not measured"
            name = f"{piece.figure} · " if piece.figure else ""
            took = f"{piece.begun[:16]} {piece.seconds / 60:4.0f} min"
            print(f"{piece.id:4} {took}  {name}{piece.problem}, {piece.method}: {said}")
    for tally in book.by_day() if by == "day" else book.by_problem() if by == "problem" else ():
        counts = f"{tally.within} within hand error, {tally.slips} slips, {tally.steps} steps gone wrong"
        print(f"{tally.name:40} {tally.pieces:4} pieces {tally.seconds / 60:5.0f} min  {counts}")
    weak = [each for each in book.habits() if each.is_weak]
    for each in weak:
        print(
            f"The {each.part} strays {each.times:.1f} times as much as an ordinary hand's, judged by {each.figures} figures."
        )
    due = [each for each in book.due() if each.now]
    if due:
        print(f"To practise now: {', '.join(each.problem for each in due[:6])}.")
