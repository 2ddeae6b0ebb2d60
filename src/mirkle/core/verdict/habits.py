"""What a crew leaves out by habit is one remark, not forty findings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mirkle.core.clauses import clause
from mirkle.core.notes.model import Note
from mirkle.core.verdict.findings import Finding

# Whoever calls fewer than one in five of a thing, and leaves out at least so many, does so by habit. # common practice
CALLED_SHARE, LEAST_LEFT_OUT = 0.2, 5
# The kinds that a crew may leave out by habit, and the word by which its notes would call them.
MAY_BE_HABIT = {"crest-uncalled": "crest", "dip-uncalled": "dip", "bump-uncalled": "bump", "opens-uncalled": "opens"}
# From this risk on a thing stands for itself, whoever is used to leaving it out: a crest that would throw a car that is a little faster.
STANDS_FOR_ITSELF = 0.9


def as_habits(findings: Sequence[Finding], notes: Sequence[Note]) -> list[Finding]:
    """The findings, with those of a habit put together into one remark at the first of them."""
    out = list(findings)
    for kind, word in MAY_BE_HABIT.items():
        left_out = [f for f in findings if f.kind == kind and f.risk < STANDS_FOR_ITSELF]
        called = sum(any(word in said for said in (*n.features, *n.changes)) for n in notes)
        count = len(left_out)
        if count < LEAST_LEFT_OUT or called >= CALLED_SHARE * (called + count):
            continue
        first = min(left_out, key=lambda f: f.from_m)
        said = clause(
            "This is the first of {0} like it: you call {1} of {2}, so they are shown once. Look whether that is your habit.",
            count, called, called + count,
        )  # fmt: skip
        remark = replace(
            first,
            id=f"habit@{word}",
            severity="remark",
            because=(*first.because, said),
            facts=replace(first.facts, left_out=count, called=called, of=called + count),
        )
        out = [f for f in out if f not in left_out] + [remark]
    return out
