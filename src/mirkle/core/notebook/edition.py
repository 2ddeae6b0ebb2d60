"""The new edition of a book of notes: the source with the marked replacements in it, and what changed where."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from mirkle.core.errors import UnusableNotes
from mirkle.core.messages import message
from mirkle.core.notebook.decisions import Decision, NoteChange
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
    decision: NoteChange

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
        self._marks: list[NoteChange] = []
        for decision in decisions:
            if isinstance(decision, NoteChange):
                self._marks = [m for m in self._marks if not _overlap(m, decision)]
                self._marks.append(decision)
        self._marks.sort(key=lambda m: m.first_note)
        self._by_note = {n: m for m in self._marks for n in range(m.first_note, m.last_note + 1)}
        self._written_alone = {
            borrower.index: reading.written_alone(borrower) for mark in self._marks if (borrower := self._left_alone(mark)) is not None
        }

    def _left_alone(self, mark: NoteChange) -> Note | None:
        """The note ahead of a mark that borrows from what the mark changes: it keeps what it called, written out."""
        before = self.reading.notes[mark.first_note - 1] if mark.first_note else None
        if before is None or not before.borrows or before.index in self._by_note:
            return None
        return None if self.reading.corner_text(self.reading.notes[mark.first_note]) in mark.text else before

    def mark_on(self, note: int) -> NoteChange | None:
        """The standing mark that covers a note."""
        return self._by_note.get(note)

    def text_of(self, note: Note) -> str:
        """What stands for a note now; empty where it was struck out or taken up into the note before."""
        mark = self.mark_on(note.index)
        if mark is None:
            return self._written_alone.get(note.index, note.text)
        return mark.text if mark.first_note == note.index else ""

    @property
    def text(self) -> str:
        """The whole book as text, in the crew's own hand."""
        return self._with_replacements(lambda _lost, text: text)

    @property
    def on_paper(self) -> str:
        """The whole book with every line where it was: what was put in stands on the line of what it came to, and a line that was
        struck out is left empty."""
        return self._with_replacements(lambda lost, text: text.replace("\n", "  ") + "\n" * lost.count("\n"))

    def _with_replacements(self, put: Callable[[str, str], str]) -> str:
        """The source with each replaced piece put in, of what stood there and what shall."""
        notes, source, out, at = self.reading.notes, self.reading.source, [], 0
        replaced = [(m.first_note, m.last_note, m.text) for m in self._marks]
        replaced += [(note, note, text) for note, text in self._written_alone.items()]
        for first_note, last_note, text in sorted(replaced):
            first, last = notes[first_note].span.start, notes[last_note].span.end
            out += [source[at:first], put(source[first:last], text)]
            at = last
        return "".join(out) + source[at:]

    @property
    def changes(self) -> tuple[Change, ...]:
        """Every change by page and line, in the order of the book."""
        return tuple(map(self._change, self._marks))

    def _change(self, mark: NoteChange) -> Change:
        first_note, new = mark.first_note, mark.text
        if (alone := self._written_alone.get(first_note - 1)) is not None:
            # What the pen has to write is both notes.
            first_note, new = first_note - 1, f"{alone} {new}".rstrip()
        first = self.reading.notes[first_note]
        old = self.old_text(first_note, mark.last_note)
        return Change(first.page, first.line, first_note, mark.last_note, old, new, mark)

    def old_text(self, first_note: int, last_note: int) -> str:
        """The source from one note to another, as written."""
        notes = self.reading.notes
        return self.reading.source[notes[first_note].span.start : notes[last_note].span.end]

    def check_can_take(self, decision: NoteChange) -> None:
        """Raises :class:`UnusableNotes` if a mark would tear an earlier one of several notes apart."""
        for mark in self._marks:
            partly = _overlap(mark, decision) and not (decision.first_note <= mark.first_note and mark.last_note <= decision.last_note)
            if partly and mark.key != decision.key:
                raise UnusableNotes(
                    message("this note is already part of “{0}”", mark.text.replace(chr(10), " / ")), mend="undo that change first"
                )


def _overlap(a: NoteChange, b: NoteChange) -> bool:
    return a.first_note <= b.last_note and b.first_note <= a.last_note
