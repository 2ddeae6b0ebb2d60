"""What a file is, and a review from material: the use cases that the window and the command line share."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.review import Review, review_run
from mirkle.files import runs
from mirkle.files.notes_text import language_of, parse_notes
from mirkle.files.project import Material
from mirkle.files.sniff import LARGEST_RUN_BYTES, read_bytes, unpacked

Progress = Callable[[str, float], None]


def _silent(_words: str, _share: float) -> None:
    return None


@dataclass(frozen=True)
class Sorted:
    """A file taken in: its material and one sentence that says what was read from it."""

    material: Material
    sentence: str


def take_in(path: Path) -> Sorted:
    """Reads a file, tells whether it is notes or a run, and checks that it can be used.

    Raises
    ------
    MirkleError
        With where, what and how to mend.
    """
    content = read_bytes(path, largest=LARGEST_RUN_BYTES, wanted="notes as text or a run as CSV or GPX")
    return sort_out(content, name=path.name)


def sort_out(content: bytes, *, name: str) -> Sorted:
    """As :func:`take_in`, from the file's bytes."""
    plain = unpacked(content, name=name, largest=LARGEST_RUN_BYTES, wanted="notes as text or a run as CSV or GPX")
    if runs.looks_like_run(plain):
        recording = runs.parse_run(content, name=name)
        seconds = max(float(c.time_s[-1] - c.time_s[0]) for c in recording.channels.values())
        channels = ", ".join(sorted({_channel_words(c) for c in recording.channels}))
        doubts = "".join(f" {d}" for d in recording.doubts)
        return Sorted(Material("run", name, content), f"A run of {seconds / 60:.0f} minutes with {channels}.{doubts}")
    reading = parse_notes(content, name=name)
    pages = reading.notes[-1].page
    unread = sorted({w for n in reading.notes for w in n.unread})
    sentence = (
        f"{len(reading.notes)} notes, {len(reading.corners)} corners, on {pages} page{'s' * (pages > 1)}, "
        f"{reading.order.replace('-', ' ')}."
    )
    if unread:
        sentence += f" Not understood: {', '.join(unread[:8])}."
    return Sorted(Material("notes", name, content), sentence)


def _channel_words(channel: str) -> str:
    words = {
        "lat_rad": "position", "lon_rad": "position", "alt_m": "height", "speed_mps": "speed", "course_rad": "course",
        "hacc_m": "accuracy", "acc_x_mps2": "accelerations", "acc_y_mps2": "accelerations",
        "acc_z_mps2": "accelerations", "yaw_rate_radps": "yaw rate", "steer_rad": "steering",
        "wheel_speed_mps": "wheel speed",
    }  # fmt: skip
    return words.get(channel, channel)


def review_material(notes: Material, run: Material, *, progress: Progress = _silent) -> Review:
    """The review of one pass.

    Raises
    ------
    MirkleError
    """
    progress("Reading the notes", 0.0)
    reading = parse_notes(notes.content, name=notes.name)
    progress("Reading the recording", 0.02)
    recording = runs.parse_run(run.content, name=run.name)
    return review_run(recording, reading, language_of(reading), progress=progress)


def notes_and_runs(materials: Sequence[Material]) -> tuple[Material, list[Material]]:
    """The book and the passes among the material; the newest notes count.

    Raises
    ------
    MirkleError
        One of the two is missing.
    """
    notes = [m for m in materials if m.kind == "notes"]
    passes = [m for m in materials if m.kind == "run"]
    if not notes:
        raise MirkleError("the notes are still missing", mend="add the notes as text")
    if not passes:
        raise MirkleError("the recording is still missing", mend="add the run as CSV or GPX")
    return notes[-1], passes
