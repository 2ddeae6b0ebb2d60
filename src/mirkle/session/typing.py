"""A book as it is typed: each line read back by itself, in the hand that the whole text shows."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.lineup.blanks import BLANK
from mirkle.core.messages import Message, in_a_row, message
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.tables import written_in_lines
from mirkle.files.notes.languages import shipped_languages


@dataclass(frozen=True)
class TypedLine:
    """One line: in plain words what was read, or in ``fault`` why it is no note; ``is_blank`` where its grade waits for the crew."""

    words: Message
    fault: Message | None
    notes: int
    is_page: bool = False
    is_blank: bool = False


def has_blank(line: str) -> bool:
    """Whether a line has a blank that nobody filled."""
    return BLANK in line.partition("//")[0].split()


def is_begun(text: str, blanks: str) -> bool:
    """Whether a text was begun from the same blanks: what the road is like still stands in most of its lines, however they were filled."""
    like = {_like(line) for line in blanks.split("\n") if has_blank(line)}
    kept = {_like(line) for line in text.split("\n")}
    return 2 * len(like & kept) > len(like)


def _like(line: str) -> str:
    """What the road is like at a line, without what it might be called."""
    return line.partition("//")[2].partition("~")[0]


def unfilled_as_remarks(text: str) -> str:
    """A text in which each line whose blank nobody filled is a remark: it stays on its page, and nobody calls it."""
    lines = text.split("\n")
    return "\n".join(f"// {line}" if has_blank(line) else line for line in lines)


def pasted_in_lines(text: str) -> tuple[str, tuple[Message, ...]]:
    """A pasted text with a note a line, where it was a table, and what was left out of it."""
    return written_in_lines(text, shipped_languages())


def read_typed(text: str) -> list[TypedLine]:
    """Every line of a text of notes, read back."""
    if not text.strip():
        return []
    reading = read_notes(text, shipped_languages(), corners_needed=False)
    starts, at = [], 0
    for line in text.split("\n"):
        starts.append(at)
        at += len(line) + 1
    out = []
    by_line: dict[int, list[int]] = {}
    row = 0
    for note in reading.notes:
        while row + 1 < len(starts) and starts[row + 1] <= note.span.start:
            row += 1
        by_line.setdefault(row, []).append(note.index)
    for row, line in enumerate(text.split("\n")):
        if has_blank(line):
            out.append(TypedLine(message("blank: {0}", line.partition("//")[2].strip()), None, 0, is_blank=True))
            continue
        notes = [reading.notes[i] for i in by_line.get(row, [])]
        unread = [w for n in notes for w in n.unread]
        half = next((n for n in notes if n.is_corner != (n.grade is not None)), None)
        fault: Message | None = None
        if unread:
            fault = message("“{0}” is not a known word yet", unread[0])
        elif half is not None:
            fault = message("the corner has no grade") if half.is_corner else message("the grade has no direction")
        is_page = not notes and bool(line.strip())
        words = message("{0}", line.strip().lower()) if is_page else in_a_row([n.read_back for n in notes], ";  ")
        out.append(TypedLine(words, fault, len(notes), is_page))
    return out
