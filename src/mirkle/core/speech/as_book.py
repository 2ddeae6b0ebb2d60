"""A book written out from what was said."""

from __future__ import annotations

from mirkle.core.notes.language import Language
from mirkle.core.notes.writing import written_out
from mirkle.core.speech.reading import Speech


def book_of(speech: Speech, language: Language) -> str:
    """The notes that were said as a text of notes, one a line: what stands for the book where there is none."""
    order = speech.reading.order
    return "\n".join(written_out(n, language, order=order).text for n in speech.reading.notes) + "\n"
