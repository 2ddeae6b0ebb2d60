"""Notes written out in a language's full words, and carried over into another school."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from mirkle.core.notes.called import CalledChange, CalledFeature, CalledThing
from mirkle.core.notes.grading import GradingScheme, half_of, whole_grade
from mirkle.core.notes.language import HALF_NAMES, Language
from mirkle.core.notes.model import Note


@dataclass(frozen=True)
class Written:
    """A note written in some school and language; ``lost`` are the words that could not be carried over."""

    text: str
    lost: tuple[str, ...]


def written_out(note: Note, language: Language, *, order: str) -> Written:
    """A note in full words of a language, in the order of the trade: alerts, corner, shape, features, line, gap."""
    say = _Sayings(language)
    side = say.term("direction", note.direction.value) if note.direction else ""
    grade = say.grade(note.grade) if note.grade else ""
    parts = [
        *(say.term("mark", m) for m in note.marks),
        *(say.term("caution", c) for c in note.cautions),
        *((side, grade) if order == "direction-first" else (grade, side)),
        say.term("length", note.length) if note.length else "",
        note.continues_for,
        *map(say.change, note.changes),
        *map(say.feature, note.features),
        *map(say.thing, (*note.line_on_road, *note.objects)),
        say.term("link", note.link) if note.link else "",
        str(note.distance_m) if note.distance_m is not None else "",
    ]
    return Written(" ".join(filter(None, parts)), (*say.lost, *note.unread))


class _Sayings:
    """How a language says each word of a note. What it has no word for is ``lost``, and leaves nothing."""

    def __init__(self, language: Language) -> None:
        self.language = language
        self.lost: list[str] = []
        self._said = {(t.kind, t.key): t.said[0] for t in reversed(language.terms) if t.said}

    def term(self, kind: str, key: str) -> str:
        """A term of one word."""
        return self._whole(key, (self._said.get((kind, key)),))

    def _whole(self, text: str, parts: Sequence[str | None]) -> str:
        """Parts in a row; all of it is lost where one of them has no word."""
        if None in parts:
            self.lost.append(text)
            return ""
        return " ".join(part for part in parts if part)

    def grade(self, grade: str) -> str:
        """A grade, its half behind it."""
        return self._whole(grade, self._grade(grade))

    def _grade(self, grade: str) -> tuple[str | None, ...]:
        whole, half = whole_grade(grade), half_of(grade)
        name = whole if whole.isdecimal() else self._said.get(("grade", whole))
        return name, self._said.get(("half", HALF_NAMES[half])) if half else ""

    def change(self, change: CalledChange) -> str:
        """A change of radius, its grade behind it, and the length of that last."""
        # What a crew calls a half may stand as a change.
        way = self._said.get(("change", change.way)) or self._said.get(("half", change.way))
        length = self._said.get(("length", change.length)) if change.length else ""
        return self._whole(str(change), (way, *(self._grade(change.to) if change.to else ()), length))

    def feature(self, feature: CalledFeature) -> str:
        """A feature with its count or its maybe, and what leads to it."""
        over = self._said.get(("over", feature.over)) if feature.over else ""
        counted = (feature.number, self._plural(feature.name)) if feature.number else ()
        named = counted or self._perhaps("feature", feature.name, maybe=feature.maybe)
        return self._whole(str(feature), (over, *named))

    def _perhaps(self, kind: str, name: str, *, maybe: bool) -> tuple[str | None, ...]:
        """A name, with its maybe: a language may have one word for both."""
        if not maybe:
            return (self._said.get((kind, name)),)
        if (both := self._said.get((kind, f"{name} maybe"))) is not None:
            return (both,)
        return self._said.get((kind, name)), self._said.get(("maybe", "maybe"))

    def _plural(self, name: str) -> str | None:
        """The counted form of a feature, such as "crests"."""
        term = next((t for t in self.language.terms if t.kind == "feature" and t.key == name), None)
        if term is None:
            return None
        return next((form for form in term.said if form in self.language.plurals), term.said[0])

    def thing(self, thing: CalledThing) -> str:
        """What stands at the road or how to drive it, with its sides."""
        over = self._said.get(("over", thing.over)) if thing.over else ""
        sides = (self._said.get(("side", side)) for side in thing.sides)
        name, *maybe = self._perhaps(thing.kind, thing.name, maybe=thing.maybe)
        return self._whole(str(thing), (over, name, *sides, *maybe))


def carried_over(note: Note, old: GradingScheme, new: GradingScheme) -> tuple[Note, tuple[str, ...]]:
    """A note in another school: the same place on the scale under the new school's name, and what that loses.

    Ascending 6 becomes descending 1; a plus stays the faster half; on a scale of another size the nearest grade stands.
    """
    lost: list[str] = []

    def named(grade: str) -> str:
        try:
            position = old.position(grade)
        except ValueError:
            lost.append(grade)
            return grade
        if not grade[0].isdigit():
            return grade
        if new.top != old.top:
            position = 1.0 + (position - 1.0) * (new.top - 1) / (old.top - 1)
        carried = new.grade_at(position)
        if abs(new.position(carried) - position) > 0.1:
            lost.append(f"{grade} lies between two of the new grades; {carried} is the nearest")
        return carried

    changes = []
    for change in note.changes:
        changes.append(change._replace(to=named(change.to)) if change.to[:1].isdigit() else change)
    grade = named(note.grade) if note.grade else None
    return replace(note, grade=grade, changes=tuple(changes)), tuple(lost)
