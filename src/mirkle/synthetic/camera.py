"""A stand-in for the camera in the car: the road ahead as it would be seen from the driven line, drawn small, with hills, trees and posts.

``python -m mirkle.synthetic.camera`` writes the demo's video again, with the packages of ``requirements/sound.in``.
"""

from __future__ import annotations

import io
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from mirkle.core.recording.model import Floats
from mirkle.files import demo_files
from mirkle.synthetic import slatehook
from mirkle.synthetic.car import Drive
from mirkle.synthetic.road import TrueRoad

Pixels = NDArray[np.uint8]

WIDE, HIGH, A_SECOND = 256, 144, 8
# The lens sees 75 degrees across; the camera stands above the bonnet.
FOCAL_PX = WIDE / 2 / np.tan(np.radians(75.0) / 2)
ABOVE_M, HALF_ROAD_M, SEEN_M = 1.25, 2.6, 170.0
SKY, HILL, GROUND, TRACK, DARKER, POST, TREE = (
    np.array(c, np.uint8)
    for c in ((196, 209, 218), (112, 128, 120), (134, 140, 104), (168, 156, 140), (159, 147, 131), (232, 228, 214), (66, 84, 58))
)


@dataclass(frozen=True)
class Scene:
    """What stands still: the road's middle by the metre (east, north, height, each (n,)), things beside it as (at_m, aside_m, height_m,
    wide_m, is_post), and how high the hills stand over the horizon by tenths of a degree, radians."""

    east_m: Floats
    north_m: Floats
    height_m: Floats
    heading_rad: Floats
    things: Floats
    hills_rad: Floats

    @property
    def road(self) -> tuple[Floats, Floats, Floats, Floats]:
        """The road's middle by the metre: east, north, height and heading."""
        return self.east_m, self.north_m, self.height_m, self.heading_rad


def scene_of(rng: np.random.Generator, road: TrueRoad, run: Drive) -> Scene:
    """The surroundings of a drive: its line is taken for the road's middle."""
    at = np.arange(len(road.slope), dtype=float)
    once = np.flatnonzero(np.diff(run.distance_m, prepend=-1.0) > 0)
    along = run.distance_m[once]
    heading = np.interp(at, along, run.heading_rad[once])
    count = len(at) // 9
    things = np.stack(
        [
            rng.uniform(0, len(at) - 1, count),
            rng.choice([-1.0, 1.0], count) * rng.uniform(4.5, 22.0, count),
            rng.uniform(2.5, 8.0, count),
            rng.uniform(0.8, 2.6, count),
            np.zeros(count),
        ],
        axis=1,
    )
    posts = np.arange(15.0, len(at) - 1, 30.0)
    sides = np.where(np.arange(len(posts)) % 2, 3.6, -3.6)
    things = np.concatenate([things, np.stack([posts, sides, np.full(len(posts), 1.1), np.full(len(posts), 0.25), np.ones(len(posts))], 1)])
    turn = np.linspace(0, 2 * np.pi, 3600, endpoint=False)
    hills = np.full(len(turn), 0.07)
    for waves in (2, 3, 5, 9, 17, 31, 60):
        hills += rng.normal(0, 0.05 / waves**0.8) * np.sin(waves * turn + rng.uniform(0, 6.28))
    return Scene(
        np.interp(at, along, run.east_m[once]),
        np.interp(at, along, run.north_m[once]),
        np.interp(at, along, run.height_m[once]),
        heading,
        things[np.argsort(things[:, 0])],
        np.maximum(hills, 0.01),
    )


@dataclass(frozen=True)
class View:
    """Where the camera is and which way it looks."""

    east_m: float
    north_m: float
    height_m: float
    yaw_rad: float
    pitch_rad: float

    def seen(self, east_m: Floats, north_m: Floats, height_m: Floats, heading_rad: Floats, aside_m: float) -> tuple[Floats, Floats, Floats]:
        """Metres ahead, and pixels across and down, of points a given distance to the right of the road's middle."""
        east = east_m + aside_m * np.sin(heading_rad) - self.east_m
        north = north_m - aside_m * np.cos(heading_rad) - self.north_m
        forward = east * np.cos(self.yaw_rad) + north * np.sin(self.yaw_rad)
        right = east * np.sin(self.yaw_rad) - north * np.cos(self.yaw_rad)
        below = self.height_m + ABOVE_M - height_m
        ahead = np.maximum(forward, 0.3)
        down = self.horizon_px + FOCAL_PX * below / ahead
        return forward, WIDE / 2 + FOCAL_PX * right / ahead, down

    @property
    def horizon_px(self) -> float:
        """How far down the horizon is."""
        return float(HIGH / 2 + FOCAL_PX * np.tan(self.pitch_rad))


def pictures(scene: Scene, run: Drive, *, shake_rad: float = 0.0, seed: int = 0) -> Iterator[tuple[float, Pixels]]:
    """Each picture with its time on the drive's clock, (HIGH, WIDE, 3); the camera shakes by this."""
    rng = np.random.default_rng(seed)
    for when in np.arange(0.0, run.time_s[-1], 1.0 / A_SECOND):
        i = min(int(when * 100), len(run.time_s) - 1)
        at = float(run.distance_m[i])
        ahead = int(np.clip(at + 6, 0, len(scene.height_m) - 1))
        slope = float(np.arctan2(scene.height_m[ahead] - run.height_m[i], 6.0))
        yaw, pitch = float(run.heading_rad[i]) + shake_rad * rng.normal(), slope + shake_rad * rng.normal()
        view = View(float(run.east_m[i]), float(run.north_m[i]), float(run.height_m[i]), yaw, pitch)
        yield when, picture_of(scene, view, at)


def picture_of(scene: Scene, view: View, at_m: float) -> Pixels:
    """What is seen by a camera at a place on the road."""
    across = np.arctan((np.arange(WIDE) - WIDE / 2 + 0.5) / FOCAL_PX)
    rows = np.arange(HIGH)[:, None]
    picture = np.empty((HIGH, WIDE, 3), np.uint8)
    picture[:] = SKY
    hills = scene.hills_rad[((view.yaw_rad - across) / (2 * np.pi) * 3600).astype(int) % 3600]
    picture[rows > view.horizon_px - FOCAL_PX * hills] = HILL
    picture[rows[:, 0] > view.horizon_px] = GROUND
    _road(picture, scene, view, at_m)
    return picture


def _road(picture: Pixels, scene: Scene, view: View, at_m: float) -> None:
    """The ground and the road on it from far to near, so that a crest hides what is behind it, with what stands beside it."""
    places = at_m + 2.5 * (SEEN_M / 2.5) ** np.linspace(0, 1, 40)
    places = places[places < len(scene.height_m) - 1]
    if len(places) < 2:
        return
    east, north, height, heading = (np.interp(places, np.arange(len(v)), v) for v in scene.road)
    forward, left_x, left_y = view.seen(east, north, height, heading, -HALF_ROAD_M)
    right_forward, right_x, right_y = view.seen(east, north, height, heading, HALF_ROAD_M)
    forward = np.minimum(forward, right_forward)
    first, last = np.searchsorted(scene.things[:, 0], [at_m + 4.0, at_m + SEEN_M])
    things = list(scene.things[first:last])[::-1]
    for k in range(len(places) - 2, -1, -1):
        while things and things[0][0] > places[k]:
            _thing(picture, things.pop(0), scene, view)
        if min(forward[k], forward[k + 1]) < 1.0:
            continue
        top, bottom = 0.5 * (left_y[k + 1] + right_y[k + 1]), 0.5 * (left_y[k] + right_y[k])
        for row in range(max(0, int(np.ceil(top))), min(HIGH, int(np.ceil(bottom)))):
            share = (row - top) / max(bottom - top, 1e-6)
            a = left_x[k + 1] + share * (left_x[k] - left_x[k + 1])
            b = right_x[k + 1] + share * (right_x[k] - right_x[k + 1])
            picture[row] = GROUND
            picture[row, max(0, int(a)) : max(0, min(WIDE, int(b) + 1))] = TRACK if int(places[k] / 8) % 2 else DARKER


def _thing(picture: Pixels, thing: Floats, scene: Scene, view: View) -> None:
    """A tree or a post beside the road."""
    at_m, aside_m, tall_m, wide_m, is_post = thing
    east, north, height, heading = (v[[int(at_m)]] for v in scene.road)
    forward, x, y = (float(v[0]) for v in view.seen(east, north, height, heading, float(aside_m)))
    if forward < 3.0:
        return
    size = FOCAL_PX / forward
    left, right = int(x - wide_m * size / 2), int(x + wide_m * size / 2) + 1
    top, foot = int(y - tall_m * size), int(y) + 1
    picture[max(0, top) : max(0, foot), max(0, left) : max(0, right)] = POST if is_post else TREE


def film(frames: Iterator[tuple[float, Pixels]], sound: Floats, *, quality: int = 36) -> bytes:
    """Pictures and sound as Matroska with H.264 and Opus; a higher ``quality`` number is smaller and worse."""
    import av

    from mirkle.synthetic.voice import RATE_HZ

    out = io.BytesIO()
    with av.open(out, "w", format="matroska") as file:
        video = file.add_stream("libx264", rate=A_SECOND)
        video.width, video.height, video.pix_fmt = WIDE, HIGH, "yuv420p"
        video.options = {"crf": str(quality), "preset": "veryslow", "g": str(A_SECOND * 8), "tune": "animation"}
        voice = file.add_stream("libopus", rate=RATE_HZ)
        voice.bit_rate, voice.layout, voice.options = 12_000, "mono", {"application": "voip"}
        for number, (_, picture) in enumerate(frames):
            frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
            frame.pts, frame.time_base = number, Fraction(1, A_SECOND)
            file.mux(video.encode(frame))
            first, last = (int(n * RATE_HZ / A_SECOND) for n in (number, number + 1))
            for at in range(first, min(last, len(sound)), 1000):
                samples = (sound[at : min(at + 1000, last)] * 32767).astype("<i2").reshape(1, -1)
                heard = av.AudioFrame.from_ndarray(samples, format="s16", layout="mono")
                heard.rate, heard.pts = RATE_HZ, at
                file.mux(voice.encode(heard))
        file.mux(video.encode(None))
        file.mux(voice.encode(None))
    return out.getvalue()


def main() -> int:
    """Writes the demo's third pass: a video, and nothing else."""
    from mirkle.synthetic.voice import spoken_calls

    road, run, text = slatehook.third_pass()
    scene = scene_of(np.random.default_rng(slatehook.SEED), road, run)
    whole = film(pictures(scene, run, shake_rad=0.002), spoken_calls(text))
    (demo_files.demo_folder() / demo_files.VIDEO).write_bytes(whole)
    return 0


if __name__ == "__main__":
    sys.exit(main())
