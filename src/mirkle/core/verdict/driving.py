"""Judging the drive: braking that no note asked for, and speed that was left unused."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from mirkle.core.verdict.findings import Case, Finding

# Harder than this car usually brakes, and inside the corner: nobody plans that.
HARDER_THAN_USUAL, SUDDEN_M = 1.1, 8.0
# Grip used against the envelope: below this, in a bend that turned, speed was left.
UNUSED, CLEARLY_UNUSED = 0.68, 0.5
LEAST_SECONDS = 0.2


def judge_driving(case: Case, taken: frozenset[int]) -> Iterator[Finding]:
    """Surprises and spare speed; ``taken`` notes carry a finding on their grade or shape already."""
    yield from _surprises(case, taken)
    yield from _spare(case, taken)


def _surprises(case: Case, taken: frozenset[int]) -> Iterator[Finding]:
    """Speed scrubbed inside a corner whose note said that it could be carried."""
    profile = case.profile
    slowing = -np.gradient(0.5 * profile.speed_mps**2, profile.distance_m)
    for tie in case.lineup.ties:
        note = case.notes[tie.note]
        called = case.called_position(note)
        if tie.bend is None or tie.note in taken or called is None or called < case.school.top - 2.2 or tie.sure < 0.8:
            continue
        first, last = int(tie.bend.from_m - 15), int(tie.bend.apex_m)
        inside = slowing[max(0, first) : max(first + 1, last)]
        hard = float(np.sum(inside > HARDER_THAN_USUAL * case.pace.braking_mps2))
        believed = case.pace.believed_mps(called)
        if hard < SUDDEN_M or tie.bend.speed_min_mps > 0.87 * believed or tie.position is None:
            continue
        if _next_is_tight(case, tie.note):
            continue
        yield Finding(
            id=f"surprise@{tie.note}",
            kind="surprise",
            note=tie.note,
            from_m=tie.bend.from_m,
            to_m=tie.bend.to_m,
            called=note.grade,
            met=f"{tie.bend.speed_min_mps * 3.6:.0f} km/h",
            severity="check",
            confidence=0.6,
            risk=0.8,
            why=(
                f"Braked up to {float(inside.max()) / 9.81:.1f} g into a {note.grade}, down to "
                f"{tie.bend.speed_min_mps * 3.6:.0f} km/h, where your {note.grade}s carry about {believed * 3.6:.0f}: "
                "something here surprised the driver."
            ),
            proposal=None,
        )


def _next_is_tight(case: Case, note: int) -> bool:
    """Whether the braking was for the corner behind this one."""
    own = case.tie_of[note].bend
    following = [t for t in case.lineup.ties if t.bend is not None and own is not None and t.bend.from_m > own.to_m - 1]
    if not following or own is None or following[0].bend is None:
        return False
    gap_m = following[0].bend.from_m - own.to_m
    needed_m = (own.speed_min_mps**2 - following[0].bend.speed_min_mps ** 2) / (2 * case.pace.braking_mps2)
    return gap_m < needed_m + 30.0


def _spare(case: Case, taken: frozenset[int]) -> Iterator[Finding]:
    for tie in case.lineup.ties:
        bend = tie.bend
        note = case.notes[tie.note]
        if (
            bend is None
            or tie.note in taken
            or tie.sure < 0.8
            or bend.turn_deg < 15
            or bend.radius_m > 180
            or case.coarse
        ):
            continue
        if note.grade is None or _next_is_tight(case, tie.note):
            continue
        used = bend.speed_min_mps**2 / bend.radius_m / case.pace.grip(bend.apex_m)
        allowed = min(case.pace.allowed_mps(bend), case.pace.reachable_mps(case.profile, bend))
        if used > UNUSED or allowed < 1.12 * bend.speed_min_mps:
            continue
        seconds = bend.length_m / bend.speed_min_mps - bend.length_m / allowed
        if seconds < LEAST_SECONDS:
            continue
        yield Finding(
            id=f"spare@{tie.note}",
            kind="spare",
            note=tie.note,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called=note.grade,
            met=f"{used:.0%} of the grip",
            severity="check" if used < CLEARLY_UNUSED else "remark",
            confidence=0.55,
            risk=0.05,
            why=(
                f"{bend.speed_min_mps * 3.6:.0f} km/h used {used:.0%} of the grip that you use elsewhere on this part; at "
                f"most {seconds:.1f} s lay in it."
            ),
            proposal=None,
            seconds=float(seconds),
        )
