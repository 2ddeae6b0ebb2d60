"""Gather: bring the notes and the run, see what each is and what was read from it."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from mirkle.core.cautions import CAUTIONS
from mirkle.core.notes.crew import ORDERS, SENSES
from mirkle.core.review import Review, several
from mirkle.desk.against_view import AgainstView
from mirkle.desk.plan_view import PlanView
from mirkle.desk.proof_view import ProofView, heading_of
from mirkle.desk.speak import say, say_clause
from mirkle.desk.theme import Theme
from mirkle.session import places
from mirkle.session.material import channels_in_words, crew_of
from mirkle.session.proof import Doubt, Proof, overruled, proofs_of, taught, undone
from mirkle.session.said_against import SaidAgainst
from mirkle.session.stage import Stage

FILTER = (
    "Notes, runs, words, sound (*.txt *.csv *.gpx *.nmea *.mf4 *.gz *.vtt *.srt *.json *.toml *.mirkle *.wav *.flac *.opus "
    "*.ogg *.mp3 *.mp4 *.mkv);;All files (*)"
)


PASS_WORDS = {"reconnaissance": "reconnaissance", "first": "first pass", "later": "later pass"}
HABITS = {"order": ORDERS, "sense": SENSES}
HABIT_WORDS = {
    "direction-first": "direction first, left 4", "grade-first": "grade first, 4 left",
    "ascending": "1 is tight", "descending": "1 is nearly flat out",
}  # fmt: skip
STEPS = (
    ("First, Gather", "your notes and the run. Mirkle finds the start, the driven line and the place of every note."),
    ("then Line up", "see that every note lies on its bend: the few that are unsure come first, and a key mends them."),
    (
        "then Compare",
        "note by note, what was called with what the car met, the most dangerous first. Mark it, keep it, or "
        "talk it over: one key each, and every one can be undone.",
    ),
    ("then Book", "the new notes in your own hand, and a card of the changes by page and line to copy with a pencil."),
    ("then Passes", "after the next pass: whether each change was right, is still too fast, or is now too slow."),
)


class Gather(QWidget):
    """Emits ``files_given`` with paths, ``demo_wanted``, ``typing_wanted`` and ``cancelled``.

    ``settled`` carries the crew's file as it shall be after a doubtful word was settled; ``limits_wanted`` when the car left
    the start line and passed the finish, each ``None`` to have it found; ``about_pass_typed`` what kind of pass it was and its day; ``stage_wanted`` a recent stage's file;
    ``hear_wanted`` a moment of the words' clock to be heard.
    """

    files_given = pyqtSignal(list)
    demo_wanted = pyqtSignal()
    typing_wanted = pyqtSignal()
    cancelled = pyqtSignal()
    settled = pyqtSignal(object)
    limits_wanted = pyqtSignal(object, object)
    about_pass_typed = pyqtSignal(str, str)
    stage_wanted = pyqtSignal(object)
    hear_wanted = pyqtSignal(float)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAcceptDrops(True)
        self.heading = _line("title")
        self.lead = _line("why")
        self.open_button = QPushButton(say("Choose files…  Ctrl+O"))
        self.demo_button = QPushButton(say("Show me the demo stage"))
        self.type_button = QPushButton(say("Type the notes in…"))
        self.type_button.clicked.connect(self.typing_wanted)
        self.open_button.clicked.connect(self.choose_files)
        self.demo_button.clicked.connect(self.demo_wanted)
        self.recent = QListWidget()
        self.recent.setAccessibleName(say("Stages that were open last"))
        self.recent.itemActivated.connect(lambda item: self.stage_wanted.emit(item.data(Qt.ItemDataRole.UserRole)))
        self.recent.itemClicked.connect(lambda item: self.stage_wanted.emit(item.data(Qt.ItemDataRole.UserRole)))
        self.read = QVBoxLayout()
        self.fault = _line("fault")
        self.fault.setAccessibleName(say("What went wrong"))
        self.busy = QWidget()
        self._bar, self._busy_words = QProgressBar(), _line("faint")
        cancel = QPushButton(say("Stop"))
        cancel.clicked.connect(self.cancelled)
        row = QHBoxLayout(self.busy)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self._busy_words, 2)
        row.addWidget(self._bar, 2)
        row.addWidget(cancel)
        self.busy.hide()
        self.habit_boxes = {habit: QComboBox() for habit in HABITS}
        self.habits = self._habits_row()
        self.start_field, self.finish_field = QLineEdit(), QLineEdit()
        self.kind_box, self.day_field = QComboBox(), QLineEdit()
        self.about_pass = self._about_pass_row()
        self.limits = self._limits_row()
        self.drives = QWidget()
        QHBoxLayout(self.drives).setContentsMargins(0, 4, 0, 4)
        self._plan_place = QVBoxLayout()
        self._lay_out()
        self.show_empty([])

    def _habits_row(self) -> QWidget:
        """Two boxes in which the crew overrules what was found of its way of writing."""
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 4, 0, 4)
        head = _line("faint")
        head.setText(say("Your hand"))
        head.setFixedWidth(150)
        line.addWidget(head)
        for habit, box in self.habit_boxes.items():
            box.setAccessibleName(say("Your hand: {0}", habit))
            box.activated.connect(
                lambda _i, h=habit, b=box: self.settled.emit(overruled(self._inputs, h, b.currentData()))
            )
            line.addWidget(box)
        line.addStretch(1)
        return row

    def _about_pass_row(self) -> QWidget:
        """What kind of pass it was, and its day, in the crew's own words."""
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 4, 0, 4)
        head = _line("faint")
        head.setText(say("This pass"))
        head.setFixedWidth(150)
        line.addWidget(head)
        for key, words in PASS_WORDS.items():
            self.kind_box.addItem(f"{say(words)}  ▾", key)
        self.kind_box.setAccessibleName(say("What kind of pass it was"))
        self.day_field.setObjectName("quiet")
        self.day_field.setFixedWidth(220)
        self.day_field.setAccessibleName(say("Day, time and conditions of the pass"))
        self.day_field.setPlaceholderText(say("day, time, dry or wet"))
        self.kind_box.activated.connect(lambda _: self._about_pass_told())
        self.day_field.editingFinished.connect(self._about_pass_told)
        line.addWidget(self.kind_box)
        line.addWidget(self.day_field)
        line.addStretch(1)
        return row

    def _about_pass_told(self) -> None:
        self.about_pass_typed.emit(self.kind_box.currentData(), self.day_field.text().strip())

    def _limits_row(self) -> QWidget:
        """Two fields in which the crew sets right when the car left the start and passed the finish."""
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 4, 0, 4)
        head = _line("faint")
        head.setText(say("On its clock"))
        head.setFixedWidth(150)
        line.addWidget(head)
        for words, field in (("away at", self.start_field), ("finish at", self.finish_field)):
            field.setFixedWidth(86)
            field.setObjectName("quiet")
            field.setAccessibleName(say("{0}, minutes and seconds on the recording's clock", say(words)))
            field.setToolTip(say("Minutes and seconds, such as 10:57.2; empty to have it found"))
            field.returnPressed.connect(self._limits_typed)
            line.addWidget(QLabel(say(words)))
            line.addWidget(field)
        set_button = QPushButton(say("Set"))
        set_button.clicked.connect(self._limits_typed)
        line.addWidget(set_button)
        line.addStretch(1)
        return row

    def _show_drives(self, review: Review) -> None:
        """Which drive of a recording that holds several is the stage: a question with a button for each."""
        row = self.drives.layout()
        assert row is not None
        while row.count():
            item = row.takeAt(0)
            if item is not None and (old := item.widget()) is not None:
                old.deleteLater()
        found = review.measured.drives
        self.drives.setVisible(len(found) > 1)
        if len(found) < 2:
            return
        head = _line("faint")
        head.setText(say("Which of {0} drives is the stage?", len(found)))
        head.setFixedWidth(150)
        row.addWidget(head)
        choices = QWidget()
        column = QVBoxLayout(choices)
        column.setContentsMargins(0, 0, 0, 0)
        row.addWidget(choices)
        for drive in found:
            words = say("{0} to {1}, {2:.1f} km", clock(drive.start_s), clock(drive.stop_s), drive.length_m / 1000)
            button = QPushButton(words)
            button.setCheckable(True)
            button.setChecked(
                drive.start_s < review.measured.drive.stop_s and drive.stop_s > review.measured.drive.start_s
            )
            button.clicked.connect(lambda _=False, at=drive.start_s: self.limits_wanted.emit(at, None))
            column.addWidget(button)

    def _limits_typed(self) -> None:
        times: list[float | None] = []
        for field, found in zip((self.start_field, self.finish_field), self._found_limits, strict=True):
            text = field.text().strip()
            try:
                times.append(None if not text else found[1] if text == clock(found[0]) else seconds_of(text))
            except ValueError:
                self.say_fault(say("“{0}” is no time: write minutes and seconds, such as 10:57.2", text))
                return
        start, finish = times
        if start is not None and finish is not None and finish <= start:
            self.say_fault(say("The finish can't come before the start: set one of them right"))
            return
        self.say_fault("")
        self.limits_wanted.emit(start, finish)

    def _show_plan(self, plan: PlanView | None) -> None:
        while self._plan_place.count():
            item = self._plan_place.takeAt(0)
            if item is not None and (old := item.widget()) is not None:
                old.deleteLater()
        if plan is not None:
            self._plan_place.addWidget(plan)

    def _show_habits(self, stage: Stage) -> None:
        crew, school = crew_of(stage.inputs.crew), stage.review.school
        found = {
            "order": (stage.review.reading.order, crew.order, 1.0),
            "sense": (school.sense, crew.sense, school.sense_sure),
        }
        for habit, box in self.habit_boxes.items():
            value, told, sure = found[habit]
            box.clear()
            how_sure = "" if sure > 0.98 else say(", {0:.0%} sure", sure)
            box.addItem(
                say("found: {0}{1}", say(HABIT_WORDS[value]), how_sure) if told is None else say("find it"), None
            )
            for choice in HABITS[habit]:
                box.addItem(say(HABIT_WORDS[choice]), choice)
            box.setCurrentIndex(max(0, box.findData(told)) if told else 0)

    def _lay_out(self) -> None:
        card = QWidget()
        card.setObjectName("card")
        column = QVBoxLayout(card)
        column.setContentsMargins(36, 26, 36, 22)
        column.setSpacing(7)
        column.addWidget(self.heading)
        column.addWidget(self.lead)
        buttons = QHBoxLayout()
        buttons.addWidget(self.open_button)
        buttons.addWidget(self.type_button)
        buttons.addWidget(self.demo_button)
        buttons.addStretch(1)
        column.addLayout(buttons)
        column.addWidget(self.recent)
        column.addWidget(self.fault)
        column.addWidget(self.busy)
        column.addWidget(self._scrolled(self.drives, self.read, self.about_pass, self.limits, self.habits), 4)
        column.addLayout(self._plan_place, 2)
        outer = QHBoxLayout(self)
        outer.setContentsMargins(10, 10, 10, 10)
        self.proof_card = QWidget()
        self.proof_card.setObjectName("card")
        self.proofs = QVBoxLayout(self.proof_card)
        self.proofs.setContentsMargins(24, 20, 24, 20)
        self.proofs.setSpacing(14)
        self._left, self._right = QWidget(), QWidget()
        outer.addWidget(self._left, 1)
        outer.addWidget(card, 4)
        outer.addWidget(self.proof_card, 5)
        outer.addWidget(self._right, 1)

    def _scrolled(self, *parts: QWidget | QVBoxLayout) -> QScrollArea:
        """Parts under each other that keep their height; what has no room is scrolled to."""
        inside, area = QWidget(), QScrollArea()
        column = QVBoxLayout(inside)
        column.setContentsMargins(0, 0, 8, 0)
        column.setSpacing(2)
        for part in parts:
            if isinstance(part, QWidget):
                column.addWidget(part)
            else:
                column.addLayout(part)
        column.addStretch(1)
        area.setWidget(inside)
        area.setWidgetResizable(True)
        inside.setAutoFillBackground(False)
        if (shown := area.viewport()) is not None:
            shown.setAutoFillBackground(False)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        return area

    def show_empty(self, sentences: list[tuple[str, str]], against: SaidAgainst | None = None) -> None:
        """Before a stage is open: what is there of it, as (name, sentence), and the words against the notes."""
        self.heading.setText(say("Drop your notes and the recording of the run here"))
        self.demo_button.show()
        self.lead.setText(
            say(
                "The notes as text, a note a line, as you write them. The run as CSV (time and position at least), GPX, NMEA or "
                "MDF4. What was said in the car as timed text, and its sound, if you have them. "
                "Mirkle says what each file is and what it read from it; all stay as they are."
            )
        )
        self._show_beside([] if against is None else [(say("Said against written"), AgainstView(against))])
        self.habits.hide()
        self.limits.hide()
        self.about_pass.hide()
        self.drives.hide()
        self._show_recent()
        self._show_plan(None)
        self._show_rows(sentences or [*STEPS, *zip(("Mind", "", "", "", ""), CAUTIONS, strict=True)])

    def _show_recent(self) -> None:
        """The stages that were open last; one click opens one again."""
        self.recent.clear()
        for path in places.recent():
            item = QListWidgetItem(f"{path.stem}     {path.parent}")
            item.setData(Qt.ItemDataRole.UserRole, path)
            self.recent.addItem(item)
        self.recent.setVisible(self.recent.count() > 0)
        self.recent.setFixedHeight(27 * self.recent.count() + 6)

    def show_stage(self, stage: Stage, theme: Theme, *, can_hear: bool = False) -> None:
        """The open stage: its files, what was read, and what can't be judged from it; ``can_hear`` its words."""
        self._inputs = stage.inputs
        self._show_proofs(proofs_of(stage.inputs), theme, can_hear=can_hear)
        self._show_habits(stage)
        self._show_plan(PlanView(stage.review, theme))
        self.habits.show()
        self.recent.hide()
        review = stage.review
        self.heading.setText(say("{0}: {1:.1f} km from start to finish", stage.project.name, review.finish_m / 1000))
        self.lead.setText(
            say(
                "{0}. Drop another pass or what was said here to add it; what can't be told of a file is asked first.",
                stage.run.name,
            )
        )
        self.limits.show()
        self.about_pass.show()
        self.kind_box.setCurrentIndex(max(self.kind_box.findData(stage.this_pass.kind), 0))
        self.day_field.setText(stage.this_pass.day)
        self._show_drives(review)
        self._found_limits = (
            (review.measured.drive.start_s, stage.by_hand.start_s),
            (review.finish_s, stage.by_hand.finish_s),
        )
        for field, (seconds, _) in zip((self.start_field, self.finish_field), self._found_limits, strict=True):
            field.setText(clock(seconds))
        # Which drive is the stage stands there as a question.
        asked = several(review.measured.drives)
        doubts = [d for d in review.doubts if d not in asked]
        paired = sum(t.bend is not None for t in review.lineup.ties)
        scatter = review.lineup.grades.scatter
        rows = [
            (say("The notes"), say("{0} notes, {1} corners, {2}; grades 1 to {3}.", len(review.notes),
             len(review.reading.corners), say(review.reading.order.replace("-", " ")), review.school.top)),
            (say("On the road"), say("{0} of {1} corner notes have their bend; your grades scatter by {2:.2f} of a grade, "
             "and your odometer reads {3:+.1f} %.", paired, len(review.lineup.ties), scatter,
             100 * (1 / review.lineup.distances.factor - 1))),
            *[(say("Mind"), say_clause(doubt)) for doubt in doubts],
            *_clock_row(review),
            (say("Recorded"), f"{channels_in_words(review.measured.recorded, say)}."),
        ]  # fmt: skip
        if stage.project.read_only:
            rows.insert(
                0, (say("Read only"), say("This stage is open elsewhere: look, but nothing can be marked here."))
            )
        self._show_rows(rows)

    def _show_proofs(self, proofs: list[Proof], theme: Theme, *, can_hear: bool) -> None:
        """The proofs, the one with the most to settle in front."""
        views: list[tuple[str, QWidget]] = []
        for proof in proofs:
            view = ProofView(proof, theme)
            view.offer_sound(there=can_hear)
            view.left.connect(lambda doubt: self.settled.emit(undone(self._inputs, doubt)))
            view.explained.connect(self._teach)
            view.hear_wanted.connect(self.hear_wanted)
            views.append((heading_of(proof), view))
        self._show_beside(views, in_front=max(range(len(proofs)), key=lambda n: len(proofs[n].doubts), default=0))

    def _show_beside(self, views: list[tuple[str, QWidget]], in_front: int = 0) -> None:
        """Pages beside the card, one of them at a time, each with its heading as a button; without any the card is alone."""
        while self.proofs.count():
            item = self.proofs.takeAt(0)
            if item is not None and (old := item.widget()) is not None:
                old.deleteLater()
        for part in (self._left, self._right):
            part.setVisible(not views)
        self.proof_card.setVisible(bool(views))
        if not views:
            return
        heads, pages = QWidget(), QStackedWidget()
        row = QHBoxLayout(heads)
        row.setContentsMargins(0, 0, 0, 0)
        group = QButtonGroup(heads)
        for number, (words, view) in enumerate(views):
            pages.addWidget(view)
            button = QPushButton(words)
            button.setCheckable(True)
            button.setChecked(number == in_front)
            button.clicked.connect(lambda _=False, n=number: pages.setCurrentIndex(n))
            group.addButton(button)
            row.addWidget(button, 1)
        pages.setCurrentIndex(in_front)
        self.proofs.addWidget(heads)
        heads.setVisible(len(views) > 1)
        self.proofs.addWidget(pages, 1)

    def _teach(self, doubt: Doubt, kind: str, key: str) -> None:
        self.settled.emit(taught(self._inputs, doubt, kind, key))

    def _show_rows(self, rows: list[tuple[str, str]]) -> None:
        while self.read.count():
            item = self.read.takeAt(0)
            if item is not None and (old := item.widget()) is not None:
                old.deleteLater()
        for name, sentence in rows:
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 4, 0, 4)
            head, body = _line("faint"), _line("why")
            head.setText(name)
            head.setFixedWidth(150)
            head.setAlignment(Qt.AlignmentFlag.AlignTop)
            body.setText(sentence)
            line.addWidget(head)
            line.addWidget(body, 1)
            self.read.addWidget(row)

    def say_fault(self, sentence: str) -> None:
        """Shows what went wrong; an empty sentence takes it away."""
        self.fault.setText(sentence)

    def show_progress(self, words: str, share: float) -> None:
        """Shows that something is being done, until ``share`` is 1."""
        self.busy.setVisible(share < 1.0)
        self._busy_words.setText(f"{words} …")
        self._bar.setRange(0, 100)
        self._bar.setValue(int(100 * share))

    def choose_files(self) -> None:
        """Asks for files."""
        names, _ = QFileDialog.getOpenFileNames(self, "Notes and runs", "", FILTER)
        if names:
            self.files_given.emit([Path(n) for n in names])

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        data = event.mimeData()
        if data is not None and data.hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        data = event.mimeData()
        if data is not None:
            self.files_given.emit([Path(u.toLocalFile()) for u in data.urls() if u.isLocalFile()])


def _clock_row(review: Review) -> list[tuple[str, str]]:
    if review.clock is None:
        return []
    found = {"go": say("found by “go”"), "hand": say("set by hand")}
    by = found.get(review.clock.by, say("found by when the calls came before their corners"))
    clocks = say(
        "The words' clock reads {0:+.1f} s against the recording's, give or take {1:.1f} s; {2}.",
        review.clock.calls_minus_run_s,
        review.clock.uncertainty_s,
        by,
    )
    if review.clock.gains:
        clocks += " " + say(
            "It gains {0:+.1f} s a minute, which is taken into account: the sound was converted at another rate, or is of another pass.",
            60.0 * review.clock.gains,
        )
    return [(say("The clocks"), clocks)]


def clock(seconds: float) -> str:
    """Minutes and seconds, such as 10:57.2."""
    minutes, rest = divmod(seconds, 60.0)
    return f"{int(minutes)}:{rest:04.1f}"


def seconds_of(text: str) -> float:
    """Seconds from ``m:ss.s`` or plain seconds.

    Raises
    ------
    ValueError
    """
    minutes, _, seconds = text.rpartition(":")
    return 60.0 * int(minutes or 0) + float(seconds.replace(",", "."))


def _line(name: str) -> QLabel:
    label = QLabel()
    label.setObjectName(name)
    label.setWordWrap(True)
    label.setTextFormat(Qt.TextFormat.PlainText)
    return label
