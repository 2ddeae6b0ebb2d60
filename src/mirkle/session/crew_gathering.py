"""What reviewed passes show of the crew, taken into its profile."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.core.habits.evidence import PassEvidence, evidence_of, shows_its_crew
from mirkle.core.habits.misheard import Misheard, misheard_in
from mirkle.files.crew_record import keep_crew_record
from mirkle.session.crew_records import chosen_crew, chosen_path, today
from mirkle.session.parsed_files import speech_of
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import book_in


def gather(stage: ReviewedPass) -> bool:
    """Takes what a reviewed pass shows into the profile of the crew, where it said so; whether anything was taken in."""
    path, record = chosen_path(), chosen_crew()
    if path is None or record is None or not record.gathers or not shows_its_crew(stage.review):
        return False
    shown = shown_by(stage, today())
    before = next((p for p in record.passes if (p.stage, p.pass_id) == (shown.stage, shown.pass_id)), None)
    shown = replace(shown, day=before.day) if before is not None else shown
    if before is not None and _shows_the_same(before, shown):
        return False
    try:
        keep_crew_record(path, record.with_pass(shown))
    except MirkleError:
        # A full disk costs the profile a pass, and the crew nothing else.
        return False
    return True


def shown_by(stage: ReviewedPass, day: float) -> PassEvidence:
    """What a reviewed pass shows of its crew."""
    book = stage.inputs.notes.sha256 if stage.inputs.notes is not None else ""
    identity, conditions = stage.project.info("id"), stage.this_pass.conditions
    shown = evidence_of(stage.review, stage=identity, pass_id=str(stage.this_pass.id), day=day, book=book, conditions=conditions)
    return replace(shown, misheard=_misheard(stage))


def _misheard(stage: ReviewedPass) -> tuple[Misheard, ...]:
    """What a recogniser made of the words that were read from the book; nothing where no words were recognised."""
    calls = stage.inputs.calls
    if calls is None or calls.kind != "calls" or stage.inputs.notes is None:
        return ()
    book = book_in(stage.inputs.notes, calls, stage.crew)
    return misheard_in(speech_of(calls, stage.crew, book), book)


def _shows_the_same(before: PassEvidence, shown: PassEvidence) -> bool:
    same_pairs = len(before.called) == len(shown.called) and np.allclose(before.rows, shown.rows, atol=2e-3)
    same_words = len(before.meant) == len(shown.meant) and before.misheard == shown.misheard
    return same_pairs and before.conditions == shown.conditions and same_words
