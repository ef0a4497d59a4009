"""The fields of the title block in one small form."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QFormLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from wisecompass.drafting.errors import WiseCompassError
from wisecompass.folio import register
from wisecompass.folio.document import Folio

OF_FOLIO = (
    ("work", "Work"),
    ("owner", "Owner"),
    ("drawn_by", "Drawn by"),
    ("checked_by", "Checked by"),
    ("date", "Date"),
    ("document_type", "Document type"),
)
OF_SHEET = (("name", "Sheet"), ("number", "Number"), ("revision", "Revision"))


class TitleForm(QDialog):
    """What the title blocks of all sheets say, and what that of one sheet says. Empty fields are left out on paper."""

    def __init__(self, folio: Folio, sheet: int, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.folio, self.sheet = folio, sheet
        self.setWindowTitle("Title block")
        self.setObjectName("panel")
        column = QVBoxLayout(self)
        form = QFormLayout()
        self.fields: dict[str, QLineEdit] = {}
        for owner, names in ((folio, OF_FOLIO), (folio.sheets[sheet], OF_SHEET)):
            for name, words in names:
                field = QLineEdit(getattr(owner, name))
                field.setMaxLength(register.LONGEST_NAME)
                field.setAccessibleName(words)
                form.addRow(words, field)
                self.fields[name] = field
        column.addLayout(form)
        self.reason = QLabel()
        self.reason.setObjectName("reason")
        self.reason.setWordWrap(True)
        self.reason.hide()
        column.addWidget(self.reason)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self._done)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
        self.fields["name"].setFocus()

    def changed(self) -> Folio:
        """The folio with the fields as they stand.

        Raises:
            BadDocument: a name is missing or taken.
        """
        folio = self.folio
        for name, field in self.fields.items():
            folio = register.with_title(folio, self.sheet, name, field.text())
        return folio

    def _done(self) -> None:
        try:
            self.changed()
        except WiseCompassError as reason:
            self.reason.setText(str(reason))
            self.reason.show()
            return
        self.accept()
