"""A bar between page and strip: which findings, in which order, and how much of it the time allows."""

from __future__ import annotations

from PyQt6.QtCore import QElapsedTimer, QTimer, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QSpinBox, QWidget

from mirkle.core.messages import gettext_noop
from mirkle.gui.controls import ChoiceBox, NumberBox, label
from mirkle.gui.pages.settings import USUAL_MIN, number
from mirkle.gui.translation import tr, tr_message
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.time_budget import plan_for, too_many

ORDERS = {"risk": gettext_noop("most risk first"), "stage": gettext_noop("in stage order")}
SHOWN_WORDS = {
    "all": gettext_noop("all findings"),
    "danger": gettext_noop("dangers"),
    "change": gettext_noop("dangers and changes"),
    "corners": gettext_noop("corners"),
    "shape": gettext_noop("shape and distance"),
    "vertical": gettext_noop("crests and jumps"),
    "words": gettext_noop("calls"),
    "pace": gettext_noop("pace"),
}


class WorkBar(QWidget):
    """Order, filter, the minutes to the time control. ``added`` asks for something to be added by hand.

    ``played`` asks for the sound to begin or stop, ``slowed`` for half speed.
    """

    added = pyqtSignal()
    played = pyqtSignal()
    slowed = pyqtSignal(bool)

    def __init__(self, stage: ReviewedPass, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.order, self.shown, self.minutes = ChoiceBox(), ChoiceBox(), NumberBox()
        for box, words, name in ((self.order, ORDERS, tr("Order of findings")), (self.shown, SHOWN_WORDS, tr("Which findings"))):
            for key, text in words.items():
                box.addItem(f"{tr(text)}  ▾", key)
            box.setAccessibleName(name)
            box.setMinimumWidth(150)
        self.order.setCurrentIndex(self.order.findData(stage.order))
        self.shown.setCurrentIndex(self.shown.findData(stage.shown))
        self.order.activated.connect(lambda _: stage.arrange(order=self.order.currentData()))
        self.shown.activated.connect(lambda _: stage.arrange(shown=self.shown.currentData()))
        self.minutes.setRange(1, 240)
        self.usual()
        self.minutes.setSuffix(tr(" min"))
        self.minutes.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.minutes.setFixedWidth(72)
        self.minutes.setAccessibleName(tr("Minutes to the time control"))
        self.start = QPushButton(tr("Start"))
        self.start.setToolTip(tr("Count down to the time control, with the findings that still fit"))
        self.start.clicked.connect(self._start)
        self.hint = label()
        self.hint.setObjectName("faint")
        self.hint.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.add_button = QPushButton(tr("Add  H"))
        self.add_button.setToolTip(tr("Add a hazard, or a condition for the next pass (H)"))
        self.add_button.clicked.connect(self.added)
        self.play_button, self.half_button = QPushButton(tr("Hear it  Space")), QPushButton(tr("½  S"))
        self.play_button.setToolTip(tr("Play from four seconds before the call (Space)"))
        self.half_button.setToolTip(tr("Half speed (S)"))
        self.half_button.setAccessibleName(tr("Half speed"))
        self.half_button.setCheckable(True)
        self.play_button.clicked.connect(self.played)
        self.half_button.toggled.connect(self.slowed)
        for button in (self.play_button, self.half_button):
            button.hide()
        self._clock, self._given_s = QElapsedTimer(), 0.0
        self._tick = QTimer(self)
        self._tick.setInterval(1000)
        self._tick.timeout.connect(self.refresh)
        row = QHBoxLayout(self)
        row.setContentsMargins(2, 0, 2, 0)
        row.setSpacing(8)
        row.addWidget(self.order)
        row.addWidget(self.shown)
        row.addSpacing(10)
        row.addWidget(label(tr("time control in")))
        row.addWidget(self.minutes)
        row.addWidget(self.start)
        row.addWidget(self.hint, 1)
        row.addWidget(self.play_button)
        row.addWidget(self.half_button)
        row.addWidget(self.add_button)
        stage.book.changed.connect(self.refresh)
        stage.arranged.connect(self.refresh)
        self.refresh()

    def usual(self) -> None:
        """The minutes that a service usually takes, unless the time runs already."""
        if self.minutes.isEnabled():
            self.minutes.setValue(number(USUAL_MIN, 25))

    def offer_sound(self, *, there: bool) -> None:
        """Shows the buttons for the sound, or hides them where there is none."""
        self.play_button.setVisible(there)
        self.half_button.setVisible(there)

    @property
    def seconds_left(self) -> float:
        """Until the time control; as typed before the count-down is begun."""
        if not self._clock.isValid():
            return 60.0 * self.minutes.value()
        return self._given_s - self._clock.elapsed() / 1000.0

    def _start(self) -> None:
        if self._clock.isValid():
            self._clock.invalidate()
            self._tick.stop()
        else:
            self._given_s = 60.0 * self.minutes.value()
            self._clock.start()
            self._tick.start()
        self.minutes.setEnabled(not self._clock.isValid())
        self.start.setText(tr("Stop") if self._clock.isValid() else tr("Start"))
        self.refresh()

    def refresh(self) -> None:
        """Says what fits by now, or that there are too many changes."""
        warning = too_many(self.stage)
        words = tr_message(plan_for(self.stage, self.seconds_left).words) if self._clock.isValid() else ""
        name = "fault" if warning else "faint"
        if self.hint.objectName() != name:
            self.hint.setObjectName(name)
            self.hint.style().polish(self.hint)
        self.hint.setText("; ".join(w for w in (words, tr_message(warning) if warning else "") if w))
