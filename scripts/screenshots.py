"""Makes the pictures in docs/screenshots from the sample folio, at 1280×800, offscreen; and one exported sheet."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PIL import Image  # noqa: E402
from PySide6.QtCore import Qt  # noqa: E402 - the platform is chosen first
from PySide6.QtGui import QPainter, QPixmap  # noqa: E402
from PySide6.QtWidgets import QApplication  # noqa: E402

from wisecompass.desk.full_size_form import FullSizeForm  # noqa: E402
from wisecompass.desk.nest_form import NestForm  # noqa: E402
from wisecompass.desk.plot_form import PlotForm  # noqa: E402
from wisecompass.desk.session import Session  # noqa: E402
from wisecompass.desk.theme import LIGHT, load_fonts  # noqa: E402
from wisecompass.desk.window import DeskWindow  # noqa: E402
from wisecompass.drafting.hand import Hand, OneHand  # noqa: E402
from wisecompass.drafting.solve import draw  # noqa: E402
from wisecompass.exchange.camera import Camera, photographed  # noqa: E402
from wisecompass.exchange.pdf import pdf as pdf_of  # noqa: E402
from wisecompass.folio import store  # noqa: E402
from wisecompass.folio.clicked import corners, lettered  # noqa: E402
from wisecompass.folio.practice import questions  # noqa: E402
from wisecompass.folio.print import laid_out  # noqa: E402
from wisecompass.folio.register import place_of  # noqa: E402
from wisecompass.folio.worksheets import Course, question_page, stage_pages  # noqa: E402
from wisecompass.service import Task, on_paper  # noqa: E402

OUT = ROOT / "docs" / "screenshots"

VIEWS: tuple[tuple[str, str, int, str], ...] = (
    ("blend", "tangency/arc-two-lines", 6, ""),
    ("polygon", "polygons/regular-from-side", 13, ""),
    ("linked", "brace gusset", 0, ""),
    ("ways", "arch", 0, ""),
    ("helix", "loci/helix", 0, ""),
    ("line-in-space", "space/line-inclined-to-both", 15, ""),
    ("body", "solids/crates", 10, ""),
    ("block", "pictorial/polygon-block", 0, ""),
    ("picture", "chute, two points", 0, ""),
    ("pattern", "lamp hood, laid out", 34, ""),
)
"""(name, problem or name of the figure, step or 0 for the whole sheet, method or "" for the sample's own)."""


HOPPER_PAGE = str(place_of(store.sample(), "hopper")[0] + 1)


def photograph(session: Session, window: DeskWindow, place: tuple[int, int]) -> None:
    """A sheet on which a mistake was made, photographed and clicked."""
    session.turn_to(*place)
    session.settle()
    page, forks = session.page, replace(on_paper(Task.of(session.folio, place)), taken=-1).by(None).forks
    assert page is not None
    window.leaves.show_leaf("Measured")
    session.settle()
    wrong = next(n for n, fork in enumerate(forks) if "scale" in fork.words or "crossing" in fork.words)
    figure = session.figure
    hand = OneHand(Hand().on_paper(float(page.scale)), 3)
    drawing = draw(
        session.problem, session.typed, session.method, session.conventions, figure.solution, unsteadiness=hand, taken=wrong
    )
    drawn = laid_out(session.folio, place, drawing, cell=session.plan.cells[place[1]] if session.plan is not None else None)
    png, fit = photographed(drawn, Camera(tilt=14, turn=3, dpi=130))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "sheet.png"
        path.write_bytes(png)
        window.open_photograph(path)
    spots = {**corners(drawn), **{name: spot.at for name, spot in lettered(drawn).items()}}
    while window.photo.asked:
        if window.photo.asked in spots:
            window.photo.take(fit.pixel(spots[window.photo.asked]))
        else:
            window.photo.leave_out()


def practise(session: Session, window: DeskWindow, place: tuple[int, int]) -> None:
    """Another like it, some steps of it found and a wrong one taken."""
    session.turn_to(*place)
    window.index.leaves.show_leaf("Practise")
    window.practise.seed = 4
    window.practise.another()
    for right in (True, True, True, True, True, False):
        at = next(k for k, choice in enumerate(window.practise.choices) if choice.right is right)
        window.practise._chosen(f"choice {at}")


def worksheets() -> None:
    """A question sheet and the construction in growing pictures."""
    question = next(questions(["tangency/arc-two-circles"], 1, 4, 2))
    course = Course("Bramlow Mill practice")
    pages = [question_page(question, course, "1"), next(stage_pages(question, course, "1"))]
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "sheets.pdf"
        path.write_bytes(pdf_of(pages, "Worksheet"))
        subprocess.run(["pdftoppm", "-r", "64", "-png", str(path), str(Path(folder) / "sheet")], check=True)
        pictures = [Image.open(each) for each in sorted(Path(folder).glob("sheet-*.png"))]
        width, height = pictures[0].size
        beside = Image.new("RGB", (width * 2, height), "white")
        for n, picture in enumerate(pictures):
            beside.paste(picture, (n * width, 0))
        beside.save(OUT / "worksheet.png")


def handing_over(application: QApplication, session: Session, window: DeskWindow, place: tuple[int, int]) -> None:
    """The three forms that hand over, and the simulated plotter at work."""

    def wait(holds: Callable[[], object]) -> None:
        while not holds():
            application.processEvents()
            time.sleep(0.01)
        for _ in range(20):
            application.processEvents()

    session.turn_to(*place)
    session.settle()
    full = FullSizeForm(session, LIGHT, window)
    full.show()
    wait(lambda: full.tiles)
    full.grab().save(str(OUT / "tiles.png"))
    full.close()
    nest = NestForm(session, LIGHT, window)
    nest.show()
    wait(lambda: nest.parts)
    nest.stock.setText("600x450")
    nest.lay()
    wait(lambda: nest.pages)
    nest.grab().save(str(OUT / "nested.png"))
    nest.close()
    plot = PlotForm(session, LIGHT, window)
    plot.show()
    wait(lambda: plot.job)
    plot.send()
    plotter = plot.plotter
    assert plotter is not None
    plotter.speed.setValue(200)
    wait(lambda: plot.bar.value() > 640)
    plotter.plug.fail("paper out")
    wait(lambda: plot.sending is not None and plot.sending.state == "stopped" and "paper" in plot.said.text())
    plotter.follow()
    sides = [QPixmap(plot.grab()), QPixmap(plotter.grab())]
    beside = QPixmap(sum(each.width() for each in sides) + 16, max(each.height() for each in sides))
    beside.fill(LIGHT.color("table"))
    with QPainter(beside) as painter:
        painter.drawPixmap(0, 0, sides[0])
        painter.drawPixmap(sides[0].width() + 16, 0, sides[1])
    beside.scaledToWidth(1280, Qt.TransformationMode.SmoothTransformation).save(str(OUT / "plotter.png"))
    plot.close()


def main() -> None:
    application = QApplication([])
    load_fonts()
    session = Session(store.sample())
    book = Path(tempfile.mkdtemp()) / "logbook.sqlite"
    window = DeskWindow(session, logbook=book)
    window.show()
    OUT.mkdir(parents=True, exist_ok=True)
    places: dict[str, tuple[int, int]] = {}
    for s, sheet in enumerate(session.folio.sheets):
        for f, figure in enumerate(sheet.figures):
            places.setdefault(figure.problem, (s, f))
            places.setdefault(figure.name, (s, f))

    def take(name: str) -> None:
        session.settle()
        session.neighbours.finish()
        window.index.finish_signs()
        window.strip.setFocus()
        application.processEvents()
        application.processEvents()
        window.grab().save(str(OUT / f"{name}.png"))

    for name, problem_id, step, method in VIEWS:
        session.turn_to(*places[problem_id])
        if method:
            session.set_method(method)
        session.go_to(step or session.last_step + 1)
        window.brief.line.others.setChecked(name == "ways")
        if name == "pattern":
            slider = window.space_picture.slider
            slider.setValue(slider.maximum() * 3 // 5)
        if name == "polygon":
            session.settle()
            window.leaves.show_leaf("Hand")
            window.hand.rows.open("circumradius")
        elif name == "linked":
            session.settle()
            window.turn_round(
                "perimeter" if "perimeter" in session.problem.findings else next(iter(session.problem.findings))
            )
        take(name)
        window.leaves.show_leaf("Answers")
        if method:
            session.undo()
    photograph(session, window, places["tangency/arc-two-circles"])
    take("photograph")
    window.photo.put_away()
    window.leaves.show_leaf("Answers")
    practise(session, window, places["tangency/arc-two-circles"])
    take("practise")
    session.undo()
    window.leaves.show_leaf("Answers")
    session.turn_to(*places["space/line-inclined-to-both"])
    session.set_given("inclination_hp", "60")
    take("refused")
    session.set_given("inclination_hp", "34")
    session.turn_to(*places["tangency/arc-two-lines"])
    session.go_to(6)
    window.toggle_dark()
    take("dark")
    window.set_room(LIGHT)
    handing_over(application, session, window, places["hopper"])
    window.close()
    pdf = OUT / "folio.pdf"
    export = [sys.executable, "-m", "wisecompass.cli", "export", str(store.SAMPLE), "--pdf", str(pdf)]
    subprocess.run(export, cwd=ROOT, check=True)
    one_page = ["-r", "100", "-f", HOPPER_PAGE, "-l", HOPPER_PAGE, "-png", "-singlefile"]
    subprocess.run(["pdftoppm", *one_page, str(pdf), str(OUT / "sheet")], check=True)
    pdf.unlink()
    worksheets()


if __name__ == "__main__":
    main()
