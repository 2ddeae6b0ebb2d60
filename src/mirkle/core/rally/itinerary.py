"""The itinerary of a rally: stages, services, time controls and liaisons with their times; and what one change of it changes."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Literal

from mirkle.core.messages import gettext_noop

Kind = Literal["stage", "service", "control", "liaison", "other"]
KIND_WORDS: dict[Kind, str] = {
    "stage": gettext_noop("stage"),
    "service": gettext_noop("service"),
    "control": gettext_noop("time control"),
    "liaison": gettext_noop("liaison"),
    "other": gettext_noop("other"),
}
# What an item takes where nothing says it: a stage from its start to the end of its road, in minutes. # common practice
LONGEST_ITEM_MIN = 24 * 60
STAGE_KMH, STAGE_MIN = 80.0, 15.0


@dataclass(frozen=True)
class Item:
    """One item of an itinerary. ``number`` is the organiser's (“3” of SS3), ``drive`` counts the drives of one stage from 1; ``minutes`` is
    how long it takes and ``length_m`` how long it is, 0 where nobody says. ``uid`` is the same in every copy of the rally."""

    kind: Kind
    name: str
    start: datetime
    minutes: float = 0.0
    length_m: float = 0.0
    number: str = ""
    drive: int = 1
    cancelled: bool = False
    uid: str = ""

    @property
    def own_name(self) -> str:
        """Its name; empty for a control that has only its number."""
        return self.name if self.name != self.number else ""

    @property
    def end(self) -> datetime:
        """When it is over; of a stage without a length or minutes, a common time later."""
        minutes = self.minutes
        if not minutes and self.kind == "stage":
            minutes = 60.0 * self.length_m / 1000.0 / STAGE_KMH if self.length_m else STAGE_MIN
        return self.start + timedelta(minutes=minutes)


# One change, and all follows


def delayed(items: Iterable[Item], uid: str, minutes: float) -> list[Item]:
    """The itinerary with an item later (or earlier) by ``minutes``, and everything behind it on that day with it."""
    items = in_order(items)
    at = next(i for i, item in enumerate(items) if item.uid == uid)
    day, by = items[at].start.date(), timedelta(minutes=minutes)
    return [replace(item, start=item.start + by) if i >= at and item.start.date() == day else item for i, item in enumerate(items)]


def lasting(items: Iterable[Item], uid: str, minutes: float) -> list[Item]:
    """The itinerary with an item that takes ``minutes``: what comes behind it on that day moves by the difference."""
    items = in_order(items)
    at = next(i for i, item in enumerate(items) if item.uid == uid)
    by = minutes - (items[at].end - items[at].start).total_seconds() / 60.0
    items[at] = replace(items[at], minutes=minutes)
    behind = next((item for item in items[at + 1 :] if item.start.date() == items[at].start.date()), None)
    return delayed(items, behind.uid, by) if behind is not None else items


def cancelled(items: Iterable[Item], uid: str, *, is_cancelled: bool = True) -> list[Item]:
    """The itinerary with a stage that is not driven; the times of the others stay, as organisers keep them."""
    return [replace(item, cancelled=is_cancelled) if item.uid == uid else item for item in items]


def in_order(items: Iterable[Item]) -> list[Item]:
    """The items by their time."""
    return sorted(items, key=lambda item: (item.start, item.uid))


def next_start(items: Iterable[Item], now: datetime, stage: str | None = None) -> Item | None:
    """The stage that is driven next, or the next drive of one ``stage``; ``None`` where none is left."""
    coming = (i for i in in_order(items) if i.kind == "stage" and not i.cancelled and i.start > now)
    return next((i for i in coming if stage is None or i.name == stage), None)
