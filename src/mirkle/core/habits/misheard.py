"""What a crew's speech recogniser writes for a word, again and again.

It is seen where the book says what was called, and used where there is no book.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from mirkle.core.notes.language import Language, pieces
from mirkle.core.notes.model import Reading, Token
from mirkle.core.speech.reading import Speech

# A word that stands for another in the book this often, and never for anything else, is a habit of this recogniser.
HABIT = 3
# What is never learnt: one wrong reading of it would be one too many.
NEVER_LEARNT = frozenset(("direction", "number", "half"))


@dataclass(frozen=True)
class Misheard:
    """A word as a recogniser writes it, the language and the term that was said (its kind and key), and at how many places."""

    language: str
    heard: str
    kind: str
    key: str
    places: int


@dataclass(frozen=True)
class HarmedWord:
    """A piece of what was said that stood for a term of the book, by its kind and key."""

    token: Token
    kind: str
    key: str


def harmed_words(speech: Speech, book: Reading) -> dict[str, list[HarmedWord]]:
    """What was said of a book's notes in other words, each with all its places: words that were read from the book, and an unread one where
    it is the only one in its note, and the book's note has one term that nobody else says."""
    harmed = [HarmedWord(t, *term_of(t.kind, t.key)) for t in speech.reading.pieces if t.how == "book" and t.read_as is not None]
    places: dict[str, list[HarmedWord]] = defaultdict(list)
    for one in (*harmed, *_left_over(speech, book)):
        places[" ".join(pieces(one.token.text))].append(one)
    return places


def _left_over(speech: Speech, book: Reading) -> Iterator[HarmedWord]:
    said, written = _pieces_of_notes(speech.reading), _pieces_of_notes(book)
    for note, how in enumerate(speech.spoken):
        here = said.get(how.note, []) if how.note is not None else []
        unread = [t for t in here if t.kind == "unread"]
        missing = Counter(_terms(written.get(note, []))) - Counter(_terms(here))
        more = Counter(_terms(here)) - Counter(_terms(written.get(note, [])))
        if len(unread) == 1 and missing.total() == 1 and not more:
            yield HarmedWord(unread[0], *next(iter(missing)))


def _pieces_of_notes(reading: Reading) -> dict[int, list[Token]]:
    found: dict[int, list[Token]] = defaultdict(list)
    for token in reading.pieces:
        if token.note is not None:
            found[token.note].append(token)
    return found


def _terms(tokens: Iterable[Token]) -> Iterator[tuple[str, str]]:
    return (term_of(t.kind, t.key) for t in tokens if t.kind not in ("unread", "filler", "chat"))


def term_of(kind: str, key: str) -> tuple[str, str]:
    """The kind of term and its name that a reading would teach."""
    kind = {"change to": "change", "distance": "number", "change grade": "number"}.get(kind, kind)
    return ("number" if kind == "grade" and key.isdecimal() else kind), key


def may_be_learnt(said: str, kind: str, language: Language) -> bool:
    """Whether a word may stand for a term of a kind from now on: not where it means something already."""
    words = pieces(said)
    means = {m.term.kind for m in language.matches(words, 0) if m.taken == len(words) and m.way != "heard"}
    return bool(words) and kind not in NEVER_LEARNT and not means - {"chat", "filler"}


def misheard_in(speech: Speech, book: Reading) -> tuple[Misheard, ...]:
    """What each harmed word stood for in what was said of a book, and how often."""
    return tuple(
        Misheard(speech.reading.language, said, *term, places)
        for said, harmed in harmed_words(speech, book).items()
        for term, places in Counter((one.kind, one.key) for one in harmed).items()
    )


def usual_mishearings(seen: Iterable[Misheard]) -> list[Misheard]:
    """What stood for one term at :data:`HABIT` places and more over all stages, and for no other; the commonest first."""
    places: Mapping[tuple[str, str], Counter[tuple[str, str]]] = defaultdict(Counter)
    for one in seen:
        places[one.language, one.heard][one.kind, one.key] += one.places
    found = [Misheard(*word, *term, count) for word, terms in places.items() if len(terms) == 1 for term, count in terms.items()]
    return sorted((one for one in found if one.places >= HABIT and one.kind not in NEVER_LEARNT), key=lambda one: (-one.places, one.heard))


def said_word(one: Misheard, languages: Iterable[Language]) -> str:
    """What was said, in the words of its language; the term's name where no language has it."""
    terms = (t for language in languages if language.code == one.language for t in language.terms if (t.kind, t.key) == (one.kind, one.key))
    term = next(terms, None)
    return term.said[0] if term is not None and term.said else one.key


def with_mishearings(languages: Sequence[Language], usual: Sequence[Misheard]) -> tuple[Language, ...]:
    """The languages with what a recogniser is known to make of their terms; it is still weighed as any other mishearing."""
    return tuple(_with(language, [one for one in usual if one.language == language.code]) for language in languages)


def _with(language: Language, usual: Sequence[Misheard]) -> Language:
    heard: dict[tuple[str, str], list[str]] = defaultdict(list)
    for one in usual:
        if may_be_learnt(one.heard, one.kind, language):
            heard[one.kind, one.key].append(one.heard)
    if not heard:
        return language
    return replace(language, terms=tuple(replace(t, heard=(*t.heard, *heard.get((t.kind, t.key), ()))) for t in language.terms))
