"""What a proof-reader would underline: words of the book that are not known, repairs that were made, and those that might be."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

from mirkle.core.habits.misheard import HABIT, Misheard, harmed_words, may_be_learnt, said_word, term_of
from mirkle.core.messages import Message, gettext_noop
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.doubts import doubts_of
from mirkle.core.notes.grading import KnownSchool, school_of
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import BY_BOOK
from mirkle.core.notes.repairs import STEERING
from mirkle.core.notes.suggestions import MOST, Meaning, meanings_of
from mirkle.core.speech.delivery import BY_SOUND
from mirkle.core.speech.reading import Speech, SpokenWord
from mirkle.files.notes.crew_profile import edited
from mirkle.files.notes.text import language_of
from mirkle.files.project.project import SourceFile
from mirkle.session.parsed_files import crew_of, speech_of
from mirkle.session.reviewing import Inputs, book_in

# A question about this many places comes before those about a word or two.
MANY = 5
# How many words are shown around one.
AROUND = 6


@dataclass(frozen=True)
class WordPlace:
    """A place of a word: characters ``start`` to ``end`` of the proof's text, both 0 where it stands in no note of it; the
    words around it, and when it was said."""

    start: int
    end: int
    around: str
    at_s: float | None = None


@dataclass(frozen=True)
class Doubt:
    """A word to settle, once for all its places.

    ``kind`` is ``habit`` (the book shows that it always stands for ``read_as``: it may be kept for the next text), ``unknown`` (the book
    has it and it means nothing yet), ``offered`` (perhaps ``read_as``) or ``repaired`` (read as that) or ``itself`` (the ``note``
    contradicts itself or the rest of the book, as ``why`` says); ``meanings`` are what it may mean, the likeliest first. ``steers`` where
    it would tell the driver where to go.
    """

    text: str
    kind: str
    places: tuple[WordPlace, ...]
    meanings: tuple[Meaning, ...]
    read_as: str = ""
    sure: float = 1.0
    why: str | Message = ""
    steers: bool = False
    note: int | None = None

    @property
    def count(self) -> int:
        """How often it stands there."""
        return len(self.places)


@dataclass(frozen=True)
class Proof:
    """The notes one a line, as they were written or said, and the doubts about them, the riskiest first.

    ``from_book`` is how many harmed words were read from the book; they need no settling.
    """

    title: str
    text: str
    doubts: tuple[Doubt, ...]
    language: Language
    from_book: int = 0

    def meanings(self) -> list[tuple[str, str, str, str]]:
        """What a word can mean: (as it is said, the words for its kind, the kind, the term's name), by how it is said."""
        shown = [(t.said[0], _KIND_WORDS[t.kind], t.kind, t.key) for t in self.language.terms if t.kind in _KIND_WORDS]
        return sorted(shown)


_KIND_WORDS = {
    "direction": gettext_noop("direction"),
    "grade": gettext_noop("grade"),
    "half": gettext_noop("half a grade"),
    "length": gettext_noop("length"),
    "change": gettext_noop("change of radius"),
    "caution": gettext_noop("alert"),
    "feature": gettext_noop("crest, jump, bump, dip"),
    "maybe": gettext_noop("means nothing here"),
    "over": gettext_noop("where"),
    "line": gettext_noop("line on the road"),
    "object": gettext_noop("thing beside the road"),
    "side": gettext_noop("side"),
    "surface": gettext_noop("surface"),
    "state": gettext_noop("from here"),
    "link": gettext_noop("link"),
    "mark": gettext_noop("start, finish"),
    "number": gettext_noop("number"),
    "chat": gettext_noop("talk, no note"),
    "incident": gettext_noop("incident"),
}


def proofs_of(inputs: Inputs) -> list[Proof]:
    """The written book and the words that were said, each with its doubts.

    Raises
    ------
    MirkleError
    """
    known = inputs.scale.school if inputs.scale is not None else None
    return proofs_in(inputs.notes, inputs.calls, crew_of(inputs.crew), known)


def proofs_in(notes: SourceFile | None, calls: SourceFile | None, crew: CrewProfile, known: KnownSchool | None = None) -> list[Proof]:
    """The proofs of a book and of what was said, of which one may be missing; ``known`` is how the crew grades in its other books.

    Raises
    ------
    MirkleError
    """
    out = []
    book = book_in(notes, calls, crew)
    if notes is not None:
        out.append(proof_of_book(book, crew, known))
    if calls is not None:
        speech = speech_of(calls, crew, book if notes is not None else None)
        if not any(s.said_as in BY_SOUND for s in speech.spoken):
            # Of a sound nobody read words.
            out.append(proof_of_speech(speech, crew, book if notes is not None else None))
    return out


def proof_of_book(reading: Reading, crew: CrewProfile, known: KnownSchool | None = None) -> Proof:
    """The written notes; nothing in them is repaired, so what is not known is asked about, the commonest word first."""
    language = language_of(reading, crew)
    text, spans = _page(reading)
    unknown: dict[str, list[WordPlace]] = {}
    for number, token in enumerate(reading.pieces):
        form = token.text.lower()
        if token.kind == "unread" and form not in crew.leave and number in spans:
            unknown.setdefault(form, []).append(_written_place(text, *spans[number]))
    doubts = [Doubt(form, "unknown", tuple(places), tuple(meanings_of(form, language))) for form, places in unknown.items()]
    lines = _lines_of(text)
    against = [
        Doubt(" ".join(reading.notes[d.note].text.split()), "itself", (WordPlace(*lines[d.note], ""),), (), why=d.sentence, note=d.note)
        for d in doubts_of(reading, school_of(reading.notes, sense=crew.sense, known=known), crew.meant)
        # What is not understood is asked about as a word.
        if d.kind != "word" and not (d.kind == "half-corner" and reading.notes[d.note].unread)
    ]
    return Proof(gettext_noop("The notes"), text, (*sorted(doubts, key=lambda d: -d.count), *against), language)


def _lines_of(text: str) -> list[tuple[int, int]]:
    """Where each line of a text begins and ends."""
    ends = [at for at, sign in enumerate(text) if sign == "\n"]
    return list(zip([0, *(e + 1 for e in ends)], [*ends, len(text)], strict=True))


def proof_of_speech(speech: Speech, crew: CrewProfile, book: Reading | None = None) -> Proof:
    """What was said, by the ``book`` where there is one. What is only offered comes first, then repairs, each with what steers and is least
    sure ahead."""
    reading = speech.reading
    language = language_of(reading, crew)
    text, spans = _page(reading)
    at = {reading.pieces[n].span.start: span for n, span in spans.items()}
    offered = [
        _Asked(w.offer.said, w.offer.kind, w.offer.key, w.offer.read_as, w.offer.sure, w.offer.why, w.start)
        for w in speech.words
        if w.offer is not None and w.role in ("note", "unread", "remark")
    ]
    repaired = [
        _Asked(t.text.lower(), t.kind, t.key, t.read_as or "", t.sure, t.why, t.span.start)
        for t in reading.pieces
        if t.read_as is not None and t.how != "book"
    ]
    habits = _habits(speech, book, language, crew) if book is not None else []
    doubts = [
        doubt
        for kind, asked in (("habit", habits), ("offered", offered), ("repaired", repaired))
        for doubt in _doubts(asked, kind, speech.words, at, language)
    ]
    return Proof(gettext_noop("What was said"), text, tuple(doubts), language, sum(t.how == "book" for t in reading.pieces))


def _habits(speech: Speech, book: Reading, language: Language, crew: CrewProfile) -> list[_Asked]:
    """The words that stood for the same term of the book at least :data:`HABIT` times, and for no other; sides and numbers are never
    learnt."""
    out = []
    for said, harmed in harmed_words(speech, book).items():
        terms = {(one.kind, one.key) for one in harmed}
        if len(harmed) < HABIT or len(terms) > 1 or said in crew.leave:
            continue
        ((kind, key),) = terms
        if may_be_learnt(said, kind, language):
            meant = said_word(Misheard(language.code, said, kind, key, len(harmed)), [language])
            out += [_Asked(said, kind, key, meant, BY_BOOK, one.token.why, one.token.span.start) for one in harmed]
    return out


class _Asked(NamedTuple):
    """One place at which a word was repaired, or might be."""

    said: str
    kind: str
    key: str
    read_as: str
    sure: float
    why: str | Message
    start: int


def _doubts(
    asked: Sequence[_Asked], kind: str, words: Sequence[SpokenWord], at: dict[int, tuple[int, int]], language: Language
) -> list[Doubt]:
    groups: dict[tuple[str, str], list[_Asked]] = {}
    for one in asked:
        groups.setdefault((one.said, one.read_as), []).append(one)
    out = []
    for (said, read_as), places in groups.items():
        least = min(places, key=lambda p: p.sure)
        term = term_of(least.kind, least.key)
        likeliest = (Meaning(read_as, *term),) if least.key else ()
        others = (m for m in meanings_of(said, language) if (m.kind, m.key) != term)
        shown = tuple(_said_place(words, p.start, at.get(p.start, (0, 0))) for p in places)
        # What would be two numbers has no term.
        steers = least.kind in STEERING or not least.kind
        out.append(Doubt(said, kind, shown, (*likeliest, *others)[:MOST], read_as, least.sure, least.why, steers))
    if kind == "habit":
        return sorted(out, key=lambda d: -d.count)
    # What stands there again and again is one question, and the first.
    return sorted(out, key=lambda d: (-d.count if d.count >= MANY else 0, not d.steers, d.sure))


def _page(reading: Reading) -> tuple[str, dict[int, tuple[int, int]]]:
    """The notes one a line, and where each piece stands in that text."""
    lines: list[str] = []
    spans: dict[int, tuple[int, int]] = {}
    at = 0
    pieces: dict[int, list[int]] = {}
    for number, token in enumerate(reading.pieces):
        if token.note is not None:
            pieces.setdefault(token.note, []).append(number)
    for note in reading.notes:
        line, end = "", None
        for number in pieces.get(note.index, []):
            token = reading.pieces[number]
            if end is not None and token.span.start > end:
                line += " "
            spans[number] = (at + len(line), at + len(line) + len(token.text))
            line += token.text
            end = token.span.end
        lines.append(line)
        at += len(line) + 1
    return "\n".join(lines), spans


def _written_place(text: str, start: int, end: int) -> WordPlace:
    head, tail = text.rfind("\n", 0, start) + 1, text.find("\n", end)
    return WordPlace(start, end, text[head : tail if tail >= 0 else len(text)])


def _said_place(words: Sequence[SpokenWord], start: int, span: tuple[int, int]) -> WordPlace:
    """The words around the one that begins at a character of the source, and when it was said."""
    number = max(0, bisect_right(words, start, key=lambda w: w.start) - 1)
    around = " ".join(w.text for w in words[max(0, number - AROUND) : number + AROUND])
    return WordPlace(*span, around, words[number].at_s)


def undone(inputs: Inputs, doubt: Doubt) -> SourceFile:
    """The crew's file that leaves the word as it stands."""
    return _crew(inputs, leave=doubt.text.split()[0])


def meant(inputs: Inputs, doubt: Doubt) -> SourceFile:
    """The crew's file that says that a note is meant as it stands."""
    return SourceFile("crew", "crew.toml", edited(inputs.crew.content if inputs.crew else None, meant=doubt.text.lower()))


def taught(inputs: Inputs, doubt: Doubt, kind: str, key: str) -> SourceFile:
    """The crew's file in which "this word means …"."""
    return _crew(inputs, teach=(kind, key, doubt.text))


def overruled(inputs: Inputs, habit: str, value: str | None) -> SourceFile:
    """The crew's file in which ``order`` or ``sense`` is told; ``None`` leaves it to be found."""
    return SourceFile("crew", "crew.toml", edited(inputs.crew.content if inputs.crew else None, habits={habit: value}))


def _crew(inputs: Inputs, *, teach: tuple[str, str, str] | None = None, leave: str | None = None) -> SourceFile:
    return SourceFile("crew", "crew.toml", edited(inputs.crew.content if inputs.crew else None, teach=teach, leave=leave))
