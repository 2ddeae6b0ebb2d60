"""What a crew sets right in Gather: the kind of pass, start and finish, which drive it is, how it writes its notes."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from mirkle.core.messages import gettext_noop
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.crew_profile import ORDERS, SENSES
from mirkle.core.review import Review
from mirkle.gui.controls import ChoiceBox, empty, label, wrapped
from mirkle.gui.translation import tr
from mirkle.gui.views.status_line import clock
from mirkle.session.reviewed_pass import ReviewedPass

PASS_WORDS = {"reconnaissance": gettext_noop("reconnaissance"), "first": gettext_noop("first pass"), "later": gettext_noop("later pass")}
CAR_WORDS = {"tyres": gettext_noop("tyres"), "fuel": gettext_noop("fuel"), "setup": gettext_noop("set-up")}
HABIT_NAMES = {"order": gettext_noop("what comes first"), "sense": gettext_noop("which way the grades run")}
HABITS = {"order": ORDERS, "sense": SENSES}
HABIT_WORDS = {
    "direction-first": gettext_noop("direction first, left 4"),
    "grade-first": gettext_noop("grade first, 4 left"),
    "ascending": gettext_noop("1 is tight"),
    "descending": gettext_noop("1 is nearly flat out"),
}
# The width of the headings at the left, and of a time.
HEADING_PX, TIME_PX = 116, 86
# A habit that is surer than this is not said with how sure it is.
SURE = 0.98


class HeadedRow(QWidget):
    """A row of Gather with its heading at the left; ``column`` takes what stands beside it."""

    def __init__(self, words: str) -> None:
        super().__init__()
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 4, 0, 4)
        self.heading = wrapped(words, "faint")
        self.heading.setFixedWidth(HEADING_PX)
        self.column = QVBoxLayout()
        line.addWidget(self.heading, alignment=Qt.AlignmentFlag.AlignTop)
        line.addLayout(self.column, 1)


class AboutPassFields(QWidget):
    """What kind of pass it was, its day in the crew's own words, and the car. ``typed`` carries them by their names."""

    typed = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.kind_box, self.day_field = ChoiceBox(), QLineEdit()
        self.car_fields = {name: QLineEdit() for name in CAR_WORDS}
        for key, words in PASS_WORDS.items():
            self.kind_box.addItem(f"{tr(words)}  ▾", key)
        self.kind_box.setAccessibleName(tr("What kind of pass it was"))
        self.kind_box.activated.connect(lambda _: self._changed())
        rows = QVBoxLayout(self)
        rows.setContentsMargins(0, 0, 0, 0)
        this_pass, car = HeadedRow(tr("This pass")), HeadedRow(tr("The car"))
        this_pass.column.addWidget(self.kind_box)
        self._add_field(this_pass, self.day_field, tr("Day, time and conditions of the pass"), tr("day, time, dry or wet"))
        for name, field in self.car_fields.items():
            self._add_field(car, field, tr(CAR_WORDS[name]), tr(CAR_WORDS[name]))
        rows.addWidget(this_pass)
        rows.addWidget(car)

    def _add_field(self, row: HeadedRow, field: QLineEdit, name: str, example: str) -> None:
        field.setObjectName("quiet")
        field.setAccessibleName(name)
        field.setPlaceholderText(example)
        field.editingFinished.connect(self._changed)
        row.column.addWidget(field)

    def _changed(self) -> None:
        car = {name: field.text().strip() for name, field in self.car_fields.items()}
        self.typed.emit({"kind": self.kind_box.currentData(), "day": self.day_field.text().strip(), **car})

    def show_pass(self, made: Pass) -> None:
        """Shows what is known of a pass."""
        self.show()
        self.kind_box.setCurrentIndex(max(self.kind_box.findData(made.kind), 0))
        self.day_field.setText(made.day)
        for name, field in self.car_fields.items():
            field.setText(getattr(made, name))


class LimitsFields(HeadedRow):
    """When the car left the start line and passed the finish. ``wanted`` carries both, each ``None`` to have it found; ``fault`` a
    sentence, empty where nothing is wrong."""

    wanted = pyqtSignal(object, object)
    fault = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__(tr("Start and finish"))
        self.start_field, self.finish_field = QLineEdit(), QLineEdit()
        # What each field shows, in seconds, and what of it the crew has set.
        self._shown: tuple[tuple[float, float | None], ...] = ()
        for words, field in ((gettext_noop("start at"), self.start_field), (gettext_noop("finish at"), self.finish_field)):
            field.setFixedWidth(TIME_PX)
            field.setObjectName("quiet")
            field.setAccessibleName(tr("{0}, minutes and seconds on the recording's clock", tr(words)))
            field.setToolTip(tr("Minutes and seconds, such as 10:57.2. Left empty, Mirkle finds it"))
            field.returnPressed.connect(self._set)
            line = QHBoxLayout()
            line.addWidget(label(tr(words)), 1)
            line.addWidget(field)
            self.column.addLayout(line)
        set_button = QPushButton(tr("Set"))
        set_button.setObjectName("small")
        set_button.clicked.connect(self._set)
        self.column.addWidget(set_button, alignment=Qt.AlignmentFlag.AlignRight)

    def show_limits(self, stage: ReviewedPass) -> None:
        """Shows the limits of a stage."""
        review = stage.review
        self._shown = (review.measured.drive.start_s, stage.overrides.start_s), (review.finish_s, stage.overrides.finish_s)
        for field, (seconds, _) in zip((self.start_field, self.finish_field), self._shown, strict=True):
            field.setText(clock(seconds))
        self.show()

    def _set(self) -> None:
        times: list[float | None] = []
        for field, shown in zip((self.start_field, self.finish_field), self._shown, strict=True):
            text = field.text().strip()
            try:
                times.append(None if not text else shown[1] if text == clock(shown[0]) else seconds_of(text))
            except ValueError:
                self.fault.emit(tr("“{0}” is not a time: write minutes and seconds, such as 10:57.2", text))
                return
        start, finish = times
        if start is not None and finish is not None and finish <= start:
            self.fault.emit(tr("The finish can't come before the start: set one of them right"))
            return
        self.fault.emit("")
        self.wanted.emit(start, finish)


class DriveChoice(QWidget):
    """Which drive of a recording that holds several is the stage: a button for each. ``wanted`` carries where it starts, in seconds."""

    wanted = pyqtSignal(float)

    def __init__(self) -> None:
        super().__init__()
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 4, 0, 4)

    def show_drives(self, review: Review) -> None:
        """Asks where there is something to ask."""
        empty(self._row)
        found, chosen = review.measured.drives, review.measured.drive
        self.setVisible(len(found) > 1)
        if len(found) < 2:
            return
        asked = HeadedRow(tr("Which of {0} drives is the stage?", len(found)))
        self._row.addWidget(asked)
        for drive in found:
            button = QPushButton(tr("{0} to {1}, {2:.1f} km", clock(drive.start_s), clock(drive.stop_s), drive.length_m / 1000))
            button.setCheckable(True)
            button.setChecked(drive.start_s < chosen.stop_s and drive.stop_s > chosen.start_s)
            button.clicked.connect(lambda _=False, at=drive.start_s: self.wanted.emit(at))
            asked.column.addWidget(button)


class HabitBoxes(HeadedRow):
    """How the crew writes, as it was found, and boxes in which it overrules that. ``chosen`` carries a habit and its value, ``None`` to
    have it found."""

    chosen = pyqtSignal(str, object)

    def __init__(self) -> None:
        super().__init__(tr("How you write"))
        self.boxes = {habit: ChoiceBox() for habit in HABITS}
        for habit, box in self.boxes.items():
            box.setAccessibleName(tr("How you write: {0}", tr(HABIT_NAMES[habit])))
            box.activated.connect(lambda _i, h=habit, b=box: self.chosen.emit(h, b.currentData()))
            # However long its words are, it is as wide as the page and no wider.
            box.setSizeAdjustPolicy(ChoiceBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(12)
            self.column.addWidget(box)

    def show_habits(self, stage: ReviewedPass) -> None:
        """Shows what was found of a stage's book, or chosen."""
        crew, school = stage.crew, stage.review.school
        found = {"order": (stage.review.reading.order, crew.order, 1.0), "sense": (school.sense, crew.sense, school.sense_sure)}
        for habit, box in self.boxes.items():
            value, chosen, sure = found[habit]
            box.clear()
            how_sure = "" if sure > SURE else tr(", {0:.0%} sure", sure)
            box.addItem(tr("found: {0}{1}", tr(HABIT_WORDS[value]), how_sure) if chosen is None else tr("Mirkle decides"), None)
            for choice in HABITS[habit]:
                box.addItem(tr(HABIT_WORDS[choice]), choice)
            box.setCurrentIndex(max(0, box.findData(chosen)) if chosen else 0)
        self.show()


def seconds_of(text: str) -> float:
    """Seconds from ``m:ss.s`` or plain seconds.

    Raises
    ------
    ValueError
    """
    minutes, _, seconds = text.rpartition(":")
    return 60.0 * int(minutes or 0) + float(seconds.replace(",", "."))
