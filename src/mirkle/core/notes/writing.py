"""Notes written out in a language's full words, and carried over into another school."""

from __future__ import annotations

from dataclasses import dataclass, replace

from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Note


@dataclass(frozen=True)
class Written:
    """A note written in some school and language; ``lost`` are the words that could not be carried over."""

    text: str
    lost: tuple[str, ...]


def written_out(note: Note, language: Language, *, order: str) -> Written:
    """A note in full words of a language, in the order of the trade: alerts, corner, shape, features, line, gap."""
    lost: list[str] = []

    def spoken(kind: str, key: str) -> str:
        head, _, rest = key.partition(" ")
        try:
            return language.term(key, kind).said[0]
        except KeyError:
            pass
        try:
            if kind == "change" and rest:
                return _change_words(key, language)
            if kind == "change" and _is_term(language, "half", key):
                return language.term(key, "half").said[0]
            if key.endswith(" maybe"):
                return f"{spoken(kind, key.removesuffix(' maybe'))} {language.term('maybe', 'maybe').said[0]}"
            if kind == "feature" and head.isdecimal():
                return f"{head} {_plural(rest, language)}"
            if kind in ("feature", "object") and _is_term(language, "over", head):
                return f"{language.term(head, 'over').said[0]} {spoken(kind, rest)}"
            if kind == "object":
                return _object_words(key, language)
        except KeyError:
            pass
        lost.append(key)
        return ""

    side = language.term(note.direction.value, "direction").said[0] if note.direction else ""
    grade = _grade_words(note.grade, language) if note.grade else ""
    pair = [side, grade] if order == "direction-first" else [grade, side]
    continues = (note.length or "").startswith("continues ")
    length = f"{spoken('length', 'continues')} {note.length.split()[-1]}" if note.length and continues else ""
    parts = [
        *(spoken("mark", m) for m in note.marks),
        *(spoken("caution", c) for c in note.cautions),
        *pair,
        length if continues else spoken("length", note.length) if note.length else "",
        *(spoken("change", c) for c in note.changes),
        *(spoken("feature", f) for f in note.features),
        *(spoken("line", x) for x in note.line_on_road),
        *(spoken("object", o) for o in note.objects),
        spoken("link", note.link) if note.link else "",
        str(note.distance_m) if note.distance_m is not None else "",
    ]
    lost += note.unread
    return Written(" ".join(p for p in parts if p), tuple(lost))


def _plural(feature: str, language: Language) -> str:
    """The counted form of a feature, such as "crests"."""
    names = (feature, feature.removesuffix("s"))
    term = next((t for t in language.terms if t.kind == "feature" and t.key in names), None)
    if term is None:
        raise KeyError(feature)
    return next((f for f in term.said if f in language.plurals), term.said[0])


def _is_term(language: Language, kind: str, key: str) -> bool:
    return any(t.kind == kind and t.key == key for t in language.terms)


def _change_words(key: str, language: Language) -> str:
    """A change with what follows it: "tightens 3", "opens long 6", "tightens very long". The length is said last.

    Raises
    ------
    KeyError
        The language has no words for it.
    """
    words = key.split()
    for count in range(len(words), 0, -1):
        if not _is_term(language, "change", head := " ".join(words[:count])):
            continue
        said, left = language.term(head, "change").said[0], words[count:]
        length = " ".join(left)
        if left and not _is_term(language, "length", length):
            said, length = f"{said} {_grade_words(left[-1], language)}", " ".join(left[:-1])
        return f"{said} {language.term(length, 'length').said[0]}" if length else said
    raise KeyError(key)


def _grade_words(grade: str, language: Language) -> str:
    for half, name in (("+", "plus"), ("-", "minus")):
        if grade.endswith(half):
            return f"{_grade_words(grade[:-1], language)} {language.term(name, 'half').said[0]}"
    return grade if grade.isdecimal() else language.term(grade, "grade").said[0]


def _object_words(key: str, language: Language) -> str:
    """An object with its side or place, such as "rocks inside", or a surface or state, in the language's words."""
    words, out = key.split(), []
    while words:
        for taken in range(len(words), 0, -1):
            name = " ".join(words[:taken])
            kind = next(
                (k for k in ("object", "side", "surface", "state", "over") if _is_term(language, k, name)), None
            )
            if kind is not None:
                out.append(language.term(name, kind).said[0])
                words = words[taken:]
                break
        else:
            raise KeyError(key)
    return " ".join(out)


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
        word, _, to = change.rpartition(" ")
        changes.append(f"{word} {named(to)}" if to[:1].isdigit() else change)
    grade = named(note.grade) if note.grade else None
    return replace(note, grade=grade, changes=tuple(changes)), tuple(lost)
