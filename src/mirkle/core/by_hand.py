"""What a crew sets by hand about one pass, over what is found."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.lineup.called import Pin
from mirkle.core.verdict.parts import Part


@dataclass(frozen=True)
class ByHand:
    """Times in seconds on the recording's own clock; ``None`` leaves a thing to be found.

    ``calls_minus_run_s`` is what the words' clock reads more than the recording's; ``pins`` put notes on their places.
    """

    start_s: float | None = None
    finish_s: float | None = None
    parts: tuple[Part, ...] | None = None
    calls_minus_run_s: float | None = None
    pins: tuple[Pin, ...] = ()


NOTHING_BY_HAND = ByHand()
