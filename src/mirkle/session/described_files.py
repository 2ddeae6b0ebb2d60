"""What a file holds, in a sentence."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from mirkle.core.messages import Message, counted, gettext_noop, in_a_row, message
from mirkle.core.notes.crew_profile import ORDER_WORDS, CrewProfile
from mirkle.core.notes.model import Reading
from mirkle.core.recording.channels import CHANNELS
from mirkle.files.audio.media import media_path
from mirkle.files.detect import UnusableFile
from mirkle.files.notes.text import reads_as_notes, unlike_notes
from mirkle.files.project.project import SourceFile
from mirkle.files.speech.heard_json import parse_heard
from mirkle.files.speech.listen_json import parse_listened
from mirkle.session.parsed_files import crew_of, reading_of, recording_of, speech_of


@dataclass(frozen=True)
class ImportedFile:
    """A file taken in: its material and one sentence that says what was read from it.

    ``from_video`` where it is a recording that a camera wrote into its video; ``doubt`` where somebody should say first that this is what
    it was taken for.
    """

    material: SourceFile
    sentence: Message
    from_video: bool = False
    doubt: Message | None = None


def described(material: SourceFile, others: Sequence[SourceFile] = ()) -> ImportedFile:
    """A material with one sentence that says what was read from it; read with the crew and the book among the ``others``, as it will be
    when they are reviewed together.

    Raises
    ------
    MirkleError
    """
    newest = {m.role: m for m in others}
    crew = crew_of(newest.get("crew"))
    if material.kind == "notes":
        reading = reading_of(material, crew)
        return ImportedFile(material, _notes_sentence(material.name, reading), doubt=unlike_notes(reading))
    if material.role == "calls":
        book = newest.get("notes")
        return ImportedFile(material, _calls_sentence(material, crew, reading_of(book, crew) if book is not None else None))
    sentence = {"run": _run_sentence, "crew": _crew_sentence, "media": _media_sentence}
    return ImportedFile(material, sentence[material.role](material))


def _media_sentence(material: SourceFile) -> Message:
    size = media_path(material).stat().st_size
    return message("The sound or video of the run, {0:.0f} MB. It stays where it is and is played from there.", size / 1e6)


def _crew_sentence(material: SourceFile) -> Message:
    crew = crew_of(material)
    parts = [crew.order or "", crew.sense or "", " or ".join(la.name for la in crew.languages)]
    return message("The crew's own file: {0}.", in_a_row([t.replace("-", " ") for t in parts if t], ", "))


def _calls_sentence(material: SourceFile, crew: CrewProfile, book: Reading | None) -> Message:
    heard = None
    if material.kind == "heard":
        heard = [c.was_heard for c in parse_heard(material.content, name=material.name).listening.calls]
    elif material.kind == "listened":
        heard = [c.start_s is not None for c in parse_listened(material.content, name=material.name).calls]
    if heard is not None:
        return message("Call times from a sound: {0} of {1} notes were heard.", sum(heard), len(heard))
    speech = speech_of(material, crew, book)
    repaired = len(speech.reading.repairs)
    go = message("no “go” heard")
    if speech.go_s is not None:
        go = message("“go” at {at_s:clock}", at_s=speech.go_s)
    counts = message(
        "What was said: {0}, {1}, {2}; words repaired by sound: {3}.",
        counted("1 call", "{0} calls", len(speech.reading.notes)),
        counted("1 corner", "{0} corners", len(speech.reading.corners)),
        go,
        repaired,
    )
    return in_a_row([counts, *speech.reading.doubts])


def _run_sentence(material: SourceFile) -> Message:
    recording = recording_of(material)
    seconds = max(float(c.time_s[-1] - c.time_s[0]) for c in recording.channels.values())
    channels = in_a_row(sorted({CHANNELS[c].short for c in recording.channels}), ", ")
    return in_a_row([message("A run of {0:.0f} minutes with {1}.", seconds / 60, channels), *recording.doubts])


def _notes_sentence(name: str, reading: Reading) -> Message:
    if not reads_as_notes(reading):
        raise UnusableFile(
            message("its lines don't read as notes: {0} corners in {1} lines", len(reading.corners), len(reading.notes)),
            mend="choose the file with the notes, or the run in one of the forms that the guide names",
            where=name,
        )
    pages = reading.notes[-1].page
    unread = sorted({w for n in reading.notes for w in n.unread})
    order = ORDER_WORDS[reading.order]
    count = message(
        "{0}, {1}, pages: {2}, {3}.",
        counted("1 note", "{0} notes", len(reading.notes)),
        counted("1 corner", "{0} corners", len(reading.corners)),
        pages,
        order,
    )
    missed = [message("Not understood: {0}.", in_a_row(unread[:8], ", "))] if unread else []
    return in_a_row([count, *missed, *reading.doubts])


def channels_in_words(recorded: Sequence[tuple[str, float]], said: Callable[[str], str] = str) -> str:
    """Channels with how often a second they come: "position and speed 20, accelerations 100 times a second".

    ``said`` puts each word into the user's language.
    """
    by_rate: dict[int, list[str]] = {}
    for name, rate_hz in recorded:
        words = by_rate.setdefault(round(rate_hz), [])
        if (word := said(CHANNELS[name].short)) not in words:
            words.append(word)
    rates = sorted(by_rate.items())
    counted = [f"{', '.join(words)} {rate}" for rate, words in rates]
    # The last rate stands beside the words: "height 1; position 21 times a second", "position once a second".
    once = rates[-1:] and rates[-1][0] == 1
    last = ", ".join(rates[-1][1]) if once else "".join(counted[-1:])
    text = gettext_noop("{0} once a second") if once else gettext_noop("{0} times a second")
    return said(text).format("; ".join([*counted[:-1], last]))
