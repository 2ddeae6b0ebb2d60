"""Find: every finding as a list, sorted, filtered and searched, and any note by its words, its page and line, or its number."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QPushButton, QVBoxLayout, QWidget

from mirkle.core.judging.findings import Finding
from mirkle.core.messages import gettext_noop
from mirkle.core.notebook.decisions import ANSWER_WORDS
from mirkle.gui.controls import ChoiceBox, label, wrap_items
from mirkle.gui.keys import FieldKeys
from mirkle.gui.labels import SEVERITY_WORDS, title_of
from mirkle.gui.translation import tr, tr_why
from mirkle.gui.views.work_bar import SHOWN_WORDS
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.search import Hit, found

STATE_WORDS = {
    "every": gettext_noop("decided or not"),
    "undecided": gettext_noop("not decided yet"),
    "mark": gettext_noop("marked"),
    "keep": gettext_noop("kept as written"),
    "talk": gettext_noop("to talk about"),
    "video": gettext_noop("to look at on the video"),
}
ORDER_WORDS = {"risk": gettext_noop("most risk first"), "stage": gettext_noop("in stage order"), "page": gettext_noop("in page order")}


class FindDialog(QDialog):
    """Emits ``went`` when the crew goes to something; the stage has it chosen by then."""

    went = pyqtSignal()

    def __init__(self, stage: ReviewedPass, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setWindowTitle(tr("Find"))
        self.resize(860, 600)
        self.field = QLineEdit()
        self.field.setPlaceholderText(tr("words, page and line (3.7), or note number (#45)"))
        self.field.setAccessibleName(tr("What to find"))
        self.state, self.shown, self.order = ChoiceBox(), ChoiceBox(), ChoiceBox()
        for box, words, name in (
            (self.state, STATE_WORDS, tr("Decided or not")),
            (self.shown, SHOWN_WORDS, tr("Which findings")),
            (self.order, ORDER_WORDS, tr("Order of findings")),
        ):
            for key, text in words.items():
                box.addItem(f"{tr(text)}  ▾", key)
            box.setAccessibleName(name)
            box.activated.connect(self.refresh)
        self.count, self.list = label(), QListWidget()
        self.count.setObjectName("faint")
        wrap_items(self.list)
        self.list.setAccessibleName(tr("What was found"))
        self.list.itemActivated.connect(lambda _: self.go())
        self.field.textChanged.connect(self.refresh)
        self.field.returnPressed.connect(self.go)
        go, back = QPushButton(tr("Go there  ⏎")), QPushButton(tr("Back"))
        go.setObjectName("primary")
        go.setAutoDefault(False)
        back.setAutoDefault(False)
        go.clicked.connect(self.go)
        back.clicked.connect(self.reject)
        boxes, buttons = QHBoxLayout(), QHBoxLayout()
        for box in (self.state, self.shown, self.order):
            boxes.addWidget(box)
        boxes.addStretch(1)
        boxes.addWidget(self.count)
        buttons.addStretch(1)
        buttons.addWidget(back)
        buttons.addWidget(go)
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(self.field)
        column.addLayout(boxes)
        column.addWidget(self.list, 1)
        column.addLayout(buttons)
        self.refresh()
        FieldKeys("Find", self.field, self)
        self.field.setFocus()

    def refresh(self) -> None:
        """Lists what answers by now."""
        hits = found(
            self.stage,
            self.field.text(),
            state=self.state.currentData(),
            shown=self.shown.currentData(),
            order=self.order.currentData(),
            said=_words,
        )
        self.list.clear()
        for hit in hits:
            item = QListWidgetItem(self._sentence(hit))
            item.setData(Qt.ItemDataRole.UserRole, hit)
            self.list.addItem(item)
        self.list.setCurrentRow(0)
        self.count.setText(tr("{0} found", len(hits)))

    def _sentence(self, hit: Hit) -> str:
        note = self.stage.review.notes[hit.note]
        place = tr("page {0}, line {1}", note.page, note.line)
        text = " / ".join((self.stage.book.edition.text_of(note) or note.text).split("\n"))
        if hit.finding is None:
            return f"{place}:  {text}"
        decision = self.stage.book.decisions.get(hit.finding.id)
        done = f" · {tr(ANSWER_WORDS[decision.answer])}" if decision is not None else ""
        return f"{place}:  {text}\n{tr(SEVERITY_WORDS[hit.finding.severity])}{done} · {_words(hit.finding)}"

    def go(self) -> None:
        """Chooses what is marked in the list, and closes."""
        item = self.list.currentItem()
        hit = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        if hit is None:
            return
        if hit.finding is not None:
            self.stage.choose(hit.finding)
        else:
            self.stage.choose_note(hit.note)
        self.went.emit()
        self.accept()

    def step(self, by: int) -> None:
        """Marks the one found that lies that many further on."""
        self.list.setCurrentRow(max(0, min(self.list.currentRow() + by, self.list.count() - 1)))


def _words(finding: Finding) -> str:
    return f"{title_of(finding)}. {tr_why((*finding.because, *finding.background))}"
