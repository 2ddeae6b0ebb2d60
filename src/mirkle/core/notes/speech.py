"""What was said in the car: words with times, parted into rehearsal, countdown, calls, remarks and what comes after.

Recognised speech comes in blocks with no respect for note borders. The words of all blocks are read as one stream (see
:mod:`mirkle.core.notes.lattice`); then what is no call is set aside with its role, a call said twice is kept once, and
notes are built from the rest. Every word of the source is in the result once, in order.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.building import Item
from mirkle.core.notes.crew import Crew
from mirkle.core.notes.language import Language, Match
from mirkle.core.notes.lattice import SMALLEST_DISTANCE_M, Reader
from mirkle.core.notes.model import Note, Reading, Span
from mirkle.core.notes.reading import Word, assemble, best_language, items_of, order_of, split_words

# A co-driver says four to six syllables a second. # common practice
SECONDS_A_SYLLABLE = 0.2
_VOWELS = re.compile(r"[aeiouyáéíóúâêôãõà]+", re.IGNORECASE)
_SYLLABLES_OF_A_FIGURE = 1.4
# So many words without a note between them are talk, however many of them a note might use.
TALK_WORDS = 3
# A cue shorter than this is one breath.
BREATH_S = 8.0
NOTE_KINDS = frozenset(
    ("direction", "grade", "change grade", "half", "length", "change", "change to", "caution", "feature", "over", "line",
     "object", "side", "surface", "state", "link", "mark", "distance")
)  # fmt: skip


@dataclass(frozen=True)
class Block:
    """A stretch of the source, characters ``span``, said from ``start_s`` on; ``end_s`` is ``None`` where unknown."""

    start_s: float
    end_s: float | None
    span: Span


@dataclass(frozen=True)
class SaidWord:
    """One word of the source. ``role`` as in the contract; ``at_s`` is good to about ``uncertainty_s``."""

    text: str
    at_s: float
    uncertainty_s: float
    role: str
    note: int | None
    read_as: str | None
    confidence: float


@dataclass(frozen=True)
class Said:
    """When a note was said: its first and last word, and how uncertain that is."""

    from_s: float
    to_s: float
    uncertainty_s: float


@dataclass(frozen=True)
class Speech:
    """What was said; ``said`` runs beside ``reading.notes``. ``go_s`` is when "go" was said, if it was heard."""

    reading: Reading
    said: tuple[Said, ...]
    words: tuple[SaidWord, ...]
    go_s: float | None

    @property
    def finish_s(self) -> float | None:
        """When the finish was called, if it was."""
        called = [s.from_s for n, s in zip(self.reading.notes, self.said, strict=True) if "finish" in n.marks]
        return called[-1] if called else None


@dataclass
class _Timed:
    """A word of the stream with its time."""

    word: Word
    at_s: float
    end_s: float
    uncertainty_s: float


def read_speech(source: str, blocks: Sequence[Block], crew: Crew) -> Speech:
    """Reads timed text.

    Raises
    ------
    UnusableNotes
        Not one corner could be read in it.
    """
    stream = _timed_words(source, blocks)
    words = [t.word for t in stream]
    language = best_language(words, crew.languages)
    order = crew.order or order_of(words, language)
    usual = _usual_distances(words, language)
    reader = Reader(language, order == "grade-first", spoken=True, usual=usual, leave=crew.leave)
    start, counted_from = _go(words, language)
    roles = dict.fromkeys(range(counted_from), "before") | dict.fromkeys(range(counted_from, start), "countdown")
    called = _without_hyphens(words[start:])
    items = items_of(called, reader.best([w.text for w in called], [w.touches for w in called]), spoken=True)
    first, last = _calls_within(items, heard_go=start > 0)
    for item in items[:first]:
        item.why = "before"
    for item in items[last:]:
        item.why = "after"
    kept = _without_talk(items[first:last])
    reading = assemble(source, kept, language, order)
    within = _same_block(blocks)
    while True:
        fragments, repeats = _fragments(reading.notes), _repeats(reading.notes, within)
        if not fragments and not repeats:
            break
        for item in kept:
            if item.note in fragments or item.note in repeats:
                item.kind, item.why = "dropped", "unread" if item.note in fragments else "repeat"
        kept = [i for i in kept if i.kind != "dropped"]
        reading = assemble(source, kept, language, order)
    if not reading.corners:
        raise UnusableNotes("no corner could be read in what was said", mend="choose the text of the calls in the car")
    _put_pauses_between_notes(stream, blocks, {n.span.start for n in reading.notes})
    by_start = {i.span.start: i for i in items}
    said_words = _said_words(source, stream, by_start, roles)
    go_s = stream[start - 1].at_s if start else None
    return Speech(_with_own_words(reading), _said(reading, stream), said_words, go_s)


def _with_own_words(reading: Reading) -> Reading:
    """The reading with each note's text made of its own words: between them may stand time stamps and talk."""
    own: dict[int, list[str]] = {}
    for token in reading.pieces:
        if token.note is not None:
            own.setdefault(token.note, []).append(token.text)
    notes = tuple(replace(n, text=" ".join(" ".join(own[n.index]).split())) for n in reading.notes)
    return replace(reading, notes=notes)


def _timed_words(source: str, blocks: Sequence[Block]) -> list[_Timed]:
    """Every word with a time: its block's time shared out by syllables."""
    out: list[_Timed] = []
    for block, following in zip(blocks, [*blocks[1:], None], strict=True):
        text = source[block.span.start : block.span.end]
        words = [
            w._replace(span=Span(w.span.start + block.span.start, w.span.end + block.span.start), line=1)
            for w in split_words(text)
        ]
        syllables = [_syllables(w.text) for w in words]
        total = sum(syllables)
        spoken_s = total * SECONDS_A_SYLLABLE
        end_s = block.end_s
        if end_s is None:
            # Coarse blocks follow each other without a gap; the last one lasts as long as its words do.
            end_s = following.start_s if following is not None else block.start_s + 1.5 * spoken_s
        length_s = max(end_s - block.start_s, 0.05)
        uncertainty_s = 0.1 + (0.08 if block.end_s is not None else 0.22) * length_s
        done = 0.0
        for word, share in zip(words, syllables, strict=True):
            at_s = block.start_s + length_s * done / max(total, 1e-9)
            done += share
            out.append(_Timed(word, at_s, block.start_s + length_s * done / max(total, 1e-9), uncertainty_s))
    return out


def _put_pauses_between_notes(stream: list[_Timed], blocks: Sequence[Block], starts: set[int]) -> None:
    """Times of coarse blocks once the notes are known: words follow each other, and pauses lie ahead of notes; in place."""
    words = iter(stream)
    word = next(words, None)
    for block, following in zip(blocks, [*blocks[1:], None], strict=True):
        inside: list[_Timed] = []
        while word is not None and word.word.span.start < block.span.end:
            inside.append(word)
            word = next(words, None)
        if block.end_s is not None or following is None or len(inside) < 2:
            continue
        borders = [i for i, t in enumerate(inside) if i and t.word.span.start in starts]
        spoken_s = [_syllables(t.word.text) * SECONDS_A_SYLLABLE for t in inside]
        spare_s = following.start_s - block.start_s - sum(spoken_s)
        if not borders or spare_s <= 0:
            continue
        at_s = block.start_s
        for i, (timed, seconds) in enumerate(zip(inside, spoken_s, strict=True)):
            at_s += spare_s / len(borders) * (i in borders)
            timed.at_s, timed.end_s = at_s, at_s + seconds
            at_s += seconds


def _syllables(text: str) -> float:
    if text.isdecimal():
        return _SYLLABLES_OF_A_FIGURE * max(1, len(text.rstrip("0")) + (len(text) > 1))
    return float(max(1, len(_VOWELS.findall(text)))) if text[0].isalpha() else 0.0


def _without_hyphens(words: Sequence[Word]) -> list[Word]:
    """The words without the hyphens that join two of them: "five-minus", "one-fifty"."""

    def joins(at: int) -> bool:
        if words[at].text not in "-–" or not words[at].touches or at + 1 >= len(words) or not words[at + 1].touches:
            return False
        return words[at - 1].text[0].isalpha() and words[at + 1].text[0].isalpha()

    return [w for i, w in enumerate(words) if not (i and joins(i))]


def _usual_distances(words: Sequence[Word], language: Language) -> frozenset[int]:
    """Distances that are said often enough to be this crew's own, however odd."""
    numbers = {f: int(t.key) for t in language.terms if t.kind == "number" for f in t.said}
    counts = Counter(int(w.text) if w.text.isdecimal() and len(w.text) < 5 else numbers.get(w.text, 0) for w in words)
    least = max(3, sum(c for n, c in counts.items() if n >= SMALLEST_DISTANCE_M) // 40)
    return frozenset(n for n, c in counts.items() if n >= SMALLEST_DISTANCE_M and c >= least)


def _go(words: Sequence[Word], language: Language) -> tuple[int, int]:
    """The first word after "go" and the first of the countdown; both 0 where none is heard.

    A countdown runs down to one by steps of one; from three is enough, and "go" after it belongs to it.
    """
    values = {
        f: int(t.key) for t in language.terms if t.kind == "number" and int(t.key) <= 10 for f in (*t.said, *t.heard)
    }
    spoken = [(i, w.text) for i, w in enumerate(words) if w.text[0].isalnum()]
    numbers = [int(t) if t.isdecimal() and len(t) < 3 else values.get(t, -1) for _, t in spoken]
    found = (0, 0)
    for at in range(len(spoken) // 2 + 1):
        length = 0
        while at + length < len(numbers) and numbers[at + length] == numbers[at] - length and numbers[at] > 0:
            length += 1
        if length and numbers[at + length - 1] == 1 and length >= 3:
            end = at + length
            while gone := [m.taken for m in _matches(language, spoken, end) if m.term.kind == "go"]:
                end += max(gone)
            behind = spoken[end][0] if end < len(spoken) else len(words)
            if behind > found[0]:
                found = (behind, spoken[at][0])
    return found


def _matches(language: Language, spoken: Sequence[tuple[int, str]], at: int) -> list[Match]:
    return language.matches([t for _, t in spoken[at : at + 3]], 0)


def _calls_within(items: Sequence[Item], *, heard_go: bool) -> tuple[int, int]:
    """Which items are the calls of the stage: behind a rehearsal or chatter, and up to the finish or the stop."""
    count = len(items)
    first = 0
    starts = [i for i in range(count // 3) if items[i].kind == "mark" and items[i].key == "start"]
    if starts:
        first = starts[-1]
    elif not heard_go:
        first = next((i for i in range(count) if _dense(items[i : i + 8])), 0)
    finishes = [i for i in range(first, count) if items[i].kind == "mark" and items[i].key in ("finish", "stop")]
    # Calls that go on after what sounded like a finish: it was none.
    if finishes and sum(i.kind == "direction" for i in items[finishes[-1] :]) <= 5:
        return first, finishes[-1] + 1
    last = count
    while last > first and not _dense(items[max(first, last - 6) : last]):
        last -= 1
    while last > first and items[last - 1].kind in ("chat", "unread", "blank", "filler"):
        last -= 1
    return first, last


def _dense(items: Sequence[Item]) -> bool:
    """Whether these items look like calls: most of them notes' words, and a corner among them."""
    telling = [i for i in items if i.kind != "blank"]
    share = sum(i.kind in NOTE_KINDS for i in telling)
    return len(telling) > 2 and share >= 0.7 * len(telling) and any(i.kind == "direction" for i in telling)


def _without_talk(items: Sequence[Item]) -> list[Item]:
    """The items without remarks and incidents, which get that as their reason; a bare word of a note among talk is talk."""
    kept: list[Item] = []
    for run, is_talk in _runs(items):
        if not is_talk:
            kept += run
            continue
        incident = any(i.kind == "incident" for i in run)
        understood = any(i.kind in ("chat", "incident") for i in run)
        for item in run:
            item.why = "incident" if incident else "remark" if understood or len(run) > TALK_WORDS else "unread"
            if item.why == "unread":
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


def _repeats(notes: Sequence[Note], same_block: Callable[[Note, Note], bool]) -> set[int]:
    """Notes that only say again what the one before, or the one after, says in full; and phrases said twice.

    Two plain notes alike in every word are kept, unless they were said in one breath: roads do that.
    """
    found: set[int] = set()
    for a, b in pairwise(notes):
        if a.index in found or b.index in found:
            continue
        shaped = len([c for c in _calls(a) if c]) > 2
        if (_says_no_more(b, a) and not _has_gap(b)) or (_same(a, b) and (shaped or same_block(a, b))):
            found.add(b.index)
        elif _says_no_more(a, b) and not _has_gap(a):
            found.add(a.index)
    if found:
        return found
    for length in (4, 3, 2):
        for at in range(len(notes) - 2 * length + 1):
            pairs = zip(notes[at : at + length], notes[at + length : at + 2 * length], strict=True)
            if all(_same(a, b) for a, b in pairs):
                return {n.index for n in notes[at + length : at + 2 * length]}
    return found


def _same_block(blocks: Sequence[Block]) -> Callable[[Note, Note], bool]:
    """Whether two notes were said in one cue of a few seconds."""
    starts = [b.span.start for b in blocks]

    def same(a: Note, b: Note) -> bool:
        at = bisect_right(starts, a.span.start) - 1
        end_s = blocks[at].end_s
        return (
            at == bisect_right(starts, b.span.start) - 1 and end_s is not None and end_s - blocks[at].start_s < BREATH_S
        )

    return same


def _fragments(notes: Sequence[Note]) -> set[int]:
    """What is no note by itself: a link word, a number, or half a corner, with nothing else said."""

    def fragment(note: Note) -> bool:
        half_a_corner = (note.direction is None) != (note.grade is None)
        if note.index == 0 and note.distance_m is not None:
            return False  # from the start line to the first note
        bare = replace(note, direction=None, grade=None)
        return (
            _calls(bare) == _calls(_NOTHING)
            and not (note.marks or note.unread)
            and (half_a_corner or not note.is_corner)
        )

    return {n.index for n in notes if fragment(n) and n.grade not in _NAMED}


_NAMED = ("hairpin", "open hairpin", "acute hairpin", "square", "flat")


def _has_gap(note: Note) -> bool:
    return note.distance_m is not None or note.link is not None


def _calls(note: Note) -> tuple[object, ...]:
    return (
        note.direction,
        note.grade,
        note.length,
        note.changes,
        note.features,
        note.cautions,
        note.objects,
        note.line_on_road,
    )


def _same(a: Note, b: Note) -> bool:
    return _calls(a) == _calls(b) and (a.distance_m, a.link) == (b.distance_m, b.link) and _calls(a) != _calls(_NOTHING)


def _says_no_more(less: Note, more: Note) -> bool:
    """Whether all that one note calls is called by the other too."""
    if less.direction != more.direction or less.grade != more.grade:
        return False
    if less.direction is None and not (less.features and less.features == more.features):
        return False
    inside = all(
        set(getattr(less, name)) <= set(getattr(more, name))
        for name in ("features", "cautions", "objects", "line_on_road")
    )
    # "opens" may be the first half of "opens 5".
    changes = all(any(m.startswith(c) for m in more.changes) for c in less.changes)
    return inside and changes and less.length in (None, more.length)


_NOTHING = Note(index=0, page=1, line=1, text="", span=Span(0, 0))


def _said_words(
    source: str, stream: Sequence[_Timed], by_start: dict[int, Item], roles: dict[int, str]
) -> tuple[SaidWord, ...]:
    """Every word of the source as it stands there, with the role and note of its first telling piece."""
    out: list[SaidWord] = []
    item: Item | None = None
    start = 0
    for number, timed in enumerate(stream):
        span = timed.word.span
        item = by_start.get(span.start, item)
        role, note, read_as, sure = roles.get(number, "after"), None, None, 1.0
        if number not in roles and item is not None and item.span.start <= span.start < item.span.end:
            owner = item.joined_to or item
            role = _role(owner)
            if role == "note":
                note, read_as, sure = owner.note, item.read_as, item.sure
        if timed.word.touches and out:
            # "L4," is one word of the source: its marks and figures go with what stands before them.
            last = out[-1]
            whole = source[start : span.end]
            out[-1] = replace(last, text=whole, read_as=last.read_as or read_as, confidence=min(last.confidence, sure))
            continue
        start = span.start
        text = source[span.start : span.end]
        if not text[0].isalnum() and role == "unread" and out:
            role, note = out[-1].role, out[-1].note
        out.append(SaidWord(text, timed.at_s, timed.uncertainty_s, role, note, read_as, sure))
    return tuple(out)


def _role(item: Item) -> str:
    if item.why in ("before", "after", "remark", "incident", "unread", "repeat"):
        return item.why
    return "note" if item.note is not None else "unread"


def _said(reading: Reading, stream: Sequence[_Timed]) -> tuple[Said, ...]:
    """First and last word of each note, by the tokens that went into it."""
    at = {t.word.span.start: t for t in stream}
    ends = {t.word.span.end: t for t in stream}
    spans: dict[int, list[Span]] = {}
    for token in reading.pieces:
        if token.note is not None:
            spans.setdefault(token.note, []).append(token.span)
    out = []
    for note in reading.notes:
        own = spans[note.index]
        first = _nearest(at, own[0].start)
        last = ends.get(own[-1].end, first)
        out.append(Said(first.at_s, last.end_s, first.uncertainty_s))
    return tuple(out)


def _nearest(at: dict[int, _Timed], start: int) -> _Timed:
    """The word that begins at a character, or the one it lies in (the second of two numbers stuck together)."""
    return at[start] if start in at else at[max(s for s in at if s <= start)]
