"""The channels that a recording may hold: what each is called, what no sensor of a car shows, and how it behaves."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from mirkle.core.messages import gettext_noop

# No car goes faster. # common practice
FASTEST_MPS = 110.0


Unit = Literal["rad", "m", "m/s", "m/s²", "rad/s", "1"]


@dataclass(frozen=True)
class ChannelKind:
    """A channel. ``unit`` is its SI unit, ``quantity`` what a column with it is called, ``words`` the same for people, ``short`` what it is
    counted among in a summary, ``sentence`` how a sentence about it begins. ``most`` is what no sensor of a car shows, in its own SI unit,
    ``None`` where nothing is known; ``moves`` where it can't stay the same while a car drives."""

    unit: Unit
    quantity: str
    words: str
    short: str
    sentence: str
    most: float | None = None
    moves: bool = False


def _acceleration(quantity: str, words: str, sentence: str) -> ChannelKind:
    return ChannelKind("m/s²", quantity, words, gettext_noop("accelerations"), sentence, 400.0, moves=True)


# By name; angles are clockwise from north for the course and positive to the left else, accelerations forward, to the left, and up with
# gravity.
CHANNELS: dict[str, ChannelKind] = {
    "lat_rad": ChannelKind("rad", "lat", gettext_noop("latitude"), gettext_noop("position"), gettext_noop("The latitude")),
    "lon_rad": ChannelKind("rad", "lon", gettext_noop("longitude"), gettext_noop("position"), gettext_noop("The longitude")),
    "alt_m": ChannelKind("m", "alt", gettext_noop("height"), gettext_noop("height"), gettext_noop("The height"), 9000.0),
    "speed_mps": ChannelKind(
        "m/s", "speed", gettext_noop("speed"), gettext_noop("speed"), gettext_noop("The speed"), FASTEST_MPS, moves=True
    ),
    "course_rad": ChannelKind("rad", "course", gettext_noop("course"), gettext_noop("course"), gettext_noop("The course"), 1e3, moves=True),
    "hacc_m": ChannelKind(
        "m", "hacc", gettext_noop("accuracy of the position"), gettext_noop("accuracy"), gettext_noop("The accuracy of the position"), 1e5
    ),
    "acc_x_mps2": _acceleration("acc_x", gettext_noop("acceleration along the car"), gettext_noop("The acceleration along the car")),
    "acc_y_mps2": _acceleration("acc_y", gettext_noop("acceleration across the car"), gettext_noop("The acceleration across the car")),
    "acc_z_mps2": _acceleration("acc_z", gettext_noop("acceleration upwards"), gettext_noop("The acceleration upwards")),
    "yaw_rate_radps": ChannelKind(
        "rad/s", "yaw_rate", gettext_noop("yaw rate"), gettext_noop("yaw rate"), gettext_noop("The yaw rate"), 200.0, moves=True
    ),
    "brake": ChannelKind("1", "brake", gettext_noop("brake"), gettext_noop("brake"), gettext_noop("The brake")),
    "throttle": ChannelKind("1", "throttle", gettext_noop("throttle"), gettext_noop("throttle"), gettext_noop("The throttle")),
    "steer_rad": ChannelKind("rad", "steer", gettext_noop("steering angle"), gettext_noop("steering"), gettext_noop("The steering angle")),
    "wheel_speed_mps": ChannelKind(
        "m/s",
        "wheel_speed",
        gettext_noop("wheel speed"),
        gettext_noop("wheel speed"),
        gettext_noop("The wheel speed"),
        FASTEST_MPS,
        moves=True,
    ),
}
