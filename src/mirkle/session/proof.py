"""What a proof-reader would underline: words of the book that are not known, repairs that were made, and those that might be."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from mirkle.core.notes.crew import Crew
from mirkle.core.notes.language import Language
from mirkle.core.notes.meanings import Meaning, meanings_of
from mirkle.core.notes.model import Reading, Token
from mirkle.core.notes.repairs import STEERING
from mirkle.core.notes.speech import SaidWord, Speech
from mirkle.files.crew import edited
from mirkle.files.notes_text import language_of
from mirkle.files.project import Material
from mirkle.files.timed_text import parse_calls
from mirkle.session.material import Inputs, book_in, crew_of

# So many places of a word are shown, with so many words around each.
PLACES, AROUND = 3, 6


@dataclass(frozen=True)
class Place:
    """A place of a word: characters ``start`` to ``end`` of the proof's text, the words around it, and when it was said."""

    start: int
    end: int
    around: str
    at_s: float | None = None


@dataclass(frozen=True)
class Doubt:
    """A word to settle, once for all its places.

    ``kind`` is ``unknown`` (the book has it and it means nothing yet), ``offered`` (perhaps ``read_as``) or ``repaired`` (read
    as that); ``meanings`` are what it may mean, the likeliest first. ``steers`` where it would tell the driver where to go.
    """

    text: str
    kind: str
    places: tuple[Place, ...]
    meanings: tuple[Meaning, ...]
    read_as: str = ""
    sure: float = 1.0
    why: str = ""
    steers: bool = False

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

    def meanings(self) -> list[tuple[str, str, str]]:
        """What a word can mean: (as shown, kind, name of the term), by name."""
        shown = [
            (f"{t.said[0]}  ({_KIND_WORDS[t.kind]})", t.kind, t.key)
            for t in self.language.terms
            if t.kind in _KIND_WORDS
        ]
        return sorted(shown)


_KIND_WORDS = {
    "direction": "direction", "grade": "grade", "half": "half a grade", "length": "length", "change": "change of radius",
    "caution": "alert", "feature": "crest, jump, bump, dip", "maybe": "settles nothing", "over": "where",
    "line": "line on the road", "object": "thing beside the road", "side": "side", "surface": "surface",
    "state": "from here", "link": "link", "mark": "start, finish", "number": "number", "chat": "talk, no note",
    "incident": "incident",
}  # fmt: skip


def proofs_of(inputs: Inputs) -> list[Proof]:
    """The written book and the words that were said, each with its doubts.

    Raises
    ------
    MirkleError
    """
    crew = crew_of(inputs.crew)
    return proofs_in(inputs.notes, inputs.calls, crew)


def proofs_in(notes: Material | None, calls: Material | None, crew: Crew) -> list[Proof]:
    """The proofs of a book and of what was said, of which one may be missing.

    Raises
    ------
    MirkleError
    """
    out = []
    book = book_in(notes, calls, crew)
    if notes is not None:
        out.append(proof_of_book(book, crew))
    if calls is not None:
        speech = parse_calls(calls.content, name=calls.name, crew=crew, book=book if notes is not None else None)
        out.append(proof_of_speech(speech, crew))
    return out


def proof_of_book(reading: Reading, crew: Crew) -> Proof:
    """The written notes; nothing in them is repaired, so what is not known is asked about, the commonest word first."""
    language = language_of(reading, crew)
    text, spans = _page(reading)
    unknown = [(n, t) for n, t in enumerate(reading.pieces) if t.kind == "unread" and t.text.lower() not in crew.leave]
    doubts = []
    for form, places in _grouped(unknown, lambda t: t.text.lower()):
        shown = tuple(_written_place(text, *spans[n]) for n, _ in places if n in spans)
        if shown:
            doubts.append(Doubt(form, "unknown", shown, tuple(meanings_of(form, language))))
    return Proof("The notes", text, tuple(sorted(doubts, key=lambda d: -d.count)), language)


def proof_of_speech(speech: Speech, crew: Crew) -> Proof:
    """What was said; repairs and offers, those that steer first and the least sure of them ahead."""
    reading = speech.reading
    language = language_of(reading, crew)
    text, spans = _page(reading)
    from_book = sum(t.read_as is not None and "your notes" in t.why for t in reading.pieces)
    doubts = [
        *_doubts(reading, spans, speech.words, language, "offered"),
        *_doubts(reading, spans, speech.words, language, "repaired"),
    ]
    return Proof("What was said", text, tuple(doubts), language, from_book)


def _doubts(
    reading: Reading, spans: dict[int, tuple[int, int]], words: Sequence[SaidWord], language: Language, kind: str
) -> list[Doubt]:
    def asked(token: Token) -> tuple[str, str]:
        offer = token.offer
        return (offer.said, offer.read_as) if offer else (token.text.lower(), token.read_as or "")

    wanted = [
        (n, t)
        for n, t in enumerate(reading.pieces)
        if (t.offer is not None if kind == "offered" else t.read_as is not None and "your notes" not in t.why)
    ]
    out = []
    for (said, read_as), places in _grouped(wanted, asked):
        shown = tuple(_said_place(words, said, t, spans[n]) for n, t in places if n in spans)
        if not shown:
            continue
        token = places[0][1]
        offer = token.offer
        kind_, key = (offer.kind, offer.key) if offer else (token.kind, token.key)
        taught = _taught(kind_, key)
        likeliest = (Meaning(read_as, *taught),) if key else ()
        others = (m for m in meanings_of(said, language) if (m.kind, m.key) != taught)
        sure = min((t.offer.sure if t.offer else t.sure) for _, t in places)
        why = offer.why if offer else token.why
        out.append(
            Doubt(said, kind, shown, (*likeliest, *others)[:5], read_as, sure, why, kind_ in STEERING or not kind_)
        )
    return sorted(out, key=lambda d: (not d.steers, d.sure))


def _grouped(tokens, by) -> Iterator[tuple]:  # type: ignore[no-untyped-def,type-arg]
    """Tokens with the same key together, each group in its order."""
    ranked = sorted(tokens, key=lambda nt: by(nt[1]))
    for key, group in groupby(ranked, key=lambda nt: by(nt[1])):
        yield key, list(group)


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


def _written_place(text: str, start: int, end: int) -> Place:
    head, tail = text.rfind("\n", 0, start) + 1, text.find("\n", end)
    return Place(start, end, text[head : tail if tail >= 0 else len(text)])


def _said_place(words: Sequence[SaidWord], said: str, token: Token, span: tuple[int, int]) -> Place:
    """The sentence around a word that was said, and when; found by what is said of it."""
    first = said.split()[0]
    near = [
        n
        for n, w in enumerate(words)
        if w.text.lower().startswith(first) and (w.offer == token.offer if token.offer else w.read_as == token.read_as)
    ]
    number = near[0] if near else None
    if number is None:
        return Place(*span, token.text)
    around = " ".join(w.text for w in words[max(0, number - AROUND) : number + AROUND])
    return Place(*span, around, words[number].at_s)


def _taught(kind: str, key: str) -> tuple[str, str]:
    """The kind of term and its name that a reading would teach."""
    kind = {"change to": "change", "distance": "number", "change grade": "number"}.get(kind, kind)
    return ("number" if kind == "grade" and key.isdecimal() else kind), key


def undone(inputs: Inputs, doubt: Doubt) -> Material:
    """The crew's file that leaves the word as it stands."""
    return _crew(inputs, leave=doubt.text.split()[0])


def taught(inputs: Inputs, doubt: Doubt, kind: str, key: str) -> Material:
    """The crew's file in which "this word means …"."""
    return _crew(inputs, teach=(kind, key, doubt.text))


def overruled(inputs: Inputs, habit: str, value: str | None) -> Material:
    """The crew's file in which ``order`` or ``sense`` is told; ``None`` leaves it to be found."""
    return Material("crew", "crew.toml", edited(inputs.crew.content if inputs.crew else None, habits={habit: value}))


def _crew(inputs: Inputs, *, teach: tuple[str, str, str] | None = None, leave: str | None = None) -> Material:
    return Material("crew", "crew.toml", edited(inputs.crew.content if inputs.crew else None, teach=teach, leave=leave))
