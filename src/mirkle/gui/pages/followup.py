"""Passes: was the change right? A row for each change and each note that was kept against a finding, and the stage twice as one
picture."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QFontMetrics, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from mirkle.core.errors import MirkleError
from mirkle.core.followup.belief import beliefs
from mirkle.core.followup.changes import Changed, Kept
from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.messages import gettext_noop
from mirkle.core.notebook.observed import seen_words
from mirkle.gui.controls import ChoiceBox, label
from mirkle.gui.keys import CommandWidget, ListKeys
from mirkle.gui.labels import BY_WORDS
from mirkle.gui.shapes import draw_mark, polygon
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr, tr_counted, tr_fault, tr_why
from mirkle.session.change_review import PassPair

VERDICT_WORDS = {
    "fits": gettext_noop("fits"),
    "too-fast": gettext_noop("still too fast"),
    "too-slow": gettext_noop("now too slow"),
    "cant-tell": gettext_noop("can't tell"),
}
KEPT_WORDS = {
    "fits": gettext_noop("kept, and right"),
    "too-fast": gettext_noop("kept, still too fast"),
    "too-slow": gettext_noop("kept, still too slow"),
    "cant-tell": gettext_noop("kept; can't tell"),
}
# Where speed is not what was wrong: what no note calls, and all else.
KEPT_UNCALLED_WORDS = KEPT_WORDS | dict.fromkeys(("too-fast", "too-slow"), gettext_noop("kept, still not in the book"))
KEPT_OTHER_WORDS = KEPT_WORDS | dict.fromkeys(("too-fast", "too-slow"), gettext_noop("kept, and the same again"))
SAID_WORDS = {
    "new": gettext_noop("called as changed"),
    "old": gettext_noop("the old note was called"),
    "otherwise": gettext_noop("called differently"),
    "not-said": gettext_noop("not said"),
}
DECIDED_WORDS = {"keep": gettext_noop("change kept"), "talk": gettext_noop("to talk about"), "mark": gettext_noop("changed again since")}
COUNT_WORDS = {
    "fits": gettext_noop("{0} right"),
    "too-fast": gettext_noop("{0} still too fast"),
    "too-slow": gettext_noop("{0} now too slow"),
    "cant-tell": gettext_noop("{0} not clear"),
}
# A mark for each verdict, told apart by its shape.
SIGNS = {"fits": "=", "too-fast": "▼", "too-slow": "△", "cant-tell": "?"}
COLOURS = {"fits": "pencil", "too-fast": "danger", "too-slow": "open", "cant-tell": "faint"}
ROW = Qt.ItemDataRole.UserRole
PAD, SIGN_PX = 12, 34
# Signs of verdicts stand at least this far apart (px).
APART_PX = 18.0


class Passes(CommandWidget):
    """Emits ``looked_at`` with a pass's number and a note, for the note to be seen in Compare."""

    place = "Passes"
    looked_at = pyqtSignal(int, int)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self.steps: list[PassPair] = []
        self._season: Mapping[str, int] = {}
        self.heading, self.counts, self.hint = label(), label(), label()
        self.heading.setObjectName("title")
        self.counts.setObjectName("why")
        self.hint.setObjectName("readBack")
        for text in (self.counts, self.hint):
            text.setWordWrap(True)
        self.pair = ChoiceBox()
        self.pair.setAccessibleName(tr("Which pass against the one before it"))
        self.pair.activated.connect(self._show_step)
        self.list = QListWidget()
        ListKeys("Passes", self.list, self)
        self.list.setAccessibleName(tr("Changed and kept notes, in stage order"))
        self.list.setItemDelegate(_Row(self))
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.currentRowChanged.connect(self._chosen)
        self.list.itemActivated.connect(lambda _: self.correct())
        self.picture = Twice(theme)
        self.picture.picked.connect(self._pick_at)
        self.by = ChoiceBox()
        self.by.setAccessibleName(tr("Who agreed"))
        for key, words in BY_WORDS.items():
            self.by.addItem(f"{tr(words)}  ▾", key)
        self.field = QLineEdit()
        self.field.setAccessibleName(tr("The new note"))
        # As large as what it replaces.
        self.field.setFont(font(21, family="hand"))
        self.field.returnPressed.connect(self._write)
        self.field.hide()
        self.buttons = {
            "keep": QPushButton(tr("Keep the change  K")),
            "back": QPushButton(tr("Put the old one back  O")),
            "correct": QPushButton(tr("Correct it further  E")),
            "talk": QPushButton(tr("Talk about it  T")),
            "look": QPushButton(tr("See it in Compare  C")),
        }
        self.believe_button = QPushButton(tr("Which notes hold  B"))
        self.believe_button.setToolTip(tr("Which notes were right and in time on all passes, and which were not (B)"))
        self.believe_button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.believe_button.clicked.connect(self.believe)
        works = (self.keep, self.put_back, self.correct, self.talk, self.look)
        for button, work in zip(self.buttons.values(), works, strict=True):
            button.clicked.connect(lambda _=False, w=work: w())
            button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self._lay_out()
        self.show_steps([])

    def _lay_out(self) -> None:
        card = QWidget()
        card.setObjectName("card")
        column = QVBoxLayout(card)
        column.setContentsMargins(24, 16, 24, 14)
        column.setSpacing(8)
        head = QHBoxLayout()
        head.addWidget(self.heading, 1)
        head.addWidget(self.by)
        head.addWidget(self.pair)
        column.addLayout(head)
        column.addWidget(self.counts)
        column.addWidget(self.list, 1)
        column.addWidget(self.picture)
        row = QHBoxLayout()
        for button in self.buttons.values():
            row.addWidget(button)
        row.addStretch(1)
        row.addWidget(self.believe_button)
        column.addWidget(self.field)
        column.addLayout(row)
        column.addWidget(self.hint)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(10, 10, 10, 10)
        outer.addWidget(card)

    def believe(self) -> None:
        """Shows which notes can be believed, over all passes."""
        from mirkle.gui.pages.beliefs import BeliefsDialog

        if self.steps:
            reviews = [self.steps[0].earlier_review, *(step.later_review for step in self.steps)]
            BeliefsDialog(beliefs(reviews), self).exec()

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme = self.picture.theme = theme
        self.list.viewport().update()
        self.picture.update()

    def show_steps(self, steps: list[PassPair], season: Mapping[str, int] | None = None) -> None:
        """Shows the passes against each other, the last pair first; ``season`` counts the verdicts on the changes of all stages."""
        self.steps, self._season = steps, season or {}
        self.pair.clear()
        for step in steps:
            self.pair.addItem(tr("{0} against {1}", step.later.name, step.earlier.name) + "  ▾")
        self.pair.setVisible(len(steps) > 1)
        self.pair.setCurrentIndex(len(steps) - 1)
        self._show_step()

    @property
    def step(self) -> PassPair | None:
        """The pair of passes that is shown."""
        at = self.pair.currentIndex()
        return self.steps[at] if 0 <= at < len(self.steps) else None

    @property
    def row(self) -> Changed | Kept | None:
        """The row that is chosen."""
        item = self.list.currentItem()
        return item.data(ROW) if item is not None else None

    def _show_step(self) -> None:
        step = self.step
        self.list.clear()
        self.field.hide()
        self.picture.show_step(step)
        for widget in (*self.buttons.values(), self.by, self.list, self.picture, self.believe_button):
            widget.setVisible(step is not None)
        if step is None:
            self.heading.setText(tr("Was the change right?"))
            self.counts.setText(
                tr("One pass so far. Drop the recording of the next pass on the window: Mirkle then checks every note that you changed.")
            )
            return
        self.heading.setText(tr("Was the change right? {0} against {1}", step.later.name, step.earlier.name))
        self.counts.setText(" ".join([_counts(step), *_of_the_car(step), *_of_season(self._season, len(step.found.changes))]))
        for row in step.rows:
            item = QListWidgetItem()
            item.setData(ROW, row)
            item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{row.why} {tr(_verdict(row))}")
            self.list.addItem(item)
        if self.list.count():
            self.list.setCurrentRow(0)

    def _chosen(self) -> None:
        row, step = self.row, self.step
        self.field.hide()
        self.hint.setText("")
        if row is None or step is None:
            return
        self.picture.show_row(row)
        self.buttons["back"].setEnabled(isinstance(row, Changed))

    def _pick_at(self, at_m: float) -> None:
        """The row nearest to a place in the picture."""
        rows = self.step.rows if self.step is not None else []
        if rows:
            self.list.setCurrentRow(min(range(len(rows)), key=lambda i: abs(0.5 * (rows[i].from_m + rows[i].to_m) - at_m)))

    # Follow-up

    def keep(self) -> None:
        """The change stays, or the kept note does."""
        self._decide(lambda step, row: step.answer(row, "keep"))

    def talk(self) -> None:
        """To be talked over."""
        self._decide(lambda step, row: step.answer(row, "talk"))

    def put_back(self) -> None:
        """What stood before is written again."""
        self._decide(lambda step, row: step.put_back(row, by=self.by.currentData()))

    def correct(self) -> None:
        """Opens the field with the note as it stands now."""
        row, step = self.row, self.step
        if row is None or step is None:
            return
        note = row.note if isinstance(row, Kept) else row.notes_now[0]
        mark = step.book.edition.mark_on(note)
        self.field.setText(mark.text if mark is not None else row.text if isinstance(row, Kept) else row.new)
        self.field.show()
        self.field.setFocus()
        self.field.selectAll()

    def _write(self) -> None:
        text = self.field.text()
        self._decide(lambda step, row: step.correct(row, text, by=self.by.currentData()))
        if not self.hint.property("fault"):
            self.field.hide()
            self.list.setFocus()

    def look(self) -> None:
        """Shows the note in Compare."""
        row, step = self.row, self.step
        if row is not None and step is not None:
            self.looked_at.emit(step.later.made.id, row.note if isinstance(row, Kept) else row.notes_now[0])

    def _decide(self, work) -> None:  # type: ignore[no-untyped-def]
        row, step = self.row, self.step
        if row is None or step is None:
            return
        self.hint.setProperty("fault", False)
        try:
            work(step, row)
        except MirkleError as fault:
            self.hint.setProperty("fault", True)
            self.hint.setText(tr_fault(fault))
            return
        decided = step.answered(row)
        self.hint.setText(tr(DECIDED_WORDS[decided]) if decided else "")
        self.list.viewport().update()
        following = self.list.currentRow() + 1
        if following < self.list.count():
            self.list.setCurrentRow(following)

    def leave_field(self) -> None:
        """Leaves the field of a correction, as it was."""
        self.field.hide()
        self.list.setFocus()

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self.list.setFocus()


def _verdict(row: Changed | Kept) -> str:
    if isinstance(row, Changed):
        return VERDICT_WORDS[row.verdict]
    kind = KINDS[row.finding.kind]
    if kind.uncalled:
        return KEPT_UNCALLED_WORDS[row.verdict]
    about_speed = kind.aspect == "grade" and kind.drawing == "grades"
    return (KEPT_WORDS if about_speed else KEPT_OTHER_WORDS)[row.verdict]


CAR_CHANGED = {
    "tyres": gettext_noop("Other tyres ({0}, now {1}): the seconds are not only the notes'."),
    "fuel": gettext_noop("Another load of fuel ({0}, now {1}): the seconds are not only the notes'."),
    "setup": gettext_noop("Another set-up ({0}, now {1}): the seconds are not only the notes'."),
}


def _of_the_car(step: PassPair) -> list[str]:
    """What was different about the car on the two passes."""
    return [tr(CAR_CHANGED[what], before, now) for what, before, now in step.car_changes]


def _of_season(season: Mapping[str, int], here: int) -> list[str]:
    """How the changes of all stages turned out, where there are more than these."""
    of = sum(season.values())
    if of <= here:
        return []
    return [
        tr(
            "In all your stages: of {0} changes {1} were right, {2} not far enough, {3} too far.",
            of,
            season.get("fits", 0),
            season.get("too-fast", 0),
            season.get("too-slow", 0),
        )
    ]


def _counts(step: PassPair) -> str:
    counts = step.counts()
    changed = ", ".join(tr(words, counts[v]) for v, words in COUNT_WORDS.items() if counts[v])
    hint = tr("No note was changed for this pass.")
    if changed:
        count = len(step.found.changes)
        hint = tr_counted("1 change: {1}.", "{0} changes: {1}.", count, changed)
    kept = sum(k.verdict == "too-fast" for k in step.found.kept)
    if kept:
        hint += " " + tr_counted("1 kept note was too fast again.", "{0} kept notes were too fast again.", kept)
    if step.new_differences:
        hint += " " + tr("New on this pass, in Compare: {0}.", step.new_differences)
    if step.found.gained is not None:
        gained = float(step.found.gained.seconds[-1])
        hint += " " + (tr("{0:.1f} s quicker overall.", gained) if gained >= 0 else tr("{0:.1f} s slower overall.", -gained))
        if not step.found.comparable:
            hint += " " + tr("Another surface: times can't be compared place by place.")
    return hint


class _Row(QStyledItemDelegate):
    """A row: the verdict with its sign, what stood and what stands, where, and why; every text whole, wrapped."""

    def __init__(self, view: Passes) -> None:
        super().__init__(view)
        self.view = view

    def _texts(self, row: Changed | Kept) -> tuple[str, str, str]:
        step = self.view.step
        assert step is not None
        if isinstance(row, Changed):
            note = (_one_line(row.old) or tr("nothing")) + "   →   " + (_one_line(row.new) or tr("struck out"))
            said = f" · {tr(SAID_WORDS[row.said])}" if row.said else ""
        else:
            note, said = _one_line(row.text), ""
        decided = step.answered(row)
        done = f" · {tr(DECIDED_WORDS[decided])}" if decided else ""
        if seen := step.seen(row):
            done += " · " + tr("seen on the video") + f": {tr(seen_words(seen))}"
        place = tr("page {0}, line {1}, {2:.2f} km", row.page, row.line, row.from_m / 1000) + said + done
        return note, f"{tr(_verdict(row))}, {row.confidence:.0%}", f"{place}. {tr_why(row.because)}"

    def _widths(self, whole: int) -> tuple[int, int]:
        verdict = 190
        return max(whole - verdict - SIGN_PX - 3 * PAD, 200), verdict

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        row = index.data(ROW)
        assert painter is not None
        theme, rect = self.view.theme, QRectF(option.rect)
        painter.save()
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(rect, theme.colour("chosen"))
        painter.setPen(QPen(theme.colour("rule"), 1))
        painter.drawLine(rect.bottomLeft(), rect.bottomRight())
        note, verdict, why = self._texts(row)
        wide, narrow = self._widths(int(rect.width()))
        colour = theme.colour(COLOURS[row.verdict])
        painter.setPen(colour)
        painter.setFont(font(22, bold=True))
        painter.drawText(QRectF(rect.left() + PAD, rect.top() + 8, SIGN_PX, 30), Qt.AlignmentFlag.AlignLeft, SIGNS[row.verdict])
        painter.setFont(font(16, bold=True))
        flags = Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        painter.drawText(QRectF(rect.left() + PAD + SIGN_PX, rect.top() + 10, narrow, 60), flags, verdict)
        painter.setPen(theme.colour("ink"))
        painter.setFont(font(21, family="hand"))
        left = rect.left() + PAD + SIGN_PX + narrow + PAD
        height = _height(note, font(21, family="hand"), wide)
        painter.drawText(QRectF(left, rect.top() + 8, wide, height), flags, note)
        painter.setPen(theme.colour("faint"))
        painter.setFont(font(14))
        painter.drawText(QRectF(left, rect.top() + 12 + height, wide, rect.height()), flags, why)
        painter.restore()

    def sizeHint(self, _option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        note, _, why = self._texts(index.data(ROW))
        width = self.view.list.viewport().width()
        wide, _ = self._widths(width)
        return QSize(width, _height(note, font(21, family="hand"), wide) + _height(why, font(14), wide) + 24)


def _height(text: str, face, width: int) -> int:  # type: ignore[no-untyped-def]
    flags = int(Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap)
    return QFontMetrics(face).boundingRect(0, 0, width, 4000, flags, text).height()


def _one_line(text: str) -> str:
    return " / ".join(" ".join(line.split()) for line in text.splitlines() if line.strip())


class Twice(QWidget):
    """The stage twice as one picture: where the later pass was quicker (above the line) and slower (below), beyond what it gained as a
    whole; changed notes stand in it, and parts that don't count are hatched. Emits ``picked`` with a place."""

    picked = pyqtSignal(float)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self._step: PassPair | None = None
        self._row: Changed | Kept | None = None
        self.setFixedHeight(132)
        self.setAccessibleName(tr("Where the later pass was quicker and slower"))

    def show_step(self, step: PassPair | None) -> None:
        """Shows a pair of passes."""
        self._step, self._row = step, None
        self.update()

    def show_row(self, row: Changed | Kept) -> None:
        """Shows where a row lies."""
        self._row = row
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.update()
        super().resizeEvent(event)

    def mousePressEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        if self._step is not None:
            self.picked.emit(float((event.position().x() - PAD) / self._scale()))

    def _scale(self) -> float:
        assert self._step is not None
        return (self.width() - 2 * PAD) / max(self._step.earlier_review.finish_m, 1.0)

    def paintEvent(self, _event: QPaintEvent) -> None:
        step = self._step
        if step is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        scale, top, bottom = self._scale(), 22.0, self.height() - 24.0
        painter.setFont(font(13))
        painter.setPen(self.theme.colour("faint"))
        painter.drawText(QPointF(PAD, 14), tr("seconds gained by the later pass at each place, beyond its overall gain"))
        for review, here in ((step.earlier_review, lambda m: m), (step.later_review, _on_the_earlier(step))):
            for part in review.parts:
                left, right = PAD + here(part.from_m) * scale, PAD + here(part.to_m) * scale
                painter.fillRect(
                    QRectF(left, top, right - left, bottom - top), QBrush(self.theme.colour("rule"), Qt.BrushStyle.BDiagPattern)
                )
        if step.found.gained is not None:
            self._draw_ahead(painter, step, scale, top, bottom)
        for addition, place in step.added:
            draw_mark(painter, self.theme, addition.kind, QPointF(PAD + place.from_m * scale, top + 8.0), 14)
        taken = -APART_PX
        for row in sorted(step.rows, key=lambda r: (r.from_m + r.to_m, r is self._row)):
            x = PAD + 0.5 * (row.from_m + row.to_m) * scale
            chosen = row is self._row
            painter.setPen(QPen(self.theme.colour(COLOURS[row.verdict]), 2.5 if chosen else 1.0))
            painter.drawLine(QPointF(x, top), QPointF(x, bottom + 2))
            painter.setFont(font(18 if chosen else 14, bold=True))
            # Where changes lie close together their signs stand side by side, in their order.
            taken = max(x, taken + APART_PX)
            painter.drawText(QRectF(taken - 14, bottom + 1, 28, 24), Qt.AlignmentFlag.AlignHCenter, SIGNS[row.verdict])
        painter.end()

    def _draw_ahead(self, painter: QPainter, step: PassPair, scale: float, top: float, bottom: float) -> None:
        gained = step.found.gained
        assert gained is not None
        ahead = gained.ahead
        most = max(float(np.abs(ahead).max()), 0.5)
        middle = 0.5 * (top + bottom)
        x = PAD + gained.at_m * scale
        y = middle - ahead / most * (0.5 * (bottom - top) - 3)
        painter.setPen(QPen(self.theme.colour("rule"), 1))
        painter.drawLine(QPointF(PAD, middle), QPointF(self.width() - PAD, middle))
        painter.setPen(QPen(self.theme.colour("ink"), 2))
        painter.drawPolyline(polygon(x, y))
        painter.setPen(self.theme.colour("faint"))
        painter.setFont(font(13))
        right = Qt.AlignmentFlag.AlignRight
        painter.drawText(QRectF(0, top - 2, self.width() - PAD, 16), right, tr("+{0:.1f} s", most))
        painter.drawText(QRectF(0, bottom - 14, self.width() - PAD, 16), right, tr("−{0:.1f} s", most))


def _on_the_earlier(step: PassPair):  # type: ignore[no-untyped-def]
    road = step.found.road
    return road.here if road is not None else lambda m: m
