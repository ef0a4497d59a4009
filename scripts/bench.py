"""Speed as ratios measured in one run, so that the machine does not matter. Prints a table and marks what misses.

Usage: bench.py [quick]
"""

from __future__ import annotations

import compileall
import os
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from importlib import import_module
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

FRAME = 16.7
"""One frame at 60 Hz, ms."""

BALL_LIMIT, HANDS_LIMIT, DESK_LIMIT, SOLVE_LIMIT = 8.0, 50.0, 1.6, 2.0
OWN_BALL_LIMITS = {"tangency/three-circles": 20.0}
GROWTH_LIMIT = 1.1
"""Of a start with the whole catalogue against one with six problems; the noise of starting is some parts in a hundred."""

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


def verdict(good: bool) -> str:
    return "ok" if good else "MISSES"


def constructions(rounds: int) -> None:
    """Plain against ball and hands, for every method."""
    from wisecompass import catalogue
    from wisecompass.arithmetic import BALL, PLAIN
    from wisecompass.drafting.hand import Hand
    from wisecompass.drafting.solve import construct, simulate

    print(f"{'method':58} {'plain ms':>9} {'ball/plain':>10} {'10k plain / 10k hands':>22}")
    for problem in map(catalogue.problem, catalogue.ids()):
        for method in problem.methods:
            typed = problem.served_by(method, problem.read({}))
            plain = median_ms(lambda: construct(problem, typed, method, PLAIN), rounds)  # noqa: B023
            ball = median_ms(lambda: construct(problem, typed, method, BALL), rounds)  # noqa: B023
            hands = median_ms(lambda: simulate(problem, typed, method, Hand(), HANDS), 3)  # noqa: B023
            ratio, gain = ball / plain, HANDS * plain / hands
            good = ratio <= OWN_BALL_LIMITS.get(problem.id, BALL_LIMIT) and gain >= HANDS_LIMIT
            print(f"{problem.id + ' · ' + method.name:58} {plain:9.2f} {ratio:10.1f} {gain:22.0f}  {verdict(good)}")


def keystrokes(rounds: int) -> None:
    """From a key pressed in the brief to the painted sheet, and until the rest of the desk has followed."""
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QApplication

    from wisecompass import catalogue
    from wisecompass.desk.brief import NumberField
    from wisecompass.desk.session import Session
    from wisecompass.desk.theme import load_fonts
    from wisecompass.desk.window import DeskWindow
    from wisecompass.drafting.givens import Form
    from wisecompass.folio import store

    import_module("wisecompass.judgement.fairing")
    application = QApplication.instance() or QApplication([])
    load_fonts()
    session = Session(store.sample())
    window = DeskWindow(session)
    window.show()

    def settled() -> None:
        """A pause, in which what waits for one is done and painted."""
        session.settle()
        for _ in range(6):
            application.processEvents()

    settled()
    window.index.finish_signs()
    best = min(reference_ms() for _ in range(200))
    heads = f"{'whole desk ms':>14} {'sheet ms':>9} {'95th ms':>8} {'95th calm, of a frame':>22}"
    print(f"\n{'keystroke to painted sheet':48} {heads}")
    changed: list[bool] = []
    session.followed.connect(lambda: changed.append(True))
    rows: list[tuple[str, dict[str, str]]] = [(problem_id, {}) for problem_id in catalogue.ids()]
    for problem_id, givens in (*rows, *DENSE.items()):
        session.set_problem(problem_id)
        for name, text in givens.items():
            session.set_given(name, text)
        lengths = (Form.LENGTH, Form.OFFSET, Form.ANGLE, Form.RATIO)
        forms = {item.name: item.form for item in session.problem.given_list}
        fields = {name: f for name, f in window.brief.fields.items() if isinstance(f, NumberField)}
        free = [f for name, f in fields.items() if forms[name] in lengths and name not in givens]
        field = (free or list(fields.values()))[0]
        field.setFocus()
        settled()
        times, calm, whole = [], [], []
        for n in range(rounds):
            slow = max(1.0, reference_ms() / best)
            key = Qt.Key.Key_Up if n % 2 == 0 else Qt.Key.Key_Down
            before = window.sheet.paints
            changed.clear()
            start = time.perf_counter()
            QTest.keyClick(field, key)
            while window.sheet.paints == before and session.trouble is None:
                application.processEvents()
            times.append((time.perf_counter() - start) * 1e3)
            calm.append(times[-1] / slow)
            while not changed and session.trouble is None:
                application.processEvents()
            application.processEvents()  # what has followed is painted
            whole.append((time.perf_counter() - start) * 1e3)
            if n % 10 == 9:
                settled()
        last = int(0.95 * len(times))
        share = sorted(calm)[last] / FRAME
        name = f"{problem_id}{' · dense' if givens else ''}"
        row = f"{statistics.median(whole):14.1f} {statistics.median(times):9.1f} {sorted(times)[last]:8.1f} {share:22.2f}"
        print(f"{name:48} {row}  {verdict(share <= 1)}")
    window.close()


BARE_WINDOW = """
import numpy
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

BARE_BALLS = "import numpy, flint"
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
        ("desk to first painted sheet / bare window with NumPy", BARE_WINDOW, DESK, DESK_LIMIT),
        ("desk with all problems / desk with six", SIX + DESK, DESK, GROWTH_LIMIT),
        ("solve --json with all problems / with six", SIX + SOLVE, SOLVE, GROWTH_LIMIT),
        ("solve --json / Python that imports NumPy and python-flint", BARE_BALLS, SOLVE, SOLVE_LIMIT),
    ):
        base, time_taken = in_turn(bare, ours, rounds)
        ratio = time_taken / base
        print(f"{name:58} {base:9.2f} {time_taken:10.2f} {ratio:22.2f}  {verdict(ratio <= limit)}")


def main() -> None:
    quick = sys.argv[1:] == ["quick"]
    constructions(7 if quick else 25)
    keystrokes(20 if quick else 100)
    starts(3 if quick else 9)


if __name__ == "__main__":
    main()
