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

WANTED = "notes as text or a run as CSV or GPX"
Progress = Callable[[str, float], None]


def _silent(_words: str, _share: float) -> None:
    return None


@dataclass(frozen=True)
class Sorted:
    """A file taken in: its material and one sentence that says what was read from it."""

    material: Material
    sentence: str


def load(path: Path) -> Material:
    """A file as it is, told apart by its first lines as notes or a run; not read further.

    Raises
    ------
    MirkleError
        It is missing, empty, too large, or neither.
    """
    content = read_bytes(path, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    plain = unpacked(content, name=path.name, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    return Material("run" if runs.looks_like_run(plain) else "notes", path.name, content)


def take_in(path: Path) -> Sorted:
    """Reads a file, tells whether it is notes or a run, and checks that it can be used.

    Raises
    ------
    MirkleError
        With where, what and how to mend.
    """
    material = load(path)
    return Sorted(material, _run_sentence(material) if material.kind == "run" else _notes_sentence(material))


def _run_sentence(material: Material) -> str:
    recording = runs.parse_run(material.content, name=material.name)
    seconds = max(float(c.time_s[-1] - c.time_s[0]) for c in recording.channels.values())
    channels = ", ".join(sorted({_channel_words(c) for c in recording.channels}))
    doubts = "".join(f" {d}" for d in recording.doubts)
    return f"A run of {seconds / 60:.0f} minutes with {channels}.{doubts}"


def _notes_sentence(material: Material) -> str:
    reading = parse_notes(material.content, name=material.name)
    pages = reading.notes[-1].page
    unread = sorted({w for n in reading.notes for w in n.unread})
    sentence = (
        f"{len(reading.notes)} notes, {len(reading.corners)} corners, on {pages} page{'s' * (pages > 1)}, "
        f"{reading.order.replace('-', ' ')}."
    )
    if unread:
        sentence += f" Not understood: {', '.join(unread[:8])}."
    return sentence


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
