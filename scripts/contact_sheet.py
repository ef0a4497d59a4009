"""One picture of all figures at their defaults, to be looked at for weights, crowded letters and placing.

Usage: contact_sheet.py [FAMILY ...]; writes out/contact-sheet.png.
"""

from __future__ import annotations

import math
import subprocess
import sys
import tempfile
from pathlib import Path

from PIL import Image

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))

from wisecompass import catalogue  # noqa: E402 - the path is set first
from wisecompass.drafting.conventions import Conventions  # noqa: E402
from wisecompass.drafting.solve import draw  # noqa: E402
from wisecompass.exchange.pdf import pdf  # noqa: E402
from wisecompass.folio.page import compose  # noqa: E402
from wisecompass.folio.paper import Paper  # noqa: E402
from wisecompass.folio.title_block import Title  # noqa: E402

WIDTH, COLUMNS = 560, 4


def main() -> None:
    wanted = sys.argv[1:]
    pages = []
    for problem in map(catalogue.problem, catalogue.ids()):
        if wanted and problem.family not in wanted:
            continue
        typed = problem.read({})
        for method in problem.methods:
            own = problem.served_by(method, typed)
            page = compose(
                draw(problem, own, method), Paper(), Title(sheet=f"{problem.title}, {method.name}"), Conventions()
            )
            pages.append(page)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        (folder / "all.pdf").write_bytes(pdf(pages, "contact sheet"))
        subprocess.run(
            ["pdftoppm", "-scale-to-x", str(WIDTH), "-scale-to-y", "-1", "-png", str(folder / "all.pdf"), str(folder / "p")],
            check=True,
        )
        tiles = [Image.open(path) for path in sorted(folder.glob("p-*.png"))]
        height = tiles[0].height
        sheet = Image.new("RGB", (WIDTH * COLUMNS, height * math.ceil(len(tiles) / COLUMNS)), "#999")
        for index, tile in enumerate(tiles):
            sheet.paste(tile, ((index % COLUMNS) * WIDTH, (index // COLUMNS) * height))
        out = ROOT / "out" / "contact-sheet.png"
        out.parent.mkdir(exist_ok=True)
        sheet.save(out)
    print(f"{len(pages)} figures in {out.relative_to(ROOT)}")


if __name__ == "__main__":
    main()
