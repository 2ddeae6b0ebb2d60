"""Every kind of finding, one row each: all that is known of a kind stands here, and nowhere else."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from mirkle.core.messages import gettext_noop

Group = Literal["corners", "shape", "vertical", "words", "pace"]
# What another pass has to be to speak of it: any, one at speed with a vertical accelerometer, or one whose line is not blurred; else
# none can.
Severity = Literal["danger", "change", "check", "remark"]
SEVERITIES: tuple[Severity, ...] = (
    gettext_noop("danger"), gettext_noop("change"), gettext_noop("check"), gettext_noop("remark"),
)  # fmt: skip
Passes = Literal["none", "any", "at-speed", "sharp"]


@dataclass(frozen=True)
class Kind:
    """A kind of finding.

    ``title`` heads it, ``group`` is the filter that shows it. ``faster`` where marking it lets the car go faster, which takes the word of
    both; ``by_pace`` where it rests on pace or attention, and says nothing where a pass doesn't count; ``by_sense`` where it rests on
    which way the grades run; ``time`` where there is time to be had and no harm to be kept off; ``of_a_place`` where it is about something
    on the road that no note names, and stands at the note before it; ``of_the_pass`` where it says how this pass was driven or called, and
    nothing against the note.
    """

    title: str
    group: Group
    passes: Passes = "none"
    faster: bool = False
    by_pace: bool = False
    by_sense: bool = False
    time: bool = False
    of_a_place: bool = False
    of_the_pass: bool = False


KINDS: dict[str, Kind] = {
    "direction": Kind("The road goes the other way", "corners", passes="any"),
    "grade-tighter": Kind("The road is tighter than the note", "corners", passes="sharp", by_sense=True),
    "grade-easier": Kind(
        "The road is more open than the note",
        "corners",
        passes="sharp",
        faster=True,
        by_pace=True,
        by_sense=True,
        time=True,
    ),
    "corner-uncalled": Kind("A corner that no note calls", "corners", passes="any", by_sense=True, of_a_place=True),
    "corner-unmet": Kind("A note without a corner", "corners", passes="any", faster=True),
    "distance-longer": Kind("It is further than called", "shape", passes="any"),
    "distance-shorter": Kind("It is nearer than called", "shape", passes="any"),
    "tightens-uncalled": Kind("It tightens, and the note does not say so", "shape", passes="sharp", by_sense=True),
    "tightens-unmet": Kind("Called to tighten, and it did not", "shape", faster=True, by_sense=True),
    "opens-uncalled": Kind(
        "It opens, and the note does not say so", "shape", passes="sharp", faster=True, by_sense=True
    ),
    "opens-unmet": Kind("Called to open, and it did not", "shape", by_sense=True),
    "length-longer": Kind("It goes on for longer than called", "shape", passes="sharp"),
    "length-shorter": Kind("It is shorter than called", "shape", passes="sharp", faster=True),
    "jump-uncalled": Kind("A jump that no note calls", "vertical", passes="at-speed", of_a_place=True),
    "jump-unmet": Kind("Called a jump; the car did not fly", "vertical"),
    "crest-uncalled": Kind("A crest that no note calls", "vertical", passes="at-speed", of_a_place=True),
    "crest-unmet": Kind("Called a crest, and none was felt", "vertical"),
    "bump-uncalled": Kind("A bump that no note calls", "vertical", passes="at-speed", of_a_place=True),
    "bump-unmet": Kind("Called a bump, and none was felt", "vertical"),
    "dip-uncalled": Kind("A dip that no note calls", "vertical", passes="at-speed", of_a_place=True),
    "dip-unmet": Kind("Called a dip, and none was felt", "vertical"),
    "maybe-settled": Kind("The maybe is settled", "vertical"),
    "surprise": Kind("Something here surprised the driver", "pace", by_pace=True, of_a_place=True, of_the_pass=True),
    "spare": Kind("Speed was left here", "pace", by_pace=True, time=True, of_the_pass=True),
    "call-late": Kind("The call came too late", "words", by_pace=True, of_the_pass=True),
    "call-early": Kind("The call came early", "words", by_pace=True, of_the_pass=True),
    "cut-at-dont-cut": Kind("Not to be cut, and driven wider", "corners", of_the_pass=True),
    "said-otherwise": Kind("It was said otherwise than it is written", "words", of_the_pass=True),
}
