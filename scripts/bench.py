"""Speed as ratios measured in one run, so that the machine does not matter. Prints a table, marks what misses, and ends with
1 where anything does. Like is compared with like: the same recording, and the same packages in the bare program.

Usage: bench.py [quick] [keys [PROBLEM…]]: all of it, or only the keys, of some problems or of all.
"""

from __future__ import annotations

import compileall
import math
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from wisecompass.folio.document import Folio

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["QT_LOGGING_RULES"] = "*.warning=false;*.info=false"  # the platform says at every window what it lacks

ONE_PIECE = 8.0
"""No piece of work on the interface thread takes longer while somebody types, ms, for 95 of 100 keys."""

FRAME = 1000 / 60
"""From a key to the painted sheet of a body with flat faces, ms, for 95 of 100 keys; a round one may take two."""

PROVED_WITHIN = 250.0
"""From the last key to the proved figure, ms, for 95 of 100 keys."""

BALL_LIMIT, HANDS_LIMIT, DESK_LIMIT, SOLVE_LIMIT = 8.0, 50.0, 1.8, 1.8

MISSED: list[str] = []
"""What has missed its limit so far."""
GROWTH_LIMIT = 1.1
"""Of a start with the whole catalogue against one with six problems; the noise of starting is some parts in a hundred."""

PARTS_LIMIT = 1.3
"""The power of the number of parts with which the edges of a body may grow, from 12 to 60."""

HANDS = 10_000

DENSE: dict[str, dict[str, str]] = {
    "loci/archimedean-spiral": {"turns": "4", "divisions": "24"},
    "loci/logarithmic-spiral": {"turns": "4", "step_angle": "20", "ratio": "1.05"},
    "loci/cycloid": {"turns": "4", "divisions": "24"},
    "loci/trochoid": {"turns": "4", "divisions": "24"},
    "loci/epicycloid": {"divisions": "24"},
    "loci/hypotrochoid": {"divisions": "24"},
    "loci/involute-circle": {"turns": "4", "divisions": "24"},
    "loci/helix": {"turns": "4", "divisions": "24"},
    "loci/conical-helix": {"turns": "4", "divisions": "24"},
    "loci/helical-strip": {"turns": "4", "divisions": "24"},
    "loci/coil-spring": {"turns": "4", "divisions": "24"},
    "conics/ellipse": {"divisions": "24"},
    "conics/parabola-rectangle": {"divisions": "24"},
    "conics/hyperbola-foci": {"divisions": "24"},
}
"""Curves as densely divided as anybody draws them."""

FLAT_PARTS = (
    "box 120 80 12 at 0 0 0; box 30 40 50 at 10 20 12; box 20 20 60 at 15 30 0; box 40 30 35 at 50 10 12; "
    "wedge 25 30 20 at 50 45 12 rising right; box 12 50 40 at 95 15 12; less box 14 14 40 at 60 18 20; "
    "less box 60 8 10 at 0 36 40; wedge 20 20 25 at 75 45 12 rising back; box 25 12 20 at 60 66 12; "
    "less box 10 10 12 at 100 0 0; box 18 10 30 at 20 62 12"
)
ROUND_PARTS = (
    "box 120 80 12 at 0 0 0; cylinder 30 40 at 30 40 12 along up; less cylinder 16 60 at 30 40 0 along up; "
    "box 40 30 35 at 50 10 12; cylinder 20 30 at 70 25 47 along up; box 12 50 40 at 95 15 12; "
    "less cylinder 14 14 at 95 40 35 along right; less cylinder 8 12 at 110 10 0; cone 24 30 at 70 60 12 along up; "
    "wedge 15 12 20 at 50 66 12 rising right; less cylinder 10 12 at 110 70 0; cylinder 18 10 at 10 70 12"
)
BODIES = ("solids/crates", "pictorial/crates")
"""Problems of bodies of parts: timed with these, of twelve parts each."""


def median_ms(act: Callable[[], object], rounds: int) -> float:
    """Median time of a call in milliseconds."""
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        act()
        times.append((time.perf_counter() - start) * 1e3)
    return statistics.median(times)


def reference_ms() -> float:
    """A fixed piece of work, to tell how slow the machine is at the moment against its best in the same run."""
    start = time.perf_counter()
    total = 0
    for n in range(4000):
        total += n * n
    return (time.perf_counter() - start) * 1e3


def verdict(good: bool, what: str = "") -> str:
    if not good:
        MISSED.append(what)
    return "ok" if good else "MISSES"


def constructions(rounds: int) -> None:
    """Plain against ball and hands, for every method."""
    from wisecompass import catalogue
    from wisecompass.arithmetic import BALL, PLAIN
    from wisecompass.drafting.hand import Hand
    from wisecompass.drafting.recorder import Detail
    from wisecompass.drafting.solve import construct, simulate

    bare = Detail.RESULT  # balls and hands record no construction lines either
    print(f"{'method':58} {'plain ms':>9} {'ball/plain':>10} {'10k plain / 10k hands':>22}")
    for problem in map(catalogue.problem, catalogue.ids()):
        for method in problem.methods:
            typed = problem.served_by(method, problem.read({}))
            plain = median_ms(lambda: construct(problem, typed, method, PLAIN, detail=bare), rounds)  # noqa: B023
            ball = median_ms(lambda: construct(problem, typed, method, BALL), rounds)  # noqa: B023
            hands = median_ms(lambda: simulate(problem, typed, method, Hand(), HANDS), 3)  # noqa: B023
            ratio, gain = ball / plain, HANDS * plain / hands
            good = ratio <= BALL_LIMIT and gain >= HANDS_LIMIT
            name = f"{problem.id} · {method.name}"
            print(f"{name:58} {plain:9.2f} {ratio:10.1f} {gain:22.0f}  {verdict(good, name)}")


def keystrokes(rounds: int, only: Sequence[str] = ()) -> None:
    """Keys as somebody types them: how long any piece of work holds the interface thread, when the sheet is painted, and
    when the proof stands, with the process that proves at work."""
    from PySide6.QtCore import QCoreApplication, QEvent, QObject, Qt
    from PySide6.QtGui import QPaintEvent
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QApplication

    from wisecompass import catalogue
    from wisecompass.desk.brief_number import NumberField
    from wisecompass.desk.helper import Helper
    from wisecompass.desk.parts_list import PartsList
    from wisecompass.desk.session import Session
    from wisecompass.desk.sheet_view import SheetView
    from wisecompass.desk.theme import load_fonts
    from wisecompass.desk.window import DeskWindow
    from wisecompass.drafting.givens import Form
    from wisecompass.folio import store

    pieces: list[tuple[float, float]] = []

    class Timed(QApplication):
        """Times every event from outside: how long it worked, and how long it held the thread. A machine that is shared
        with others stops it meanwhile, which is no work of ours."""

        depth = 0

        def notify(self, receiver: QObject, event: QEvent) -> bool:
            if Timed.depth:
                return super().notify(receiver, event)
            Timed.depth = 1
            worked, start = time.thread_time(), time.perf_counter()
            try:
                return super().notify(receiver, event)
            finally:
                Timed.depth = 0
                pieces.append(((time.thread_time() - worked) * 1e3, (time.perf_counter() - start) * 1e3))

    application = QCoreApplication.instance() or Timed([])
    load_fonts()
    painted_at = [0.0]
    paint = SheetView.paintEvent

    def painting(self: SheetView, event: QPaintEvent) -> None:
        paint(self, event)
        painted_at[0] = time.perf_counter()

    SheetView.paintEvent = painting  # type: ignore[method-assign]
    load_fonts()
    helper = Helper()
    session = Session(store.sample(), helper=helper)
    window = DeskWindow(session)
    window.show()

    def wait(holds: Callable[[], bool], most: float = 20.0) -> None:
        end = time.perf_counter() + most
        while not holds() and time.perf_counter() < end:
            application.processEvents()
            time.sleep(0.0005)

    wait(lambda: session.certificate is not None)
    window.index.finish_signs()
    best = min(reference_ms() for _ in range(200))
    heads = f"{'sheet ms':>9} {'95th':>6} {'longest piece':>13} {'95th':>6} {'worst':>8} {'proof 95th ms':>14}"
    print(f"\n{'keys, every 120 ms':48} {heads}")
    every: list[float] = []
    rows: list[tuple[str, dict[str, str]]] = [(problem_id, {}) for problem_id in catalogue.ids()]
    twelve = [(problem_id, {"parts": parts}) for problem_id in BODIES for parts in (FLAT_PARTS, ROUND_PARTS)]
    for problem_id, givens in (*rows, *DENSE.items(), *twelve):
        if only and problem_id not in only:
            continue
        session.set_problem(problem_id)
        for name, text in givens.items():
            session.set_given(name, text)
        lengths = (Form.LENGTH, Form.OFFSET, Form.ANGLE, Form.RATIO)
        forms = {item.name: item.form for item in session.problem.given_list}
        fields = {name: f for name, f in window.brief.fields.items() if isinstance(f, NumberField)}
        free = [f for name, f in fields.items() if forms[name] in lengths and name not in givens]
        wait(lambda: session.certificate is not None and not helper.busy)
        lists = [f for f in window.brief.fields.values() if isinstance(f, PartsList)]
        field = lists[0].rows[min(3, len(lists[0].rows) - 1)] if lists else (free or list(fields.values()))[0]
        if lists:
            field.setCursorPosition(len(field.text()) // 4)
        key = Qt.Key.Key_Up
        field.setFocus()
        wait(lambda: session.certificate is not None and not helper.busy)
        painted, held, calm, proved = [], [], [], []
        for n in range(rounds):
            pace = max(1.0, reference_ms() / best)
            before = window.sheet.paints
            pieces.clear()
            start = time.perf_counter()
            if session.trouble is not None:
                key = Qt.Key.Key_Down if key is Qt.Key.Key_Up else Qt.Key.Key_Up  # as far as it goes, and back
            stale = session.trouble
            QTest.keyClick(field, key)
            wait(lambda: window.sheet.paints > before or session.trouble is not stale, 1.0)  # noqa: B023
            if window.sheet.paints > before:
                painted.append((painted_at[0] - start) * 1e3 / pace)
            if n % 5 == 4:  # a pause after the key: the proof is waited for
                wait(lambda: session.certificate is not None or session.trouble is not None, 3.0)
                proved.append((time.perf_counter() - start) * 1e3 / pace)
            wait(lambda: time.perf_counter() - start > 0.12)  # noqa: B023
            calm.append(max(worked for worked, _ in pieces))
            held.append(max(wall for _, wall in pieces))
        every += calm
        if not painted:
            print(f"{problem_id:48} these keys are refused, one and all")
            continue
        of_round = givens.get("parts") == ROUND_PARTS
        name = f"{problem_id}{' · 12 parts' if 'parts' in givens else ' · dense' if givens else ''}"
        name += " · round" if of_round else ""
        last, proof = _95th(calm), _95th(proved)
        good = last <= ONE_PIECE and proof <= PROVED_WITHIN
        if problem_id.startswith(("solids/", "pictorial/")):
            good = _95th(painted) <= (2 if of_round else 1) * FRAME and proof <= PROVED_WITHIN
        sheet = f"{statistics.median(painted):9.1f} {_95th(painted):6.1f}"
        row = f"{sheet} {statistics.median(calm):13.1f} {last:6.1f} {max(held):8.1f} {proof:14.0f}"
        print(f"{name:48} {row}  {verdict(good, name)}")
    good = _95th(every) <= ONE_PIECE
    print(
        f"{'all keys together':48} {'':16} {statistics.median(every):13.1f} {_95th(every):6.1f}  {verdict(good, 'typing')}"
    )
    window.close()


def _95th(values: list[float]) -> float:
    return sorted(values)[int(0.95 * (len(values) - 1))]


def bodies(rounds: int) -> None:
    """How the edges of a body and one view of it grow with its parts: boxes, wedges and bores that stand on a plate."""
    from wisecompass.catalogue.solids.crate_plan import plan_of
    from wisecompass.drafting.crating import FRONT
    from wisecompass.geometry.parts import Part
    from wisecompass.geometry.sight import runs

    def standing(count: int) -> tuple[Part, ...]:
        wide = math.ceil(math.sqrt(count))
        found = [Part("box", (20.0 * wide, 20.0 * wide, 10.0), (0.0, 0.0, 0.0))]
        for k in range(count - 1):
            x, y = 20.0 * (k % wide), 20.0 * (k // wide)
            size = (12.0 + k % 3, 13.0, 8.0 + k % 5)
            found.append(
                Part("box", size, (x + 2, y + 3, 10.0)) if k % 2 else Part("wedge", size, (x + 2, y + 3, 10.0), "right")
            )
        return tuple(found)

    print(f"\n{'bodies of parts':58} {'12, ms':>9} {'60, ms':>10} {'n to the':>22}")
    for name, of in (
        ("edges", lambda parts: plan_of(parts)),
        ("one view", lambda parts: runs(plan_of(parts).body, FRONT.sight)),
    ):
        times = []
        for count in (12, 60):
            parts = standing(count)
            if name == "one view":
                plan_of(parts)

            def act(parts: tuple[Part, ...] = parts, of: Callable[[tuple[Part, ...]], object] = of) -> None:
                if name == "edges":  # noqa: B023
                    plan_of.cache_clear()
                of(parts)

            times.append(median_ms(act, max(3, rounds // 3)))
        growth = math.log(times[1] / times[0]) / math.log(5)
        print(
            f"{name:58} {times[0]:9.0f} {times[1]:10.0f} {growth:22.2f}  {verdict(growth <= PARTS_LIMIT, f'bodies, {name}')}"
        )


BARE_WINDOW = """
from PySide6.QtWidgets import QApplication, QWidget
class Bare(QWidget):
    def paintEvent(self, event):
        print(flush=True); import os; os._exit(0)
app = QApplication([]); w = Bare(); w.resize(1280, 800); w.show(); app.exec()
"""

DESK = """
import sys
import wisecompass.folio.print  # the core before Qt, as the program does
from wisecompass.desk import sheet_view
paint = sheet_view.SheetView.paintEvent
def once(self, event):
    paint(self, event); print(flush=True); import os; os._exit(0)
sheet_view.SheetView.paintEvent = once
from wisecompass.cli import main
main(["demo"])
"""

SIX = """
from wisecompass import catalogue
catalogue.FAMILIES = {"polygons": ("regular-from-side",), "tangency": ("arc-two-lines",), "conics": ("ellipse",),
    "space": ("line-inclined-to-both",), "pictorial": ("box",), "developments": ("rectangle-to-rectangle",)}
"""

BARE_BALLS = "import argparse, flint"
SOLVE = "from wisecompass.cli import main; main(['solve', 'tangency/arc-two-lines', '--json'])"


def in_turn(first: str, second: str, rounds: int) -> tuple[float, float]:
    """Median seconds of two programs started in turn."""
    times: tuple[list[float], list[float]] = ([], [])
    for _ in range(rounds):
        for program, found in zip((first, second), times, strict=True):
            start = time.perf_counter()
            subprocess.run([sys.executable, "-c", program], cwd=ROOT, capture_output=True, check=True)
            found.append(time.perf_counter() - start)
    return statistics.median(times[0]), statistics.median(times[1])


def starts(rounds: int) -> None:
    """Start of the desk and of the command line against bare programs, all compiled as the set-up leaves them."""
    compileall.compile_dir(str(ROOT / "wisecompass"), quiet=1)
    print(f"\n{'start':58} {'bare s':>9} {'ours s':>10} {'ratio':>22}")
    for name, bare, ours, limit in (
        ("desk to first painted sheet / bare Qt window", BARE_WINDOW, DESK, DESK_LIMIT),
        ("desk with all problems / desk with six", SIX + DESK, DESK, GROWTH_LIMIT),
        ("solve --json with all problems / with six", SIX + SOLVE, SOLVE, GROWTH_LIMIT),
        ("solve --json / Python that imports argparse and python-flint", BARE_BALLS, SOLVE, SOLVE_LIMIT),
    ):
        base, time_taken = in_turn(bare, ours, rounds)
        ratio = time_taken / base
        print(f"{name:58} {base:9.2f} {time_taken:10.2f} {ratio:22.2f}  {verdict(ratio <= limit, name)}")


FIRST_PAINT = """
import sys
import wisecompass.folio.print
from wisecompass.desk import sheet_view
paint = sheet_view.SheetView.paintEvent
def once(self, event):
    paint(self, event); print(flush=True); import os; os._exit(0)
sheet_view.SheetView.paintEvent = once
from wisecompass.cli import main
main(["desk", "{path}"])
"""


def folios(rounds: int) -> None:
    """A folio of two hundred figures against one of six: opened, and all its sheets laid out on all cores."""
    from wisecompass.exchange.leaves import sheet_pages
    from wisecompass.folio import links, register, store
    from wisecompass.folio.document import Figure
    from wisecompass.folio.print import sheet_page

    sample = store.sample()
    every = (figure for sheet in sample.sheets for figure in sheet.figures if not links.links_in(figure))
    free = [figure for figure in every if figure.problem.startswith(("triangles", "polygons", "tangency"))]

    def folio(count: int) -> Folio:
        groups = [range(k, min(k + 4, count)) for k in range(0, count, 4)]
        sheets = tuple(
            replace(
                sample.sheets[0], number=str(n), figures=tuple(replace(free[k % len(free)], name=f"f {k}") for k in group)
            )
            for n, group in enumerate(groups)
        )
        return register.with_names(replace(sample, sheets=sheets))

    print(f"\n{'folio':58} {'one':>9} {'other':>10} {'ratio':>22}")
    with tempfile.TemporaryDirectory() as folder:
        programs = []
        for count in (6, 200):
            path = Path(folder) / f"{count}.folio.json"
            store.save(folio(count), path)
            programs.append(FIRST_PAINT.replace("{path}", str(path)))
        small, large = in_turn(programs[0], programs[1], rounds)
        name = "a folio of 200 figures to its first painted sheet / of six"
        print(f"{name:58} {small:9.2f} {large:10.2f} {large / small:22.2f}  {verdict(large / small <= OPEN_LIMIT, name)}")
    whole = folio(200)
    start = time.perf_counter()
    for s in range(12):
        sheet_page(whole, s)
    one = (time.perf_counter() - start) / 12 * len(whole.sheets)
    start = time.perf_counter()
    count = sum(1 for _ in sheet_pages(whole, range(len(whole.sheets))))
    together, cores = time.perf_counter() - start, os.cpu_count() or 1
    name = f"{count} sheets on {cores} cores / as many one by one, a core"
    share = one / together / cores
    print(f"{name:58} {one:9.2f} {together:10.2f} {share:22.2f}  {verdict(share >= CORES_LIMIT, name)}")
    chain = [Figure("triangles/three-sides", "two arcs", {"base": "71", "left": "58", "right": "43"}, name="t0")]
    for k in range(1, 11):
        chain.append(
            replace(chain[0], name=f"t{k}", givens={"base": f"t{k - 1}.perimeter / 3", "left": "58", "right": "43"})
        )
    linked = register.with_names(replace(sample, sheets=(replace(sample.sheets[0], figures=tuple(chain)),)))
    bases = iter(range(1, 10_000))

    def follow() -> None:
        first = replace(chain[0], givens={**chain[0].givens, "base": f"71.{next(bases)}"})
        held = register.replace_figure(linked, (0, 0), first)
        links.read_figure(held, held.sheets[0].figures[10], offers=False)

    reference, chained = reference_ms(), median_ms(follow, 15)
    print(f"{'a chain of ten links follows, ms (and the reference)':58} {reference:9.2f} {chained:10.2f}")


OPEN_LIMIT, CORES_LIMIT = 1.5, 0.7
"""How much longer a large folio may take to open, and which share of its cores an export must make use of."""


def main() -> int:
    quick, words = "quick" in sys.argv[1:], [word for word in sys.argv[1:] if word != "quick"]
    if words[:1] == ["keys"]:
        keystrokes(15 if quick else 60, words[1:])
    else:
        constructions(7 if quick else 25)
        keystrokes(15 if quick else 60)
        bodies(7 if quick else 25)
        starts(3 if quick else 9)
        folios(3 if quick else 7)
    print(f"\n{len(MISSED)} miss their limit: {', '.join(MISSED)}" if MISSED else "\nall hold")
    return 1 if MISSED else 0


if __name__ == "__main__":
    sys.exit(main())
