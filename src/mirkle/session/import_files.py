"""What a file is, and a review from material: the use cases that the window and the command line share."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.joint.agreement import with_other_passes
from mirkle.core.joint.joint_alignment import AlignedPass
from mirkle.core.joint.same_road import road_of, same_road
from mirkle.core.judging.other_pass import Witness
from mirkle.core.messages import Clause, clause, gettext_noop, in_a_row
from mirkle.core.notes.crew_profile import ORDER_WORDS, CrewProfile
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import read_notes
from mirkle.core.overrides import NO_OVERRIDES, ManualOverrides
from mirkle.core.progress import Progress, silent
from mirkle.core.recording.channels import CHANNELS
from mirkle.core.review import Measured, Review, measure_run, review_run
from mirkle.core.speech.as_book import book_of
from mirkle.files.archive import packed_folder
from mirkle.files.audio.media import is_media, media_path, reference
from mirkle.files.detect import LARGEST_RUN_BYTES, UnusableFile, decoded, read_bytes, unpacked
from mirkle.files.notes.crew_profile import parse_crew, shipped_crew
from mirkle.files.notes.documents import is_document
from mirkle.files.notes.reading_json import against_json, reading_json
from mirkle.files.notes.text import language_of, parse_notes, reads_as_notes, unlike_notes
from mirkle.files.project.format import role_of
from mirkle.files.project.overrides import parse_by_hand
from mirkle.files.project.project import SourceFile
from mirkle.files.recordings import readers
from mirkle.files.recordings.columns import UnknownColumns, look_at, with_columns
from mirkle.files.recordings.video import positions_in
from mirkle.files.speech.call_files import kind_of_calls, speech_in
from mirkle.files.speech.heard_json import parse_heard
from mirkle.files.speech.listen_json import parse_listened
from mirkle.session.settings import columns_of

WANTED = gettext_noop("notes, a run, or timed words")


@dataclass(frozen=True)
class ImportedFile:
    """A file taken in: its material and one sentence that says what was read from it.

    ``from_video`` where it is a recording that a camera wrote into its video; ``doubt`` where somebody should say first that this is what
    it was taken for.
    """

    material: SourceFile
    sentence: Clause
    from_video: bool = False
    doubt: Clause | None = None


class UnlikeNotes(MirkleError):
    """A text that reads as notes, of which much is not understood; whoever knows it can say that it is the book. ``path`` is the file."""

    def __init__(self, path: Path, doubt: Clause) -> None:
        super().__init__(doubt, mend="choose the file with the notes", where=path.name)
        self.path, self.doubt = path, doubt


_WANTED_KIND = {
    "run": ("a run as CSV or GPX", "give the run first and the notes after --notes"),
    "notes": ("notes as text", "give the notes after --notes, what was said after --calls"),
    "calls": ("timed text", "give WebVTT, SRT or lines of [m:ss] words after --calls"),
    "crew": ("a crew's file", "give a TOML file after --crew"),
}


def load(path: Path, *, kind: str | None = None) -> SourceFile:
    """A file as it is, told apart by its first lines; not read further. ``kind`` is what it has to be, if anything.

    Raises
    ------
    MirkleError
        It is missing, empty, too large, or not of that kind.
    """
    content = packed_folder(path) if path.is_dir() else read_bytes(path, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    return loaded(content, name=path.name, kind=kind)


def loaded(content: bytes, *, name: str, kind: str | None = None) -> SourceFile:
    """As :func:`load`, from a file's bytes.

    Raises
    ------
    MirkleError
    """
    plain = unpacked(content, name=name, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    if (look := look_at(plain)) is not None and (names := columns_of(look.shape)) is not None:
        content = plain = with_columns(plain, look, names)
    found = _kind_of(plain, name)
    if kind is not None and role_of(found) != kind:
        what, mend = _WANTED_KIND[kind]
        raise MirkleError(clause("this is not {0}", what), mend=mend, where=name)
    return SourceFile(found, name, content)


def _kind_of(plain: bytes, name: str) -> str:
    if name.lower().endswith(".toml"):
        return "crew"
    if readers.looks_like_run(plain):
        return "run"
    if is_document(plain):
        return "notes"
    if plain.startswith(b"PK\x03\x04"):
        raise UnusableFile(
            "this is an archive without a recording or notes in it", mend=clause("choose the file with {0}", WANTED), where=name
        )
    text = decoded(plain[:20_000], name=name)
    if (kind := kind_of_calls(text)) is not None:
        return kind
    if _is_markup(text):
        raise UnusableFile(
            "this is XML of a kind that holds no run and no words", mend=clause("choose the file with {0}", WANTED), where=name
        )
    return "notes"


def _is_markup(text: str) -> bool:
    """Whether a text is XML or HTML, and no book whose first line begins with a sign for “opens”."""
    head = text.lstrip()
    tag = re.match(r"<([A-Za-z][\w:.-]{0,60})[\s/>]", head)
    return head[:9].lower().startswith(("<?xml", "<!doctype", "<!--")) or (
        tag is not None and (f"</{tag[1]}" in head or "/>" in head[:2000])
    )


def take_in(path: Path, *, agreed: bool = False) -> ImportedFile:
    """Reads a file, tells whether it is notes or a run, and checks that it can be used; ``agreed`` where somebody said that it is the book.

    Raises
    ------
    UnlikeNotes
        It may be no book, and nobody said that it is.
    UnknownColumns
        It is a table of numbers whose columns are not known.
    MirkleError
        With where, what and how to mend.
    """
    if is_media(path):
        return described(reference(path))
    try:
        found = described(load(path))
        if found.doubt is not None and not agreed:
            raise UnlikeNotes(path, found.doubt)
        return found
    except MirkleError as fault:
        if (unknown := _unknown_columns(path, fault)) is not None:
            raise unknown from fault
        raise


def recorded_in(path: Path) -> ImportedFile | None:
    """The recording that a camera wrote into its video, on the video's own clock; ``None`` where there is none."""
    table = positions_in(path)
    if table is None:
        return None
    material = SourceFile("run", f"{path.stem}-positions.csv", table)
    try:
        told = described(material)
    except MirkleError:
        # Positions of which no drive can be made: the video is a video all the same.
        return None
    sentence = in_a_row([clause("The camera wrote it into {0}.", path.name), told.sentence])
    return ImportedFile(material, sentence, from_video=True)


def _unknown_columns(path: Path, fault: MirkleError) -> UnknownColumns | None:
    """The fault with a table's head, where a file that can't be used is a table of numbers."""
    try:
        content = read_bytes(path, largest=LARGEST_RUN_BYTES, wanted=WANTED)
        plain = unpacked(content, name=path.name, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    except MirkleError:
        return None
    look = look_at(plain)
    if look is None:
        return None
    if not readers.looks_like_run(plain):
        # It was tried as notes, which it never was.
        what = "this is a table of numbers, and its columns are not known"
        fault = UnusableFile(what, mend="say in the window what they hold", where=path.name)
    return UnknownColumns(look, columns_of(look.shape) or look.known(), fault, file=path.name)


def described(material: SourceFile) -> ImportedFile:
    """A material with one sentence that says what was read from it.

    Raises
    ------
    MirkleError
    """
    if material.kind == "notes":
        reading = parse_notes(material.content, name=material.name)
        return ImportedFile(material, _notes_sentence(material.name, reading), doubt=unlike_notes(reading))
    sentence = {"run": _run_sentence, "calls": _calls_sentence, "crew": _crew_sentence, "media": _media_sentence}
    return ImportedFile(material, sentence[material.role](material))


def _media_sentence(material: SourceFile) -> Clause:
    size = media_path(material).stat().st_size
    return clause("The sound or video of the run, {0:.0f} MB; it stays where it is, and is played from there.", size / 1e6)


def _crew_sentence(material: SourceFile) -> Clause:
    crew = crew_of(material)
    told = [crew.order or "", crew.sense or "", " or ".join(la.name for la in crew.languages)]
    return clause("The crew's own file: {0}.", in_a_row([t.replace("-", " ") for t in told if t], ", "))


def _calls_sentence(material: SourceFile) -> Clause:
    heard = None
    if material.kind == "heard":
        heard = [c.was_heard for c in parse_heard(material.content, name=material.name).listening.calls]
    elif material.kind == "listened":
        heard = [c.start_s is not None for c in parse_listened(material.content, name=material.name).calls]
    if heard is not None:
        return clause("Call times from a sound: {0} of {1} notes were heard.", sum(heard), len(heard))
    speech = speech_in(material)
    repaired = len(speech.reading.repairs)
    go = clause("no “go” heard")
    if speech.go_s is not None:
        go = clause("“go” at {0}:{1:02d}", int(speech.go_s) // 60, int(speech.go_s) % 60)
    counts = clause(
        "What was said: {0} calls, {1} corners, {2}; words repaired by sound: {3}.",
        len(speech.reading.notes),
        len(speech.reading.corners),
        go,
        repaired,
    )
    return in_a_row([counts, *speech.reading.doubts])


def _run_sentence(material: SourceFile) -> Clause:
    recording = readers.parse_run(material.content, name=material.name)
    seconds = max(float(c.time_s[-1] - c.time_s[0]) for c in recording.channels.values())
    channels = in_a_row(sorted({CHANNELS[c].short for c in recording.channels}), ", ")
    return in_a_row([clause("A run of {0:.0f} minutes with {1}.", seconds / 60, channels), *recording.doubts])


def _notes_sentence(name: str, reading: Reading) -> Clause:
    if not reads_as_notes(reading):
        raise UnusableFile(
            clause("its lines don't read as notes: {0} corners in {1} lines", len(reading.corners), len(reading.notes)),
            mend="choose the file with the notes, or the run in one of the forms that the guide names",
            where=name,
        )
    pages = reading.notes[-1].page
    unread = sorted({w for n in reading.notes for w in n.unread})
    order = ORDER_WORDS[reading.order]
    count = clause("{0} notes, {1} corners, pages: {2}, {3}.", len(reading.notes), len(reading.corners), pages, order)
    missed = [clause("Not understood: {0}.", in_a_row(unread[:8], ", "))] if unread else []
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


@dataclass(frozen=True)
class Inputs:
    """What one review is made from; either the notes or the calls may be missing, not both."""

    run: SourceFile
    notes: SourceFile | None = None
    calls: SourceFile | None = None
    crew: SourceFile | None = None
    by_hand: SourceFile | None = None
    others: tuple[SourceFile, ...] = ()

    @property
    def files(self) -> tuple[SourceFile, ...]:
        """The files that a crew gave, without what was set by hand."""
        own = (self.run, self.notes, self.calls, self.crew, *self.others)
        return tuple(m for m in own if m is not None)


def crew_of(material: SourceFile | None) -> CrewProfile:
    """The crew in a crew's own file, or one of which nothing is known.

    Raises
    ------
    MirkleError
    """
    return parse_crew(material.content, name=material.name) if material else shipped_crew()


class Measurements:
    """Passes that were measured already, by what they were measured from: a word settled must not cost a smoothing."""

    def __init__(self) -> None:
        self._known: dict[tuple[str, float | None], Measured] = {}

    def of(self, run: SourceFile, start_s: float | None, progress: Progress) -> Measured:
        """The pass of a recording, with its start where a hand set it.

        Raises
        ------
        MirkleError
        """
        key = run.sha256, start_s
        if key not in self._known:
            recording = readers.parse_run(run.content, name=run.name)
            self._known[key] = measure_run(recording, start_s=start_s, progress=progress)
        return self._known[key]

    def know(self, run: SourceFile, start_s: float | None, measured: Measured) -> None:
        """Takes in a pass that came measured from elsewhere."""
        self._known[run.sha256, start_s] = measured


def check_one_road(runs: Sequence[SourceFile], measurements: Measurements) -> None:
    """Looks whether recordings are of one road, as far as that can be told.

    Raises
    ------
    MirkleError
        One is not of the first one's road, or can't be read.
    """
    first, *others = [(run, measurements.of(run, None, silent)) for run in runs]
    for run, measured in others:
        here, there = ((m.profile, m.plan) for m in (first[1], measured))
        if road_of(here, there) == "another":
            raise MirkleError(
                clause("this is not the road of {0}", first[0].name),
                mend="give passes of one stage, or --any-road if you are sure that it is one",
                where=run.name,
            )


def review_material(inputs: Inputs, *, measurements: Measurements | None = None, progress: Progress = silent) -> Review:
    """The review of one pass.

    Raises
    ------
    MirkleError
    """
    measurements = measurements or Measurements()
    crew = crew_of(inputs.crew)
    progress(clause("Reading the notes"), 0.0)
    calls = inputs.calls
    reading = book_in(inputs.notes, calls, crew)
    speech = speech_in(calls, crew, reading) if calls else None
    if speech is not None and inputs.notes is None:
        # What was said stands for the book: it can't have been said otherwise than it stands there.
        as_written = tuple(replace(s, said_as="written") if s.said_as == "otherwise" else s for s in speech.spoken)
        speech = replace(speech, spoken=as_written)
    by_hand = by_hand_of(inputs, reading)
    progress(clause("Reading the recording"), 0.02)
    measured = measurements.of(inputs.run, by_hand.start_s, progress)
    reviewed, paired = [], []
    for other in inputs.others:
        progress(clause("Reviewing {0}", other.name), 0.5)
        driven = measurements.of(other, None, silent)
        alone = review_run(driven, reading, crew)
        reviewed.append(alone)
        road = same_road((measured.profile, measured.plan), (driven.profile, driven.plan))
        if road is not None:
            paired.append(AlignedPass(driven.profile, alone.lineup, road))
    review = review_run(measured, reading, crew, speech=speech, by_hand=by_hand, passes=paired, progress=progress)
    others = []
    for alone in reviewed:
        driven = alone.measured
        pace = _seconds(measured, review.finish_m) / max(_seconds(driven, review.finish_m), 1.0)
        others.append(Witness(alone.findings, pace, driven.vertical is not None, driven.coarse))
    return agreed(replace(review, others=tuple(others)))


def _seconds(measured: Measured, finish_m: float) -> float:
    """How long a pass took to the finish."""
    return measured.profile.seconds_at(finish_m) - measured.drive.start_s


def agreed(review: Review) -> Review:
    """The review with what the other passes say of its findings."""
    return replace(review, findings=with_other_passes(review.findings, review.others)) if review.others else review


def by_hand_of(inputs: Inputs, reading: Reading) -> ManualOverrides:
    """What was set by hand about the pass; where that can't be read any more, nothing, and that it is damaged."""
    set_by = inputs.by_hand
    if set_by is None:
        return NO_OVERRIDES
    try:
        return parse_by_hand(set_by.content, reading.notes, name=set_by.name)
    except MirkleError:
        return ManualOverrides(damaged=True)


def book_in(notes: SourceFile | None, calls: SourceFile | None, crew: CrewProfile) -> Reading:
    """The written book, or what was said written down.

    Raises
    ------
    MirkleError
    """
    if notes is not None:
        return parse_notes(notes.content, name=notes.name, crew=crew)
    assert calls is not None, "inputs_of lets nothing through without notes or calls"
    speech = speech_in(calls, crew)
    return read_notes(book_of(speech, language_of(speech.reading, crew)), crew.languages, order=speech.reading.order)


def inputs_of(materials: Sequence[SourceFile]) -> Inputs:
    """The newest book, calls and crew's file with the first of the runs.

    Raises
    ------
    MirkleError
        The run, or both the notes and the calls, are missing.
    """
    newest = {m.role: m for m in materials}
    passes = [m for m in materials if m.kind == "run"]
    if "notes" not in newest and "calls" not in newest:
        raise MirkleError("the notes are still missing", mend="add the notes as text, or what was said as timed text")
    if not passes:
        raise MirkleError("the recording is still missing", mend="add the run as CSV or GPX")
    return Inputs(passes[0], newest.get("notes"), newest.get("calls"), newest.get("crew"), others=tuple(passes[1:]))


def read_alone(material: SourceFile, crew: CrewProfile, calls: SourceFile | None = None) -> str:
    """A reading of notes or timed words without a recording, as JSON; of notes with what was said against them.

    Raises
    ------
    MirkleError
    """
    if material.role == "calls":
        speech = speech_in(material, crew)
        return reading_json(speech.reading, crew, speech=speech)
    if material.kind != "notes":
        raise MirkleError("this is neither notes nor timed words", mend="give a text", where=material.name)
    reading = parse_notes(material.content, name=material.name, crew=crew)
    if calls is None:
        return reading_json(reading, crew)
    speech = speech_in(calls, crew, reading)
    return against_json(reading, speech, crew)
