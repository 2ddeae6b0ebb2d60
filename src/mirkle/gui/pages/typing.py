"""Typing a paper book in: the crew's own short-hand on the left, each line read back on the right as it is typed."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QMimeData, QPointF, QRect, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QResizeEvent, QTextCursor
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QPlainTextEdit, QPushButton, QVBoxLayout, QWidget

from mirkle.core.lineup.blanks import BLANK
from mirkle.core.messages import gettext_noop
from mirkle.files.audio.media import is_media
from mirkle.gui.controls import ask, done, label, wrapped
from mirkle.gui.keys import CommandWidget, FieldKeys
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr, tr_counted, tr_message
from mirkle.session import draft
from mirkle.session.dictation import Utterance, dictated_lines
from mirkle.session.typing import TypedLine, is_begun, pasted_in_lines, read_typed, unfilled_as_remarks

if TYPE_CHECKING:
    from mirkle.core.lineup.blanks import BlankBook
    from mirkle.gui.views.dictation_bar import DictationBar

KEEP_AFTER_MS = 1000
TYPE_IN = gettext_noop(
    "Write as in your book: L4 long 80, 4 left long 80, R3 >2 dc into. The distance goes on the same line. "
    "Ctrl+Enter begins a new page. You can paste text."
)
FILL_IN = gettext_noop(
    "Write your own grade in place of each _ (Ctrl+B: the next one). A line that keeps its _ is no note. Behind // stands what is known "
    "of the place, and about what it might be called: look for yourselves."
)
GRADE_SOME = gettext_noop("Grade five bends that you know, and Ctrl+G says the rest by your scale.")


class TypingView(CommandWidget):
    """Emits ``finished`` with the typed text, ``given_up``, and ``sound_given`` with a dictated sound whose calls are wanted. What is typed
    is kept from moment to moment, until it is used or thrown away: whoever is called away, or whose computer dies, goes on where he was."""

    place = "Typing"
    finished = pyqtSignal(str)
    given_up = pyqtSignal()
    sound_given = pyqtSignal(object)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self.lines: list[TypedLine] = []
        self.heading = label(tr("Type the book in, a note a line"))
        self.heading.setObjectName("title")
        self.how_to = wrapped(style="why")
        self.page = _TypedPage(self)
        self.page.setFont(font(22, family="hand"))
        self.page.setAccessibleName(tr("The notes that you type"))
        self.page.setPlaceholderText("start 80\nL4 long 60\nR3 >2 into")
        self.page.setPlainText(draft.typed_draft())
        self.page.textChanged.connect(self._read)
        self.page.cursorPositionChanged.connect(self._show_line)
        self._keeping = QTimer(self)
        self._keeping.setSingleShot(True)
        self._keeping.setInterval(KEEP_AFTER_MS)
        self._keeping.timeout.connect(self.keep)
        self.page.textChanged.connect(self._keeping.start)
        self.count = label()
        self.count.setObjectName("faint")
        self.use = QPushButton(tr("Use these notes  Ctrl+S"))
        self.use.setObjectName("primary")
        self.use.clicked.connect(self.finish)
        back = QPushButton(tr("Back"))
        back.clicked.connect(self._leave)
        self.dictation_button = QPushButton(tr("From a dictation…"))
        self.dictation_button.setToolTip(tr("Recognised words with their times, or a sound to write down call by call"))
        self.dictation_button.clicked.connect(self._ask_dictation)
        self.dictation: DictationBar | None = None
        self.blanks: BlankBook | None = None
        self.said = wrapped(style="fault")
        # A long note is read back whole here: beside its line there is room for the beginning.
        self.hint = wrapped(style="readBack")
        FieldKeys("Typing", self.page, self)
        card = QWidget()
        card.setObjectName("card")
        column = QVBoxLayout(card)
        column.setContentsMargins(24, 18, 24, 18)
        column.addWidget(self.heading)
        column.addWidget(self.how_to)
        column.addWidget(self.page, 1)
        row = QHBoxLayout()
        row.addWidget(self.count, 1)
        row.addWidget(self.dictation_button)
        row.addWidget(back)
        row.addWidget(self.use)
        column.addWidget(self.hint)
        column.addWidget(self.said)
        self._column = column
        column.addLayout(row)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(10, 10, 10, 10)
        outer.addWidget(card)
        self.setFocusProxy(self.page)
        self._read()

    def _read(self) -> None:
        self.lines = read_typed(self.page.toPlainText())
        notes = sum(line.notes for line in self.lines)
        pages = 1 + sum(line.is_page for line in self.lines[1:])
        faults = sum(bool(line.fault) for line in self.lines)
        blanks = sum(line.is_blank for line in self.lines)
        how_to = [tr(FILL_IN), *([tr(GRADE_SOME)] if self.blanks is not None else [])] if blanks else [tr(TYPE_IN)]
        self.how_to.setText(" ".join(how_to))
        words = tr("notes: {0}, pages: {1}", notes, pages)
        words += tr_counted(", 1 blank left", ", {0} blanks left", blanks) if blanks else ""
        self.count.setText(words + (tr_counted(", 1 line not understood", ", {0} lines not understood", faults) if faults else ""))
        self.use.setEnabled(notes > 0)
        self._show_line()
        self.page.read_back.update()

    def _show_line(self) -> None:
        at = self.page.textCursor().blockNumber()
        line = self.lines[at] if at < len(self.lines) else None
        self.hint.setText("" if line is None else tr_message(line.fault or line.words))

    def paste(self, text: str) -> None:
        """Puts a copied text where the cursor stands, a table a note a line, and says what was left out of it."""
        lines, left_out = pasted_in_lines(text)
        self.page.insertPlainText(lines)
        self.said.setText(" ".join(map(tr_message, left_out)))

    def keep(self) -> None:
        """Keeps what is typed by now."""
        self._keeping.stop()
        draft.keep_typed_draft(self.page.toPlainText())

    @property
    def text(self) -> str:
        """What is typed by now."""
        return self.page.toPlainText()

    def add_blanks(self, blanks: BlankBook) -> None:
        """Puts a book to be filled in behind what is typed; one that was begun before goes on as it is."""
        self.blanks = blanks
        self.add_book(blanks.text)

    def add_book(self, book: str) -> None:
        """As :meth:`add_blanks`, of a text with blanks."""
        typed = self.text.rstrip()
        if not is_begun(typed, book):
            self.page.setPlainText(f"{typed}\n{book}" if typed else book)
        self.next_blank()

    def next_blank(self) -> None:
        """Chooses the next blank, so that what is typed stands instead of it."""
        rows = [row for row, line in enumerate(self.lines) if line.is_blank]
        here = self.page.textCursor().blockNumber()
        row = next((r for r in rows if r > here), rows[0] if rows else None)
        if row is not None:
            block = self.page.document().findBlockByNumber(row)
            cursor = self.page.textCursor()
            at = block.position() + block.text().split("//")[0].index(BLANK)
            cursor.setPosition(at)
            cursor.setPosition(at + len(BLANK), QTextCursor.MoveMode.KeepAnchor)
            self.page.setTextCursor(cursor)

    def grade_the_rest(self) -> None:
        """Says behind each open blank what it would be called on the scale that the filled ones show."""
        blanks, at = self.blanks, self.page.textCursor().position()
        if blanks is not None and done(lambda: self.page.setPlainText(blanks.graded_by(self.text)), self.said):
            cursor = self.page.textCursor()
            cursor.setPosition(min(at, len(self.text)))
            self.page.setTextCursor(cursor)

    def begin_page(self) -> None:
        """Begins a page of the paper book where the cursor stands."""
        self.page.begin_page()

    def finish(self) -> None:
        if self.use.isEnabled():
            # What was not filled in is no note: it stays on its page as a remark.
            written = unfilled_as_remarks(self.text)
            if written != self.text:
                self.page.setPlainText(written)
            # Until a stage's file holds it, it is kept here.
            self.keep()
            self.finished.emit(written)

    # Dictated

    def _ask_dictation(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, tr("From a dictation…"))
        if name:
            self.take_dictation(Path(name))

    def take_dictation(self, path: Path) -> None:
        """Puts the notes of recognised words behind what is typed; the calls of a sound are looked for, to be written down one by one."""
        if is_media(path):
            self.sound_given.emit(path)
            return
        pages = 1 + sum(line.is_page for line in self.lines[1:])
        lines: list[str] = []
        if done(lambda: lines.append(dictated_lines(path, pages)), self.said):
            typed = self.text.rstrip()
            self.page.setPlainText(f"{typed}\n{lines[0]}" if typed else lines[0])
            self.page.moveCursor(QTextCursor.MoveOperation.End)

    def show_calls(self, path: Path, calls: list[Utterance]) -> None:
        """Offers the calls of a sound, and plays the first."""
        from mirkle.gui.views.dictation_bar import DictationBar

        if self.dictation is not None:
            self.dictation.deleteLater()
        self.dictation = DictationBar(path, calls)
        self._column.insertWidget(self._column.count() - 1, self.dictation)
        self.dictation.play()
        self.page.setFocus()

    def play_call(self, by: int) -> None:
        """Plays the call of the dictated sound that lies that many further on."""
        if self.dictation is not None:
            self.dictation.play(by)

    def next_line(self) -> None:
        """Begins a line; where a sound is written down its next call is played."""
        self.page.textCursor().insertText("\n")
        self.page.ensureCursorVisible()
        self.play_call(1)

    def _leave(self) -> None:
        """Asks what becomes of what is typed, where something is."""
        if self.page.toPlainText().strip():
            answer = ask(
                self, tr("Keep what you typed?"), {"keep": tr("Keep it for later"), "drop": tr("Throw it away"), "stay": tr("Go on typing")}
            )
            if answer == "stay":
                return
            if answer == "drop":
                self.page.clear()
        self.keep()
        self.given_up.emit()


class _TypedPage(QPlainTextEdit):
    """The field, with a strip at its right in which each line is read back."""

    def __init__(self, view: TypingView) -> None:
        super().__init__()
        self._view = view
        self.setTabChangesFocus(True)
        self.setLineWrapMode(QPlainTextEdit.LineWrapMode.NoWrap)
        self.read_back = _ReadBack(self, view)
        self.updateRequest.connect(self._scrolled)

    def _scrolled(self, _area: QRect, _dy: int) -> None:
        self.read_back.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        width = self.width() * 11 // 20
        self.setViewportMargins(0, 0, width, 0)
        inside = self.contentsRect()
        self.read_back.setGeometry(inside.right() - width, inside.top(), width, inside.height())

    def insertFromMimeData(self, source: QMimeData | None) -> None:
        if source is not None and source.hasText():
            self._view.paste(source.text())

    def begin_page(self) -> None:
        """Puts in the head of the next page."""
        page = 1 + sum(line.is_page for line in self._view.lines) + (not self._first_is_a_page())
        cursor = self.textCursor()
        lead = "" if cursor.atBlockStart() else "\n"
        cursor.insertText(f"{lead}page {page}\n")
        self.setTextCursor(cursor)

    def _first_is_a_page(self) -> bool:
        return bool(self._view.lines) and self._view.lines[0].is_page


class _ReadBack(QWidget):
    """Paints what each line in sight was read as."""

    def __init__(self, page: _TypedPage, view: TypingView) -> None:
        super().__init__(page)
        self._page, self._view = page, view
        self.setAccessibleName(tr("Each line as it was read"))

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.fillRect(self.rect(), self._view.theme.colour("paper"))
        painter.setPen(self._view.theme.colour("margin"))
        painter.drawLine(QPointF(0, 0), QPointF(0, self.height()))
        page = self._page
        block = page.firstVisibleBlock()
        painter.setFont(font(14))
        metrics = QFontMetrics(font(14))
        while block.isValid():
            box = page.blockBoundingGeometry(block).translated(page.contentOffset())
            if box.top() > self.height():
                break
            number = block.blockNumber()
            if number < len(self._view.lines):
                line = self._view.lines[number]
                painter.setPen(self._view.theme.colour("span" if line.fault else "pencil"))
                text = metrics.elidedText(tr_message(line.fault or line.words), Qt.TextElideMode.ElideRight, self.width() - 24)
                place = QRectF(14, box.top(), self.width() - 20, box.height())
                painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, text)
            block = block.next()
        painter.end()
