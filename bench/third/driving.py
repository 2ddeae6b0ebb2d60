"""A point of mass with a human hand.

The driver looks ahead a second or so, wants the curvature that leads him back to his line by then, and his hand follows late, at a
limited rate and not quite steadily. He plans his speed from what he sees and believes of each bend; where he asks for more than the
road holds the car pushes wide, scrubs speed and its tail comes round. Nothing here is a function of the road's curvature alone.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from rough.driving import GRAVITY_MPS2, Drive, Flight
from rough.roads import Floats, Road, even, noise

STEP_S = 0.01
# A quick hand turns the front wheels by some 35 degrees a second, over a wheelbase of 2.6 m. # common practice
TURNS_PER_M_S = 0.24


@dataclass(frozen=True)
class Hand:
    """How he drives: how far ahead he looks (s), how late his hand is (s), how unsteady it is (1/m), how much of the room he uses, his
    share of the grip, how far he misjudges a bend (share of its speed), and the slip of the body at the limit (rad)."""

    looks_s: float = 1.0
    late_s: float = 0.2
    unsteady: float = 0.0012
    uses: float = 0.7
    pace: float = 0.92
    misjudges: float = 0.05
    slip_rad: float = 0.12


def drive(rng: np.random.Generator, road: Road, hand: Hand, *, believed: tuple[tuple[float, float, float], ...] = ()) -> Drive:
    """One pass. ``believed``: (from, to, factor on the radius that the note promises)."""
    bent, total = road.curvature_per_m, len(road.curvature_per_m)
    wanted_aside = _wanted_line(road, hand)
    planned = _planned_speed(rng, road, hand, believed)
    slope_bend = np.gradient(even(road.slope, 1.2))
    stands = float(rng.uniform(20, 50))
    shaken = noise(rng, int(total * 0.2 / STEP_S) + 1, 60.0) * hand.unsteady
    late, looks = int(hand.late_s / STEP_S), hand.looks_s
    asked = [0.0] * (late + 1)
    at, aside, away, bend, v, slip = 1.0, 0.0, 0.0, 0.0, 0.0, 0.0
    east = north = heading = driven = 0.0
    above, climbs, flying = 0.0, 0.0, 0
    rows: list[tuple[float, ...]] = []
    flights: list[Flight] = []
    left_at = (0.0, 0)
    bents, lines, plans, grips = bent.tolist(), wanted_aside.tolist(), planned.tolist(), road.grip_mps2.tolist()
    slopes, vertical = road.slope.tolist(), slope_bend.tolist()
    last, step = total - 3, 0
    while at < last and step < len(shaken) - 1 and not (at > road.finish_m + 20 and v < 0.6):
        here = int(at)
        grip = grips[here]
        # Where he wants to be a second ahead, and the curvature that leads there.
        ahead = max(6.0, v * looks)
        there = min(int(at + ahead), last)
        off = lines[there] - aside - ahead * away
        want = bents[min(int(at + 0.35 * ahead), last)] + 2.0 * off / ahead**2 + shaken[step]
        if abs(away) > 0.4:
            want = bents[here] - 0.12 * max(-1.0, min(1.0, away))
        asked.append(max(-0.15, min(0.15, want)))
        follow = asked[-1 - late]
        rate = TURNS_PER_M_S * STEP_S
        hold = bend + max(-rate, min(rate, (follow - bend) * STEP_S / 0.09))
        most = 1.02 * grip / max(v * v, 4.0)
        pushed = abs(hold) > most
        bend = max(-most, min(most, hold)) if flying == 0 else bend
        # Off his line or across the road he lifts and gathers it up.
        plan = min(plans[here], 7.0) if abs(aside) > 2.6 or abs(away) > 0.4 else plans[here]
        if at > road.finish_m:
            pull = -3.0
        elif v > plan:
            pull = -min(0.9 * grip, (v - plan) / 0.15 + 1.0)
        else:
            pull = min(4.8 * max(1 - (v / 52.0) ** 1.5, 0.05), (plan - v) / 0.2)
        used = min(abs(v * v * bend) / grip, 1.0)
        pull *= max(np.sqrt(1 - 0.8 * used**2), 0.2)
        pull -= 2.2 if pushed else 0.0
        v = max(v + (pull if flying == 0 else -0.3) * STEP_S, 0.3)
        sought = hand.slip_rad * used * used * (1.0 if bend > 0 else -1.0) * (1.9 if pushed else 1.0)
        slip += (sought - slip) * STEP_S / 0.22
        push = GRAVITY_MPS2 + v * v * vertical[here]
        if flying:
            above += (climbs - v * slopes[here]) * STEP_S
            climbs -= GRAVITY_MPS2 * STEP_S
            flying += 1
            push = 0.0
            if above <= 0.0:
                air = (step - left_at[1]) * STEP_S
                if air >= 0.12:
                    flights.append(Flight(left_at[0], at, air))
                landed = min(2.6, 1.0 + max(v * slopes[here] - climbs, 0.0))
                above, flying = 0.0, 0
                push = GRAVITY_MPS2 * landed
        elif push < 0.0 and v > 8.0:
            flying, above, climbs, left_at = 1, 1e-6, v * slopes[here], (at, step)
            push = 0.0
        rows.append((driven, at, v, heading, bend, slip, slopes[here], push, east, north, float(flying > 0)))
        along = v * np.cos(away) / max(1.0 - aside * bents[here], 0.4)
        aside += v * np.sin(away) * STEP_S
        away += (v * bend - along * bents[here]) * STEP_S
        at += along * STEP_S
        heading += v * bend * STEP_S
        driven += v * STEP_S
        east += v * np.cos(heading) * STEP_S
        north += v * np.sin(heading) * STEP_S
        step += 1
    table = np.array(rows).T
    return _whole(table, road, stands, tuple(flights))


def _whole(table: Floats, road: Road, stands_s: float, flights: tuple[Flight, ...]) -> Drive:
    """The pass with a wait before and behind it."""
    before, behind = int(stands_s / STEP_S), int(14.0 / STEP_S)

    def held(values: Floats, *, still: bool = False) -> Floats:
        ends = (0.0, 0.0) if still else (values[0], values[-1])
        return np.concatenate([np.full(before, ends[0]), values, np.full(behind, ends[1])])

    driven, at, v, heading, bend, slip, slope, push, east, north, flies = table
    # A landing is felt for a tenth of a second.
    kernel = np.exp(-np.arange(18) / 6.0)
    hits = np.where((flies[:-1] > 0) & (flies[1:] == 0))[0] + 1
    for hit in hits:
        more = (push[hit] - GRAVITY_MPS2) * kernel
        push[hit : hit + 18] = np.maximum(push[hit : hit + 18], GRAVITY_MPS2 + more[: len(push) - hit])
    time = np.arange(before + len(v) + behind) * STEP_S
    grounded = held(push)
    grounded[:before] = grounded[-behind:] = GRAVITY_MPS2
    height = 310.0 + np.cumsum(held(v * slope, still=True)) * STEP_S
    finish = stands_s + float(np.searchsorted(at, road.finish_m)) * STEP_S
    return Drive(
        np.asarray(time, dtype=np.float64),
        held(driven),
        held(at),
        held(v, still=True),
        held(heading),
        held(bend, still=True),
        held(slip, still=True),
        np.arctan(held(slope)),
        grounded,
        held(east),
        held(north),
        height,
        held(flies, still=True),
        stands_s,
        finish,
        float(time[before + len(v) - 1]),
        flights,
        (),
    )


def _wanted_line(road: Road, hand: Hand) -> Floats:
    """Metres to the left of the middle where he wants to be: in at the middle of a bend, out before and behind it."""
    pull = even(road.curvature_per_m, 8.0) - 0.9 * even(road.curvature_per_m, 38.0)
    return np.asarray(even(road.room_m * np.tanh(pull * 40.0) * hand.uses, 6.0))


def _planned_speed(rng: np.random.Generator, road: Road, hand: Hand, believed: tuple[tuple[float, float, float], ...]) -> Floats:
    total = len(road.curvature_per_m)
    seen = np.maximum(np.abs(even(road.curvature_per_m, 7.0)), 1e-4)
    judged = 1.0 + hand.misjudges * noise(rng, total, 30.0)
    wanted = np.sqrt(hand.pace * road.grip_mps2 / seen) * judged
    for first, last, factor in believed:
        wanted[int(first) : int(0.5 * first + 0.5 * last)] *= min(np.sqrt(factor), 1.2)
    speed = np.clip(wanted, 3.0, 47.0)
    brake = 0.75 * float(np.median(road.grip_mps2))
    for i in range(total - 2, -1, -1):
        speed[i] = min(speed[i], float(np.sqrt(speed[i + 1] ** 2 + 2 * brake)))
    return speed
