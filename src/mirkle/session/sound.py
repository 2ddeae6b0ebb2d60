"""The sound of a pass: where it lies, and how its clock goes with the road."""

from __future__ import annotations

from pathlib import Path

from mirkle.files.media import media_path
from mirkle.session.stage import Stage

# So long before a call a crew wants to hear what came before it. # common practice
BEFORE_CALL_S = 4.0


def sound_of(stage: Stage) -> Path | None:
    """The sound or video of this pass; ``None`` where there is none.

    Raises
    ------
    MirkleError
        It was added, and is no longer where it was.
    """
    media = stage.project.material(stage.pass_now().media)
    return media_path(media) if media is not None else None


def begin_s(stage: Stage) -> float:
    """Where in the sound to begin for the chosen note: :data:`BEFORE_CALL_S` before its call, or before the car was there.

    The words were made from the sound, so their clock is its; without words the recording's is taken for it.
    """
    review, finding = stage.review, stage.finding
    said = review.said[stage.note]
    if said is not None:
        return said.time.from_s - BEFORE_CALL_S
    bend = review.lineup.bend_of(stage.note)
    metres = finding.from_m if finding is not None else bend.from_m if bend is not None else 0.0
    at_s = review.profile.seconds_at(metres)
    return (review.clock.calls_s(at_s) if review.clock is not None else at_s) - 2 * BEFORE_CALL_S


def place_m(stage: Stage, sound_s: float) -> float:
    """Where the car was at a moment of the sound, metres from the start line."""
    clock = stage.review.clock
    return stage.review.profile.metres_at(clock.run_s(sound_s) if clock is not None else sound_s)
