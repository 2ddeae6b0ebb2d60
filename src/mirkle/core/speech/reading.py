"""What was said in the car: words with times, parted into rehearsal, countdown, calls, remarks and what comes after.

Recognised speech comes in blocks with no respect for note borders. The words of all blocks are read as one stream: against
the book where there is one (:mod:`mirkle.core.speech.book_alignment`), freely where not and where the words depart from it
(:mod:`mirkle.core.notes.lattice`, :mod:`mirkle.core.notes.repairs`). Then what is no call is set aside with its role
(:mod:`mirkle.core.speech.chatter`), a call said twice is kept once, and notes are built from the rest. Every word of the source is
in the result once, in order.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.grading import WORDS
from mirkle.core.notes.items import Item
from mirkle.core.notes.language import Language, Match
from mirkle.core.notes.lattice import APART, DISTANCE_DIGITS, PARTED, SMALLEST_DISTANCE_M, TOUCHES, Reader
from mirkle.core.notes.model import Offer, Reading, Span
from mirkle.core.notes.reading import assemble, best_language, graded_as, items_of, order_of
from mirkle.core.notes.repairs import settle
from mirkle.core.notes.tokens import Word, check_length
from mirkle.core.speech.book_alignment import BookAlignment, align
from mirkle.core.speech.chatter import calls_within, fragments, graded_before, repeats, without_talk
from mirkle.core.speech.delivery import CalledWords, ReadOver, Spoken, spoken_of, stretch_of
from mirkle.core.speech.timed_words import Block, TimedWord, put_pauses_between_notes, same_block, timed_words


@dataclass(frozen=True)
class SpokenWord:
    """One word of the source. ``role`` as in the contract; ``at_s`` is good to about ``uncertainty_s``.

    ``read_as`` is set where it was repaired, ``offer`` where it only might be; ``start`` is its first character in the
    source.
    """

    text: str
    at_s: float
    uncertainty_s: float
    role: str
    note: int | None
    read_as: str | None
    confidence: float
    start: int
    offer: Offer | None = None


@dataclass(frozen=True)
class CallTime:
    """When a note was said: its first and last word, and how uncertain that is."""

    from_s: float
    to_s: float
    uncertainty_s: float


@dataclass(frozen=True)
class Speech:
    """What was said; ``said`` runs beside ``reading.notes``. ``go_s`` is when "go" was said, if it was heard.

    ``spoken`` says of each note of the book how it was said; it is empty where the words were read without a book. ``tied`` is what the
    words' clock reads more than the recording's, and how uncertain that is, where the sound itself told it.
    """

    reading: Reading
    said: tuple[CallTime, ...]
    words: tuple[SpokenWord, ...]
    go_s: float | None
    spoken: tuple[Spoken, ...] = ()
    tied: tuple[float, float] | None = None

    @property
    def finish_s(self) -> float | None:
        """When the finish was called, if it was."""
        called = [s.from_s for n, s in zip(self.reading.notes, self.said, strict=True) if "finish" in n.marks]
        return called[-1] if called else None


def read_speech(source: str, blocks: Sequence[Block], crew: CrewProfile, *, book: Reading | None = None) -> Speech:
    """Reads timed text, against the ``book`` that was read from where there is one.

    Raises
    ------
    UnusableNotes
        Not one corner could be read in it.
    """
    stream = timed_words(source, blocks)
    words = [t.word for t in stream]
    check_length(words)
    language = _graded_language(words, _language(words, crew, book), book)
    order = crew.order or order_of(words, language)
    start, counted_from = _go(words, language)
    called = _without_marks(words[start:])
    against = align([w.text for w in called], book, language, order=order) if book is not None else None
    reader = Reader(language, order == "grade-first", spoken=True, usual=_usual_distances(words, language), leave=crew.leave)
    items = _heard_items(source, called, reader, against)
    _leave_torn_numbers(items, reader)
    kept = _calls_of(items, called, against, heard_go=start > 0)
    within = same_block(blocks)

    def again(reading: Reading) -> set[int]:
        found = repeats(reading.notes, within)
        return found - _two_of_the_book(reading, found, against, called)

    reading = _without_fragments(lambda items: assemble(source, items, language, order), kept, again)
    if not reading.corners:
        raise UnusableNotes("no corner could be read in what was said", mend="choose the text of the calls in the car")
    put_pauses_between_notes(stream, blocks, reading.notes)
    roles = dict.fromkeys(range(counted_from), "before") | dict.fromkeys(range(counted_from, start), "countdown")
    said_words = _said_words(source, stream, {i.span.start: i for i in items}, roles)
    go_s = stream[start - 1].at_s if start else None
    speech = Speech(_with_own_words(reading), _said(reading, stream), said_words, go_s)
    if book is None or against is None:
        return speech
    said = CalledWords(called, stream, _corrections(items, called), _starts_outside_calls(items))
    over = _read_over(source, _without_marks(words[:counted_from]), reader, book, stream)
    return replace(speech, spoken=_spoken_with_reading_over(spoken_of(book, against, speech.reading, said), over))


def _starts_outside_calls(items: Sequence[Item]) -> frozenset[int]:
    """Where the items begin that were said before or behind the calls."""
    return frozenset(i.span.start for i in items if i.role in ("before", "after"))


def _spoken_with_reading_over(spoken: Sequence[Spoken], over: Mapping[int, ReadOver]) -> tuple[Spoken, ...]:
    """How each note was called, with how it was read over on the way to the start."""
    return tuple(replace(s, read_over=over.get(n)) for n, s in enumerate(spoken))


def _graded_language(words: Sequence[Word], language: Language, book: Reading | None) -> Language:
    """The language with grades that are words where the book has such, or where they are said without one."""
    if book is None:
        return graded_as(words, language)
    return language.grading_by_words if any(n.grade in WORDS for n in book.notes) else language


def _heard_items(source: str, words: Sequence[Word], reader: Reader, against: BookAlignment | None) -> list[Item]:
    """What was said as items: where the book has it as it stands there, else by what is likeliest."""
    texts, joints = [w.text for w in words], _joints(source, words)
    fixed = (against.fixed(texts) if against else {}) | graded_before(texts, reader.language)
    settled = settle(reader, texts, joints, fixed=fixed)
    return items_of(words, settled.choices, settled)


def _without_fragments(assembled: Callable[[list[Item]], Reading], items: list[Item], again: Callable[[Reading], set[int]]) -> Reading:
    """The notes of what was said without fragments of talk and without what was said again; what is dropped gets its role, in place."""
    reading = assembled(items)
    while (parts := fragments(reading.notes)) | (repeated := again(reading)):
        for item in items:
            if item.note in parts or item.note in repeated:
                item.role = "unread" if item.note in parts else "repeat"
        items = [i for i in items if i.note not in parts and i.note not in repeated]
        reading = assembled(items)
    return reading


def _read_over(source: str, words: Sequence[Word], reader: Reader, book: Reading, stream: Sequence[TimedWord]) -> dict[int, ReadOver]:
    """The notes that were read over ahead of the countdown otherwise than they stand in the book, by their index."""
    if not words:
        return {}
    order = "grade-first" if reader.grade_first else "direction-first"
    against = align([w.text for w in words], book, reader.language, order=order)
    items = _heard_items(source, words, reader, against)
    read = _with_own_words(assemble(source, without_talk(items), reader.language, order))
    spoken = spoken_of(book, against, read, CalledWords(words, stream, _corrections(items, words)))
    return {
        note: ReadOver(read.notes[how.note], how) for note, how in enumerate(spoken) if how.said_as == "otherwise" and how.note is not None
    }


def _language(words: Sequence[Word], crew: CrewProfile, book: Reading | None) -> Language:
    """The language of the book if its words are said, else the one that knows most of them."""
    found = best_language(words, crew.languages)
    own = next((la for la in crew.languages if book is not None and la.code == book.language), found)
    known = sum(own.knows(w.text) for w in words)
    return own if 2 * known >= sum(found.knows(w.text) for w in words) else found


def _leave_torn_numbers(items: Sequence[Item], reader: Reader) -> None:
    """Leaves a distance unread where a harmed part of it may stand ahead: "threw hundred" is no 100; in place."""
    for before, item in pairwise(items):
        if item.kind != "distance" or before.kind != "unread" or not item.text[0].isalpha():
            continue
        bare = item.text.split()[0] in reader.language.multiplied
        sounds = [term.kind for term, _, _ in reader.sounds.nearest(before.text)]
        if bare or "number" in sounds[:1]:
            item.kind, item.key = "unread", item.text


def _calls_of(items: list[Item], called: Sequence[Word], against: BookAlignment | None, *, heard_go: bool) -> list[Item]:
    """The items that are calls; the others get the role that they have instead."""
    first, last = calls_within(items, heard_go=heard_go)
    repeated: frozenset[int] = frozenset()
    if against is not None:
        starts = [w.span.start for w in called]
        begin, end, again = stretch_of(against, len(called), heard_go=heard_go, corrections=_corrections(items, called))
        if begin is not None:
            first = bisect_left(items, starts[begin], key=_start)
        if end is not None:
            last = bisect_right(items, starts[end], key=_start)
        repeated = frozenset(starts[w] for w in again)
    _give_role("before", items[:first])
    _give_role("after", items[last:])
    kept = without_talk(items[first:last])
    _give_role("repeat", [i for i in kept if i.span.start in repeated])
    return [i for i in kept if i.role != "repeat"]


def _start(item: Item) -> int:
    return item.span.start


def _give_role(role: str, items: Sequence[Item]) -> None:
    """Says of items what they are instead of calls; in place."""
    for item in items:
        item.role = role


def _two_of_the_book(reading: Reading, again: set[int], against: BookAlignment | None, called: Sequence[Word]) -> set[int]:
    """Of the notes that seem to say again what a neighbour says those that are another note of the book: two corners alike."""
    if against is None:
        return set()
    own = _note_of_the_book(reading, {called[h.first].span.start: v.note for v in against.visits for h in v.heard})
    return {n for n in again if n in own and own[n] not in (own.get(n - 1), own.get(n + 1))}


def _note_of_the_book(reading: Reading, starts: Mapping[int, int]) -> dict[int, int]:
    """For each note that was said the note of the book that most of its pieces are; ``starts`` are the book's notes by their place."""
    found: dict[int, Counter[int]] = {}
    for piece in reading.pieces:
        if piece.note is not None and piece.span.start in starts:
            found.setdefault(piece.note, Counter())[starts[piece.span.start]] += 1
    return {note: count.most_common(1)[0][0] for note, count in found.items()}


def _corrections(items: Sequence[Item], called: Sequence[Word]) -> frozenset[int]:
    """The words that end a correction such as "no" or "I mean", as indices of the words that were read."""
    ends = {i.span.end for i in items if i.kind == "correction" and not i.role}
    return frozenset(n for n, word in enumerate(called) if word.span.end in ends)


def _without_marks(words: Sequence[Word]) -> list[Word]:
    """The words without a recogniser's punctuation, which carries no meaning: only a plus sign is said."""
    return [w for w in words if w.text[0].isalnum() or w.text == "+"]


def _joints(source: str, words: Sequence[Word]) -> list[int]:
    """How each word follows the one before: :data:`PARTED` behind a mark that parts words."""
    out = [APART]
    for before, word in pairwise(words):
        between = source[before.span.end : word.span.start]
        out.append(TOUCHES if word.touches else PARTED if any(mark in between for mark in ",.;:") else APART)
    return out[: len(words)]


def _with_own_words(reading: Reading) -> Reading:
    """The reading with each note's text made of its own words: between them may stand time stamps and talk."""
    own: dict[int, list[str]] = {}
    for token in reading.pieces:
        if token.note is not None:
            own.setdefault(token.note, []).append(token.text)
    notes = tuple(replace(n, text=" ".join(" ".join(own[n.index]).split())) for n in reading.notes)
    return replace(reading, notes=notes)


# A distance is a crew's own if it is said this often, and is at least one in this number of all distances.
OFTEN, ONE_IN = 3, 40


def _figure(text: str) -> int:
    """The number of metres that is written in figures; 0 where it is none."""
    return int(text) if text.isdecimal() and len(text) <= DISTANCE_DIGITS else 0


def _usual_distances(words: Sequence[Word], language: Language) -> frozenset[int]:
    """Distances that are said often enough to be this crew's own, however odd."""
    numbers = {f: int(t.key) for t in language.terms if t.kind == "number" for f in t.said}
    said = (numbers.get(w.text, 0) or _figure(w.text) for w in words)
    counts = Counter(metres for metres in said if metres >= SMALLEST_DISTANCE_M)
    least = max(OFTEN, counts.total() // ONE_IN)
    return frozenset(metres for metres, count in counts.items() if count >= least)


def _go(words: Sequence[Word], language: Language) -> tuple[int, int]:
    """The first word after "go" and the first of the countdown; both 0 where none is heard.

    A countdown runs down to one by steps of one; from three is enough. The last one that ends in "go" counts; only where
    none does, one without it.
    """
    spoken = [(i, w.text) for i, w in enumerate(words) if w.text[0].isalnum()]
    numbers = _figures([text for _, text in spoken], language)
    found = (False, 0, 0)
    for at in range(len(spoken) // 2 + 1):
        end = _end_of_countdown(numbers, at)
        if end is None:
            continue
        behind_go = _behind_go(spoken, end, language)
        behind = spoken[behind_go][0] if behind_go < len(spoken) else len(words)
        if behind > found[1] or found[0] < (behind_go > end):
            found = max(found, (behind_go > end, behind, spoken[at][0]))
    return found[1], found[2]


def _figures(texts: Sequence[str], language: Language) -> list[int]:
    """The numbers up to ten among some words, -1 for other words."""
    numbers = [t for t in language.terms if t.kind == "number" and int(t.key) <= 10]
    values = {f: int(t.key) for t in numbers for f in (*t.said, *t.heard)}
    return [int(t) if t.isdecimal() and len(t) < 3 else values.get(t, -1) for t in texts]


def _behind_go(spoken: Sequence[tuple[int, str]], at: int, language: Language) -> int:
    """The place behind all that says "go" from a place on."""
    while gone := [m.taken for m in _matches(language, spoken, at) if m.term.kind == "go"]:
        at += max(gone)
    return at


# The fewest numbers of a countdown.
SHORTEST_COUNTDOWN = 3


def _end_of_countdown(numbers: Sequence[int], at: int) -> int | None:
    """The place behind a countdown that begins at a place: down to one by steps of one, from three at least."""
    first = numbers[at] if at < len(numbers) else 0
    end = at + first
    if first < SHORTEST_COUNTDOWN or list(numbers[at:end]) != list(range(first, 0, -1)):
        return None
    return end


def _matches(language: Language, spoken: Sequence[tuple[int, str]], at: int) -> list[Match]:
    return language.matches([t for _, t in spoken[at : at + 3]], 0)


def _said_words(source: str, stream: Sequence[TimedWord], by_start: dict[int, Item], roles: dict[int, str]) -> tuple[SpokenWord, ...]:
    """Every word of the source as it stands there, with the role and note of its first telling piece."""
    out: list[SpokenWord] = []
    item: Item | None = None
    start = 0
    for number, timed in enumerate(stream):
        span = timed.word.span
        item = by_start.get(span.start, item)
        inside = item is not None and item.span.start <= span.start < item.span.end
        role, note, read_as, sure, offer = _what_it_is(roles.get(number, ""), item if inside else None)
        if timed.word.touches and out:
            # "L4," is one word of the source: its marks and figures go with what stands before them.
            last = out[-1]
            text, role, read_as = source[start : span.end], last.role or role, last.read_as or read_as
            sure, offer, note = min(last.confidence, sure), last.offer or offer, last.note
            out[-1] = SpokenWord(text, last.at_s, last.uncertainty_s, role, note, read_as, sure, start, offer)
            continue
        start = span.start
        if not role and out:
            # A mark by itself goes with the word before it.
            role, note = out[-1].role, out[-1].note
        text = source[span.start : span.end]
        out.append(SpokenWord(text, timed.at_s, timed.uncertainty_s, role or "before", note, read_as, sure, start, offer))
    return tuple(out)


def _what_it_is(role: str, item: Item | None) -> tuple[str, int | None, str | None, float, Offer | None]:
    """The role of a word, the note that it belongs to, what it is read as and how surely, and what it may be: by its role if it has one,
    else by the item that it lies in."""
    if role or item is None:
        return role, None, None, 1.0, None
    owner = item.joined_to or item
    if _role(owner) != "note":
        return _role(owner), None, None, 1.0, item.offer
    return "note", owner.note, item.read_as, item.sure, item.offer


def _role(item: Item) -> str:
    return item.role or ("note" if item.note is not None else "unread")


def _said(reading: Reading, stream: Sequence[TimedWord]) -> tuple[CallTime, ...]:
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
        out.append(CallTime(first.at_s, last.end_s, first.uncertainty_s))
    return tuple(out)


def _nearest(at: dict[int, TimedWord], start: int) -> TimedWord:
    """The word that begins at a character, or the one it lies in (the second of two numbers stuck together)."""
    return at[start] if start in at else at[max(s for s in at if s <= start)]
