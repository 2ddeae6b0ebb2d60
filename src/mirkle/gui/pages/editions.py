"""Two editions of the book against each other, and the decisions in the order in which they were taken."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QPushButton, QVBoxLayout, QWidget

from mirkle.core.notebook.decisions import (
    ANSWER_WORDS,
    Addition,
    CallTap,
    CopyTick,
    Decision,
    FindingAnswer,
    NoteChange,
    Observation,
    PassChange,
    Removal,
)
from mirkle.core.notebook.observed import seen_words
from mirkle.gui.controls import ChoiceBox, label, wrap_items
from mirkle.gui.labels import BY_SAID
from mirkle.gui.translation import tr, tr_message
from mirkle.gui.views.status_line import clock
from mirkle.session.editions import differences, editions, in_words
from mirkle.session.open_pass import OpenPass


class EditionsDialog(QDialog):
    """Choose two editions; the places where they differ are listed by line."""

    def __init__(self, stage: OpenPass, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Two editions"))
        self.resize(760, 560)
        self._editions = editions(stage)
        self.heading, self.list = label(), QListWidget()
        self.heading.setObjectName("title")
        self.list.setAccessibleName(tr("What differs, by line"))
        wrap_items(self.list)
        self.boxes = (ChoiceBox(), ChoiceBox())
        written = next(i for i, e in enumerate(self._editions) if str(e.name) == "as written")
        row = QHBoxLayout()
        for box, name, at in zip(self.boxes, ("first", "second"), (written, len(self._editions) - 1), strict=True):
            for edition in self._editions:
                box.addItem(f"{tr_message(edition.name)}  ▾")
            box.setAccessibleName(tr("The first edition") if name == "first" else tr("The second edition"))
            box.setCurrentIndex(at)
            box.currentIndexChanged.connect(self.refresh)
            row.addWidget(box)
        back = QPushButton(tr("Back"))
        back.clicked.connect(self.accept)
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(self.heading)
        column.addLayout(row)
        column.addWidget(self.list, 1)
        column.addWidget(back)
        self.refresh()

    def refresh(self) -> None:
        """Compares the two that are chosen."""
        first, second = (self._editions[box.currentIndex()] for box in self.boxes)
        found = differences(first.text, second.text)
        self.heading.setText(tr_message(in_words(found)))
        self.list.clear()
        for d in found:
            old, new = (t.replace("\n", " / ") for t in (d.old, d.new))
            self.list.addItem(tr("line {0}     {1}   →   {2}", d.line, old or tr("nothing"), new or tr("struck out")))


class HistoryDialog(QDialog):
    """What was decided, the latest first; undo takes the topmost back."""

    def __init__(self, stage: OpenPass, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setWindowTitle(tr("What was decided"))
        self.resize(700, 520)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Decisions, the latest first"))
        wrap_items(self.list)
        self.undo_button, self.redo_button, back = (QPushButton(tr("Undo")), QPushButton(tr("Redo")), QPushButton(tr("Back")))
        self.undo_button.clicked.connect(stage.undo)
        self.redo_button.clicked.connect(stage.redo)
        back.clicked.connect(self.accept)
        title = label(tr("What was decided, the latest first"))
        title.setObjectName("title")
        row = QHBoxLayout()
        row.addWidget(self.undo_button)
        row.addWidget(self.redo_button)
        row.addStretch(1)
        row.addWidget(back)
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(title)
        column.addWidget(self.list, 1)
        column.addLayout(row)
        stage.book.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Lists the decisions as they stand."""
        self.list.clear()
        for decision in self.stage.book.history:
            self.list.addItem(decision_words(self.stage, decision))
        self.undo_button.setEnabled(bool(self.stage.book.history))
        self.redo_button.setEnabled(bool(self.stage.book.undone))


def decision_words(stage: OpenPass, decision: Decision) -> str:
    by = f", {tr(BY_SAID[decision.by])}" if decision.by else ""
    remark = f" ({decision.remark})" if decision.remark else ""
    match decision:
        case PassChange():
            return tr("The pass itself: its files or its settings")
        case Addition(kind=kind, words=words, from_m=float(from_m)):
            return tr("{0} at {1:.2f} km: {2}{3}{4}", tr(kind), from_m / 1000, words, by, remark)
        case Removal(words=words, from_m=float(from_m)):
            return tr("{0} at {1:.2f} km: {2}{3}{4}", tr("taken away"), from_m / 1000, words, by, remark)
        case CopyTick(copied=copied, text=text):
            what = tr("copied into the book") if copied else tr("not copied into the book")
            return tr("{0}: {1}", what, text.replace("\n", " / ") or tr("struck out"))
    finding = stage.book.finding_of(decision)
    at = decision.notes.first if decision.notes is not None else finding.note if finding else 0
    note = stage.notes[min(at, len(stage.notes) - 1)]
    place = tr("page {0}, line {1}", note.page, note.line)
    match decision:
        case CallTap(sound_s=sound_s):
            return tr("{0}: called at {1}, by your key: {2}", place, clock(sound_s), note.text)
        case Addition(kind=kind, words=words):
            return tr("{0}: {1} behind it: {2}{3}{4}", place, tr(kind), words, by, remark)
        case Removal(words=words):
            return tr("{0}: {1}{2}{3}", place, tr("taken away"), f": {words}" if words else "", remark)
        case NoteChange(seen=seen) | Observation(seen=seen) if seen:
            remark += " (" + tr("seen on the video") + f": {tr(seen_words(seen))})"
    assert isinstance(decision, NoteChange | FindingAnswer | Observation), "every other kind has its own words"
    new = f" → {decision.text}".replace("\n", " / ") if isinstance(decision, NoteChange) else ""
    return f"{place}: {tr(ANSWER_WORDS[decision.answer])}{by}: {note.text}{new}{remark}"
