"""Makes the pictures in docs/screenshots from the sample folio, at 1280×800, offscreen; and one exported sheet."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
os.environ["QT_QPA_PLATFORM"] = "offscreen"

from PySide6.QtWidgets import QApplication  # noqa: E402 - the platform is chosen first

from wisecompass.desk.session import Session  # noqa: E402
from wisecompass.desk.theme import load_fonts  # noqa: E402
from wisecompass.desk.window import DeskWindow  # noqa: E402
from wisecompass.folio import store  # noqa: E402
from wisecompass.folio.register import place_of  # noqa: E402

OUT = ROOT / "docs" / "screenshots"

VIEWS: tuple[tuple[str, str, int, str], ...] = (
    ("blend", "tangency/arc-two-lines", 6, ""),
    ("polygon", "polygons/regular-from-side", 13, ""),
    ("linked", "brace gusset", 0, ""),
    ("ellipse", "conics/ellipse", 12, ""),
    ("ways", "arch", 0, ""),
    ("helix", "loci/helix", 0, ""),
    ("line-in-space", "space/line-inclined-to-both", 15, ""),
    ("faces", "space/dihedral-angle", 46, ""),
    ("saddle", "space/hyperbolic-paraboloid", 0, ""),
    ("solid", "solids/views", 34, ""),
    ("section", "solids/section", 0, ""),
    ("body", "solids/crates", 10, ""),
    ("block", "pictorial/polygon-block", 0, ""),
    ("picture", "chute, two points", 0, ""),
    ("hopper", "developments/rectangle-to-rectangle", 33, ""),
    ("pattern", "lamp hood, laid out", 34, ""),
)
"""(name, problem or name of the figure, step or 0 for the whole sheet, method or "" for the sample's own)."""


HOPPER_PAGE = str(place_of(store.sample(), "hopper")[0] + 1)


def main() -> None:
    application = QApplication([])
    load_fonts()
    session = Session(store.sample())
    window = DeskWindow(session)
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
        take(name)
        if method:
            session.undo()
    session.turn_to(*places["space/line-inclined-to-both"])
    session.set_given("inclination_hp", "60")
    take("refused")
    session.set_given("inclination_hp", "34")
    session.turn_to(*places["tangency/arc-two-lines"])
    session.go_to(6)
    window.toggle_dark()
    take("dark")
    window.close()
    pdf = OUT / "folio.pdf"
    export = [sys.executable, "-m", "wisecompass.cli", "export", str(store.SAMPLE), "--pdf", str(pdf)]
    subprocess.run(export, cwd=ROOT, check=True)
    one_page = ["-r", "100", "-f", HOPPER_PAGE, "-l", HOPPER_PAGE, "-png", "-singlefile"]
    subprocess.run(["pdftoppm", *one_page, str(pdf), str(OUT / "sheet")], check=True)
    pdf.unlink()


if __name__ == "__main__":
    main()
