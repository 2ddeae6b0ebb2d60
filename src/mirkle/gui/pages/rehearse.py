"""Rehearse: the changed stage at its coming pace, read along, called by key, or heard."""

from __future__ import annotations

import math
from collections.abc import Callable
from pathlib import Path
from time import monotonic
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QHideEvent, QKeyEvent, QShowEvent
from PyQt6.QtWidgets import QButtonGroup, QCheckBox, QHBoxLayout, QSpinBox, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.messages import gettext_noop
from mirkle.core.rehearsal.timing import worst
from mirkle.gui.commands import key_of
from mirkle.gui.controls import NumberBox, Slider, button, label, wrapped
from mirkle.gui.keys import CommandWidget
from mirkle.gui.pages.rehearse_page import TurningPage
from mirkle.gui.pages.rehearse_results import WAYS, RehearsalResults
from mirkle.gui.splitters import panes
from mirkle.gui.text_to_speech import ReadingVoice
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr, tr_fault
from mirkle.gui.views.road import RoadView
from mirkle.gui.views.status_line import clock
from mirkle.session import settings
from mirkle.session.open_pass import OpenPass
from mirkle.session.rehearsal import AVERAGE_KMH, Practice, Rehearsal, Way, average_kmh, needs_average
from mirkle.session.reviewed_pass import ReviewedPass

if TYPE_CHECKING:
    from mirkle.gui.microphone import Microphone
    from mirkle.gui.playback import Playback
    from mirkle.gui.views.video import Picture

FRAME_MS = 16
SLOWEST, FASTEST, HALF = 80, 110, 50
# A video is sought again when it is this far out of step (s).
OUT_OF_STEP_S = 0.3
WAY_TOLD = {
    "read": gettext_noop("The page turns itself. Enter starts and stops."),
    "call": gettext_noop("Press Space at each call. Mirkle compares it with when the driver needs it."),
    "listen": gettext_noop("The new notes are read aloud in time, if this computer has a voice."),
}


class RehearseView(CommandWidget):
    """The page that turns on the left, road or video and what came of it on the right. All keys are handled here. ``moved`` carries the
    metres where the car is."""

    place = "Rehearse"
    moved = pyqtSignal(float)

    def __init__(self, stage: OpenPass, theme: Theme, video: Path | None = None) -> None:
        super().__init__()
        self.stage, self._video = stage, video
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Rehearse"))
        self.rehearsal = Rehearsal(stage, clock=lambda: monotonic())
        self.voice = ReadingVoice(stage.language.code)
        self.playback: Playback | None = None
        self.picture: Picture | None = None
        self._theme, self._stale = theme, False
        self.frames = _precise_timer(self, self.step)
        self.frames.setInterval(FRAME_MS)
        # What is due before the next picture does not wait for it.
        self._due = _precise_timer(self, self.rehearsal.tick)
        self._due.setSingleShot(True)
        self.page = TurningPage(self.rehearsal, theme)
        self.road = RoadView(stage, theme) if isinstance(stage, ReviewedPass) else None
        self._ways = QButtonGroup(self)
        self.way_buttons = {way: button(f"{tr(name)}  {key_of('Rehearse', name)}") for way, name in WAYS.items()}
        self.whole_button = button(tr("Whole stage  X"), tr("The whole stage, or the changed places only (X)"))
        self.both_box = QCheckBox(tr("we are both here  B"))
        self.voice_box = QCheckBox(tr("by voice  V"))
        self.voice_box.setToolTip(tr("The microphone hears when a call begins, instead of Space (V)"))
        self.microphone: Microphone | None = None
        self.slider = Slider()
        self.half_button = button(tr("½  S"), tr("Half speed, for learning (S)"), "small")
        self.at_pace, self.at = label(), label(style="faint")
        self.kmh = NumberBox()
        self.go_button = button(tr("Start  ⏎"), tr("Start, or stop (Enter)"), "primary")
        self.hint, self.results = wrapped(style="faint"), RehearsalResults(self.rehearsal)
        # When a key was last pressed, on the clock beneath the stage's.
        self._keys, self._key_s = KeyClock(), 0.0
        self._lay_out()
        r = self.rehearsal
        r.turned.connect(lambda _: self.page.show_line())
        r.spoken.connect(lambda line: self.voice.say(r.in_full(line)))
        r.practised.connect(lambda one: self.hint.setText(self.results.call_words(one)))
        r.ended.connect(self._show_state)
        stage.book.changed.connect(self._marked)
        self._show_state()

    def _lay_out(self) -> None:
        left, right = QWidget(), QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        top = QHBoxLayout()
        for way, pressed in self.way_buttons.items():
            pressed.setCheckable(True)
            pressed.setChecked(way == self.rehearsal.way)
            pressed.clicked.connect(lambda _=False, w=way: self.choose_way(w))
            self._ways.addButton(pressed)
            top.addWidget(pressed)
        self.whole_button.setCheckable(True)
        self.whole_button.clicked.connect(self.turn_whole)
        self.voice_box.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.voice_box.hide()
        top.addWidget(self.voice_box)
        top.addStretch(1)
        top.addWidget(self.whole_button)
        column.addLayout(top)
        column.addWidget(self.page, 1)
        pace = QHBoxLayout()
        self.slider.setRange(SLOWEST, FASTEST)
        self.slider.setMinimumWidth(60)
        self.slider.setValue(100)
        self.slider.setAccessibleName(tr("Pace, in per cent of the recorded one"))
        self.slider.valueChanged.connect(self.set_pace)
        self.slider.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.half_button.clicked.connect(lambda _=False: self.turn_half())
        self.both_box.toggled.connect(lambda on: setattr(self.rehearsal, "both", on))
        self.both_box.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.go_button.clicked.connect(self.go_or_stop)
        self.kmh.setRange(20, 160)
        self.kmh.setValue(round(average_kmh()))
        self.kmh.setSuffix(tr(" km/h on average"))
        self.kmh.setAccessibleName(tr("The average speed on a stage without a recording"))
        self.kmh.valueChanged.connect(self._set_average)
        self.kmh.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.kmh.setVisible(needs_average(self.stage))
        for widget in (self.go_button, label(tr("pace")), self.slider, self.at_pace, self.half_button, self.kmh, self.both_box):
            pace.addWidget(widget, 1 if widget is self.slider else 0)
        pace.addWidget(self.at)
        column.addLayout(pace)
        column.addWidget(self.hint)
        column.addWidget(wrapped(tr("At the desk only: never while driving, and never on an open road."), "faint"))
        self._right = QVBoxLayout(right)
        self._right.setContentsMargins(0, 0, 0, 0)
        if self.road is not None:
            self._right.addWidget(self.road, 3)
        self._right.addWidget(self.results, 4)
        both = panes(self, "rehearse", (left, 5), (right, 4))
        both.setContentsMargins(10, 10, 10, 10)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self._theme = self.page.theme = theme
        if self.road is not None:
            self.road.set_theme(theme)
        if self.picture is not None:
            self.picture.theme = theme
        self.page.update()

    # What is set

    def choose_way(self, way: Way) -> None:
        """Read along, call it, or listen."""
        self.rehearsal.way = way
        self.way_buttons[way].setChecked(True)
        self._stop()
        self.voice_box.setVisible(way == "call" and _has_microphone())

    def turn_voice(self) -> None:
        """Calls are heard instead of pressed, or no longer; nothing where there is no microphone."""
        if not self.voice_box.isHidden():
            self.voice_box.toggle()

    def hear_calls(self, microphone: Microphone) -> None:
        """Takes a voice that begins for a call."""
        self.microphone = microphone
        microphone.begun.connect(self.rehearsal.call)

    def turn_whole(self) -> None:
        """The whole stage, or the changed places only."""
        self._stop()
        self.rehearsal.choose_parts(only_changes=not self.rehearsal.only_changes)
        self._show_state()

    def set_pace(self, per_cent: int) -> None:
        """The pace in hundredths of the recorded one."""
        self.rehearsal.set_pace(per_cent / 100.0)
        self.slider.blockSignals(True)
        self.slider.setValue(max(SLOWEST, per_cent))
        self.slider.blockSignals(False)
        if self.playback is not None:
            self.playback.set_speed(per_cent / 100.0)
        self._show_state()

    def change_pace(self, by: int) -> None:
        """A little quicker, or slower."""
        self.set_pace(min(max(round(100 * self.rehearsal.pace) + by, SLOWEST), FASTEST))

    def _set_average(self, kmh: int) -> None:
        settings.keep_setting(AVERAGE_KMH, kmh)
        self._stop()
        self.rehearsal.reload()
        self._show_state()

    def _marked(self) -> None:
        """Takes in what was marked meanwhile, when it is looked at."""
        self._stale = True
        if self.isVisible() and not self.rehearsal.running:
            self._fresh()

    def _fresh(self) -> None:
        if self._stale:
            self._stale = False
            self.rehearsal.reload()
        self._show_state()

    # Going

    def go_or_stop(self) -> None:
        """Starts, stops, or goes on."""
        if self.rehearsal.running:
            self._stop()
            return
        self._do(self.rehearsal.go_on)

    def do_again(self, number: int) -> None:
        """One of the places that went worst, again: from three lines before it to two behind."""
        found = worst(self.rehearsal.results)
        if number < len(found):
            at = found[number].line
            lines = range(max(0, at - 3), min(len(self.rehearsal.lines), at + 3))
            self._do(lambda: self.rehearsal.begin(lines))

    def _do(self, work: Callable[[], None]) -> None:
        try:
            work()
        except MirkleError as fault:
            self.hint.setText(tr_fault(fault))
            return
        self.frames.start()
        if self.rehearsal.way == "call" and self.voice_box.isChecked():
            if self.microphone is None:
                from mirkle.gui.microphone import Microphone

                self.hear_calls(Microphone(self))
            self.microphone.listen()
        self._show_state()

    def _stop(self) -> None:
        self.halt()
        self._show_state()

    def halt(self) -> None:
        """Everything stands still: clock, voice, microphone and video."""
        self.rehearsal.stop()
        self.frames.stop()
        self._due.stop()
        self.voice.stop()
        if self.microphone is not None:
            self.microphone.stop()
        if self.playback is not None:
            self.playback.stop()

    def step(self) -> None:
        """One picture: page, road and video go to where the stage's clock is."""
        r = self.rehearsal
        r.tick()
        if not r.running:
            self.frames.stop()
            return
        self.page.show_time()
        self._show_place()
        self._keep_video_in_step()
        wait_ms = 1000 * r.next_due_s
        if wait_ms < 2 * FRAME_MS:
            self._due.start(max(0, math.ceil(wait_ms)))

    def _keep_video_in_step(self) -> None:
        wanted = self.rehearsal.video_s
        player = self._player() if wanted is not None and wanted >= 0.0 else None
        if player is None or wanted is None:
            return
        if not player.playing or abs(player.seconds - wanted) > OUT_OF_STEP_S:
            player.play_from(wanted)

    def _player(self) -> Playback | None:
        """What plays the video, where there is one; made when it is first wanted."""
        if self.playback is None and self._video is not None:
            try:
                from mirkle.gui.playback import Playback
                from mirkle.gui.views.video import Picture
            except ImportError:
                self._video = None
                return None
            self.playback = Playback(self._video, self)
            self.playback.set_speed(self.rehearsal.pace)
            self.picture = Picture(self.playback, self._theme)
            self._right.insertWidget(0, self.picture, 3)
        return self.playback

    # What is told

    def _show_state(self) -> None:
        """The heading, what is left, and below what came of the last run, what is crowded, and what was practised before."""
        r = self.rehearsal
        self.go_button.setText(tr("Stop  ⏎") if r.running else tr("Start  ⏎"))
        self.at_pace.setText(f"{100 * r.pace:.0f} %")
        self.whole_button.setChecked(not r.only_changes)
        if not r.running:
            self.hint.setText(tr(WAY_TOLD[r.way]))
        self.results.show_practice(Practice(self.stage))
        self.page.show_line()
        self._show_place()

    def _show_place(self) -> None:
        r = self.rehearsal
        at_m = r.place_m
        self.at.setText(tr("{0}   {1:.2f} km", clock(max(r.pacer.now_s, 0.0)), at_m / 1000))
        if self.road is not None:
            self.road.show_car(at_m)
            self.road.look_at(at_m)
        self.moved.emit(at_m)

    # Keys

    def call_now(self) -> None:
        """A call, at the moment when the key was pressed; else starts or stops."""
        if self.rehearsal.way == "call" and self.rehearsal.running:
            self.rehearsal.call(self._key_s)
        else:
            self.go_or_stop()

    def turn_half(self) -> None:
        """Half the pace, or all of it again."""
        self.set_pace(HALF if round(100 * self.rehearsal.pace) != HALF else 100)

    def event(self, event: QEvent | None) -> bool:
        # Every key tells how the two clocks go, not only those that call.
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            self._key_s = self._keys.pressed_s(event)
        return super().event(event)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._fresh()

    def hideEvent(self, event: QHideEvent) -> None:
        self.halt()
        super().hideEvent(event)


def _has_microphone() -> bool:
    """Whether there is one, and what would hear it."""
    try:
        from mirkle.gui.microphone import there_is_one
    except ImportError:
        return False
    return there_is_one()


def _precise_timer(parent: QObject, work: Callable[[], None]) -> QTimer:
    """A timer that is right to the millisecond."""
    timer = QTimer(parent)
    timer.setTimerType(Qt.TimerType.PreciseTimer)
    timer.timeout.connect(work)
    return timer


class KeyClock:
    """When keys were pressed, by the events' own time, whatever the window did meanwhile.

    That time counts from somewhere; the smallest difference to now that was ever seen is where.
    """

    def __init__(self) -> None:
        self._lag_s = math.inf

    def pressed_s(self, event: QKeyEvent) -> float:
        """When a key was pressed, on the clock of :func:`time.monotonic`."""
        now = monotonic()
        if not event.timestamp():
            return now
        self._lag_s = min(self._lag_s, now - event.timestamp() / 1000.0)
        return event.timestamp() / 1000.0 + self._lag_s
