"""Gather: bring the notes and the run, see what each is and what was read from it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QFileDialog,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from mirkle.core.cautions import CAUTIONS
from mirkle.core.messages import gettext_noop
from mirkle.files.project.project import SourceFile
from mirkle.gui.controls import OneAtATime, button, empty, wrapped
from mirkle.gui.keys import CommandWidget
from mirkle.gui.pages.gather_fields import AboutPassFields, DriveChoice, HabitBoxes, HeadedRow, LimitsFields
from mirkle.gui.pages.gather_rows import filmed_rows, rows_of
from mirkle.gui.pages.proof import ProofView, heading_of
from mirkle.gui.pages.shelf import ShelfView
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr
from mirkle.gui.views.map_with_heights import PlanView
from mirkle.gui.views.said_against import AgainstView
from mirkle.session.proof import Doubt, Proof, meant, overruled, proofs_of, taught, undone
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.said_against import SaidAgainst
from mirkle.session.video_pass import VideoPass

FILTER = (
    "Notes, runs, words, sound (*.txt *.docx *.odt *.rtf *.xlsx *.ods *.csv *.gpx *.nmea *.log *.mf4 *.fit *.tcx *.kml *.kmz "
    "*.geojson *.zip *.gz *.vtt *.srt *.sbv *.ttml *.ass *.json *.toml *.mirkle *.mirkle-rally "
    "*.wav *.flac *.opus *.ogg *.mp3 *.mp4 *.mkv *.mov);;"
    "All files (*)"
)


# Between the frame of the place for files and what stands in it.
ZONE_PX = 18
STEPS = (
    (
        gettext_noop("First, Gather"),
        gettext_noop("your notes and the recording. Mirkle finds the start, the road and the place of every note."),
    ),
    (
        gettext_noop("then Line up"),
        gettext_noop("check that every note is on its corner. The few unsure ones come first; one key puts them right."),
    ),
    (
        gettext_noop("then Compare"),
        gettext_noop(
            "note by note, what you called and what the car met, the most dangerous first. Change it, keep it or talk "
            "about it: one key each, and all can be undone."
        ),
    ),
    (gettext_noop("then Book"), gettext_noop("the new notes as you write them, and a card of the changes to copy by page and line.")),
    (gettext_noop("then Rehearse"), gettext_noop("call the changed places at stage pace, until each was in time twice.")),
    (gettext_noop("then Passes"), gettext_noop("after the next pass: was each change right, still too fast, or now too slow?")),
)


class Gather(CommandWidget):
    """Emits ``files_given`` and ``new_stage_wanted`` with paths, ``demo_wanted`` and ``typing_wanted``.

    ``settled`` carries the crew's file as it shall be after a doubtful word was settled; ``limits_wanted`` when the car left
    the start line and passed the finish, each ``None`` to have it found; ``about_pass_typed`` its kind, day and car;
    ``stage_wanted`` a recent stage's file; ``hear_wanted`` a moment of the words' clock to be heard; ``compare_wanted`` when all was taken
    for the right thing.
    """

    place = "Gather"
    files_given = pyqtSignal(list)
    demo_wanted = pyqtSignal()
    typing_wanted = pyqtSignal()
    blanks_wanted = pyqtSignal()
    settled = pyqtSignal(object)
    limits_wanted = pyqtSignal(object, object)
    about_pass_typed = pyqtSignal(object)
    stage_wanted = pyqtSignal(object)
    new_stage_wanted = pyqtSignal(list)
    hear_wanted = pyqtSignal(float)
    compare_wanted = pyqtSignal()
    change_wanted = pyqtSignal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.heading = wrapped(style="title")
        self.lead = wrapped(style="why")
        self.open_button = QPushButton(tr("Choose files…  Ctrl+O"))
        self.demo_button = QPushButton(tr("Show me the demo stage"))
        self.type_button = QPushButton(tr("Type in your notes…"))
        self.type_button.clicked.connect(self.typing_wanted)
        self.blanks_button = button(
            tr("Begin the book from this recording"),
            tr("A page with a blank for each bend, and what the road is like there; you write the notes"),
        )
        self.blanks_button.clicked.connect(self.blanks_wanted)
        self.blanks_button.hide()
        self.next_button = button(tr("Go on to Compare  ⏎"), tr("See what was found, the most dangerous first (Enter)"), "primary")
        self.next_button.clicked.connect(self.compare_wanted)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("Gather"))
        self.open_button.clicked.connect(self.choose_files)
        self.demo_button.clicked.connect(self.demo_wanted)
        self.shelf = ShelfView()
        self.shelf.wanted.connect(self.stage_wanted)
        self.read = QVBoxLayout()
        self.fault = wrapped(style="fault")
        self.fault.setAccessibleName(tr("What went wrong"))
        self.habits, self.about_pass = HabitBoxes(), AboutPassFields()
        self.habits.chosen.connect(lambda habit, value: self._settle(overruled(self._inputs, habit, value)))
        self.about_pass.typed.connect(self.about_pass_typed)
        self.limits, self.drives = LimitsFields(), DriveChoice()
        self.limits.wanted.connect(self.limits_wanted)
        self.limits.fault.connect(self.tr_fault)
        self.drives.wanted.connect(lambda at_s: self.limits_wanted.emit(at_s, None))
        self._plan_place = QVBoxLayout()
        self._waiting: Callable[[], None] | None = None
        self.has_stage = False
        self._lay_out()
        self.show_empty([])

    def _show_plan(self, plan: PlanView | None) -> None:
        empty(self._plan_place)
        if plan is not None:
            self._plan_place.addWidget(plan)

    def _lay_out(self) -> None:
        card = QWidget()
        card.setObjectName("card")
        column = QVBoxLayout(card)
        column.setContentsMargins(36, 26, 36, 22)
        column.setSpacing(7)
        # While nothing is open it looks like what it is: a place to drop files.
        self.drop_zone = QFrame()
        self.drop_zone.setObjectName("dropZone")
        zone = QVBoxLayout(self.drop_zone)
        zone.addWidget(self.heading)
        zone.addWidget(self.lead)
        buttons = QHBoxLayout()
        buttons.addWidget(self.open_button)
        buttons.addWidget(self.type_button)
        buttons.addWidget(self.blanks_button)
        buttons.addWidget(self.demo_button)
        buttons.addWidget(self.next_button)
        buttons.addStretch(1)
        zone.addLayout(buttons)
        column.addWidget(self.drop_zone)
        column.addWidget(self.shelf, 3)
        column.addWidget(self.fault)
        column.addWidget(self._scrolled(self.drives, self.read, self.about_pass, self.limits, self.habits), 4)
        column.addLayout(self._plan_place, 3)
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
        area.setAccessibleName(tr("What was read"))
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        return area

    def show_empty(self, sentences: list[tuple[str, str]], against: SaidAgainst | None = None, *, can_begin: bool = False) -> None:
        """Before a stage is open: what is there of it, as (name, sentence), and the words against the notes; ``can_begin`` where a book can
        be begun from the recording that waits."""
        self.heading.setText(tr("Drop your notes and the recording of the run here"))
        self._waiting, self.has_stage = None, False
        self._show_zone(empty=True)
        self.demo_button.show()
        self.type_button.show()
        self.blanks_button.setVisible(can_begin)
        self.next_button.hide()
        self.lead.setText(
            tr(
                "1. Your notes: text, document or spreadsheet, a note a line.\n"
                "2. The recording: a table with time and position (CSV), GPX, NMEA, FIT, TCX, KML, GeoJSON, MDF4 or a telephone's "
                "archive.\n"
                "3. If you have them: the timed text, the sound or the video of the calls.\n"
                "Mirkle says what it read from each file. Your files are not changed."
            )
        )
        self._show_beside([] if against is None else [(tr("Calls and book"), AgainstView(against))])
        self.habits.hide()
        self.limits.hide()
        self.about_pass.hide()
        self.drives.hide()
        self.shelf.refresh()
        self._show_plan(None)
        first = [*STEPS, *zip((gettext_noop("Safety"), "", "", "", ""), CAUTIONS, strict=True)]
        self._show_rows(sentences or [(tr(head) if head else "", tr(words)) for head, words in first])

    def show_stage(self, stage: ReviewedPass, theme: Theme, *, can_hear: bool = False) -> None:
        """The open stage: its files, what was read, and what can't be judged from it; ``can_hear`` its words.

        Worked out when it is gone to (:meth:`fill`): most of the time a stage opens in Compare.
        """
        self._waiting, self.has_stage = lambda: self._fill(stage, theme, can_hear=can_hear), True
        self._show_zone(empty=False)

    def _show_zone(self, *, empty: bool) -> None:
        """The frame of the place for files, dashed while nothing is open."""
        self.drop_zone.setProperty("empty", empty)
        self.drop_zone.style().polish(self.drop_zone)
        margin = ZONE_PX if empty else 0
        zone = self.drop_zone.layout()
        assert zone is not None
        zone.setContentsMargins(margin, margin, margin, margin)

    def show_filmed(self, filmed: VideoPass) -> None:
        """An open pass with nothing but a book and a video."""
        self._waiting, self.has_stage = None, True
        self._show_zone(empty=False)
        self._show_beside([])
        for part in (self.habits, self.limits, self.drives, self.shelf, self.demo_button, self.type_button, self.blanks_button):
            part.hide()
        self._show_plan(None)
        self.next_button.setText(tr("Go on to watch it  ⏎"))
        self.next_button.show()
        self.heading.setText(tr("{0}: book and video", filmed.project.name))
        self.lead.setText(
            tr(
                "This pass has only a video, so nothing is measured. Watch it note by note and say what you saw. Drop the "
                "recording here at any time to measure it as well."
            )
        )
        self.about_pass.show_pass(filmed.this_pass)
        self._show_rows(filmed_rows(filmed))

    def fill(self) -> None:
        """Shows what :meth:`show_stage` was given, unless it was shown already."""
        waiting, self._waiting = self._waiting, None
        if waiting is not None:
            waiting()
            self._forget_old_width()

    def _forget_old_width(self) -> None:
        """Buttons have come and gone while nobody looked: as wide as it was with all of them, the page would make the window wider."""
        part: QWidget | None = self.drop_zone
        while part is not None and (inside := part.layout()) is not None:
            # A row in a column keeps its own width.
            for layout in (inside, *inside.findChildren(QLayout)):
                layout.invalidate()
            part.updateGeometry()
            part = part.parentWidget() if part is not self else None

    def _fill(self, stage: ReviewedPass, theme: Theme, *, can_hear: bool) -> None:
        self._inputs = stage.inputs
        self._show_proofs(proofs_of(stage.inputs), theme, can_hear=can_hear)
        self.habits.show_habits(stage)
        self._show_plan(PlanView(stage, theme))
        self.shelf.hide()
        self.demo_button.hide()
        self.type_button.hide()
        self.blanks_button.hide()
        self.next_button.setText(tr("Go on to Compare  ⏎"))
        self.next_button.show()
        review = stage.review
        self.heading.setText(tr("{0}: {1:.1f} km from start to finish", stage.project.name, review.finish_m / 1000))
        self.lead.setText(
            tr("{0}. Drop another pass, words or sound here to add them. Mirkle asks where something is not clear.", stage.run.name)
        )
        self.limits.show_limits(stage)
        self.about_pass.show_pass(stage.this_pass)
        self.drives.show_drives(review)
        self._show_rows(rows_of(stage))

    def _show_proofs(self, proofs: list[Proof], theme: Theme, *, can_hear: bool) -> None:
        """The proofs, the one with the most to settle in front."""
        views: list[tuple[str, QWidget]] = []
        for proof in proofs:
            view = ProofView(proof, theme)
            view.offer_sound(there=can_hear)
            view.left.connect(self._leave)
            view.change_wanted.connect(self.change_wanted)
            view.explained.connect(self._teach)
            view.hear_wanted.connect(self.hear_wanted)
            views.append((heading_of(proof), view))
        self._show_beside(views, in_front=max(range(len(proofs)), key=lambda n: len(proofs[n].doubts), default=0))

    def _show_beside(self, views: list[tuple[str, QWidget]], in_front: int = 0) -> None:
        """Pages beside the card, one of them at a time, each with its heading as a button; without any the card is alone."""
        empty(self.proofs)
        for part in (self._left, self._right):
            part.setVisible(not views)
        self.proof_card.setVisible(bool(views))
        if not views:
            return
        self.proofs.addWidget(OneAtATime(views, in_front))

    def _leave(self, doubt: Doubt) -> None:
        self._settle((meant if doubt.kind == "itself" else undone)(self._inputs, doubt))

    def _teach(self, doubt: Doubt, kind: str, key: str) -> None:
        self._settle(taught(self._inputs, doubt, kind, key))

    def _settle(self, crew: SourceFile) -> None:
        # The next word is settled on top of this one, whether or not the notes have been read again by then.
        self._inputs = replace(self._inputs, crew=crew)
        self.settled.emit(crew)

    def _show_rows(self, rows: list[tuple[str, str]]) -> None:
        empty(self.read)
        for name, sentence in rows:
            row = HeadedRow(name)
            row.column.addWidget(wrapped(sentence, "why"))
            self.read.addWidget(row)

    def tr_fault(self, sentence: str) -> None:
        """Shows what went wrong; an empty sentence takes it away."""
        self.fault.setText(sentence)

    def go_on(self) -> None:
        """Goes on to Compare, where that is offered; before a stage is open, opens the one that is chosen on the shelf."""
        if not self.next_button.isHidden():
            self.compare_wanted.emit()
        elif not self.has_stage:
            self.shelf.open_chosen()

    def choose_files(self) -> None:
        """Asks for files, and, where a stage is open, whether they are another one's."""
        dialog = QFileDialog(self, tr("Notes, recording, words, sound"), "", FILTER)
        dialog.setFileMode(QFileDialog.FileMode.ExistingFiles)
        new = QCheckBox(tr("Begin a new stage with these files"))
        column = dialog.layout()
        if self.has_stage and isinstance(column, QGridLayout):
            column.addWidget(new, column.rowCount(), 0, 1, column.columnCount())
        if dialog.exec() and (names := dialog.selectedFiles()):
            paths = [Path(n) for n in names]
            (self.new_stage_wanted if new.isChecked() else self.files_given).emit(paths)
