"""What of the words said in the car are calls: rehearsal, remarks, incidents, repeats and what comes after set aside."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from itertools import pairwise

from mirkle.core.notes.items import Item
from mirkle.core.notes.language import Language, pieces
from mirkle.core.notes.lattice import Choice
from mirkle.core.notes.model import Note, Span

# This many words without a note between them are talk, however many of them a note might use.
TALK_WORDS = 3
# Talk after the finish quotes at most this many whole corners; more show that the stage went on. A rehearsal before the start has at
# least the second number.
QUOTED, REHEARSED = 3, 10
# Lengths of the phrases that are recognised when said twice (notes), the longest first.
LONGEST_PHRASES = (4, 3, 2)
# The stop is called within this many words of the finish.
STOP_WITHIN = 12
NOTE_KINDS = frozenset(
    (
        "direction",
        "grade",
        "change grade",
        "half",
        "length",
        "change",
        "change to",
        "caution",
        "feature",
        "maybe",
        "count",
        "over",
        "line",
        "object",
        "side",
        "surface",
        "state",
        "link",
        "mark",
        "distance",
    )
)


def calls_within(items: Sequence[Item], *, heard_go: bool) -> tuple[int, int]:
    """Which items are the calls of the stage: behind a rehearsal or chatter, and up to the finish or the stop."""
    first = 0 if heard_go else _first_call(items)
    finishes = [i for i in range(first, len(items)) if items[i].kind == "mark" and items[i].key in ("finish", "stop")]
    # Calls that go on after what sounded like a finish: it was none.
    ends = [i for i in finishes if _whole_corners(items[i:]) <= QUOTED]
    if ends:
        # "Over finish, 50 to stop."
        return first, max(i for i in ends if i <= ends[0] + STOP_WITHIN) + 1
    return first, _last_call(items, first)


def _first_call(items: Sequence[Item]) -> int:
    """Where the calls begin without a "go": at the start line, else where words of notes stand close together."""
    starts = [
        i for i in range(len(items) // 3) if items[i].kind == "mark" and items[i].key == "start" and _whole_corners(items[:i]) <= REHEARSED
    ]
    return starts[-1] if starts else next((i for i in range(len(items)) if _dense(items[i : i + 8])), 0)


def _last_call(items: Sequence[Item], first: int) -> int:
    """Behind the last call, without a finish: where words of notes no longer stand close together."""
    last = len(items)
    while last > first and not _dense(items[max(first, last - 6) : last]):
        last -= 1
    while last > first and items[last - 1].kind in ("chat", "unread", "blank", "filler"):
        last -= 1
    return last


def _whole_corners(items: Sequence[Item]) -> int:
    """How many sides have their grade beside them."""
    telling = [i.kind for i in items if i.kind not in ("blank", "filler", "half")]
    return sum({a, b} == {"direction", "grade"} for a, b in pairwise(telling)) - sum(
        (a, b, c) in (("direction", "grade", "direction"), ("grade", "direction", "grade"))
        for a, b, c in zip(telling, telling[1:], telling[2:], strict=False)
    )


def _dense(items: Sequence[Item]) -> bool:
    """Whether these items look like calls: most of them notes' words, and a corner among them."""
    telling = [i for i in items if i.kind != "blank"]
    share = sum(i.kind in NOTE_KINDS for i in telling)
    return len(telling) > 2 and share >= 0.7 * len(telling) and any(i.kind == "direction" for i in telling)


def graded_before(words: Sequence[str], language: Language) -> dict[int, Choice]:
    """Talk of what a corner was, "that one was a four": its words as talk, by place, so that its figure is no grade and no distance."""
    out: dict[int, Choice] = {}
    for at in range(1, len(words)):
        # In speech these words begin a sentence: nobody calls "old four".
        if words[at - 1] not in language.subjects:
            continue
        end = _behind_phrase(words, at, language)
        if end is not None and end < len(words) and _is_grade(words[end], language):
            first = at
            while first and words[first - 1] in language.subjects:
                first -= 1
            out.update((n, Choice(1, (("chat", words[n]),), 0.0)) for n in range(first, end + 1))
    return out


def _is_grade(word: str, language: Language) -> bool:
    """Whether a word is a grade, in figures or in words."""
    if word in language.small_numbers or (word.isdecimal() and len(word) == 1):
        return True
    return any(word in t.said for t in language.terms if t.kind == "grade")


def _behind_phrase(words: Sequence[str], at: int, language: Language) -> int | None:
    """The word behind "was a left" and the like, where that stands at a place."""
    phrases = (tuple(pieces(p)) for p in language.graded_before)
    phrase = next((p for p in phrases if tuple(words[at : at + len(p)]) == p), None)
    if phrase is None:
        return None
    end = at + len(phrase)
    for skipped in (language.articles, tuple(language.directions)):
        end += end < len(words) and words[end] in skipped
    return end


def without_talk(items: Sequence[Item]) -> list[Item]:
    """The items without remarks and incidents, which get that as their role; a bare word of a note among talk is talk."""
    kept: list[Item] = []
    for run, is_talk in _runs(items):
        if not is_talk:
            kept += run
            continue
        incident = any(i.kind == "incident" for i in run)
        understood = any(i.kind in ("chat", "incident") for i in run)
        for item in run:
            item.role = "incident" if incident else "remark" if understood or len(run) > TALK_WORDS else "unread"
            if item.role == "unread":
                kept.append(item)
    return kept


def _runs(items: Sequence[Item]) -> list[tuple[list[Item], bool]]:
    """The items cut into calls and talk."""
    talk = [i.kind in ("chat", "incident", "unread", "go") for i in items]
    for at, item in enumerate(items):
        # "we left time in half of those": one word of a note with talk on both sides of it.
        before = any(talk[max(0, at - 1) : at])
        after = any(talk[at + 1 : at + 2])
        if item.kind in ("direction", "grade", "filler", "link", "over", "half") and before and after:
            talk[at] = True
    out: list[tuple[list[Item], bool]] = []
    for item, is_talk in zip(items, talk, strict=True):
        if out and out[-1][1] == is_talk:
            out[-1][0].append(item)
        else:
            out.append(([item], is_talk))
    return out


def repeats(notes: Sequence[Note], same_block: Callable[[Note, Note], bool]) -> set[int]:
    """Notes that only say again what the one before, or the one after, says in full; and phrases said twice.

    Two plain notes alike in every word are kept, unless they were said in one breath: roads do that.
    """
    return _said_twice(notes, same_block) or next(filter(None, (_phrases_twice(notes, length) for length in LONGEST_PHRASES)), set())


def _said_twice(notes: Sequence[Note], same_block: Callable[[Note, Note], bool]) -> set[int]:
    """Notes that say no more than their neighbour, which has a distance."""
    found: set[int] = set()
    for a, b in pairwise(notes):
        if a.borrows or not found.isdisjoint((a.index, b.index)):
            continue
        again = _same(a, b) and (_calls_more_than_a_corner(a) or same_block(a, b))
        if again or _adds_nothing(b, a):
            found.add(b.index)
        elif _adds_nothing(a, b):
            found.add(a.index)
    return found


def _adds_nothing(less: Note, more: Note) -> bool:
    """Whether a note calls nothing that another doesn't, and has no distance of its own."""
    return _says_no_more(less, more) and not _has_gap(less)


def _calls_more_than_a_corner(note: Note) -> bool:
    return sum(bool(part) for part in _calls(note)) > 2


def _phrases_twice(notes: Sequence[Note], length: int) -> set[int]:
    """The notes of phrases of a length that were just said."""
    found: set[int] = set()
    at = 0
    while at + 2 * length <= len(notes):
        again = notes[at + length : at + 2 * length]
        said = all(_same(a, b) for a, b in zip(notes[at : at + length], again, strict=True))
        found |= {n.index for n in again} if said else set()
        # What is said a third time is held against what was said the second: they are alike.
        at += length if said else 1
    return found


def fragments(notes: Sequence[Note]) -> set[int]:
    """What is no note by itself: a link word, a number, or half a corner, with nothing else said."""

    def fragment(note: Note) -> bool:
        if note.index == 0 and note.distance_m is not None:
            return False  # from the start line to the first note
        tells = _calls(replace(note, direction=None, grade=None)) != _calls(_NOTHING) or bool(note.marks)
        if note.direction is None:
            return not tells
        # A side whose grade could not be read is a corner all the same.
        return not tells and note.grade is None and not note.unread

    return {n.index for n in notes if fragment(n) and n.grade not in _NAMED}


_NAMED = ("hairpin", "open hairpin", "acute hairpin", "square", "flat")


def _has_gap(note: Note) -> bool:
    return note.distance_m is not None or note.link is not None


def _calls(note: Note) -> tuple[object, ...]:
    return (note.direction, note.grade, note.length_terms, note.changes, note.features, note.cautions, note.objects, note.line_on_road)


def _same(a: Note, b: Note) -> bool:
    return _calls(a) == _calls(b) and (a.distance_m, a.link) == (b.distance_m, b.link) and _calls(a) != _calls(_NOTHING)


def _says_no_more(less: Note, more: Note) -> bool:
    """Whether all that one note calls is called by the other too."""
    if (less.direction, less.grade) != (more.direction, more.grade):
        return False
    if less.direction is None and not (less.features and less.features == more.features):
        return False
    inside = all(set(getattr(less, name)) <= set(getattr(more, name)) for name in ("features", "cautions", "objects", "line_on_road"))
    changes = all(any(c.begins(m) for m in more.changes) for c in less.changes)
    return inside and changes and less.length in (None, more.length)


_NOTHING = Note(index=0, page=1, line=1, text="", span=Span(0, 0))
