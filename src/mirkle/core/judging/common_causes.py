"""A heap of findings with one cause is one finding: a page that is missing, one that stands there twice or was not driven, two notes the
wrong way round.

Each judge looks at one note or one bend. Here what they found is put together where one slip of the pen explains all of it better than
a slip for each: the finding that stays says the cause, and what to write.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import groupby

import numpy as np
from numpy.typing import NDArray

from mirkle.core.judging.corners import A_BEND_DEG
from mirkle.core.judging.finding_kinds import KINDS, Severity
from mirkle.core.judging.findings import DANGER_SURE, Finding, JudgingContext, Proposal
from mirkle.core.lineup.called_notes import written_again
from mirkle.core.lineup.result import Pairing, Turned, Uncalled
from mirkle.core.lineup.turned import TURNED_NATS
from mirkle.core.messages import Message, gettext_noop, message
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.book_metres import corner_length_m, gap_m
from mirkle.core.notes.model import Direction, Note
from mirkle.core.notes.rewording import Rewording
from mirkle.core.stats import logistic

# A page is missing from this many uncalled corners on, with hardly a note between them, and where the road is longer than called by
# this share and by these metres; with one corner fewer, by this much more (m).
PAGE, LONGER_SHARE, LONGER_M, A_CORNER_FEWER_M = 4, 1.2, 150.0, 150.0
OF_A_CORNER = frozenset(name for name, kind in KINDS.items() if kind.of_a_corner)
TWICE_SURE = 0.9
# That a page is missing is never surer than this; a missing corner that is tighter than nearly flat out makes it a danger.
SUREST, GENTLE = 0.95, 0.9
# What two turned notes cost where nothing else was found beside them.
TURNED_RISK = 2.0


Flags = NDArray[np.bool_]


def with_causes(case: JudgingContext, findings: Sequence[Finding]) -> list[Finding]:
    """The findings with each heap of one cause put together."""
    out = list(findings)
    corners = [case.notes[t.note] for t in case.lineup.ties]
    again = written_again(corners)
    of_notes = (*_written_twice(case, corners, again), *_not_driven(case, corners, again))
    for cause in (*_missing_pages(case, out), *of_notes, *_swapped(case, out)):
        explained = [f for f in out if cause.explains(f)]
        out = [f for f in out if f not in explained] + [cause.finding]
    return out


@dataclass(frozen=True)
class _Cause:
    """A finding that stands for others: those of some kinds on some notes, or those that it was made of."""

    finding: Finding
    kinds: frozenset[str]
    notes: frozenset[int] = frozenset()
    of: tuple[Finding, ...] = ()

    def explains(self, finding: Finding) -> bool:
        return finding in self.of or (finding.kind in self.kinds and finding.note in self.notes)


# The corners that have a note: where their apex is, their note, and their bend; in the order of the road.
Placed = list[tuple[float, int, Bend]]


def _missing_pages(case: JudgingContext, findings: Sequence[Finding]) -> Iterator[_Cause]:
    """Corners in a row that no note calls, on more road than is called there: a page that is missing. Where a row is no page, the parts of
    it between two answered corners may be."""
    placed = sorted((t.bend.apex_m, t.note, t.bend) for t in case.lineup.ties if t.bend is not None)
    for heap in _heaps(case):
        whole = _page_of(case, findings, placed, heap)
        parts = () if whole is not None else _parts(placed, heap)
        yield from (cause for cause in (whole, *(_page_of(case, findings, placed, part) for part in parts)) if cause is not None)


def _parts(placed: Placed, heap: Sequence[Uncalled]) -> Iterator[list[Uncalled]]:
    """The corners of a row that have no answered corner between them, where they are enough for a page."""
    for _, part in groupby(heap, key=lambda u: bisect_left(placed, u.bend.apex_m, key=_first)):
        corners = list(part)
        if len(corners) >= PAGE:
            yield corners


def _page_of(case: JudgingContext, findings: Sequence[Finding], placed: Placed, heap: Sequence[Uncalled]) -> _Cause | None:
    """The page that is missing where a row of corners has no note, up to the next answered corner or the finish; ``None`` where the road is
    hardly longer than called, or nothing before it has a note."""
    from_m, to_m = heap[0].bend.from_m, heap[-1].bend.to_m
    begin = bisect_left(placed, heap[0].bend.apex_m, key=_first)
    end = bisect_right(placed, heap[-1].bend.apex_m, key=_first)
    if begin == 0:
        return None
    _, before, last = placed[begin - 1]
    behind = placed[end][1] if end < len(placed) else len(case.notes)
    until_m = placed[end][2].from_m if end < len(placed) else case.finish_m
    met_m, called_m = until_m - last.to_m, _called_m(case.notes[before:behind])
    if met_m < LONGER_SHARE * called_m + LONGER_M + A_CORNER_FEWER_M * max(PAGE - len(heap), 0):
        return None
    found = _of_a_missing_page(findings, before, from_m, to_m)
    # At the end of the book notes without a corner may be those of the last corners here.
    told_apart = end < len(placed) or not any(n.direction is not None for n in case.notes[before + 1 :])
    proposal = _all_put_in(case, case.notes[before], heap, until_m) if told_apart else None
    finding = _missing_page(case, case.notes[before], heap, proposal, met_m=met_m, called_m=called_m)
    finding = replace(finding, risk=max((f.risk for f in found), default=1.0))
    # A note that was put among them has its own corner elsewhere.
    inside = frozenset(note for apex_m, note, _ in placed if from_m < apex_m < to_m)
    return _Cause(finding, OF_A_CORNER, inside, tuple(found))


def _of_a_missing_page(findings: Sequence[Finding], before: int, from_m: float, to_m: float) -> list[Finding]:
    """What a page that is missing behind a note explains: the corners that nobody calls there, and the distance that is too short."""
    corners = [f for f in findings if f.kind == "corner-uncalled" and from_m <= f.from_m <= to_m]
    return corners + [f for f in findings if f.kind == "distance-longer" and f.note == before]


def _first(corner: tuple[float, int, Bend]) -> float:
    return corner[0]


def _called_m(notes: Sequence[Note]) -> float:
    """About how long the road is from the end of the first note's corner to the corner behind the last note, as called."""
    return sum(map(gap_m, notes)) + sum(map(corner_length_m, notes[1:]))


def _missing_page(
    case: JudgingContext, before: Note, heap: Sequence[Uncalled], proposal: Proposal | None, *, met_m: float, called_m: float
) -> Finding:
    """The finding of a page that is missing behind a note, with the corners that belong on it."""
    from_m, to_m = heap[0].bend.from_m, heap[-1].bend.to_m
    # That none of them is missing takes a reason of another kind for each.
    sure = min(1.0 - float(np.prod([1.0 - u.missing for u in heap])), SUREST)
    tight = any(u.position < case.school.top - GENTLE for u in heap)
    severity: Severity = "danger" if tight and sure > DANGER_SURE and proposal is not None else "change"
    because = message(
        "{of} corners from {from_m:km} to {to_m:km} km are in no note. The road there is {met_m:.0f} m long, and about {called_m:.0f} m "
        "are called. A page seems to be missing.",
        of=len(heap),
        from_m=from_m,
        to_m=to_m,
        met_m=met_m,
        called_m=called_m,
    )
    return Finding(
        id=f"page@{before.index}",
        kind="corner-uncalled",
        note=before.index,
        from_m=from_m,
        to_m=to_m,
        called=None,
        met=message("{of} corners", of=len(heap)),
        severity="check" if case.coarse else severity,
        confidence=sure,
        risk=1.0,
        because=(because,),
        proposal=proposal,
        cause=gettext_noop("A page seems to be missing"),
    )


def _place(tie: Pairing) -> float:
    return tie.bend.apex_m if tie.bend is not None else 0.0


def _heaps(case: JudgingContext) -> Iterable[list[Uncalled]]:
    """The clear bends that no note answers, in rows with at most one answered bend between two of them."""
    clear = [u for u in case.lineup.uncalled if u.bend.turn_deg > A_BEND_DEG and u.bend.to_m < case.finish_m]
    clear.sort(key=lambda u: u.bend.apex_m)
    answered_m = np.array(sorted(_place(t) for t in case.lineup.ties if t.bend is not None))
    heaps: list[list[Uncalled]] = [[]]
    for uncalled in clear:
        last_m = heaps[-1][-1].bend.apex_m if heaps[-1] else uncalled.bend.apex_m
        if np.count_nonzero((answered_m > last_m) & (answered_m < uncalled.bend.apex_m)) > 1:
            heaps.append([])
        heaps[-1].append(uncalled)
    return (heap for heap in heaps if len(heap) >= PAGE - 1)


def _all_put_in(case: JudgingContext, before: Note, missing: Sequence[Uncalled], until_m: float) -> Proposal | None:
    """The note before with the distance to the first of the missing corners, and a plain note for each of them, the last with the distance
    to where the next corner or the finish is."""
    here = case.lineup.bend_of(before.index)
    if here is None:
        return None
    ends_m, begins_m = [here.to_m, *(u.bend.to_m for u in missing)], [*(u.bend.from_m for u in missing), until_m]
    metres = [case.called_metres(max(begins - ends, 1.0)) for ends, begins in zip(ends_m, begins_m, strict=True)]
    corners = [(Direction.LEFT if u.bend.side > 0 else Direction.RIGHT, case.met_grade(u.position)) for u in missing]
    first, gaps = before.text, metres
    if not case.hand.reading.distance_first:
        # The distance to the first of them stands with the note before, and that behind each corner with it.
        first, gaps = case.with_gap(before, metres[0]), metres[1:]
    lines = [first, *(case.hand.corner(*c, distance_m=m) for c, m in zip(corners, gaps, strict=False))]
    return Proposal(before.index, before.index, case.in_lines(lines), None)


def _written_twice(case: JudgingContext, corners: Sequence[Note], again: Flags) -> Iterator[_Cause]:
    """A page that stands in the book twice running."""
    for twice in _runs(again):
        notes = [corners[i] for i in twice]
        if any(case.lineup.bend_of(n.index) is not None for n in notes):
            continue
        because = message(
            "“{first}” to “{last}”: these {of} corners are in the book twice in a row, and on the road once. Strike out one of the two.",
            first=notes[0].text,
            last=notes[-1].text,
            of=len(notes),
        )
        yield _cause_of_notes(case, notes, "twice", because, TWICE_SURE, gettext_noop("A page is in the book twice"))


def _not_driven(case: JudgingContext, corners: Sequence[Note], again: Flags) -> Iterator[_Cause]:
    """Notes in a row that no corner answers, between others that have theirs."""
    nowhere = np.array([t.bend is None for t in case.lineup.ties], dtype=bool) & ~again
    for run in _runs(nowhere):
        if len(run) < PAGE or run[0] == 0 or run[-1] + 1 == len(corners):
            continue
        notes = [corners[i] for i in run]
        because = message(
            "“{first}” to “{last}”: none of these {of} corners was there. The page belongs to another road, or it was not driven.",
            first=notes[0].text,
            last=notes[-1].text,
            of=len(notes),
        )
        sure = float(np.mean([case.lineup.ties[i].sure for i in run]))
        yield _cause_of_notes(case, notes, "page-unmet", because, sure, gettext_noop("Notes without corners"))


def _runs(flags: Flags) -> Iterator[list[int]]:
    for flag, group in groupby(range(len(flags)), key=lambda i: bool(flags[i])):
        if flag:
            yield list(group)


def _cause_of_notes(case: JudgingContext, notes: Sequence[Note], name: str, because: Message, sure: float, cause: str) -> _Cause:
    ahead = [t.bend.to_m for t in case.lineup.ties if t.bend is not None and t.note < notes[0].index]
    behind = [t.bend.from_m for t in case.lineup.ties if t.bend is not None and t.note > notes[-1].index]
    from_m = ahead[-1] if ahead else 0.0
    to_m = max(behind[0] if behind else case.finish_m, from_m + 1.0)
    finding = Finding(
        id=f"{name}@{notes[0].index}",
        kind="corner-unmet",
        note=notes[0].index,
        from_m=from_m,
        to_m=to_m,
        called=message("{of} corners", of=len(notes)),
        met=None,
        severity="check",
        confidence=sure,
        risk=0.5,
        because=(because,),
        proposal=None,
        cause=cause,
    )
    return _Cause(finding, frozenset(("corner-unmet", "distance-longer", "distance-shorter")), frozenset(n.index for n in notes))


def _swapped(case: JudgingContext, findings: Sequence[Finding]) -> Iterator[_Cause]:
    """Two neighbouring notes that fit the road the other way round (see :mod:`mirkle.core.lineup.turned`)."""
    for turned in case.lineup.turned:
        a, b = case.notes[turned.note], case.notes[turned.next_note]
        of = tuple(f for f in findings if _of_turned(f, turned))
        tight = min(p for n in (a, b) if (p := case.called_position(n)) is not None)
        because = message("“{first}” and “{second}” are the wrong way round: each fits the other's corner.", first=a.text, second=b.text)
        finding = Finding(
            id=f"swapped@{a.index}",
            kind="direction" if a.direction != b.direction else "grade-tighter",
            note=a.index,
            from_m=turned.ahead[0],
            to_m=max(turned.behind[1], turned.ahead[0] + 1.0),
            severity="danger" if tight < case.school.top - GENTLE else "change",
            called=message("{first}, {second}", first=a.text, second=b.text),
            met=message("{first}, {second}", first=b.text, second=a.text),
            confidence=logistic(turned.nats - TURNED_NATS),
            risk=max([f.risk for f in of], default=TURNED_RISK),
            because=(because,),
            proposal=_turned_round(case, a, b),
            cause=gettext_noop("Two notes the wrong way round"),
        )
        yield _Cause(finding, frozenset(), of=of)


def _of_turned(finding: Finding, turned: Turned) -> bool:
    """Whether a finding comes of two notes being turned: on one of them, or a corner there that no note calls."""
    if finding.kind == "corner-uncalled":
        return any(finding.from_m < to_m and finding.to_m > from_m for from_m, to_m in (turned.ahead, turned.behind))
    return KINDS[finding.kind].of_a_pair and finding.note in (turned.note, turned.next_note)


def _turned_round(case: JudgingContext, a: Note, b: Note) -> Proposal | None:
    """Both notes in the other order, each with the distance that stood in its place."""
    if b.index != a.index + 1 or a.borrows or b.borrows:
        return None
    if (a.distance_m is None) != (b.distance_m is None) or case.hand.reading.distance_first:
        return None
    texts = (b.text, a.text)
    if a.distance_m is not None and b.distance_m is not None:
        texts = (case.hand.reworded(b, Rewording(distance_m=a.distance_m)), case.hand.reworded(a, Rewording(distance_m=b.distance_m)))
    return Proposal(a.index, b.index, case.in_lines(texts), None)
