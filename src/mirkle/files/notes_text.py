"""Notes as text, in any of the common encodings."""

from __future__ import annotations

import unicodedata
from pathlib import Path

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import read_notes
from mirkle.files.languages import shipped_languages
from mirkle.files.sniff import LARGEST_TEXT_BYTES, decoded, read_bytes, unpacked

WANTED = "the notes as text"


def read_notes_file(path: Path) -> Reading:
    """The notes in a text file.

    Raises
    ------
    UnusableFile, UnusableNotes
    """
    return parse_notes(read_bytes(path, largest=LARGEST_TEXT_BYTES, wanted=WANTED), name=path.name)


def parse_notes(content: bytes, *, name: str) -> Reading:
    """As :func:`read_notes_file`, from the file's bytes."""
    content = unpacked(content, name=name, largest=LARGEST_TEXT_BYTES, wanted=WANTED)
    text = decoded(content, name=name)
    if not text.strip():
        raise UnusableNotes("there is nothing written in it", mend="choose the file with the notes", where=name)
    control = next((i for i, c in enumerate(text) if unicodedata.category(c) == "Cc" and c not in "\n\t\f"), None)
    if control is not None:
        line = text.count("\n", 0, control) + 1
        raise UnusableNotes(
            "there is a control character that no text has",
            mend="save the notes as plain text",
            where=f"{name}, line {line}",
        )
    try:
        return read_notes(text, shipped_languages())
    except UnusableNotes as fault:
        raise UnusableNotes(fault.what, mend=fault.mend, where=name) from None


def language_of(reading: Reading) -> Language:
    """The shipped language that a reading was made in."""
    return next(language for language in shipped_languages() if language.code == reading.language)
