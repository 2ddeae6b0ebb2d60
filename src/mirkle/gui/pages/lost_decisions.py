"""Decisions that have no place any more: each is put back on a finding by hand, or taken out of the list."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding
from mirkle.core.notebook.decisions import ANSWER_WORDS, FindingAnswer, NoteChange
from mirkle.gui.controls import button, done, label, wrap_items, wrapped
from mirkle.gui.labels import lost_words, title_of
from mirkle.gui.translation import tr
from mirkle.session.reviewed_pass import ReviewedPass

VALUE = Qt.ItemDataRole.UserRole


class LostDecisionsDialog(QDialog):
    """The decisions at the left, the findings that are not decided at the right, the nearest first."""

    def __init__(self, stage: ReviewedPass, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setWindowTitle(tr("Decisions without a place"))
        self.resize(980, 560)
        self.heading = label("", "title")
        why = wrapped(
            tr(
                "After the start, the notes or the words changed, these could not be placed again. They are kept. Put each "
                "on its finding, or take it off the list; undo brings it back."
            ),
            "why",
        )
        self.lost, self.findings = QListWidget(), QListWidget()
        self.lost.setAccessibleName(tr("Decisions without a place"))
        self.findings.setAccessibleName(tr("Findings without a decision, the nearest first"))
        for view in (self.lost, self.findings):
            wrap_items(view)
        self.lost.currentRowChanged.connect(lambda _: self._show_findings())
        self.findings.itemActivated.connect(lambda _: self._put_back())
        self.put_button = button(tr("Put it on this finding"), name="primary")
        self.aside_button, back = button(tr("Take it off the list")), button(tr("Back"))
        self.put_button.clicked.connect(self._put_back)
        self.aside_button.clicked.connect(self._set_aside)
        back.clicked.connect(self.accept)
        self.fault = wrapped(style="fault")
        lists, row, column = QHBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        lists.addWidget(self.lost, 1)
        lists.addWidget(self.findings, 1)
        row.addWidget(self.aside_button)
        row.addStretch(1)
        row.addWidget(back)
        row.addWidget(self.put_button)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(self.heading)
        column.addWidget(why)
        column.addLayout(lists, 1)
        column.addWidget(self.fault)
        column.addLayout(row)
        self.refresh()

    def refresh(self) -> None:
        """Lists what has no place now."""
        decisions = self.stage.book.without_place
        self.heading.setText(lost_words(len(decisions)) or tr("Every decision has its place"))
        self.lost.clear()
        for decision in decisions:
            assert isinstance(decision, NoteChange | FindingAnswer), "only an answer has a finding to lose"
            item = QListWidgetItem(_sentence(decision))
            item.setData(VALUE, decision)
            self.lost.addItem(item)
        self.lost.setCurrentRow(0 if decisions else -1)
        self._show_findings()

    def _show_findings(self) -> None:
        """The findings that are open, those nearest to where the decision was made first."""
        lost = self._chosen(self.lost)
        self.findings.clear()
        if lost is not None:
            decided = self.stage.book.decisions
            left = [f for f in self.stage.findings if f.id not in decided]
            for finding in sorted(left, key=lambda f: abs(f.from_m - (lost.from_m or 0.0))):
                item = QListWidgetItem(self._finding_words(finding))
                item.setData(VALUE, finding)
                self.findings.addItem(item)
            self.findings.setCurrentRow(0)
        self.put_button.setEnabled(lost is not None and self.findings.count() > 0)
        self.aside_button.setEnabled(lost is not None)

    def _finding_words(self, finding: Finding) -> str:
        note = self.stage.notes[finding.note]
        return tr("{0:.2f} km: {1}\n{2}", finding.from_m / 1000, title_of(finding), note.text)

    def _chosen(self, view: QListWidget) -> Any:
        item = view.currentItem()
        return item.data(VALUE) if item is not None else None

    def _put_back(self) -> None:
        lost, finding = self._chosen(self.lost), self._chosen(self.findings)
        if isinstance(lost, NoteChange | FindingAnswer) and isinstance(finding, Finding):
            self._do(lambda: self.stage.book.put_back(lost, finding))

    def _set_aside(self) -> None:
        lost = self._chosen(self.lost)
        if isinstance(lost, NoteChange | FindingAnswer):
            self._do(lambda: self.stage.book.take_away(lost))

    def _do(self, work: Callable[[], None]) -> None:
        if done(work, self.fault):
            self.refresh()


def _sentence(decision: NoteChange | FindingAnswer) -> str:
    """What was decided, about what, and what the note read then."""
    written = decision.text if isinstance(decision, NoteChange) else ""
    about = tr(KINDS[decision.finding_kind].title) if decision.finding_kind in KINDS else written
    what = tr(ANSWER_WORDS[decision.answer])
    remark = f" ({decision.remark})" if decision.remark else ""
    place = tr("at {0:.2f} km", decision.from_m / 1000) if decision.from_m is not None else ""
    old = decision.notes.text if decision.notes is not None else ""
    new = f" → {written}" if isinstance(decision, NoteChange) else ""
    lines = [", ".join(p for p in (f"{what}{remark}", place) if p), about, (old + new).replace("\n", " / ")]
    return "\n".join(line for line in lines if line)
