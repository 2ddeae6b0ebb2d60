"""Call times from the sound of a pass: found beside the window, kept as the pass's words, set right by ear."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from mirkle.core.audio.calls import ByWords, NotePriors, evidence_for, listen
from mirkle.core.audio.clock import sound_clock
from mirkle.core.audio.lengths import syllables_of
from mirkle.core.audio.repeats import repeats_told
from mirkle.core.audio.segments import Activity
from mirkle.core.errors import MirkleError
from mirkle.core.lineup.call_clock import places_s
from mirkle.core.lineup.note_positions import eased_m
from mirkle.core.messages import Message, message
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.model import Reading
from mirkle.core.progress import Progress, silent
from mirkle.core.recording.model import Floats
from mirkle.core.review import Review
from mirkle.files.audio.voice import FRAME_S, STEP_S, voice_in
from mirkle.files.project.project import SourceFile
from mirkle.files.speech.heard_json import HeardCalls, heard_json, parse_heard
from mirkle.session.open_pass import OpenPass
from mirkle.session.pairing_edits import SURE
from mirkle.session.parsed_files import speech_of
from mirkle.session.playback_clock import sound_of
from mirkle.session.reviewed_pass import ReviewedPass

# Playback starts this long before a moment (s).
BEFORE_S = 2.0
# Standard deviation of when a corner with an unsure place was driven (s).
UNSURE_S = 3.0
# Timed text with a larger uncertainty (s) gets its times from the sound. Within a block a word may lie anywhere: a block is this many
# of its words' standard deviations long, plus an edge (s).
COARSE_S, BLOCK, EDGE_S = 0.8, 6.0, 0.5
# Listened to first: a call later than its crew's habit by this (s), and by this many standard deviations of its place.
LATE_S, PLACE_SPREADS = 1.0, 2.0


@dataclass(frozen=True)
class ToHear:
    """A moment worth listening to: ``note`` where it is of one, ``from_s`` on the sound's clock; ``why`` says what to listen for."""

    note: int | None
    from_s: float
    why: Message
    kind: str


def heard_in(
    path: Path,
    reading: Reading,
    crew: CrewProfile,
    review: Review | None,
    progress: Progress = silent,
    *,
    timed_text: SourceFile | None = None,
) -> HeardCalls:
    """The calls in a sound or video, by the book and, where there is a recording, by where the car was; ``timed_text`` says what was said
    and only about when.

    Raises
    ------
    MirkleError
        It can't be decoded, or can't be tied to the recording.
    """
    language = next(la for la in crew.languages if la.code == reading.language)
    syllables = syllables_of(reading, language)

    def decoded(seconds: float) -> None:
        progress(message("Listening: {0} min", int(seconds // 60)), min(0.6 * seconds / (seconds + 300.0), 0.6))

    voice = voice_in(path, progress=decoded)
    if len(voice.sure) * FRAME_S < 30.0:
        raise MirkleError("it is too short to hold a stage", mend="choose the sound of the whole run", where=path.name)
    clock, place_s, place_sd_s = None, np.full(len(syllables), np.nan), np.zeros(len(syllables))
    if review is not None:
        progress(message("Tying the sound to the recording"), 0.6)
        activity = Activity(evidence_for(voice.sure, FRAME_S, syllables)[0], FRAME_S)
        on_run_s, place_sd_s = _places_on_run(review)
        profile = review.profile
        clock = sound_clock(activity, voice.loud_db, syllables, on_run_s, profile.time_s, profile.speed_mps)
        if clock is not None:
            place_s = on_run_s + clock.sound_minus_run_s
        elif timed_text is None:
            # By their order alone one sure call of ten is wrong: too many to judge a co-driver by.
            raise MirkleError(
                "its calls can't be tied to this recording beyond doubt: perhaps it is the sound of another pass",
                mend="give what was said as timed text",
                where=path.name,
            )
    words = _by_words(timed_text, reading, crew) if timed_text is not None else ByWords()
    found = listen(
        voice.sure,
        FRAME_S,
        NotePriors(syllables, place_s, place_sd_s, words=words),
        progress=lambda share: progress(message("Placing the notes"), 0.62 + 0.36 * share),
    )
    found = repeats_told(found, voice.cepstra, STEP_S)
    texts = tuple(n.text for n in reading.notes)
    text = timed_text.content if timed_text is not None else b""
    return HeardCalls(
        path.name,
        FRAME_S,
        voice.sure,
        texts,
        syllables,
        place_s,
        {},
        found,
        clock,
        place_sd_s,
        text,
        words,
        signal_to_noise_db=voice.signal_to_noise_db,
    )


def believable(heard: HeardCalls) -> HeardCalls:
    """What was heard, where it can be believed.

    Raises
    ------
    MirkleError
        The noise hides the voice.
    """
    if heard.listening.too_noisy:
        raise MirkleError(
            "the noise in it hides the voice: nothing that was found here could be believed",
            mend="give what was said as timed text",
            where=heard.sound,
        )
    return heard


def _by_words(timed_text: SourceFile, reading: Reading, crew: CrewProfile) -> ByWords:
    """Between which moments a text has each note said, and which it has not."""
    spoken = speech_of(timed_text, crew, reading).spoken
    said = {
        n: (s.from_s - BLOCK * s.uncertainty_s - EDGE_S, s.from_s + BLOCK * s.uncertainty_s + EDGE_S)
        for n, s in enumerate(spoken)
        if s.was_said
    }
    return ByWords(said, frozenset(n for n, s in enumerate(spoken) if s.said_as == "not-said"))


def _places_on_run(review: Review) -> tuple[Floats, Floats]:
    """When the car came to each note's place on the recording's clock, and how uncertain that is, seconds, both (notes,).

    A note without a corner lies somewhere between its neighbours; one whose place is unsure may lie on the bend beside.
    """
    sd_s = np.zeros(len(review.notes))
    for tie in review.lineup.ties:
        sd_s[tie.note] = 0.0 if tie.sure >= SURE else UNSURE_S
    corner_m = eased_m(review.notes, review.lineup)
    known = np.flatnonzero(np.isfinite(corner_m))
    # Before the first corner lies the start, behind the last the finish.
    at = np.concatenate([[-1], known, [len(corner_m)]])
    metres = np.concatenate([[0.0], corner_m[known], [review.finish_m]])
    place_s = places_s(np.where(np.isfinite(corner_m), corner_m, review.positions.note_m), review.profile)
    for note in np.flatnonzero(~np.isfinite(corner_m)):
        beside = places_s(metres[[np.searchsorted(at, note) - 1, np.searchsorted(at, note)]], review.profile)
        sd_s[note] = 0.3 * float(beside[1] - beside[0])
    return place_s, sd_s


def listened(stage: OpenPass, progress: Progress = silent) -> HeardCalls:
    """The calls in the sound of a stage's pass.

    Raises
    ------
    MirkleError
        There is no sound, it can't be decoded, or the noise hides the voice.
    """
    path = sound_of(stage)
    if path is None:
        raise MirkleError("this pass has no sound", mend="drop its sound or video on the window first")
    calls, review = stage.calls, stage.review if isinstance(stage, ReviewedPass) else None
    before = heard_of(stage)
    text = SourceFile("calls", f"{before.sound}-words", before.timed_text) if before is not None and before.timed_text else None
    if before is None:
        text = calls
    return believable(heard_in(path, stage.reading, stage.crew, review, progress, timed_text=text))


def can_listen(stage: OpenPass) -> bool:
    """Whether there is a sound and a book, and no words that know the time as well: those win where there are some."""
    calls, said = stage.calls, [s.uncertainty_s for s in stage.said]
    coarse = len(said) > 0 and float(np.median(said)) > COARSE_S
    return stage.pass_now().media is not None and stage.this_pass.notes is not None and (calls is None or calls.kind == "heard" or coarse)


def keep_heard(stage: OpenPass, heard: HeardCalls) -> None:
    """Keeps call times as the words of the pass; opening it again takes them in, and undo brings back what was there.

    Raises
    ------
    UnusableProject
        They can't be kept.
    """
    stage.set_calls(SourceFile("heard", f"{Path(heard.sound).stem}-heard.json", heard_json(heard)))


def heard_of(stage: OpenPass) -> HeardCalls | None:
    """What was heard on the stage's pass; ``None`` where its words came from elsewhere, or there are none."""
    calls = stage.calls
    return parse_heard(calls.content, name=calls.name) if calls is not None and calls.kind == "heard" else None


def to_hear(heard: HeardCalls) -> list[ToHear]:
    """What is worth listening to, in that order: perhaps late, not heard, unexplained speech, sound and road apart, not sure."""
    found = heard.listening
    waiting = [c for c in found.calls if c.note not in heard.by_hand]
    room_s = LATE_S + PLACE_SPREADS * heard.place_sd_s
    late = [c for c in waiting if c.was_heard and c.from_s - c.due_s > room_s[c.note]]
    apart = [c for c in waiting if c.was_heard and np.isfinite(c.other_s) and c not in late]
    unsure = [c for c in waiting if c.was_heard and c.doubtful and c not in late and c not in apart]
    out = [ToHear(c.note, c.from_s, message("perhaps late, by {0:.1f} s", c.from_s - c.due_s), "late") for c in late]
    for c in waiting:
        if not c.was_heard and c.note not in heard.left_out:
            at = c.due_s if np.isfinite(c.due_s) else _between(heard, c.note)
            out.append(ToHear(c.note, at, message("not heard"), "not-heard"))
    out += [ToHear(None, a, message("somebody speaks: no note explains it"), "other") for a, _ in found.others if not heard.listened_at(a)]
    out += [ToHear(c.note, c.from_s, message("sound and road differ by {0:.1f} s", abs(c.from_s - c.other_s)), "apart") for c in apart]
    out += [ToHear(c.note, c.from_s, message("{0:.0%} sure", c.sure), "unsure") for c in unsure]
    out += [ToHear(n, s, message("said again"), "again") for n, s in found.again if not heard.listened_at(s)]
    return out


def _between(heard: HeardCalls, note: int) -> float:
    """Where a note that was not heard would lie: behind the one before it."""
    before = [c.to_s for c in heard.listening.calls[:note] if c.was_heard]
    return before[-1] if before else 0.0


def accepted(heard: HeardCalls, item: ToHear) -> HeardCalls:
    """With what a moment is taken for confirmed by ear: a call is there, and the rest is solved again around it; a note was not said;
    speech is nothing to keep."""
    if item.note is None or item.kind == "again":
        return heard.with_remark(item.from_s, "")
    if not heard.listening.calls[item.note].was_heard:
        return heard.without(item.note)
    return heard.solved_with(item.note, heard.listening.calls[item.note].from_s)
