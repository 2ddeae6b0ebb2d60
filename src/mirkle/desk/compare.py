"""Compare: the page, the road, the evidence and the whole stage, moving together."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.verdict.parts import Part
from mirkle.desk.add_view import AddDialog
from mirkle.desk.evidence import Evidence
from mirkle.desk.page_view import MARGIN_PX, PageView
from mirkle.desk.road_view import HEAD_PX, METRES_PER_PIXEL, RoadView
from mirkle.desk.speak import say, say_fault
from mirkle.desk.strip import StageStrip
from mirkle.desk.theme import Theme
from mirkle.desk.work_bar import WorkBar
from mirkle.session.book import BOTH
from mirkle.session.sound import begin_s, place_m, sound_of
from mirkle.session.stage import Stage

if TYPE_CHECKING:
    from mirkle.desk.playback import Playback

# A word is heard with so much before it.
BEFORE_WORD_S = 2.0
ANSWER_KEYS = {
    Qt.Key.Key_Return: "mark", Qt.Key.Key_Enter: "mark", Qt.Key.Key_K: "keep", Qt.Key.Key_T: "talk", Qt.Key.Key_V: "video",
}  # fmt: skip


class Compare(QWidget):
    """The main screen. All keys of the crew's work are handled here.

    ``parts_wanted`` carries a part that was dragged, or ``None`` where the list itself is asked for.
    """

    parts_wanted = pyqtSignal(object)

    def __init__(self, stage: Stage, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._one_said_yes: tuple[int, str] | None = None
        self.page = PageView(stage, theme)
        self.road = RoadView(stage, theme)
        self.evidence = Evidence(stage, theme, self)
        self.strip = StageStrip(stage, theme)
        self.thread_line = _ThreadLine(self, theme)
        top = QHBoxLayout()
        top.setSpacing(8)
        top.addWidget(self.page, 28)
        top.addWidget(self.road, 33)
        top.addWidget(self.evidence, 36)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 10)
        column.setSpacing(8)
        self.bar = WorkBar(stage)
        self.bar.added.connect(self.add_by_hand)
        self.playback: Playback | None = None
        self._offer_sound()
        column.addLayout(top, 1)
        column.addWidget(self.bar)
        column.addWidget(self.strip)
        self.thread_line.raise_()
        self.page.picked.connect(stage.choose_note)
        self.road.picked.connect(stage.choose_note)
        self.page.looked_at.connect(self._page_looked_at)
        self.road.looked_at.connect(self._looked_at)
        self.strip.looked_at.connect(self._strip_looked_at)
        self.strip.part_dragged.connect(lambda a, b: self.parts_wanted.emit(Part(a, b, "")))
        self.evidence.answered.connect(self.answer)
        stage.chosen.connect(self.show_chosen)
        stage.book.changed.connect(self._show_decided)
        stage.arranged.connect(self._show_decided)
        stage.reviewed.connect(self._show_reviewed)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        for part in (self.page, self.road, self.evidence, self.strip, self.thread_line):
            part.set_theme(theme)

    def show_chosen(self) -> None:
        """Page, road, evidence and strip show what was chosen."""
        self.page.show_chosen()
        self.road.show_chosen()
        self.evidence.show_chosen()
        self._moved()

    def _show_decided(self) -> None:
        self.page.viewport().update()
        self.road.update()
        self.strip.show_decided()
        self.evidence.show_chosen()

    def _show_reviewed(self) -> None:
        self.road.show_review()
        self.strip.show_review()
        self.show_chosen()

    def _looked_at(self, metres: float) -> None:
        self.page.center_on(self.road.note_near(metres))
        self._moved()

    def _page_looked_at(self, note: int) -> None:
        self.road.center_on(note)
        self._moved()

    def _strip_looked_at(self, metres: float) -> None:
        self.stage.choose_note(self.road.note_near(metres))

    def _moved(self) -> None:
        half = (self.road.height() - HEAD_PX) / 2 * METRES_PER_PIXEL
        self.strip.show_window(max(0.0, self.road.middle_m - half), self.road.middle_m + half)
        self.thread_line.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        # Only between the page's rows and the middle of the road: what lies under it is painted again with it.
        left, middle = self.page.x() + MARGIN_PX, self.road.x() + self.road.width() // 2
        self.thread_line.setGeometry(left, self.page.y(), middle - left, self.page.height())
        self._moved()

    def answer(self, answer: str) -> None:
        """Takes an answer to the chosen finding and goes on to the next open one; a fault is said under the field."""
        text, by, remark = self.evidence.text, self.evidence.by, self.evidence.remark.text().strip()
        if answer == "mark" and self.stage.wants_both(text):
            asked = (self.stage.note, text)
            if self._one_said_yes != asked:
                self._one_said_yes = asked
                self.evidence.say(
                    say("This makes the note faster: one of you has said yes, the other presses Enter too."), fault=True
                )
                return
            by = BOTH
        self._one_said_yes = None
        try:
            if answer == "mark":
                self.stage.mark(text, by=by, remark=remark)
            else:
                self.stage.answer(answer, by=by, remark=remark)
        except MirkleError as fault:
            self.evidence.say(say_fault(fault), fault=True)
            return
        self.setFocus()
        self.stage.next_open()

    def _offer_sound(self) -> None:
        """Offers the sound of this pass, where there is one; what plays it is made when it is first wanted."""
        try:
            self._sound = sound_of(self.stage)
        except MirkleError as fault:
            self._sound = None
            self.bar.told.setText(say_fault(fault))
        self.bar.offer_sound(there=self._sound is not None)
        self.bar.played.connect(self.play_or_stop)
        self.bar.slowed.connect(self._set_speed)

    def _player(self) -> Playback | None:
        """What plays the sound, where this machine can."""
        if self.playback is None and self._sound is not None:
            try:
                from mirkle.desk.playback import Playback, VideoView
            except ImportError:
                self.bar.told.setText(say("The sound can't be played here: a system library is missing"))
                return None
            self.playback = Playback(self._sound, self)
            self.playback.moved.connect(self._sound_moved)
            self.playback.stopped.connect(lambda: self._sound_moved(None))
            self.playback.failed.connect(
                lambda words: self.bar.told.setText(say("The sound can't be played: {0}", words))
            )
            self.evidence.show_video(VideoView(self.playback))
        return self.playback

    def _set_speed(self, half: bool) -> None:
        player = self._player()
        if player is not None:
            player.set_half_speed(half=half)

    def play_or_stop(self) -> None:
        """Plays the sound from before the chosen call, or stops it."""
        player = self._player()
        if player is None:
            return
        if player.playing:
            player.stop()
        else:
            player.play_from(begin_s(self.stage))

    def hear(self, sound_s: float) -> None:
        """Plays the sound from just before a moment of it."""
        player = self._player()
        if player is not None:
            player.play_from(sound_s - BEFORE_WORD_S)

    @property
    def has_sound(self) -> bool:
        """Whether this pass has sound that can be played."""
        return self._sound is not None

    def _sound_moved(self, seconds: float | None) -> None:
        """Road, page, strip and traces go with the sound."""
        at_m = place_m(self.stage, seconds) if seconds is not None else None
        for part in (self.road, self.strip, *self.evidence.drawings):
            part.show_car(at_m)
        if at_m is not None:
            self.road.look_at(at_m)
            self.page.center_on(self.road.note_near(at_m))
            self._moved()

    def add_by_hand(self) -> None:
        """Asks for a hazard or a condition at the place that is looked at."""
        AddDialog(self.stage, float(np.clip(self.road.middle_m, 0.0, self.stage.review.finish_m)), self).exec()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier):
            event.ignore()
        elif key in (Qt.Key.Key_N, Qt.Key.Key_P):
            self.stage.step(1 if key == Qt.Key.Key_N else -1)
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End) and self.stage.listed:
            self.stage.choose(self.stage.listed[0 if key == Qt.Key.Key_Home else -1])
        elif key == Qt.Key.Key_D:
            self.stage.next_danger()
        elif key in (Qt.Key.Key_Down, Qt.Key.Key_Up, Qt.Key.Key_PageDown, Qt.Key.Key_PageUp):
            self.page.keyPressEvent(event)
        elif key in ANSWER_KEYS and self.stage.finding is not None:
            self.answer(ANSWER_KEYS[Qt.Key(key)])
        elif key == Qt.Key.Key_Space:
            self.play_or_stop()
        elif key == Qt.Key.Key_S:
            self.bar.half_button.toggle()
        elif key == Qt.Key.Key_H:
            self.add_by_hand()
        elif key == Qt.Key.Key_R and self.stage.finding is not None:
            self.evidence.remark.setFocus()
        elif key == Qt.Key.Key_B and self.stage.finding is not None:
            self.evidence.next_by()
        elif key == Qt.Key.Key_X:
            self.parts_wanted.emit(None)
        elif key == Qt.Key.Key_E:
            self.evidence.begin_editing()
            self.evidence.field.setFocus()
            self.evidence.field.selectAll()
        else:
            event.ignore()


class _ThreadLine(QWidget):
    """A thin line from the chosen note's row on the page to its place on the road, over both."""

    def __init__(self, compare: Compare, theme: Theme) -> None:
        super().__init__(compare)
        self._compare, self._theme = compare, theme
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self._theme = theme
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        page, road, stage = self._compare.page, self._compare.road, self._compare.stage
        row = page.middle_on_screen(stage.note)
        finding = stage.finding
        metres = 0.5 * (finding.from_m + finding.to_m) if finding else road.place_of(stage.note)
        y = road.y_of(metres)
        if not (0 < row < page.height() and HEAD_PX < y < road.height()):
            return
        start = QPointF(page.geometry().right() - 8.0, page.y() + row) - QPointF(self.pos())
        end = QPointF(road.x() + road.width() / 2 - 4 - road.label_px(stage.note), road.y() + y) - QPointF(self.pos())
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        path = QPainterPath(start)
        reach = (end.x() - start.x()) * 0.45
        path.cubicTo(start + QPointF(reach, 0), end - QPointF(reach, 0), end)
        colour = "danger" if finding and finding.severity == "danger" else "faint"
        painter.setPen(QPen(self._theme.colour(colour, 200), 1.4))
        painter.drawPath(path)
        painter.end()
