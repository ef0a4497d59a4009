"""Widgets that are there for some figures only."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget


def show_where(widget: QWidget, wanted: bool) -> None:
    """Show or hide a part of the window. One that has no place in it yet is shown with the window, unless it was hidden
    outright; until then showing it would open a window of its own."""
    if not wanted:
        widget.hide()
    elif widget.isHidden() and widget.parentWidget() is not None:
        widget.show()
