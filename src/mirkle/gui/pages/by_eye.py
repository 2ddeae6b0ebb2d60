"""By eye: the video note by note, and one key for what was seen of each. It needs no recording, and stands beside what one measures."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QShowEvent, QTextCursor
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.core.messages import gettext_noop
from mirkle.core.notebook.decisions import NoteChange, Observation
from mirkle.core.notebook.observed import SEEN, Seen, seen_words
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
from mirkle.gui.views.watched_video import WatchedVideo
from mirkle.session.answers_by_eye import as_it_stands, graded, proposed, takes_both, to_be_written
from mirkle.session.decision_book import BOTH
from mirkle.session.open_pass import OpenPass
from mirkle.session.video_pass import VideoPass
from mirkle.session.video_watching import BEFORE_S, Moment, answered, moments_of, next_unanswered

NOTE_PX = 26
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
        self.stage = stage
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("By eye"))
        self.video = WatchedVideo(video, theme)
        self.video.fault.connect(lambda words: self.said.setText(words))
        # The note whose moment was shown last, so that what was played or stepped to stays.
        self._pictured: int | None = None
        self.pending: tuple[Seen, int] | None = None
        # What was begun and not written, by the note that it is for: going elsewhere loses none of it.
        self._drafts: dict[int, tuple[tuple[Seen, int], str]] = {}
        self._shown = -1
        self._one_said_yes: tuple[int, Seen, str] | None = None
        self.moments: list[Moment | None] = []
        self.page = PageView(stage, theme)
        self.page.picked.connect(self._picked)
        self.note = wrapped()
        self.note.setFont(font(NOTE_PX, family="hand"))
        self.when, self.hint, self.said = wrapped(style="faint"), wrapped(style="why"), wrapped(style="readBack")
        self.count = label(style="faint")
        self.answers = _AnswerButtons()
        self.answers.pressed.connect(self.answer)
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
        self.tap_button = button(tr("Called now  C"), tr("Press when the chosen note is called; goes on to the next (C)"), "small")
        self.next_button = button(tr("Next open  N"), tr("The next note without an answer (N)"), "small")
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
        self.tap_button.clicked.connect(self.tap)
        self.next_button.clicked.connect(self.next_open)
        self.write_button.clicked.connect(self.write)
        self.later_button.clicked.connect(self.talk_over)
        self.video.play_wanted.connect(self.play_or_stop)

    def next_by(self) -> None:
        """The next of those who may have seen it."""
        self.who.setCurrentIndex((self.who.currentIndex() + 1) % self.who.count())

    def type_grade(self, digit: str) -> None:
        """A grade by its figure, while a corner is being made tighter or more open."""
        if self.pending is not None and self.pending[0] in ("tighter", "opener") and (text := graded(self.stage, digit)):
            self.field.setPlainText(text)

    def _lay_out(self) -> None:
        right = QWidget()
        right.setObjectName("card")
        column = QVBoxLayout(right)
        column.setContentsMargins(20, 12, 20, 12)
        column.setSpacing(6)
        column.addWidget(self.note)
        column.addWidget(self.when)
        column.addWidget(self.video, 1)
        row = self.video.row
        row.insertWidget(row.count() - 1, self.tap_button)
        row.addStretch(1)
        row.addWidget(self.count)
        row.addWidget(self.next_button)
        column.addWidget(self.hint)
        column.addWidget(self.answers)
        column.addWidget(self.asked)
        writing = QHBoxLayout()
        writing.addWidget(self.field, 1)
        writing.addWidget(self.who)
        writing.addWidget(self.write_button)
        writing.addWidget(self.later_button)
        column.addLayout(writing)
        column.addWidget(self.said)
        both = panes(self, "by-eye", (self.page, 4), (right, 7))
        both.setContentsMargins(10, 10, 10, 10)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.page.set_theme(theme)
        self.video.set_theme(theme)

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
        else:
            self.asked.setText(_answer_words(decision))
        self.answers.mark(self.pending[0] if self.pending else decision.seen if decision else "")

    # Answers

    def answer(self, seen: Seen) -> None:
        """What was seen of the chosen note: right as it was called, or what shall stand instead is asked next."""
        if seen == "as-called":
            self._do(lambda: self.stage.book.see(seen, self.stage.note, by=self._by), on=True)
            return
        steps = self.pending[1] + 1 if self.pending is not None and self.pending[0] == seen else 1
        text = proposed(self.stage, seen, steps)
        if not text and steps > 1:
            return
        self.pending = (seen, steps)
        by_itself = bool(text) or seen in ("missing", "hazard")
        # Where only the crew can say how, it goes on from what stands there.
        self.field.setPlainText(text if by_itself else as_it_stands(self.stage))
        self._show_answer()
        if not text:
            self.field.setFocus()
            self.field.moveCursor(QTextCursor.MoveOperation.End)

    @property
    def _by(self) -> str:
        return str(self.who.currentData())

    @property
    def text(self) -> str:
        """What would be written."""
        return to_be_written(self.stage, self.pending[0], self.field.text) if self.pending is not None else ""

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
        if takes_both(self.stage, seen, text):
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
        if self.video.has_run and self.moments[following] is not None:
            self._play_chosen()

    # The video

    def play_or_stop(self) -> None:
        """Plays the chosen note from before its call to behind its corner, or stops. Where no call is known yet it plays on from where it
        is, so that each can be tapped."""
        if self.video.playing:
            self.video.stop()
        elif self.moments[self.stage.note] is not None:
            self._play_chosen()
        else:
            self.video.play()

    def _play_chosen(self) -> None:
        moment = self.moments[self.stage.note]
        if moment is not None:
            # Between taps it runs on: the next call has to be heard.
            on_and_on = moment.known == "between" and self.stage.book.taps
            self.video.play(moment.from_s - BEFORE_S, None if on_and_on else moment.until_s)

    def _show_picture(self) -> None:
        """Shows the moment at which the chosen note was called, where the video doesn't run."""
        moment = self.moments[self.stage.note]
        if self.isVisible() and moment is not None and self._pictured != self.stage.note and self.video.show_at(moment.from_s):
            self._pictured = self.stage.note

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._show_picture()

    def tap(self) -> None:
        """The chosen note is being called now: keeps the moment, and goes on to the next note while the video runs."""
        at_s, note = self.video.now_s(), self.stage.note
        if at_s is None:
            return
        try:
            self.stage.book.tap(note, at_s)
        except MirkleError as fault:
            self.said.setText(tr_fault(fault))
            return
        if self.video.playing and note + 1 < len(self.stage.notes):
            self.stage.choose_note(note + 1)
        else:
            self.show_chosen()

    def _picked(self, note: int) -> None:
        self.stage.choose_note(note)
        if self.video.playing and self.moments[self.stage.note] is not None:
            self._play_chosen()


def _answer_words(decision: NoteChange | Observation | None) -> str:
    """What was answered for a note, in words."""
    if decision is None:
        return tr("Play it, then say what you saw.")
    seen = tr(seen_words(decision.seen))
    if isinstance(decision, NoteChange):
        return tr("Seen on the video: {0}; marked: {1}", seen, decision.text.replace("\n", " / "))
    return tr("Seen on the video: {0}; to talk about", seen) if decision.answer == "talk" else tr("Seen on the video: {0}", seen)


class _AnswerButtons(QWidget):
    """A button for each thing that may be seen of a note, with its key; ``pressed`` carries which."""

    pressed = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        self._buttons = {seen: button(f"{tr(words)}  {key_of('By eye', name)}") for seen, (name, words) in ANSWERS.items()}
        for place, (seen, one) in enumerate(self._buttons.items()):
            one.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            one.clicked.connect(lambda _=False, s=seen: self.pressed.emit(s))
            grid.addWidget(one, place // 4, place % 4)

    def mark(self, chosen: str) -> None:
        """Marks the one that was answered or begun."""
        for seen, one in self._buttons.items():
            name = "primary" if seen == chosen else ""
            if one.objectName() != name:
                one.setObjectName(name)
                one.style().polish(one)
