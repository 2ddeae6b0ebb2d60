"""What may stand where in a note, as costs: the context that decides between readings that sound alike.

A state says whether a direction still waits for its grade or a grade for its direction, whether a corner is open for
shape and length, and which kind came last. Costs are negative log odds, set by hand and checked on damaged text of
our own making (``bench/reading.py``); what matters is that a corner left without its grade costs more than any repair.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import NamedTuple

NOTHING_WAITS, DIRECTION_WAITS, GRADE_WAITS = 0, 1, 2
LEFT_WAITING = 4.0
WRONG_ORDER = 3.0
OUT_OF_PLACE = 3.0
# A direction and its grade are said in one breath; a second unknown word between them says little more than the first.
TORN, TORN_ON = 1.0, 0.3
LEADS_ON, CORRECTS = -0.1, 2.5
# A figure beside a side is its grade.
BESIDE = 8.0
# A word that leads to a grade, and a grade that a change leads to, where no change stands in front.
LED_BY_A_CHANGE, LED_BY_NOTHING = 0.1, 6.0
# A shape or a length without a corner: while something waits for its half, and a length where nothing does.
WHILE_WAITING, LENGTH_ALONE = 0.8, 1.5
# Half a grade that stands by itself: where nothing waits, and elsewhere.
HALF_ALONE, HALF_ELSEWHERE = 1.0, 3.0
# "Inside" of nothing that was called; a double before its corner.
SIDE_OF_NOTHING, DOUBLE = 1.5, 0.4
# A grade that is a word, behind its side and ahead of it.
NAMED_BEHIND, NAMED_AHEAD = 0.3, 0.2
# A link behind a distance or another link, and behind what is no note; a distance behind a distance, and behind a link.
LINK_AGAIN, LINK_OF_NOTHING, DISTANCE_AGAIN, DISTANCE_BEHIND_LINK = 1.5, 1.0, 2.0, 0.6


class State(NamedTuple):
    """Where in a note the reader is."""

    waits: int = NOTHING_WAITS
    corner: bool = False
    last: str = ""


START = State()
_ENDS_A_NOTE = ("distance", "link")
_STANDS_ANYWHERE = {
    "caution": 0.0,
    "feature": 0.0,
    "line": 0.1,
    "object": 0.1,
    "surface": 0.3,
    "state": 0.3,
    "mark": 0.6,
    "filler": 0.35,
    "blank": 0.0,
    "correction": 1.3,
    "go": 2.0,
    "incident": 0.8,
    "over": 0.2,
    "maybe": 0.2,
    "count": 0.0,
}


# What may follow a word that leads to something, and what anything else costs; the word of an object or a filler after "over" is no break.
_LEADS_TO = {
    "over": (frozenset({"feature", "object", "surface", "line", "mark", "over", "filler", "count"}), 2.0),
    "count": (frozenset({"feature"}), 6.0),
    "change to": (frozenset({"change grade", "half"}), 1.6),
    "double": (frozenset({"direction", "grade", "half"}), 6.0),
}
# A change is said in one breath with what it changes to.
FILLED_CHANGE = 1.0


@cache
def step(state: State, kind: str, named_grade: bool, grade_first: bool) -> tuple[float, State]:
    """The cost of a kind coming after a state, and the state it leads to.

    ``named_grade`` is true for a grade that is a word (hairpin, square, flat): it stands on either side of a direction.
    """
    if kind == "blank":
        return 0.0, state
    if kind == "direction":
        added, after = _direction(state, grade_first)
    elif kind == "grade":
        added, after = _grade(state, named_grade, grade_first)
    elif kind == "half":
        added, after = _half(state, grade_first)
    else:
        added, after = _RULES.get(kind, _anywhere)(state, kind)
    return _left_open(state.last, kind) + added, after


def _left_open(last: str, kind: str) -> float:
    """What it costs that a word which leads to something is not followed by it."""
    if last == "change":
        return FILLED_CHANGE if kind == "filler" else 0.0
    wanted, cost = _LEADS_TO.get(last, (frozenset(), 0.0))
    return 0.0 if kind in wanted else cost


def _anywhere(state: State, kind: str) -> tuple[float, State]:
    return _STANDS_ANYWHERE[kind], state._replace(last=kind)


def _asked(state: State, kind: str) -> tuple[float, State]:  # noqa: ARG001
    # It stands for a grade, whatever it means.
    return 0.0, State(NOTHING_WAITS, True, "grade")


def _lead(state: State, kind: str) -> tuple[float, State]:  # noqa: ARG001
    return (LED_BY_A_CHANGE if state.last == "change" else LED_BY_NOTHING), state._replace(last="change to")


def _change_grade(state: State, kind: str) -> tuple[float, State]:
    # "Tightens to slow": where a grade may be an alert as well, it is what the change leads to.
    return {"change": 0.0, "change to": LEADS_ON}.get(state.last, LED_BY_NOTHING), state._replace(last=kind)


def _gap(state: State, kind: str) -> tuple[float, State]:
    # "Left four, sorry, five hundred": ahead of any distance, it is the grade that is corrected.
    corrects = CORRECTS * (state.last == "correction" and state.corner)
    waiting = LEFT_WAITING * (state.waits != NOTHING_WAITS)
    return waiting + _after_a_gap(kind, state.last) + corrects, State(NOTHING_WAITS, False, kind)


def _shape(state: State, kind: str) -> tuple[float, State]:
    without_corner = WHILE_WAITING if state.waits else OUT_OF_PLACE if kind != "length" else LENGTH_ALONE
    return (0.0 if state.corner else without_corner), state._replace(last=kind)


def _half(state: State, grade_first: bool) -> tuple[float, State]:
    waits, _, last = state
    # "5 right plus": where the grade stands first, the half may follow the direction.
    behind = grade_first and last == "direction" and waits == NOTHING_WAITS
    beside = behind or last in ("grade", "corrected grade", "change grade") or waits == DIRECTION_WAITS
    # "Tightens to tight two": the half belongs to the grade that the change leads to.
    leads = last in ("change", "change to")
    cost = 0.0 if beside or leads else HALF_ALONE if waits == NOTHING_WAITS else HALF_ELSEWHERE
    return cost, state._replace(last=last if leads or last == "corrected grade" else "half")


def _side(state: State, kind: str) -> tuple[float, State]:
    known = state.last in ("object", "surface", "side", "line", "feature", "over")
    return (0.0 if known else SIDE_OF_NOTHING), state._replace(last=kind)


def _double(state: State, kind: str) -> tuple[float, State]:
    return DOUBLE + LEFT_WAITING * (state.waits != NOTHING_WAITS), State(NOTHING_WAITS, False, kind)


# What a word that is none of a note costs: behind others like it, and else.
_NOT_UNDERSTOOD = {"unread word of theirs": (3.0, 6.0), "unread figure": (2.0, 2.6), "unread": (2.0, 2.6), "chat": (0.5, 1.2)}


def _not_understood(state: State, kind: str) -> tuple[float, State]:
    again, first = _NOT_UNDERSTOOD[kind]
    cost = again if state.last in ("unread", "chat") else first
    # Between a side and its grade hardly another word of theirs is skipped: rather the side was talk.
    torn = 2.0 * TORN if kind == "unread word of theirs" else TORN_ON if state.last == "unread" else TORN
    cost += torn * (state.waits > 0)
    # Who writes a figure beside a side means its grade, whatever other figure follows.
    beside = kind == "unread figure" and state.last == "direction" and state.waits == DIRECTION_WAITS
    return cost + BESIDE * beside, state._replace(last="chat" if kind == "chat" else "unread")


def end_cost(state: State) -> float:
    """The cost of the text ending in a state."""
    return LEFT_WAITING * (state.waits != NOTHING_WAITS)


def _direction(state: State, grade_first: bool) -> tuple[float, State]:
    if state.last == "correction":
        waits = state.waits if state.corner or state.waits else DIRECTION_WAITS
        return 0.0, State(waits, state.corner, "corrected direction" if state.corner else "direction")
    if state.waits == GRADE_WAITS or (grade_first and state.last == "corrected grade"):
        return 0.0, State(NOTHING_WAITS, True, "direction")
    cost = LEFT_WAITING * (state.waits == DIRECTION_WAITS) + WRONG_ORDER * grade_first
    return cost, State(DIRECTION_WAITS, False, "direction")


def _grade(state: State, named: bool, grade_first: bool) -> tuple[float, State]:
    if state.last in ("correction", "corrected direction") and state.corner:
        # "4 left, sorry, 6 left": where the grade stands first, its side may follow.
        return 0.0, State(NOTHING_WAITS, True, "corrected grade" if state.last == "correction" else "grade")
    if state.waits == DIRECTION_WAITS:
        return (NAMED_BEHIND if named else WRONG_ORDER * grade_first), State(NOTHING_WAITS, True, "grade")
    cost = LEFT_WAITING * (state.waits == GRADE_WAITS) + (NAMED_AHEAD if named else WRONG_ORDER * (not grade_first))
    return cost, State(GRADE_WAITS, False, "grade")


def _after_a_gap(kind: str, last: str) -> float:
    if kind == "link":
        return LINK_AGAIN if last in _ENDS_A_NOTE else LINK_OF_NOTHING if last in ("", "unread", "chat", "over", "filler") else 0.0
    return DISTANCE_AGAIN if last == "distance" else DISTANCE_BEHIND_LINK if last == "link" else 0.0


# How each kind is taken that needs no more than the state; all others stand anywhere.
_RULES: dict[str, Callable[[State, str], tuple[float, State]]] = {
    "asked": _asked,
    "lead": _lead,
    "change grade": _change_grade,
    "side": _side,
    "double": _double,
    **dict.fromkeys(_ENDS_A_NOTE, _gap),
    **dict.fromkeys(("length", "change", "change to"), _shape),
    **dict.fromkeys(_NOT_UNDERSTOOD, _not_understood),
}
