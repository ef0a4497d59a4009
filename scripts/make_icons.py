"""Paints the program's icon in the sizes that desktops want, from its SVG."""

from __future__ import annotations

import os
import sys
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"
sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from PySide6.QtGui import QGuiApplication, QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

from wisecompass.menu_entry import ICON_SIZES, share


def main() -> None:
    application = QGuiApplication([])
    folder = share() / "icons"
    drawn = QSvgRenderer(str(folder / "wise-compass.svg"))
    for size in ICON_SIZES:
        image = QImage(size, size, QImage.Format.Format_ARGB32)
        image.fill(0)
        with QPainter(image) as painter:
            drawn.render(painter)
        image.save(str(folder / f"wise-compass-{size}.png"))
    application.quit()


if __name__ == "__main__":
    main()
