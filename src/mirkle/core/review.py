"""The one way through: a recording and notes in, a review out. Read it as a table of contents."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from mirkle.core.constants import km
from mirkle.core.errors import UnusableRecording
from mirkle.core.joint.joint_alignment import AlignedPass, keep_pass_weights, places_from_passes, weigh_by_passes
from mirkle.core.judging.all_judges import findings_of
from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.judging.grading_measure import Yardstick, measure_of, yardsticks_of
from mirkle.core.judging.other_pass import Witness
from mirkle.core.judging.pace import Pace, pace_of
from mirkle.core.judging.parameters import PARAMETERS, Parameters
from mirkle.core.judging.parts import Part, lies_in, propose_parts
from mirkle.core.judging.scale import Band, Ruler, bands_of, ruler_of
from mirkle.core.lineup.book_fit import BookFit, belonging_of
from mirkle.core.lineup.call_clock import Clock, clock_of, heard_places, places_s
from mirkle.core.lineup.call_records import CallRecord, UsualLead, call_records, with_leads
from mirkle.core.lineup.called_notes import CallPlaces, Pin, calls_of
from mirkle.core.lineup.finish import finish_m as find_finish_m
from mirkle.core.lineup.note_positions import NotePositions, eased_m
from mirkle.core.lineup.pairing import line_up, pin_down, sense_from_road
from mirkle.core.lineup.remarks import Remark, remarks_of
from mirkle.core.lineup.result import Lineup
from mirkle.core.lineup.road import Road, road_of
from mirkle.core.lineup.scale_prior import ScalePrior, with_prior
from mirkle.core.messages import Message, in_a_row, message
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.driven_line import smooth_path
from mirkle.core.motion.gaps import UnmeasuredStretch
from mirkle.core.motion.profile import Profile, profile_of
from mirkle.core.motion.receiver_filter import unsmoothed
from mirkle.core.motion.segments import (
    A_DRIVE_M,
    BridgedGap,
    Segment,
    bridged_in,
    drives_of,
    longest_segment,
    trimmed_to_launch,
    trimmed_to_start,
    unmeasured_in,
)
from mirkle.core.motion.stage_map import StageMap, plan_of
from mirkle.core.motion.vertical import Feature, vertical_of
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.grading import SENSE_KNOWN, GradingScheme, school_of
from mirkle.core.notes.model import Note, Reading
from mirkle.core.notes.rewording import NoteWriter
from mirkle.core.overrides import NO_OVERRIDES, ManualOverrides
from mirkle.core.progress import Progress, silent
from mirkle.core.recording.model import Floats, Recording
from mirkle.core.speech.delivery import Spoken
from mirkle.core.speech.reading import CallTime, Speech

# Surer than this, the notes' own "tightens to" and "opens to" need no help from the road.
SENSE_SURE = 0.97
# Shaken road is mentioned from this share of the stage on.
WORTH_A_WORD = 0.05
NO_VERTICAL = message("No vertical accelerometer: crests, jumps, bumps and dips are not judged.")


# How many words that are not understood are named.
SHOWN_WORDS = 8


@dataclass(frozen=True)
class Measured:
    """One pass as far as the recording alone shows it; what was set by hand of the start is in it.

    ``load_g`` is what the vertical accelerometer felt, one value a metre, and ``vertical`` what was found in it; both are
    ``None`` where the recording can't show it. ``recorded`` are the channels with their rates in hertz; ``unmeasured`` the
    stretches whose shape nothing shows, ``bridged`` those without positions whose shape was bridged; ``drives`` are all drives in
    the recording that are long enough for a stage; ``shaken`` where shake hides crests and dips, one value a metre.
    """

    recording_name: str
    drive: Segment
    profile: Profile
    plan: StageMap
    vertical: tuple[Feature, ...] | None
    load_g: Floats | None
    doubts: tuple[Message, ...]
    recorded: tuple[tuple[str, float], ...]
    coarse: bool
    unmeasured: tuple[UnmeasuredStretch, ...] = ()
    bridged: tuple[BridgedGap, ...] = ()
    drives: tuple[Segment, ...] = ()
    shaken: NDArray[np.bool_] | None = None

    @cached_property
    def road(self) -> Road:
        """The profile as an alignment sees it."""
        return road_of(self.profile)


def several_drives(drives: Sequence[Segment]) -> tuple[Message, ...]:
    """A sentence that lists the drives of a recording that holds more than one."""
    if len(drives) < 2:
        return ()
    listed = in_a_row(
        [message("{0:clock} to {1:clock}, {length_m:km} km", d.start_s, d.stop_s, length_m=d.length_m) for d in drives], between="; "
    )
    return (message("The recording has {0} drives ({1}). The longest is used; set the start by hand to use another.", len(drives), listed),)


def _shaken(shaken: NDArray[np.bool_]) -> tuple[Message, ...]:
    """A sentence that says on how much of the stage crests and dips can't be told from shake."""
    share = float(shaken.mean()) if len(shaken) else 0.0
    if share < WORTH_A_WORD:
        return ()
    return (message("On {0:.0f} % of the stage shaking hides crests and dips. Nothing is said about them there.", 100 * share),)


@dataclass(frozen=True)
class Review:
    """Everything that was found out about one pass. Places are metres from the start line.

    ``calls`` are how each note was called, and when; ``usual_lead`` is how long before a corner that is; ``yardsticks`` are what the grades
    may go by, the best first; ``remarks`` what else was said in the car; ``reported`` where the road was said to be slippery;
    ``others`` the other passes, where there were some; ``scale`` is what was known of the crew's scale beforehand, where that was used.
    """

    measured: Measured
    reading: Reading
    school: GradingScheme
    finish_m: float
    finish_s: float
    lineup: Lineup
    bands: tuple[Band, ...]
    findings: tuple[Finding, ...]
    calls: tuple[CallRecord, ...]
    clock: Clock | None
    parts: tuple[Part, ...]
    yardsticks: tuple[Yardstick, ...]
    fit: BookFit
    usual_lead: UsualLead
    pace: Pace
    remarks: tuple[Remark, ...] = ()
    reported: tuple[Part, ...] = ()
    others: tuple[Witness, ...] = ()
    scale: ScalePrior | None = None

    def __repr__(self) -> str:
        dangers = sum(f.severity == "danger" for f in self.findings)
        counts = f"{len(self.notes)} notes, {len(self.findings)} findings, {dangers} of them dangers"
        return f"<Review: {km(self.finish_m):.2f} km, {counts}>"

    @property
    def doubts(self) -> tuple[Message, ...]:
        """What touches the result, in sentences: first whether the notes belong here, then the recording, then the text."""
        first = (self.fit.sentence, _sense_unsure(self.school), _not_understood(self.notes))
        said_first = [sentence for sentence in first if sentence]
        return (*said_first, *self.measured.doubts, *self.reading.doubts)

    @property
    def profile(self) -> Profile:
        """The stage by distance."""
        return self.measured.profile

    @property
    def spoken(self) -> tuple[Spoken, ...]:
        """How each note was said, empty where no words were recorded."""
        return tuple(call.how for call in self.calls if call.how is not None)

    @property
    def notes(self) -> tuple[Note, ...]:
        """The notes in the order of the book."""
        return self.reading.notes

    @property
    def measure(self) -> str:
        """What the crew's grades go by best: ``radius``, ``speed`` or ``angle``."""
        return measure_of(self.yardsticks)

    def ruler(self, bend: Bend, position: float) -> Ruler:
        """The crew's grades along the measure that it goes by, for a bend at a position on its scale."""
        return ruler_of(self.lineup.grades, bend, position, self.school, self.measure)

    @cached_property
    def positions(self) -> NotePositions:
        """Where each note lies."""
        return NotePositions(self.notes, self.lineup, self.finish_m)

    def place_m(self, note: int) -> float:
        """Where what was met behind a note lies, metres from the start line."""
        return self.positions.behind_m(note)

    def metres_at(self, time_s: float) -> float:
        """Where the car was at a moment of the recording's clock, metres from the start line."""
        return self.profile.metres_at(time_s)

    def seconds_at(self, metres: float) -> float:
        """When the car came to a place, on the recording's clock."""
        return self.profile.seconds_at(metres)


def measure_run(recording: Recording, *, start_s: float | None = None, progress: Progress = silent) -> Measured:
    """What the recording of one pass shows.

    Parameters
    ----------
    recording : as :func:`mirkle.core.recording.model.repair_times` returns it
    start_s : when the car left the start line, on the recording's clock, where a hand set it
    progress : is told in words what is being done and the share done; it may raise to cancel
    """
    progress(message("Finding the driven line"), 0.1)
    recording = unsmoothed(recording)
    path = smooth_path(recording)
    drives = [d for d in drives_of(path) if d.length_m > A_DRIVE_M]
    drive = trimmed_to_start(trimmed_to_launch(longest_segment(path), path, recording), path, start_s)
    profile = profile_of(path, drive.start_m, drive.stop_m)
    progress(message("Pairing the notes with the road"), 0.5)
    felt = vertical_of(recording, path, drive.start_m, drive.stop_m)
    return Measured(
        recording_name=recording.name,
        drive=drive,
        profile=profile,
        plan=plan_of(path, drive, profile),
        vertical=felt.features if felt else None,
        load_g=felt.load_g if felt else None,
        shaken=felt.shaken if felt else None,
        doubts=(*path.doubts, *(several_drives(drives) if start_s is None else ()), *(_shaken(felt.shaken) if felt else (NO_VERTICAL,))),
        unmeasured=unmeasured_in(path, drive),
        bridged=bridged_in(path, recording, drive),
        drives=tuple(drives),
        recorded=tuple((name, round(c.rate_hz, 1)) for name, c in sorted(recording.channels.items())),
        # Nothing but positions: radii are good to a tenth at best.
        coarse=path.sources == ("position",),
    )


@dataclass(frozen=True)
class CrewNotes:
    """The notes of a pass: as they were read, what is known of the crew's way of writing, and what was said in the car, if it was recorded,
    read against the former; ``scale`` is what is known of the crew's scale from its other stages, and ``reported`` where those ahead found
    the road slippery for this pass, metres from the start."""

    reading: Reading
    crew: CrewProfile
    speech: Speech | None = None
    scale: ScalePrior | None = None
    reported: tuple[Part, ...] = ()


def review_run(
    measured: Measured,
    written: CrewNotes,
    *,
    overrides: ManualOverrides = NO_OVERRIDES,
    passes: Sequence[AlignedPass] = (),
    progress: Progress = silent,
) -> Review:
    """Reviews one pass.

    Parameters
    ----------
    overrides : what the crew set by hand; what it left open is found
    passes : other passes of the stage, each reviewed by itself (see :mod:`mirkle.core.joint.joint_alignment`)
    """
    if not measured.road.turns:
        raise UnusableRecording("no bend was found in it", mend="choose the recording of the stage", where=measured.recording_name)
    reading, crew = written.reading, written.crew
    others_words = written.speech is not None and _of_other_notes(written.speech)
    speech = None if others_words else written.speech
    calls = call_records(len(reading.notes), speech)
    of_pass = _Pass(measured, reading, _school(reading, written, measured.road), calls, overrides, written.reported)
    lineup, clock, fit = _paired(
        of_pass, speech, passes, progress=lambda share: progress(message("Pairing the notes with the road"), 0.5 + 0.4 * share)
    )
    if others_words:
        fit = replace(fit, why=fit.why or "other-words")
    progress(message("Judging"), 0.95)
    remarks = remarks_of(speech.words, clock, measured.profile) if speech is not None and clock is not None else ()
    paired = _with_scale(_Paired(of_pass, lineup, clock, fit, remarks), written.scale)
    return _judged(paired, crew)


def _with_scale(paired: _Paired, scale: ScalePrior | None) -> _Paired:
    """A pass on whose scale leans what is known of the crew's; unless the notes are somebody else's, or of another road."""
    if scale is None or not paired.fit.belongs:
        return paired
    calls = calls_of(paired.of.reading.notes, paired.of.school)
    lineup = with_prior(paired.lineup, calls, scale)
    return replace(paired, lineup=lineup, scale=scale if lineup is not paired.lineup else None)


@dataclass(frozen=True)
class _Pass:
    """What is known of a pass before its notes are paired."""

    measured: Measured
    reading: Reading
    school: GradingScheme
    calls: tuple[CallRecord, ...]
    overrides: ManualOverrides
    reported: tuple[Part, ...] = ()

    @property
    def times(self) -> list[CallTime | None]:
        """When each note was called, by the words' clock."""
        return [call.time for call in self.calls]

    @property
    def pins(self) -> tuple[Pin, ...]:
        """What was put in its place by hand."""
        return self.overrides.pins_on(self.measured.profile)


@dataclass(frozen=True)
class _Paired:
    """A pass whose notes are paired, with the clock that ties its words to the recording."""

    of: _Pass
    lineup: Lineup
    clock: Clock | None
    fit: BookFit
    remarks: tuple[Remark, ...] = ()
    scale: ScalePrior | None = None


def review_again(before: Review, crew: CrewProfile, moved: Pin | None, overrides: ManualOverrides) -> Review:
    """The review with one note ``moved`` by hand, or with every note where it is; ``overrides`` holds all that is set by hand."""
    of_pass, clock = _pass_of(before, overrides), before.clock
    heard = _heard(of_pass, clock, before.lineup) if clock else None
    road = before.measured.road
    lineup = before.lineup
    if moved is not None:
        lineup = pin_down(calls_of(before.notes, before.school, of_pass.pins, heard), road, before.lineup, moved)
    lineup = keep_pass_weights(lineup, before.lineup) if before.others else lineup
    paired = _with_scale(_Paired(of_pass, lineup, clock, before.fit, before.remarks), before.scale)
    again = _judged(paired, crew)
    return replace(again, others=before.others)


def judged_again(before: Review, crew: CrewProfile, parameters: Parameters) -> Review:
    """The review of the same pairs judged by other parameters, without what other passes say and nothing set by hand."""
    paired = _Paired(_pass_of(before, NO_OVERRIDES), before.lineup, before.clock, before.fit, before.remarks, before.scale)
    return _judged(paired, crew, parameters)


def _pass_of(review: Review, overrides: ManualOverrides) -> _Pass:
    return _Pass(review.measured, review.reading, review.school, review.calls, overrides, review.reported)


def _judged(paired: _Paired, crew: CrewProfile, parameters: Parameters = PARAMETERS) -> Review:
    """The review of a pass whose notes are paired: all that is left is to judge,."""
    of, lineup, clock = paired.of, paired.lineup, paired.clock
    measured, reading, school = of.measured, of.reading, of.school
    profile, notes = measured.profile, {n.index: n for n in reading.notes}
    finish_m = _finish_m(measured, reading, lineup, of.overrides)
    # How fast a grade is driven is learnt where the road was as usual.
    usual = replace(lineup, ties=tuple(t for t in lineup.ties if not (t.bend and lies_in(t.bend.apex_m, of.reported))))
    pace = pace_of(usual, profile, notes, school)
    calls, lead = with_leads(of.calls, lineup, NotePositions(reading.notes, lineup, finish_m), profile, clock)
    by_crew = of.overrides.parts_on(profile)
    parts = propose_parts(lineup, profile, pace, finish_m, paired.remarks) if by_crew is None else by_crew
    yardsticks = yardsticks_of(lineup, notes, school)
    case = JudgingContext(
        notes=reading.notes,
        lineup=lineup,
        school=school,
        profile=profile,
        hand=NoteWriter(reading, next(la for la in crew.languages if la.code == reading.language)),
        finish_m=finish_m,
        coarse=measured.coarse,
        pace=pace,
        vertical=measured.vertical,
        shaken=measured.shaken,
        parameters=parameters,
        measure=measure_of(yardsticks),
        calls=calls,
        clock=clock,
        usual_lead=lead,
        parts=tuple(parts),
        remarks=paired.remarks,
        by_hand=of.overrides.remarks,
        reported=of.reported,
    )
    fits = paired.fit
    return Review(
        measured=measured,
        reading=reading,
        school=school,
        finish_m=finish_m,
        finish_s=profile.seconds_at(finish_m),
        lineup=lineup,
        bands=bands_of(lineup, notes, school),
        findings=findings_of(case, measured.unmeasured, measured.bridged, fits) if fits.belongs else (),
        usual_lead=lead,
        pace=pace,
        fit=fits,
        calls=calls,
        clock=clock,
        parts=tuple(parts),
        remarks=paired.remarks,
        reported=of.reported,
        yardsticks=yardsticks,
        scale=paired.scale,
    )


def _finish_m(measured: Measured, reading: Reading, lineup: Lineup, overrides: ManualOverrides) -> float:
    profile = measured.profile
    if overrides.finish_s is not None:
        return profile.metres_at(overrides.finish_s)
    return find_finish_m(reading, lineup, profile, coarse=measured.coarse)


def _school(reading: Reading, written: CrewNotes, road: Road) -> GradingScheme:
    """The crew's school; the road says which way the grades run where the notes and the crew's other books leave it open."""
    known = written.scale.school if written.scale is not None else None
    school = school_of(reading.notes, sense=written.crew.sense, known=known)
    return school if school.sense_sure >= SENSE_SURE else sense_from_road(reading.notes, school, road)


def _paired(
    of: _Pass, speech: Speech | None, passes: Sequence[AlignedPass], *, progress: Callable[[float], None]
) -> tuple[Lineup, Clock | None, BookFit]:
    """The notes paired with the road, the clock that ties the words to the recording, and whether the notes belong here."""
    measured, notes, school, road = of.measured, of.reading.notes, of.school, of.measured.road
    calls = calls_of(notes, school, of.pins)
    lineup = line_up(calls, road, progress=progress)
    fit = belonging_of(calls, road, lineup)
    if fit.why == "part":
        lineup = line_up(calls, road, anywhere=True)

    def clock_by(lineup: Lineup) -> Clock | None:
        if speech is None:
            return None
        place_s = places_s(eased_m(notes, lineup), measured.profile)
        return clock_of(speech, of.times, place_s, measured.drive, set_offset_s=of.overrides.calls_minus_run_s)

    # Now that the clocks are tied, the calls say where each note belongs, as other passes do, and better places tie them better.
    clock = clock_by(lineup)
    heard = _heard(of, clock, lineup) if clock is not None else None
    heard = places_from_passes([n.index for n in of.reading.corners], passes, heard)
    if heard is not None:
        lineup = line_up(calls_of(notes, school, of.pins, heard), road, before=lineup)
        clock = clock_by(lineup)
    return weigh_by_passes(lineup, passes), clock, fit


def _heard(of: _Pass, clock: Clock, lineup: Lineup) -> CallPlaces:
    """Where the calls put each corner note."""
    profile, reading = of.measured.profile, of.reading
    place_m, sigma_m = heard_places(of.times, clock, places_s(eased_m(reading.notes, lineup), profile), profile)
    corners = [n.index for n in reading.corners]
    return CallPlaces(place_m[corners], np.where(np.isfinite(sigma_m), sigma_m, 1.0)[corners])


def _sense_unsure(school: GradingScheme) -> Message | None:
    """A sentence where nothing tells which way the grades run."""
    if school.sense_sure >= SENSE_KNOWN:
        return None
    return message(
        "It is not clear whether your 1 is tight or nearly flat out. Say so in Gather; until then, findings that "
        "depend on it are checks only."
    )


# Where less than this share of the notes was said, the words belong to something else.
LEAST_SAID = 0.25


def _of_other_notes(speech: Speech) -> bool:
    """Whether hardly anything that is written was said."""
    said = [s.said_as != "not-said" for s in speech.spoken]
    return len(said) >= 8 and sum(said) < LEAST_SAID * len(said)


def _not_understood(notes: Sequence[Note]) -> Message | None:
    """The words of a book that nobody has explained, the first of them."""
    words = list(dict.fromkeys(w for n in notes for w in n.unknown_words))
    if not words:
        return None
    return message("Not understood in the notes: {0}.", ", ".join(words[:SHOWN_WORDS]) + (", …" if len(words) > SHOWN_WORDS else ""))
