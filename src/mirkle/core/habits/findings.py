"""Which habits a crew has: what the pairs of all its stages bear out, each with how large it is and how sure that is.

An effect b with standard deviation s is either one of those that every crew shows for reasons of the measuring (a spike: N(0, null²)), or
a habit (a slab: N(0, slab²)); how sure a habit is follows from the two likelihoods of b. What can't be told from the measuring is not
said at all: distances that are too long are where corners begin, small crests need the vertical.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mirkle.core.habits.evidence import DENSE, LATE, SCALE_COLUMNS, PassEvidence
from mirkle.core.habits.pooled import ASKED, SIDE, Effect, books_once, model_columns, of_one_school, pooled
from mirkle.core.lineup.scale_prior import ScalePrior
from mirkle.core.messages import Message, gettext_noop, message
from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd

# What an effect comes to where a crew has no such habit (grades of six, standard deviation), how many crews have one, and how large it is.
# # fitted: seasons that were opened before (bench/seasons.py), so that of what is said no more than one in ten is false
NULL_SD: dict[str, float] = {"side": 0.05, "late": 0.1, "crest": 0.12, "linked": 0.12, "tightens": 0.3, "long": 0.22}
HABIT_SHARE: dict[str, float] = {
    "side": 0.75,
    "late": 0.5,
    "crest": 0.3,
    "linked": 0.15,
    "tightens": 0.15,
    "long": 0.15,
    "late-calls": 0.25,
}
SLAB_SD = 0.45
# From this on a habit is said, and it has to come to so much of a grade.
SAID, LEAST_GRADES = 0.8, 0.2
# Late calls where words are many: what that comes to without the habit, how large it is (s), and the fewest calls of each kind.
LATE_NULL_S, LATE_SLAB_S, LEAST_CALLS, LEAST_LATE_S = 0.15, 0.8, 8, 0.4
# By how much a median is less well known than a mean. # normal theory
MEDIAN_WORSE = 1.25
# A habit is said from this number of stages on.
LEAST_STAGES = 3

# What is said of each kind of habit, where notes are easier (True) or tighter (False) than the road, and what to try.
NO_CHANGE = gettext_noop("That may be the caution you want; nothing has to change.")
WORDS: dict[tuple[str, bool], tuple[str, str]] = {
    ("side", True): (
        gettext_noop("Your lefts are written {0:.1f} of a grade easier than your rights, against the road."),
        gettext_noop("On the next reconnaissance, look at each left once more before you write it."),
    ),
    ("side", False): (
        gettext_noop("Your rights are written {0:.1f} of a grade easier than your lefts, against the road."),
        gettext_noop("On the next reconnaissance, look at each right once more before you write it."),
    ),
    ("late", True): (
        gettext_noop("Late in a stage your notes are {0:.1f} of a grade easier than at its start."),
        gettext_noop("Make the second half of a long stage first, or with a break."),
    ),
    ("late", False): (
        gettext_noop("Late in a stage your notes are {0:.1f} of a grade tighter than at its start."),
        gettext_noop("Compare the last pages with the first before you copy them."),
    ),
    ("crest", True): (
        gettext_noop("Behind a crest your notes are {0:.1f} of a grade easier than elsewhere."),
        gettext_noop("Grade what lies behind a crest from the far side."),
    ),
    ("crest", False): (gettext_noop("Behind a crest your notes are {0:.1f} of a grade tighter than elsewhere."), NO_CHANGE),
    ("linked", True): (
        gettext_noop("Linked corners are written {0:.1f} of a grade easier than single ones."),
        gettext_noop("Grade the second corner of a pair by itself."),
    ),
    ("linked", False): (gettext_noop("Linked corners are written {0:.1f} of a grade tighter than single ones."), NO_CHANGE),
    ("tightens", True): (
        gettext_noop("Corners that you call to tighten begin {0:.1f} of a grade easier than they are as a whole."),
        gettext_noop("If you grade the way in, keep it so. If not, grade the tightest part."),
    ),
    ("tightens", False): (
        gettext_noop("Corners that you call to tighten begin {0:.1f} of a grade tighter than they are as a whole."),
        gettext_noop("The change may be in the grade already: one of the two is enough."),
    ),
    ("long", True): (
        gettext_noop("Corners that you call long are written {0:.1f} of a grade easier than others."),
        gettext_noop("A long corner is held for longer: look at its tightest part."),
    ),
    ("long", False): (
        gettext_noop("Corners that you call long are written {0:.1f} of a grade tighter than others."),
        gettext_noop("“Long” may be in the grade already: one of the two is enough."),
    ),
}


@dataclass(frozen=True)
class Habit:
    """A habit: its ``kind``, by how much (grades, or seconds for ``late-calls``), how sure it is, from how many ``stages``, one
    ``sentence`` and what to try; ``examples`` are the places that show it most, as pass and note, ``by_stage`` what each stage shows."""

    kind: str
    size: float
    sure: float
    stages: int
    sentence: Message
    try_this: Message
    examples: tuple[tuple[PassEvidence, int], ...] = ()
    by_stage: tuple[float, ...] = ()


def habits_of(evidence: Sequence[PassEvidence], today: float) -> list[Habit]:
    """The habits that are sure enough to be said, the largest first."""
    passes = of_one_school(evidence)
    known = pooled(evidence, today)
    top = known.prior.top
    found = []
    for kind, effect in known.effects.items():
        sure = effect_sure(kind, effect, top)
        if sure >= SAID and abs(effect.grades) >= LEAST_GRADES and effect.stages >= LEAST_STAGES:
            sentence, advice = _words(kind, effect)
            residuals = _residuals(passes, kind, known.prior)
            examples, by_stage = _examples(residuals, effect), _by_stage(residuals)
            found.append(Habit(kind, effect.grades, sure, effect.stages, sentence, advice, examples, by_stage))
    late = _late_calls(books_once(evidence))
    found += [late] if late is not None else []
    return sorted(found, key=lambda h: -abs(h.size))


def effect_sure(kind: str, effect: Effect, top: int) -> float:
    """How sure it is that an effect is a habit of its kind; ``top`` is the highest grade of the crew's scale."""
    by = (top - 1) / 5.0
    return sure_of(effect.grades / by, effect.sd / by, NULL_SD[kind], SLAB_SD, HABIT_SHARE[kind])


def sure_of(size: float, sd: float, null_sd: float, slab_sd: float, share: float) -> float:
    """The probability that an effect is a habit, by a spike and a slab; ``share`` is how many crews have such a habit."""
    spike, slab = np.hypot(sd, null_sd), np.hypot(sd, slab_sd)
    log_odds = np.log(share / (1.0 - share)) - np.log(slab / spike) + 0.5 * size**2 * (1 / spike**2 - 1 / slab**2)
    return float(1.0 / (1.0 + np.exp(-np.clip(log_odds, -50.0, 50.0))))


def _words(kind: str, effect: Effect) -> tuple[Message, Message]:
    """A habit in a sentence, and what to try."""
    said, advice = WORDS[kind, effect.grades > 0]
    return message(said, abs(effect.grades)), message(advice)


# How many notes are shown for a habit at most.
MOST_EXAMPLES = 8
# Late in a stage is behind this share of it, counted from its middle; the fewest notes of each kind by which a stage is shown.
LATE_FROM, LEAST_OF_STAGE = 0.2, 3


# A pass, by how many grades its notes differ from the crew's own scale without a habit, and which of them that is about.
Residuals = tuple[PassEvidence, Floats, NDArray[np.bool_]]


def _residuals(passes: Sequence[PassEvidence], kind: str, prior: ScalePrior) -> list[Residuals]:
    """What each pass shows of a habit."""
    column = ASKED[kind]
    found = []
    for one in passes:
        x = model_columns(one)
        off = one.called - x[:, :SCALE_COLUMNS] @ prior.mean + x[:, SIDE] * prior.mean[SIDE]
        found.append((one, off, x[:, column] > (LATE_FROM if column == LATE else 0.0)))
    return found


def _examples(residuals: Sequence[Residuals], effect: Effect) -> tuple[tuple[PassEvidence, int], ...]:
    """The places where a habit shows most: the notes it is about that differ most in its direction."""
    rows = [
        (float(np.sign(effect.grades) * by), one, note)
        for one, off, about in residuals
        for by, note, mine in zip(off, one.notes, about, strict=True)
        if mine
    ]
    rows.sort(key=lambda row: -row[0])
    return tuple((one, note) for _, one, note in rows[:MOST_EXAMPLES])


def _by_stage(residuals: Sequence[Residuals]) -> tuple[float, ...]:
    """What each stage shows by itself: the median of the notes that a habit is about less that of the others."""
    shown = []
    for _, off, about in residuals:
        if about.sum() >= LEAST_OF_STAGE and (~about).sum() >= LEAST_OF_STAGE:
            shown.append(float(np.median(off[about]) - np.median(off[~about])))
    return tuple(shown)


def _late_calls(passes: Sequence[PassEvidence]) -> Habit | None:
    """Whether calls come late where a note has many words: its lead against the crew's other leads, stage by stage."""
    told = [(off_s, one, note) for one in passes for off_s, note in _wordy_leads(one)]
    stages = len({id(one) for _, one, _ in told})
    if len(told) < LEAST_CALLS or stages < LEAST_STAGES:
        return None
    off_s = np.array([off for off, _, _ in told])
    size = float(np.median(off_s))
    sure = sure_of(size, _sd_of_median(off_s), LATE_NULL_S, LATE_SLAB_S, HABIT_SHARE["late-calls"])
    if sure < SAID or size > -LEAST_LATE_S:
        return None
    told.sort(key=lambda row: row[0])
    said = message("Where a note has many words you call it {0:.1f} s later than others.", -size)
    advice = message("Begin such notes earlier, or take words out that you don't need.")
    return Habit("late-calls", size, sure, stages, said, advice, tuple((one, note) for _, one, note in told[:MOST_EXAMPLES]))


def _wordy_leads(one: PassEvidence) -> list[tuple[float, int]]:
    """The leads of a pass's notes with many words less its usual lead (s), with the notes; none where too few were heard."""
    heard = np.isfinite(one.lead_s)
    dense, other = heard & (one.rows[:, DENSE] > 0), heard & (one.rows[:, DENSE] == 0)
    if dense.sum() < LEAST_CALLS / 2 or other.sum() < LEAST_CALLS:
        return []
    off_s = one.lead_s - np.median(one.lead_s[other])
    return [(float(off_s[k]), one.notes[k]) for k in np.flatnonzero(dense)]


def _sd_of_median(values: Floats) -> float:
    """The standard deviation of a median, from the median deviation."""
    return MEDIAN_WORSE * robust_sd(values) / float(np.sqrt(len(values)))
