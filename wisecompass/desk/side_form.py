"""A form at the left of a dialogue, with room for a picture at its right."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QDoubleSpinBox, QFormLayout, QHBoxLayout, QVBoxLayout, QWidget

from wisecompass.desk.theme import scaled


class SideForm(QDialog):
    """``form`` for the fields, ``column`` for what stands below them, ``beside`` for what is at the right."""

    def __init__(self, title: str, size: tuple[int, int], parent: QWidget | None) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setObjectName("panel")
        self.resize(scaled(size[0]), scaled(size[1]))
        self.side = QHBoxLayout(self)
        self.column = QVBoxLayout()
        self.side.addLayout(self.column)
        self.form = QFormLayout()
        self.column.addLayout(self.form)


def length_field(low: float, high: float, value: float, said: str, step: float = 1.0, decimals: int = 1) -> QDoubleSpinBox:
    """A field for a length in mm."""
    field = QDoubleSpinBox()
    field.setRange(low, high)
    field.setDecimals(decimals)
    field.setSingleStep(step)
    field.setValue(value)
    field.setSuffix(" mm")
    field.setAccessibleName(said)
    field.setToolTip(said)
    return field
