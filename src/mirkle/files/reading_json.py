"""A reading as JSON: the contract ``mirkle-reading/1`` with everything outside."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from typing import Any

from mirkle.core.notes.crew import Crew
from mirkle.core.notes.model import Note, Reading
from mirkle.core.notes.school import school_of
from mirkle.core.notes.speech import Speech
from mirkle.core.notes.writing import written_out
from mirkle.files.notes_text import language_of
from mirkle.files.review_json import called_table


def reading_json(reading: Reading, crew: Crew, *, speech: Speech | None = None) -> str:
    """The contract's file as text; ``speech`` is what ``reading`` is part of where it was said."""
    school = school_of(reading.notes, sense=crew.sense)
    language = language_of(reading, crew)
    notes = []
    for number, note in enumerate(reading.notes):
        said = round(speech.said[number].from_s, 2) if speech else None
        written = written_out(note, language, order=reading.order).text if speech else note.text
        notes.append(_note(note, said, written))
    table = {
        "format": "mirkle-reading/1",
        "crew": {
            "language": reading.language,
            "order": reading.order,
            "sense": school.sense,
            "half_grades": school.half_grades,
            "sure": round(school.sense_sure, 3),
        },
        "notes": notes,
        "words": _said_words(speech) if speech else _written_words(reading),
    }
    return json.dumps(table, ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def _note(note: Note, said_at_s: float | None, written: str) -> Mapping[str, Any]:
    return {
        "index": note.index, "text": " ".join(note.text.split()), "called": called_table(note), "said_at_s": said_at_s,
        "written": written,
    }  # fmt: skip


def _said_words(speech: Speech) -> Sequence[Mapping[str, Any]]:
    return [
        {
            "text": w.text, "at_s": round(w.at_s, 2), "role": w.role, "note": w.note, "read_as": w.read_as,
            "confidence": round(w.confidence, 3),
        }
        for w in speech.words
    ]  # fmt: skip


def _written_words(reading: Reading) -> Sequence[Mapping[str, Any]]:
    words = []
    for token in reading.pieces:
        for text in token.text.split():
            role = "unread" if token.kind == "unread" else "note"
            words.append(
                {
                    "text": text, "at_s": None, "role": role, "note": token.note, "read_as": token.read_as,
                    "confidence": round(token.sure, 3),
                }
            )  # fmt: skip
    return words
