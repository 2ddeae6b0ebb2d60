"""Wordy calls of many schools, the book they were read from, and a recogniser that harms them by sound; with the truth.

Unlike ``synthetic/recogniser.py``, which has a table of slips, this one swaps words that sound alike by other rules (metaphone
for English, a coarse key for Portuguese, letters that are easily taken for one another), puts common words in place of
terms, tears words apart and runs them together, and makes the same mistake again in one text. Each heard word keeps the
words that were said, so that every repair can be judged.
"""

from __future__ import annotations

import unicodedata
from dataclasses import dataclass
from pathlib import Path

import jellyfish
import numpy as np

from mirkle.core.notes.language import Language, Term
from mirkle.files.notes.languages import shipped_languages

# Words that any recogniser knows and prefers to those of a trade it was not taught.
COMMON = {file.stem: file.read_text().split() for file in sorted((Path(__file__).parent / "common_words").glob("*.txt"))}
NEAR_LETTERS = ["bp", "dt", "gk", "vf", "sz", "mn", "lr", "ae", "ei", "ou", "iy"]
# What a recogniser was not taught; numbers and sides it knows.
HABITUAL = ("grade", "caution", "feature", "over", "change", "line", "object", "length")
GRADES = ("hairpin", "square", "open hairpin", "acute hairpin")


@dataclass(frozen=True)
class Way:
    """How a crew calls and what a recogniser does to it.

    ``habits`` is the share of the terms that this recogniser always hears as one and the same form of the language's list of mishearings.
    ``kinds`` are the shares of the recogniser's slips: a common word, a slip of letters, words run together, a word torn
    apart, a word lost, a word doubled. ``faithful`` is how often a slip is made again.
    """

    language: str = "en"
    grade_first: bool = False
    top: int = 6
    halves: bool = False
    figures: bool = True
    wordy: float = 1.0
    harm: float = 0.1
    kinds: tuple[float, ...] = (0.36, 0.28, 0.1, 0.1, 0.1, 0.06)
    faithful: float = 0.6
    habits: float = 0.0
    # How many remarks are made between the calls, a call.
    talk: float = 0.05
    # Shares of the notes that the voice leaves out, says otherwise than written, and says twice.
    left_out: float = 0.0
    otherwise: float = 0.0
    twice: float = 0.0


@dataclass
class Phrase:
    """One term of a call: how it is said, and what it is."""

    said: str
    kind: str
    key: str


@dataclass
class Call:
    """One call: what the book has, what was said (``as_``: written, otherwise, not-said or twice)."""

    written: list[Phrase]
    spoken: list[Phrase]
    as_: str = "written"


@dataclass
class Heard:
    """A heard word with the words that were said for it, and the call it came from (-1 for talk)."""

    text: str
    said: str
    call: int


@dataclass
class Text:
    """A text with its truth: ``vtt`` is what the recogniser wrote, ``book`` what the notes are."""

    calls: list[Call]
    heard: list[Heard]
    vtt: str
    book: str
    language: Language


def make_text(rng: np.random.Generator, way: Way, count: int = 100) -> Text:
    """Calls, the book and the harmed words."""
    language = next(la for la in shipped_languages() if la.code == way.language)
    calls = [_departing(rng, way, language, _call(rng, way, language)) for _ in range(count)]
    start, end = _phrase(language, "mark", "start"), _phrase(language, "mark", "finish")
    calls.insert(0, Call([start, _number(rng, way, language, "distance", "80")], []))
    calls.append(Call([end], []))
    for call in (calls[0], calls[-1]):
        call.spoken = call.written
    recogniser = _Recogniser(rng, way, language)
    heard: list[Heard] = []
    lines, at = [f"[0:02] {_countdown(way)}"], 8.0
    for number, call in enumerate(calls):
        times = 0 if call.as_ == "not-said" else 2 if call.as_ == "twice" else 1
        said: list[Heard] = []
        for _ in range(times):
            said += recogniser.hear(call.spoken, number)
        if said:
            heard += said
            lines.append(f"[{int(at) // 60}:{int(at) % 60:02d}] " + " ".join(h.text for h in said))
        at += float(rng.uniform(2.0, 5.0))
        if rng.random() < way.talk:
            said = [Heard(str(w), str(w), -1) for w in rng.choice(COMMON[way.language], int(rng.integers(3, 9)))]
            heard += said
            lines[-1] += " " + " ".join(h.text for h in said)
    book = "\n".join(" ".join(p.said for p in call.written) for call in calls)
    return Text(calls, heard, "\n".join(lines) + "\n", book, language)


def _countdown(way: Way) -> str:
    return "five four three two one go" if way.language == "en" else "cinco quatro três dois um vai"


def _phrase(language: Language, kind: str, key: str, rng: np.random.Generator | None = None) -> Phrase:
    term = language.term(key, kind)
    return Phrase(term.said[0] if rng is None else str(rng.choice(list(term.said))), kind, key)


def _number(rng: np.random.Generator, way: Way, language: Language, kind: str, key: str) -> Phrase:
    if way.figures:
        return Phrase(key, kind, key)
    value = int(key)
    said = next((t.said[0] for t in language.terms if t.kind == "number" and t.key == key), None)
    if said is None:
        hundreds, rest = divmod(value, 100)
        words = {int(t.key): t.said[0] for t in language.terms if t.kind == "number"}
        joint = " e " if way.language == "pt" else " and " if rng.random() < 0.5 else " "
        head = words[100 * hundreds]
        said = f"{'cento' if way.language == 'pt' and hundreds == 1 else head if hundreds > 1 or way.language == 'pt' else 'one hundred'}{joint}{words[rest]}"
    return Phrase(said, kind, key)


def _terms(language: Language, kind: str) -> list[Term]:
    return [t for t in language.terms if t.kind == kind]


def _call(rng: np.random.Generator, way: Way, language: Language) -> Call:
    def some(kind: str, chance: float) -> list[Phrase]:
        if rng.random() >= chance * way.wordy:
            return []
        term = _terms(language, kind)[int(rng.integers(len(_terms(language, kind))))]
        return [_phrase(language, kind, term.key)]

    side = _phrase(language, "direction", str(rng.choice(["left", "right"])))
    named = rng.random() < 0.1
    key = str(rng.choice(GRADES)) if named else str(rng.integers(1, way.top + 1))
    grade = [_phrase(language, "grade", key) if named else _number(rng, way, language, "grade", key)]
    if way.halves and not named and rng.random() < 0.3:
        grade.append(_phrase(language, "half", str(rng.choice(["plus", "minus"]))))
    pair = [*grade, side] if way.grade_first else [side, *grade]
    words = [*some("caution", 0.12), *pair]
    if rng.random() < 0.35:
        words.append(_phrase(language, "length", str(rng.choice(["short", "long", "very long", "extra long", "half long"]))))
    if rng.random() < 0.2 * way.wordy:
        words.append(_phrase(language, "change", str(rng.choice(["tightens", "opens"]))))
        if rng.random() < 0.6:
            words.append(_number(rng, way, language, "change grade", str(rng.integers(1, way.top + 1))))
    if rng.random() < 0.2 * way.wordy:
        words.append(_phrase(language, "over", "over"))
        words.append(_phrase(language, "feature", str(rng.choice(["crest", "jump", "bump", "small crest", "big jump"]))))
    if rng.random() < 0.22 * way.wordy:
        keys = ["keep left", "keep right", "keep in", "keep out", "keep middle", "don't cut", "cut", "small cut"]
        words.append(_phrase(language, "line", str(rng.choice(keys))))
    if rng.random() < 0.12 * way.wordy:
        words.append(_phrase(language, "object", str(rng.choice(["rocks", "ditch", "bale", "post", "wall", "tree", "barrier"]))))
        words.append(_phrase(language, "side", str(rng.choice(["inside", "outside"]))))
    words += some("surface", 0.05)
    if rng.random() < 0.25:
        words.append(_phrase(language, "link", str(rng.choice(["into", "and"]))))
    else:
        metres = [30, 40, 50, 60, 70, 80, 100, 120, 130, 150, 160, 200, 250, 300]
        words.append(_number(rng, way, language, "distance", str(rng.choice(metres))))
    return Call(words, words)


def _departing(rng: np.random.Generator, way: Way, language: Language, call: Call) -> Call:
    """The call as the voice made it: left out, said twice, or said otherwise in one telling word."""
    draw = rng.random()
    if draw < way.left_out:
        return Call(call.written, [], "not-said")
    if draw < way.left_out + way.twice:
        return Call(call.written, call.written, "twice")
    if draw >= way.left_out + way.twice + way.otherwise:
        return call
    telling = [n for n, p in enumerate(call.written) if p.kind in ("direction", "grade", "distance", "line", "change grade")]
    at = telling[int(rng.integers(len(telling)))]
    old = call.written[at]
    if old.kind == "direction":
        new = _phrase(language, "direction", "left" if old.key == "right" else "right")
    elif old.kind == "line":
        keys = [k for k in ("keep left", "keep right", "keep in", "keep out", "don't cut", "cut") if k != old.key]
        new = _phrase(language, "line", str(rng.choice(keys)))
    elif old.kind == "distance":
        keys = [k for k in ("30", "40", "60", "80", "100", "150", "200") if k != old.key]
        new = _number(rng, way, language, "distance", str(rng.choice(keys)))
    else:
        keys = [str(k) for k in range(1, way.top + 1) if str(k) != old.key]
        new = _number(rng, way, language, old.kind, str(rng.choice(keys)))
    return Call(call.written, [*call.written[:at], new, *call.written[at + 1 :]], "otherwise")


def sound_key(word: str, code: str) -> str:
    """How a word sounds, coarsely: metaphone for English, else its consonants by where in the mouth they are made."""
    plain = "".join(c for c in unicodedata.normalize("NFKD", word) if not unicodedata.combining(c)).lower()
    if code == "en":
        return jellyfish.metaphone(plain)
    table = str.maketrans({"b": "p", "d": "t", "g": "k", "c": "k", "q": "k", "v": "f", "z": "s", "x": "s", "h": "", "o": "u", "e": "i"})
    return plain.translate(table)


_KEYS = {code: {w: sound_key(w, code) for w in words} for code, words in COMMON.items()}


class _Recogniser:
    def __init__(self, rng: np.random.Generator, way: Way, language: Language) -> None:
        self.rng, self.way, self.language = rng, way, language
        self.slips: dict[str, list[str]] = {}
        self.habits: dict[str, str] = {}
        self.keys = _KEYS[way.language]

    def hear(self, phrases: list[Phrase], call: int) -> list[Heard]:
        out: list[Heard] = []
        plain: list[str] = []
        for phrase in phrases:
            habit = self._habit(phrase)
            if habit:
                out += self._words(plain, call)
                out += [Heard(h, phrase.said, call) for h in habit.split()]
                plain = []
            else:
                plain += phrase.said.split()
        return out + self._words(plain, call)

    def _habit(self, phrase: Phrase) -> str:
        """What this recogniser always makes of a term; empty where it hears it."""
        if not self.way.habits:
            return ""
        if phrase.said not in self.habits:
            term = next((t for t in self.language.terms if (t.kind, t.key) == (phrase.kind, phrase.key)), None)
            forms = list(term.heard) if term is not None and phrase.kind in HABITUAL else []
            has = forms and self.rng.random() < self.way.habits
            self.habits[phrase.said] = str(self.rng.choice(forms)) if has else ""
        return self.habits[phrase.said]

    def _words(self, said: list[str], call: int) -> list[Heard]:
        out: list[Heard] = []
        at = 0
        while at < len(said):
            word = said[at]
            if self.rng.random() >= self.way.harm:
                out.append(Heard(word, word, call))
                at += 1
            elif word.isdecimal():
                at = self._figures(said, at, call, out)
            else:
                at = self._harm(said, at, call, out)
        return out

    def _figures(self, said: list[str], at: int, call: int, out: list[Heard]) -> int:
        word, draw = said[at], self.rng.random()
        if draw < 0.4 and len(word) == 1 and at + 1 < len(said) and said[at + 1].isdecimal():
            out.append(Heard(word + said[at + 1], f"{word} {said[at + 1]}", call))
            return at + 2
        if draw < 0.6 and len(word) == 2 and word[1] == "0" and word[0] in "3456789":
            out.append(Heard("1" + word[0], word, call))
        elif draw < 0.7 and len(word) == 3:
            out.append(Heard(word + "0", word, call))
        else:
            out.append(Heard(word, word, call))
        return at + 1

    def _harm(self, said: list[str], at: int, call: int, out: list[Heard]) -> int:
        word = said[at]
        if word in self.slips and self.rng.random() < self.way.faithful:
            out += [Heard(h, word, call) for h in self.slips[word]]
            return at + 1
        kind = int(self.rng.choice(len(self.way.kinds), p=np.array(self.way.kinds) / sum(self.way.kinds)))
        if kind == 2 and at + 1 < len(said) and said[at + 1].isalpha():
            joined = self._slip(word + said[at + 1])
            out.append(Heard(joined, f"{word} {said[at + 1]}", call))
            return at + 2
        if kind == 4:
            return at + 1
        if kind == 5:
            out += [Heard(word, word, call), Heard(word, word, call)]
            return at + 1
        heard = [self._common(word)] if kind == 0 else self._torn(word) if kind == 3 and len(word) > 5 else [self._slip(word)]
        self.slips[word] = heard
        out += [Heard(h, word, call) for h in heard]
        return at + 1

    def _common(self, word: str) -> str:
        """One of the common words that sound most like it."""
        key = sound_key(word, self.way.language)
        scored = sorted(
            (
                jellyfish.levenshtein_distance(key, k) / max(len(key), len(k), 1)
                + 0.5 * jellyfish.levenshtein_distance(word, w) / max(len(word), len(w))
                + 0.15 * self.rng.random(),
                w,
            )
            for w, k in self.keys.items()
            if w != word
        )
        return scored[0][1]

    def _slip(self, word: str) -> str:
        letters = list(word)
        for _ in range(1 + (self.rng.random() < 0.4)):
            at = int(self.rng.integers(len(letters)))
            pair = next((p for p in NEAR_LETTERS if letters[at] in p), None)
            if pair is not None:
                letters[at] = pair[1 - pair.index(letters[at])]
            elif self.rng.random() < 0.5 and len(letters) > 3:
                del letters[at]
            else:
                letters.insert(at, letters[at])
        return "".join(letters)

    def _torn(self, word: str) -> list[str]:
        cut = int(self.rng.integers(2, len(word) - 2))
        return [self._slip(word[:cut]) if self.rng.random() < 0.5 else word[:cut], word[cut:]]
