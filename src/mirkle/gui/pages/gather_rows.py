"""What was read of an open stage, in sentences: its files, its notes on the road, the clocks, and what is to be minded."""

from __future__ import annotations

from mirkle.core.messages import gettext_noop
from mirkle.core.notes.crew_profile import ORDER_WORDS
from mirkle.core.notes.doubts import doubts_of
from mirkle.core.review import Review, several_drives
from mirkle.core.speech.delivery import BY_SOUND
from mirkle.gui.translation import tr, tr_counted, tr_message
from mirkle.session.described_files import channels_in_words
from mirkle.session.open_pass import OpenPass
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.video_pass import VideoPass


def rows_of(stage: ReviewedPass) -> list[tuple[str, str]]:
    """Each sentence with what it is about: first what each file was taken for."""
    review, inputs = stage.review, stage.inputs
    # Which drive is the stage stands there as a question.
    asked = several_drives(review.measured.drives)
    doubts = [d for d in review.doubts if d not in asked]
    rows = []
    if stage.project.read_only:
        rows.append((tr("Read only"), tr("This stage is open in another window. You can look, but not change anything here.")))
    rows += _kept_unread(stage)
    if inputs.notes is not None:
        rows.append((tr("The notes"), f"{inputs.notes.name}: {_notes_words(stage)}"))
    recorded = f"{stage.run.name}: {channels_in_words(review.measured.recorded, tr)}."
    rows.append((tr("The recording"), recorded))
    if inputs.calls is not None:
        said = sum(how.was_said for how in review.spoken)
        by_sound = any(how.said_as in BY_SOUND for how in review.spoken)
        heard = (
            tr("{0} of {1} notes were heard in the sound.", said, len(review.notes))
            if by_sound
            else tr("{0} of {1} notes were said.", said, len(review.notes))
        )
        rows.append((tr("The words"), f"{inputs.calls.name}: {heard}"))
    media = stage.project.material(stage.pass_now().media)
    if media is not None:
        unheard = inputs.calls is None and inputs.notes is not None
        ask = tr("Mirkle can find the calls in it: ☰, Hear, “Find the calls in the sound”.")
        rows.append((tr("The sound"), f"{media.name}. {ask}" if unheard else media.name))
    rows.append((tr("On the road"), _road_words(review)))
    rows += _clock_row(review)
    rows += [(tr("Note"), tr_message(doubt)) for doubt in doubts]
    return rows + (_against_itself(stage) if inputs.notes is not None else [])


def _against_itself(stage: OpenPass) -> list[tuple[str, str]]:
    """How much the book says against itself, and the first of it; all of it stands among what is to be settled."""
    found = doubts_of(stage.reading, stage.school, stage.crew.meant)
    if not found:
        return []
    first = tr_message(found[0].sentence)
    return [(tr("The book"), tr("To look at in it: {0}. The first: {1}", len(found), first) if len(found) > 1 else first)]


def _kept_unread(stage: OpenPass) -> list[tuple[str, str]]:
    """What is in the stage's file and can't be read or is not known, all of which stays there."""
    project = stage.project
    counted = [
        (project.lost_entries, gettext_noop("Damaged decisions in this file that can't be read: {0}.")),
        (project.unknown_entries, gettext_noop("Entries of a newer Mirkle in this file: {0}. They are kept, and not shown here.")),
        (project.lost_passes, gettext_noop("Damaged passes in this file that can't be read: {0}.")),
        (
            len(stage.overrides.homeless) if isinstance(stage, ReviewedPass) else 0,
            gettext_noop("Notes that you put on their bends and that read differently now: {0}. Mirkle places them again."),
        ),
    ]
    rows = [(tr("Note"), tr(words, count)) for count, words in counted if count]
    if isinstance(stage, ReviewedPass) and stage.overrides.damaged:
        rows.append((tr("Note"), tr("What was set by hand on this pass is damaged and can't be read. Set it again.")))
    return rows


def filmed_rows(filmed: VideoPass) -> list[tuple[str, str]]:
    """As :func:`rows_of`, of a pass with nothing but a book and a video."""
    named = dict([*filmed.project.listed("notes"), *filmed.project.listed("media")])
    rows = []
    if filmed.project.read_only:
        rows.append((tr("Read only"), tr("This stage is open in another window. You can look, but not change anything here.")))
    rows.append((tr("The notes"), f"{named[filmed.this_pass.notes or 0]}: {_notes_words(filmed)}"))
    rows.append((tr("The video"), named[filmed.pass_now().media or 0]))
    known, count = len(filmed.said), len(filmed.notes)
    if filmed.calls is not None:
        rows.append((tr("The calls"), tr("Call times known for {0} of {1} notes.", known, count)))
    else:
        words = tr(
            "Call times are not known yet. ☰, Hear, “Find the calls in the sound” looks for them. Or play the video "
            "once, at up to double speed, and press C at each call."
        )
        rows.append((tr("The calls"), words))
    rows += [(tr("Note"), tr_message(doubt)) for doubt in filmed.reading.doubts]
    return rows + _against_itself(filmed)


def _notes_words(stage: OpenPass) -> str:
    reading = stage.reading
    return tr(
        "{0}, {1}, {2}; grades 1 to {3}.",
        tr_counted("1 note", "{0} notes", len(reading.notes)),
        tr_counted("1 corner", "{0} corners", len(reading.corners)),
        tr(ORDER_WORDS[reading.order]),
        stage.school.top,
    )


def _road_words(review: Review) -> str:
    """How well notes and road go together, and how this crew calls distances."""
    paired = review.lineup.paired
    of = len(review.lineup.ties)
    words = tr("All {0} corners found.", of) if paired == of else tr("{0} of {1} corners found.", paired, of)
    words += " " + tr("Your grades fit the road to about {0:.1f} of a grade.", review.lineup.grades.scatter)
    over = 100.0 * (1.0 / review.lineup.distances.factor - 1.0)
    if abs(over) < 0.5:
        return words + " " + tr("Your distances fit the road.")
    called = (
        tr("You call {0:.0f} % more metres than the car measures. Mirkle allows for it.", over)
        if over > 0
        else tr("You call {0:.0f} % fewer metres than the car measures. Mirkle allows for it.", -over)
    )
    return f"{words} {called}"


def _clock_row(review: Review) -> list[tuple[str, str]]:
    if review.clock is None:
        return []
    found = {"go": tr("found by “go”"), "hand": tr("set by hand"), "sound": tr("found by the noise of the car")}

    by = found.get(review.clock.by, tr("found by when you usually call"))
    ahead_s, sd_s = review.clock.calls_minus_run_s, review.clock.uncertainty_s
    if ahead_s >= 0:
        clocks = tr("Sound is {0:.1f} s ahead (±{1:.1f} s), {2}.", ahead_s, sd_s, by)
    else:
        clocks = tr("Sound is {0:.1f} s behind (±{1:.1f} s), {2}.", -ahead_s, sd_s, by)
    if review.clock.gains:
        clocks += " " + tr(
            "It gains {0:+.1f} s a minute; Mirkle allows for it. The sound was converted at another rate, or is of another pass.",
            60.0 * review.clock.gains,
        )
    return [(tr("Sound and recording"), clocks)]
