"""The one way through: a recording and notes in, a review out. Read it as a table of contents."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.pairing import Lineup, line_up
from mirkle.core.motion.bends import Drive, Profile, find_drive, profile_of
from mirkle.core.motion.path import Path, smooth_path
from mirkle.core.motion.recording import Floats, Recording
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Note, Reading
from mirkle.core.notes.school import School, school_of
from mirkle.core.notes.writing import Hand
from mirkle.core.verdict.corners import judge_corners
from mirkle.core.verdict.findings import SEVERITIES, Case, Finding
from mirkle.core.verdict.gaps import judge_gaps
from mirkle.core.verdict.scale import Band, bands_of


@dataclass(frozen=True)
class Plan:
    """The driven line from above, one point a metre from the start line; both (n,) metres."""

    east_m: Floats
    north_m: Floats


@dataclass(frozen=True)
class Review:
    """Everything that was found out about one pass. Places are metres from the start line."""

    recording_name: str
    reading: Reading
    school: School
    drive: Drive
    finish_m: float
    finish_s: float
    profile: Profile
    plan: Plan
    lineup: Lineup
    bands: tuple[Band, ...]
    findings: tuple[Finding, ...]
    doubts: tuple[str, ...]

    @property
    def notes(self) -> tuple[Note, ...]:
        """The notes in the order of the book."""
        return self.reading.notes


def review_run(
    recording: Recording,
    reading: Reading,
    language: Language,
    *,
    progress: Callable[[str, float], None] = lambda _words, _share: None,
) -> Review:
    """Reviews one pass.

    Parameters
    ----------
    recording : as :func:`mirkle.core.motion.recording.mended` returns it
    reading : the notes
    language : the language they were read in
    progress : is told in words what is being done and the share done; it may raise to cancel
    """
    progress("Finding the driven line", 0.1)
    path = smooth_path(recording)
    drive = find_drive(path)
    profile = profile_of(path, drive.start_m, drive.stop_m)
    progress("Pairing the notes with the road", 0.5)
    school = school_of([n.grade for n in reading.corners if n.grade])
    lineup = line_up(
        reading.notes,
        school,
        profile,
        progress=lambda share: progress("Pairing the notes with the road", 0.5 + 0.4 * share),
    )
    progress("Judging", 0.95)
    notes = {n.index: n for n in reading.notes}
    finish_m = _finish_m(reading, lineup, profile)
    case = Case(
        notes=reading.notes,
        lineup=lineup,
        bands=bands_of(lineup, notes, school),
        school=school,
        profile=profile,
        hand=Hand(reading, language),
        finish_m=finish_m,
        coarse=_is_coarse(path),
    )
    return Review(
        recording_name=recording.name,
        reading=reading,
        school=school,
        drive=drive,
        finish_m=finish_m,
        finish_s=path.time_at(drive.start_m + finish_m),
        profile=profile,
        plan=_plan(path, drive, profile),
        lineup=lineup,
        bands=case.bands,
        findings=_findings(case),
        doubts=path.doubts,
    )


def _finish_m(reading: Reading, lineup: Lineup, profile: Profile) -> float:
    """Where the notes put the finish, behind the last paired corner; else where the car stopped."""
    at = next((n.index for n in reading.notes if "finish" in n.marks), None)
    last = next((t for t in reversed(lineup.ties) if t.bend is not None), None)
    if at is None or last is None or last.bend is None or last.note > at:
        return profile.length_m
    between = [n.distance_m for n in reading.notes[last.note : at] if n.distance_m is not None]
    if not between:
        return profile.length_m
    expected = lineup.distances.expected_m(np.array([float(sum(between))]))
    return min(profile.length_m, last.bend.to_m + float(expected[0]))


def _is_coarse(path: Path) -> bool:
    """Whether bends are blurred: nothing but positions, so that radii are good to a tenth at best."""
    return path.sources == ("position",)


def _findings(case: Case) -> tuple[Finding, ...]:
    corners = list(judge_corners(case))
    missing = {f.note for f in corners if f.kind in ("corner-uncalled", "corner-unmet")}
    troubled = frozenset(missing | {n + 1 for n in missing} | {n - 1 for n in missing})
    found = corners + list(judge_gaps(case, troubled))
    inside = [f for f in found if f.from_m <= case.finish_m]
    return tuple(sorted(inside, key=lambda f: (SEVERITIES.index(f.severity), -f.risk, f.from_m)))


def _plan(path: Path, drive: Drive, profile: Profile) -> Plan:
    at = profile.distance_m + drive.start_m
    east, north = path.at_distance(path.east_m, at), path.at_distance(path.north_m, at)
    return Plan(east - east[0], north - north[0])
