"""By eye: the video note by note, and one key for what was seen of each. It needs no recording, and stands beside what one measures."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QShowEvent, QTextCursor
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.core.messages import gettext_noop
from mirkle.core.notebook.decisions import NoteChange
from mirkle.core.notebook.observed import SEEN, Seen, seen_words, to_write, with_grade
from mirkle.core.notes.rewording import NoteWriter
from mirkle.gui.commands import key_of
from mirkle.gui.controls import ChoiceBox, button, label, wrapped
from mirkle.gui.keys import CommandWidget, FieldKeys
from mirkle.gui.labels import BY_WORDS
from mirkle.gui.splitters import panes
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr, tr_fault, tr_message
from mirkle.gui.views.note_field import NoteField
from mirkle.gui.views.notes_page import PageView
from mirkle.gui.views.status_line import clock
from mirkle.session.decision_book import BOTH
from mirkle.session.open_pass import OpenPass
from mirkle.session.video_pass import VideoPass
from mirkle.session.video_watching import BEFORE_S, Moment, answered, moments_of, next_unanswered

if TYPE_CHECKING:
    from mirkle.gui.playback import Playback
    from mirkle.gui.views.video import Picture

NOTE_PX = 26
SPEEDS = (1.0, 1.5, 2.0, 0.5)
# Each answer with its command, and what stands on its button.
ANSWERS: dict[Seen, tuple[str, str]] = {
    "as-called": ("As called", gettext_noop("as called")),
    "tighter": ("Tighter, one grade a press", gettext_noop("tighter")),
    "opener": ("More open, one grade a press", gettext_noop("more open")),
    "other-side": ("Other side", gettext_noop("other side")),
    "longer": ("Longer", gettext_noop("longer")),
    "shorter": ("Shorter", gettext_noop("shorter")),
    "missing": ("A note is missing", gettext_noop("note missing")),
    "hazard": ("A hazard here", gettext_noop("hazard here")),
}
KNOWN_WORDS = {
    "tap": gettext_noop("called at {0} (your key)"),
    "text": gettext_noop("called at {0} (timed text)"),
    "sound": gettext_noop("called at {0} (sound)"),
    "road": gettext_noop("called about {0} (where the car was)"),
    "between": gettext_noop("called about {0} (between its neighbours)"),
}


class WatchView(CommandWidget):
    """The page on the left, the picture with the answers on the right. All keys are handled here."""

    place = "By eye"

    def __init__(self, stage: OpenPass, theme: Theme, video: Path | None, fault: str = "") -> None:
        super().__init__()
        self.stage, self._theme, self._video = stage, theme, video
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("By eye"))
        self.playback: Playback | None = None
        self.picture: Picture | None = None
        # The note whose moment was shown last, so that what was played or stepped to stays.
        self._pictured: int | None = None
        self._has_run = False
        self.pending: tuple[Seen, int] | None = None
        # What was begun and not written, by the note that it is for: going elsewhere loses none of it.
        self._drafts: dict[int, tuple[tuple[Seen, int], str]] = {}
        self._shown = -1
        self._one_said_yes: tuple[int, Seen, str] | None = None
        self._speed = 0
        self._until_s: float | None = None
        self.moments: list[Moment | None] = []
        self.page = PageView(stage, theme)
        self.page.picked.connect(self._picked)
        self.note = wrapped()
        self.note.setFont(font(NOTE_PX, family="hand"))
        self.when, self.hint, self.said = wrapped(style="faint"), wrapped(style="why"), wrapped(style="readBack")
        self.at, self.count = label(style="faint"), label(style="faint")
        self.buttons = {seen: button(f"{tr(words)}  {key_of('By eye', name)}") for seen, (name, words) in ANSWERS.items()}
        self.field = NoteField(tr("The new note"))
        FieldKeys("By eye field", self.field, self)
        self.field.textChanged.connect(self._read_back)
        self.asked = wrapped(style="faint")
        self.write_button = button(tr("Write it  ⏎"), tr("Write this into the book (Enter)"), "primary")
        self.later_button = button(tr("Talk  T"), tr("Leave the note as it is, and talk about it later (T)"))
        self.who = ChoiceBox()
        self.who.setAccessibleName(tr("Who agreed"))
        for by, words in BY_WORDS.items():
            self.who.addItem(f"{tr(words)}  ▾", by)
        self.play_button = button(tr("Play  Space"), tr("Play from before the call, or stop (Space)"), "small")
        self.back_button = button("◂  ,", tr("One frame back (comma)"), "small")
        self.on_button = button("▸  .", tr("One frame forward (full stop)"), "small")
        self.speed_button = button(tr("× {0:g}  S", 1), tr("Playback speed (S)"), "small")
        self.tap_button = button(tr("Called now  C"), tr("Press when the chosen note is called; goes on to the next (C)"), "small")
        self.next_button = button(tr("Next open  N"), tr("The next note without an answer (N)"), "small")
        self._picture_place = QVBoxLayout()
        self._connect_buttons()
        self._lay_out()
        stage.chosen.connect(self.show_chosen)
        stage.book.changed.connect(self._decided)
        stage.reviewed.connect(self.page.show_review)
        self._decided()
        self.show_chosen()
        self.said.setText(fault)

    def _connect_buttons(self) -> None:
        """The buttons do what the keys do."""
        for seen, pressed in self.buttons.items():
            pressed.clicked.connect(lambda _=False, s=seen: self.answer(s))
        works: tuple[tuple[QPushButton, Callable[[], object]], ...] = (
            (self.play_button, self.play_or_stop),
            (self.back_button, lambda: self.step_picture(-1)),
            (self.on_button, lambda: self.step_picture(1)),
            (self.speed_button, self.next_speed),
            (self.tap_button, self.tap),
            (self.next_button, self.next_open),
            (self.write_button, self.write),
            (self.later_button, self.talk_over),
        )
        for pressed, work in works:
            pressed.clicked.connect(lambda _=False, w=work: w())

    def next_by(self) -> None:
        """The next of those who may have seen it."""
        self.who.setCurrentIndex((self.who.currentIndex() + 1) % self.who.count())

    def type_grade(self, digit: str) -> None:
        """A grade by its figure, while a corner is being made tighter or more open."""
        if self.pending is not None and self.pending[0] in ("tighter", "opener"):
            self._grade(digit)

    def _lay_out(self) -> None:
        right = QWidget()
        right.setObjectName("card")
        column = QVBoxLayout(right)
        column.setContentsMargins(20, 12, 20, 12)
        column.setSpacing(6)
        column.addWidget(self.note)
        column.addWidget(self.when)
        column.addLayout(self._picture_place, 1)
        playing = QHBoxLayout()
        for widget in (self.play_button, self.back_button, self.on_button, self.speed_button, self.tap_button):
            playing.addWidget(widget)
        playing.addWidget(self.at)
        playing.addStretch(1)
        playing.addWidget(self.count)
        playing.addWidget(self.next_button)
        column.addLayout(playing)
        column.addWidget(self.hint)
        answers = QGridLayout()
        answers.setSpacing(6)
        for place, pressed in enumerate(self.buttons.values()):
            pressed.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            answers.addWidget(pressed, place // 4, place % 4)
        column.addLayout(answers)
        column.addWidget(self.asked)
        writing = QHBoxLayout()
        writing.addWidget(self.field, 1)
        writing.addWidget(self.who)
        writing.addWidget(self.write_button)
        writing.addWidget(self.later_button)
        column.addLayout(writing)
        column.addWidget(self.said)
        self.empty = wrapped(tr("No picture yet. Space plays from before the call."), "faint")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.empty.setMinimumHeight(150)
        self._picture_place.addWidget(self.empty, 1)
        both = panes(self, "by-eye", (self.page, 4), (right, 7))
        both.setContentsMargins(10, 10, 10, 10)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self._theme = theme
        self.page.set_theme(theme)
        if self.picture is not None:
            self.picture.theme = theme

    # What is shown

    def _decided(self) -> None:
        """Takes in what was decided, and moments that were tapped."""
        self.moments = moments_of(self.stage)
        self.count.setText(tr("{0} of {1} answered", answered(self.stage), len(self.stage.notes)))
        self.page.viewport().update()
        self._show_answer()

    def show_chosen(self) -> None:
        """Shows the chosen note, what can be said of it, and what was answered."""
        note = self.stage.notes[self.stage.note]
        if self.pending is not None:
            self._drafts[self._shown] = self.pending, self.field.toPlainText()
        self._shown, self._one_said_yes = note.index, None
        self.pending, text = self._drafts.pop(note.index, (None, ""))
        self.field.setPlainText(text)
        self.page.show_chosen()
        self.note.setText(note.text)
        moment = self.moments[note.index]
        when = (
            tr(KNOWN_WORDS[moment.known], clock(moment.from_s))
            if moment is not None
            else tr("no call known yet: play the video and press C at each call")
        )
        self.when.setText(tr("page {0}, line {1}: {2}", note.page, note.line, when))
        found = self.stage.remarks_on(note.index) if isinstance(self.stage, VideoPass) else []
        self.hint.setText(" ".join(tr_message(c) for c in found))
        self.hint.setVisible(bool(found))
        self._show_answer()
        self._read_back()
        self._show_picture()

    def _show_answer(self) -> None:
        """What was seen of the chosen note, or what is asked about it now."""
        decision = self.stage.book.seen(self.stage.note)
        asked = self.pending is not None
        for widget in (self.field, self.who, self.write_button, self.later_button):
            widget.setVisible(asked)
        if self.pending is not None:
            seen, _ = self.pending
            words = {"missing": tr("Which note is missing behind this one?"), "hazard": tr("What is there?")}.get(
                seen, tr("{0}: press again to go one further, a number sets the grade, E edits.", tr(SEEN[seen].words))
            )
            self.asked.setText(words)
        elif decision is None:
            self.asked.setText(tr("Play it, then say what you saw."))
        elif isinstance(decision, NoteChange):
            new = decision.text.replace("\n", " / ")
            self.asked.setText(tr("Seen on the video: {0}; marked: {1}", tr(seen_words(decision.seen)), new))
        elif decision.answer == "talk":
            self.asked.setText(tr("Seen on the video: {0}; to talk about", tr(seen_words(decision.seen))))
        else:
            self.asked.setText(tr("Seen on the video: {0}", tr(seen_words(decision.seen))))
        for seen, pressed in self.buttons.items():
            is_it = (self.pending[0] if self.pending else decision.seen if decision else "") == seen
            name = "primary" if is_it else ""
            if pressed.objectName() != name:
                pressed.setObjectName(name)
                pressed.style().polish(pressed)

    # Answers

    def answer(self, seen: Seen) -> None:
        """What was seen of the chosen note: right as it was called, or what shall stand instead is asked next."""
        if seen == "as-called":
            self._do(lambda: self.stage.book.see(seen, self.stage.note, by=self._by), on=True)
            return
        steps = self.pending[1] + 1 if self.pending is not None and self.pending[0] == seen else 1
        text = self._proposed(seen, steps)
        if not text and steps > 1:
            return
        self.pending = (seen, steps)
        by_itself = bool(text) or seen in ("missing", "hazard")
        # Where only the crew can say how, it goes on from what stands there.
        self.field.setPlainText(text if by_itself else self._as_it_stands)
        self._show_answer()
        if not text:
            self.field.setFocus()
            self.field.moveCursor(QTextCursor.MoveOperation.End)

    @property
    def _as_it_stands(self) -> str:
        return self.stage.book.edition.text_of(self.stage.notes[self.stage.note])

    def _proposed(self, seen: Seen, steps: int) -> str:
        hand = NoteWriter(self.stage.reading, self.stage.language)
        return to_write(seen, self.stage.notes[self.stage.note], hand, self.stage.school, steps)

    def _grade(self, grade: str) -> None:
        """A figure pressed while a grade is asked for is that grade."""
        hand = NoteWriter(self.stage.reading, self.stage.language)
        text = with_grade(self.stage.notes[self.stage.note], hand, self.stage.school, grade)
        if text:
            self.field.setPlainText(text)

    @property
    def _by(self) -> str:
        return str(self.who.currentData())

    @property
    def text(self) -> str:
        """What would be written: a missing note stands behind the chosen one."""
        words = self.field.text
        if self.pending is not None and self.pending[0] == "missing" and words:
            return f"{self._as_it_stands}\n{words}"
        return words

    def _read_back(self) -> None:
        """What stands in the field in plain words, or why it is no note."""
        self._one_said_yes = None
        if self.pending is None or self.pending[0] == "hazard" or not self.field.text:
            self.said.setText("")
            return
        try:
            self.said.setText(tr("Reads: {0}", tr_message(self.stage.book.read_back(self.text))))
        except UnusableNotes as fault:
            self.said.setText(tr_fault(fault))

    def write(self) -> None:
        """Writes what stands in the field; what lets the car go faster takes a second Enter, by the other of the two."""
        if self.pending is None:
            return
        (seen, _), text, note, by = self.pending, self.text, self.stage.note, self._by
        if not text:
            self.said.setText(tr("Write it, or press Esc to leave it."))
            return
        faster = seen != "hazard" and (SEEN[seen].faster or self.stage.book.wants_both(None, note, text))
        if faster and self.stage.book.can_be_marked(None, note, text):
            if self._one_said_yes != (note, seen, text):
                self._one_said_yes = (note, seen, text)
                self.said.setText(tr("This makes the note faster. One of you has agreed; the other presses Enter too."))
                return
            by = BOTH
        self._do(lambda: self.stage.book.see(seen, note, text, by=by), on=seen != "hazard")

    def talk_over(self) -> None:
        """Keeps what was seen without writing anything yet."""
        pending, note = self.pending, self.stage.note
        self.setFocus()
        if pending is not None and pending[0] != "hazard":
            self._do(lambda: self.stage.book.see(pending[0], note, by=self._by), on=True)
        elif pending is not None:
            self.pending = None
            self._show_answer()
            self.said.setText("")

    def leave(self) -> None:
        """Drops what was begun; nothing is decided."""
        self.pending = self._one_said_yes = None
        self.setFocus()
        self._show_answer()
        self.said.setText("")

    def _do(self, work: Callable[[], None], *, on: bool) -> None:
        """Takes an answer, and goes ``on`` to the next note that is open; a fault is said under the field."""
        try:
            work()
        except MirkleError as fault:
            self.said.setText(tr_fault(fault))
            return
        self.setFocus()
        self.pending = self._one_said_yes = None
        self._show_answer()
        self.said.setText("")
        if on:
            self.next_open()

    def edit(self) -> None:
        if self.pending is not None:
            self.field.setFocus()
            self.field.selectAll()

    def next_open(self) -> None:
        """Goes to the next note that nobody has answered, and plays it where the video is running or has run."""
        following = next_unanswered(self.stage)
        if following is None:
            self.said.setText(tr("Every note is answered."))
            return
        self.stage.choose_note(following)
        if self._has_run and self.moments[following] is not None:
            self._play_chosen()

    # The video

    def _player(self) -> Playback | None:
        """What plays the video, where this machine can; made when it is first wanted."""
        if self.playback is None and self._video is not None:
            try:
                from mirkle.gui.playback import Playback
                from mirkle.gui.views.video import Picture
            except ImportError:
                self.said.setText(tr("The sound can't be played here: a system library is missing"))
                return None
            self.playback = Playback(self._video, self)
            self.picture = Picture(self.playback, self._theme)
            self._picture_place.replaceWidget(self.empty, self.picture)
            self._picture_place.setStretchFactor(self.picture, 1)
            self.empty.hide()
            self.playback.moved.connect(self._moved)
            self.playback.failed.connect(lambda words: self.said.setText(tr("The sound can't be played: {0}", words)))
        return self.playback

    def play_or_stop(self) -> None:
        """Plays the chosen note from before its call to behind its corner, or stops. Where no call is known yet it plays on from where it
        is, so that each can be tapped."""
        player = self._player()
        if player is None:
            return
        if player.playing:
            player.stop()
        elif self.moments[self.stage.note] is not None:
            self._play_chosen()
        else:
            self._until_s, self._has_run = None, True
            player.play_from(player.seconds)

    def _play_chosen(self) -> None:
        moment, player = self.moments[self.stage.note], self._player()
        if moment is not None and player is not None:
            # Between taps it runs on: the next call has to be heard.
            self._until_s, self._has_run = None if moment.known == "between" and self.stage.book.taps else moment.until_s, True
            player.play_from(moment.from_s - BEFORE_S)

    def _show_picture(self) -> None:
        """Shows the moment at which the chosen note was called, where the video doesn't run."""
        moment = self.moments[self.stage.note]
        if not self.isVisible() or moment is None or self._pictured == self.stage.note:
            return
        player = self._player()
        if player is not None and not player.playing:
            self._pictured, self._until_s = self.stage.note, None
            player.show_at(moment.from_s)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._show_picture()

    def _moved(self, seconds: float) -> None:
        self.at.setText(clock(seconds))
        if self._until_s is not None and seconds >= self._until_s and self.playback is not None:
            # A busy machine says late where it is: the picture that stays is the one at the end of the moment.
            until_s, self._until_s = self._until_s, None
            self.playback.show_at(until_s)

    def step_picture(self, by: int) -> None:
        player = self._player()
        if player is not None:
            player.step(by)

    def next_speed(self) -> None:
        """As recorded, half as fast again, twice as fast, half as fast."""
        self._speed = (self._speed + 1) % len(SPEEDS)
        self.speed_button.setText(tr("× {0:g}  S", SPEEDS[self._speed]))
        player = self._player()
        if player is not None:
            player.set_speed(SPEEDS[self._speed])

    def tap(self) -> None:
        """The chosen note is being called now: keeps the moment, and goes on to the next note while the video runs."""
        player = self._player()
        if player is None:
            return
        self._until_s = None
        at_s, note = player.seconds, self.stage.note
        try:
            self.stage.book.tap(note, at_s)
        except MirkleError as fault:
            self.said.setText(tr_fault(fault))
            return
        if player.playing and note + 1 < len(self.stage.notes):
            self.stage.choose_note(note + 1)
        else:
            self.show_chosen()

    def _picked(self, note: int) -> None:
        self.stage.choose_note(note)
        if self.playback is not None and self.playback.playing and self.moments[self.stage.note] is not None:
            self._play_chosen()

    def hideEvent(self, event: QEvent | None) -> None:
        if self.playback is not None:
            self.playback.stop()
        super().hideEvent(event)  # type: ignore[arg-type]
