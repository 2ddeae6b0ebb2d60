"""Book: the new edition with its pencil marks, what changed by page and line, and what to take away."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QListWidget, QListWidgetItem, QMenu, QSpinBox, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.messages import gettext_noop, in_a_row
from mirkle.core.notebook.paging import Pages, turned
from mirkle.gui.controls import NumberBox, button, label, wrap_items, wrapped
from mirkle.gui.dialogs.convert_notes import OtherHandDialog
from mirkle.gui.keys import CommandWidget, FieldKeys, ListKeys
from mirkle.gui.pages.editions import EditionsDialog, HistoryDialog
from mirkle.gui.splitters import panes
from mirkle.gui.theme import Theme
from mirkle.gui.translation import spoken, text_of, tr, tr_counted, tr_fault, tr_message
from mirkle.gui.views.note_field import NoteField
from mirkle.gui.views.notes_page import PageView
from mirkle.session.decision_book import BOTH
from mirkle.session.export import write_export
from mirkle.session.open_pass import OpenPass
from mirkle.session.page_breaks import pages_with_breath
from mirkle.session.paging import pages_of
from mirkle.session.rehearsal import Practice, Rehearsal, left_words
from mirkle.session.reviewed_pass import ReviewedPass

# What can be taken away besides the card and the book: how it is called, how its file ends unless another ending is given, and the kinds.
TAKE_AWAY = {
    "notes": (gettext_noop("The new notes as text…"), "notes.txt", gettext_noop("Text (*.txt)")),
    "table": (gettext_noop("The findings as a table…"), "findings.xlsx", gettext_noop("Table (*.xlsx *.ods *.csv)")),
    "html": (gettext_noop("The review to read in a browser…"), "review.html", gettext_noop("Page (*.html)")),
    "map": (gettext_noop("The findings on a map, with the driven line…"), "places.gpx", gettext_noop("Map (*.gpx *.kml *.geojson)")),
    "calls": (gettext_noop("The calls with their times…"), "calls.vtt", gettext_noop("Timed text (*.vtt)")),
    "json": (gettext_noop("The review for other programs…"), "review.json", gettext_noop("JSON (*.json)")),
}


# So many pages that are too full are named at most.
MOST_FULL = 3


class NotebookPage(CommandWidget):
    """The page on the left, the changes to copy and what to take away on the right."""

    place = "Book"

    def __init__(self, stage: OpenPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Book"))
        self.page = PageView(stage, theme)
        self.heading, self.said = label(style="title"), wrapped(style="readBack")
        self.hint = wrapped(tr("Tick each change when it is in your paper book (Space)."), "faint")
        self.warning = wrapped(style="faint")
        self.list = QListWidget()
        ListKeys("Book", self.list, self)
        self.list.setAccessibleName(tr("Changes by page and line, to tick when copied"))
        wrap_items(self.list)
        self.list.itemChanged.connect(self._ticked)
        self.list.currentRowChanged.connect(self._pick)
        self.card_button = button(tr("Change card…"), tr("See the card of changes, and print it"), "primary")
        self.book_button = button(tr("New book…"), tr("See the whole new book, and print it"))
        self.more_button = button(tr("Export  ▾"))
        self.compare_button = button(tr("Compare editions…"))
        self.history_button = button(tr("What was decided…"))
        self.card_button.clicked.connect(lambda: self.preview("card"))
        self.book_button.clicked.connect(lambda: self.preview("book"))
        self.compare_button.clicked.connect(lambda: EditionsDialog(self.stage, self).exec())
        self.history_button.clicked.connect(lambda: HistoryDialog(self.stage, self).exec())
        self.menu = QMenu(self)
        for what, (words, _, _) in TAKE_AWAY.items():
            if what != "notes" and not isinstance(stage, ReviewedPass):
                # What rests on a recording.
                continue
            self.menu.addAction(tr(words), lambda w=what: self._ask(w))
        self.menu.addAction(tr("The notes for another co-driver…"), lambda: OtherHandDialog(self.stage, self).exec())
        self.more_button.setMenu(self.menu)
        self.lines = NumberBox()
        self.lines.setRange(0, 60)
        self.lines.setSpecialValueText(tr("pages as in the notes"))
        self.lines.setSuffix(tr(" lines a page"))
        self.lines.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.lines.setKeyboardTracking(False)
        self.lines.setAccessibleName(tr("Lines a page of the paper book, 0 for the pages of the notes"))
        self.lines.setToolTip(tr("Lines on a page of your paper book: list, card and book follow it"))
        self.lines.valueChanged.connect(lambda lines: self._set_pages(Pages(lines)))
        self.turn_button = button(tr("A page begins here"), tr("A page of the paper book begins at the chosen note, or no longer (G)"))
        self.turn_button.clicked.connect(self.turn)
        self.breath_button = button(
            tr("Turn on straights"), tr("Pages no longer than now that turn where there is time, and between no linked corners (Shift+G)")
        )
        self.breath_button.clicked.connect(self.turn_on_straights)
        self.edit_button = button(tr("Edit the note  E"), tr("Change the chosen note; a line break splits it in two (E)"))
        self.edit_button.clicked.connect(self.edit_note)
        self.field, self.reads = NoteField(tr("The new note")), wrapped(style="readBack")
        FieldKeys("Book field", self.field, self)
        self.field.textChanged.connect(self._read_back)
        # What makes a note faster was agreed to once: the note and its text.
        self._one_said_yes: tuple[int, str] | None = None
        self.page.picked.connect(stage.choose_note)
        stage.book.changed.connect(self.refresh)
        stage.reviewed.connect(self.show_review)
        stage.chosen.connect(self._show_chosen)
        self._lay_out()
        self.show_review()

    def _lay_out(self) -> None:
        right = QWidget()
        right.setObjectName("card")
        column = QVBoxLayout(right)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(10)
        column.addWidget(self.heading)
        column.addWidget(self.hint)
        column.addWidget(self.warning)
        column.addWidget(self.list, 1)
        column.addWidget(self.said)
        column.addWidget(self.field)
        column.addWidget(self.reads)
        self._show_field(False)
        for widgets in (
            (label(tr("Your paper book:")), self.lines, self.turn_button, self.breath_button),
            (self.edit_button, self.compare_button, self.history_button),
            (self.card_button, self.book_button, self.more_button),
        ):
            row = QHBoxLayout()
            for widget in widgets:
                row.addWidget(widget)
            row.addStretch(1)
            column.addLayout(row)
        both = panes(self, "book", (self.page, 4), (right, 5))
        both.setContentsMargins(10, 10, 10, 10)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.page.set_theme(theme)

    def show_review(self) -> None:
        """Takes in the pages as they are now."""
        self.lines.blockSignals(True)
        self.lines.setValue(pages_of(self.stage.project, self.stage.reading).lines_a_page)
        self.lines.blockSignals(False)
        self.page.show_review()
        self.refresh()

    def refresh(self) -> None:
        """Shows the edition as it stands."""
        book = self.stage.book
        changes, left = book.edition.changes, len(book.to_copy)
        practice = Practice(self.stage)
        done, unrehearsed = practice.notes_done, practice.left()
        self.heading.setText(
            tr("No changes yet")
            if not changes
            else tr("All changes are copied into the book")
            if not left
            else tr_counted("1 change to copy into the book", "{0} changes to copy into the book", left)
        )
        self.hint.setVisible(bool(changes))
        warnings = [tr_message(left_words(unrehearsed)) + "."] if unrehearsed else []
        self.warning.setText("\n".join(warnings + self._time_for_pages()))
        self.warning.setVisible(bool(self.warning.text()))
        self.list.blockSignals(True)
        at = self.list.currentRow()
        self.list.clear()
        for c in changes:
            old, new = c.old.replace("\n", " / "), c.new.replace("\n", " / ")
            words = tr("page {0}, line {1}     {2}   →   {3}", c.page, c.line, old, new or tr("struck out"))
            item = QListWidgetItem(words + "     ✓ " + tr("rehearsed") if c.first_note in done else words)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if book.is_copied(c) else Qt.CheckState.Unchecked)
            self.list.addItem(item)
        self.list.setCurrentRow(min(at, len(changes) - 1))
        self.list.blockSignals(False)
        self.page.viewport().update()

    def _time_for_pages(self) -> list[str]:
        """Writes over each page its words against its seconds; a sentence about those on which that is too much, the fullest first."""
        if not self.isVisible():
            return []
        times = Rehearsal(self.stage).page_times()
        self.page.page_words = {
            t.page: (
                tr("{0} words: {1:.0f} s to say, {2:.0f} s to drive", t.words, t.takes_s, t.there_is_s),
                tr("{0:.0f} s to say in {1:.0f} s", t.takes_s, t.there_is_s),
            )
            for t in times
        }
        full = sorted((t for t in times if t.is_full), key=lambda t: t.there_is_s - t.takes_s)[:MOST_FULL]
        return [
            " ".join(
                [
                    tr("Page {0} is too full: {1} words take {2:.0f} s of {3:.0f} s.", t.page, t.words, t.takes_s, t.there_is_s),
                    *([tr("Could go: {0}.", tr_message(in_a_row(t.could_go, ", ")))] if t.could_go else []),
                ]
            )
            for t in full
        ]

    def _ticked(self, item: QListWidgetItem) -> None:
        change = self.stage.book.edition.changes[self.list.row(item)]
        self._do(lambda: self.stage.book.tick_copied(change, copied=item.checkState() == Qt.CheckState.Checked))

    def _set_pages(self, pages: Pages) -> None:
        self._do(lambda: self.stage.set_pages(pages))

    def turn(self) -> None:
        """Lets a page of the paper book begin at the chosen note, or no longer."""
        self._set_pages(turned(self.stage.reading, self.stage.note))

    # Changing a note

    def edit_note(self) -> None:
        """Opens the chosen note in the field."""
        self.field.setPlainText(self.stage.book.edition.text_of(self.stage.notes[self.stage.note]))
        self._show_field(True)
        self.field.setFocus()
        self.field.selectAll()

    def write_note(self) -> None:
        """Writes the field into the book; what makes a note faster takes a second Enter, by the other of the two."""
        text, note = self.field.text, self.stage.note
        both = self.stage.book.can_be_marked(None, note, text) and self.stage.book.wants_both(None, note, text)
        if both and self._one_said_yes != (note, text):
            self._one_said_yes = (note, text)
            self.reads.setText(tr("This makes the note faster. One of you has agreed; the other presses Enter too."))
            return
        try:
            self.stage.book.mark(None, note, text, by=BOTH if both else "")
        except MirkleError as fault:
            self.reads.setText(tr_fault(fault))
            return
        self.leave_note()

    def join(self) -> None:
        """Writes the chosen note and the next one on one line."""
        self._do(lambda: self.stage.book.join(self.stage.note))

    def move(self, by: int) -> None:
        """Moves the chosen note one down (1) or up (-1)."""
        note = self.stage.note if by > 0 else self.stage.note - 1
        if note >= 0:
            self._do(lambda: self.stage.book.swap(note))

    def leave_note(self) -> None:
        """Closes the field; nothing is changed."""
        self._one_said_yes = None
        self._show_field(False)
        self.setFocus()

    def _show_field(self, shown: bool) -> None:
        for part in (self.field, self.reads):
            part.setVisible(shown)

    def _read_back(self) -> None:
        try:
            self.reads.setText(tr("Reads: {0}", tr_message(self.stage.book.read_back(self.field.text))))
        except MirkleError as fault:
            self.reads.setText(tr_fault(fault))

    def turn_on_straights(self) -> None:
        """Lets the pages turn where there is time to turn them."""
        self._set_pages(pages_with_breath(self.stage))

    def _show_chosen(self) -> None:
        if self.field.isVisible():
            self.leave_note()
        if self.isVisible():
            self.page.show_chosen()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.page.show_chosen()
        # Something may have been rehearsed since.
        self.refresh()

    def _pick(self, row: int) -> None:
        changes = self.stage.book.edition.changes
        if 0 <= row < len(changes):
            self.stage.choose_note(changes[row].first_note)

    def preview(self, what: str) -> None:
        """Shows the ``card``, the ``book`` or the ``findings`` as they will be printed."""
        # What prints is made when it is first wanted: most of the time somebody only looks.
        from mirkle.gui.pages.preview import PreviewDialog

        PreviewDialog(self.stage, what, self).exec()

    def _ask(self, what: str) -> None:
        words, ending, kind = TAKE_AWAY[what]
        name, _ = QFileDialog.getSaveFileName(self, tr(words), f"{self.stage.project.name}-{ending}", kind)
        if name:
            # A name without an ending gets the usual one.
            path = Path(name)
            self.take_away(path if path.suffix else path.with_suffix(Path(ending).suffix))

    def take_away(self, path: Path) -> None:
        """Writes the notes or the review, as the file's ending says, and says so, or says why not."""
        self._do(lambda: write_export(self.stage, path, text_of, spoken()), tr("Written: {0}", path))

    def _do(self, work: Callable[[], None], then: str = "") -> None:
        try:
            work()
        except MirkleError as fault:
            self.said.setText(tr_fault(fault))
        else:
            self.said.setText(then)
