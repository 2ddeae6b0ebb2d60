"""Line up: is every note at its place? The unsure ones first; drag or press a key to mend, and the rest follows."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QDoubleSpinBox, QGridLayout, QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.messages import gettext_noop
from mirkle.gui.controls import ChoiceBox, DecimalBox, label, show_rows
from mirkle.gui.keys import CommandWidget
from mirkle.gui.splitters import panes
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr, tr_counted, tr_fault
from mirkle.gui.views.listen import ListenView
from mirkle.gui.views.scale import OWN_SCALE, ScaleView
from mirkle.gui.views.ties import TiesView
from mirkle.session.listening import heard_of
from mirkle.session.pairing_edits import SURE, clock_by_dragging, nearest_place, place_beside, ties_of, turns_other_way, unsure
from mirkle.session.reviewed_pass import ReviewedPass

LEAST_ROWS, MOST_ROWS, ROW_PX = 2, 7, 27
AXIS_WORDS = {
    OWN_SCALE: gettext_noop("the grade it turned like"),
    "radius": gettext_noop("by radius"),
    "speed": gettext_noop("by speed"),
    "angle": gettext_noop("by angle turned"),
}


class LineUp(CommandWidget):
    """``clock_wanted`` carries the offset of the words' clock that a hand set, ``None`` to find it again.

    ``opened`` carries a note that shall be looked at in Compare; ``hear_wanted`` a moment of the sound to be played from, ``heard_wanted``
    what makes the call times anew after one was set right.
    """

    place = "Line up"
    clock_wanted = pyqtSignal(object)
    hear_wanted = pyqtSignal(float)
    heard_wanted = pyqtSignal(object)
    opened = pyqtSignal(int)

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Line up"))
        self.ties = TiesView(stage, theme)
        self.scale = ScaleView(stage, theme)
        self.listen = ListenView(stage)
        self.listen.hear_wanted.connect(self.hear_wanted)
        self.listen.changed.connect(self.heard_wanted)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Notes, the unsure ones first"))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.heading, self.hint, self.fits = label(), label(), label()
        self.heading.setObjectName("title")
        for text in (self.hint, self.fits):
            text.setObjectName("why")
            text.setWordWrap(True)
        self.clock = DecimalBox()
        self.axis = ChoiceBox()
        # A note and a bend of the other side, where somebody has been asked about them.
        self._questioned: tuple[int, float] | None = None
        self._lay_out()
        self.ties.picked.connect(stage.choose_note)
        self.ties.moved.connect(self.put)
        self.ties.call_moved.connect(self._call_moved)
        self.ties.call_put.connect(self._call_put)
        self.scale.picked.connect(self._open)
        self.list.itemClicked.connect(lambda item: stage.choose_note(item.data(Qt.ItemDataRole.UserRole)))
        stage.chosen.connect(self.show_chosen)
        stage.reviewed.connect(self.show_review)
        self.show_review()

    def _lay_out(self) -> None:
        self.buttons: dict[str, QPushButton] = {}
        moves = QGridLayout()
        works: tuple[tuple[str, str, Callable[[], None]], ...] = (
            (gettext_noop("right  ⏎"), gettext_noop("This note is on its bend: go to the next unsure one (Enter)"), self.confirm),
            (gettext_noop("←  to the bend before"), gettext_noop("Move the note to the bend before (Left)"), lambda: self.step(-1)),
            (gettext_noop("to the next bend  →"), gettext_noop("Move the note to the next bend (Right)"), lambda: self.step(1)),
            (
                gettext_noop("no bend  0"),
                gettext_noop("This note has no bend (0)"),
                lambda: self._do(lambda: self.stage.pin(self._note, None)),
            ),
            (gettext_noop("remove the pin"), gettext_noop("Remove the pin: Mirkle places the note (Backspace)"), self.let_go),
        )
        for words, tip, work in works:
            button = QPushButton(tr(words))
            button.setToolTip(tr(tip))
            button.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            button.clicked.connect(lambda _=False, w=work: w())
            button.setObjectName("small")
            moves.addWidget(button, len(self.buttons) // 3, len(self.buttons) % 3)
            self.buttons[words] = button
        self.clock.setRange(-3600.0, 3600.0)
        self.clock.setDecimals(1)
        self.clock.setSingleStep(0.1)
        self.clock.setSuffix(" s")
        self.clock.setKeyboardTracking(False)
        self.clock.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
        self.clock.setToolTip(tr("Type it, step it with the arrow keys, or drag a call onto its corner"))
        self.clock.setAccessibleName(tr("How far the sound is ahead of the recording"))
        self.clock.editingFinished.connect(self._clock_typed)
        self.found_again = QPushButton(tr("let Mirkle find it"))
        self.found_again.setToolTip(tr("Let Mirkle find it again"))
        self.found_again.clicked.connect(lambda: self.clock_wanted.emit(None))
        self.clock_row = QWidget()
        row = QHBoxLayout(self.clock_row)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(label(tr("Sound is ahead by")))
        row.addWidget(self.clock)
        row.addWidget(self.found_again)
        row.addStretch(1)
        for name, words in AXIS_WORDS.items():
            self.axis.addItem(f"{tr(words)}  ▾", name)
        self.axis.setAccessibleName(tr("What the dots show"))
        self.axis.activated.connect(lambda _: self.scale.show_axis(self.axis.currentData()))
        scale_row = QHBoxLayout()
        scale_row.addWidget(self.fits, 1)
        scale_row.addWidget(self.axis)
        side = QWidget()
        side.setObjectName("card")
        column = QVBoxLayout(side)
        column.setContentsMargins(18, 14, 18, 12)
        column.setSpacing(8)
        column.addWidget(self.heading)
        column.addWidget(self.hint)
        column.addLayout(moves)
        column.addWidget(self.list, 2)
        column.addWidget(self.listen, 2)
        column.addWidget(self.clock_row)
        column.addLayout(scale_row)
        column.addWidget(self.scale, 3)
        outer = panes(self, "line-up", (self.ties, 58), (side, 42))
        outer.setContentsMargins(10, 10, 10, 10)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.ties.set_theme(theme)
        self.scale.set_theme(theme)

    @property
    def _note(self) -> int:
        """The chosen corner note, or the corner before a note that is none."""
        corners = [t.note for t in self.stage.review.lineup.ties]
        return max((n for n in corners if n <= self.stage.note), default=corners[0] if corners else 0)

    # Showing

    def show_review(self) -> None:
        """Takes in what the review says by now."""
        self.ties.show_review()
        self.scale.show_review()
        self._fill_list()
        self.listen.show_heard(heard_of(self.stage))
        review = self.stage.review
        self.clock_row.setVisible(review.clock is not None)
        if review.clock is not None:
            self.clock.blockSignals(True)
            self.clock.setValue(review.clock.calls_minus_run_s)
            self.clock.blockSignals(False)
            self.found_again.setEnabled(review.clock.by == "hand")
        self.fits.setText(_fits_words(self.stage))
        self.axis.setCurrentIndex(self.axis.findData(self.scale.axis))
        self.show_chosen()

    def _fill_list(self) -> None:
        self.list.clear()
        notes = self.stage.review.notes
        shown = [t for t in ties_of(self.stage) if t.pinned or t.sure < SURE]
        for tie in shown:
            item = QListWidgetItem(f"{tr(tie.words, tie.sure)}:  {notes[tie.note].text}")
            item.setData(Qt.ItemDataRole.UserRole, tie.note)
            self.list.addItem(item)
        self.list.setVisible(bool(shown))
        show_rows(self.list, len(shown), LEAST_ROWS, MOST_ROWS, ROW_PX)

    def show_chosen(self) -> None:
        """Shows the chosen note's tie; while the view is hidden nothing is worked out."""
        if not self.isVisible():
            return
        note = self._note
        self.ties.show_chosen()
        self.scale.update()
        tie = next((t for t in ties_of(self.stage) if t.note == note), None)
        if tie is None:
            return
        text = self.stage.review.notes[note].text
        left = len(unsure(self.stage))
        self.heading.setText(text)
        bend = self.stage.review.lineup.bend_of(note)
        words = tr(tie.words, tie.sure)
        where = tr(" at {0:.2f} km, a {1} of {2:.0f} m", bend.apex_m / 1000, tr(bend.direction), bend.radius_m) if bend else ""
        self.hint.setText(
            f"{words[0].upper()}{words[1:]}{where}. "
            + (
                tr("Every note has its place.")
                if not left
                else tr_counted("1 note still unsure: U goes to the next.", "{0} notes still unsure: U goes to the next.", left)
            )
        )
        self.list.clearSelection()
        for row in range(self.list.count()):
            item = self.list.item(row)
            if item is not None and item.data(Qt.ItemDataRole.UserRole) == note:
                self.list.setCurrentItem(item)

    # Mending

    def put(self, note: int, metres: float) -> None:
        """Puts a note on the bend nearest to a place."""
        place = nearest_place(self.stage, metres)
        if place is not None:
            self._put(note, place)

    def step(self, by: int) -> None:
        """Puts the chosen note on the bend before or behind."""
        place = place_beside(self.stage, self._note, by)
        if place is not None:
            self._put(self._note, place)

    def _put(self, note: int, place: float) -> None:
        """Puts a note on a bend; one of the other side only where that is said twice."""
        if turns_other_way(self.stage, note, place) and self._questioned != (note, place):
            self._questioned = (note, place)
            self.hint.setText(
                tr(
                    "The bend at {0:.2f} km goes the other way than “{1}”. Do it again to put the note there anyway.",
                    place / 1000,
                    self.stage.review.notes[note].text,
                )
            )
            return
        self._questioned = None
        self._do(lambda: self.stage.pin(note, place))

    def confirm(self) -> None:
        """Says that the chosen note is right as it is, and goes to the next unsure one."""
        note, bend = self._note, self.stage.review.lineup.bend_of(self._note)
        if note not in {p.note for p in self.stage.overrides.pins}:
            self._do(lambda: self.stage.pin(note, bend.apex_m if bend is not None else None))
        self.next_unsure()

    def let_go(self) -> None:
        """Takes the chosen note's pin out."""
        self._do(lambda: self.stage.unpin(self._note))

    def _do(self, work: Callable[[], None]) -> None:
        try:
            work()
        except MirkleError as fault:
            self.hint.setText(tr_fault(fault))

    def next_unsure(self) -> None:
        """Goes to the next unsure note behind the chosen one, round and round."""
        waiting = sorted(t.note for t in unsure(self.stage))
        if waiting:
            self.stage.choose_note(next((n for n in waiting if n > self._note), waiting[0]))

    def _call_moved(self, note: int, metres: float) -> None:
        place = nearest_place(self.stage, metres)
        offset = clock_by_dragging(self.stage, note, place if place is not None else metres)
        if offset is not None:
            self.clock_wanted.emit(offset)

    def _call_put(self, note: int, metres: float) -> None:
        """A call from the sound was dragged to another moment: the rest is solved again around it."""
        heard, clock = self.listen.heard, self.stage.review.clock
        if heard is not None and clock is not None:
            at_s = clock.calls_s(self.stage.review.profile.seconds_at(metres))
            self.heard_wanted.emit(lambda: heard.solved_with(note, at_s))

    def _clock_typed(self) -> None:
        clock = self.stage.review.clock
        if clock is not None and abs(self.clock.value() - clock.calls_minus_run_s) >= 0.05:
            self.clock_wanted.emit(self.clock.value())

    def _open(self, note: int) -> None:
        self.stage.choose_note(note)
        self.opened.emit(note)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.show_chosen()

    def step_notes(self, by: int) -> None:
        """Chooses the corner note that lies that many further on."""
        corners = [t.note for t in self.stage.review.lineup.ties]
        at = corners.index(self._note) if self._note in corners else 0
        if corners:
            self.stage.choose_note(corners[max(0, min(at + by, len(corners) - 1))])

    def pin_nowhere(self) -> None:
        """Says that the chosen note has no bend."""
        self._do(lambda: self.stage.pin(self._note, None))

    def open_chosen(self) -> None:
        """Shows the chosen note in Compare."""
        self._open(self._note)


def _fits_words(stage: ReviewedPass) -> str:
    """What the grades go by, with the figures."""
    found = stage.review.yardsticks
    if not found:
        return tr("Too few corners to say what your grades go by.")
    words = {"radius": tr("radius"), "speed": tr("speed"), "angle": tr("the angle turned")}
    best, *rest = found
    others = ", ".join(tr("{0} {1:.2f}", words[y.name], y.rank_correlation) for y in rest)
    return tr("Your grades follow {0} best: {1:.2f} of 1 ({2}).", words[best.name], best.rank_correlation, others)
