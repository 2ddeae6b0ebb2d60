"""The rally: the day with now on it, each stage with what is left to do, and what fits before the next start."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date, datetime, timedelta
from itertools import groupby

from PyQt6.QtCore import QDate, QLocale, QSize, QTimer, pyqtSignal
from PyQt6.QtGui import QHideEvent, QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QScrollArea, QVBoxLayout, QWidget

from mirkle.core.messages import gettext_noop
from mirkle.core.rally.itinerary import Item, cancelled, delayed, lasting, next_start
from mirkle.core.rally.plan import Work
from mirkle.core.rally.stage_time import StageTime
from mirkle.gui.commands import key_of
from mirkle.gui.controls import button, done, label, wrap_items, wrapped
from mirkle.gui.keys import CommandWidget, ListKeys
from mirkle.gui.pages.shelf import small_map
from mirkle.gui.theme import Theme
from mirkle.gui.translation import spoken, tr, tr_counted
from mirkle.gui.views.day_line import DayLine
from mirkle.session.rally import Rally, RallyStage, day_shown
from mirkle.session.shelf import Shelved, shelf

# The page looks at the clock as often as this (ms).
EACH_MS = 20_000
ICON_PX = 28
# A late start is set in steps of this (min).
STEP_MIN = 5


class RallyPage(CommandWidget):
    """Emits ``stage_wanted`` with a stage's file, ``itinerary_wanted`` for the itinerary to be typed, ``which_wanted`` with a stage of the
    itinerary whose file is to be chosen, ``begin_wanted`` with one of which nothing is there."""

    place = "Rally"
    stage_wanted = pyqtSignal(object)
    itinerary_wanted = pyqtSignal()
    which_wanted = pyqtSignal(str)
    begin_wanted = pyqtSignal(str)

    def __init__(self, rally: Rally, theme: Theme, now: Callable[[], datetime] = datetime.now, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.rally, self.theme, self._now = rally, theme, now
        self._items: list[Item] = []
        self._stages: dict[str, RallyStage] = {}
        self._shelf: list[Shelved] = []
        self.heading, self.when, self.fault = label("", "title"), wrapped(style="why"), wrapped(style="fault")
        self.line, self.list, self.plan = DayLine(theme), QListWidget(), wrapped(style="why")
        self.body = QWidget()
        self.plan_title = label(tr("What fits"), "title")
        self.list.setAccessibleName(tr("The itinerary"))
        self.list.setIconSize(QSize(ICON_PX, ICON_PX))
        wrap_items(self.list)
        ListKeys("Rally", self.list, self)
        self.list.currentRowChanged.connect(lambda _: self._show_chosen())
        self.list.itemDoubleClicked.connect(lambda _: self.open_stage())
        self.line.picked.connect(self._choose)
        self.buttons = {
            name: button(f"{tr(words)}  {key_of('Rally', name)}", tr(name))
            for name, words in (
                ("Open the stage", gettext_noop("Open")),
                ("Later by 5 minutes", gettext_noop("+5 min")),
                ("Earlier by 5 minutes", gettext_noop("−5 min")),
                ("Shorter by 5 minutes", gettext_noop("Shorter")),
                ("Longer by 5 minutes", gettext_noop("Longer")),
                ("Cancelled, or driven after all", gettext_noop("Cancelled")),
                ("Which stage it is…", gettext_noop("Which stage…")),
                ("Edit the itinerary…", gettext_noop("Itinerary…")),
            )
        }
        works = (
            self.open_stage,
            lambda: self.move(STEP_MIN),
            lambda: self.move(-STEP_MIN),
            lambda: self.stretch(-STEP_MIN),
            lambda: self.stretch(STEP_MIN),
            self.turn_cancelled,
            self.ask_which,
            self.edit,
        )
        for made, work in zip(self.buttons.values(), works, strict=True):
            made.clicked.connect(lambda _=False, w=work: w())
        self._lay_out()
        self._timer = QTimer(self)
        self._timer.setInterval(EACH_MS)
        self._timer.timeout.connect(self.tick)
        rally.changed.connect(self.refresh)
        self.refresh()

    def _lay_out(self) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        left.addWidget(self.list, 1)
        card = QWidget()
        card.setObjectName("card")
        inner = QVBoxLayout(card)
        inner.setContentsMargins(18, 14, 18, 14)
        inner.addWidget(self.plan_title)
        inner.addWidget(self.plan)
        inner.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(card)
        right.addWidget(scroll, 1)
        row, column = QHBoxLayout(), QVBoxLayout(self)
        both = QHBoxLayout(self.body)
        both.setContentsMargins(0, 0, 0, 0)
        both.addLayout(left, 3)
        both.addLayout(right, 2)
        for made in self.buttons.values():
            row.addWidget(made)
        row.addStretch(1)
        column.setContentsMargins(18, 14, 18, 12)
        column.setSpacing(8)
        column.addWidget(self.heading)
        column.addWidget(self.when)
        column.addWidget(self.line)
        column.addWidget(self.body, 1)
        column.addWidget(self.fault)
        column.addLayout(row)
        column.addStretch(0)
        self.fault.hide()

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme = theme
        self.line.set_theme(theme)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.refresh()
        self._timer.start()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self._timer.stop()

    # What is shown

    def refresh(self) -> None:
        """Shows the rally and the stages on the shelf as they are now."""
        self._shelf = shelf()
        chosen = self.chosen.uid if self.chosen is not None else ""
        self._items = self.rally.itinerary
        self.heading.setText(self.rally.name)
        now = self._now()
        self._stages = {stage.name: stage for stage in self.rally.stages(now, self._shelf)}
        # Before there is an itinerary there is one thing to do.
        self.body.setVisible(bool(self._items))
        for name, made in self.buttons.items():
            made.setVisible(bool(self._items) or name == "Edit the itinerary…")
        self.list.blockSignals(True)
        self.list.clear()
        for item in self._items:
            stage = self._stages.get(item.name) if item.kind == "stage" else None
            row = QListWidgetItem(_row_words(item, stage, now))
            # Without one an empty picture: all times stand in line.
            row.setIcon(small_map(stage.shelf.shape if stage is not None and stage.shelf is not None else (), self.palette()))
            self.list.addItem(row)
        self.list.blockSignals(False)
        at = next((i for i, item in enumerate(self._items) if item.uid == chosen), None)
        if at is None:
            coming = next_start(self._items, now)
            at = next((i for i, item in enumerate(self._items) if coming is not None and item.uid == coming.uid), 0 if self._items else -1)
        self.list.setCurrentRow(at)
        self._show_now(now)

    def tick(self) -> None:
        """Shows what changes with the clock alone."""
        now = self._now()
        self._stages = {stage.name: stage for stage in self.rally.stages(now, self._shelf)}
        self._show_now(now)

    def _show_now(self, now: datetime) -> None:
        self.when.setText(self._when_words(now))
        self._show_chosen()
        plan = self.rally.plan(now, list(self._stages.values()))
        self.plan.setText(_plan_words(plan.doing, plan.left, now))

    def _when_words(self, now: datetime) -> str:
        if not self._items:
            return tr("Type or paste the itinerary: a line for each stage, service and control, with its time. Or open it from a file.")
        coming = next_start(self._items, now)
        if coming is None:
            return tr("No stage is left to drive.")
        return tr("Next: {0}, {1}, in {2}", coming.name, _moment_words(coming.start, now), _span_words(coming.start - now))

    def _show_chosen(self) -> None:
        """The day of the chosen item, and what can be done with it."""
        here, now = self.chosen, self._now()
        day = here.start.date() if here is not None else day_shown(self._items, now)
        self.line.show_day([item for item in self._items if item.start.date() == day], now, here.uid if here is not None else "")
        stage = self._stage_of(here)
        for name, ready in (
            ("Open the stage", stage is not None),
            ("Later by 5 minutes", here is not None),
            ("Earlier by 5 minutes", here is not None),
            ("Shorter by 5 minutes", here is not None and here.kind not in ("stage", "control") and here.minutes > 0),
            ("Longer by 5 minutes", here is not None and here.kind not in ("stage", "control")),
            ("Cancelled, or driven after all", stage is not None),
            ("Which stage it is…", stage is not None),
        ):
            self.buttons[name].setEnabled(ready)

    @property
    def chosen(self) -> Item | None:
        """The item that is chosen."""
        at = self.list.currentRow()
        return self._items[at] if 0 <= at < len(self._items) else None

    def _stage_of(self, item: Item | None) -> RallyStage | None:
        return self._stages.get(item.name) if item is not None and item.kind == "stage" else None

    def _choose(self, uid: str) -> None:
        self.list.setCurrentRow(next(i for i, item in enumerate(self._items) if item.uid == uid))

    # What can be done

    def open_stage(self) -> None:
        """Asks for the chosen stage to be opened, or begun where nothing of it is there."""
        stage = self._stage_of(self.chosen)
        if stage is not None and stage.shelf is not None:
            self.stage_wanted.emit(stage.shelf.path)
        elif stage is not None:
            self.begin_wanted.emit(stage.name)

    def ask_which(self) -> None:
        """Asks which stage of the shelf the chosen one is."""
        stage = self._stage_of(self.chosen)
        if stage is not None:
            self.which_wanted.emit(stage.name)

    def edit(self) -> None:
        """Asks for the itinerary to be typed."""
        self.itinerary_wanted.emit()

    def move(self, minutes: int) -> None:
        """Sets the chosen item later, or earlier, and everything behind it on that day."""
        here = self.chosen
        if here is not None:
            self._do(lambda: self.rally.set_itinerary(delayed(self._items, here.uid, minutes)))

    def stretch(self, minutes: int) -> None:
        """Makes the chosen service or liaison longer, or shorter; everything behind it on that day moves by that."""
        here = self.chosen
        if here is not None and here.kind not in ("stage", "control"):
            takes = max(0.0, here.minutes + minutes)
            self._do(lambda: self.rally.set_itinerary(lasting(self._items, here.uid, takes)))

    def turn_cancelled(self) -> None:
        """The chosen stage is not driven, or is driven after all."""
        here = self.chosen
        if here is not None and here.kind == "stage":
            self._do(lambda: self.rally.set_itinerary(cancelled(self._items, here.uid, is_cancelled=not here.cancelled)))

    def step(self, by: int) -> None:
        """Chooses another item."""
        if self._items:
            self.list.setCurrentRow(min(max(self.list.currentRow() + by, 0), len(self._items) - 1))

    def _do(self, work: Callable[[], None]) -> None:
        done(work, self.fault)
        self.fault.setVisible(bool(self.fault.text()))


def _row_words(item: Item, stage: RallyStage | None, now: datetime) -> str:
    """An item in its list: its time, number and name, and of a stage how far its work has come."""
    takes = tr("{0:.0f} min", item.minutes) if item.minutes else ""
    length = tr("{0:.1f} km", stage.length_m / 1000) if stage is not None and stage.length_m else ""
    head = "   ".join(p for p in (_moment_words(item.start, now), *name_words(item), length, takes) if p)
    if item.cancelled:
        return head + "\n" + tr("cancelled")
    if stage is None or stage.next_drive is None or stage.next_drive.uid != item.uid:
        return head
    return f"{head}\n{_state_words(stage)}"


def name_words(item: Item) -> list[str]:
    """The number of a stage or a control, as organisers write it, and its name, as far as it has both."""
    name = item.own_name if item.drive == 1 else tr("{0}, drive {1}", item.name, item.drive)
    return [words for words in (_number_words(item), name) if words]


def _number_words(item: Item) -> str:
    if not item.number:
        return ""
    if item.kind == "control":
        return tr("TC{0}", item.number)
    return tr("SS{0}", item.number) if item.kind == "stage" else ""


def _state_words(stage: RallyStage) -> str:
    """What is left to do before the next drive of a stage, and the time that is expected of it."""
    here = stage.shelf
    if here is None:
        return tr("no notes and no recording yet")
    if not here.opened:
        return tr("not reviewed yet")
    parts = [
        tr_counted("1 pass", "{0} passes", here.passes),
        tr_counted("▼ 1 danger left", "▼ {0} dangers left", here.dangers_left) if here.dangers_left > 0 else "",
        tr_counted("1 change to copy", "{0} changes to copy", here.to_copy) if here.to_copy else "",
        tr_counted("1 change not rehearsed", "{0} changes not rehearsed", here.work.to_rehearse) if here.work.to_rehearse else "",
        tr_counted("1 condition", "{0} conditions", len(here.work.conditions)) if here.work.conditions else "",
        _time_words(stage.expected),
    ]
    said = [p for p in parts if p]
    return "  ·  ".join(said if len(said) > 1 else [*said, tr("nothing left to do")])


def _time_words(expected: StageTime | None) -> str:
    if expected is None:
        return ""
    times = (expected.expected_s, expected.low_s, expected.high_s)
    return tr("expected {0} ({1} to {2})", *(f"{round(s) // 60}:{round(s) % 60:02d}" for s in times))


WORK_COUNTS = {
    "danger": lambda n: tr_counted("1 danger", "{0} dangers", n),
    "change": lambda n: tr_counted("1 change to decide", "{0} changes to decide", n),
    "copy": lambda n: tr_counted("1 change to copy", "{0} changes to copy", n),
    "rehearse": lambda n: tr_counted("1 change to rehearse", "{0} changes to rehearse", n),
    "check": lambda n: tr_counted("1 check", "{0} checks", n),
}


def _plan_words(doing: Sequence[Work], left: Sequence[Work], now: datetime) -> str:
    """The plan, a paragraph for each start, and what will not fit."""
    lines: list[str] = []
    for due, works in groupby(doing, key=lambda w: w.due):
        lines += [""] * bool(lines) + [tr("Before {0}:", _moment_words(due, now))]
        for stage, of_stage in groupby(works, key=lambda w: w.stage):
            group = list(of_stage)
            minutes = sum(w.minutes for w in group)
            lines.append(tr("{0}: {1} ({2})", stage, ", ".join(WORK_COUNTS[w.kind](w.count) for w in group), _minutes_words(minutes)))
    if left:
        lines += [""] * bool(lines) + [tr("Will not fit:")]
        for stage, of_stage in groupby(sorted(left, key=lambda w: (w.due, w.stage)), key=lambda w: w.stage):
            group = list(of_stage)
            minutes = sum(w.minutes for w in group)
            lines.append(tr("{0}: {1} ({2})", stage, ", ".join(WORK_COUNTS[w.kind](w.count) for w in group), _minutes_words(minutes)))
    return "\n".join(lines) or tr("Nothing is left to do before the coming starts.")


def _minutes_words(minutes: float) -> str:
    return tr("{0:.0f} min", max(1.0, minutes))


def _moment_words(moment: datetime, now: datetime) -> str:
    """A time; with its day where that is not today."""
    return f"{moment:%H:%M}" if moment.date() == now.date() else f"{day_words(moment.date())} {moment:%H:%M}"


def day_words(day: date) -> str:
    """A day as people write it."""
    return QLocale(spoken()).toString(QDate(day.year, day.month, day.day), "ddd d MMM")


def _span_words(span: timedelta) -> str:
    minutes = int(span.total_seconds() // 60)
    if minutes < 60:
        return tr_counted("1 minute", "{0} minutes", minutes)
    if minutes < 24 * 60:
        return tr("{0} h {1} min", minutes // 60, minutes % 60)
    return tr_counted("1 day", "{0} days", minutes // (24 * 60))
