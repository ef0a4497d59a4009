"""What the program is made of: versions, licences, and where it keeps what it keeps."""

from __future__ import annotations

import platform
import re
from importlib import metadata

from PySide6.QtCore import qVersion
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import (
    QApplication,
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from wisecompass import __version__
from wisecompass.desk.theme import scaled
from wisecompass.folio.paper import DRAFTING_FONT, FONTS
from wisecompass.menu_entry import share
from wisecompass.program_log import log_file

FACES = (("Lato (face of the interface)", "Lato-Regular.ttf"), ("Mill Lettering (face of the sheets)", DRAFTING_FONT.name))
"""The faces that ship with the program, and their files. Both are under the SIL Open Font License."""

USED = (
    "PySide6-Essentials",
    "shiboken6",
    "numpy",
    "scipy",
    "python-flint",
    "pydantic",
    "ezdxf",
    "reportlab",
    "fonttools",
    "pillow",
    "fsrs",
    "shapely",
    "pyserial",
    "spyrrow",
)

SIZE = (640, 560)


def licence_of(name: str) -> str:
    """The licence of a package, as short as it says it itself."""
    told = metadata.metadata(name).json
    words = str(told.get("license_expression") or "")
    if not words:
        classes = [each for each in told.get("classifier", []) if each.startswith("License ::")]
        words = ", ".join(each.rpartition(" :: ")[2] for each in classes)
    words = words or str(told.get("license") or "").strip().split("\n")[0]
    return re.sub(r"\s+", " ", words or _first_line(name))[:80]


def _first_line(name: str) -> str:
    """What the file of a licence begins with."""
    for path in metadata.files(name) or []:
        if "licen" in path.name.lower():
            return next((line.strip() for line in path.read_text().splitlines() if line.strip()), "")
    return "see its own files"


def parts() -> list[tuple[str, str, str]]:
    """Name, version and licence of all that the program is made of."""
    own = [("Wise Compass", __version__, "MIT")]
    found = [("Python", platform.python_version(), "PSF-2.0"), ("Qt", qVersion(), "LGPL-3.0")]
    for name in USED:
        try:
            found.append((name, metadata.version(name), licence_of(name)))
        except metadata.PackageNotFoundError:
            continue
    return [*own, *found, *((name, _version_of(file), "OFL-1.1") for name, file in FACES)]


def _version_of(file: str) -> str:
    """The version of a face, as it says itself."""
    from fontTools.ttLib import TTFont

    told = TTFont(FONTS / file)["name"].getDebugName(5) or ""
    return told.removeprefix("Version ").partition(";")[0].strip()


class About(QDialog):
    """A page about the program."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("About Wise Compass")
        self.setObjectName("panel")
        self.resize(scaled(SIZE[0]), scaled(SIZE[1]))
        column = QVBoxLayout(self)
        head = QHBoxLayout()
        icon = QLabel()
        icon.setPixmap(QPixmap(str(share() / "icons" / "wise-compass-64.png")))
        head.addWidget(icon)
        name = QLabel(f"Wise Compass {__version__}")
        name.setObjectName("sentence")
        head.addWidget(name, 1)
        column.addLayout(head)
        said = QLabel(
            "Constructs a drafter's figure from its givens, proves every number and shows every step. What is drawn is "
            "geometry: what carries load or can hurt is the affair of qualified people and the local codes."
        )
        said.setWordWrap(True)
        column.addWidget(said)
        rows = parts()
        self.table = QTableWidget(len(rows), 3)
        self.table.setAccessibleName("what the program is made of")
        self.table.setHorizontalHeaderLabels(["Part", "Version", "Licence"])
        self.table.verticalHeader().hide()
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        for n, row in enumerate(rows):
            for k, text in enumerate(row):
                self.table.setItem(n, k, QTableWidgetItem(text))
        self.table.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.ResizeToContents)
        self.table.horizontalHeader().setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        column.addWidget(self.table, 1)
        self.log = QLabel(f"Log: {log_file()}")
        self.log.setObjectName("quiet")
        self.log.setWordWrap(True)
        column.addWidget(self.log)
        buttons = QHBoxLayout()
        copy, close = QPushButton("Copy all of it"), QPushButton("Close")
        copy.clicked.connect(self.copy)
        close.setDefault(True)
        close.clicked.connect(self.accept)
        buttons.addWidget(copy)
        buttons.addStretch(1)
        buttons.addWidget(close)
        column.addLayout(buttons)

    def copy(self) -> None:
        """Everything as lines, to send with a question."""
        QApplication.clipboard().setText("\n".join("  ".join(row) for row in parts()))
