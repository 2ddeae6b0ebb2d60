"""The stages of this crew as a list: open one, rename, copy, or move it to the bin."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QFile, QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QIcon, QPainter, QPalette, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import QDialog, QFormLayout, QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.gui.controls import ask, button, label, wrap_items, wrapped
from mirkle.gui.translation import tr, tr_counted, tr_fault
from mirkle.session import recent_stages, shelf
from mirkle.session.shelf import Shelved
from mirkle.session.stage_summary import NOT_KNOWN, NOT_MEASURED, SHAPE

ROW_PX, MOST_ROWS, MAP_PX = 50, 5, 38


def small_map(shape: Sequence[tuple[int, int]], palette: QPalette) -> QIcon:
    """A stage from above, small enough for a row of the list; empty where it was never measured, so that all names stand in line."""
    picture = QPixmap(2 * MAP_PX, 2 * MAP_PX)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(palette.color(QPalette.ColorRole.Text), 3.0))
    scale = (2 * MAP_PX - 8) / SHAPE
    painter.drawPolyline(QPolygonF([QPointF(4 + x * scale, 4 + y * scale) for x, y in shape]))
    painter.end()
    return QIcon(picture)


class ShelfView(QWidget):
    """``wanted`` carries the file of a stage to be opened; ``new_wanted`` asks for a new one. ``in_use`` is the one that is open here, and
    can't be moved."""

    wanted = pyqtSignal(object)
    new_wanted = pyqtSignal()

    def __init__(self, in_use: Path | None = None, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._in_use = in_use
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Your stages, the latest first"))
        wrap_items(self.list)
        self.list.setIconSize(QSize(MAP_PX, MAP_PX))
        self.list.itemActivated.connect(lambda _: self.open_chosen())
        self.list.itemClicked.connect(lambda _: self._show_what_can_be_done())
        self.list.currentRowChanged.connect(lambda _: self._show_what_can_be_done())
        self.list.itemDoubleClicked.connect(lambda _: self.open_chosen())
        self.open_button = button(tr("Open  ⏎"), tr("Open the chosen stage (Enter)"), "primary")
        self.rename_button = button(tr("Rename…"), tr("Give the stage another name or event"))
        self.copy_button = button(tr("Copy"), tr("Make a copy of the stage with everything in it"))
        self.bin_button = button(tr("Move to the bin…"), tr("Move the stage's file to the bin of this computer"))
        self.new_button = button(tr("New stage"), tr("Begin another stage; this one is kept as it is"))
        self.new_button.clicked.connect(self.new_wanted)
        for made, work in (
            (self.open_button, self.open_chosen),
            (self.rename_button, self._rename),
            (self.copy_button, self._copy),
            (self.bin_button, self._bin),
        ):
            made.clicked.connect(work)
        self.fault = wrapped(style="fault")
        self.fault.hide()
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(label(tr("Your stages"), "title"))
        column.addWidget(self.list, 1)
        column.addWidget(self.fault)
        for made in (self.open_button, self.new_button, self.rename_button, self.copy_button, self.bin_button):
            row.addWidget(made)
        row.addStretch(1)
        column.addLayout(row)
        self.refresh()

    def refresh(self) -> None:
        """Lists the stages as they are now."""
        self._stages = shelf.shelf()
        self.list.clear()
        for one in self._stages:
            item = QListWidgetItem(f"{_heading(one)}\n{_told(one)}")
            item.setToolTip(str(one.path))
            item.setIcon(small_map(one.shape, self.palette()))
            self.list.addItem(item)
        self.list.setMinimumHeight(min(len(self._stages), MOST_ROWS) * ROW_PX + 6)
        self.list.setCurrentRow(0 if self._stages else -1)
        self.setVisible(bool(self._stages))
        self._show_what_can_be_done()

    @property
    def chosen(self) -> Shelved | None:
        """The stage that is chosen."""
        at = self.list.currentRow()
        return self._stages[at] if 0 <= at < len(self._stages) else None

    def _show_what_can_be_done(self) -> None:
        here = self.chosen
        mine = here is not None and self._in_use is not None and here.path.resolve() == self._in_use.resolve()
        for made in (self.rename_button, self.copy_button, self.bin_button):
            made.setEnabled(here is not None and not mine)
        self.open_button.setEnabled(here is not None)

    def open_chosen(self) -> None:
        """Asks for the chosen stage to be opened."""
        if self.chosen is not None:
            self.wanted.emit(self.chosen.path)

    def _rename(self) -> None:
        here = self.chosen
        if here is None:
            return
        dialog = _NameDialog(here, self)
        if dialog.exec():
            self._do(lambda: shelf.rename(here.path, dialog.name.text(), dialog.event_name.text(), dialog.car.text()))

    def _copy(self) -> None:
        here = self.chosen
        if here is not None:
            self._do(lambda: recent_stages.remember_last(shelf.copy(here.path)))

    def _bin(self) -> None:
        here = self.chosen
        if here is None:
            return
        question = tr("Move “{0}” to the bin? It can be taken out of there again.", here.name)
        if ask(self, question, {"bin": tr("Move it to the bin"), "stay": tr("Leave it here")}) == "bin":
            moved, _ = QFile.moveToTrash(str(here.path))
            if moved:
                recent_stages.forget(here.path)
                self.refresh()
            else:
                self._say(tr("{0}: it can't be moved to the bin; delete the file by hand if you want to.", here.path))

    def _do(self, work) -> None:  # type: ignore[no-untyped-def]
        try:
            work()
        except MirkleError as fault:
            self._say(tr_fault(fault))
        else:
            self._say("")
            self.refresh()

    def _say(self, words: str) -> None:
        self.fault.setText(words)
        self.fault.setVisible(bool(words))


class ShelfDialog(QDialog):
    """The shelf in a dialog, while a stage is open. ``chosen`` is the stage to open instead; ``new`` where a new one is to be begun."""

    def __init__(self, in_use: Path | None, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Your stages"))
        self.resize(760, 460)
        self.chosen: Path | None = None
        self.new = False
        self.view = ShelfView(in_use)
        self.view.wanted.connect(self._take)
        self.view.new_wanted.connect(self._begin)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 20)
        column.addWidget(self.view)

    def _take(self, path: Path) -> None:
        self.chosen = path
        self.accept()

    def _begin(self) -> None:
        self.new = True
        self.accept()


class _NameDialog(QDialog):
    """A stage's name, its event and the car's number: what stands on every printed sheet."""

    def __init__(self, stage: Shelved, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Rename the stage"))
        self.setMinimumWidth(440)
        self.name, self.event_name, self.car = QLineEdit(stage.name), QLineEdit(stage.event), QLineEdit(stage.car)
        self.name.setAccessibleName(tr("The stage's name"))
        self.event_name.setAccessibleName(tr("The event"))
        self.car.setAccessibleName(tr("The car's number"))
        form = QFormLayout()
        form.addRow(label(tr("Stage")), self.name)
        form.addRow(label(tr("Event")), self.event_name)
        form.addRow(label(tr("Car")), self.car)
        keep, back = button(tr("Rename"), name="primary"), button(tr("Back"))
        keep.clicked.connect(self.accept)
        back.clicked.connect(self.reject)
        row = QHBoxLayout()
        row.addStretch(1)
        row.addWidget(back)
        row.addWidget(keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        column.addLayout(form)
        column.addLayout(row)


def _heading(one: Shelved) -> str:
    return f"{one.name}  ·  {one.event}" if one.event else one.name


def _told(one: Shelved) -> str:
    """Day, length, passes, dangers left and changes not yet copied, as far as they are known."""
    if not one.readable:
        return tr("can't be read  ·  {0}", one.path.name)
    if not one.opened:
        return tr("not reviewed yet  ·  {0}", one.path.name)
    parts = [one.day, tr("{0:.1f} km", one.length_m / 1000) if one.length_m else ""]
    parts.append(tr_counted("1 pass", "{0} passes", one.passes))
    parts.append(
        ""
        if one.dangers_left == NOT_KNOWN
        else tr("nothing measured")
        if one.dangers_left == NOT_MEASURED
        else tr("no danger left")
        if not one.dangers_left
        else tr_counted("▼ 1 danger left", "▼ {0} dangers left", one.dangers_left)
    )
    if one.to_copy:
        parts.append(tr("changes not copied yet: {0}", one.to_copy))
    return "  ·  ".join(p for p in parts if p)
