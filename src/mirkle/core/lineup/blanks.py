"""A book to be filled in, from a recording alone: where each bend of the road is, and what it is like; never what to write.

For each bend a line with its side, a blank for the grade, the distance to the next one, and behind it, as a remark that nobody calls, its
place, its turn, its radius, about what it would be called, and the crests, dips and jumps up to the next one. Each note is a decision of
the crew: a line whose blank is not filled is no note.

What it would be called is the place on a scale: that of the crew's profile, or of crews at large. A crew without a profile fills in the
bends that it knows, and the rest is graded by the scale that these show (:func:`mirkle.core.lineup.scale_prior.fit_stage`).
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from mirkle.core.constants import km
from mirkle.core.errors import UnusableNotes
from mirkle.core.lineup.road import Road
from mirkle.core.lineup.scale_prior import ScalePrior, columns_of, fit_stage
from mirkle.core.messages import message
from mirkle.core.motion.bends import Bend, bend_between
from mirkle.core.motion.vertical import Feature
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.language import Language
from mirkle.core.recording.model import Floats

# What stands where the crew writes its grade.
BLANK = "_"
# A bend that turns less is left to the crew's eye (°).
LEAST_TURN_DEG = 12.0
# Lines on a page of the book to be filled in; what a distance is rounded to, and the least that is one (m).
LINES_A_PAGE, ROUND_M, LEAST_M = 12, 10, 20
# So many bends that a crew knows show its scale. # common practice: one for each grade that it uses often
LEAST_KNOWN = 5
_GRADE, _ABOUT = re.compile(r"(\d+)[+-]?"), re.compile(r"~\d+")


def bends_of(road: Road) -> list[Bend]:
    """Every bend of a road by itself, in its order: from where the line begins to bend one way to where it eases."""
    pieces, out = road.pieces, []
    for number in dict.fromkeys(pieces.bend[pieces.side != 0].tolist()):
        at = np.flatnonzero(pieces.bend == number)
        if abs(np.degrees(pieces.turn_rad[at].sum())) >= LEAST_TURN_DEG:
            out.append(bend_between(road.profile, int(pieces.first[at[0]]), int(pieces.last[at[-1]])))
    return out


@dataclass(frozen=True)
class BlankBook:
    """A book to be filled in: the ``bends`` of the road, what each line begins with (``heads``), what the bend is ``like`` and what is
    ``met`` up to the next one, the word for a page, and what is known of the crew's scale. Its ``text`` is what the crew gets."""

    bends: tuple[Bend, ...]
    heads: tuple[str, ...]
    like: tuple[str, ...]
    met: tuple[str, ...]
    page: str
    scale: ScalePrior

    @property
    def text(self) -> str:
        """The book, page by page."""
        lines: list[str] = []
        grades = self._grades(self.scale.mean)
        for number, (head, like, met, grade) in enumerate(zip(self.heads, self.like, self.met, grades, strict=True)):
            if number % LINES_A_PAGE == 0:
                lines.append(f"{self.page} {number // LINES_A_PAGE + 1}")
            lines.append(f"{head}  // {like}, ~{grade}{met}")
        return "\n".join(lines) + "\n"

    def known_in(self, text: str) -> dict[int, float]:
        """The places on the scale that the crew gave to bends in a text that it has filled in, by the bends' numbers."""
        school, found = GradingScheme(top=self.scale.top), {}
        for line in text.split("\n"):
            head, _, remark = line.partition("//")
            bend = self._bend_in(remark)
            grade = _GRADE.search(head)
            if bend is not None and BLANK not in head.split() and grade is not None and int(grade[1]) <= school.top:
                found[bend] = school.position(grade[0])
        return found

    def graded_by(self, text: str) -> str:
        """The text with what each open blank would be called on the scale that the filled ones show.

        Raises
        ------
        UnusableNotes
            Fewer than :data:`LEAST_KNOWN` are filled.
        """
        known = self.known_in(text)
        if len(known) < LEAST_KNOWN:
            few = message("{0} bends are graded, and {1} are needed", len(known), LEAST_KNOWN)
            raise UnusableNotes(few, mend="fill in bends that you know, tight and open ones")
        x = columns_of([self.bends[i] for i in known])
        weights, _ = fit_stage(x, np.array(list(known.values())), np.ones(len(known)), self.scale)
        grades = self._grades(weights)
        lines = text.split("\n")
        for number, line in enumerate(lines):
            head, _, remark = line.partition("//")
            bend = self._bend_in(remark)
            if bend is not None and BLANK in head.split():
                lines[number] = f"{head}//{_ABOUT.sub(f'~{grades[bend]}', remark, count=1)}"
        return "\n".join(lines)

    def _bend_in(self, remark: str) -> int | None:
        """The bend that a line's remark is about, by its number."""
        return next((i for i, like in enumerate(self.like) if remark.strip().startswith(f"{like},")), None)

    def _grades(self, weights: Floats) -> list[int]:
        """About what each bend would be called on a scale."""
        positions = columns_of(list(self.bends)) @ weights
        return [int(np.clip(round(position), 1, self.scale.top)) for position in positions.tolist()]


def blank_book(road: Road, vertical: Sequence[Feature] | None, language: Language, scale: ScalePrior) -> BlankBook:
    """The book to be filled in, by what is known of the crew's ``scale``."""
    bends, features, profile = bends_of(road), vertical or (), road.profile
    page = next(t.said[0] for t in language.terms if (t.kind, t.key) == ("mark", "page"))
    said, into = _words(language, "direction", "feature"), next(iter(_words(language, "link").values()))
    behind = [_behind(bend, following, into) for bend, following in pairwise(bends)] + [""]
    # What stands on a straight is said behind the bend in front of it; what is in front of the first bend, with that.
    begins = [0.0, *(b.from_m - ROUND_M for b in bends[1:])]
    ends = [*begins[1:], profile.length_m]
    heads, like, met = [], [], []
    for bend, gap, from_m, to_m in zip(bends, behind, begins, ends, strict=True):
        heads.append(f"{said['left' if bend.side > 0 else 'right']} {BLANK}{gap}")
        like.append(f"{km(bend.apex_m):.2f} km, {bend.turn_deg:.0f}°, R {bend.radius_m:.0f} m")
        met.append("".join(f", {_met(said.get(f.kind, f.kind), f.at_m, bend)}" for f in features if from_m <= f.at_m < to_m))
    return BlankBook(tuple(bends), tuple(heads), tuple(like), tuple(met), page, scale)


def _met(word: str, at_m: float, bend: Bend) -> str:
    """A crest or the like: by its word in the bend, with its kilometre elsewhere."""
    return word if bend.from_m - ROUND_M <= at_m <= bend.to_m + ROUND_M else f"{word} {km(at_m):.2f} km"


def _words(language: Language, *kinds: str) -> dict[str, str]:
    """The word for each thing of some kinds, as it is said."""
    return {t.key: t.said[0] for t in language.terms if t.kind in kinds and t.said}


def _behind(bend: Bend, following: Bend, into: str) -> str:
    """What stands behind a bend: the distance to the following one, or that it follows at once."""
    metres = round((following.from_m - bend.to_m) / ROUND_M) * ROUND_M
    return f" {metres}" if metres >= LEAST_M else f" {into}"
