"""Compare: the page, the road, the evidence and the whole stage, moving together."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

import numpy as np
from PyQt6.QtCore import QPoint, QPointF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.judging.parts import Part
from mirkle.gui.dialogs.add import AddDialog
from mirkle.gui.keys import CommandWidget
from mirkle.gui.splitters import split_of
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr, tr_fault
from mirkle.gui.views.centre_pane import Middle
from mirkle.gui.views.down_the_road import HEAD_PX
from mirkle.gui.views.evidence import Evidence
from mirkle.gui.views.notes_page import MARGIN_PX, PageView
from mirkle.gui.views.road import RoadView
from mirkle.gui.views.stage_map import StagePlan
from mirkle.gui.views.strip import StageStrip
from mirkle.gui.views.work_bar import WorkBar
from mirkle.session.decision_book import BOTH
from mirkle.session.playback_clock import begin_s, has_picture, place_m, sound_of, too_short
from mirkle.session.reviewed_pass import ReviewedPass

if TYPE_CHECKING:
    from mirkle.gui.playback import Playback
    from mirkle.gui.views.video import OwnWindow

# A word is played with this much before it (s).
BEFORE_WORD_S = 2.0


class Compare(CommandWidget):
    """The main screen.

    ``parts_wanted`` carries a part that was dragged, or ``None`` where the list itself is asked for; ``moved`` the metres in the middle
    of the road.
    """

    place = "Compare"
    parts_wanted = pyqtSignal(object)
    moved = pyqtSignal(float)

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Compare"))
        self._one_said_yes: tuple[int, str] | None = None
        self._theme = theme
        self.own_window: OwnWindow | None = None
        self.page = PageView(stage, theme)
        self.road = RoadView(stage, theme)
        self.evidence = Evidence(stage, theme, self)
        self.strip = StageStrip(stage, theme)
        self.thread_line = _ThreadLine(self, theme)
        self.plan = StagePlan(stage, theme)
        self.middle = Middle(self.road, self.plan)
        top = split_of("compare", (self.page, 28), (self.middle, 33), (self.evidence, 36))
        top.splitterMoved.connect(lambda *_: self._lay_thread())
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 10)
        column.setSpacing(8)
        self.bar = WorkBar(stage)
        self.bar.added.connect(self.add_hazard)
        self.playback: Playback | None = None
        self._offer_sound()
        column.addWidget(top, 1)
        column.addWidget(self.bar)
        column.addWidget(self.strip)
        self.thread_line.raise_()
        self.page.picked.connect(stage.choose_note)
        self.road.picked.connect(stage.choose_note)
        self.page.looked_at.connect(self._page_looked_at)
        self.road.looked_at.connect(self._looked_at)
        self.road.zoomed.connect(self._moved)
        self.plan.looked_at.connect(self._strip_looked_at)
        self.middle.shown.connect(self.thread_line.update)
        self.strip.looked_at.connect(self._strip_looked_at)
        self.strip.part_dragged.connect(lambda a, b: self.parts_wanted.emit(Part(a, b, "")))
        self.strip.condition_dragged.connect(self._add_condition)
        self.evidence.answered.connect(self.answer)
        stage.chosen.connect(self.show_chosen)
        stage.book.changed.connect(self._show_decided)
        stage.arranged.connect(self._show_decided)
        stage.reviewed.connect(self._show_reviewed)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self._theme = theme
        for part in (self.page, self.middle, self.evidence, self.strip, self.thread_line):
            part.set_theme(theme)

    def show_chosen(self) -> None:
        """Page, road, evidence and strip show what was chosen."""
        self.page.show_chosen()
        self.road.show_chosen()
        self.plan.show_chosen()
        self.evidence.show_chosen()
        self._moved()

    def _show_decided(self) -> None:
        self.page.viewport().update()
        self.road.update()
        self.plan.update()
        self.strip.show_decided()
        self.evidence.show_chosen()

    def _show_reviewed(self) -> None:
        self.page.show_review()
        self.road.show_review()
        self.plan.show_review()
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
        half = self.road.in_sight_m / 2
        self.strip.show_window(max(0.0, self.road.middle_m - half), self.road.middle_m + half)
        self.thread_line.update()
        self.moved.emit(self.road.middle_m)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        QTimer.singleShot(0, self._lay_thread)

    def _lay_thread(self) -> None:
        """Only between the page's rows and the middle of the road: what lies under it is painted again with it."""
        page, road = self.page.mapTo(self, QPoint(0, 0)), self.road.mapTo(self, QPoint(0, 0))
        left, middle = page.x() + MARGIN_PX, road.x() + self.road.width() // 2
        self.thread_line.setGeometry(left, page.y(), middle - left, self.page.height())
        self._moved()

    def answer(self, answer: Literal["mark", "keep", "talk", "video"]) -> None:
        """Takes an answer to the chosen finding and goes on to the next open one; a fault is said under the field."""
        text, by, remark = self.evidence.text, self.evidence.by, self.evidence.remark.text().strip()
        if answer == "mark" and self.stage.can_be_marked(text) and self.stage.wants_both(text):
            asked = (self.stage.note, text)
            if self._one_said_yes != asked:
                self._one_said_yes = asked
                self.evidence.tell(tr("This makes the note faster. One of you has agreed; the other presses Enter too."), fault=True)
                return
            by = BOTH
        self._one_said_yes = None
        try:
            if answer == "mark":
                self.stage.mark(text, by=by, remark=remark)
            else:
                self.stage.answer(answer, by=by, remark=remark)
        except MirkleError as fault:
            self.evidence.tell(tr_fault(fault), fault=True)
            return
        self.setFocus()
        self.evidence.forget_draft()
        self.stage.next_open()

    def _offer_sound(self) -> None:
        """Offers the sound of this pass, where there is one; what plays it is made when it is first wanted."""
        try:
            self._sound = sound_of(self.stage)
        except MirkleError as fault:
            self._sound = None
            self.bar.hint.setText(tr_fault(fault))
        self.bar.offer_sound(there=self._sound is not None)
        self.has_picture = self._sound is not None and has_picture(self._sound)
        if self.has_picture:
            self.middle.offer_video()
            self.middle.buttons["video"].clicked.connect(lambda: self._player())
        self.bar.played.connect(self.play_or_stop)
        self.bar.slowed.connect(self._set_speed)

    def _player(self) -> Playback | None:
        """What plays the sound, where this machine can."""
        if self.playback is None and self._sound is not None:
            try:
                from mirkle.gui.playback import Playback
                from mirkle.gui.views.video import VideoPane
            except ImportError:
                self.bar.hint.setText(tr("The sound can't be played here: a system library is missing"))
                return None
            self.playback = Playback(self._sound, self)
            self.playback.moved.connect(self._sound_moved)
            self.playback.stopped.connect(lambda: self._sound_moved(None))
            self.playback.failed.connect(lambda words: self.bar.hint.setText(tr("The sound can't be played: {0}", words)))
            self.playback.player.durationChanged.connect(self._say_short)
            if self.has_picture:
                pane = VideoPane(self.playback, self._theme)
                pane.play_button.clicked.connect(self.play_or_stop)
                pane.own_window_wanted.connect(self.turn_video_out)
                self.middle.set_video(pane)
        return self.playback

    def _set_speed(self, half: bool) -> None:
        player = self._player()
        if player is not None:
            player.set_speed(0.5 if half else 1.0)

    def play_or_stop(self) -> None:
        """Plays the sound from before the chosen call, or stops it."""
        player = self._player()
        if player is None:
            return
        if player.playing:
            player.stop()
        else:
            player.play_from(begin_s(self.stage))

    def _say_short(self, _: int) -> None:
        """Says where the sound ends, if that is before the finish."""
        end_m = too_short(self.stage, self.playback.length_s) if self.playback is not None else None
        if end_m is not None and self.playback is not None and self.playback.length_s > 0:
            self.bar.hint.setText(tr("The sound ends at {0:.1f} km, before the finish.", end_m / 1000))

    def step_picture(self, by: int) -> None:
        """One picture of the video on or back."""
        player = self._player()
        if player is not None:
            player.step(by)

    def look_at_video(self) -> None:
        """Plays the video where there is one; else the finding is marked to be looked at there."""
        if self.has_picture:
            self.show_video()
        elif self.stage.finding is not None:
            self.answer("video")

    def choose_listed(self, at: int) -> None:
        """Chooses a finding by its place in the list."""
        if self.stage.listed:
            self.stage.choose(self.stage.listed[at])

    def show_video(self) -> None:
        """Brings the video to the front and plays it from before the call."""
        player = self._player()
        if player is None:
            return
        if self.own_window is None:
            self.middle.show_view("video")
        player.play_from(begin_s(self.stage))

    def turn_video_out(self) -> None:
        """Gives the video a window of its own, or takes it back from there."""
        # What plays it makes its pane.
        self._player()
        pane = self.middle.video
        if pane is None:
            return
        if self.own_window is not None:
            self.own_window.close()
            return
        from mirkle.gui.views.video import OwnWindow

        self.own_window = OwnWindow(pane, tr("Video: {0}", self.stage.project.name), self, self)
        self.own_window.left.connect(self._take_video_back)
        self.middle.show_view("road")
        self.own_window.show()

    def _take_video_back(self) -> None:
        window, self.own_window = self.own_window, None
        if window is not None and self.middle.video is not None:
            self.middle.set_video(self.middle.video)
            self.middle.show_view("video")
            window.deleteLater()

    def hear(self, sound_s: float) -> None:
        """Plays the sound from just before a moment of it."""
        self.play_from(sound_s - BEFORE_WORD_S)

    def play_from(self, sound_s: float) -> None:
        """Plays the sound from a moment of it."""
        player = self._player()
        if player is not None:
            player.play_from(sound_s)

    @property
    def has_sound(self) -> bool:
        """Whether this pass has sound that can be played."""
        return self._sound is not None

    def _sound_moved(self, seconds: float | None) -> None:
        """Road, page, strip and traces go with the sound."""
        at_m = place_m(self.stage, seconds) if seconds is not None else None
        for show in (self.road.show_car, self.plan.show_car, self.strip.show_car, *(d.show_car for d in self.evidence.drawings)):
            show(at_m)
        if at_m is not None:
            self.road.look_at(at_m)
            self.page.center_on(self.road.note_near(at_m))
            self._moved()

    def add_hazard(self) -> None:
        """Asks for a hazard or a condition at the place that is looked at."""
        AddDialog(self.stage, float(np.clip(self.road.middle_m, 0.0, self.stage.review.finish_m)), self).exec()

    def _add_condition(self, from_m: float, to_m: float) -> None:
        """Asks what is reported of a stretch that was dragged."""
        AddDialog(self.stage, from_m, self, until_m=to_m).exec()

    def edit_note(self) -> None:
        """Begins to change the chosen note."""
        self.evidence.begin_editing()
        self.evidence.field.setFocus()
        self.evidence.field.selectAll()


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
        if self._compare.middle.view != "road":
            return
        row = page.middle_on_screen(stage.note)
        finding = stage.finding
        metres = 0.5 * (finding.from_m + finding.to_m) if finding else road.place_of(stage.note)
        y = road.y_of(metres)
        if not (0 < row < page.height() and HEAD_PX < y < road.height()):
            return
        left, right = page.mapTo(self._compare, QPoint(0, 0)), road.mapTo(self._compare, QPoint(0, 0))
        start = QPointF(left.x() + page.width() - 9.0, left.y() + row) - QPointF(self.pos())
        out = road.width() / 2 - 4 - road.label_px(stage.note)
        end = QPointF(right.x() + out, right.y() + y) - QPointF(self.pos())
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        path = QPainterPath(start)
        reach = (end.x() - start.x()) * 0.45
        path.cubicTo(start + QPointF(reach, 0), end - QPointF(reach, 0), end)
        colour = "danger" if finding and finding.severity == "danger" else "faint"
        painter.setPen(QPen(self._theme.colour(colour, 200), 1.4))
        painter.drawPath(path)
        painter.end()
