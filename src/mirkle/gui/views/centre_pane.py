"""The middle of Compare: the straightened road, the plan, or the video, one of them at a time and as large as its pane."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from mirkle.gui.controls import button, label
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr
from mirkle.gui.views.road import RoadView
from mirkle.gui.views.stage_map import StagePlan

if TYPE_CHECKING:
    from mirkle.gui.views.video import VideoPane


class Middle(QWidget):
    """``shown`` is told when another view comes to the front. The video's place is there only where this pass has one."""

    shown = pyqtSignal()

    def __init__(self, road: RoadView, plan: StagePlan, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.road, self.plan = road, plan
        self.video: VideoPane | None = None
        self.views = QStackedWidget()
        self.buttons: dict[str, QPushButton] = {}
        group, row = QButtonGroup(self), QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        for name, words, tip in (
            ("road", tr("Road"), tr("The road, straightened, with your grades (M: next view)")),
            ("plan", tr("Map"), tr("The stage from above (M: next view)")),
            ("video", tr("Video"), tr("The video of this pass (M: next view)")),
        ):
            made = button(words, tip, "small")
            made.setCheckable(True)
            made.clicked.connect(lambda _=False, n=name: self.show_view(n))
            group.addButton(made)
            self.buttons[name] = made
            row.addWidget(made)
        self.buttons["video"].hide()
        self.measure = label(style="faint")
        self.out_button = button("−", tr("Zoom out (−)"), "small")
        self.in_button = button("+", tr("Zoom in (+)"), "small")
        self.out_button.clicked.connect(lambda: self.zoom(-1))
        self.in_button.clicked.connect(lambda: self.zoom(1))
        row.addStretch(1)
        for widget in (self.measure, self.out_button, self.in_button):
            row.addWidget(widget)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addLayout(row)
        column.addWidget(self.views, 1)
        self.views.addWidget(road)
        self.views.addWidget(plan)
        road.zoomed.connect(self._tell)
        self.show_view("road")

    def offer_video(self) -> None:
        """Shows that this pass has a video."""
        self.buttons["video"].show()

    def set_video(self, pane: VideoPane) -> None:
        """Gives the video its place."""
        self.video = pane
        self.views.addWidget(pane)

    @property
    def view(self) -> str:
        """Which view is in front."""
        return next((name for name, made in self.buttons.items() if made.isChecked()), "road")

    def show_view(self, name: str) -> None:
        """Brings a view to the front."""
        widget = {"road": self.road, "plan": self.plan, "video": self.video}[name]
        self.buttons[name].setChecked(True)
        for made in (self.out_button, self.in_button, self.measure):
            made.setVisible(name != "video")
        if widget is not None:
            self.views.setCurrentWidget(widget)
        if name == "plan":
            self.plan.show_chosen()
        self._tell()
        self.shown.emit()

    def next_view(self) -> None:
        """Goes round the views that there are."""
        names = [n for n, made in self.buttons.items() if not made.isHidden()]
        self.show_view(names[(names.index(self.view) + 1) % len(names)])

    def zoom(self, steps: int) -> None:
        """Zooms in by some steps, out by negative ones."""
        if self.view == "road":
            self.road.zoom(steps)
        elif self.view == "plan":
            self.plan.zoom(steps)

    def _tell(self) -> None:
        road = self.view == "road"
        self.measure.setText(tr("{0:.0f} m shown", self.road.in_sight_m) if road else "")

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        for part in (self.road, self.plan, self.video):
            if part is not None:
                part.set_theme(theme)
