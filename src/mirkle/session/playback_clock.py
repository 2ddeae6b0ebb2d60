"""The sound of a pass: where it lies, and how its clock goes with the road."""

from __future__ import annotations

from pathlib import Path

from mirkle.core.notebook.passes import Pass
from mirkle.files.audio.media import media_path
from mirkle.files.project.project import Project
from mirkle.session.open_pass import OpenPass
from mirkle.session.reviewed_pass import ReviewedPass

# How much a crew wants to hear before a call (s). # common practice
BEFORE_CALL_S = 4.0
VIDEO_SUFFIXES = (".mp4", ".mkv", ".mov", ".avi", ".webm", ".m4v", ".mts", ".ts", ".mpg")
# A sound is whole when it ends within this distance of the finish (m).
SHORT_BY_M = 60.0


def sound_of(stage: OpenPass) -> Path | None:
    """The sound or video of this pass; ``None`` where there is none.

    Raises
    ------
    MirkleError
        It was added, and is no longer where it was.
    """
    media = stage.project.material(stage.pass_now().media)
    return media_path(media) if media is not None else None


def begin_s(stage: ReviewedPass) -> float:
    """Where in the sound to begin for the chosen note: :data:`BEFORE_CALL_S` before its call, or before the car was there.

    The words were made from the sound, so their clock is its; without words the recording's is taken for it.
    """
    review, finding = stage.review, stage.finding
    time = review.calls[stage.note].time
    if time is not None:
        return time.from_s - BEFORE_CALL_S
    bend = review.lineup.bend_of(stage.note)
    metres = finding.from_m if finding is not None else bend.from_m if bend is not None else 0.0
    at_s = review.profile.seconds_at(metres)
    return (review.clock.calls_s(at_s) if review.clock is not None else at_s) - 2 * BEFORE_CALL_S


def has_picture(sound: Path) -> bool:
    """Whether a file is a video, by its name."""
    return sound.suffix.lower() in VIDEO_SUFFIXES


def has_video(project: Project, made: Pass) -> bool:
    """Whether a pass has a video, by its name."""
    return has_picture(Path(dict(project.listed("media")).get(made.media or 0, "")))


def too_short(stage: ReviewedPass, sound_s: float) -> float | None:
    """Where the car was when the sound ended, metres from the start, if that was before the finish; ``None`` where it was not."""
    end_m = place_m(stage, sound_s)
    return end_m if end_m < stage.review.finish_m - SHORT_BY_M else None


def recording_s(stage: ReviewedPass, metres: float) -> float:
    """The recording's own time when the car came to a place."""
    return stage.review.profile.seconds_at(metres)


def sound_s(stage: ReviewedPass, metres: float) -> float | None:
    """The sound's time when the car came to a place; ``None`` where there is none, or its clock is the recording's."""
    clock = stage.review.clock
    if clock is None or stage.this_pass.media is None:
        return None
    return clock.calls_s(recording_s(stage, metres))


def place_m(stage: ReviewedPass, sound_s: float) -> float:
    """Where the car was at a moment of the sound, metres from the start line."""
    clock = stage.review.clock
    return stage.review.profile.metres_at(clock.run_s(sound_s) if clock is not None else sound_s)
