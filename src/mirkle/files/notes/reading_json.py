"""A reading as JSON: the contract ``mirkle-reading/1`` with everything outside."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from typing import Any

from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.doubts import doubts_of
from mirkle.core.notes.grading import school_of
from mirkle.core.notes.model import Note, Offer, Reading
from mirkle.core.notes.writing import written_out
from mirkle.core.speech.delivery import Spoken, differing, merely_shorter
from mirkle.core.speech.reading import Speech
from mirkle.files.export.review_json import called_table, said_table
from mirkle.files.notes.text import language_of


def reading_json(reading: Reading, crew: CrewProfile, *, speech: Speech | None = None) -> str:
    """The contract's file as text; ``speech`` is what ``reading`` is part of where it was said."""
    language = language_of(reading, crew)
    notes = []
    for number, note in enumerate(reading.notes):
        said = round(speech.said[number].from_s, 2) if speech else None
        written = written_out(note, language, order=reading.order).text if speech else note.text
        notes.append({**_note(note), "said_at_s": said, "written": written})
    words = _said_words(speech, None) if speech else _written_words(reading)
    against_itself = [str(d.sentence) for d in doubts_of(reading, meant=crew.meant)] if speech is None else []
    head = _head(reading, crew)
    return _text({**head, "doubts": [*head["doubts"], *against_itself], "notes": notes, "words": words})


def against_json(reading: Reading, speech: Speech, crew: CrewProfile) -> str:
    """The book with how each of its notes was said, and the findings that follow; ``speech`` was read against it."""
    notes, findings = [], []
    for note, spoken in zip(reading.notes, speech.spoken, strict=True):
        at_s = round(spoken.from_s, 2) if spoken.was_said else None
        notes.append(
            {
                **_note(note),
                "said_at_s": at_s,
                "written": note.text,
                "said": said_table(spoken),
                "said_words": spoken.words or None,
                "late_words": spoken.late_words,
            }
        )
        shorter = spoken.note is not None and merely_shorter(note, speech.reading.notes[spoken.note])
        if spoken.said_as == "otherwise" and not shorter:
            findings.append(_finding(note, spoken, speech))
    whose = {s.note: index for index, s in enumerate(speech.spoken) if s.note is not None}
    head = _head(reading, crew)
    head = {**head, "doubts": [*head["doubts"], *(str(d.sentence) for d in doubts_of(reading, meant=crew.meant))]}
    return _text({**head, "notes": notes, "findings": findings, "words": _said_words(speech, whose)})


def _finding(note: Note, spoken: Spoken, speech: Speech) -> Mapping[str, Any]:
    said = speech.reading.notes[spoken.note] if spoken.note is not None else None
    called, met = differing(note, said, spoken)
    return {
        "id": f"said@{note.index}",
        "kind": "said-otherwise",
        "note": note.index,
        "from_m": None,
        "to_m": None,
        "called": called,
        "met": met,
        "severity": "check",
        "confidence": round(spoken.probability, 3),
        "seconds": None,
        "proposal": None,
        "why": f"Written {called}, but the call sounds like {met}. One of the two is wrong: listen and decide.",
    }


def _head(reading: Reading, crew: CrewProfile) -> Mapping[str, Any]:
    school = school_of(reading.notes, sense=crew.sense)
    return {
        "format": "mirkle-reading/1",
        "crew": {
            "language": reading.language,
            "order": reading.order,
            "sense": school.sense,
            "half_grades": school.half_grades,
            "sure": round(school.sense_sure, 3),
        },
        "doubts": [str(d) for d in reading.doubts],
    }


def _text(table: Mapping[str, Any]) -> str:
    return json.dumps(table, ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def _note(note: Note) -> Mapping[str, Any]:
    return {"index": note.index, "text": " ".join(note.text.split()), "called": called_table(note)}


def _said_words(speech: Speech, whose: Mapping[int, int] | None) -> Sequence[Mapping[str, Any]]:
    """Every word that was said; ``whose`` turns said notes into those of the book."""
    return [
        {
            "text": w.text,
            "at_s": round(w.at_s, 2),
            "role": w.role,
            "note": whose.get(w.note) if whose and w.note is not None else w.note,
            "read_as": w.read_as,
            "confidence": round(w.confidence, 3),
            **_perhaps(w.offer),
        }
        for w in speech.words
    ]


def _perhaps(offer: Offer | None) -> Mapping[str, Any]:
    return {} if offer is None else {"perhaps": offer.read_as, "probability": round(offer.sure, 3)}


def _written_words(reading: Reading) -> Sequence[Mapping[str, Any]]:
    roles = {"unread": "unread", "title": "remark", "remark": "remark", "list number": "remark", "place": "remark", "bullet": "remark"}
    return [
        {"text": text, "at_s": None, "role": roles.get(token.kind, "note"), "note": token.note, "read_as": None, "confidence": 1.0}
        for token in reading.pieces
        for text in token.text.split()
    ]
