"""The sound of a pass: where it lies, and how its clock goes with the road."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from mirkle.files.media import media_path
from mirkle.session.stage import Stage

# So long before a call a crew wants to hear what came before it. # common practice
BEFORE_CALL_S = 4.0


def sound_of(stage: Stage) -> Path | None:
    """The sound or video that was added last, if it belongs to this pass; ``None`` where there is none.

    It belongs to the first pass, as the words do.

    Raises
    ------
    MirkleError
        It was added, and is no longer where it was.
    """
    media = stage.project.newest("media")
    if media is None or stage.project.names("run")[0] != stage.run.name:
        return None
    return media_path(media)


def ahead_s(stage: Stage) -> float:
    """What the sound's clock reads more than the recording's: the words were made from it, so theirs; else nothing."""
    clock = stage.review.clock
    return clock.calls_minus_run_s if clock is not None else 0.0


def begin_s(stage: Stage) -> float:
    """Where in the sound to begin for the chosen note: :data:`BEFORE_CALL_S` before its call, or before the car was there."""
    said = stage.review.said[stage.note]
    if said is not None:
        return said.time.from_s - BEFORE_CALL_S
    profile = stage.review.profile
    finding = stage.finding
    bends = {t.note: t.bend for t in stage.review.lineup.ties}
    bend = bends.get(stage.note)
    metres = finding.from_m if finding is not None else bend.from_m if bend is not None else 0.0
    at_s = float(np.interp(metres, profile.distance_m, profile.time_s))
    return at_s + ahead_s(stage) - 2 * BEFORE_CALL_S


def place_m(stage: Stage, sound_s: float) -> float:
    """Where the car was at a moment of the sound, metres from the start line."""
    profile = stage.review.profile
    return float(np.interp(sound_s - ahead_s(stage), profile.time_s, profile.distance_m))
