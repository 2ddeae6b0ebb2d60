"""Habits: where this crew's notes differ from the road systematically, from all its reviewed passes; and its profile."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QCheckBox, QDialog, QFileDialog, QFormLayout, QHBoxLayout, QLineEdit, QListWidget, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.habits.carry_over import carried_over, named
from mirkle.core.habits.evidence import PassEvidence
from mirkle.core.habits.findings import Habit, habits_of
from mirkle.core.habits.lead_times import lead_habits
from mirkle.core.habits.meanings import Meaning, meanings_of
from mirkle.core.habits.misheard import Misheard, said_word, usual_mishearings
from mirkle.core.habits.pooled import pooled
from mirkle.core.habits.shares import elsewhere
from mirkle.core.messages import Called
from mirkle.files.crew_record import CrewRecord, keep_crew_record, read_crew_record
from mirkle.files.notes.languages import shipped_languages
from mirkle.gui.controls import ChoiceBox, ask, button, done, label, wrap_items, wrapped
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr, tr_counted, tr_fault, tr_message
from mirkle.session import crew_records
from mirkle.session.carry_book import book_of
from mirkle.session.season import verdicts_of_season
from mirkle.session.shelf import shelf

PICTURE_PX, SIDE_PX, AXIS_GRADES = 110, 24, 1.0
# A grade that is less well known on the other scale is not carried over.
MOST_SPREAD = 0.6
# How many words of a recogniser are named.
MOST_HEARD = 5


class HabitsDialog(QDialog):
    """The habits of the crew that is chosen, the largest first. ``place_wanted`` carries a stage's file and a note; ``judging_wanted`` asks
    for the open stage to be judged by what is known by now, ``book_wanted`` carries another crew's book to be filled in."""

    place_wanted = pyqtSignal(object, int)
    judging_wanted = pyqtSignal()
    book_wanted = pyqtSignal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Habits"))
        self.resize(980, 660)
        self._habits: list[Habit] = []
        # The passes of the driver and of the co-driver with others, by their names.
        self._with_others: dict[str, list[PassEvidence]] = {}
        self._places: list[tuple[Path, int]] = []
        self.crew, self.summary, self.why = ChoiceBox(), wrapped(style="why"), wrapped(style="why")
        self.crew.setAccessibleName(tr("Which crew"))
        self.crew.activated.connect(self._choose)
        self.gathers = QCheckBox(tr("Gather what reviewed passes show of us"))
        self.used = QCheckBox(tr("Use it when the next stage is reviewed"))
        self.gathers.clicked.connect(lambda on: self._set(lambda record: replace(record, gathers=on)))
        self.used.clicked.connect(lambda on: self._set(lambda record: replace(record, used=on)))
        self.list, self.places = QListWidget(), QListWidget()
        self.list.setAccessibleName(tr("Habits, the largest first"))
        self.places.setAccessibleName(tr("Notes that show it"))
        for view in (self.list, self.places):
            wrap_items(view)
        self.list.currentRowChanged.connect(lambda _: self._show_habit())
        self.places.itemActivated.connect(lambda _: self._go())
        self.picture, self.fault = HabitPicture(theme), wrapped(style="fault")
        self.new_button, self.delete_button = button(tr("New crew…")), button(tr("Delete this profile…"))
        self.other, self.carried = ChoiceBox(), wrapped(style="why")
        self.book_button = button(
            tr("Begin from their book…"), tr("Their notes with a blank for each grade, and about what it is on your scale; you write each")
        )
        self.book_button.clicked.connect(self._ask_book)
        self.other.setAccessibleName(tr("Another crew, to compare with"))
        self.other.activated.connect(lambda _: self._show_carried())
        self.judge_button = button(tr("Judge the open stage by it"), tr("Review it again with what the profile knows by now"))
        self.judge_button.clicked.connect(self.judging_wanted)
        self.judge_button.clicked.connect(self.accept)
        self.go_button, back = button(tr("See the note"), name="primary"), button(tr("Back"))
        self.new_button.clicked.connect(self._begin)
        self.delete_button.clicked.connect(self._delete)
        self.go_button.clicked.connect(self._go)
        back.clicked.connect(self.accept)
        self._lay_out(back)
        self.refresh()

    def _lay_out(self, back: QWidget) -> None:
        top, foot, both, right, column = QHBoxLayout(), QHBoxLayout(), QHBoxLayout(), QVBoxLayout(), QVBoxLayout(self)
        for widget in (label(tr("Crew")), self.crew, self.new_button, self.other):
            top.addWidget(widget)
        top.addStretch(1)
        top.addWidget(self.gathers)
        top.addWidget(self.used)
        right.addWidget(self.why)
        right.addWidget(self.picture)
        right.addWidget(label(tr("Notes that show it"), "faint"))
        right.addWidget(self.places, 1)
        both.addWidget(self.list, 1)
        both.addLayout(right, 1)
        foot.addWidget(self.delete_button)
        foot.addWidget(self.judge_button)
        foot.addStretch(1)
        foot.addWidget(back)
        foot.addWidget(self.go_button)
        column.setContentsMargins(28, 22, 28, 20)
        column.addLayout(top)
        column.addWidget(self.summary)
        carried = QHBoxLayout()
        carried.addWidget(self.carried, 1)
        carried.addWidget(self.book_button)
        column.addLayout(carried)
        column.addLayout(both, 1)
        column.addWidget(self.fault)
        column.addLayout(foot)

    def refresh(self) -> None:
        """Shows the crew that is chosen."""
        path, record = crew_records.chosen_path(), crew_records.chosen_crew()
        self.crew.clear()
        self.crew.addItem(tr("no crew chosen") + "  ▾", None)
        for one in crew_records.known_crews():
            self.crew.addItem(f"{_name_of(one)}  ▾", str(one))
        self.crew.setCurrentIndex(max(0, self.crew.findData(str(path))))
        self._offer_others(path)
        self.gathers.setChecked(record is not None and record.gathers)
        self.used.setChecked(record is not None and record.used)
        for widget in (self.gathers, self.used, self.delete_button):
            widget.setEnabled(record is not None)
        self.judge_button.setEnabled(record is not None and record.used and bool(record.passes))
        self._habits = []
        self._with_others = crew_records.with_others(record, crew_records.other_crews()) if record is not None else {}
        if record is not None and record.passes:
            self._habits = [*habits_of(record.passes, crew_records.today()), *lead_habits(record.passes)]
        self.summary.setText(_summary(record))
        self.list.clear()
        for habit in self._habits:
            from_stages = tr_counted("from 1 stage", "from {0} stages", habit.stages)
            sure = tr("{0:.0%} sure", min(habit.sure, 0.99))
            self.list.addItem(f"{tr_message(habit.sentence)}\n{sure}, {from_stages}")
        if record is not None and record.passes and not self._habits:
            self.list.addItem(tr("No habit is sure enough to be said yet."))
        self.list.setCurrentRow(0 if self._habits else -1)
        self._show_habit()

    def _offer_others(self, mine: Path | None) -> None:
        """The other crews that this one can be compared with."""
        others = [one for one in crew_records.known_crews() if one != mine and mine is not None]
        self.other.clear()
        self.other.addItem(tr("compare with…") + "  ▾", None)
        for one in others:
            self.other.addItem(f"{_name_of(one)}  ▾", str(one))
        self.other.setVisible(bool(others))
        self._show_carried()

    def _show_carried(self) -> None:
        """What each grade of another crew is in the hand of this one."""
        other, mine = self.other.currentData(), crew_records.chosen_crew()
        words = _carried_words(Path(other), mine) if other and mine is not None else ""
        self.carried.setText(words)
        self.carried.setVisible(bool(words))
        self.book_button.setVisible(bool(words))

    def _ask_book(self) -> None:
        """Asks for the other crew's book, and hands it on to be filled in."""
        name, _ = QFileDialog.getOpenFileName(self, tr("Their notes"))
        if name:
            self.begin_from(Path(name))

    def begin_from(self, path: Path) -> None:
        """Hands another crew's book on to be filled in; why not, where that can't be."""
        mine, other = crew_records.chosen_crew(), self.other.currentData()
        book: list[str] = []
        if mine is not None and other and done(lambda: book.append(book_of(path, read_crew_record(Path(other)), mine)), self.fault):
            self.accept()
            self.book_wanted.emit(book[0])

    @property
    def chosen(self) -> Habit | None:
        """The habit that is chosen."""
        at = self.list.currentRow()
        return self._habits[at] if 0 <= at < len(self._habits) else None

    def _show_habit(self) -> None:
        habit = self.chosen
        self.why.setText(" ".join([tr_message(habit.try_this), *_whose(habit, self._with_others)]) if habit is not None else "")
        self.picture.show_habit(habit)
        self.places.clear()
        self._places = []
        files = {one.identity: one for one in shelf()} if habit is not None and habit.examples else {}
        for shown, note in habit.examples if habit is not None else ():
            if shown.stage in files:
                self._places.append((files[shown.stage].path, note))
                self.places.addItem(tr("{0}, note {1}", files[shown.stage].name, note + 1))
        self.places.setCurrentRow(0 if self._places else -1)
        self.go_button.setEnabled(bool(self._places))

    def _go(self) -> None:
        at = self.places.currentRow()
        if 0 <= at < len(self._places):
            self.accept()
            self.place_wanted.emit(*self._places[at])

    def _choose(self) -> None:
        path = self.crew.currentData()
        crew_records.choose_crew(Path(path) if path else None)
        self.refresh()

    def _set(self, change: Callable[[CrewRecord], CrewRecord]) -> None:
        path, record = crew_records.chosen_path(), crew_records.chosen_crew()
        if path is not None and record is not None:
            self._do(lambda: keep_crew_record(path, change(record)))

    def _begin(self) -> None:
        dialog = CrewNames(self)
        if dialog.exec():
            self._do(lambda: crew_records.begin_crew(dialog.record))

    def _delete(self) -> None:
        path = crew_records.chosen_path()
        if path is None:
            return
        question = tr("Delete “{0}”? What it gathered is gone; your stages and decisions stay.", _name_of(path))
        if ask(self, question, {"delete": tr("Delete it"), "stay": tr("Keep it")}) == "delete":
            self._do(lambda: crew_records.delete_crew(path))

    def _do(self, work: Callable[[], object]) -> None:
        done(work, self.fault)
        self.refresh()


class CrewNames(QDialog):
    """The names of a new crew, whatever they choose."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("New crew"))
        self.setMinimumWidth(460)
        self.driver, self.co_driver, self.car = QLineEdit(), QLineEdit(), QLineEdit()
        form, row, column = QFormLayout(), QHBoxLayout(), QVBoxLayout(self)
        for words, field in ((tr("Driver"), self.driver), (tr("Co-driver"), self.co_driver), (tr("Car"), self.car)):
            field.setAccessibleName(words)
            form.addRow(label(words), field)
        keep, back = button(tr("Begin"), name="primary"), button(tr("Back"))
        keep.clicked.connect(self.accept)
        back.clicked.connect(self.reject)
        row.addStretch(1)
        row.addWidget(back)
        row.addWidget(keep)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(wrapped(tr("Any names you choose. All of it stays on this computer."), "faint"))
        column.addLayout(form)
        column.addLayout(row)

    @property
    def record(self) -> CrewRecord:
        """The crew as it was named."""
        return CrewRecord(self.driver.text().strip(), self.co_driver.text().strip(), self.car.text().strip())


class HabitPicture(QWidget):
    """What each stage shows of a habit, a dot a stage, and all of them together, on an axis of grades or seconds."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self._habit: Habit | None = None
        self.setFixedHeight(PICTURE_PX)
        self.setAccessibleName(tr("What each stage shows"))

    def show_habit(self, habit: Habit | None) -> None:
        """Shows a habit."""
        self._habit = habit
        self.setVisible(habit is not None and bool(habit.by_stage))
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        habit = self._habit
        if habit is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        reach = max(AXIS_GRADES, *(abs(v) for v in (*habit.by_stage, habit.size)))

        def x_of(value: float) -> float:
            return SIDE_PX + (self.width() - 2 * SIDE_PX) * (0.5 + 0.5 * value / reach)

        middle = PICTURE_PX / 2 - 8
        painter.setPen(QPen(self.theme.colour("faint"), 1))
        painter.drawLine(QPointF(x_of(-reach), middle), QPointF(x_of(reach), middle))
        painter.drawLine(QPointF(x_of(0), middle - 26), QPointF(x_of(0), middle + 12))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.colour("road"))
        for value in habit.by_stage:
            painter.drawEllipse(QPointF(x_of(value), middle), 6, 6)
        painter.setBrush(self.theme.colour("pencil"))
        painter.drawRect(QRectF(x_of(habit.size) - 2, middle - 22, 4, 34))
        painter.setFont(font(12))
        painter.setPen(self.theme.colour("faint"))
        left, right = (tr("later"), tr("earlier")) if habit.kind.startswith("lead-") else (tr("tighter"), tr("easier"))
        flags = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(x_of(-reach), middle + 16, 160, 18), flags | Qt.AlignmentFlag.AlignLeft, left)
        painter.drawText(QRectF(x_of(reach) - 160, middle + 16, 160, 18), flags | Qt.AlignmentFlag.AlignRight, right)
        painter.drawText(QRectF(x_of(0) - 60, middle + 16, 120, 18), flags | Qt.AlignmentFlag.AlignHCenter, tr("as elsewhere"))
        painter.end()


def _name_of(path: Path) -> str:
    try:
        return read_crew_record(path).name
    except MirkleError:
        return path.stem


def _whose(habit: Habit, with_others: Mapping[str, Sequence[PassEvidence]]) -> list[str]:
    """Whether the driver, or the co-driver, shows a habit with others as well, in a sentence each."""
    told = []
    for name, theirs in with_others.items():
        found = elsewhere(habit, theirs, crew_records.today())
        if found is not None and found.is_there:
            told.append(tr("{0} shows it with others as well: {1:.1f} of a grade.", name, abs(found.grades)))
        elif found is not None and found.is_there is False:
            told.append(tr("{0} does not show it with others.", name))
    return told


def _carried_words(other: Path, mine: CrewRecord) -> str:
    """“Their 4 is your 4−”, for each grade that both scales tell."""
    try:
        theirs = read_crew_record(other)
    except MirkleError as fault:
        return tr_fault(fault)
    if not theirs.passes or not mine.passes:
        return tr("Both crews have to have reviewed passes first.")
    today = crew_records.today()
    scales = [pooled(record.passes, today).prior for record in (theirs, mine)]
    senses = [record.passes[-1].descending for record in (theirs, mine)]
    pairs = [
        tr("{0} is your {1}", named(g.grade, scales[0].top, descending=senses[0]), named(g.position, scales[1].top, descending=senses[1]))
        for g in carried_over(*scales)
        if g.sd < MOST_SPREAD
    ]
    return tr("Grades of {0}: {1}. Check each on the road before you use it.", theirs.name, ", ".join(pairs))


def _meaning_words(meaning: Meaning) -> str:
    """What a word comes to in metres."""
    word, low, high = tr_message(Called((meaning.word,))), round(meaning.from_m), round(meaning.to_m)
    return tr("“{0}” {1} to {2} m", word, low, high) if low < high else tr("“{0}” about {1} m", word, low)


def _heard_words(one: Misheard) -> str:
    return tr("“{0}” for “{1}” ({2} times)", one.heard, said_word(one, shipped_languages()), one.places)


def _summary(record: CrewRecord | None) -> str:
    """What the profile has gathered."""
    if record is None:
        return tr("Name your crew, and say whether Mirkle may gather what your reviewed passes show. It all stays on this computer.")
    if not record.passes:
        return tr("Nothing was gathered yet. Open a reviewed stage; each pass that you look at is taken in.")
    prior = pooled(record.passes, crew_records.today()).prior
    corners, stages = tr_counted("1 corner", "{0} corners", prior.pairs), tr_counted("on 1 stage", "on {0} stages", prior.stages)
    parts = [f"{corners} {stages}", tr("your grades differ from the road by about {0:.1f} of a grade", prior.scatter)]
    factors = [p.odometer for p in record.passes if p.odometer]
    leads = [p.usual_lead_s for p in record.passes if p.usual_lead_s]
    if factors:
        parts.append(tr("your 100 is {0:.0f} m", 100 * sum(factors) / len(factors)))
    if leads:
        parts.append(tr("you call {0:.1f} s before a corner", sum(leads) / len(leads)))
    lines = ["; ".join(parts) + "."]
    meant = [_meaning_words(meaning) for meaning in meanings_of(record.passes)]
    if meant:
        lines.append(tr("Your words in metres, for half of their places: {0}.", ", ".join(meant)))
    heard = usual_mishearings(m for shown in record.passes for m in shown.misheard)[:MOST_HEARD]
    if heard:
        lines.append(tr("Your speech recogniser writes {0}.", ", ".join(map(_heard_words, heard))))
    verdicts = verdicts_of_season()
    told = sum(count for verdict, count in verdicts.items() if verdict != "cant-tell")
    if told:
        right, too_far, too_little = (verdicts.get(verdict, 0) for verdict in ("fits", "too-slow", "too-fast"))
        words = tr("Of {0} changes that were driven again {1} were right", told, right)
        words += ", " + tr("{0} went too far", too_far) if too_far else ""
        lines.append(words + (", " + tr("{0} not far enough", too_little) if too_little else "") + ".")
    return "\n".join(lines)
