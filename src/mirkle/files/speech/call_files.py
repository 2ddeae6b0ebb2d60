"""The files that tell when and what was called: timed text, or call times that were found in a sound or tapped. Each is a kind of its
own."""

from __future__ import annotations

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.model import Reading
from mirkle.core.speech.reading import Speech
from mirkle.files.project.format import SourceFile
from mirkle.files.speech.heard_json import looks_like_heard, parse_heard, speech_of, with_times
from mirkle.files.speech.listen_json import looks_like_listened, parse_listened, speech_of_listened
from mirkle.files.speech.tapped_json import speech_of_tapped
from mirkle.files.speech.timed_text import looks_like_calls, parse_calls


def kind_of_calls(text: str) -> str | None:
    """Which kind a text that comes in is, ``None`` where it tells of no calls."""
    if looks_like_heard(text):
        return "heard"
    if looks_like_listened(text):
        return "listened"
    return "calls" if looks_like_calls(text) else None


def speech_in(calls: SourceFile, crew: CrewProfile | None = None, book: Reading | None = None) -> Speech:
    """What was said, read against the ``book`` that was read from where there is one.

    Raises
    ------
    MirkleError
        With the file, what is wrong and what would mend it.
    """
    if calls.kind == "calls":
        return parse_calls(calls.content, name=calls.name, crew=crew, book=book)
    if book is None:
        raise UnusableNotes("call times from a sound say when and not what", mend="give the notes that were read as well", where=calls.name)
    if calls.kind == "listened":
        return speech_of_listened(parse_listened(calls.content, name=calls.name), book, name=calls.name)
    if calls.kind == "tapped":
        return speech_of_tapped(calls.content, book, name=calls.name)
    heard = parse_heard(calls.content, name=calls.name)
    if heard.timed_text:
        return with_times(parse_calls(heard.timed_text, name=calls.name, crew=crew, book=book), heard, book)
    return speech_of(heard, book)
