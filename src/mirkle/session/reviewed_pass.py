"""The open stage: its material, the review of the chosen pass, the chosen finding, and the crew's decisions."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from typing import Literal, get_args

from mirkle.core.errors import MirkleError
from mirkle.core.judging.finding_kinds import KINDS, Group
from mirkle.core.judging.findings import Finding
from mirkle.core.lineup.called_notes import Pin
from mirkle.core.lineup.remarks import HandRemark
from mirkle.core.messages import message
from mirkle.core.notebook.decisions import Addition, Decision
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.model import Note
from mirkle.core.overrides import ManualOverrides, hand_pin
from mirkle.core.progress import Progress, silent
from mirkle.core.review import Review, review_again
from mirkle.core.speech.reading import CallTime
from mirkle.files.project.overrides import overrides_json
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.kept_reviews import keep_review, kept_review
from mirkle.session.open_pass import OpenPass
from mirkle.session.other_passes import OtherPasses
from mirkle.session.paging import on_paper
from mirkle.session.pass_list import chosen_pass, inputs_of_pass
from mirkle.session.reviewing import Inputs, Measurements, agreed, overrides_of, review_material
from mirkle.session.signal import Signal


def _in_group(group: str, finding: Finding) -> bool:
    return KINDS[finding.kind].group == group


# Which findings a crew may want to see alone.
SHOWN: dict[str, Callable[[Finding], bool]] = {
    "all": lambda _: True,
    "danger": lambda f: f.severity == "danger",
    "change": lambda f: f.severity in ("danger", "change"),
    **{group: partial(_in_group, group) for group in get_args(Group)},
}


class ReviewedPass(OpenPass):
    """One stage under review: what is looked at now, and what is set right by hand. ``book`` holds what was decided.

    Signals besides those of an open book: ``arranged`` (which findings are listed, or how). ``reviewed`` comes also where a note was moved
    by hand, and what was found changed with it.
    """

    def __init__(self, project: Project, review: Review, inputs: Inputs, this_pass: Pass, measurements: Measurements | None = None) -> None:
        self.inputs, self.run = inputs, inputs.run
        # As it was read, before it was laid on the pages of the paper book: this is what is kept.
        self._read = review.reading
        super().__init__(
            project,
            replace(review, reading=on_paper(project, review.reading)),
            this_pass,
            inputs.crew,
            measurements,
            OtherPasses(project, review.measured, measurements),
        )
        self.arranged = Signal()
        self.overrides = overrides_of(inputs, review.reading)
        self.measurements.know(self.run, self.overrides.start_s, review.measured)
        self.order, self.shown = "risk", "all"
        self.finding = self._first_open()
        self.note = self.finding.note if self.finding else 0

    @property
    def review(self) -> Review:
        """What was found out about the pass."""
        review = self.judged
        assert isinstance(review, Review), "a stage's book is always over its review"
        return review

    @property
    def calls(self) -> SourceFile | None:
        return self.inputs.calls

    @property
    def said(self) -> Sequence[CallTime]:
        return [call.time for call in self.review.calls if call.time is not None]

    @classmethod
    def of_project(
        cls, project: Project, *, pass_id: int | None = None, measurements: Measurements | None = None, progress: Progress = silent
    ) -> ReviewedPass:
        """Opens a pass of the stage in a project, the first unless another is wanted; a review that was made before is taken from there.

        ``measurements`` are passes that need not be measured again.

        Raises
        ------
        MirkleError
        """
        this_pass = chosen_pass(project, pass_id)
        inputs = inputs_of_pass(project, this_pass)
        measurements = measurements or Measurements()
        review = kept_review(project, inputs)
        if review is not None:
            return cls(project, review, inputs, this_pass, measurements)
        review = review_material(inputs, measurements=measurements, progress=progress)
        progress(message("Keeping the review"), 0.98)
        stage = cls(project, review, inputs, this_pass, measurements)
        stage.keep_review()
        return stage

    def keep_review(self) -> None:
        """Keeps the review in the project, so that the stage opens at once the next time."""
        keep_review(self.project, self.inputs, replace(self.review, reading=self._read))

    def _laid_out(self) -> Review:
        return replace(self.review, reading=on_paper(self.project, self._read))

    # What was found

    @property
    def listed(self) -> tuple[Finding, ...]:
        """The findings that are looked at now: those shown, in the order chosen."""
        shown = [f for f in self.findings if SHOWN[self.shown](f)]
        return tuple(sorted(shown, key=lambda f: f.from_m) if self.order == "stage" else shown)

    def arrange(self, *, order: str | None = None, shown: str | None = None) -> None:
        """Chooses the order (``risk`` or ``stage``) and which findings are shown (a key of :data:`SHOWN`)."""
        self.order, self.shown = order or self.order, shown or self.shown
        listed = self.listed
        if listed and self.finding not in listed:
            self.choose(listed[0])
        self.arranged.emit()

    def condition_on_note(self, note: int) -> Addition | None:
        """As :meth:`OpenPass.condition_on_note`, by the bend of the note's corner."""
        bend = self.review.lineup.bend_of(note)
        return self.book.road.condition_on(bend.from_m, bend.to_m) if bend is not None else None

    def findings_on(self, note: int) -> list[Finding]:
        """What was found on a note and is shown, most risk first."""
        return [f for f in self.findings if f.note == note and SHOWN[self.shown](f)]

    def note_before(self, at_m: float) -> Note | None:
        """The last note whose bend begins before a place, ``None`` ahead of the first."""
        return self.review.positions.last_before(at_m)

    # Choosing

    def choose(self, finding: Finding) -> None:
        """Makes a finding the one that is looked at."""
        self.finding, self.note = finding, finding.note
        self.chosen.emit()

    def step(self, by: int) -> None:
        """Goes to the next (1) or the one before (-1) of those listed; from a note without one to the nearest behind it."""
        listed = self.listed
        if not listed:
            return
        if self.finding not in listed:
            behind = next((f for f in listed if self.order == "stage" and f.note >= self.note), listed[0])
            self.choose(behind)
            return
        at = listed.index(self.finding)
        self.choose(listed[(at + by) % len(listed)])

    def _first_open(self) -> Finding | None:
        decided = self.book.decisions
        return next((f for f in self.findings if f.id not in decided), self.findings[0] if self.findings else None)

    def next_open(self) -> None:
        """Goes to the next finding that nobody has decided on, if there is one."""
        decided = self.book.decisions
        listed = self.listed
        at = listed.index(self.finding) if self.finding in listed else -1
        order = [*listed[at + 1 :], *listed[: at + 1]]
        following = next((f for f in order if f.id not in decided), None)
        if following is not None:
            self.choose(following)

    def next_danger(self) -> None:
        """Goes to the next danger that nobody has decided on, the most risk first, round from the chosen one."""
        decided = self.book.decisions
        left = [f for f in self.findings if f.severity == "danger" and f.id not in decided]
        if left:
            at = left.index(self.finding) if self.finding in left else -1
            self.choose(left[(at + 1) % len(left)])

    # Setting right by hand

    def set_overrides(self, overrides: ManualOverrides) -> None:
        """Keeps what was set by hand in the project; opening the pass again takes it in.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        overrides = overrides.by_clock(self.review.profile)
        material = SourceFile("by-hand", f"{self.run.name}-by-hand.json", overrides_json(overrides, self.review.notes))
        # The pass may have got more since, such as its sound.
        self.this_pass = self.book.set_pass(self.pass_now(), {"overrides": material})
        self.overrides, self.inputs = overrides, replace(self.inputs, overrides=material)

    def set_calls(self, calls: SourceFile) -> None:
        super().set_calls(calls)
        self.inputs = replace(self.inputs, calls=calls)

    def pin(self, note: int, at_m: float | None) -> None:
        """Puts a corner note on the bend at a place, or on none; its neighbours follow.

        Pins that it would have to jump over are taken out: a book is read in order.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        moved = Pin(note, at_m)
        others = [p for p in self._pins if p.note != note and not _crossed(p, moved)]
        self._mend(moved, sorted([*others, moved], key=lambda p: p.note))

    def unpin(self, note: int) -> None:
        """Lets a pinned note find its own place again.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        left = [p for p in self._pins if p.note != note]
        tie = self.review.lineup.tie_of.get(note)
        if tie is not None and len(left) < len(self._pins):
            self._mend(Pin(note, tie.bend.apex_m if tie.bend is not None else None), left)

    def set_remarks(self, remarks: Sequence[HandRemark]) -> None:
        """Puts words of the crew on their notes, as they all are from now on.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        self.set_overrides(replace(self.overrides, remarks=tuple(remarks)))
        self._judge_again(None)

    @property
    def _pins(self) -> tuple[Pin, ...]:
        return self.overrides.pins_on(self.review.profile)

    def _mend(self, moved: Pin, pins: Sequence[Pin]) -> None:
        self.set_overrides(replace(self.overrides, pins=tuple(hand_pin(p, self.review.profile) for p in pins)))
        self._judge_again(moved)

    def _judge_again(self, moved: Pin | None) -> None:
        """Takes in what was set by hand, with the note that it moved."""
        self.book.rebase(agreed(review_again(self.review, self.crew, moved, self.overrides)))
        if self.finding is not None:
            same = next((f for f in self.findings if f.id == self.finding.id), None)
            self.finding = same or next(iter(self.findings_on(self.finding.note)), None)
        self.reviewed.emit()

    # Deciding about what is chosen

    def answer(self, answer: Literal["keep", "talk", "video"], *, by: str = "", remark: str = "") -> None:
        """As :meth:`Book.answer`, for the chosen finding.

        Raises
        ------
        MirkleError
            There is none.
        """
        if self.finding is None:
            raise MirkleError("there is no finding on this note", mend="choose a note with a mark next to it")
        self.book.answer(self.finding, answer, by=by, remark=remark)

    def _show(self, decision: Decision | None) -> None:
        finding = self.book.finding_of(decision) if decision is not None else None
        if finding is not None:
            self.choose(finding)
        else:
            super()._show(decision)


def _crossed(pin: Pin, moved: Pin) -> bool:
    """Whether two pins put their notes on the road the wrong way round."""
    if pin.at_m is None or moved.at_m is None:
        return False
    return (pin.note < moved.note) != (pin.at_m < moved.at_m)
