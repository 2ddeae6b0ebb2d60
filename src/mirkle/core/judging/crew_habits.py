"""What a crew leaves out by habit is one remark, not forty findings; and from which size on it calls a thing is learnt from its own calls.

How likely a crew calls a crest that turns the road by x is taken as 1 / (1 + exp(-(a + b log(x / x0)))), a logistic regression on what it
called and what it left out this stage. The two numbers are drawn to what crews do at large (a normal prior), and are
the most likely ones, found by Newton's steps. What a crew would rather leave out than call is no finding.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from mirkle.core.judging.findings import Finding
from mirkle.core.messages import message
from mirkle.core.notes.model import Note
from mirkle.core.stats import logistic

# A crew that calls under this share of a feature, and leaves out at least this many, omits it on purpose. # common practice
CALLED_SHARE, LEAST_LEFT_OUT = 0.2, 5
# The kinds that a crew may leave out by habit, and the word by which its notes would call them.
MAY_BE_HABIT = {"crest-uncalled": "crest", "dip-uncalled": "dip", "bump-uncalled": "bump", "opens-uncalled": "opens"}
# Standard deviations of a and b from crew to crew, and b at large. # common practice
AT_LARGE_SD, GROWS = (1.5, 3.0), 4.0
STEPS, LONGEST_STEP = 20, 2.0
# What is less likely called than this, here and of this size, is nothing that was forgotten.
RATHER_CALLED = 0.5
# From this risk on a thing stands for itself, whoever is used to leaving it out: a crest that would throw a car that is a little faster.
STANDS_FOR_ITSELF = 0.9


def calling(sizes: Sequence[float], called: Sequence[bool], *, usual: float, at_large: float) -> list[float]:
    """How likely this crew calls each of these things, from their sizes and from which it called.

    ``usual`` is the size x0, and ``at_large`` the log odds by which crews at large call what has it.
    """
    rows = np.column_stack([np.ones(len(sizes)), np.log(np.asarray(sizes, dtype=float) / usual)])
    answers, precision = np.asarray(called, dtype=float), np.diag(1.0 / np.square(AT_LARGE_SD))
    prior = np.array([at_large, GROWS])
    found = prior
    for _ in range(STEPS):
        likely = logistic(rows @ found)
        slope = rows.T @ (answers - likely) - precision @ (found - prior)
        step = np.linalg.solve((rows.T * (likely * (1.0 - likely))) @ rows + precision, slope)
        # Where all are called or none is, Newton's first steps may leap.
        found = found + step / max(1.0, float(np.abs(step).max()) / LONGEST_STEP)
    return [float(p) for p in logistic(rows @ found)]


def _calls(note: Note, word: str) -> bool:
    """Whether a note calls a crest, a dip or a bump, or that its corner opens."""
    return any(f.vertical == word for f in note.features) or (word == "opens" and any(c.opens for c in note.changes))


def merge_crew_habits(findings: Sequence[Finding], notes: Sequence[Note]) -> list[Finding]:
    """The findings, with those of a habit put together into one remark at the first of them."""
    out = list(findings)
    for kind, word in MAY_BE_HABIT.items():
        left_out = [f for f in findings if f.kind == kind and f.risk < STANDS_FOR_ITSELF]
        called = sum(_calls(n, word) for n in notes)
        count = len(left_out)
        if count < LEAST_LEFT_OUT or called >= CALLED_SHARE * (called + count):
            instead = [f for f in left_out if f.confidence >= RATHER_CALLED]
        else:
            instead = [_habit(word, left_out, called)]
        out = [f for f in out if f not in left_out] + instead
    return out


def _habit(word: str, left_out: Sequence[Finding], called: int) -> Finding:
    """The first of the findings on what a crew leaves out as a rule, as a remark on all of them."""
    first, of = min(left_out, key=lambda f: f.from_m), called + len(left_out)
    said = message(
        "This is the first of {left_out} like it. You call {called} of {of}, so they are shown once. Is that your habit?",
        left_out=len(left_out),
        called=called,
        of=of,
    )
    return replace(first, id=f"habit@{word}", severity="remark", because=(*first.because, said))
