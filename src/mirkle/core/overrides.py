"""What a crew sets by hand about one pass, over what is found.

Places are kept by when the car was there, on the recording's clock: metres from the start move with the start, and with every better way
to find the driven line.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from mirkle.core.judging.parts import Part
from mirkle.core.lineup.called_notes import Pin
from mirkle.core.lineup.remarks import HandRemark
from mirkle.core.motion.profile import Profile


@dataclass(frozen=True)
class HandPlace:
    """A place on the road: when the car was there, seconds on the recording's clock. An older program kept metres from the start: then
    ``at_s`` is ``None`` and ``at_m`` counts."""

    at_s: float | None
    at_m: float = 0.0

    def metres(self, profile: Profile) -> float:
        """Metres from the start line of a profile."""
        return self.at_m if self.at_s is None else profile.metres_at(self.at_s)

    def by_clock(self, profile: Profile) -> HandPlace:
        """The same place by the recording's clock."""
        return self if self.at_s is not None else HandPlace(profile.seconds_at(self.at_m))


@dataclass(frozen=True)
class HandPart:
    """A part that does not count."""

    start: HandPlace
    end: HandPlace
    reason: str


@dataclass(frozen=True)
class HandPin:
    """A note that was put on the bend at a place; ``None``: on no bend."""

    note: int
    place: HandPlace | None


@dataclass(frozen=True)
class ManualOverrides:
    """Times in seconds on the recording's own clock; ``None`` leaves a thing to be found.

    ``calls_minus_run_s`` is what the words' clock reads more than the recording's; ``pins`` put notes on their places, ``remarks`` words of
    the crew on their notes. ``homeless`` are pins, as they were kept, whose notes are not in the book now; ``extra`` is what a newer
    program kept. Both are written back as they came. ``damaged`` where what was set can't be read any more.
    """

    start_s: float | None = None
    finish_s: float | None = None
    parts: tuple[HandPart, ...] | None = None
    calls_minus_run_s: float | None = None
    pins: tuple[HandPin, ...] = ()
    remarks: tuple[HandRemark, ...] = ()
    homeless: tuple[Mapping[str, Any], ...] = ()
    extra: Mapping[str, Any] = field(default_factory=dict)
    damaged: bool = False

    def parts_on(self, profile: Profile) -> tuple[Part, ...] | None:
        """The parts that don't count, metres from the start line; ``None`` where nobody set any."""
        if self.parts is None:
            return None
        found = (Part(p.start.metres(profile), p.end.metres(profile), p.reason) for p in self.parts)
        return tuple(p for p in found if p.to_m > p.from_m)

    def pins_on(self, profile: Profile) -> tuple[Pin, ...]:
        """The pins, metres from the start line."""
        return tuple(Pin(p.note, p.place.metres(profile) if p.place is not None else None) for p in self.pins)

    def by_clock(self, profile: Profile) -> ManualOverrides:
        """The same with every place by the recording's clock."""
        parts = self.parts and tuple(replace(p, start=p.start.by_clock(profile), end=p.end.by_clock(profile)) for p in self.parts)
        pins = (replace(p, place=p.place.by_clock(profile) if p.place is not None else None) for p in self.pins)
        return replace(self, parts=parts, pins=tuple(pins))


def hand_parts(parts: Iterable[Part], profile: Profile) -> tuple[HandPart, ...]:
    """Parts as somebody sets them, by the recording's clock."""
    return tuple(HandPart(_place(p.from_m, profile), _place(p.to_m, profile), p.reason) for p in parts)


def hand_pin(pin: Pin, profile: Profile) -> HandPin:
    """A pin as somebody sets it, by the recording's clock."""
    return HandPin(pin.note, _place(pin.at_m, profile) if pin.at_m is not None else None)


def _place(metres: float, profile: Profile) -> HandPlace:
    return HandPlace(profile.seconds_at(metres))


NO_OVERRIDES = ManualOverrides()
