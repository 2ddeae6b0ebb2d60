"""Which note a crew speaks of behind the finish, and what it wants of it: "the second right wants a three".

A sentence is parted at its verb. What stands before it names a note by its side, its grade, what is at it, its place in the book, or which
of those it is (the second, the last); what stands behind it may name the grade that is wanted. A note is found only where one and no other
fits, or where a number says which: nothing is guessed. What was said in the car of "that one" is about the corner that was just driven.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from mirkle.core.notes.language import Language, pieces
from mirkle.core.notes.model import Note

# A sentence that is spoken on has its parts in these words, by language.
VERBS = {
    "en": (
        *("wants to be", "wants", "want", "needs to be", "needs", "should be", "should have been", "is more like", "was more like"),
        *("more like", "make it", "make that", "was", "were", "is", "came", "can be", "could be"),
    ),
    "pt": (
        *("quer ser", "quer", "precisa de ser", "precisa", "devia ser", "deve ser", "é mais", "era mais", "era", "foi", "é"),
        *("passa a", "pode ser"),
    ),
}
ORDINALS = {
    "en": ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"),
    "pt": ("primeir", "segund", "terceir", "quart", "quint", "sext", "sétim", "oitav"),
}
LAST = {"en": ("last",), "pt": ("últim",)}
AFTER = {"en": ("after", "past", "behind"), "pt": ("depois", "a seguir", "após")}
BEFORE = {"en": ("before",), "pt": ("antes",)}
NOT = {"en": ("not", "never", "no"), "pt": ("não", "nunca")}
THAT = {
    "en": ("that one", "that was", "that is", "that corner", "this one"),
    "pt": ("essa era", "esta era", "essa é", "essa foi", "essa curva"),
}
# What names a note besides its side and grade; and how many notes behind or ahead of a landmark are still at it.
NAMING = frozenset(("feature", "object", "over"))
NEAR_NOTES = 4
_GRADE = re.compile(r"\d{1,2}[+-]?")
_ON_PAGE = re.compile(r"(?:page|página)\s+(\d+)\s*,?\s*(?:line|linha)\s+(\d+)", re.IGNORECASE)


@dataclass(frozen=True)
class Wish:
    """What is said of a note: its number, and the grade that is wanted, empty where none is."""

    note: int
    grade: str = ""


@dataclass(frozen=True)
class _Named:
    """What a piece of a sentence says of a note."""

    side: str | None
    grades: tuple[str, ...]
    things: frozenset[str]

    @property
    def says_nothing(self) -> bool:
        return self.side is None and not self.grades and not self.things


def wish_in(text: str, notes: Sequence[Note], language: Language, driven: int | None = None) -> Wish | None:
    """The note that a sentence is about, with what is wanted of it; ``None`` where no one note is meant.

    Parameters
    ----------
    driven : the corner note that was driven last, where the words were said on the stage
    """
    words = pieces(text)
    at, verb = _verb(words, language.code)
    before, behind = (words[:at], words[at + verb :]) if verb else (words, [])
    grade = _wanted(behind, language)
    if driven is not None and _says_that(words, language.code):
        return Wish(driven, grade) if grade else None
    if (place := _ON_PAGE.search(" ".join(_figure(w, language) for w in words))) is not None:
        page, line = map(int, place.groups())
        note = _only([n.index for n in notes if (n.page, n.line) == (page, line)])
    else:
        note = _meant(before, notes, language) if verb else None
    return Wish(note, grade) if note is not None else None


def wanted_in(text: str, language: Language) -> str:
    """The grade that a sentence wants of whatever note it is about; empty where it names none behind its verb."""
    words = pieces(text)
    at, verb = _verb(words, language.code)
    return _wanted(words[at + verb :], language) if verb else ""


def _says_that(words: Sequence[str], code: str) -> bool:
    """Whether words point at what was just driven."""
    said = " ".join(words)
    return any(said.startswith(that) or f" {that} " in f" {said} " for that in THAT[code])


def _only(notes: Sequence[int]) -> int | None:
    """The one of some notes, where there is no other."""
    return notes[0] if len(notes) == 1 else None


def _figure(word: str, language: Language) -> str:
    """A word, or the figure that it stands for."""
    return next((m.term.key for m in language.matches([word], 0) if m.term.kind == "number" and m.way != "heard"), word)


def _verb(words: Sequence[str], code: str) -> tuple[int, int]:
    """Where the first verb begins and how many words it has; 0 words where there is none."""
    for at in range(len(words)):
        for form in sorted((pieces(v) for v in VERBS[code]), key=len, reverse=True):
            if list(words[at : at + len(form)]) == form:
                return at, len(form)
    return 0, 0


def _meant(words: Sequence[str], notes: Sequence[Note], language: Language) -> int | None:
    """The one note that some words name."""
    main, landmark, way = _parted(words, language.code)
    named = _named(main, language)
    if named.says_nothing:
        return None
    fits = _that_fit(notes, named, language)
    if landmark:
        mark = _only(_that_fit(notes, _named(landmark, language), language))
        near = [n for n in fits if mark is not None and 0 < way * (n - mark) <= NEAR_NOTES]
        fits = sorted(near, reverse=way < 0)[:1]
    which = _which(main, language.code)
    if which is None:
        return _only(fits)
    return fits[which] if -len(fits) <= which < len(fits) else None


def _that_fit(notes: Sequence[Note], named: _Named, language: Language) -> list[int]:
    return [n.index for n in notes if _fits(n, named, language)]


def _parted(words: Sequence[str], code: str) -> tuple[Sequence[str], Sequence[str], int]:
    """What names a note, what it stands behind (1) or ahead of (-1), and which of the two."""
    for at, word in enumerate(words):
        if at and word in AFTER[code]:
            return words[:at], words[at + 1 :], 1
        if at and word in BEFORE[code]:
            return words[:at], words[at + 1 :], -1
    return words, (), 0


def _which(words: Sequence[str], code: str) -> int | None:
    """Which of several is meant: 0 the first, -1 the last."""
    for word in words:
        if any(word.startswith(last) for last in LAST[code]):
            return -1
        for number, stem in enumerate(ORDINALS[code]):
            if word.startswith(stem) if code == "pt" else word == stem:
                return number
    return None


def _named(words: Sequence[str], language: Language) -> _Named:
    side, grades, things = None, [], set[str]()
    at = 0
    ordinals = ORDINALS[language.code]
    while at < len(words):
        if _GRADE.fullmatch(words[at]):
            # Whoever types writes figures.
            grades.append(words[at])
            at += 1
            continue
        found = [m for m in language.matches(words, at) if m.way != "heard"]
        if not found or words[at] in ordinals:
            at += 1
            continue
        match = max(found, key=lambda m: m.taken)
        if match.term.kind == "direction":
            side = match.term.key
        elif match.term.kind in ("grade", "number"):
            grades.append(match.term.key)
        elif match.term.kind == "half" and grades:
            grades[-1] += {"plus": "+", "minus": "-"}.get(match.term.key, "")
        elif match.term.kind in NAMING:
            things.add(match.term.key)
        at += match.taken
    return _Named(side, tuple(grades), frozenset(things))


def _wanted(words: Sequence[str], language: Language) -> str:
    """The grade that is wanted: the last one that is not denied."""
    denied = NOT[language.code]
    allowed = list(words)
    for at, word in enumerate(words):
        if word in denied:
            # "not a four, a three": what is denied ends with its own grade.
            graded = [bool(_named(words[i : i + 1], language).grades) for i in range(len(words))]
            end = next((i for i in range(at, len(words)) if graded[i]), len(words))
            while end < len(words) and graded[end]:
                end += 1
            allowed[at:end] = [""] * (end - at)
    grades = _named([w for w in allowed if w], language).grades
    # An article may be a number ("um três"): what comes last is the grade.
    return grades[-1] if grades else ""


def _fits(note: Note, named: _Named, language: Language) -> bool:
    """Whether a note is as it is named; a side or a grade makes it a corner."""
    if named.side is not None and (note.direction is None or note.direction.value != named.side):
        return False
    if named.grades and (note.grade is None or named.grades[0] not in (note.grade, note.grade.rstrip("+-"))):
        return False
    return named.things <= _named(pieces(note.called_text), language).things if named.things else True
