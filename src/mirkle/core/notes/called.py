"""What a note calls besides its corner, as values: printed here and nowhere else, and never read back from print.

Words are the contract's own names, such as ``crest``, ``tightens`` or ``don't cut``; each value knows them one by one (``terms``), so that
they can be said in any language.
"""

from __future__ import annotations

from typing import NamedTuple

# Which kind of thing in the vertical a feature's name is: a jump, a crest, a bump or a dip.
VERTICAL = {
    "jump": "jump",
    "big jump": "jump",
    "small jump": "jump",
    "crest": "crest",
    "big crest": "crest",
    "small crest": "crest",
    "long crest": "crest",
    "flat crest": "crest",
    "double crest": "crest",
    "bump": "bump",
    "bumps": "bump",
    "dip": "dip",
    "compression": "dip",
}
# Ways in which a radius changes: those that grow tighter, and those that grow wider.
TIGHTENING = frozenset(("tightens", "tightens abruptly", "tightens early", "tightens late", "tightens more", "double tightens"))
OPENING = frozenset(("opens", "opens late", "opens long"))
# What else says that a corner is tighter further on.
NARROWING = frozenset(("narrows", "nips"))
# Where leaving the road is worse, and what makes it so.
OUTSIDE = frozenset(("outside", "on exit", "drop"))


def _text(terms: tuple[str, ...]) -> str:
    return " ".join(terms)


class CalledChange(NamedTuple):
    """How a radius changes: ``way`` ("tightens", "opens late"), with the ``length`` of that and the grade that it leads ``to``."""

    way: str
    length: str = ""
    to: str = ""

    @property
    def tightens(self) -> bool:
        """Whether it grows tighter."""
        return self.way in TIGHTENING

    @property
    def opens(self) -> bool:
        """Whether it grows wider."""
        return self.way in OPENING

    def begins(self, whole: CalledChange) -> bool:
        """Whether it is all or the first words of a change: "opens" may be the first half of "opens 5"."""
        return self in (whole, whole._replace(to=""), CalledChange(whole.way))

    @property
    def terms(self) -> tuple[str, ...]:
        """Its words one by one."""
        return tuple(filter(None, self))

    def __str__(self) -> str:
        return _text(self.terms)


class CalledFeature(NamedTuple):
    """Something on the road: "over crest", "2 crests", "jump maybe". ``number`` is in figures."""

    name: str
    over: str = ""
    number: str = ""
    maybe: bool = False

    @property
    def vertical(self) -> str | None:
        """Which kind of thing in the vertical it is; ``None`` where it is none."""
        return VERTICAL.get(self.name)

    @property
    def terms(self) -> tuple[str, ...]:
        """Its words one by one."""
        counted = (self.number, f"{self.name.removesuffix('s')}s") if self.number else (self.name,)
        return tuple(filter(None, (self.over, *counted, "maybe" if self.maybe else "")))

    def __str__(self) -> str:
        return _text(self.terms)


class CalledThing(NamedTuple):
    """What stands at the road, what it is made of, or how to drive it: "past junction", "rocks inside", "gravel", "don't cut", "cut maybe".

    ``kind`` is that of its term: ``object``, ``side``, ``surface``, ``state`` or ``line``; ``sides`` say where it is.
    """

    name: str
    kind: str
    over: str = ""
    sides: tuple[str, ...] = ()
    maybe: bool = False

    @property
    def is_outside(self) -> bool:
        """Whether it is a reason not to be outside."""
        return not OUTSIDE.isdisjoint((self.name, *self.sides))

    @property
    def terms(self) -> tuple[str, ...]:
        """Its words one by one."""
        return tuple(filter(None, (self.over, self.name, *self.sides, "maybe" if self.maybe else "")))

    def __str__(self) -> str:
        return _text(self.terms)
