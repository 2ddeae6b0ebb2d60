"""The driven line from above, by distance."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.motion.driven_line import DrivenLine
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.segments import Segment
from mirkle.core.recording.model import Floats


@dataclass(frozen=True)
class StageMap:
    """The driven line from above and its heights, one point a metre from the start line; all (n,) metres.

    ``height_m`` is nan where no height was recorded. ``start_m`` is where the start line lies from ``middle_deg``, a latitude
    and longitude, ``None`` where no position was recorded.
    """

    east_m: Floats
    north_m: Floats
    height_m: Floats
    start_m: tuple[float, float]
    middle_deg: tuple[float, float] | None


def plan_of(path: DrivenLine, drive: Segment, profile: Profile) -> StageMap:
    """The line of a drive from above, laid out as its profile is."""
    at = profile.distance_m + drive.start_m
    east, north = path.at_distance(path.east_m, at), path.at_distance(path.north_m, at)
    return StageMap(
        east_m=east - east[0],
        north_m=north - north[0],
        height_m=path.at_distance(path.height_m, at),
        start_m=(float(east[0]), float(north[0])),
        middle_deg=path.middle_deg,
    )
