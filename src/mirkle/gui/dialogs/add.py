"""Adding by hand what no sensor saw: a hazard at a place, or a condition that holds for the next pass only."""

from __future__ import annotations

from typing import Literal

from PyQt6.QtWidgets import (
    QButtonGroup,
    QDialog,
    QDoubleSpinBox,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QPlainTextEdit,
    QPushButton,
    QRadioButton,
    QVBoxLayout,
    QWidget,
)

from mirkle.core.constants import km
from mirkle.core.errors import MirkleError
from mirkle.core.messages import Message, gettext_noop
from mirkle.core.notebook.conditions import A_LITTLE, AS_IT_IS, BAD, KIND_WORDS, Reported, parse_conditions
from mirkle.gui.controls import DecimalBox, label, wrapped
from mirkle.gui.translation import tr, tr_fault, tr_message
from mirkle.session.reviewed_pass import ReviewedPass

KINDS = {
    "hazard": gettext_noop("a hazard that stays: stones inside, a new rut, water"),
    "condition": gettext_noop("for the next pass only: ice, fog, dust, as others report it"),
}

LEVEL_WORDS = {A_LITTLE: gettext_noop("a little"), AS_IT_IS: gettext_noop("as it is"), BAD: gettext_noop("bad")}


class AddDialog(QDialog):
    """What it is, where, and until where; what was added before can be taken away."""

    def __init__(self, stage: ReviewedPass, at_m: float, parent: QWidget | None = None, until_m: float | None = None) -> None:
        super().__init__(parent)
        self.stage, self._as_condition = stage, until_m is not None
        self.setWindowTitle(tr("Add by hand"))
        self.setMinimumWidth(620)
        self.words, self.list, self.said = QLineEdit(), QListWidget(), label()
        self.reports, self.reads = QPlainTextEdit(), wrapped(style="readBack")
        self.reports.setAccessibleName(tr("What those ahead report"))
        self.reports.setTabChangesFocus(True)
        self.reports.setFixedHeight(76)
        self.reports.textChanged.connect(self._read_reports)
        self.words.setPlaceholderText(tr("in your words: stones inside on exit"))
        self.words.setAccessibleName(tr("What it is"))
        self.said.setObjectName("fault")
        self.said.setWordWrap(True)
        self.kinds = QButtonGroup(self)
        self.places = []
        for metres, name in ((at_m, gettext_noop("from")), (at_m if until_m is None else until_m, gettext_noop("until"))):
            box = DecimalBox()
            box.setDecimals(2)
            box.setRange(0.0, stage.review.finish_m / 1000)
            box.setSingleStep(0.05)
            box.setSuffix(" km")
            box.setValue(metres / 1000)
            box.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
            box.setAccessibleName(tr("{0} kilometre", tr(name)))
            self.places.append(box)
        self._lay_out()
        self._fill()
        self.words.setFocus()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        title = label(tr("Add a hazard or a condition"))
        title.setObjectName("title")
        column.addWidget(title)
        column.addWidget(self.words)
        for at, (kind, words) in enumerate(KINDS.items()):
            button = QRadioButton(tr(words))
            button.setChecked((kind == "condition") if self._as_condition else at == 0)
            button.setProperty("kind", kind)
            self.kinds.addButton(button)
            column.addWidget(button)
        row = QHBoxLayout()
        for box, words in zip(self.places, (gettext_noop("from"), gettext_noop("until")), strict=True):
            row.addWidget(label(tr(words)))
            row.addWidget(box)
        row.addStretch(1)
        column.addLayout(row)
        column.addWidget(wrapped(tr("Or what those ahead report, a line each: km 4.2 to 5, ice, more than this morning"), "faint"))
        column.addWidget(self.reports)
        column.addWidget(self.reads)
        hint = label(tr("It is shown on the road, the strip and the change card, not in the notes. To change a note, press E."))
        hint.setObjectName("faint")
        hint.setWordWrap(True)
        column.addWidget(hint)
        column.addWidget(self.list)
        column.addWidget(self.said)
        buttons = QHBoxLayout()
        self.away = QPushButton(tr("Remove the chosen one"))
        self.away.clicked.connect(self._take_away)
        self.add_button, back = QPushButton(tr("Add it")), QPushButton(tr("Done"))
        self.add_button.setObjectName("primary")
        self.add_button.setDefault(True)
        self.add_button.clicked.connect(self.add)
        back.clicked.connect(self.accept)
        buttons.addWidget(self.away)
        buttons.addStretch(1)
        buttons.addWidget(back)
        buttons.addWidget(self.add_button)
        column.addLayout(buttons)

    def _fill(self) -> None:
        self.list.clear()
        added = self.stage.book.road.additions_on_road
        for addition, place in added:
            until = tr("–{0:.2f}", place.to_m / 1000) if place.to_m - place.from_m >= 10.0 else ""
            kind = tr("hazard")
            if addition.kind == "condition":
                kind = tr("over") if self.stage.book.road.is_over(addition) else tr("next pass only")
            self.list.addItem(tr("{0:.2f}{1} km, {2}: {3}", place.from_m / 1000, until, kind, addition.words))
        self.list.setVisible(bool(added))
        self.away.setVisible(bool(added))

    def _reported(self) -> tuple[list[Reported], list[Message]]:
        return parse_conditions(self.reports.toPlainText(), self.stage.review.finish_m, self._place_of)

    def _place_of(self, page: int, line: int | None) -> tuple[float, float] | None:
        """Where the notes of a page, or of one of its lines, lie on the road."""
        on_it = [n.index for n in self.stage.notes if n.page == page and (line is None or n.line == line)]
        bends = [b for n in on_it if (b := self.stage.review.lineup.bend_of(n)) is not None]
        return (bends[0].from_m, bends[-1].to_m) if bends else None

    def _read_reports(self) -> None:
        """Says how the reports are read, as they are typed."""
        found, missing = self._reported()
        before = {one: self.stage.book.road.reported_before(one) for one in found}

        def has_changed(one: Reported) -> bool:
            was = before[one]
            return was is not None and was.level != one.level

        read = []
        # What has changed since an earlier sheet comes first.
        for one in sorted(found, key=lambda one: not has_changed(one)):
            was = before[one]
            line = tr("{0:.2f}–{1:.2f} km: {2}, {3}", km(one.from_m), km(one.to_m), tr(KIND_WORDS[one.what]), tr(LEVEL_WORDS[one.level]))
            if was is not None:
                line += tr(" (was: {0})", tr(LEVEL_WORDS[was.level])) if has_changed(one) else tr(" (as before)")
            read.append(line)
        self.reads.setText("\n".join([*read, *map(tr_message, missing)]))
        self.adjustSize()

    def add(self) -> None:
        """Adds what is typed; a fault is said below."""
        if self.reports.toPlainText().strip():
            found, missing = self._reported()
            if not missing:
                self._do(lambda: self.stage.book.road.add_reported(found))
                self.reports.clear()
            return
        checked = self.kinds.checkedButton()
        kind: Literal["hazard", "condition"] = "condition" if checked is not None and checked.property("kind") == "condition" else "hazard"
        from_m, to_m = (1000.0 * box.value() for box in self.places)
        self._do(lambda: self.stage.book.road.add(kind, from_m, to_m, self.words.text()))

    def _take_away(self) -> None:
        row = self.list.currentRow()
        if row >= 0:
            self._do(lambda: self.stage.book.take_away(self.stage.book.road.additions_on_road[row][0]))

    def _do(self, work) -> None:  # type: ignore[no-untyped-def]
        try:
            work()
        except MirkleError as fault:
            self.said.setText(tr_fault(fault))
        else:
            self.said.setText("")
            self.words.clear()
            self._fill()
