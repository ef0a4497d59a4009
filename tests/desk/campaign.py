"""What somebody may do at the desk, at random: run in a process of its own that a test may kill.

Usage: campaign.py walk SEED COUNT FOLDER | campaign.py type SEED FOLDER
"""

from __future__ import annotations

import json
import os
import random
import sys
import time
import traceback
from collections.abc import Callable
from pathlib import Path
from types import TracebackType

sys.path.insert(0, str(Path(__file__).resolve().parents[2]))
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["WISE_COMPASS_FAULTS"] = "1"

from PySide6.QtCore import QPoint, QSettings, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from wisecompass import catalogue
from wisecompass.desk.brief import ChoiceWord
from wisecompass.desk.brief_number import NumberField
from wisecompass.desk.helper import Helper
from wisecompass.desk.session import Session
from wisecompass.desk.start import Ending, left_open
from wisecompass.desk.theme import load_fonts
from wisecompass.desk.window import DeskWindow
from wisecompass.drafting.conventions import Projection, Units, Vocabulary
from wisecompass.folio import links, register, store
from wisecompass.folio.drafts import Drafts
from wisecompass.folio.paper import SIZES
from wisecompass.folio.register import place_of

TYPED = (
    "72",
    "18.5",
    "1/0",
    "sqrt(-1)",
    "abc",
    "",
    "3/4",
    "1 1/2 in",
    "0",
    "-4",
    "1e9",
    "90",
    "10, 20, 30",
    "2*sqrt(3)",
    "84.",
)


class Desk:
    """A window with all that belongs to it, in a folder of its own."""

    def __init__(self, folder: Path) -> None:
        self.app = QApplication.instance() or QApplication([])
        load_fonts()
        self.folder = folder
        self.drafts = Drafts(folder / "drafts")
        settings = QSettings(str(folder / "desk.ini"), QSettings.Format.IniFormat)
        work = left_open(None, settings, self.drafts)
        self.session = Session(work or store.sample(), helper=Helper())
        self.window = DeskWindow(self.session, settings, self.drafts)
        self.faults: list[str] = []
        self.ending = Ending(self.window)
        sys.excepthook = self._fault
        self.window.show()

    def _fault(self, kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        self.faults.append(f"{kind.__name__}: {fault}")
        traceback.print_exception(kind, fault, trace)

    def acts(self, rng: random.Random) -> dict[str, Callable[[], object]]:
        """Everything that can be done, by name; each does it in some way or other."""
        s, w = self.session, self.window
        ids = catalogue.ids()

        def type_a_number() -> None:
            fields = [f for f in w.brief.fields.values() if isinstance(f, NumberField)]
            if fields:
                field = rng.choice(fields)
                field.setFocus()
                field.selectAll()
                QTest.keyClicks(field, rng.choice(TYPED)) if rng.random() < 0.8 else QTest.keyClick(field, Qt.Key.Key_Delete)

        def nudge() -> None:
            fields = [f for f in w.brief.fields.values() if isinstance(f, NumberField)]
            if fields:
                for _ in range(rng.randint(1, 4)):
                    QTest.keyClick(rng.choice(fields), rng.choice((Qt.Key.Key_Up, Qt.Key.Key_Down)))

        def turn_a_word() -> None:
            words = [f for f in w.brief.fields.values() if isinstance(f, ChoiceWord)]
            if words:
                rng.choice(words).turn(1)

        def step() -> None:
            s.go_to(rng.randint(1, s.last_step + 1))

        def method() -> None:
            if not s.empty and s.drawing is not None:
                s.set_method(rng.choice(s.problem.methods).name)

        def place() -> None:
            w.turn_sheet(rng.choice((1, -1, 3)))

        def save() -> None:
            w.save_to(self.folder / f"{rng.randint(1, 3)}.folio.json", over=rng.random() < 0.5)

        def reopen() -> None:
            w.open(self.folder / f"{rng.randint(1, 4)}.folio.json")

        def take_back() -> None:
            w._list_folios()
            if w.keeping.aside:
                w.take_back(rng.choice(w.keeping.aside))

        def export() -> None:
            w.export(rng.choice(("svg", "csv", "dxf", "pdf", "points")), self.folder / "out")
            if rng.random() < 0.4:
                w.cancel_job()

        def link() -> None:
            fields = [f for f in w.brief.fields.values() if isinstance(f, NumberField)]
            if fields and not s.empty:
                field = rng.choice(fields)
                offered = links.offered(s.folio, s.figure, field.given.form.dimension) or ["nobody.nothing"]
                text = f"{rng.choice(offered)}{rng.choice(('', ' / 2', ' + 3', ' * 0'))}"
                field.setFocus()
                field.selectAll()
                QTest.keyClicks(field, text)
                QTest.keyClick(field, rng.choice((Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Down)))

        def move() -> None:
            if rng.random() < 0.2:
                s.free_figures()
            s.move_figure(rng.uniform(-300, 300), rng.uniform(-300, 300))

        def block() -> None:
            if s.page is not None and s.page.placements:
                s.shift_block(rng.choice(list(s.page.placements)), rng.uniform(-30, 30), rng.uniform(-30, 30))

        def wish() -> None:
            if w.brief.wishes:
                rng.choice(w.brief.wishes).click()

        def go_on() -> None:
            found = [] if s.empty else register.continuations(s.figure.problem)
            if found:
                s.go_on(rng.choice(found))

        def click() -> None:
            at = QPoint(rng.randrange(max(w.sheet.width(), 1)), rng.randrange(max(w.sheet.height(), 1)))
            QTest.mouseClick(w.sheet, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)

        listed = [lambda key=key: w.register_actions[key].trigger() for key in w.register_actions if "…" not in key]
        return {
            "type": type_a_number,
            "nudge": nudge,
            "word": turn_a_word,
            "step": step,
            "method": method,
            "place": place,
            "offer": s.take_offer,
            "undo": s.undo,
            "redo": s.redo,
            "paper": lambda: s.set_paper(rng.choice(list(SIZES)), rng.random() < 0.5),  # type: ignore[arg-type]
            "scale": lambda: w.set_scale(rng.choice(("fit", "1:1", "1:10", "5:1", "1000:1", "bogus", "1:0"))),
            "schools": lambda: s.set_conventions(
                projection=rng.choice(list(Projection)), vocabulary=rng.choice(list(Vocabulary))
            ),
            "units": lambda: s.set_units(rng.choice(list(Units))),
            "add": lambda: s.add_problem(rng.choice(ids), new_sheet=rng.random() < 0.3),
            "register": lambda: rng.choice(listed)(),
            "rename": lambda: w.rename_figure(rng.choice(("hip", "", "octagon", "x" * 70))),
            "new": w.new_folio,
            "sample": w.open_sample,
            "save": save,
            "reopen": reopen,
            "back": take_back,
            "dark": w.toggle_dark,
            "export": export,
            "fold": w.fold_index,
            "views": s.free_views,
            "link": link,
            "move": move,
            "block": block,
            "wish": wish,
            "click": click,
            "figure": lambda: w.turn_figure(rng.choice((1, -1))),
            "one scale": lambda: s.set_one_scale(rng.random() < 0.5),
            "circles": lambda: s.set_whole_circles(rng.random() < 0.5),
            "turn": lambda: w.turn_by(rng.choice(("20", "90", "-45", "0", "x", "1/0"))),
            "letters": lambda: w.letter_by(rng.choice(("A=K", "A=Z, B=Y", "", "x"))),
            "go on": go_on,
            "ways": lambda: w.brief.line.others.toggle(),
            "leaf": w.turn_leaf,
            "card": lambda: rng.choice((w.card.toggle_away, w.card.toggle_size))(),
            "search": lambda: w.index.filter(rng.choice(("", "ellipse", "zz"))),
        }


def walk(seed: int, count: int, folder: Path) -> int:
    """So many random acts under the real loop; then all undone and done again. Prints what was wrong, if anything."""
    rng = random.Random(seed)
    desk = Desk(folder)
    app, wrong, done = desk.app, [], []
    weights = {
        "type": 8,
        "nudge": 6,
        "step": 4,
        "place": 4,
        "link": 3,
        "figure": 3,
        "undo": 4,
        "redo": 2,
        "dark": 0.3,
        "export": 0.4,
        "new": 0.5,
    }

    def act() -> None:
        acts = desk.acts(rng)
        (name,) = rng.choices(list(acts), [weights.get(each, 1.0) for each in acts])
        done.append(name)
        try:
            acts[name]()
        except Exception as fault:
            desk.faults.append(f"{name}: {type(fault).__name__}: {fault}")
            traceback.print_exc()
        if len(done) < count:
            QTimer.singleShot(rng.choice((0, 0, 5, 30)), act)
        else:
            QTimer.singleShot(300, app.quit)

    QTimer.singleShot(0, act)
    app.exec()
    session = desk.session
    folio = session.folio
    history = session.work.history
    steps = 0
    while history.can_undo:
        session.undo()
        steps += 1
    first = session.folio
    for _ in range(steps):
        session.redo()
    if session.folio is not folio:
        wrong.append("redo did not return to the folio that was there")
    for _ in range(steps):
        session.undo()
    if session.folio is not first:
        wrong.append("undo did not return to the first folio")
    wrong += desk.faults
    desk.window.close()
    desk.window.close()
    print(json.dumps({"done": len(done), "wrong": wrong, "last": done[-6:]}), flush=True)
    return 1 if wrong or len(done) < count else 0


def type_on(seed: int, folder: Path) -> int:
    """Type without end, and say after each key what the folio has and when."""
    rng = random.Random(seed)
    desk = Desk(folder)
    session = desk.session
    session.turn_to(*place_of(session.folio, "sill blend"))
    said = (folder / "said").open("a")

    def key() -> None:
        if not desk.window.isVisible():
            return
        session.set_given("radius", f"{rng.uniform(1, 90):.3f}")
        said.write(f"{time.time()} {session.figure.givens['radius']}\n")
        said.flush()
        QTimer.singleShot(rng.choice((10, 60, 200)), key)

    QTimer.singleShot(0, key)
    return desk.app.exec()


if __name__ == "__main__":
    if sys.argv[1] == "walk":
        sys.exit(walk(int(sys.argv[2]), int(sys.argv[3]), Path(sys.argv[4])))
    sys.exit(type_on(int(sys.argv[2]), Path(sys.argv[3])))
