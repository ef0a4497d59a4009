"""Colours and faces of the drafting room: warm paper, ink, verdigris for what is active, one vermilion for what is new."""

from __future__ import annotations

import re
from dataclasses import dataclass

from PySide6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette

from wisecompass.folio.paper import DRAFTING_FAMILY, DRAFTING_FONT, FONTS

INTERFACE_FAMILY = "Lato"
UNIT = 8
"""The rhythm of the window, px."""


@dataclass(frozen=True)
class Theme:
    """Colours by their work; the dark variant keeps the order of emphasis."""

    name: str
    room: str
    panel: str
    edge: str
    ink: str
    quiet: str
    accent: str
    vermilion: str
    wrong: str
    table: str
    paper: str
    paper_ink: str
    tint: str

    def color(self, which: str) -> QColor:
        return QColor(getattr(self, which))


LIGHT = Theme(
    name="light",
    room="#ECE6DA",
    panel="#F5F1E8",
    edge="#CFC7B6",
    ink="#24272B",
    quiet="#635E53",
    accent="#1F6F64",
    vermilion="#CC3A1E",
    wrong="#A3261B",
    table="#A9A290",
    paper="#FFFDF7",
    paper_ink="#1B1E22",
    tint="#8CC2B4",
)
DARK = Theme(
    name="dark",
    room="#1F2326",
    panel="#282D31",
    edge="#454C51",
    ink="#ECE7DB",
    quiet="#B0AA9C",
    accent="#6CC3B3",
    vermilion="#FF7A59",
    wrong="#FF8F80",
    table="#121517",
    paper="#31373B",
    paper_ink="#F1ECE0",
    tint="#2F6F64",
)


CONTRAST = Theme(
    name="contrast",
    room="#000000",
    panel="#000000",
    edge="#FFFFFF",
    ink="#FFFFFF",
    quiet="#E8E8E8",
    accent="#FFE94A",
    vermilion="#FF9E6B",
    wrong="#FF9E9E",
    table="#000000",
    paper="#000000",
    paper_ink="#FFFFFF",
    tint="#2B5CAA",
)
"""Whatever is read stands out from what is behind it seven to one or more."""

ROOMS = {theme.name: theme for theme in (LIGHT, DARK, CONTRAST)}


USUAL_POINTS, LARGEST_SCALE = 10.0, 2.0
"""Size of the system's interface face that the window is drawn for, and how many times larger its own may grow."""

_larger = 1.0


def scaled(pixels: int) -> int:
    """A size that grows with the system's interface face."""
    return round(pixels * _larger)


def follow_system_font() -> None:
    """Take the size that somebody has chosen for the whole system; smaller than usual it does not get."""
    global _larger
    font = QGuiApplication.font()
    points = font.pointSizeF() if font.pointSizeF() > 0 else font.pixelSize() * 0.75
    _larger = min(max(points / USUAL_POINTS, 1.0), LARGEST_SCALE)


def load_fonts() -> None:
    """Register the faces that ship with the program, at the size that the system's has."""
    follow_system_font()
    for path in (DRAFTING_FONT, FONTS / "Lato-Regular.ttf", FONTS / "Lato-Semibold.ttf"):
        QFontDatabase.addApplicationFont(str(path))


def interface_font(pixels: int, *, strong: bool = False) -> QFont:
    font = QFont(INTERFACE_FAMILY)
    font.setPixelSize(scaled(pixels))
    font.setWeight(QFont.Weight.DemiBold if strong else QFont.Weight.Normal)
    return font


def drafting_font(pixels: float) -> QFont:
    font = QFont(DRAFTING_FAMILY)
    font.setPixelSize(max(1, round(pixels)))
    return font


def palette_of(t: Theme) -> QPalette:
    """The colours of what the style itself paints: fields, boxes, lists."""
    role = QPalette.ColorRole
    found = QPalette()
    for name, roles in {
        "panel": (role.Window, role.AlternateBase, role.HighlightedText),
        "paper": (role.Base, role.ToolTipBase),
        "room": (role.Button, role.Midlight),
        "ink": (role.WindowText, role.Text, role.ButtonText, role.ToolTipText, role.BrightText),
        "quiet": (role.PlaceholderText,),
        "edge": (role.Mid, role.Dark, role.Light, role.Shadow),
        "accent": (role.Highlight, role.Link),
    }.items():
        for each in roles:
            found.setColor(each, t.color(name))
    for each in (role.WindowText, role.Text, role.ButtonText):
        found.setColor(QPalette.ColorGroup.Disabled, each, t.color("quiet"))
    return found


def style_sheet(t: Theme) -> str:
    """Qt style for all widgets, its letters as large as the system's."""
    return re.sub(r"font-size: (\d+)px", lambda found: f"font-size: {scaled(int(found[1]))}px", _style(t))


def _style(t: Theme) -> str:
    return f"""
    QWidget {{ color: {t.ink}; font-family: "{INTERFACE_FAMILY}"; font-size: 14px; }}
    QDialog {{ background: {t.panel}; }}
    QHeaderView::section {{ background: {t.room}; color: {t.ink}; border: 1px solid {t.edge}; padding: 3px; }}
    QTabBar::tab {{ background: {t.room}; color: {t.ink}; padding: 5px 12px; border: 1px solid {t.edge}; }}
    QTabBar::tab:selected {{ background: {t.panel}; border-bottom: 2px solid {t.accent}; }}
    QMainWindow, #room {{ background: {t.room}; }}
    #panel {{ background: {t.panel}; }}
    #rule {{ background: {t.edge}; }}
    QLabel#quiet {{ color: {t.quiet}; font-size: 13px; }}
    QLabel#heading {{ color: {t.quiet}; font-size: 13px; font-weight: 600; }}
    QLabel#notice {{ color: {t.accent}; font-size: 13px; }}
    QLabel#sentence {{ font-size: 19px; }}
    QLabel#reason {{ color: {t.wrong}; font-size: 14px; font-weight: 600; }}
    QLineEdit#number {{
        font-size: 19px; font-weight: 600; color: {t.accent}; background: {t.panel};
        border: none; border-bottom: 2px solid {t.accent}; padding: 0px 2px; }}
    QLineEdit#number:focus {{ background: {t.paper}; }}
    QLineEdit#number[wrong="true"] {{ color: {t.wrong}; border-bottom: 3px double {t.wrong}; }}
    QLineEdit#part {{
        font-size: 15px; font-weight: 600; color: {t.accent}; background: transparent;
        border: none; border-bottom: 1px solid {t.edge}; padding: 0px 2px; }}
    QLineEdit#part:focus {{ background: {t.paper}; border-bottom: 2px solid {t.accent}; }}
    QLineEdit#part[wrong="true"] {{ color: {t.wrong}; border-bottom: 3px double {t.wrong}; }}
    QToolButton#part {{ padding: 0px; font-size: 15px; color: {t.ink}; background: transparent; border: none; }}
    QToolButton#part:hover, QToolButton#part:focus {{ border: 1px solid {t.accent}; border-radius: 3px; }}
    QScrollArea#parts, QScrollArea#parts > QWidget > QWidget {{ background: transparent; }}
    QPushButton#choice {{
        font-size: 19px; font-weight: 600; color: {t.accent}; background: transparent;
        border: none; border-bottom: 2px dotted {t.accent}; padding: 0px 2px; }}
    QPushButton#wish {{
        font-size: 15px; font-weight: 600; color: {t.accent}; background: transparent;
        border: none; border-bottom: 1px dotted {t.accent}; padding: 0px 2px; }}
    QPushButton#choice:focus, QPushButton#wish:focus {{ background: {t.paper}; }}
    QLineEdit#search {{
        background: {t.paper}; border: 1px solid {t.edge}; border-radius: 3px; padding: 5px 8px; font-size: 14px; }}
    QLineEdit#search:focus {{ border: 1px solid {t.accent}; }}
    QToolButton {{ border: 1px solid transparent; border-radius: 3px; padding: 4px 8px; font-size: 13px; }}
    QToolButton#leaf {{ font-weight: 600; color: {t.quiet}; border: none; border-bottom: 2px solid transparent;
        border-radius: 0px; padding: 3px 3px; }}
    QToolButton#leaf:checked {{ color: {t.ink}; border-bottom: 2px solid {t.accent}; }}
    QToolButton#leaf:focus {{ background: {t.room}; }}
    QToolButton#add, QToolButton#ways {{ color: {t.accent}; }}
    QToolButton#chooser {{ color: {t.accent}; font-size: 14px; font-weight: 600; text-align: left; padding: 2px 0px;
        border: none; border-bottom: 1px solid {t.accent}; border-radius: 0px; }}
    QToolButton#chooser:focus {{ background: {t.paper}; border-bottom: 2px solid {t.accent}; }}
    QListWidget#offers {{ background: {t.paper}; border: 1px solid {t.accent}; font-size: 14px; }}
    QListWidget#offers::item:selected {{ background: {t.room}; color: {t.ink}; border-left: 4px solid {t.accent}; }}
    QFrame#card {{ background: {t.panel}; border: 1px solid {t.accent}; border-radius: 3px; }}
    QToolButton#offer {{ border: 1px solid {t.wrong}; font-weight: 600; }}
    QToolButton:hover, QToolButton:focus {{ border: 1px solid {t.accent}; }}
    QToolButton:disabled {{ color: {t.quiet}; font-style: italic; }}
    QToolButton::menu-indicator {{ image: none; }}
    QTreeView, QListView {{ background: {t.panel}; border: none; outline: 0; }}
    QTreeView::item {{ padding: 3px 2px; }}
    QTreeView::item:selected {{ background: {t.room}; color: {t.ink}; border-left: 4px solid {t.accent}; }}
    QTreeView::item:focus {{ border: 1px solid {t.accent}; }}
    QScrollBar:vertical {{ background: transparent; width: 9px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.quiet}; border-radius: 4px; min-height: 24px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
    QScrollBar:horizontal {{ background: transparent; height: 9px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {t.quiet}; border-radius: 4px; min-width: 24px; }}
    QMenu {{ background: {t.panel}; border: 1px solid {t.edge}; padding: 4px; }}
    QMenu::item {{ padding: 5px 24px 5px 24px; }}
    QMenu::item:selected {{ background: {t.room}; border-left: 4px solid {t.accent}; }}
    QProgressBar {{ background: {t.room}; border: 1px solid {t.edge}; border-radius: 3px; max-height: 12px; }}
    QProgressBar::chunk {{ background: {t.accent}; }}
    QSlider::groove:horizontal {{ background: {t.edge}; height: 3px; }}
    QSlider::sub-page:horizontal {{ background: {t.accent}; height: 3px; }}
    QSlider::handle:horizontal {{ background: {t.panel}; border: 2px solid {t.accent}; width: 10px; margin: -6px 0;
        border-radius: 7px; }}
    QSlider::handle:horizontal:focus {{ background: {t.accent}; }}
    QPushButton {{ background: {t.paper}; border: 1px solid {t.edge}; border-radius: 3px; padding: 4px 12px; }}
    QPushButton:hover, QPushButton:focus {{ border: 1px solid {t.accent}; }}
    QPushButton:default {{ border: 2px solid {t.accent}; font-weight: 600; }}
    QPushButton:disabled {{ color: {t.quiet}; background: {t.room}; font-style: italic; }}
    QToolTip {{ background: {t.panel}; color: {t.ink}; border: 1px solid {t.edge}; }}
    """
