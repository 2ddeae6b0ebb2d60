"""The proof: the notes as they were read, doubtful words underlined, each to accept, to leave, or to explain."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QTextCharFormat, QTextCursor
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QPlainTextEdit,
    QPushButton,
    QTextEdit,
    QVBoxLayout,
    QWidget,
)

from mirkle.desk.speak import say, say_again
from mirkle.desk.theme import Theme, font
from mirkle.session.proof import Doubt, Proof


class ProofView(QWidget):
    """Emits ``accepted`` and ``left`` with a doubt, and ``explained`` with a doubt, a kind and a term's name."""

    accepted = pyqtSignal(object)
    left = pyqtSignal(object)
    explained = pyqtSignal(object, str, str)

    def __init__(self, proof: Proof, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.proof, self.theme = proof, theme
        self.heading = QLabel(_heading(proof))
        self.heading.setObjectName("title")
        self.page = QPlainTextEdit(proof.text)
        self.page.setReadOnly(True)
        self.page.setFont(font(20, family="hand"))
        self.page.setAccessibleName(say("{0}, as they were read", proof.title))
        self.page.setObjectName("proofPage")
        self.list = QListWidget()
        self.list.setAccessibleName(say("Words to settle"))
        self.list.setWordWrap(True)
        for doubt in proof.doubts:
            self.list.addItem(_line(doubt))
        self.why = QLabel()
        self.why.setObjectName("faint")
        self.why.setWordWrap(True)
        self.accept = QPushButton(say("It means that  ⏎"))
        self.leave = QPushButton(say("Leave it  L"))
        self.meaning = QComboBox()
        self.meaning.setEditable(True)
        self.meaning.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        self.meaning.setAccessibleName(say("This word means"))
        self.meaning.lineEdit().setPlaceholderText(say("this word means…"))
        self._meanings = proof.meanings()
        self.meaning.addItems([shown for shown, *_ in self._meanings])
        self.meaning.setCurrentIndex(-1)
        self.teach = QPushButton(say("Teach it"))
        self.accept.clicked.connect(lambda: self._emit(self.accepted))
        self.leave.clicked.connect(lambda: self._emit(self.left))
        self.teach.clicked.connect(self._explain)
        self.list.currentRowChanged.connect(self._show)
        self._lay_out()
        self._underline()
        if proof.doubts:
            self.list.setCurrentRow(0)
        self._show(self.list.currentRow())

    def _lay_out(self) -> None:
        settling = QWidget(self)
        settling.setVisible(bool(self.proof.doubts))
        right = QVBoxLayout(settling)
        right.setContentsMargins(0, 0, 0, 0)
        right.addWidget(self.list, 1)
        right.addWidget(self.why)
        row = QHBoxLayout()
        row.addWidget(self.accept)
        row.addWidget(self.leave)
        right.addLayout(row)
        row = QHBoxLayout()
        row.addWidget(self.meaning, 1)
        row.addWidget(self.teach)
        right.addLayout(row)
        both = QHBoxLayout()
        both.addWidget(self.page, 5)
        both.addWidget(settling, 4)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.heading)
        column.addLayout(both, 1)

    def _underline(self) -> None:
        """A wave under each repair, a dotted line under each word that could not be read."""
        selections = []
        for doubt in self.proof.doubts:
            selection = QTextEdit.ExtraSelection()
            selection.cursor = self._cursor(doubt)
            style = QTextCharFormat()
            style.setUnderlineStyle(
                QTextCharFormat.UnderlineStyle.WaveUnderline
                if doubt.read_as
                else QTextCharFormat.UnderlineStyle.DashUnderline
            )
            style.setUnderlineColor(self.theme.colour("pencil" if doubt.read_as else "danger"))
            selection.format = style
            selections.append(selection)
        row = self.list.currentRow()
        if 0 <= row < len(self.proof.doubts):
            chosen = QTextEdit.ExtraSelection()
            chosen.cursor = self._cursor(self.proof.doubts[row])
            style = QTextCharFormat()
            style.setBackground(self.theme.colour("chosen"))
            chosen.format = style
            selections.insert(0, chosen)
        self.page.setExtraSelections(selections)

    def _cursor(self, doubt: Doubt) -> QTextCursor:
        cursor = QTextCursor(self.page.document())
        cursor.setPosition(doubt.start)
        cursor.setPosition(doubt.end, QTextCursor.MoveMode.KeepAnchor)
        return cursor

    @property
    def doubt(self) -> Doubt | None:
        """The doubt that is chosen."""
        row = self.list.currentRow()
        return self.proof.doubts[row] if 0 <= row < len(self.proof.doubts) else None

    def _show(self, _row: int) -> None:
        doubt = self.doubt
        self.accept.setEnabled(doubt is not None and bool(doubt.read_as))
        self.leave.setEnabled(doubt is not None and bool(doubt.read_as))
        self.teach.setEnabled(doubt is not None)
        self.why.setText(
            say("{0}; {1:.0%} sure.", say_again(doubt.why), doubt.sure) if doubt is not None and doubt.read_as else ""
        )
        self._underline()
        if doubt is not None:
            cursor = self._cursor(doubt)
            cursor.clearSelection()
            self.page.setTextCursor(cursor)
            self.page.centerCursor()

    def _emit(self, signal) -> None:  # type: ignore[no-untyped-def]
        if self.doubt is not None:
            signal.emit(self.doubt)

    def _explain(self) -> None:
        at = self.meaning.findText(self.meaning.currentText())
        if self.doubt is not None and at >= 0:
            _, kind, key = self._meanings[at]
            self.explained.emit(self.doubt, kind, key)
        else:
            self.why.setText(say("Choose what the word means from the list first."))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.accept.isEnabled():
            self._emit(self.accepted)
        elif event.key() == Qt.Key.Key_L and self.leave.isEnabled():
            self._emit(self.left)
        else:
            event.ignore()


def _heading(proof: Proof) -> str:
    count = len(proof.doubts)
    settled = (
        say("every word was read")
        if not count
        else say("1 word to settle")
        if count == 1
        else say("{0} words to settle", count)
    )
    return f"{say(proof.title)}: {settled}"


def _line(doubt: Doubt) -> str:
    return (
        say("“{0}”  read as  {1}", doubt.text, doubt.read_as)
        if doubt.read_as
        else say("“{0}”  could not be read", doubt.text)
    )
