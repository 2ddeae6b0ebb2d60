"""The notes for a co-driver with another language or school, and what of them can't be carried over."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Reading
from mirkle.core.notes.writing import carried_over, written_out
from mirkle.files.notes.languages import shipped_languages


@dataclass(frozen=True)
class OtherHand:
    """The whole book in the other hand; ``lost`` is (page, line, what) for each thing that was not carried over."""

    text: str
    lost: tuple[tuple[int, int, str], ...]


def in_another_hand(reading: Reading, school: GradingScheme, *, language: str, order: str, other: GradingScheme) -> OtherHand:
    """Every note written out in full words of the other language, in the other order and school.

    Raises
    ------
    StopIteration
        There is no such language.
    """
    into = next(la for la in shipped_languages() if la.code == language)
    lines: list[str] = []
    lost: list[tuple[int, int, str]] = []
    page = None
    for note in reading.notes:
        if note.page != page:
            page = note.page
            lines.append(f"page {page}")
        carried, missed = carried_over(note, school, other)
        written = written_out(carried, into, order=order)
        lost += [(note.page, note.line, what) for what in (*missed, *written.lost)]
        lines.append(written.text)
    return OtherHand("\n".join(lines) + "\n", tuple(lost))
