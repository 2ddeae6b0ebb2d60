"""How much of clean speech is read right: calls, talk between them, and what is corrected aloud; with the book and without it.

``python bench/spoken.py [--crews 40] [--seed 1]``. Crews of ``books.py`` say their notes in whole words, after some of them were read over
and the countdown, with figures or number words, in blocks of half a minute that begin anywhere. Between calls they talk, with figures
in it, and one call in sixteen is corrected in the same breath. No list of readings was fitted to these crews, their talk or their ways of
correcting.
"""

from __future__ import annotations

import argparse
import random
import sys
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from books import KINDS, Called, Hand, found
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Note
from mirkle.core.notes.reading import read_notes
from mirkle.core.speech.reading import Speech
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.speech.timed_text import parse_calls

WANTED, TALK_READ, CORRECTIONS_FOUND = 0.97, 1 / 1000, 0.95
TALKS, CORRECTS, NOTES = 0.12, 1 / 16, 60
TALK = {
    "en": [
        "we were at 140 down there",
        "my visor keeps misting",
        "the gearbox sounds sweet",
        "did you hear that knock",
        "we lost three or four tenths there",
        "that corner is always better than I remember",
        "about 2 kilometres to go",
        "the 6 car has been wide here",
        "the left rear feels soft",
        "try a gear higher on the next pass",
        "it was dry on Tuesday",
        "careful with the clutch",
        "somebody went through that hedge",
        "the sun is nasty",
        "I nearly lost my page",
        "you had five seconds on him at the split",
        "there was a dog in 2 of those",
        "brilliant job",
        "they moved that stone, thankfully",
        "keep breathing",
        "the pace is good",
        "my pencil fell down",
        "that was a bit tight for us",
        "ok settle down now",
        "everything works",
        "wipers off",
        "tyres are hot by now",
        "the heater is stuck on",
        "the second gear is jumping out",
        "water temperature is 95",
    ],
    "pt": [
        "íamos a 140 ali em baixo",
        "a viseira embacia",
        "a caixa está macia",
        "ouviste aquele barulho",
        "perdemos três ou quatro décimos",
        "faltam 2 quilómetros",
        "o carro 6 alargou aqui",
        "a roda traseira parece mole",
        "tenta uma mudança acima",
        "na terça estava seco",
        "alguém passou por ali",
        "o sol está terrível",
        "quase perdi a folha",
        "tinhas cinco segundos sobre ele",
        "belo trabalho",
        "respira fundo",
        "o ritmo está bom",
        "caiu-me o lápis",
        "tudo funciona",
        "os pneus já estão quentes",
        "a segunda salta fora",
        "a água vai a 95",
    ],
}
SAID_WRONG = {"en": ["no", "sorry", "correction", "actually", "I mean", "no no"], "pt": ["não", "desculpa", "aliás", "quer dizer", "digo"]}
COUNTDOWN = {"en": "five four three two one go", "pt": "cinco quatro três dois um vai"}
BEHIND = {
    "en": "flying finish. stop. well done. that second right wants a three",
    "pt": "meta. parar. muito bem. a segunda direita quer um três",
}


@dataclass
class Said:
    """A piece of what was said: a note's call, with what it was made to call, or talk."""

    text: str
    called: Called | None = None
    corrected: bool = False


def crew_of(rng: random.Random, language: Language) -> Hand:
    """A crew that says its notes in words."""
    hand = Hand(rng, language)
    hand.wordy, hand.remarks, hand.per_line, hand.commas = True, 0.0, 1, rng.random() < 0.5
    return hand


def spoken(rng: random.Random, hand: Hand, called: Called, text: str, *, words: bool) -> Said:
    """How a note is said: some of them wrongly at first, with the correction directly behind."""
    corrects = rng.random() < CORRECTS and called.grade[:1].isdigit() and not called.cautions and not hand.lengths_in_front
    said = text
    if corrects:
        number = called.grade.rstrip("+-")
        wrong = str(rng.choice([n for n in range(1, 7) if str(n) != number]))
        side = rng.choice(["", hand.form(next(t for t in hand.terms("direction") if t.key == called.direction))])
        own = hand.form(next(t for t in hand.terms("direction") if t.key == called.direction))
        head = [wrong, own] if hand.grade_first else [own, wrong]
        right = called.grade.replace("+", " " + _half(hand, "plus")).replace("-", " " + _half(hand, "minus"))
        again = right if not side else f"{right} {own}" if hand.grade_first else f"{own} {right}"
        first = " ".join(hand.corner_words(called))
        said = text.replace(first, f"{' '.join(head)}, {rng.choice(SAID_WRONG[hand.language.code])}, {again}", 1)
        corrects = said != text
    return Said(_in_words(said, hand.language) if words else said, called, corrects)


def _half(hand: Hand, key: str) -> str:
    return next(t for t in hand.terms("half") if t.key == key).said[0]


def _in_words(text: str, language: Language) -> str:
    out = []
    for word in text.split():
        bare = word.strip(",.")
        forms = language.number_forms.get(bare) if bare.isdigit() else None
        out.append(word.replace(bare, forms[0]) if forms else word)
    return " ".join(out)


def stream_of(rng: random.Random, hand: Hand, calls: Sequence[Said]) -> list[Said]:
    """Everything that is said, in order."""
    code = hand.language.code
    out = [Said(c.text) for c in calls[:3] if not c.corrected] if rng.random() < 0.5 else []
    out.append(Said(COUNTDOWN[code]))
    for call in calls:
        out.append(call)
        if rng.random() < TALKS:
            out.append(Said(rng.choice(TALK[code])))
    return [*out, Said(BEHIND[code])]


def timed_text(rng: random.Random, stream: Sequence[Said]) -> tuple[str, list[tuple[int, int]]]:
    """The stream as WebVTT, and where in it each piece stands."""
    out, places, at_s, left = "WEBVTT\n", [], 0.0, 0
    for piece in stream:
        begin = -1
        for word in f"{piece.text}{rng.choice(['.', '', ','])}".split():
            if not left:
                left = rng.randint(30, 90)
                out += f"\n{_moment(at_s)} --> {_moment(at_s + 0.4 * left)}\n"
                at_s += 0.4 * left
            begin = len(out) if begin < 0 else begin
            out += word
            left -= 1
            out += " " if left else "\n"
        places.append((begin, len(out)))
    return out, places


def _moment(at_s: float) -> str:
    return f"{int(at_s // 3600):02}:{int(at_s // 60) % 60:02}:{at_s % 60:06.3f}"


def notes_within(speech: Speech, begin: int, end: int) -> Iterator[Note]:
    """The corners that begin in a stretch of the source, by the grade that counts or the side."""
    for note in speech.reading.notes:
        span = note.grade_span or note.direction_span
        if span is not None and begin <= span.start < end:
            yield note


def main() -> int:
    """Reads the speech; returns 1 where less is right than wanted."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--crews", type=int, default=40)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--show", type=int, default=6, help="how many faults of a kind to print")
    asked = parser.parse_args()
    missed = False
    for with_book in (False, True):
        rng = random.Random(asked.seed)
        count: Counter[str] = Counter()
        shown: Counter[str] = Counter()

        def show(kind: str, words: str, shown: Counter[str] = shown) -> None:
            shown[kind] += 1
            if shown[kind] <= asked.show:
                print(f"  {kind}: {words}")

        for _ in range(asked.crews):
            hand = crew_of(rng, rng.choice(shipped_languages()))
            made = [hand.note() for _ in range(NOTES)]
            words = rng.random() < 0.5
            calls = [spoken(rng, hand, called, text, words=words) for called, text in made]
            stream = stream_of(rng, hand, calls)
            source, places = timed_text(rng, stream)
            book = read_notes("\n".join(t for _, t in made) + "\n", shipped_languages()) if with_book else None
            speech = parse_calls(source.encode(), name="said.vtt", book=book)
            owned: set[int] = set()
            for piece, (begin, end) in zip(stream, places, strict=True):
                if piece.called is None:
                    continue
                within = list(notes_within(speech, begin, end))
                owned |= {n.index for n in within}
                _count(count, piece, within, show)
            talk = [n for n in speech.reading.notes if n.is_corner and n.index not in owned]
            count["talk words"] += sum(len(p.text.split()) for p in stream if p.called is None)
            count["talk read as calls"] += len(talk)
            for note in talk:
                show("talk read as a call", note.text)
        missed |= _report(count, "with the book" if with_book else "without the book")
    return int(missed)


def _count(count: Counter[str], piece: Said, within: Sequence[Note], show: object) -> None:
    assert piece.called is not None
    assert callable(show)
    note = within[0] if len(within) == 1 else None
    told = found(replace(note, text="")) if note is not None else {}
    count["corners"] += 1
    count["corners found"] += note is not None
    count["corrections"] += piece.corrected
    heard = note is not None and bool(note.first_called)
    count["corrections found"] += piece.corrected and heard
    count["corrections invented"] += heard and not piece.corrected
    if piece.corrected and not heard:
        show("correction missed", f"{piece.text!r}: {[n.text for n in within]}")
    for kind in KINDS:
        wanted, got = getattr(piece.called, kind), told.get(kind)
        if wanted in (None, "", []) and got in (None, "", []):
            continue
        count["elements"] += 1
        count["elements right"] += wanted == got
        if kind in ("direction", "grade") and got not in (None, wanted):
            count["sides and grades that nobody said"] += 1
        if wanted != got:
            show(f"{kind}", f"{piece.text!r}: {wanted!r} read as {got!r} in {[n.text for n in within]}")


def _report(count: Counter[str], title: str) -> bool:
    share = count["elements right"] / count["elements"]
    corners = count["corners found"] / count["corners"]
    talk = count["talk read as calls"] / count["talk words"]
    corrected = count["corrections found"] / count["corrections"]
    print(f"{title}: elements right {share:.2%} of {count['elements']}, corners found {corners:.2%} of {count['corners']}")
    print(f"  sides and grades that nobody said: {count['sides and grades that nobody said']}")
    print(f"  corrections found {count['corrections found']} of {count['corrections']}, invented {count['corrections invented']}")
    print(f"  talk read as calls: {count['talk read as calls']} in {count['talk words']} words ({talk:.2%})")
    invented = count["corrections invented"] or count["sides and grades that nobody said"]
    return share < WANTED or talk > TALK_READ or corrected < CORRECTIONS_FOUND or bool(invented)


if __name__ == "__main__":
    sys.exit(main())
