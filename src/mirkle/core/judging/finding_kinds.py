"""Every kind of finding, one row each: all that is known of a kind stands here, and nowhere else."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from mirkle.core.messages import gettext_noop

Group = Literal["corners", "shape", "vertical", "words", "pace"]
# What another pass has to be to speak of it: any, one at speed with a vertical accelerometer, or one whose line is not blurred; else
# none can.
Severity = Literal["danger", "change", "check", "remark"]
SEVERITIES: tuple[Severity, ...] = (gettext_noop("danger"), gettext_noop("change"), gettext_noop("check"), gettext_noop("remark"))
Passes = Literal["none", "any", "at-speed", "sharp"]


# What of a note a finding is about.
Aspect = Literal["grade", "direction", "shape", "length", "distance", "vertical", "words"]
# Which picture shows it: the crew's grades with this bend among them, a bend without a note, a note without a bend, a length that was
# called
# beside the one that was met, the load felt, or the time from the call to the corner.
Drawing = Literal["grades", "uncalled", "unmet", "distance", "vertical", "call"]


@dataclass(frozen=True)
class Kind:
    """A kind of finding. What has no default has to be thought about for every kind.

    ``title`` heads it, ``group`` is the filter that shows it, ``drawing`` the picture. ``too_much`` and ``too_little`` are what the note
    promises too much or too little of, by which a later pass tells whether a change was right; of a kind with neither it can tell nothing.
    ``passes`` is what another pass has to be to speak of it, and ``akin`` are the kinds by which it may show the same trouble. ``faster``
    where marking it lets the car go faster, which takes the word of both; ``by_pace`` where it rests on pace or attention, and says nothing
    where a pass doesn't count; ``by_sense`` where it rests on which way the grades run; ``time`` where there is time to be had and no harm
    to be kept off; ``of_a_place`` where it is about something on the road that no note names, and stands at the note before it;
    ``of_the_pass`` where it says how this pass was driven or called, and nothing against the note; ``of_a_pair`` where two notes that are
    the wrong way round would make it; ``uncalled`` where it is what no note calls, ``not_felt`` what was called and not felt.
    """

    title: str
    group: Group
    drawing: Drawing
    passes: Passes
    too_much: Aspect | None = None
    too_little: Aspect | None = None
    akin: tuple[str, ...] = ()
    faster: bool = False
    by_pace: bool = False
    by_sense: bool = False
    time: bool = False
    of_a_place: bool = False
    of_the_pass: bool = False
    of_a_pair: bool = False
    uncalled: bool = False
    not_felt: bool = False

    @property
    def aspect(self) -> Aspect | None:
        """What of the note it is about."""
        return self.too_much or self.too_little

    @property
    def of_a_corner(self) -> bool:
        """Whether it is about how a corner or its distance was called."""
        return self.group in ("corners", "shape") and self.drawing in ("grades", "distance") and not self.of_the_pass


def _uncalled(title: str) -> Kind:
    """Something in the vertical that no note calls."""
    return Kind(title, "vertical", "vertical", "at-speed", too_much="vertical", of_a_place=True, uncalled=True)


def _not_felt(title: str) -> Kind:
    """Something in the vertical that was called and not felt."""
    return Kind(title, "vertical", "vertical", "none", too_little="vertical", not_felt=True)


KINDS: dict[str, Kind] = {
    "direction": Kind("The road goes the other way", "corners", "grades", "any", too_much="direction", of_a_pair=True),
    "grade-tighter": Kind(
        "The road is tighter than the note",
        "corners",
        "grades",
        "sharp",
        too_much="grade",
        akin=("tightens-uncalled",),
        by_sense=True,
        of_a_pair=True,
    ),
    "grade-easier": Kind(
        "The road is more open than the note",
        "corners",
        "grades",
        "sharp",
        too_little="grade",
        faster=True,
        by_pace=True,
        by_sense=True,
        time=True,
        of_a_pair=True,
    ),
    "corner-uncalled": Kind(
        "A corner without a note", "corners", "uncalled", "any", too_much="grade", by_sense=True, of_a_place=True, uncalled=True
    ),
    "corner-unmet": Kind("A note without a corner", "corners", "unmet", "any", too_little="grade", faster=True, of_a_pair=True),
    "distance-longer": Kind("Further than called", "shape", "distance", "any", too_little="distance", of_a_pair=True),
    "distance-shorter": Kind("Nearer than called", "shape", "distance", "any", too_much="distance", of_a_pair=True),
    "tightens-uncalled": Kind(
        "Tightens, and the note does not say so",
        "shape",
        "grades",
        "sharp",
        too_much="shape",
        akin=("grade-tighter",),
        by_sense=True,
        of_a_pair=True,
        uncalled=True,
    ),
    "tightens-unmet": Kind(
        "Called to tighten, but it did not", "shape", "grades", "none", too_little="shape", faster=True, by_sense=True, of_a_pair=True
    ),
    "opens-uncalled": Kind(
        "Opens, and the note does not say so", "shape", "grades", "sharp", too_little="shape", faster=True, by_sense=True, uncalled=True
    ),
    "opens-unmet": Kind("Called to open, but it did not", "shape", "grades", "none", too_much="shape", by_sense=True),
    "length-longer": Kind("Longer than called", "shape", "grades", "sharp", too_much="length"),
    "length-shorter": Kind("Shorter than called", "shape", "grades", "sharp", too_little="length", faster=True),
    "jump-uncalled": _uncalled(gettext_noop("A jump that is not in the notes")),
    "jump-unmet": Kind("Called a jump, but the car did not fly", "vertical", "vertical", "none", too_little="vertical"),
    "crest-uncalled": _uncalled(gettext_noop("A crest that is not in the notes")),
    "crest-unmet": _not_felt(gettext_noop("Called a crest, but none was felt")),
    "bump-uncalled": _uncalled(gettext_noop("A bump that is not in the notes")),
    "bump-unmet": _not_felt(gettext_noop("Called a bump, but none was felt")),
    "dip-uncalled": _uncalled(gettext_noop("A dip that is not in the notes")),
    "dip-unmet": _not_felt(gettext_noop("Called a dip, but none was felt")),
    "maybe-settled": Kind("“Maybe” is answered", "vertical", "vertical", "none"),
    "surprise": Kind(
        "Something surprised the driver", "pace", "grades", "none", too_much="grade", by_pace=True, of_a_place=True, of_the_pass=True
    ),
    "spare": Kind("Room for more speed", "pace", "grades", "none", too_little="grade", by_pace=True, time=True, of_the_pass=True),
    "call-late": Kind("Called too late", "words", "call", "none", by_pace=True, of_the_pass=True),
    "call-early": Kind("Called early", "words", "call", "none", by_pace=True, of_the_pass=True),
    "cut-at-dont-cut": Kind("“Don't cut”, and driven wider", "corners", "grades", "none", of_the_pass=True),
    "said-by-you": Kind("Said by you", "words", "grades", "none"),
    "said-otherwise": Kind("Called differently from the book", "words", "grades", "none", of_the_pass=True),
}
