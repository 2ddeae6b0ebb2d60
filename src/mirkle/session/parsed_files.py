"""Files that were parsed already, by their content and by what they were read with: a file is read once, however often it is asked for.

A dropped file is first described, then reviewed; settling a word or moving a pin reviews the same files again. All of them ask here. What
is kept is immutable, and little: the last few texts, and a recording only until it has been measured.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, TypeVar

from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.model import Reading
from mirkle.core.recording.model import Recording
from mirkle.core.speech.reading import Speech
from mirkle.files.notes.crew_profile import parse_crew, shipped_crew
from mirkle.files.notes.text import parse_notes
from mirkle.files.project.project import SourceFile
from mirkle.files.recordings import readers
from mirkle.files.speech.call_files import speech_in

# A stage has few texts: its book in some editions, and the words of each pass.
MOST_TEXTS, MOST_RECORDINGS = 24, 4

Parsed = TypeVar("Parsed")


class _Kept:
    """The last few results, by what they were made from. Each holds on to what it was made from, so that no identity is used again."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._kept: OrderedDict[Hashable, tuple[Any, object]] = OrderedDict()

    def get(self, key: Hashable, make: Callable[[], Parsed], held: object = None) -> Parsed:
        """What was made for a key, made now where it was not; a fault is not kept."""
        if key not in self._kept:
            self._kept[key] = make(), held
            while len(self._kept) > self._most:
                self._kept.popitem(last=False)
        self._kept.move_to_end(key)
        made: Parsed = self._kept[key][0]
        return made

    def drop(self, key: Hashable) -> None:
        """Forgets one."""
        self._kept.pop(key, None)


_CREWS, _READINGS, _SPEECHES, _RECORDINGS = _Kept(MOST_TEXTS), _Kept(MOST_TEXTS), _Kept(MOST_TEXTS), _Kept(MOST_RECORDINGS)


def crew_of(material: SourceFile | None) -> CrewProfile:
    """The crew in a crew's own file, or one of which nothing is known.

    Raises
    ------
    MirkleError
    """
    if material is None:
        return _CREWS.get(None, shipped_crew)
    return _CREWS.get((material.sha256, material.name), lambda: parse_crew(material.content, name=material.name))


def reading_of(notes: SourceFile, crew: CrewProfile) -> Reading:
    """The notes in a file, in the crew's own words.

    Raises
    ------
    MirkleError
    """
    key = (notes.sha256, notes.name, id(crew))
    return _READINGS.get(key, lambda: parse_notes(notes.content, name=notes.name, crew=crew), held=crew)


def speech_of(calls: SourceFile, crew: CrewProfile, book: Reading | None = None) -> Speech:
    """What was said, read against the ``book`` that was read from where there is one.

    Raises
    ------
    MirkleError
    """
    key = (calls.sha256, calls.name, calls.kind, id(crew), id(book))
    return _SPEECHES.get(key, lambda: speech_in(calls, crew, book), held=(crew, book))


def recording_of(run: SourceFile) -> Recording:
    """A recording, as it was parsed and repaired.

    Raises
    ------
    MirkleError
    """
    return _RECORDINGS.get((run.sha256, run.name), lambda: readers.parse_run(run.content, name=run.name))


def forget_recording(run: SourceFile) -> None:
    """A recording that was measured is kept no longer: what was measured is, and it is large."""
    _RECORDINGS.drop((run.sha256, run.name))
