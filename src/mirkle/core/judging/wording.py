"""Judging words: where what was said in the car differs from what is written. In favour of neither."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TypeVar

from mirkle.core.judging.findings import Finding, JudgingContext, Proposal
from mirkle.core.lineup.call_records import CallRecord
from mirkle.core.lineup.result import Lineup
from mirkle.core.messages import Called, Message, message
from mirkle.core.notes.called import CalledChange
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import Rewording
from mirkle.core.speech.delivery import ReadOver, Spoken, corner_words, differing, merely_shorter

# It is the freshest evidence there is, and ready to be marked: ahead of what only sounds otherwise.
CORRECTED_RISK = 1.0
DISTANCE = ("distance",)
# Words left out at this many notes, and at this share of them, are a habit; how sure that is. # common practice
LEAST_LEFT_OUT, LEFT_OUT_SHARE, HABIT_SURE = 5, 0.8, 0.9


T = TypeVar("T")
_Found = tuple[str, str, Message, Proposal | None]


def judge_words(case: JudgingContext) -> Iterator[Finding]:
    """A finding for each note that was corrected aloud, said otherwise than it is written, or read over otherwise ahead of the start."""
    for note, call in zip(case.notes, case.calls, strict=False):
        bend = case.lineup.bend_of(note.index)
        found = _said_wrong(case, note, call.said, call.how) if bend is not None and call.how is not None else None
        if bend is None or found is None:
            continue
        (called, met, because, proposal), how = found
        yield Finding(
            id=f"said@{note.index}",
            kind="said-otherwise",
            note=note.index,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called=called,
            met=met,
            severity="check",
            confidence=how.probability,
            risk=0.4 if proposal is None else CORRECTED_RISK,
            because=(because,),
            proposal=proposal,
        )
    yield from _left_out_by_habit(case)


def _said_wrong(case: JudgingContext, note: Note, said: Note | None, how: Spoken) -> tuple[_Found, Spoken] | None:
    """What is wrong with how a note was said, and the delivery that shows it: corrected aloud, else called otherwise, else read over
    otherwise."""
    found = _corrected(case, note, said, how) if said is not None and said.first_called else None
    if found is None and how.said_as == "otherwise" and (said is None or not merely_shorter(note, said)):
        found = _otherwise(note, said, how)
    if found is not None:
        return found, how
    if how.read_over is None:
        return None
    read = _read_otherwise(note, how.read_over)
    return (read, how.read_over.how) if read is not None else None


@dataclass(frozen=True)
class LeftOut:
    """A ``thing`` that this crew writes and hardly ever calls: the ``notes`` that have it, and at how many it was not called."""

    thing: tuple[str, ...]
    notes: tuple[int, ...]
    count: int

    @property
    def words(self) -> Message | Called:
        """What it is called."""
        return message("distances") if self.thing == DISTANCE else Called(self.thing)


def left_out_by_habit(notes: Sequence[Note], calls: Sequence[CallRecord], lineup: Lineup) -> list[LeftOut]:
    """Everything that a crew writes and does not call, by the notes that were surely called on a pass."""
    written: defaultdict[tuple[str, ...], list[int]] = defaultdict(list)
    left_out: Counter[tuple[str, ...]] = Counter()
    for note, call in zip(notes, calls, strict=False):
        if call.said is None or lineup.bend_of(note.index) is None:
            continue
        voiced = things_of(call.said)
        for thing in things_of(note):
            written[thing].append(note.index)
            left_out[thing] += thing not in voiced
    found = (LeftOut(thing, tuple(on), left_out[thing]) for thing, on in written.items())
    return [f for f in found if f.count >= LEAST_LEFT_OUT and f.count >= LEFT_OUT_SHARE * len(f.notes)]


def _left_out_by_habit(case: JudgingContext) -> Iterator[Finding]:
    """One remark for each thing that this crew writes and hardly ever calls."""
    for found in left_out_by_habit(case.notes, case.calls, case.lineup):
        bend = case.lineup.bend_of(found.notes[0])
        assert bend is not None
        because = message(
            "Written but not called at {left_out} of {of} notes: {what}. It seems to be your habit, so it is shown once.",
            what=found.words,
            left_out=found.count,
            of=len(found.notes),
        )
        yield Finding(
            id=f"habit@said {Called(found.thing)}",
            kind="said-otherwise",
            note=found.notes[0],
            from_m=bend.from_m,
            to_m=bend.to_m,
            called=str(Called(found.thing)),
            met=None,
            severity="remark",
            confidence=HABIT_SURE,
            risk=0.0,
            because=(because,),
            proposal=None,
        )


def things_of(note: Note) -> frozenset[tuple[str, ...]]:
    """What a note calls besides its corner, each by its own words, its gap by what kind it is."""
    gap = DISTANCE if note.distance_m is not None else (note.link,) if note.link else ()
    valued = (value.terms for value in note.called_values if not isinstance(value, CalledChange))
    return frozenset(filter(None, (note.length_terms, *((c,) for c in note.cautions), *valued, gap)))


def _otherwise(note: Note, said: Note | None, how: Spoken) -> _Found:
    written, voiced = differing(note, said, how)
    because = message(
        "Written {written}, but the call at {at_s:clock} sounds like {voiced}. One of the two is wrong: listen and decide.",
        written=written,
        voiced=voiced,
        at_s=how.from_s,
    )
    return written, voiced, because, None


def _read_otherwise(note: Note, read: ReadOver) -> _Found | None:
    """A note that was read over otherwise than written, and called as written."""
    if read.note.unread or merely_shorter(note, read.note):
        return None
    written, voiced = differing(note, read.note, read.how)
    because = message(
        "Written {written}, but read before the start as {voiced}, at {at_s:clock}.", written=written, voiced=voiced, at_s=read.how.from_s
    )
    return written, voiced, because, None


def _corrected(case: JudgingContext, note: Note, said: Note, how: Spoken) -> _Found | None:
    """What the co-driver put in a note's place in the same breath; nothing where he came back to what is written."""
    grade = _other(said.grade, note.grade)
    direction = _other(said.direction, note.direction)
    metres = _other(said.distance_m, note.distance_m) if note.distance_m is not None else None
    if grade is None and direction is None and metres is None:
        return None
    rewording = Rewording(direction=direction, grade=grade, distance_m=metres)
    written, voiced = corner_words(note), corner_words(said)
    if grade is None and direction is None:
        written, voiced = f"{note.distance_m} m", f"{said.distance_m} m"
    because = message(
        "Corrected in the car at {at_s:clock}: “{first}”, then {voiced}. The book says {written}. The note is wrong, or it was misread.",
        first=said.first_called,
        voiced=voiced,
        at_s=how.from_s,
        written=written,
    )
    return written, voiced, because, case.proposed(note, rewording)


def _other(said: T | None, written: T | None) -> T | None:
    """What was said, where it is not what is written."""
    return said if said != written else None
