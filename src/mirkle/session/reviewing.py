"""From the files of a pass to its review."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from mirkle.core.errors import MirkleError
from mirkle.core.joint.agreement import with_other_passes
from mirkle.core.joint.joint_alignment import AlignedPass
from mirkle.core.joint.same_road import road_of, same_road
from mirkle.core.judging.other_pass import Witness
from mirkle.core.judging.parts import Part
from mirkle.core.lineup.scale_prior import ScalePrior
from mirkle.core.messages import message
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import read_notes
from mirkle.core.overrides import NO_OVERRIDES, ManualOverrides
from mirkle.core.progress import Progress, silent
from mirkle.core.review import CrewNotes, Measured, Review, measure_run, review_run
from mirkle.core.speech.as_book import book_of
from mirkle.files.notes.reading_json import against_json, reading_json
from mirkle.files.notes.text import language_of
from mirkle.files.project.overrides import parse_overrides
from mirkle.files.project.project import SourceFile
from mirkle.session.parsed_files import crew_of, forget_recording, reading_of, recording_of, speech_of


@dataclass(frozen=True)
class Inputs:
    """What one review is made from; either the notes or the calls may be missing, not both. ``scale`` is what is known of the crew's scale
    from its other stages, ``reported`` where those ahead found the road slippery for this pass."""

    run: SourceFile
    notes: SourceFile | None = None
    calls: SourceFile | None = None
    crew: SourceFile | None = None
    overrides: SourceFile | None = None
    others: tuple[SourceFile, ...] = ()
    scale: ScalePrior | None = None
    reported: tuple[Part, ...] = ()

    @property
    def files(self) -> tuple[SourceFile, ...]:
        """The files that a crew gave, without what was set by hand."""
        own = (self.run, self.notes, self.calls, self.crew, *self.others)
        return tuple(m for m in own if m is not None)


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
            self._known[key] = measure_run(recording_of(run), start_s=start_s, progress=progress)
            forget_recording(run)
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
                message("this is not the road of {0}", first[0].name),
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
    progress(message("Reading the notes"), 0.0)
    calls = inputs.calls
    reading = book_in(inputs.notes, calls, crew)
    speech = speech_of(calls, crew, reading) if calls else None
    if speech is not None and inputs.notes is None:
        # What was said stands for the book: it can't have been said otherwise than it stands there.
        as_written = tuple(replace(s, said_as="written") if s.said_as == "otherwise" else s for s in speech.spoken)
        speech = replace(speech, spoken=as_written)
    overrides = overrides_of(inputs, reading)
    progress(message("Reading the recording"), 0.02)
    measured = measurements.of(inputs.run, overrides.start_s, progress)
    reviewed, paired = [], []
    for other in inputs.others:
        progress(message("Reviewing {0}", other.name), 0.5)
        driven = measurements.of(other, None, silent)
        alone = review_run(driven, CrewNotes(reading, crew, scale=inputs.scale))
        reviewed.append(alone)
        road = same_road((measured.profile, measured.plan), (driven.profile, driven.plan))
        if road is not None:
            paired.append(AlignedPass(driven.profile, alone.lineup, road))
    written = CrewNotes(reading, crew, speech, inputs.scale, inputs.reported)
    review = review_run(measured, written, overrides=overrides, passes=paired, progress=progress)
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


def overrides_of(inputs: Inputs, reading: Reading) -> ManualOverrides:
    """What was set by hand about the pass; where that can't be read any more, nothing, and that it is damaged."""
    set_by = inputs.overrides
    if set_by is None:
        return NO_OVERRIDES
    try:
        return parse_overrides(set_by.content, reading.notes, name=set_by.name)
    except MirkleError:
        return ManualOverrides(damaged=True)


def book_in(notes: SourceFile | None, calls: SourceFile | None, crew: CrewProfile) -> Reading:
    """The written book, or what was said written down.

    Raises
    ------
    MirkleError
    """
    if notes is not None:
        return reading_of(notes, crew)
    assert calls is not None, "inputs_of lets nothing through without notes or calls"
    speech = speech_of(calls, crew)
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
        raise MirkleError("the recording is still missing", mend="add the run as CSV or GPX; Book and Rehearse work without it")
    return Inputs(passes[0], newest.get("notes"), newest.get("calls"), newest.get("crew"), others=tuple(passes[1:]))


def read_alone(material: SourceFile, crew: CrewProfile, calls: SourceFile | None = None) -> str:
    """A reading of notes or timed words without a recording, as JSON; of notes with what was said against them.

    Raises
    ------
    MirkleError
    """
    if material.role == "calls":
        speech = speech_of(material, crew)
        return reading_json(speech.reading, crew, speech=speech)
    if material.kind != "notes":
        raise MirkleError("this is neither notes nor timed words", mend="give a text", where=material.name)
    reading = reading_of(material, crew)
    if calls is None:
        return reading_json(reading, crew)
    speech = speech_of(calls, crew, reading)
    return against_json(reading, speech, crew)
