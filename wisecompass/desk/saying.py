"""What is painted is also said, for those who listen to the screen."""

from __future__ import annotations

from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent
from PySide6.QtWidgets import QWidget


def say(widget: QWidget, text: str) -> None:
    """Have a screen reader say something at once."""
    said.append(text)
    del said[:-KEPT]
    QAccessible.updateAccessibility(QAccessibleAnnouncementEvent(widget, text))


KEPT = 20
said: list[str] = []
"""What was said last, so that a test can listen."""
