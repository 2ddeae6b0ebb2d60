"""What you said: the crew's own words behind the finish and from memory; each is dragged to its note, or put there by a key."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QByteArray, QMimeData, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDragMoveEvent, QDropEvent
from PyQt6.QtWidgets import QDialog, QFileDialog, QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from mirkle.gui.commands import key_of
from mirkle.gui.controls import button, done, label, wrap_items, wrapped
from mirkle.gui.keys import FieldKeys
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr, tr_counted
from mirkle.gui.views.notes_page import PageView
from mirkle.session.debrief import CrewWords, add_words, crew_words, memo_lines, put_on_note
from mirkle.session.reviewed_pass import ReviewedPass

WORDS_TYPE = "application/x-mirkle-words"


class _WordsList(QListWidget):
    """The crew's words; a row that is dragged carries its number."""

    def mimeData(self, items: list[QListWidgetItem]) -> QMimeData:
        data = QMimeData()
        data.setData(WORDS_TYPE, QByteArray(str(self.row(items[0])).encode()))
        return data


class _NotesToDropOn(PageView):
    """The page, on whose notes words are dropped. Emits ``put`` with the row of the list and the note."""

    put = pyqtSignal(int, int)

    def __init__(self, stage: ReviewedPass, theme: Theme) -> None:
        super().__init__(stage, theme)
        self.setAcceptDrops(True)
        self.viewport().setAcceptDrops(True)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasFormat(WORDS_TYPE):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        note = self.note_at(event.position().y())
        if note is not None:
            self.picked.emit(note)
        event.setAccepted(note is not None)

    def dropEvent(self, event: QDropEvent) -> None:
        note = self.note_at(event.position().y())
        if note is not None:
            self.put.emit(int(bytes(event.mimeData().data(WORDS_TYPE).data())), note)
            event.acceptProposedAction()


class DebriefDialog(QDialog):
    """The words at the left, what waits for its place first; the notes at the right."""

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.words = stage, list[CrewWords]()
        self.setWindowTitle(tr("What you said"))
        self.resize(1080, 640)
        self.heading, self.fault = label("", "title"), wrapped(style="fault")
        self.list, self.page = _WordsList(), _NotesToDropOn(stage, theme)
        self.list.setAccessibleName(tr("What you said, with its note"))
        self.list.setDragEnabled(True)
        wrap_items(self.list)
        self.list.currentRowChanged.connect(lambda _: self._show_note())
        self.page.picked.connect(self._pick)
        self.page.put.connect(self.put)
        FieldKeys("Debrief", self.list, self)
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("page 2 line 5 wants a 3"))
        self.field.setAccessibleName(tr("What you remember"))
        FieldKeys("Debrief field", self.field, self)
        self.put_button = button(tr("Put it on this note  {0}", "⏎"), tr("The chosen words are about the chosen note (Enter)"), "primary")
        self.off_button = button(tr("About no note  {0}", key_of("Debrief", "These words are about no note")))
        self.add_button, self.memo_button, back = button(tr("Add it")), button(tr("From a memo…")), button(tr("Back"))
        self.memo_button.setToolTip(tr("A voice memo whose words were recognised: timed text, or a sentence a line"))
        self.put_button.clicked.connect(self.put_chosen)
        self.off_button.clicked.connect(self.take_off)
        self.add_button.clicked.connect(self.add_typed)
        self.memo_button.clicked.connect(self._ask_memo)
        back.clicked.connect(self.accept)
        self._lay_out(back)
        self.refresh()

    def _lay_out(self, back: QWidget) -> None:
        left, lists, typed, foot, column = QVBoxLayout(), QHBoxLayout(), QHBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        left.addWidget(self.list, 1)
        for widget in (self.field, self.add_button, self.memo_button):
            typed.addWidget(widget, 1 if widget is self.field else 0)
        left.addLayout(typed)
        lists.addLayout(left, 5)
        lists.addWidget(self.page, 4)
        foot.addWidget(self.off_button)
        foot.addStretch(1)
        foot.addWidget(back)
        foot.addWidget(self.put_button)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(self.heading)
        column.addWidget(
            wrapped(
                tr("Drag each to its note, or choose both and press Enter. It stands among the findings as your word, not as fact."), "why"
            )
        )
        column.addLayout(lists, 1)
        column.addWidget(self.fault)
        column.addLayout(foot)

    def refresh(self) -> None:
        """Lists the words as they stand."""
        at = self.list.currentRow()
        self.words = crew_words(self.stage)
        waiting = sum(w.note is None for w in self.words)
        self.heading.setText(
            tr_counted("1 remark has no note yet", "{0} remarks have no note yet", waiting)
            if waiting
            else tr("Every remark has its note")
            if self.words
            else tr("Nothing was said that is no note")
        )
        self.list.clear()
        for words in self.words:
            self.list.addItem(self._line(words))
        self.list.setCurrentRow(min(max(at, 0), len(self.words) - 1))
        self._show_note()

    def _line(self, words: CrewWords) -> str:
        note = self.stage.notes[words.note] if words.note is not None else None
        place = tr("page {0}, line {1}: {2}", note.page, note.line, " ".join(note.text.split())) if note is not None else tr("no note yet")
        return f"“{words.text}”\n{place}"

    @property
    def chosen(self) -> CrewWords | None:
        """The words that are chosen."""
        at = self.list.currentRow()
        return self.words[at] if 0 <= at < len(self.words) else None

    def _show_note(self) -> None:
        words = self.chosen
        for pressed in (self.put_button, self.off_button):
            pressed.setEnabled(words is not None)
        if words is not None and words.note is not None:
            self._pick(words.note)

    def _pick(self, note: int) -> None:
        self.stage.choose_note(note)
        self.page.show_chosen()

    def step_note(self, by: int) -> None:
        """Chooses the note that lies that many further on."""
        self.page.step(by)

    def put(self, row: int, note: int) -> None:
        """Puts the words of a row on a note."""
        if 0 <= row < len(self.words):
            self._do(self.words[row], note)

    def put_chosen(self) -> None:
        """Puts the chosen words on the chosen note."""
        if self.chosen is not None:
            self._do(self.chosen, self.stage.note)

    def take_off(self) -> None:
        """The chosen words are about no note; they stay in the list."""
        if self.chosen is not None:
            self._do(self.chosen, None)

    def _do(self, words: CrewWords, note: int | None) -> None:
        if done(lambda: put_on_note(self.stage, words, note), self.fault):
            self.refresh()

    def add_typed(self) -> None:
        """Adds the typed line."""
        if done(lambda: add_words(self.stage, [self.field.text()]), self.fault):
            self.field.clear()
            self.refresh()

    def leave_field(self) -> None:
        """Goes back to the list."""
        self.list.setFocus()

    def _ask_memo(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, tr("From a memo…"), "", tr("Text (*.vtt *.srt *.txt *.json)"))
        if name:
            self.add_memo(Path(name))

    def add_memo(self, path: Path) -> None:
        """Adds every sentence of a memo's words."""
        if done(lambda: add_words(self.stage, memo_lines(path)), self.fault):
            self.refresh()
