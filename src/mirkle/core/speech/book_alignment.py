"""What was said read against the book: which of its notes each word belongs to, and what departs from it.

The book's next notes are by far the strongest context for harmed words, so the words are aligned with the book before any of
them is read freely. The book is laid out as one line of *places*, each a term of a note in the order in which it is said; a
Viterbi search over words × places finds the cheapest way through both. From one word to the next the voice

- goes on: one to five words are the next place, as it is said, as it is often misheard, or as something that sounds alike;
- leaves a place out, or says words that are none of the book's;
- says another term of the same kind: another side, another number;
- jumps to the beginning of a later note (notes skipped, a late catch-up) or of an earlier one (said again, in another order).

A word that is a place of the book by its sound is that term, without a guess; everything else is read freely. Costs are
negative log odds; what they add up to for one note says whether it was said as it is written.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import groupby, pairwise
from typing import NamedTuple, Protocol

import numpy as np
from numpy.typing import NDArray

from mirkle.core.notes.language import Language, Term, pieces
from mirkle.core.notes.lattice import DISTANCE_DIGITS, FARTHEST_M, SMALLEST_DISTANCE_M, Choice
from mirkle.core.notes.model import Reading, Token
from mirkle.core.notes.phonetics import Lexicon

Floats = NDArray[np.float64]

# What each move costs, in nats; hand-set like the grammar's, and tried on harmed calls (bench/reading.py).
CONFUSED = 0.9
MISHEARD, ALIKE, PER_UNLIKE, MOST_UNLIKE = 0.5, 0.4, 4.5, 0.5
# What steers must be nearer.
STEERING, MOST_UNLIKE_STEERING = ("direction", "grade", "line"), 0.4
OTHER_NUMBER, OTHER_SIDE, OTHER_WORD = 2.2, 2.6, 2.2
ADDED = {"filler": 0.2, "chat": 0.4, "link": 0.6, "over": 0.6, "unknown": 0.9, "number": 1.8}
ADDED_TERM = 1.6
LEFT_OUT = {"direction": 2.2, "number": 2.0, "link": 0.5, "over": 0.4, "filler": 0.1, "half": 0.9}
LEFT_OUT_TERM = 1.2
SKIP, PER_SKIPPED, MOST_SKIP = 1.5, 0.2, 6.0
PER_BEFORE = 0.1
AGAIN, PER_BACK = 1.8, 0.4
LONGEST = 5
# Terms that change what a driver does.
TELLING = ("direction", "grade", "change", "line", "feature", "caution", "length")
# Small words that are no place of their own.
NO_PLACE = ("blank", "filler", "unread word of theirs", "list number", "place", "bullet", "title")


@dataclass(frozen=True)
class Place:
    """One term of the book where it is said: the note it belongs to, and its kind and name."""

    note: int
    kind: str
    key: str

    @property
    def sort(self) -> tuple[str, str]:
        """What it is as words: numbers alike whatever they count."""
        return ("number", self.key) if self.key.isdecimal() else (self.kind.removesuffix(" to"), self.key)


class HeardTerm(NamedTuple):
    """Words ``first`` to ``first + words`` taken for a place; ``how`` is ``same``, ``heard``, ``sound``, ``confused``,
    ``part`` or ``other``."""

    place: int
    first: int
    words: int
    how: str
    unlike: float


@dataclass
class Visit:
    """One time that a note was said: its places as they were heard one after the other, and words among them that are none."""

    note: int
    heard: list[HeardTerm] = field(default_factory=list)
    added: list[int] = field(default_factory=list)

    @property
    def first(self) -> int:
        """The first word that belongs to it."""
        return self.heard[0].first

    @property
    def last(self) -> int:
        """The last word that belongs to it."""
        return self.heard[-1].first + self.heard[-1].words - 1


# Terms of talk.
_TALK = ("chat", "filler")


@dataclass(frozen=True)
class BookAlignment:
    """The words beside the book. ``visits`` stand in the order in which they were said.

    ``telling`` are the words at which a term begins that would change what a driver does.
    """

    places: tuple[Place, ...]
    visits: tuple[Visit, ...]
    telling: frozenset[int] = frozenset()

    @cached_property
    def sizes(self) -> Counter[int]:
        """How many places each note has."""
        return Counter(p.note for p in self.places)

    def fixed(self, words: Sequence[str]) -> dict[int, Choice]:
        """The readings that the book settles, by the word at which they begin."""
        every = [h for visit in self.visits for h in visit.heard]
        out = {h.first: self._as_in_the_book(h, words) for h in every if self._is_settled(h)}
        for visit in self.visits:
            for a, b in pairwise(visit.heard):
                if a.first == b.first:
                    both = tuple((self.places[p].kind, self.places[p].key) for p in (a.place, b.place))
                    figures = " ".join(key for _, key in both)
                    out[a.first] = Choice(1, both, 0.0, "two numbers stuck together", figures, "book", 0.0)
        return out

    def _is_settled(self, heard: HeardTerm) -> bool:
        """Whether the book says what a word is: not where another one was said, or a figure that may be several things."""
        place = self.places[heard.place]
        if heard.how in ("other", "part") or place.kind == "unread":
            return False
        return heard.how != "same" or place.key.isdecimal()

    def _as_in_the_book(self, heard: HeardTerm, words: Sequence[str]) -> Choice:
        """A term as the book has it, and a sentence where it was said otherwise."""
        place, parts = self.places[heard.place], ((self.places[heard.place].kind, self.places[heard.place].key),)
        if heard.how == "same":
            return Choice(heard.words, parts, 0.0, "", "", "", heard.unlike)
        said = " ".join(words[heard.first : heard.first + heard.words])
        why = f"“{said}” stands where your notes have it"
        return Choice(heard.words, parts, 0.0, why, place.key, "book", heard.unlike)


def places_of(book: Reading, *, order: str) -> tuple[Place, ...]:
    """The book as it is said, with its sides and grades in the order in which this crew says them."""
    out: list[Place] = []
    telling = sorted((t for t in book.pieces if t.note is not None and t.kind not in NO_PLACE), key=_note_of)
    for note, tokens in groupby(telling, key=_note_of):
        own = [p for t in tokens for p in _places(note, t)]
        own = own if order == book.order else list(_turned(own))
        out += _distance_with_the_note_before(own) if book.distance_first and note else own
    return tuple(out)


def _distance_with_the_note_before(own: list[Place]) -> list[Place]:
    """The places of a note where the distance is written at the head of the line: it is said with the note before."""
    gap = next((n for n, p in enumerate(own) if p.kind not in ("distance", "link")), 0)
    return [*(replace(p, note=p.note - 1) for p in own[:gap]), *own[gap:]]


def _note_of(token: Token) -> int:
    return token.note if token.note is not None else -1


def _places(note: int, token: Token) -> Iterator[Place]:
    kind, key = token.kind, token.key or token.text.lower()
    if kind == "mark" and key == "page":
        return
    if kind in ("grade", "change grade") and key[-1] in "+-":
        yield Place(note, kind, key[:-1])
        yield Place(note, "half", "plus" if key[-1] == "+" else "minus")
    else:
        yield Place(note, kind, key)


def _turned(own: Sequence[Place]) -> Iterator[Place]:
    """The places of a note with a side and the grade beside it in the other order."""
    at = 0
    while at < len(own):
        pair = {p.kind for p in own[at : at + 2]}
        if pair == {"direction", "grade"}:
            half = at + 2 < len(own) and own[at].kind == "direction" and own[at + 2].kind == "half"
            yield own[at + 1]
            if half:
                yield own[at + 2]
            yield own[at]
            at += 2 + half
        else:
            yield own[at]
            at += 1


@dataclass
class _Entry:
    """One way to take some words: for ``places`` (their numbers), at a cost."""

    words: int
    places: NDArray[np.intp]
    cost: float
    how: str
    unlike: float
    # Two numbers stuck together are two places.
    takes: int = 1
    # What was said where it is another term than the place's.
    said: tuple[str, str] | None = None


class _Offer(Protocol):
    def __call__(self, words: int, sort: tuple[str, str], cost: float, how: str, unlike: float = 0.0) -> None: ...


# What is no number is said in at most this many words.
WORDS_OF_A_TERM = 3


class _Sounds:
    """What each stretch of words can be in this book; remembered, since crews say the same again and again."""

    def __init__(self, places: Sequence[Place], language: Language) -> None:
        self.language = language
        where: dict[tuple[str, str], list[int]] = {}
        for number, place in enumerate(places):
            where.setdefault(place.sort, []).append(number)
        self.where = {sort: np.array(at, dtype=np.intp) for sort, at in where.items()}
        forms = [(sort, form) for sort in self.where for form in _forms(sort, language) if len(form) > 2]
        # The sort of each form, row by row of the lexicon.
        self.sorts = [sort for sort, _ in forms]
        self.lexicon = Lexicon([form for _, form in forms], language.sound_rules)
        self.parts = {sort: _parts(sort, language) for sort in self.where}
        self._known_others: dict[tuple[str, str], dict[str, NDArray[np.intp]]] = {}
        self._meaning: dict[str, bool] = {}
        self._spans: dict[tuple[str, ...], tuple[tuple[str, ...], ...]] = {}
        self._near: dict[str, list[tuple[tuple[str, str], float]]] = {}
        self.numbers = [p.key if p.key.isdecimal() else "" for p in places]
        self._known: dict[tuple[str, ...], tuple[list[_Entry], float]] = {}

    def of(self, words: Sequence[str], at: int) -> tuple[list[_Entry], float]:
        """The entries that begin at a word, and what the word costs where it is none of the book's."""
        window = tuple(words[at : at + LONGEST])
        found = self._known.get(window)
        if found is None:
            found = self._known[window] = (self._entries(window), self._added(window))
        return found

    def _added(self, window: Sequence[str]) -> float:
        if window[0].isdecimal():
            return ADDED["number"]
        kinds = {m.term.kind for m in self.language.matches(window[:1], 0) if m.way != "heard"}
        if not kinds:
            return ADDED["unknown"]
        return min(ADDED.get(kind, ADDED_TERM) for kind in kinds)

    def _entries(self, window: tuple[str, ...]) -> list[_Entry]:
        best: dict[tuple[int, tuple[str, str]], tuple[float, str, float]] = {}

        def offer(words: int, sort: tuple[str, str], cost: float, how: str, unlike: float = 0.0) -> None:
            if sort in self.where and cost < best.get((words, sort), (math.inf, "", 0.0))[0]:
                best[words, sort] = (cost, how, unlike)

        said = [*self._terms_said(window, offer), *self._numbers_said(window, offer)]
        offer(1, ("unread", window[0]), 0.0, "same")
        self._alike(window, offer)
        entries = [_Entry(n, self.where[sort], *rest) for (n, sort), rest in best.items()]
        entries += self._stuck(window[0])
        return [*entries, *(entry for taken, (kind, key) in said for entry in self._others(taken, kind, key))]

    def _terms_said(self, window: tuple[str, ...], offer: _Offer) -> Iterator[tuple[int, tuple[str, str]]]:
        """The terms that the first words say; one that is only often heard for a side or a line may stand for another."""
        for match in self.language.matches(window, 0):
            sort = (match.term.kind, match.term.key)
            if match.way == "heard":
                offer(match.taken, sort, MISHEARD, "heard", 0.2)
                means_it = sort[0] in ("direction", "line")
            elif match.way == "said" or window[0] == "+":
                offer(match.taken, sort, 0.0, "same")
                means_it = sort[0] not in ("chat", "filler")
            else:
                continue
            if means_it:
                yield match.taken, sort

    def _numbers_said(self, window: tuple[str, ...], offer: _Offer) -> Iterator[tuple[int, tuple[str, str]]]:
        """The numbers that the first words say."""
        for taken, value, misheard in _numbers(window, self.language):
            sort = ("number", str(value))
            offer(taken, sort, MISHEARD * misheard, "heard" if misheard else "same")
            if not misheard:
                yield taken, sort

    def listen(self, words: Sequence[str]) -> None:
        """Holds every stretch of the words that may be a harmed term against the book's terms, all at once."""
        windows = {tuple(words[at : at + LONGEST]) for at in range(len(words))}
        self._spans = {window: tuple(self._harmed(window)) for window in windows}
        texts = sorted({"".join(span) for spans in self._spans.values() for span in spans})
        if texts and self.sorts:
            self._near.update(zip(texts, map(self._alike_sorts, self.lexicon.unlike(texts)), strict=True))

    def _alike_sorts(self, unlike: Floats) -> list[tuple[tuple[str, str], float]]:
        """The sorts of terms that sound like a stretch of words, and how unlike each is; ``unlike`` by form of the lexicon."""
        near = [(self.sorts[n], float(unlike[n])) for n in np.flatnonzero(unlike <= MOST_UNLIKE)]
        return [(sort, u) for sort, u in near if sort[0] not in STEERING or u <= MOST_UNLIKE_STEERING]

    def _harmed(self, window: tuple[str, ...]) -> Iterator[tuple[str, ...]]:
        """The stretches at the head of these words that may be something else than they stand there."""
        terms = {m.taken for m in self.language.matches(window, 0) if m.way == "said" and m.term.kind not in _TALK}
        for taken, word in enumerate(window, start=1):
            own = window[:taken]
            if not word[0].isalpha() or self._too_long(own):
                return
            stands = taken in terms or (taken == 1 and word in self.language.leading_on) or all(map(self._means_something, own))
            if not stands and len("".join(own)) > 2:
                yield own

    def _too_long(self, span: Sequence[str]) -> bool:
        """Whether no term has these words: only numbers are said in more than :data:`WORDS_OF_A_TERM`."""
        return len(span) > WORDS_OF_A_TERM and sum(w in self.language.number_pieces for w in span) < 2

    def _alike(self, window: tuple[str, ...], offer: _Offer) -> None:
        for span in self._spans.get(window, ()):
            alone = [w for w in span if self._means_something(w)]
            for sort, unlike in self._near.get("".join(span), ()):
                if len(span) > WORDS_OF_A_TERM and sort[0] != "number":
                    continue
                # A word that means something by itself is not swallowed by a term that it is no part of.
                if all(w in self.parts[sort] for w in alone):
                    offer(len(span), sort, ALIKE + PER_UNLIKE * unlike + 0.3 * (len(span) - 1), "sound", unlike)

    def _means_something(self, word: str) -> bool:
        found = self._meaning.get(word)
        if found is None:
            found = self._meaning[word] = word.isdecimal() or any(
                m.way != "heard" and m.term.kind not in ("chat", "filler", "link", "over", "half") for m in self.language.matches([word], 0)
            )
        return found

    def _others(self, taken: int, kind: str, key: str) -> list[_Entry]:
        """Another term of the same kind than is written: the words stand, and the place is said otherwise."""
        said = (kind, key)
        found = self._known_others.get(said)
        if found is None:
            where: dict[str, list[NDArray[np.intp]]] = {"confused": [], "part": [], "other": []}
            for sort, at in self.where.items():
                if _instead(said, sort):
                    where[self._confused(key, sort[1]) if kind == sort[0] == "number" else "other"].append(at)
            found = self._known_others[said] = {how: np.sort(np.concatenate(at)) for how, at in where.items() if at}
        other = OTHER_SIDE if kind == "direction" else OTHER_NUMBER if kind == "number" else OTHER_WORD
        costs = {"confused": CONFUSED, "part": CONFUSED, "other": other}
        return [_Entry(taken, at, costs[how], how, 1.0, said=said) for how, at in found.items()]

    def apart(self, said: tuple[str, str], written: tuple[str, str]) -> float:
        """How unlike two terms sound; 1 where one of them has no word of its own."""
        forms = [_forms(sort, self.language)[:1] for sort in (said, written)]
        return self.language.unlikeness(forms[0][0], forms[1][0]) if all(forms) else 1.0

    def _confused(self, said: str, written: str) -> str:
        """How a recogniser comes to write one number for the other: ``confused`` where it is known to (-teen for -ty, a zero
        lost or too many), ``part`` where a part of it was lost, else ``other``.
        """
        heard, meant = int(said), int(written)
        if heard == 10 * meant or (heard > 1 and meant == 10 * heard) or (heard, meant) in self.language.teens:
            return "confused"
        return "part" if meant > 100 and heard >= 20 and heard in (meant // 100 * 100, meant % 100) else "other"

    def _stuck(self, word: str) -> list[_Entry]:
        if not word.isdecimal() or not 3 <= len(word) <= 4:
            return []
        out = []
        for cut in (1, len(word) - 1):
            first, second = word[:cut], word[cut:]
            at = self.where.get(("number", first))
            if at is None or ("number", second) not in self.where:
                continue
            both = np.array([p for p in at if p + 1 < len(self.numbers) and self.numbers[p + 1] == second], dtype=np.intp)
            if len(both):
                out.append(_Entry(1, both, 0.6, "sound", 0.0, takes=2))
        return out


def _forms(sort: tuple[str, str], language: Language) -> list[str]:
    """How a term is said, each form run together; one of its words alone where it has several, for half of it was lost."""
    kind, key = sort
    if kind == "number":
        return ["".join(pieces(form)) for form in language.number_forms.get(key, ())]
    try:
        term: Term = language.term(key, kind)
    except KeyError:
        return [key] if kind == "unread" else []
    return ["".join(pieces(form)) for form in term.said]


def _parts(sort: tuple[str, str], language: Language) -> frozenset[str]:
    """Every word that some form of a term is made of."""
    kind, key = sort
    if kind == "number":
        return frozenset(w for form in language.number_forms.get(key, ()) for w in form.split())
    try:
        return frozenset(p for form in language.term(key, kind).said for p in pieces(form))
    except KeyError:
        return frozenset((key,))


def _numbers(window: Sequence[str], language: Language) -> Iterator[tuple[int, int, bool]]:
    """The numbers that the first words say, also in two breaths: (words, value, whether they are only often heard for it)."""
    for taken, value, misheard in _numbers_in_one_breath(window, language):
        yield taken, value, misheard
        added = language.tens_of(window[taken]) if taken < len(window) else 0
        if added and 1 <= value <= 9:
            yield taken + 1, 100 * value + added, misheard
        elif added and value % 100 == 0 and SMALLEST_DISTANCE_M <= value + added <= FARTHEST_M:
            yield taken + 1, value + added, misheard


def _numbers_in_one_breath(window: Sequence[str], language: Language) -> Iterator[tuple[int, int, bool]]:
    if window[0].isdecimal() and len(window[0]) <= DISTANCE_DIGITS:
        yield 1, int(window[0]), False
    for match in language.matches(window, 0):
        if match.term.kind == "number":
            yield match.taken, int(match.term.key), match.way == "heard"


def _instead(said: tuple[str, str], written: tuple[str, str]) -> bool:
    """Whether one term may be said where another is written: of the same kind, a grade's name for its number too."""
    if said == written:
        return False
    if said[0] == written[0]:
        # No grade stands where a distance does.
        return said[0] != "number" or (len(said[1]) == 1) == (len(written[1]) == 1)
    grades = [sort[0] == "grade" or (sort[0] == "number" and len(sort[1]) == 1) for sort in (said, written)]
    return all(grades)


def align(words: Sequence[str], book: Reading, language: Language, *, order: str) -> BookAlignment:
    """The cheapest way to say these words from this book (Viterbi's algorithm over words × places).

    Parameters
    ----------
    words : what was said, in lower case and without punctuation
    book : the notes as they are written
    order : ``direction-first`` or ``grade-first``, as it is said

    The time grows with words × places; 40 minutes of words against 400 notes take half a second.
    """
    places = places_of(book, order=order)
    if not places or not words:
        return BookAlignment(places, ())
    sounds = _Sounds(places, language)
    search = _Search(places)
    sounds.listen(words)
    rows = search.rows(words, sounds)
    telling = {
        at
        for at in range(len(words))
        if any(m.way == "said" and m.term.kind in TELLING for m in language.matches(words[at : at + LONGEST], 0))
    }
    return BookAlignment(places, tuple(_visits(places, search.back(words, sounds, rows))), frozenset(telling))


class _Search:
    """The table of least costs: a row a word, a column a number of places that are behind."""

    def __init__(self, places: Sequence[Place]) -> None:
        self.places, self.count = places, len(places)
        self.left_out = np.array([LEFT_OUT.get(p.sort[0], LEFT_OUT_TERM) for p in places])
        self.behind = np.concatenate([[0.0], np.cumsum(self.left_out)])
        notes = np.array([p.note for p in places])
        # The columns at which a note begins; between two of them a note is being said.
        self.begins = np.flatnonzero(np.concatenate([[True], notes[1:] != notes[:-1]]))
        self.rank = np.arange(len(self.begins), dtype=float)
        self._ahead, self._back = PER_SKIPPED * self.rank, PER_BACK * self.rank

    def rows(self, words: Sequence[str], sounds: _Sounds) -> Floats:
        """The cost of having said a number of words and places, (words + 1, places + 1)."""
        table = np.full((len(words) + 1, self.count + 1), np.inf)
        # The sound may begin anywhere on the stage.
        table[0, self.begins] = np.minimum(PER_BEFORE * self.rank, MOST_SKIP)
        for at in range(len(words)):
            row = table[at]
            self._relax(row)
            entries, added = sounds.of(words, at)
            np.minimum(table[at + 1], row + added, out=table[at + 1])
            for e in entries:
                ahead, onward = table[at + e.words], e.places + e.takes
                ahead[onward] = np.minimum(ahead[onward], row[e.places] + e.cost)
        self._relax(table[-1])
        return table

    def _relax(self, row: Floats) -> None:
        """Places left out, and jumps to the beginning of another note; in place."""
        row[self.begins] = np.minimum(row[self.begins], self._jumps(row))
        row -= self.behind
        np.minimum.accumulate(row, out=row)
        row += self.behind

    def _jumps(self, row: Floats) -> Floats:
        """The cost of jumping to the beginning of each note from the cheapest place in any other, (notes,)."""
        # What is being said of a note, or its end, which is the beginning of the next.
        within = np.minimum.reduceat(row[1:], self.begins)
        least = within.min()
        jumps: Floats = np.minimum.accumulate((within + self._back)[::-1])[::-1] - self._back + AGAIN
        ahead = np.minimum.accumulate(within - self._ahead)[:-1] + self._ahead[1:] + SKIP
        np.minimum(jumps[1:], ahead, out=jumps[1:])
        np.minimum(jumps, least + MOST_SKIP, out=jumps)
        return jumps

    def back(self, words: Sequence[str], sounds: _Sounds, table: Floats) -> list[HeardTerm | int | None]:
        """The cheapest way from its end to its beginning: what was heard, words that were added, ``None`` for a jump."""
        at, place = len(words), int(np.argmin(table[-1]))
        out: list[HeardTerm | int | None] = []
        while at > 0:
            here = table[at, place]
            if place and _same(here, table[at, place - 1] + self.left_out[place - 1]):
                place -= 1
                continue
            step = self._step(words, sounds, table, at, place)
            if step is None:
                # A jump: from the cheapest column that explains it.
                jumped = self._jumped_from(table[at], place)
                if jumped is None:
                    break
                out.append(None)
                place = jumped
                continue
            found, at, place = step
            out += found
        return out[::-1]

    def _step(
        self, words: Sequence[str], sounds: _Sounds, table: Floats, at: int, place: int
    ) -> tuple[list[HeardTerm | int | None], int, int] | None:
        here = table[at, place]
        for back in range(1, min(LONGEST, at) + 1):
            entries, added = sounds.of(words, at - back)
            for e in entries:
                from_place = place - e.takes
                if e.words != back or from_place < 0:
                    continue
                if _same(here, table[at - back, from_place] + e.cost) and from_place in e.places:
                    unlike = e.unlike if e.said is None else sounds.apart(e.said, self.places[from_place].sort)
                    heard = [HeardTerm(from_place + n, at - back, e.words, e.how, unlike) for n in range(e.takes)]
                    return [*heard[::-1]], at - back, from_place
            if back == 1 and _same(here, table[at - 1, place] + added):
                return [at - 1], at - 1, place
        return None

    def _jumped_from(self, row: Floats, place: int) -> int | None:
        target = int(np.searchsorted(self.begins, place))
        if target >= len(self.begins) or self.begins[target] != place:
            return None
        ends = np.append(self.begins[1:], self.count)
        within = np.minimum.reduceat(row[1:], self.begins)
        steps = target - self.rank
        costs = np.where(steps > 0, SKIP + PER_SKIPPED * steps, AGAIN - PER_BACK * steps)
        costs = within + np.minimum(costs, MOST_SKIP)
        note = int(np.argmin(costs))
        if not _same(costs[note], row[place]):
            return None
        first, last = int(self.begins[note]) + 1, int(ends[note])
        return first + int(np.argmin(row[first : last + 1]))


def _same(a: float, b: float) -> bool:
    return abs(a - b) < 1e-6


def _visits(places: Sequence[Place], steps: Sequence[HeardTerm | int | None]) -> Iterator[Visit]:
    """The steps grouped by the note that was being said; words between two notes go to the first of them."""
    visit: Visit | None = None
    for step in steps:
        if step is None:
            if visit is not None:
                yield visit
            visit = None
        elif isinstance(step, int):
            if visit is not None:
                visit.added.append(step)
        else:
            note = places[step.place].note
            if visit is None or visit.note != note:
                if visit is not None:
                    yield visit
                visit = Visit(note)
            visit.heard.append(step)
    if visit is not None:
        yield visit
