"""Was the change right? Each note that was changed between two passes, and each that was kept, held against the later pass.

A note is a hypothesis of three: it fits, it is still too fast, it is now too slow. For a grade the two passes' measurements of the corner
and how the car came into it speak; the weights are those of a multinomial logistic regression on made pairs of passes
(``bench/passes.py --fit``). For all else the later pass's own findings on the note speak, where that pass can show such a thing. Where
nothing is likely enough, it can't be told.
"""

from __future__ import annotations

from collections.abc import Container, Iterator, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Literal

import numpy as np

from mirkle.core.followup.gained import AHEAD_M, BEHIND_M, Gain, Gained, gained
from mirkle.core.joint.same_road import SameRoad, same_road
from mirkle.core.judging.finding_kinds import KINDS, Aspect
from mirkle.core.judging.findings import LEAST_SCATTER, TIGHTEST, Finding
from mirkle.core.messages import Message, message
from mirkle.core.notes.model import Note
from mirkle.core.review import Review
from mirkle.core.speech.delivery import BY_SOUND

Verdict = Literal["fits", "too-fast", "too-slow", "cant-tell"]
Said = Literal["new", "old", "otherwise", "not-said"]

# Logits of "too fast" and "too slow" against "fits": a constant, by shift (of both passes' measurements, in scatters) and by how fast the
# car came into the corner (log of its speed a quarter in over what the road allows, less what is usual). Fitted by bench/passes.py.
TOO_FAST = (-2.07, -2.36, 3.78)
TOO_SLOW = (-2.64, 2.00, -6.80)
# So likely a verdict has to be. # from training pairs: nine in ten of those said are right
TELLS = 0.7
# A pair is sure enough to say something of its corner.
SURE_ENOUGH = 0.6
# What an aspect that the later pass can show and finds nothing wrong with is worth.
NOTHING_FOUND = 0.85
# Passes whose grip differs by more than this don't compare by the clock: wet and dry.
ANOTHER_SURFACE = 0.1


@dataclass(frozen=True)
class Changed:
    """A note, or a few, that were written otherwise for the later pass; numbers of notes are of the two books.

    ``said`` is what was said on the later pass, ``None`` without words. ``gain`` is what the later pass gained there, ``None`` where
    the passes don't compare by the clock.
    """

    old: str
    new: str
    notes_before: tuple[int, int]
    notes_now: tuple[int, int]
    page: int
    line: int
    from_m: float
    to_m: float
    verdict: Verdict
    confidence: float
    said: Said | None
    gain: Gain | None
    because: tuple[Message, ...]

    @property
    def why(self) -> str:
        """The reasons, in English sentences."""
        return " ".join(map(str, self.because))


@dataclass(frozen=True)
class Kept:
    """A note that stayed although the earlier pass spoke against it; ``finding`` is what was found then."""

    text: str
    note: int
    page: int
    line: int
    from_m: float
    to_m: float
    verdict: Verdict
    confidence: float
    finding: Finding
    gain: Gain | None
    because: tuple[Message, ...]

    @property
    def why(self) -> str:
        """The reasons, in English sentences."""
        return " ".join(map(str, self.because))


@dataclass(frozen=True)
class ChangeReview:
    """Two passes against each other: what was changed between them and what was kept; places are along the earlier one."""

    changes: tuple[Changed, ...]
    kept: tuple[Kept, ...]
    road: SameRoad | None
    gained: Gained | None
    comparable: bool


def compare_passes(earlier: Review, later: Review) -> ChangeReview:
    """What the later pass says of the changes that were made after the earlier one, and of what was kept."""
    return _Comparison(earlier, later).all()


@dataclass(frozen=True)
class _Outcome:
    verdict: Verdict
    confidence: float
    because: tuple[Message, ...]


class _Comparison:
    def __init__(self, earlier: Review, later: Review) -> None:
        self.earlier, self.later = earlier, later
        here, there = earlier.measured, later.measured
        self.road = same_road((here.profile, here.plan), (there.profile, there.plan))
        self.parts = [(p.from_m, p.to_m) for p in earlier.parts]
        if self.road is not None:
            self.parts += [(self.road.here(p.from_m), self.road.here(p.to_m)) for p in later.parts]
        self.gained = gained(here.profile, there.profile, self.road, earlier.finish_m, self.parts) if self.road is not None else None
        self.grips = float(np.median(later.pace.grip_mps2) / max(float(np.median(earlier.pace.grip_mps2)), 0.1))
        self.comparable = self.gained is not None and abs(np.log(self.grips)) < ANOTHER_SURFACE
        self.usual_entry = _usual_entry(later)
        self.on_note: dict[int, list[Finding]] = {}
        for finding in later.findings:
            self.on_note.setdefault(finding.note, []).append(finding)

    def all(self) -> ChangeReview:
        """Every change and everything kept, in the order of the road."""
        blocks = list(changed_blocks(self.earlier.notes, self.later.notes))
        same = unchanged_notes(self.earlier.notes, self.later.notes)
        first = self._first_against(same)
        places = [self._place(before, now) for *_, before, now in blocks]
        touched = [*places, *((f.from_m, f.to_m) for f in first.values())]
        spoilt = [(a - AHEAD_M, b + BEHIND_M) for a, b in touched] + self.parts
        changes = tuple(self._changed(*block, place, spoilt) for block, place in zip(blocks, places, strict=True))
        kept = tuple(self._kept(f, same[note], spoilt) for note, f in sorted(first.items()))
        return ChangeReview(changes, kept, self.road, self.gained, self.comparable)

    def _first_against(self, notes: Container[int]) -> dict[int, Finding]:
        """The first finding of the earlier pass that spoke against each of some notes, and that a later pass can tell of."""
        out: dict[int, Finding] = {}
        for f in self.earlier.findings:
            kind = KINDS[f.kind]
            tells = kind.aspect and kind.group != "pace" and kind.drawing != "uncalled"
            if f.note in notes and f.severity != "remark" and tells:
                out.setdefault(f.note, f)
        return out

    def _place(self, before: tuple[int, int], now: tuple[int, int]) -> tuple[float, float]:
        """From where to where notes lie, along the earlier pass."""
        earlier, later = self.earlier.lineup, self.later.lineup
        bends = later.bends_of(range(*now))
        if bends and self.road is not None:
            return self.road.here(bends[0].from_m), self.road.here(bends[-1].to_m)
        bends = earlier.bends_of(range(*before))
        if bends:
            return bends[0].from_m, bends[-1].to_m
        passed = earlier.bends_of(range(before[0]))
        to_come = earlier.bends_of(range(before[1], len(self.earlier.notes)))
        from_m = passed[-1].to_m if passed else 0.0
        return from_m, to_come[0].from_m if to_come else from_m or self.earlier.finish_m

    def _does_not_count(self, from_m: float, to_m: float) -> bool:
        """Whether a place lies in a part of either pass that does not count."""
        return any(a < to_m and b > from_m for a, b in self.parts)

    def _gain(self, from_m: float, to_m: float, spoilt: Sequence[tuple[float, float]]) -> Gain | None:
        if self.gained is None or not self.comparable or self._does_not_count(from_m, to_m):
            return None
        return self.gained.at(from_m, to_m, spoilt)

    def _changed(
        self,
        old: str,
        new: str,
        before: tuple[int, int],
        now: tuple[int, int],
        place: tuple[float, float],
        spoilt: Sequence[tuple[float, float]],
    ) -> Changed:
        from_m, to_m = place
        gain = self._gain(from_m, to_m, spoilt)
        outcome = self._verdict(before, now)
        shown = self.earlier.notes[min(before[0], len(self.earlier.notes) - 1)]
        return Changed(
            old=old,
            new=new,
            notes_before=before,
            notes_now=now,
            page=shown.page,
            line=shown.line,
            from_m=from_m,
            to_m=to_m,
            verdict=outcome.verdict,
            confidence=outcome.confidence,
            said=self._said(before, now),
            gain=gain,
            because=(*outcome.because, *self._clock(gain)),
        )

    def _kept(self, finding: Finding, now: int, spoilt: Sequence[tuple[float, float]]) -> Kept:
        note = self.later.notes[now]
        gain = self._gain(finding.from_m, finding.to_m, spoilt)
        aspect = KINDS[finding.kind].aspect
        assert aspect is not None
        outcome = self._of_note(self.earlier.notes[finding.note], note, {aspect})
        return Kept(
            text=note.text,
            note=now,
            page=note.page,
            line=note.line,
            from_m=finding.from_m,
            to_m=finding.to_m,
            verdict=outcome.verdict,
            confidence=outcome.confidence,
            finding=finding,
            gain=gain,
            because=(*outcome.because, *self._clock(gain)),
        )

    def _clock(self, gain: Gain | None) -> tuple[Message, ...]:
        if not self.comparable:
            if self.gained is None:
                return ()
            return (message("The passes don't compare by the clock: the later one used {0:.0%} of the earlier one's grip.", self.grips),)
        # Within two standard deviations of nothing it says nothing.
        if gain is None or gain.beyond is None or gain.beyond_sd is None or abs(gain.beyond) < 2 * gain.beyond_sd:
            return ()
        if gain.beyond > 0:
            return (message("{0:.1f} s gained here beyond the rest of the pass (±{1:.1f} s).", gain.beyond, 2 * gain.beyond_sd),)
        return (message("{0:.1f} s lost here against the rest of the pass (±{1:.1f} s).", -gain.beyond, 2 * gain.beyond_sd),)

    def _said(self, before: tuple[int, int], now: tuple[int, int]) -> Said | None:
        """What was said of the change on the later pass."""
        calls = [(call.how.said_as, call.said) for call in self.later.calls[slice(*now)] if call.how is not None]
        how = {said_as for said_as, _ in calls}
        # A sound shows when a note was called and not with what words.
        if not how or not how.isdisjoint(BY_SOUND):
            return None
        if how == {"not-said"}:
            return "not-said"
        if "otherwise" not in how:
            return "new"
        return "old" if any(said_as == "otherwise" and self._as_before(said, before) for said_as, said in calls) else "otherwise"

    def _as_before(self, said: Note | None, before: tuple[int, int]) -> bool:
        """Whether what was said is one of some notes of the earlier book."""
        return said is not None and any(_alike(said, self.earlier.notes[m]) for m in range(*before))

    # The verdict

    def _verdict(self, before: tuple[int, int], now: tuple[int, int]) -> _Outcome:
        olds = [self.earlier.notes[n] for n in range(*before)]
        news = [self.later.notes[n] for n in range(*now)]
        if not news:
            return self._taken_out(now)
        if len(olds) == len(news):
            outcomes = [self._of_note(a, b, aspects_of(a, b)) for a, b in zip(olds, news, strict=True)]
        else:
            outcomes = [self._of_note(None, b, {"grade", "direction"}) for b in news if b.is_corner]
            outcomes = outcomes or [self._of_note(None, b, {"vertical"}) for b in news]
        return _worst(outcomes)

    def _taken_out(self, now: tuple[int, int]) -> _Outcome:
        """A note that was struck out: right if the later pass finds no corner missing there."""
        beside = range(max(now[0] - 1, 0), min(now[0] + 1, len(self.later.notes)))
        missing = [f for n in beside for f in self.on_note.get(n, []) if f.kind == "corner-uncalled"]
        if missing:
            return _Outcome("too-fast", missing[0].confidence, missing[0].because)
        return _Outcome("fits", NOTHING_FOUND, (message("Nothing is missing where the note was."),))

    def _of_note(self, old: Note | None, note: Note, aspects: set[Aspect]) -> _Outcome:
        outcomes: list[_Outcome] = []
        for aspect in sorted(aspects):
            if aspect == "grade" and note.is_corner and note.grade is not None:
                outcomes.append(self._grade(old, note))
            else:
                outcomes.append(self._by_findings(note, aspect))
        return _worst(outcomes)

    def _by_findings(self, note: Note, aspect: Aspect) -> _Outcome:
        """What the later pass's findings say of one aspect of a note, if it can show that aspect."""
        for finding in self.on_note.get(note.index, []):
            kind = KINDS[finding.kind]
            if kind.aspect == aspect:
                sure, verdict = max(finding.confidence, 0.5), "too-fast" if kind.too_much else "too-slow"
                return _Outcome(verdict if sure >= TELLS else "cant-tell", sure, finding.because)  # type: ignore[arg-type]
        if not self._shows(note, aspect):
            return _Outcome("cant-tell", 0.5, (message("This pass does not show it."),))
        return _Outcome("fits", NOTHING_FOUND, (message("Nothing on the later pass speaks against it."),))

    def _shows(self, note: Note, aspect: Aspect) -> bool:
        review = self.later
        if aspect == "vertical":
            return review.measured.vertical is not None
        if aspect == "distance":
            return any(g.note == note.index and g.usable and g.met_m is not None for g in review.lineup.gaps)
        if aspect in ("shape", "length") and review.measured.coarse:
            return False
        tie = review.lineup.tie_of.get(note.index)
        return tie is not None and tie.bend is not None and tie.sure >= SURE_ENOUGH

    def _grade(self, old: Note | None, note: Note) -> _Outcome:
        """The three hypotheses of a grade, weighed."""
        later = self._shift(self.later, note.index, note)
        if later is None:
            return self._not_measured(note)
        earlier = self._shift(self.earlier, old.index, note) if old is not None else None
        shift = later if earlier is None else 0.5 * (later + earlier)
        entry = self._entry(note.index)
        score = np.array([0.0, *(float(np.dot(w, (1.0, shift, entry))) for w in (TOO_FAST, TOO_SLOW))])
        p = np.exp(score - score.max())
        p /= p.sum()
        best = int(np.argmax(p))
        verdicts: tuple[Verdict, ...] = ("fits", "too-fast", "too-slow")
        tie = self.later.lineup.tie_of[note.index]
        assert tie.bend is not None
        likely = float(p[best]) * min(tie.sure / 0.95, 1.0)
        said = message(
            "Called {called}. It turned like your {met}: radius {radius_m:.0f} m at the tightest, {speed_mps:kmh} km/h at the slowest.",
            called=note.grade or "",
            met=self.later.school.grade_at(tie.position or 0.0),
            radius_m=tie.bend.radius_m,
            speed_mps=tie.bend.speed_min_mps,
        )
        return _Outcome(verdicts[best] if likely >= TELLS else "cant-tell", likely, (said,))

    def _not_measured(self, note: Note) -> _Outcome:
        """What the later pass tells of a note that it measured no corner for: surely that there is none, or the other way."""
        findings = self.on_note.get(note.index, [])
        missing = next((f for f in findings if f.kind in ("corner-unmet", "direction")), None)
        if missing is None or missing.confidence < TELLS:
            return _Outcome("cant-tell", 0.5, (message("This pass does not show it."),))
        verdict: Verdict = "too-fast" if missing.kind == "direction" else "too-slow"
        return _Outcome(verdict, missing.confidence, missing.because)

    def _shift(self, review: Review, index: int, called: Note) -> float | None:
        """How much more open a corner is than called, in scatters, as one pass measured it; ``None`` where it did not."""
        tie = review.lineup.tie_of.get(index)
        position = self.later.school.tightest_position(called)
        if tie is None or tie.bend is None or tie.position is None or tie.sure < SURE_ENOUGH or np.isnan(position):
            return None
        if called.direction is not None and tie.bend.side != called.direction.sign:
            return None
        at = min(max(position, TIGHTEST), review.school.top + 0.5)
        return (max(tie.position, TIGHTEST) - at) / max(review.lineup.grades.scatter, LEAST_SCATTER)

    def _entry(self, index: int) -> float:
        """How fast the car came into a note's corner, beyond the usual; 0 where it can't be told."""
        entry = entry_of(self.later, index)
        return 0.0 if entry is None else entry - self.usual_entry


def entry_of(review: Review, index: int) -> float | None:
    """Log of the speed a quarter into a note's bend over what the road allows there."""
    tie = review.lineup.tie_of.get(index)
    if tie is None or tie.bend is None:
        return None
    bend, profile = tie.bend, review.profile
    speed = float(np.interp(bend.from_m + 0.25 * (bend.to_m - bend.from_m), profile.distance_m, profile.speed_mps))
    return float(np.log(max(speed, 1.0) / max(review.pace.allowed_mps(bend), 1.0)))


def _usual_entry(review: Review) -> float:
    turning = [t.note for t in review.lineup.ties if t.bend is not None and t.bend.turn_deg > 20.0]
    entries = [e for n in turning if (e := entry_of(review, n)) is not None]
    return float(np.median(entries)) if entries else 0.0


def _worst(outcomes: Sequence[_Outcome]) -> _Outcome:
    """What is said of several parts at once: too fast before too slow before what can't be told; fits where all do."""
    for verdict in ("too-fast", "too-slow", "cant-tell"):
        of = [t for t in outcomes if t.verdict == verdict]
        if of:
            return max(of, key=lambda t: t.confidence)
    if not outcomes:
        return _Outcome("cant-tell", 0.5, (message("This pass does not show it."),))
    return min(outcomes, key=lambda t: t.confidence)


def aspects_of(old: Note, new: Note) -> set[Aspect]:
    """What differs between two notes."""
    out: set[Aspect] = set()
    if old.grade != new.grade:
        out.add("grade")
    if old.direction != new.direction:
        out.add("direction")
    if old.changes != new.changes:
        out.add("shape")
    if old.length != new.length:
        out.add("length")
    if (old.distance_m, old.link) != (new.distance_m, new.link):
        out.add("distance")
    if old.features != new.features:
        out.add("vertical")
    return out or {"words"}


def _alike(a: Note, b: Note) -> bool:
    return (a.direction, a.grade, a.length, a.changes) == (b.direction, b.grade, b.length, b.changes)


def _key(note: Note) -> tuple[object, ...]:
    """What a note calls, for telling whether another edition has the same."""
    return (
        note.direction,
        note.grade,
        note.length_terms,
        note.changes,
        note.cautions,
        note.features,
        note.line_on_road,
        note.objects,
        note.link,
        note.distance_m,
        note.marks,
        note.unread,
    )


def changed_blocks(before: Sequence[Note], now: Sequence[Note]) -> Iterator[tuple[str, str, tuple[int, int], tuple[int, int]]]:
    """What was changed from one book to another: old and new text, and the notes from and to (past the last) in each."""
    for tag, i, j, k, m in _matched(before, now).get_opcodes():
        if tag == "equal":
            continue
        if j - i == m - k:
            for a, b in zip(range(i, j), range(k, m), strict=True):
                yield before[a].text, now[b].text, (a, a + 1), (b, b + 1)
        else:
            old, new = (" / ".join(n.text for n in notes) for notes in (before[i:j], now[k:m]))
            yield old, new, (i, j), (k, m)


def unchanged_notes(before: Sequence[Note], now: Sequence[Note]) -> dict[int, int]:
    """The notes of a book that call the same in another, however they are written, with their numbers there."""
    return {
        a: b
        for tag, i, j, k, m in _matched(before, now).get_opcodes()
        if tag == "equal"
        for a, b in zip(range(i, j), range(k, m), strict=True)
    }


def _matched(before: Sequence[Note], now: Sequence[Note]) -> SequenceMatcher[tuple[object, ...]]:
    return SequenceMatcher(None, [_key(n) for n in before], [_key(n) for n in now], autojunk=False)
