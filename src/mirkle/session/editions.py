"""Every edition of the book that there was, and what differs between two of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher

from mirkle.core.messages import Message, counted, message
from mirkle.core.notebook.decisions import NoteChange
from mirkle.core.notebook.edition import Edition
from mirkle.files.detect import decoded
from mirkle.session.open_pass import OpenPass
from mirkle.session.pass_list import edition_numbers


@dataclass(frozen=True)
class Named:
    """An edition with the name that it is chosen by."""

    name: Message
    text: str


@dataclass(frozen=True)
class Difference:
    """Lines of the first edition, from ``line`` on, and what stands there in the second; one of them may be empty."""

    line: int
    old: str
    new: str


def editions(stage: OpenPass) -> list[Named]:
    """The books that were taken in, the one under review as written, after each change, and as it stands now."""
    reading = stage.reading
    out = []
    for number, at in edition_numbers(stage.project).items():
        material = stage.project.material(number) if number != stage.this_pass.notes else None
        if material is not None:
            out.append(Named(message("edition {0}, {1}", at, material.name), decoded(material.content, name=material.name)))
    out.append(Named(message("as written"), reading.source))
    marks = [d for d in reversed(stage.book.history) if isinstance(d, NoteChange)]
    for count in range(1, len(marks)):
        text = Edition(reading, marks[:count]).text
        out.append(Named(counted("after 1 change", "after {0} changes", count), text))
    if marks:
        out.append(Named(message("as it stands now"), stage.book.edition.text))
    return out


def differences(a: str, b: str) -> list[Difference]:
    """What differs between two texts, line by line."""
    old, new = a.splitlines(), b.splitlines()
    out = []
    for tag, i, j, k, m in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if tag != "equal":
            out.append(Difference(i + 1, "\n".join(old[i:j]), "\n".join(new[k:m])))
    return out


def in_words(found: Sequence[Difference]) -> Message:
    """How much differs, as a heading."""
    if not found:
        return message("Nothing differs")
    return counted("1 place differs", "{0} places differ", len(found))
