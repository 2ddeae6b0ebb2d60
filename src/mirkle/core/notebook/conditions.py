"""What those who drove ahead report, in their short words: "km 4.2 to 5, ice, more than this morning".

A line names a place (kilometres, or pages and lines of the book), what it is, and how bad; what it is, is one of eleven kinds, by its
words in English or Portuguese. How bad is one of three levels: a little, as it is, and bad. Nothing is guessed: a line without a place or
without a kind is handed back with what is missing.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass

from mirkle.core.messages import Message, gettext_noop, message

# The kinds with the words that name them, the longer ones before those that they hold.
WORDS: dict[str, tuple[str, ...]] = {
    "ice": ("black ice", "ice", "icy", "frost", "gelo", "geada"),
    "standing water": ("standing water", "water", "puddle", "puddles", "flooded", "água", "agua", "poça", "poças", "alagado"),
    "mud": ("mud", "muddy", "lama"),
    "repaired surface": ("repaired", "resurfaced", "graded", "new surface", "new gravel", "reparado", "reparada", "piso novo"),
    "stones": ("stones", "stone", "rocks", "rock", "debris", "loose gravel", "pedras", "pedra"),
    "dust": ("dust", "dusty", "pó", "poeira"),
    "fog": ("fog", "foggy", "mist", "nevoeiro", "neblina"),
    "sun": ("low sun", "sun", "glare", "sol"),
    "dark": ("dark", "darker", "escuro", "escura"),
    "grease": ("grease", "greasy", "slippery", "oil", "escorregadio", "óleo"),
    "spectators": ("spectators", "people", "crowd", "público", "gente"),
}
KIND_WORDS = {
    "ice": gettext_noop("ice"),
    "standing water": gettext_noop("standing water"),
    "mud": gettext_noop("mud"),
    "repaired surface": gettext_noop("repaired surface"),
    "stones": gettext_noop("stones"),
    "dust": gettext_noop("dust"),
    "fog": gettext_noop("fog"),
    "sun": gettext_noop("sun"),
    "dark": gettext_noop("dark"),
    "grease": gettext_noop("grease"),
    "spectators": gettext_noop("spectators"),
}
# Kinds on which a car has less grip than elsewhere.
SLIPPERY = frozenset(("ice", "standing water", "mud", "grease"))
A_LITTLE, AS_IT_IS, BAD = 1, 2, 3
LEVELS = {
    A_LITTLE: ("a little", "some", "patch", "patches", "light", "slight", "less", "um pouco", "pouco", "algum", "alguma", "menos"),
    BAD: (
        *("more", "lots", "full", "bad", "heavy", "very", "everywhere", "deep", "thick", "much"),
        *("mais", "muito", "muita", "cheio", "mau", "pior", "em todo o lado", "fundo"),
    ),
}
# A stretch that is named by one place reaches this far on both sides (m).
AROUND_M = 50.0
_NUMBER = r"(\d+(?:[.,]\d+)?)"
_TO = r"\s*(?:to|until|till|a|até|-|–)\s*"
_STRETCH = re.compile(rf"(?:from|de|km|kms|at|ao|em|\s)*{_NUMBER}\s*(?:km)?{_TO}(?:km\s*)?{_NUMBER}\s*(?:km)?", re.IGNORECASE)
_PLACE = re.compile(rf"(?:at|ao|em|\s)*km\s*{_NUMBER}|^\s*{_NUMBER}\s*km", re.IGNORECASE)
_ON_PAGE = r"(?:page|p|página|pág)\.?\s*(\d+)(?:\s*,?\s*(?:line|l|linha)\.?\s*(\d+))?"
_PAGES = re.compile(rf"(?:from|de|\s)*{_ON_PAGE}(?:{_TO}{_ON_PAGE})?", re.IGNORECASE)


@dataclass(frozen=True)
class Reported:
    """A condition of the road as it was reported: where (m), which of :data:`WORDS`, how bad (1 to 3), and the words for it."""

    from_m: float
    to_m: float
    what: str
    level: int
    words: str


# Where a page of the book lies, or one line of it: from and to (m); ``None`` where that is not known.
PlaceOf = Callable[[int, int | None], tuple[float, float] | None]


def parse_conditions(text: str, finish_m: float, place_of: PlaceOf = lambda _page, _line: None) -> tuple[list[Reported], list[Message]]:
    """The conditions in some lines, and a sentence for each line that is none.

    Parameters
    ----------
    finish_m : length of the stage; nothing lies beyond it
    place_of : where pages and lines of the book lie
    """
    found: list[Reported] = []
    missing: list[Message] = []
    for line in filter(None, (part.strip() for part in re.split(r"[\n;]", text))):
        read = _read(line, finish_m, place_of)
        if isinstance(read, Reported):
            found.append(read)
        else:
            missing.append(read)
    return sorted(found, key=lambda r: (r.from_m, r.to_m)), missing


def _read(line: str, finish_m: float, place_of: PlaceOf) -> Reported | Message:
    placed = _placed(line, place_of)
    if placed is None:
        return message("“{0}”: where? Say it as km 4.2 to 5, or page 3.", line)
    (from_m, to_m), rest = placed
    if from_m >= finish_m:
        return message("“{0}”: the stage is only {length_m:km} km long.", line, length_m=finish_m)
    words = rest.strip(" ,:.-–")
    what = next((kind for kind, forms in WORDS.items() if _holds(words, forms)), None)
    if what is None:
        return message("“{0}”: what is it? Such as ice, water, mud, stones, dust, fog or sun.", line)
    level = next((level for level, forms in LEVELS.items() if _holds(words, forms)), AS_IT_IS)
    return Reported(from_m, min(to_m, finish_m), what, level, words)


def _placed(line: str, place_of: PlaceOf) -> tuple[tuple[float, float], str] | None:
    """The stretch that a line names, and the rest of the line."""
    if (pages := _PAGES.match(line)) is not None:
        stretch_m = _by_page(pages, place_of)
        return (stretch_m, line[pages.end() :]) if stretch_m is not None else None
    if (stretch := _STRETCH.match(line)) is not None:
        low, high = sorted(_metres(number) for number in stretch.groups())
        return (low, high), line[stretch.end() :]
    if (place := _PLACE.match(line)) is not None:
        at_m = _metres(next(g for g in place.groups() if g))
        return (max(0.0, at_m - AROUND_M), at_m + AROUND_M), line[place.end() :]
    return None


def _by_page(pages: re.Match[str], place_of: PlaceOf) -> tuple[float, float] | None:
    """From where the first named page or line begins to where the last one ends; ``None`` where one of them is not on the road."""
    first, row, last, last_row = (int(g) if g else None for g in pages.groups())
    assert first is not None
    begins = place_of(first, row)
    ends = begins if last is None else place_of(last, last_row)
    return (begins[0], ends[1]) if begins is not None and ends is not None else None


def _metres(kilometres: str) -> float:
    return 1000.0 * float(kilometres.replace(",", "."))


def _holds(text: str, forms: tuple[str, ...]) -> bool:
    return any(re.search(rf"(?<!\w){re.escape(form)}(?!\w)", text, re.IGNORECASE) for form in forms)
