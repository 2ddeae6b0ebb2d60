"""Whose habit it is: whether a driver or a co-driver shows it in other crews as well."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from mirkle.core.habits.evidence import PassEvidence
from mirkle.core.habits.findings import LEAST_STAGES, SAID, Habit, effect_sure
from mirkle.core.habits.pooled import pooled

# How many standard deviations are sure enough, to one side. # normal theory, 95 %
SPREADS = 1.64


@dataclass(frozen=True)
class Elsewhere:
    """What a person shows of a habit with others: by how many ``grades``, and whether it is there (``True``), is not (``False``), or can't
    be told (``None``)."""

    grades: float
    is_there: bool | None


def elsewhere(habit: Habit, with_others: Sequence[PassEvidence], today: float) -> Elsewhere | None:
    """What a person's passes with others show of a habit; ``None`` where they are of too few stages, or the habit is one of calling."""
    known = pooled(with_others, today) if with_others else None
    effect = known.effects.get(habit.kind) if known is not None else None
    if known is None or effect is None or effect.stages < LEAST_STAGES:
        return None
    sure = effect_sure(habit.kind, effect, known.prior.top)
    # Towards the habit's own side: what is surely less than half of it is not it.
    along, far = effect.grades * (1.0 if habit.size > 0 else -1.0), SPREADS * effect.sd
    is_there = True if sure >= SAID and along > 0.0 else False if along + far < 0.5 * abs(habit.size) else None
    return Elsewhere(effect.grades, is_there)
