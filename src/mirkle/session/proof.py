"""What a proof-reader would underline: words that were repaired, and words that could not be read."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.notes.crew import Crew
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Reading
from mirkle.files.crew import edited
from mirkle.files.notes_text import language_of, parse_notes
from mirkle.files.project import Material
from mirkle.files.timed_text import parse_calls
from mirkle.session.material import Inputs, crew_of


@dataclass(frozen=True)
class Doubt:
    """A word to settle: at characters ``start`` to ``end`` of the proof's text; ``read_as`` is empty if it is unread."""

    text: str
    start: int
    end: int
    kind: str
    key: str
    read_as: str
    sure: float
    why: str


@dataclass(frozen=True)
class Proof:
    """The notes one a line, as they were written or said, and the doubts about them in order."""

    title: str
    text: str
    doubts: tuple[Doubt, ...]
    language: Language

    def meanings(self) -> list[tuple[str, str, str]]:
        """What a word can mean: (as shown, kind, name of the term), by name."""
        shown = [
            (f"{t.said[0]}  ({_KIND_WORDS[t.kind]})", t.kind, t.key)
            for t in self.language.terms
            if t.kind in _KIND_WORDS
        ]
        return sorted(shown)


_KIND_WORDS = {
    "direction": "direction", "grade": "grade", "half": "half a grade", "length": "length", "change": "change of radius",
    "caution": "alert", "feature": "crest, jump, bump, dip", "over": "where", "line": "line on the road",
    "object": "thing beside the road", "side": "side", "surface": "surface", "state": "from here", "link": "link",
    "mark": "start, finish", "number": "number", "chat": "talk, no note", "incident": "incident",
}  # fmt: skip


def proofs_of(inputs: Inputs) -> list[Proof]:
    """The written book and the words that were said, each with its doubts.

    Raises
    ------
    MirkleError
    """
    crew = crew_of(inputs.crew)
    out = []
    if inputs.notes is not None:
        out.append(_proof("The notes", parse_notes(inputs.notes.content, name=inputs.notes.name, crew=crew), crew))
    if inputs.calls is not None:
        speech = parse_calls(inputs.calls.content, name=inputs.calls.name, crew=crew)
        out.append(_proof("What was said", speech.reading, crew))
    return out


def _proof(title: str, reading: Reading, crew: Crew) -> Proof:
    lines: list[str] = []
    doubts: list[Doubt] = []
    at = 0
    words: dict[int, list[int]] = {}
    for number, token in enumerate(reading.pieces):
        if token.note is not None:
            words.setdefault(token.note, []).append(number)
    for note in reading.notes:
        line, end = "", None
        for token in (reading.pieces[n] for n in words.get(note.index, [])):
            if end is not None and token.span.start > end:
                line += " "
            start = at + len(line)
            line += token.text
            end = token.span.end
            if token.read_as is not None or token.kind == "unread":
                doubts.append(
                    Doubt(token.text, start, start + len(token.text), token.kind, token.key, token.read_as or "",
                          token.sure, token.why)
                )  # fmt: skip
        lines.append(line)
        at += len(line) + 1
    return Proof(title, "\n".join(lines), tuple(doubts), language_of(reading, crew))


def accepted(inputs: Inputs, doubt: Doubt) -> Material:
    """The crew's file that takes a repair for good: the word means what it was read as."""
    kind = {"change to": "change", "distance": "number", "change grade": "number"}.get(doubt.kind, doubt.kind)
    if kind == "grade" and doubt.key.isdecimal():
        kind = "number"
    return _crew(inputs, teach=(kind, doubt.key, doubt.text.lower()))


def undone(inputs: Inputs, doubt: Doubt) -> Material:
    """The crew's file that leaves the word as it stands."""
    words = doubt.text.lower().split()
    return _crew(inputs, leave=words[0])


def taught(inputs: Inputs, doubt: Doubt, kind: str, key: str) -> Material:
    """The crew's file in which "this word means …"."""
    return _crew(inputs, teach=(kind, key, doubt.text.lower()))


def overruled(inputs: Inputs, habit: str, value: str | None) -> Material:
    """The crew's file in which ``order`` or ``sense`` is told; ``None`` leaves it to be found."""
    return Material("crew", "crew.toml", edited(inputs.crew.content if inputs.crew else None, habits={habit: value}))


def _crew(inputs: Inputs, *, teach: tuple[str, str, str] | None = None, leave: str | None = None) -> Material:
    return Material("crew", "crew.toml", edited(inputs.crew.content if inputs.crew else None, teach=teach, leave=leave))
