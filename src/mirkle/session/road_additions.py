"""What the crew adds to the road: hazards that no sensor saw, and conditions that those ahead report for the next pass."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import cached_property
from typing import Literal

from mirkle.core.errors import UnusableNotes
from mirkle.core.notebook.conditions import Reported
from mirkle.core.notebook.decisions import Addition, Ledger, RoadPlace
from mirkle.session.decision_log import DecisionLog, new_key

# A report is about the stretch of an earlier one that it covers by this share.
SAME_STRETCH = 0.5


class RoadAdditions:
    """The hazards and conditions of a log of decisions, at their places."""

    def __init__(self, log: DecisionLog) -> None:
        self._log = log

    @property
    def additions(self) -> list[Addition]:
        """Hazards and conditions that the crew added, in the order of the road."""
        found = [self._behind_note(d) for d in self._log.standing(Addition)]
        return sorted(found, key=lambda d: (-1.0 if d.from_m is None else d.from_m, d.notes.first if d.notes is not None else -1))

    @property
    def additions_on_road(self) -> list[tuple[Addition, RoadPlace]]:
        """As :attr:`additions`, those that have a place on the road, with it."""
        return [(a, a.road) for a in self.additions if a.road is not None]

    def _behind_note(self, addition: Addition) -> Addition:
        """What was seen behind a note on a video, at that note's place where a recording knows it by now."""
        if addition.road is not None or addition.notes is None:
            return addition
        at_m = self._log.judged.place_m(addition.notes.first)
        return replace(addition, road=RoadPlace(self._log.taken_on, at_m, at_m)) if at_m >= 0 else addition

    def add(self, kind: Literal["hazard", "condition"], from_m: float, to_m: float, words: str, *, by: str = "") -> None:
        """Adds a ``hazard`` that no sensor saw, or a ``condition`` for the next pass only, at a place.

        Raises
        ------
        UnusableNotes
            There are no words.
        UnusableProject
            It can't be kept.
        """
        if not words.strip():
            raise UnusableNotes("there are no words for it", mend="say what it is, such as: stones inside")
        low, high = sorted((from_m, to_m))
        self._log.decide(Addition(key=new_key(), kind=kind, words=words.strip(), by=by, road=self._log.places.road_place(low, high)))

    def add_reported(self, reported: Sequence[Reported], *, by: str = "") -> None:
        """Adds conditions that others reported for the next pass, all of them or none. A later report takes the place of an earlier one
        of the same thing on the same stretch.

        Raises
        ------
        UnusableProject
            They can't be kept.
        """
        with self._log.project.together():
            for one in reported:
                place, before = self._log.places.road_place(one.from_m, one.to_m), self.reported_before(one)
                key = before.key if before is not None else new_key()
                self._log.decide(Addition(key=key, kind="condition", words=one.words, by=by, road=place, what=one.what, level=one.level))

    def reported_before(self, one: Reported) -> Addition | None:
        """The condition that still holds and was reported of the same thing on the same stretch, by half of it and more."""
        return next(
            (
                a
                for a, road in reversed(self.additions_on_road)
                if a.what == one.what
                and not self.is_over(a)
                and min(one.to_m, road.to_m) - max(one.from_m, road.from_m) >= SAME_STRETCH * max(road.to_m - road.from_m, 1.0)
            ),
            None,
        )

    def _passes_since(self, addition: Addition) -> int | None:
        """How many passes after the one on which it was reported this one was driven; ``None`` for what is no condition."""
        order = self._log.pass_order
        if addition.kind != "condition" or addition.road is None or not {addition.road.of_pass, self._log.taken_on} <= set(order):
            return None
        return order.index(self._log.taken_on) - order.index(addition.road.of_pass)

    def is_over(self, addition: Addition) -> bool:
        """Whether a condition was for a pass that has been driven: it was reported two passes before this one, or earlier."""
        since = self._passes_since(addition)
        return since is not None and since > 1

    def condition_on(self, from_m: float, to_m: float) -> Addition | None:
        """The worst condition on a stretch of road that still holds; ``None`` where there is none."""
        return max((a for a in self._conditions_on(from_m, to_m) if not self.is_over(a)), key=lambda a: a.level, default=None)

    def driven_with(self, from_m: float, to_m: float) -> Addition | None:
        """The worst condition on a stretch of road that was reported for this very pass; ``None`` where there is none."""
        here = (a for a in self._conditions_on(from_m, to_m) if self._passes_since(a) == 1)
        return max(here, key=lambda a: a.level, default=None)

    def _conditions_on(self, from_m: float, to_m: float) -> list[Addition]:
        found = [*self.additions, *self._reported_before]
        return [a for a in found if a.kind == "condition" and a.road is not None and a.road.from_m <= to_m and a.road.to_m >= from_m]

    @cached_property
    def _reported_before(self) -> list[Addition]:
        """What was reported while another edition was read: the road is the same, whatever became of the notes."""
        others = {p.id for p in self._log.project.passes()} - self._log.about
        ledger = Ledger.of(self._log.project.entries(others)) if others else Ledger()
        placed = (self._log.places.here(ledger.decisions[number]) for number in ledger.standing.values())
        return [one for one in placed if isinstance(one, Addition)]
