"""Notes as text, in any of the common encodings."""

from __future__ import annotations

import re
from dataclasses import replace

from mirkle.core.errors import UnusableNotes, at_line
from mirkle.core.messages import Message, gettext_noop, message
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.tables import written_in_lines
from mirkle.files.detect import LARGEST_DOCUMENT_BYTES, LARGEST_NOTES_BYTES, decoded, unpacked
from mirkle.files.notes.crew_profile import shipped_crew
from mirkle.files.notes.documents import is_document, text_of

WANTED = gettext_noop("the notes as text")
# Of a book's words most are known, and of its notes many are corners. # the least of any school of notes, with room
MOST_UNREAD, LEAST_CORNERS = 0.6, 0.15
# Of what is a book beyond doubt no more than this is not understood; letters and logs that speak of left and right lie above.
DOUBTFUL_UNREAD = 0.4
_CONTROL = re.compile(r"[\x00-\x08\x0b\x0e-\x1f\x7f-\x9f]")


def parse_notes(content: bytes, *, name: str, crew: CrewProfile | None = None) -> Reading:
    """The notes in a text file's bytes, in the crew's own words.

    Raises
    ------
    UnusableFile, UnusableNotes
    """
    crew = crew or shipped_crew()
    content = unpacked(content, name=name, largest=LARGEST_DOCUMENT_BYTES, wanted=WANTED)
    is_office = is_document(content)
    text = text_of(content, name=name) if is_office else decoded(content, name=name)
    if len(text) > LARGEST_NOTES_BYTES:
        raise UnusableNotes(
            message("it is {0:.1f} MB of text, more than any book of notes", len(text) / 1e6),
            mend="choose the file with the notes",
            where=name,
        )
    if not text.strip():
        raise UnusableNotes("there is nothing written in it", mend="choose the file with the notes", where=name)
    control = _CONTROL.search(text)
    if control is not None:
        line = text.count("\n", 0, control.start()) + 1
        raise UnusableNotes("there is a control character that no text has", mend="save the notes as plain text", where=at_line(name, line))
    text, doubts = written_in_lines(text, crew.languages)
    if is_office:
        text = "\n".join(" ".join(line.split("\t")).strip() for line in text.split("\n"))
    try:
        reading = read_notes(text, crew.languages, order=crew.order, leave=crew.leave)
    except UnusableNotes as fault:
        raise UnusableNotes(fault.what, mend=fault.mend, where=name) from None
    doubt = unlike_notes(reading)
    return replace(reading, doubts=(*doubts, *reading.doubts, *filter(None, [doubt])))


def reads_as_notes(reading: Reading) -> bool:
    """Whether a text is a book of notes rather than something else in which a word or a number reads as one."""
    return _unread(reading) <= MOST_UNREAD and len(reading.corners) >= LEAST_CORNERS * len(reading.notes)


def unlike_notes(reading: Reading) -> Message | None:
    """A doubt where a text reads as notes but much of it is not understood: then somebody has to say that it is the book."""
    unread = _unread(reading)
    if unread <= DOUBTFUL_UNREAD:
        return None
    return message("{0:.0%} of the words are not understood: perhaps this is not the book.", unread)


def _unread(reading: Reading) -> float:
    """The share of a text's words that are not understood."""
    pieces = [p for p in reading.pieces if p.kind != "blank"]
    return sum(p.kind == "unread" for p in pieces) / len(pieces)


def language_of(reading: Reading, crew: CrewProfile | None = None) -> Language:
    """The language that a reading was made in."""
    return next(la for la in (crew or shipped_crew()).languages if la.code == reading.language)
