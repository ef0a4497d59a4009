"""The commands that hand over: full size over the pages of a printer, patterns on stock, programs for machines."""

from __future__ import annotations

import argparse
import json
import sys
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadDocument, BadGiven

if TYPE_CHECKING:
    from wisecompass.drafting.givens import Typed
    from wisecompass.drafting.marks import Box, Mark
    from wisecompass.drafting.problem import Method, Problem
    from wisecompass.exchange.gcode import Job
    from wisecompass.exchange.machine import Profile
    from wisecompass.folio.document import Folio
    from wisecompass.folio.page import Page

Request = Callable[[argparse.Namespace], "tuple[Problem, Method, Typed, int]"]


def add_full_size(parser: argparse.ArgumentParser) -> None:
    """Options for what is printed at 1:1 over several pages."""
    parser.add_argument("--full-size", action="store_true", help="PDF, SVG at 1:1 over the pages of a printer")
    parser.add_argument("--pattern", action="store_true", help="only the flat pattern, at full size")
    _add_printer(parser)


def _add_printer(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--tiles", default="", metavar="PAPER", help="the printer's paper: A4, A3, Letter, … or 200x300")
    parser.add_argument("--overlap", type=float, default=10.0, metavar="MM", help="by which pages overlap")
    parser.add_argument("--margin", type=float, default=5.0, metavar="MM", help="that the printer leaves white")
    proof = "what a printed proof line of 100 mm measures, or both as ACROSS,UPRIGHT: the next print makes it good"
    parser.add_argument("--measured", default="", metavar="MM", help=proof)


def add_parsers(commands: Any) -> None:
    """The parsers of these commands."""
    tile = commands.add_parser("tile", help="a whole sheet of a folio over the pages of a printer")
    tile.add_argument("folio", type=Path, metavar="FOLIO")
    tile.add_argument("--sheet", required=True, metavar="NUMBER", help="number or name of the sheet")
    tile.add_argument("--pdf", type=Path, metavar="FILE")
    tile.add_argument("--svg", type=Path, metavar="FILE", help="a file for each page: FILE-1.svg, FILE-2.svg, …")
    _add_printer(tile)
    nest = commands.add_parser("nest", help="lay the patterns of a folio on stock sheets")
    nest.add_argument("folio", type=Path, metavar="FOLIO")
    nest.add_argument("--stock", default="2000x1000", metavar="SIZES", help="such as 2000x1000 or 2*1250x600, 2000x1000")
    nest.add_argument("--kerf", type=float, default=2.0, metavar="MM", help="between two patterns")
    nest.add_argument("--edge", type=float, default=5.0, metavar="MM", help="of a sheet that is kept free")
    nest.add_argument("--grain", choices=("free", "fixed"), default="free", help="fixed: patterns keep along the sheet")
    nest.add_argument("--copies", action="append", default=[], metavar="NAME=N", help="of a pattern; may be repeated")
    nest.add_argument("--seconds", type=int, default=3, help="for which the laying of a sheet is improved")
    nest.add_argument("--json", action="store_true")
    nest.add_argument("--pdf", type=Path, metavar="FILE", help="all sheets at full size")
    for kind in ("svg", "dxf", "gcode"):
        nest.add_argument(f"--{kind}", type=Path, metavar="FILE", help=f"{kind.upper()}, a file for each sheet")
    nest.add_argument("--profile", default="simulated plotter", metavar="NAME|FILE", help="of the machine, for G-code")
    plot = commands.add_parser("plot", help="a sheet or figure as G-code, or sent to a plotter")
    plot.add_argument("problem", metavar="FOLIO|ID", help="a folio with --sheet or --figure, or an id from the list")
    plot.add_argument("--sheet", metavar="NUMBER", help="a whole sheet of the folio")
    plot.add_argument("--figure", metavar="NAME", help="a figure of the folio at full size")
    plot.add_argument("--method", help="default: the first listed")
    plot.add_argument("--solution", type=int, default=None)
    plot.add_argument("--set", action="append", default=[], metavar="NAME=VALUE", help="a given; may be repeated")
    plot.add_argument("--points", type=Path, metavar="FILE", help="take points from a CSV table name,x,front,above")
    plot.add_argument("--pattern", action="store_true", help="only the flat pattern")
    pens = "in this order; all when none is named"
    plot.add_argument("--pen", action="extend", nargs="+", default=[], metavar="NAME", help=pens)
    plot.add_argument("--profile", default="simulated plotter", metavar="NAME|FILE", help="of the machine")
    plot.add_argument("--gcode", type=Path, metavar="FILE", help="write the program")
    for kind in ("svg", "dxf"):
        plot.add_argument(f"--{kind}", type=Path, metavar="FILE", help=f"write {kind.upper()} with a layer for each pen")
    plot.add_argument("--check", type=Path, metavar="FILE", help="read the program back and draw it as SVG")
    plot.add_argument("--to", metavar="PORT", help="send it to a plotter; “simulated” is one that is not there")
    plot.add_argument("--json", action="store_true")
    commands.add_parser("ports", help="list the serial ports of this computer")
    profile = commands.add_parser("profile", help="print the profile of a machine, to begin one of one's own from")
    profile.add_argument("name", nargs="?", default="simulated plotter", metavar="NAME|FILE")


# ----------------------------------------------------------------------------------------------------------- full size
def write_tiles(args: argparse.Namespace, page: Page, extent: Box | None, name: str) -> None:
    """Write a page over the pages of a printer."""
    from wisecompass.exchange.pdf import pdf
    from wisecompass.exchange.svg import svg
    from wisecompass.folio import files
    from wisecompass.folio.tiles import printer, tiled

    if not (args.pdf or args.svg):
        raise BadDocument("nothing to write: give --pdf or --svg")
    if getattr(args, "dxf", None):
        raise BadDocument("a DXF file is at full size by itself: give --dxf without --full-size")
    measured = [_number(part, "--measured") for part in args.measured.split(",") if part.strip()]
    if len(measured) > 2:
        raise BadGiven("measured", f"--measured has {len(measured)} numbers; it takes one, or ACROSS,UPRIGHT")
    tiles = tiled(page, printer(args.tiles or "A4", args.margin, args.overlap, measured), name, extent)
    if args.pdf:
        files.write(args.pdf, pdf(tiles.pages, name))
    if args.svg:
        for n, each in enumerate(tiles.pages, 1):
            path = args.svg if len(tiles.pages) == 1 else _numbered(args.svg, n)
            files.write(path, svg(each, f"{name}, page {n}").encode())
    print(tiles.words, file=sys.stderr)


def _numbered(path: Path, n: int) -> Path:
    return path.with_name(f"{path.stem}-{n}{path.suffix}")


def _number(text: str, what: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise BadGiven(what, f"{what}: “{quoted(text.strip())}” is not a number") from None


def run_tile(args: argparse.Namespace) -> int:
    """A whole sheet over the pages of a printer."""
    from wisecompass.folio import register, store
    from wisecompass.folio.print import sheet_page

    folio = store.load(args.folio)
    s = register.sheet_of(folio, args.sheet)
    page, said = sheet_page(folio, s)
    for sentence in said:
        print(sentence, file=sys.stderr)
    write_tiles(args, page, None, " · ".join(filter(None, (folio.work, folio.sheets[s].number, folio.sheets[s].name))))
    return 0


# ------------------------------------------------------------------------------------------------------------- nesting
def run_nest(args: argparse.Namespace) -> int:
    """Patterns laid on stock."""
    from wisecompass.exchange import nesting
    from wisecompass.exchange.pdf import pdf
    from wisecompass.folio import files, store

    folio = store.load(args.folio)
    order = nesting.Order(nesting.read_stock(args.stock), args.kerf, args.edge, args.grain == "fixed", args.seconds)
    nesting.require_order(order)
    parts, said = nesting.parts_of(folio)
    parts = nesting.copied(parts, _copies(args.copies))
    nest = nesting.nest(parts, order)
    for sentence in (*said, *nest.said):
        print(sentence, file=sys.stderr)
    count = len(nest.sheets)
    pages = [nesting.sheet_page(sheet, n, count, order, folio.work) for n, sheet in enumerate(nest.sheets, 1)]
    if args.pdf and pages:
        files.write(args.pdf, pdf(pages, f"{folio.work}, nested", folio.drawn_by))
    for n, sheet in enumerate(nest.sheets, 1):
        _write_nested(args, sheet, n, count, folio)
    if args.json:
        told = [
            {
                "stock": [sheet.stock.length, sheet.stock.width],
                "use": round(sheet.use, 4),
                "patterns": [
                    {"name": each.part.name, "x": each.where.dx, "y": each.where.dy, "turn": each.where.angle}
                    for each in sheet.laid
                ],
            }
            for sheet in nest.sheets
        ]
        print(json.dumps({"sheets": told, "left": [part.name for part in nest.left]}, ensure_ascii=False, indent=1))
    else:
        print(nest.words)
    return 0 if not nest.left else 1


def _write_nested(args: argparse.Namespace, sheet: Any, n: int, count: int, folio: Folio) -> None:
    from wisecompass.exchange import nesting
    from wisecompass.exchange.machine import named_profile
    from wisecompass.folio import files

    title = f"{folio.work}, nested sheet {n} of {count}"
    for kind in ("svg", "dxf", "gcode"):
        path: Path | None = getattr(args, kind)
        if path is None:
            continue
        path = path if count == 1 else _numbered(path, n)
        files.write(path, nesting.sheet_file(kind, sheet, named_profile(args.profile), title))


def _copies(pairs: Sequence[str]) -> dict[str, int]:
    found = {}
    for pair in pairs:
        name, sign, count = pair.rpartition("=")
        if not sign or not count.strip().isdigit():
            raise BadGiven("copies", f"--copies {quoted(pair)}: write it as name=3")
        found[name.strip()] = int(count)
    return found


# ------------------------------------------------------------------------------------------------------------ plotting
def run_plot(args: argparse.Namespace, request: Request) -> int:
    """A program for a plotter or cutter: written, read back, sent."""
    from wisecompass.exchange.gcode import job
    from wisecompass.exchange.machine import named_profile
    from wisecompass.exchange.strokes import length_by_pen, not_written, ordered, pens_named, strokes_of, travel

    if not (args.gcode or args.svg or args.dxf or args.check or args.to):
        raise BadDocument("nothing to do: give --gcode, --svg, --dxf, --check or --to")
    profile = named_profile(args.profile)
    pens = pens_named(args.pen, _no_pen)
    marks, title = _to_plot(args, request)
    strokes = ordered(strokes_of(marks, profile.dashed), pens)
    program = job(strokes, profile, title)
    if said := not_written(marks):
        print(said, file=sys.stderr)
    for kind in ("gcode", "svg", "dxf"):
        if getattr(args, kind):
            from wisecompass.exchange.pen_layers import plot_file
            from wisecompass.folio import files

            files.write(getattr(args, kind), plot_file(kind, program, title))
    if args.check:
        _check(args.check, program)
    if args.to:
        _send(args.to, program, profile)
    drawn = length_by_pen(strokes)
    if args.json:
        told = {"strokes": len(strokes), "drawn": {str(pen): mm for pen, mm in drawn.items()}, "travel": travel(strokes)}
        print(json.dumps(told, indent=1))
    else:
        for pen, mm in drawn.items():
            print(f"{pen:14} {mm:12.3f} mm")
        print(f"{'in the air':14} {travel(strokes):12.3f} mm")
    return 0


def _no_pen(name: str) -> BadGiven:
    from wisecompass.drafting.pens import Pen

    return BadGiven("pen", f"no pen is called “{quoted(name)}”; there are {', '.join(Pen)}", str(Pen.CUT))


def _to_plot(args: argparse.Namespace, request: Request) -> tuple[list[Mark], str]:
    """What is plotted: a whole sheet of a folio as it is, a figure at full size, or a problem at full size."""
    from wisecompass.drafting.conventions import Conventions
    from wisecompass.drafting.solve import draw
    from wisecompass.folio import register, store
    from wisecompass.folio.page import final
    from wisecompass.folio.print import sheet_page
    from wisecompass.folio.tiles import at_full_size, full_size, near_origin

    whole = args.sheet is None and args.figure is None
    if whole and not args.problem.endswith(".folio.json"):
        problem, method, typed, solution = request(args)
        drawing = draw(problem, typed, method, Conventions(), solution)
        return near_origin(*at_full_size(drawing, Conventions(), problem.title, pattern=args.pattern)), problem.title
    folio = store.load(Path(args.problem))
    if whole and len(folio.sheets) > 1:
        numbers = ", ".join(sheet.number or sheet.name for sheet in folio.sheets[:6])
        raise BadDocument(f"say what of the folio: --sheet NUMBER ({numbers}, …), or --figure NAME")
    if args.figure is None:
        s = register.sheet_of(folio, args.sheet)
        page, said = sheet_page(folio, s)
        for sentence in said:
            print(sentence, file=sys.stderr)
        return final(page), f"{folio.work} {folio.sheets[s].number}"
    place = register.place_of(folio, args.figure)
    return near_origin(*full_size(folio, place, args.pattern)), f"{folio.work} {args.figure}"


def _check(path: Path, program: Job) -> None:
    """What the program would draw, as a picture."""
    from wisecompass.exchange.gcode_picture import picture
    from wisecompass.exchange.svg import svg
    from wisecompass.folio import files

    files.write(path, svg(picture(program.text, program.profile, path.name), "read back").encode())


def _send(to: str, program: Job, profile: Profile) -> None:
    """Send a program, and say how far it is.

    Raises:
        BadDocument: it was not sent to its end; the sentence says why.
    """
    from wisecompass.devices.plotter import Plotter
    from wisecompass.devices.plug import PlotterOnPlug
    from wisecompass.devices.port import SerialPort
    from wisecompass.devices.sending import Progress, Sending

    simulated = PlotterOnPlug(Plotter(profile), hurry=100.0) if to == "simulated" else None
    name = to if simulated is None else simulated.name
    told = [0]

    def tell(progress: Progress) -> None:
        tenth = int(10 * progress.share)
        if tenth > told[0]:
            told[0] = tenth
            print(f"{10 * tenth} % drawn, stroke {progress.stroke} of {progress.strokes}", file=sys.stderr)

    sending = Sending(program, lambda: SerialPort(name, profile.baud), tell)
    try:
        sending.start()
        while sending.wait(0.5) == "sending":
            time.sleep(0.05)
    except KeyboardInterrupt:
        sending.cancel()
        sending.wait(30.0)
    finally:
        if simulated is not None:
            simulated.close()
    if sending.state != "done":
        raise BadDocument(sending.words or "the sending broke off")


def run_ports(args: argparse.Namespace) -> int:
    """The serial ports of this computer."""
    from wisecompass.devices.port import known_ports

    for name in known_ports():
        print(name)
    return 0


def run_profile(args: argparse.Namespace) -> int:
    """A profile as its file would be."""
    from wisecompass.exchange.machine import named_profile, profile_json

    print(json.dumps(profile_json(named_profile(args.name)), ensure_ascii=False, indent=1))
    return 0
