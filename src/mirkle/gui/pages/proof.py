"""The proof: the notes as they were read, and each word to settle with what it may mean, the riskiest first."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QTextCharFormat, QTextCursor
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPlainTextEdit,
    QPushButton,
    QTextEdit,
    QVBoxLayout,
    QWidget,
)

from mirkle.core.messages import gettext_noop
from mirkle.gui.controls import ChoiceBox, label, wrap_items
from mirkle.gui.keys import CommandWidget, ListKeys
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr, tr_message
from mirkle.session.proof import Doubt, Proof, WordPlace

SECTIONS = {
    "habit": gettext_noop("Always heard like this: keep it for the next recording?"),
    "unknown": gettext_noop("Not known: what do they mean?"),
    "itself": gettext_noop("The book against itself"),
    "offered": gettext_noop("Perhaps: these stay as they were said"),
    "repaired": gettext_noop("Read as another word"),
}
MOST_MEANINGS = 5
_DOUBT = Qt.ItemDataRole.UserRole


class ProofView(CommandWidget):
    """Emits ``left`` with a doubt, ``explained`` with a doubt, a kind and a term's name, ``hear_wanted`` with the
    seconds on the words' clock at which a word was said, and ``change_wanted`` with a note that contradicts the book."""

    place = "Words to settle"
    left = pyqtSignal(object)
    explained = pyqtSignal(object, str, str)
    hear_wanted = pyqtSignal(float)
    change_wanted = pyqtSignal(int)

    def __init__(self, proof: Proof, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.proof, self.theme = proof, theme
        self._place = 0
        self.page = QPlainTextEdit(proof.text)
        self.page.setReadOnly(True)
        self.page.setFont(font(20, family="hand"))
        self.page.setAccessibleName(tr("{0}, as they were read", tr(proof.title)))
        self.page.setObjectName("proofPage")
        self.list = QListWidget()
        ListKeys("Words to settle", self.list, self)
        self.list.setAccessibleName(tr("Words to settle"))
        wrap_items(self.list)
        self.around, self.why = label(), label()
        self.around.setWordWrap(True)
        self.around.setTextFormat(Qt.TextFormat.RichText)
        self.around.setFont(font(18, family="hand"))
        self.why.setObjectName("faint")
        self.why.setWordWrap(True)
        self.choices = [QPushButton() for _ in range(MOST_MEANINGS)]
        for number, button in enumerate(self.choices):
            button.clicked.connect(lambda _=False, n=number: self.choose(n))
        self.leave, self.hear = QPushButton(), QPushButton(tr("Hear it  Space"))
        self.change = QPushButton(tr("Change it  E"))
        self.change.clicked.connect(self.change_note)
        self.meaning = ChoiceBox()
        self.meaning.setEditable(True)
        self.meaning.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        self.meaning.setAccessibleName(tr("This word means"))
        line = self.meaning.lineEdit()
        assert line is not None
        line.setPlaceholderText(tr("this word means…"))
        self._meanings = proof.meanings()
        self.meaning.addItems([f"{said}  ({tr(kind)})" for said, kind, *_ in self._meanings])
        self.meaning.setCurrentIndex(-1)
        self.teach = QPushButton(tr("Teach it"))
        self.leave.clicked.connect(self.leave_word)
        self.hear.clicked.connect(self.hear_word)
        self.teach.clicked.connect(self._explain)
        self.can_hear = False
        self._fill()
        self.list.currentRowChanged.connect(self._show)
        self._lay_out()
        self._show(self.list.currentRow())

    def _fill(self) -> None:
        """The doubts under their headings, the first of them chosen."""
        section = ""
        for doubt in self.proof.doubts:
            if doubt.kind != section:
                section = doubt.kind
                heading = QListWidgetItem(tr(SECTIONS[section]))
                heading.setFlags(Qt.ItemFlag.NoItemFlags)
                heading.setFont(font(13, bold=True))
                self.list.addItem(heading)
            first = doubt.places[0]
            as_written = self.proof.text[first.start : first.end]
            item = QListWidgetItem(_line(doubt, as_written if doubt.kind == "unknown" else doubt.text))
            item.setData(_DOUBT, doubt)
            self.list.addItem(item)
        if self.proof.doubts:
            self.list.setCurrentRow(1)

    def _lay_out(self) -> None:
        settling = QWidget(self)
        settling.setVisible(bool(self.proof.doubts))
        right = QVBoxLayout(settling)
        right.setContentsMargins(0, 0, 0, 0)
        right.addWidget(self.list, 1)
        right.addWidget(self.around)
        right.addWidget(self.why)
        for button in self.choices:
            button.setObjectName("choice")
            right.addWidget(button)
        row = QHBoxLayout()
        row.addWidget(self.leave)
        row.addWidget(self.change)
        row.addWidget(self.hear)
        right.addLayout(row)
        row = QHBoxLayout()
        row.addWidget(self.meaning, 1)
        row.addWidget(self.teach)
        right.addLayout(row)
        both = QHBoxLayout()
        both.addWidget(self.page, 5)
        both.addWidget(settling, 5)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        if self.proof.from_book:
            hint = label(tr("Words repaired with the notes: {0}.", self.proof.from_book))
            hint.setObjectName("faint")
            hint.setWordWrap(True)
            column.addWidget(hint)
        column.addLayout(both, 1)

    @property
    def doubt(self) -> Doubt | None:
        """The doubt that is chosen."""
        item = self.list.currentItem()
        return item.data(_DOUBT) if item is not None else None

    def doubts(self) -> list[Doubt]:
        """All doubts in the order in which they stand in the list."""
        return list(self.proof.doubts)

    def choose(self, number: int) -> None:
        """Takes one of the meanings that are offered for the chosen word."""
        doubt = self.doubt
        if doubt is not None and number < len(doubt.meanings):
            meaning = doubt.meanings[number]
            self.explained.emit(doubt, meaning.kind, meaning.key)

    def _underline(self) -> None:
        """A wave under each repair, dashes under each word that could not be read."""
        selections = []
        chosen = self.doubt
        for doubt in self.proof.doubts:
            for place in doubt.places:
                style = QTextCharFormat()
                repaired = doubt.kind == "repaired"
                line = QTextCharFormat.UnderlineStyle
                style.setUnderlineStyle(line.WaveUnderline if repaired else line.DashUnderline)
                style.setUnderlineColor(self.theme.colour("pencil" if repaired else "span"))
                if doubt is chosen:
                    style.setBackground(self.theme.colour("chosen"))
                selection = QTextEdit.ExtraSelection()
                selection.cursor, selection.format = self._cursor(place), style
                selections.append(selection)
        self.page.setExtraSelections(selections)

    def _cursor(self, place: WordPlace) -> QTextCursor:
        cursor = QTextCursor(self.page.document())
        cursor.setPosition(place.start)
        cursor.setPosition(place.end, QTextCursor.MoveMode.KeepAnchor)
        return cursor

    def _show(self, _row: int) -> None:
        doubt = self.doubt
        self._place = 0
        meanings = doubt.meanings if doubt is not None else ()
        for number, button in enumerate(self.choices):
            button.setVisible(number < len(meanings))
            if number < len(meanings):
                button.setText(tr("{0}   it means “{1}”", number + 1, meanings[number].said))
        itself = doubt is not None and doubt.kind == "itself"
        self.leave.setText(tr("I mean it  L") if itself else tr("Leave it  L"))
        self.leave.setEnabled(doubt is not None)
        self.change.setVisible(itself)
        for part in (self.meaning, self.teach):
            part.setVisible(not itself)
        self.teach.setEnabled(doubt is not None)
        self.hear.setVisible(self.can_hear and doubt is not None and doubt.places[0].at_s is not None)
        sure = doubt is not None and doubt.kind not in ("unknown", "habit", "itself")
        self.why.setText(tr("{0}; {1:.0%} sure.", tr_message(doubt.why), doubt.sure) if doubt and sure else "")
        self.around.setText("<br>".join(_marked(p.around, doubt.text) for p in doubt.places[:3] if p.around) if doubt else "")
        self._underline()
        if doubt is not None:
            cursor = self._cursor(doubt.places[0])
            cursor.clearSelection()
            self.page.setTextCursor(cursor)
            self.page.centerCursor()

    def offer_sound(self, *, there: bool) -> None:
        """Says whether the words can be heard."""
        self.can_hear = there
        self._show(self.list.currentRow())

    def leave_word(self) -> None:
        if self.doubt is not None:
            self.left.emit(self.doubt)

    def change_note(self) -> None:
        if self.doubt is not None and self.doubt.note is not None:
            self.change_wanted.emit(self.doubt.note)

    def hear_word(self) -> None:
        """Plays the next of the places at which the chosen word was said."""
        doubt = self.doubt
        if doubt is None or not self.can_hear:
            return
        at_s = doubt.places[self._place % doubt.count].at_s
        self._place += 1
        if at_s is not None:
            self.hear_wanted.emit(at_s)

    def _explain(self) -> None:
        at = self.meaning.findText(self.meaning.currentText())
        if self.doubt is not None and at >= 0:
            *_, kind, key = self._meanings[at]
            self.explained.emit(self.doubt, kind, key)
        else:
            self.why.setText(tr("Choose what the word means from the list first."))

    def accept(self) -> None:
        """Takes the word for what it was read as."""
        if self.doubt is not None and self.doubt.read_as:
            self.choose(0)


def heading_of(proof: Proof) -> str:
    """A proof's title with how many words are to be settled in it."""
    count = len(proof.doubts)
    return f"{tr(proof.title)}: " + (tr("{0} to settle", count) if count else tr("all read"))


def _line(doubt: Doubt, text: str) -> str:
    times = f"   ×{doubt.count}" if doubt.count > 1 else ""
    if doubt.kind == "unknown":
        return f"“{text}”{times}"
    if doubt.kind == "itself":
        return tr_message(doubt.why)
    if doubt.kind == "habit":
        return tr("“{0}”  for  {1}", text, doubt.read_as) + times
    if doubt.kind == "repaired":
        return tr("“{0}”  read as  {1}", text, doubt.read_as) + times
    return tr("“{0}”  perhaps  {1}", text, doubt.read_as) + times


def _marked(around: str, word: str) -> str:
    """The words around one, with that one standing out; as rich text."""
    escaped = around.replace("&", "&amp;").replace("<", "&lt;")
    at = f" {escaped.lower()} ".find(f" {word.split()[0].replace('<', '&lt;')}")
    if at < 0:
        return escaped
    end = at + len(word)
    return f"{escaped[:at]}<b><u>{escaped[at:end]}</u></b>{escaped[end:]}"
