"""Several passes of a stage, each with the book that was read on it, held against each other in the order driven."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.core.followup.belief import beliefs
from mirkle.core.followup.changes import Changed, ChangeReview, Kept, compare_passes
from mirkle.core.joint.same_road import road_of
from mirkle.core.messages import message
from mirkle.core.notebook.decisions import Addition, RoadPlace
from mirkle.core.progress import Progress, silent
from mirkle.core.review import Review
from mirkle.files.notes.text import language_of
from mirkle.files.project.project import Project
from mirkle.session.decision_book import DecisionBook
from mirkle.session.kept_reviews import keep_review, kept_review
from mirkle.session.paging import on_paper
from mirkle.session.parsed_files import crew_of
from mirkle.session.pass_list import PassInfo, driven, inputs_of_pass
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Inputs, Measurements, check_one_road, review_material


def followed(passes: Sequence[Inputs], *, measurements: Measurements | None = None, any_road: bool = False) -> list[ChangeReview]:
    """Each pass against the one before it; ``any_road`` where they are not looked at for being of one road.

    Raises
    ------
    MirkleError
        There are fewer than two, one can't be read, or one is of another road.
    """
    if len(passes) < 2:
        raise MirkleError("one pass alone says nothing of a change", mend="give --pass twice or more, in the order driven")
    measurements = measurements or Measurements()
    if not any_road:
        check_one_road([p.run for p in passes], measurements)
    reviews = [review_material(inputs, measurements=measurements) for inputs in passes]
    return [compare_passes(earlier, later) for earlier, later in pairwise(reviews)]


@dataclass(frozen=True)
class PassPair:
    """A pass against the one before it, and the crew's decisions about the book that was read on it; ``added`` are the hazards and
    conditions that were put in after the earlier one."""

    earlier: PassInfo
    later: PassInfo
    earlier_review: Review
    later_review: Review
    found: ChangeReview
    book: DecisionBook
    added: tuple[tuple[Addition, RoadPlace], ...] = ()

    @property
    def new_differences(self) -> int:
        """How many dangers and changes the later pass shows on notes that were neither changed nor kept against a finding."""
        covered = {n for c in self.found.changes for n in range(*c.notes_now)} | {k.note for k in self.found.kept}
        return sum(f.severity in ("danger", "change") and f.note not in covered for f in self.later_review.findings)

    @property
    def counts_in_the_season(self) -> bool:
        """Whether its verdicts say anything of this crew's changes: not where the two passes are of different roads."""
        one, other = self.earlier_review.measured, self.later_review.measured
        return road_of((one.profile, one.plan), (other.profile, other.plan)) != "another"

    @property
    def car_changes(self) -> list[tuple[str, str, str]]:
        """What was different about the car, where both passes say so: ``tyres``, ``fuel`` or ``setup``, before and now."""
        one, other = self.earlier.made, self.later.made
        said = [(what, getattr(one, what), getattr(other, what)) for what in ("tyres", "fuel", "setup")]
        return [(what, before, now) for what, before, now in said if before and now and before.casefold() != now.casefold()]

    @property
    def rows(self) -> list[Changed | Kept]:
        """What was changed and what was kept, in the order of the road."""
        return sorted([*self.found.changes, *self.found.kept], key=lambda r: r.from_m)

    def counts(self) -> Counter[str]:
        """How many changes have each verdict."""
        return Counter(c.verdict for c in self.found.changes)

    # Follow-up: what becomes of a change is decided on the book that the later pass read.

    def answered(self, row: Changed | Kept) -> str | None:
        """What was decided of a row: ``keep``, ``talk``, or ``mark`` where its note was written otherwise since."""
        decision = self.book.change_answer(_about(row), _note_of(row))
        marked = self.book.edition.mark_on(_note_of(row))
        return "mark" if marked is not None else decision.answer if decision is not None else None

    def seen(self, row: Changed | Kept) -> str:
        """What was seen of a row's note on the video of a pass that read the same book; empty where nobody watched it."""
        decision = self.book.seen(_note_of(row))
        return decision.seen if decision is not None else ""

    def answer(self, row: Changed | Kept, answer: Literal["keep", "talk"]) -> None:
        """Keeps a row as it is, or leaves it to be talked over."""
        self.book.answer_change(_about(row), _note_of(row), answer)

    def put_back(self, row: Changed | Kept, *, by: str = "") -> None:
        """Writes what stood before the change again.

        Raises
        ------
        UnusableNotes
            Nothing was changed there, it is more than one note, or it would be faster without the word of both.
        """
        if isinstance(row, Kept):
            raise UnusableNotes("this note was not changed", mend="correct it, or keep it")
        self.correct(row, row.old, by=by)

    def correct(self, row: Changed | Kept, text: str, *, by: str = "") -> None:
        """Writes something else for a row's note.

        Raises
        ------
        UnusableNotes
            As for :meth:`Book.mark`, or the change is of more than one note.
        """
        if isinstance(row, Changed) and row.notes_now[1] - row.notes_now[0] != 1:
            raise UnusableNotes("this change is of more than one note", mend="mark it on its notes in Compare")
        self.book.mark(None, _note_of(row), text, by=by)


def _about(row: Changed | Kept) -> Literal["change", "kept"]:
    return "change" if isinstance(row, Changed) else "kept"


def _note_of(row: Changed | Kept) -> int:
    """The note of the later book that a row is about."""
    return row.note if isinstance(row, Kept) else min(row.notes_now[0], max(row.notes_now[1] - 1, 0))


def follow(project: Project, measurements: Measurements | None = None, progress: Progress = silent) -> list[PassPair]:
    """Every pass of a stage against the one before it; reviews that were made before are taken from the project.

    Raises
    ------
    MirkleError
        A pass can't be reviewed.
    """
    measurements = measurements or Measurements()
    passes = [d for d in driven(project) if d.made.run is not None]
    reviews = []
    for i, one in enumerate(passes):
        progress(message("Reviewing {0}", one.name), i / max(len(passes), 1))
        inputs = inputs_of_pass(project, one.made)
        review = kept_review(project, inputs)
        if review is None:
            review = review_material(inputs, measurements=measurements)
            keep_review(project, inputs, review)
        review = replace(review, reading=on_paper(project, review.reading))
        reviews.append((one, review, inputs))
    steps = []
    for (a, earlier, _), (b, later, inputs) in pairwise(reviews):
        book = DecisionBook(project, later, language_of(later.reading, crew_of(inputs.crew)), b.made.id)
        before = DecisionBook(project, earlier, language_of(earlier.reading, crew_of(inputs.crew)), a.made.id)
        steps.append(PassPair(a, b, earlier, later, compare_passes(earlier, later), book, tuple(before.road.additions_on_road)))
    return steps


def proven_notes(stage: ReviewedPass) -> frozenset[int]:
    """The notes of a stage's book that were right on two passes and more and never called late, by every pass that was reviewed."""
    reviews = []
    for one in driven(stage.project):
        if one.made.id == stage.this_pass.id:
            reviews.append(stage.review)
            break
        kept = kept_review(stage.project, inputs_of_pass(stage.project, one.made)) if one.made.run is not None else None
        reviews += [kept] if kept is not None else []
    return frozenset(b.note.index for b in beliefs(reviews) if b.state == "proven") if reviews else frozenset()
