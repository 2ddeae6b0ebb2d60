"""The new edition of a book of notes: the source with the marked replacements in it, and what changed where."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from mirkle.core.book.decisions import Decision
from mirkle.core.clauses import clause
from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.model import Note, Reading


@dataclass(frozen=True)
class Change:
    """One change to copy by hand: at ``page`` and ``line``, ``old`` is crossed out and ``new`` stands instead."""

    page: int
    line: int
    first_note: int
    last_note: int
    old: str
    new: str
    decision: Decision

    @property
    def seen(self) -> bool:
        """Whether it rests on what was seen on the video."""
        return bool(self.decision.seen)


class Edition:
    """A reading with marks applied. Everything that no mark touches stays to the letter.

    A later mark on the same notes replaces an earlier one.
    """

    def __init__(self, reading: Reading, decisions: Iterable[Decision]) -> None:
        self.reading = reading
        self._marks: list[Decision] = []
        for decision in decisions:
            if decision.answer == "mark":
                self._marks = [m for m in self._marks if not _overlap(m, decision)]
                self._marks.append(decision)
        self._marks.sort(key=lambda m: m.first_note)
        self._by_note = {n: m for m in self._marks for n in range(m.first_note, m.last_note + 1)}

    def mark_on(self, note: int) -> Decision | None:
        """The standing mark that covers a note."""
        return self._by_note.get(note)

    def text_of(self, note: Note) -> str:
        """What stands for a note now; empty where it was struck out or taken up into the note before."""
        mark = self.mark_on(note.index)
        if mark is None:
            return note.text
        return mark.text if mark.first_note == note.index else ""

    @property
    def text(self) -> str:
        """The whole book as text, in the crew's own hand."""
        source, out, at = self.reading.source, [], 0
        for mark in self._marks:
            first, last = self.reading.notes[mark.first_note], self.reading.notes[mark.last_note]
            out += [source[at : first.span.start], mark.text]
            at = last.span.end
        return "".join(out) + source[at:]

    @property
    def on_paper(self) -> str:
        """The whole book with every line where it was: what was put in stands on the line of what it came to, and a line that was
        struck out is left empty."""
        notes, source, out, at = self.reading.notes, self.reading.source, [], 0
        for mark in self._marks:
            first, last = notes[mark.first_note], notes[mark.last_note]
            lost = source[first.span.start : last.span.end].count("\n")
            out += [source[at : first.span.start], mark.text.replace("\n", "  "), "\n" * lost]
            at = last.span.end
        return "".join(out) + source[at:]

    @property
    def changes(self) -> tuple[Change, ...]:
        """Every change by page and line, in the order of the book."""
        notes = self.reading.notes
        return tuple(
            Change(
                page=notes[m.first_note].page,
                line=notes[m.first_note].line,
                first_note=m.first_note,
                last_note=m.last_note,
                old=self.old_text(m.first_note, m.last_note),
                new=m.text,
                decision=m,
            )
            for m in self._marks
        )

    def old_text(self, first_note: int, last_note: int) -> str:
        """The source from one note to another, as written."""
        notes = self.reading.notes
        return self.reading.source[notes[first_note].span.start : notes[last_note].span.end]

    def check_can_take(self, decision: Decision) -> None:
        """Raises :class:`UnusableNotes` if a mark would tear an earlier one of several notes apart."""
        for mark in self._marks:
            partly = _overlap(mark, decision) and not (
                decision.first_note <= mark.first_note and mark.last_note <= decision.last_note
            )
            if partly and mark.finding != decision.finding:
                raise UnusableNotes(
                    clause("this note is already part of “{0}”", mark.text.replace(chr(10), " / ")),
                    mend="undo that change first",
                )


def _overlap(a: Decision, b: Decision) -> bool:
    return a.first_note <= b.last_note and b.first_note <= a.last_note
