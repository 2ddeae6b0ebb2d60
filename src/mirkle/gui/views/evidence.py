"""The evidence for the chosen finding: why, in a sentence with the numbers that count, what to write instead, and the answers.

The rest, traces and all other figures, comes and goes by one key.
"""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QSizePolicy, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.notebook.decisions import ANSWER_WORDS
from mirkle.gui.controls import ChoiceBox, button, label, wrapped
from mirkle.gui.keys import FieldKeys
from mirkle.gui.labels import BY_SAID, BY_WORDS, SEVERITY_WORDS, sure_words, title_of
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr, tr_counted, tr_fault, tr_message, tr_why
from mirkle.gui.views.drawings import Drawing, FromAbove, ScaleBar, Traces
from mirkle.gui.views.finding_facts import facts_of, remarks_near
from mirkle.gui.views.note_field import NoteField
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.settings import keep_setting, setting

# So high is it in a window of 800 pixels; no finding may make the window outgrow its screen.
HIGHEST_PX = 474
# Lower than this, the traces are not drawn, and then the plan is not.
ROOM_FOR_TRACES_PX, ROOM_FOR_PLAN_PX = 560, 480
# A note that is less sure to belong here is said to be so.
SURELY_HERE = 0.9
# A note of more letters than this does not fit on the line above the field.
NAMED = 36
# More notes than this are not read out under the field.
READ_OUT = 3
# The setting that says whether everything that is known of a finding is shown, or only the answer.
IN_FULL = "all figures"


class Evidence(QWidget):
    """Emits ``answered`` with ``mark``, ``keep``, ``talk`` or ``video``."""

    answered = pyqtSignal(str)

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self._least = QSize(0, 0)
        # What was typed and not marked, by the finding or note that it is for: going elsewhere loses none of it.
        self._drafts: dict[str | int, str] = {}
        self.setObjectName("card")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.title, self.why, self.severity = wrapped(style="title"), wrapped(style="why"), wrapped(style="faint")
        self.in_full = setting(IN_FULL, False) is True
        self.more_button = button("", tr("The traces and every other figure of it, or only the answer (F)"), "small")
        self.more_button.clicked.connect(self.turn_more)
        self.drawings: list[Drawing] = [ScaleBar(stage, theme, 98), Traces(stage, theme, 60), FromAbove(stage, theme, 40)]
        self.facts = wrapped(style="faint")
        self.rest = QWidget()
        self.write_label = label(tr("Write instead"))
        self.write_label.setObjectName("faint")
        self.field = NoteField(tr("The new note"))
        self.field.textChanged.connect(self._read_back)
        self.field.textChanged.connect(self._note_typing)
        self._shown: str | int | None = None
        self._typed = self._fresh = False
        FieldKeys("Note field", self.field, self)
        self.read_back = wrapped(style="readBack")
        self.buttons = {
            "mark": button(tr("Mark it  ⏎"), tr("Write this into the book (Enter)"), "primary"),
            "keep": button(tr("Keep  K"), tr("Keep the note as it is written (K)")),
            "talk": button(tr("Talk  T"), tr("Talk about it later (T)")),
            "video": button(tr("Video  V"), tr("Look at it on the video before deciding (V)")),
        }
        self.who = ChoiceBox()
        for by, words in BY_WORDS.items():
            self.who.addItem(f"{tr(words)}  ▾", by)
        self.who.setAccessibleName(tr("Who agreed"))
        self.who.setToolTip(tr("Who agreed (B changes it)"))
        self.remark = QLineEdit()
        self.remark.setObjectName("quiet")
        self.remark.setPlaceholderText(tr("remark  R"))
        self.remark.setAccessibleName(tr("A remark on the decision"))
        FieldKeys("Remark field", self.remark, self)
        for name, pressed in self.buttons.items():
            pressed.clicked.connect(lambda _=False, n=name: self.answered.emit(n))
        for text in (self.title, self.why, self.severity, self.facts, self.read_back):
            text.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
        self._lay_out()
        self.show_chosen()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(18, 8, 18, 8)
        column.setSpacing(3)
        column.addWidget(self.title)
        under = QHBoxLayout()
        under.addWidget(self.severity, 1)
        under.addWidget(self.more_button, 0, Qt.AlignmentFlag.AlignTop)
        column.addLayout(under)
        column.addWidget(self.why)
        column.addWidget(self.drawings[0])
        column.addWidget(self.drawings[1], 3)
        below = QHBoxLayout()
        below.addWidget(self.drawings[2], 2)
        self.facts.setAlignment(Qt.AlignmentFlag.AlignTop)
        below.addWidget(self.facts, 3)
        column.addLayout(below, 2)
        column.addWidget(self.rest, 4)
        column.addWidget(self.write_label)
        column.addWidget(self.field)
        column.addWidget(self.read_back)
        said = QHBoxLayout()
        said.addWidget(self.who, 1)
        said.addWidget(self.remark, 2)
        column.addLayout(said)
        row = QHBoxLayout()
        for name, pressed in self.buttons.items():
            row.addWidget(pressed, 3 if name == "mark" else 2)
        column.addLayout(row)

    # Its texts change with every finding. The size it asks for does not, or only upwards: else the whole window would be
    # laid out anew at each step, which costs more than painting it.

    def hasHeightForWidth(self) -> bool:
        return False

    def minimumSizeHint(self) -> QSize:
        asked = super().minimumSizeHint().boundedTo(QSize(10_000, HIGHEST_PX))
        self._least = self._least.expandedTo(asked)
        return self._least

    def sizeHint(self) -> QSize:
        return self.minimumSizeHint()

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        for drawing in self.drawings:
            drawing.theme = theme
            drawing.update()

    @property
    def text(self) -> str:
        """What stands in the field."""
        return self.field.text

    @property
    def by(self) -> str:
        """Who says so: the driver, the co-driver, both, or nobody said."""
        return str(self.who.currentData())

    def next_by(self) -> None:
        """Goes round who says so."""
        self.who.setCurrentIndex((self.who.currentIndex() + 1) % self.who.count())

    def begin_editing(self) -> None:
        """Opens the field on a note on which nothing was found, so that a crew can write what it knows."""
        if self.stage.finding is None:
            for widget in (self.write_label, self.field, self.buttons["mark"], self.who, self.remark):
                widget.setVisible(True)
            self._name_what_is_replaced()
            text = self.stage.book.edition.text_of(self.stage.review.notes[self.stage.note])
            self.field.setPlainText(self._drafts.get(self._subject, text))
            self.rest.setVisible(True)

    @property
    def _subject(self) -> str | int:
        """What a typed text is for: the chosen finding, or the note."""
        return self.stage.finding.id if self.stage.finding is not None else self.stage.note

    def _keep_draft(self) -> None:
        """Keeps what stands in the field for what was shown until now, where somebody has typed there."""
        if self._shown is not None and self._typed:
            self._drafts[self._shown] = self.text
        self._typed = False

    def forget_draft(self) -> None:
        """What was typed for what is shown is marked, or not wanted any more."""
        self._drafts.pop(self._subject, None)
        self._typed = False

    def show_chosen(self) -> None:
        """Shows the chosen finding, or the note where it has none."""
        self._keep_draft()
        self._fresh, self._shown = self._shown != self._subject, self._subject
        finding = self.stage.finding
        for widget in (
            *self.drawings,
            self.facts,
            self.more_button,
            self.write_label,
            self.field,
            *self.buttons.values(),
            self.severity,
            self.who,
            self.remark,
        ):
            widget.setVisible(finding is not None)
        self.rest.setVisible(finding is None)
        self._spare_drawings()
        note = self.stage.review.notes[self.stage.note]
        if finding is None:
            self.title.setText(note.text)
            self._colour_title("")
            words = tr("Reads: {0}.\n\nNo finding on this note. N: next finding. E: edit the note.", tr_message(note.read_back))
            here = self.stage.review.lineup.bend_of(note.index)
            near = remarks_near(self.stage.review, here.from_m, here.to_m) if here is not None else []
            self.why.setText("\n\n".join([words, *near]))
            self.read_back.setText("")
        else:
            self.title.setText(title_of(finding))
            self._colour_title(finding.severity)
            decision = self.stage.book.decisions.get(finding.id)
            # The kilometre and the times stand at the bottom of the window.
            place = tr("page {0}, line {1}", note.page, note.line)
            said = f" · {tr(ANSWER_WORDS[decision.answer])}{f', {tr(BY_SAID[decision.by])}' if decision.by else ''}" if decision else ""
            self.remark.setText(decision.remark if decision else "")
            self.severity.setText(tr("{0} · {1} · {2}{3}", tr(SEVERITY_WORDS[finding.severity]), sure_words(finding), place, said))
            reported = self.stage.book.road.driven_with(finding.from_m, finding.to_m)
            with_it = [tr("Reported for this pass: {0}. It may be the road and not the note.", reported.words)] if reported else []
            reasons = (*finding.because, *finding.background) if self.in_full else finding.because
            self.why.setText(" ".join([tr_why(reasons), *self._doubt_of_place(), *with_it]))
            self.more_button.setText(tr("Less  F") if self.in_full else tr("More  F"))
            self.facts.setText(facts_of(self.stage, finding))
            proposal = self.stage.book.proposal(finding)
            self._name_what_is_replaced()
            text = proposal.text if proposal else note.text
            draft = self._drafts.get(finding.id)
            if self._fresh and draft is not None and draft != text:
                self.severity.setText(self.severity.text() + " · " + tr("with what you typed before"))
            self.field.setPlainText(draft or text)
            for drawing in self.drawings:
                drawing.update()

    def turn_more(self) -> None:
        """Shows everything that is known of the findings, or only the answer, from now on."""
        self.in_full = not self.in_full
        keep_setting(IN_FULL, self.in_full)
        self.show_chosen()

    def _doubt_of_place(self) -> list[str]:
        """How sure it is that the note belongs here, where that is a question."""
        assert self.stage.finding is not None
        tie = self.stage.review.lineup.tie_of.get(self.stage.finding.note)
        doubtful = tie is not None and tie.bend is not None and tie.sure < SURELY_HERE
        return [tr("{0:.0%} sure that the note belongs here.", tie.sure)] if tie is not None and doubtful else []

    def _spare_drawings(self) -> None:
        """On a low window words come first: the traces go before anything is squeezed, then the plan."""
        shown = self.stage.finding is not None
        wanted = {self.drawings[1]: ROOM_FOR_TRACES_PX, self.drawings[2]: ROOM_FOR_PLAN_PX, self.facts: ROOM_FOR_PLAN_PX}
        changed = False
        for widget, least in wanted.items():
            visible = shown and self.height() >= least and (self.in_full or widget is self.drawings[2])
            changed |= visible is widget.isHidden()
            widget.setVisible(visible)
        layout = self.layout()
        if changed and layout is not None:
            # Else what has come stands over the rest until the next turn of the loop.
            layout.activate()

    def _note_typing(self) -> None:
        # Only whoever has the keyboard types: everything else that changes the text is this program's.
        self._typed = self._typed or self.field.hasFocus()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._spare_drawings()
        super().resizeEvent(event)

    def _old_text(self) -> str:
        finding = self.stage.finding
        proposal = self.stage.book.proposal(finding) if finding is not None else None
        first, last = (proposal.first_note, proposal.last_note) if proposal else (self.stage.note, self.stage.note)
        return self.stage.book.edition.old_text(first, last).replace("\n", " / ")

    def _name_what_is_replaced(self) -> None:
        """Heads the field with the old note; a wordy one, which the page shows whole, would press the page together."""
        old = self._old_text()
        self.write_label.setText(tr("Write instead of “{0}”", old) if len(old) <= NAMED else tr("Write instead"))

    def _read_back(self) -> None:
        if self.field.isHidden():
            return
        try:
            words, fault = tr_message(self.stage.book.read_back(self.text)), False
        except MirkleError as error:
            words, fault = tr_fault(error), True
        same = self.text == self._old_text()
        if same and not fault:
            words = tr("As written. Press E to change it.")
        lines = self.text.count("\n") + 1
        read = tr("Reads: {0}", words) if lines <= READ_OUT else tr_counted("Reads as 1 note.", "Reads as {0} notes.", lines)
        self.tell(words if fault or same else read, fault=fault)
        self.buttons["mark"].setEnabled(not fault and not same)

    def tell(self, words: str, *, fault: bool) -> None:
        """A sentence under the field, as what was read or as a fault."""
        name = "fault" if fault else "readBack"
        if self.read_back.objectName() != name:
            self.read_back.setObjectName(name)
            self.read_back.style().polish(self.read_back)
        self.read_back.setText(words)

    def _colour_title(self, severity: str) -> None:
        # Style sheets are worked out anew only where something changes: that takes milliseconds.
        if self.title.property("severity") != severity:
            self.title.setProperty("severity", severity)
            self.title.style().polish(self.title)

    def mark_from_field(self) -> None:
        """Writes what the field holds into the book, where it can be."""
        if self.buttons["mark"].isEnabled():
            self.answered.emit("mark")

    def leave_field(self) -> None:
        """Leaves the field as it was."""
        self.forget_draft()
        self.show_chosen()
        self.parentWidget().setFocus()

    def leave_remark(self) -> None:
        """Leaves the remark, which is kept."""
        self.parentWidget().setFocus()
