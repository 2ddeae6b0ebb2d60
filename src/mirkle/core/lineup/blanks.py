"""A book to be filled in, from a recording alone: where each bend of the road is, and what it is like; never what to write.

For each bend a line with its side, a blank for the grade, the distance to the next one, and behind it, as a remark that nobody calls, its
place, its turn, its radius, where it lies on a scale of even steps of radius, which is about what most crews call, and the crests, dips
and jumps up to the next one. Each note is a decision of the crew: a line whose blank is not filled is no note.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

import numpy as np

from mirkle.core.constants import km
from mirkle.core.lineup.crew_scale import plain_yardstick
from mirkle.core.lineup.road import Road
from mirkle.core.motion.bends import Bend, bend_between
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.spans import measure
from mirkle.core.motion.vertical import Feature
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.language import Language

# What stands where the crew writes its grade.
BLANK = "_"
# A bend that turns less is left to the crew's eye (°).
LEAST_TURN_DEG = 12.0
# Lines on a page of the book to be filled in; what a distance is rounded to, and the least that is one (m).
LINES_A_PAGE, ROUND_M, LEAST_M = 12, 10, 20


def bends_of(road: Road) -> list[Bend]:
    """Every bend of a road by itself, in its order: from where the line begins to bend one way to where it eases."""
    pieces, out = road.pieces, []
    for number in dict.fromkeys(pieces.bend[pieces.side != 0].tolist()):
        at = np.flatnonzero(pieces.bend == number)
        if abs(np.degrees(pieces.turn_rad[at].sum())) >= LEAST_TURN_DEG:
            out.append(bend_between(road.profile, int(pieces.first[at[0]]), int(pieces.last[at[-1]])))
    return out


def blank_book(road: Road, vertical: Sequence[Feature] | None, language: Language, *, top: int = 6) -> str:
    """The book to be filled in as text, page by page."""
    bends, school = bends_of(road), GradingScheme(top=top)
    page = next(t.said[0] for t in language.terms if (t.kind, t.key) == ("mark", "page"))
    lines: list[str] = []
    for number, line in enumerate(_lines(road.profile, bends, vertical or (), language, school)):
        if number % LINES_A_PAGE == 0:
            lines.append(f"{page} {number // LINES_A_PAGE + 1}")
        lines.append(line)
    return "\n".join(lines) + "\n"


def _lines(
    profile: Profile, bends: Sequence[Bend], vertical: Sequence[Feature], language: Language, school: GradingScheme
) -> Iterator[str]:
    said, into = _words(language, "direction", "feature"), next(iter(_words(language, "link").values()))
    grades = _grades(profile, bends, school)
    behind = [_behind(bend, following, into) for bend, following in pairwise(bends)] + [""]
    # What stands on a straight is said behind the bend in front of it; what is in front of the first bend, with that.
    begins = [0.0, *(b.from_m - ROUND_M for b in bends[1:])]
    ends = [*begins[1:], profile.length_m]
    for bend, gap, grade, from_m, to_m in zip(bends, behind, grades, begins, ends, strict=True):
        met = [_met(said.get(f.kind, f.kind), f.at_m, bend) for f in vertical if from_m <= f.at_m < to_m]
        like = f"{km(bend.apex_m):.2f} km, {bend.turn_deg:.0f}°, R {bend.radius_m:.0f} m, ~{grade}"
        side = said["left" if bend.side > 0 else "right"]
        yield f"{side} {BLANK}{gap}  // {', '.join([like, *met])}"


def _met(word: str, at_m: float, bend: Bend) -> str:
    """A crest or the like: by its word in the bend, with its kilometre elsewhere."""
    return word if bend.from_m - ROUND_M <= at_m <= bend.to_m + ROUND_M else f"{word} {km(at_m):.2f} km"


def _words(language: Language, *kinds: str) -> dict[str, str]:
    """The word for each thing of some kinds, as it is said."""
    return {t.key: t.said[0] for t in language.terms if t.kind in kinds and t.said}


def _grades(profile: Profile, bends: Sequence[Bend], school: GradingScheme) -> list[int]:
    """About what most crews would call each bend: its place on a scale of even steps of radius."""
    if not bends:
        return []
    firsts, lasts = (np.array([int(getattr(b, end)) for b in bends], dtype=np.intp) for end in ("from_m", "to_m"))
    positions = plain_yardstick(school).position(measure(profile, firsts, lasts))
    return [int(np.clip(round(position), 1, school.top)) for position in positions.tolist()]


def _behind(bend: Bend, following: Bend, into: str) -> str:
    """What stands behind a bend: the distance to the following one, or that it follows at once."""
    metres = round((following.from_m - bend.to_m) / ROUND_M) * ROUND_M
    return f" {metres}" if metres >= LEAST_M else f" {into}"
