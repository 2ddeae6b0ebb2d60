"""The words of one language of notes, as data: terms with their spoken and written forms."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from mirkle.core.errors import UnusableLanguage
from mirkle.core.messages import message
from mirkle.core.notes.grading import BETWEEN, HALF_MARKS, WORDS
from mirkle.core.notes.phonetics import Lexicon, unlikeness

# No form has more words than this.
MOST_WORDS = 6
# Nor has a side with a short form that is written in one word more letters.
LONGEST_SHORTHAND = 6
# A word, a number, or a mark: written short-hand such as "/cr" is read piece by piece, "!!" is one mark of its own.
PIECE = re.compile(r"[^\W\d_]+(?:['’][^\W\d_]+)*|\d+|([^\s\w])\1*|_")

KINDS = (
    "direction",
    "grade",
    "half",
    "length",
    "change",
    "caution",
    "feature",
    "maybe",
    "over",
    "line",
    "object",
    "side",
    "surface",
    "state",
    "link",
    "mark",
    "number",
    "filler",
    "go",
    "correction",
    "incident",
    "chat",
    "corner",
    "double",
)
_WAYS = ("said", "written", "heard")
# Which half of a grade a word stands for.
HALF_NAMES = {"+": "plus", "-": "minus", BETWEEN: "between"}
HALF_SIGNS = {"plus": "+", "wide": "+", "minus": "-", "tight": "-", "between": BETWEEN}
# The table of grades that are words.
WORD_GRADES = "word grades"


@dataclass(frozen=True)
class Term:
    """One term: its own name in the contract, its kind, and how it is said, written, and misheard by a recogniser."""

    key: str
    kind: str
    said: tuple[str, ...]
    written: tuple[str, ...] = ()
    heard: tuple[str, ...] = ()


@dataclass(frozen=True)
class Match:
    """A term whose form begins at a word and takes ``taken`` words; ``way`` is ``said``, ``written`` or ``heard``."""

    term: Term
    taken: int
    way: str


@dataclass
class _Branch:
    next: dict[str, _Branch] = field(default_factory=dict)
    found: list[tuple[Term, str]] = field(default_factory=list)


@dataclass(frozen=True)
class Language:
    """A language of notes. ``code`` is its BCP 47 tag.

    ``teens`` gives for a number the one that sounds like it; ``joiners`` and ``short_hundreds`` say how numbers are
    put together ("one hundred and fifty", "one fifty"); ``sound_rules`` turn spelling into sound, one after the other;
    ``homophones`` are words that sound the same.
    ``asked`` are short forms that are never read unasked, each with what it may mean as (kind, key), the likeliest first.
    The rest tells remarks, which nobody calls (:mod:`mirkle.core.notes.remarks`): ``remark_heads`` stand in front of one with a colon,
    ``graded_before`` in front of what a corner was graded ("was 3"), in speech with ``subjects`` before it ("that one was a three"), with
    ``articles`` between and ``since`` behind ("last year"); ``houses`` have a number, ``numbers_of`` make one ("no. 12"). A term of the
    kind ``corner`` is a direction and a named grade in one form, such as "HL": only a crew's own file has any. ``word_grades`` are the
    grades of crews that count by words, from the tightest ("very slow") to the most open; most of these words mean something else to a crew
    that counts by numbers, so they are only read in a text that has hardly any other grade (:meth:`grading_by_words`).
    """

    code: str
    name: str
    terms: tuple[Term, ...]
    joiners: tuple[str, ...] = ()
    short_hundreds: bool = False
    teens: tuple[tuple[int, int], ...] = ()
    sound_rules: tuple[tuple[str, str], ...] = ()
    homophones: tuple[frozenset[str], ...] = ()
    asked: tuple[tuple[str, tuple[tuple[str, str], ...]], ...] = ()
    remark_heads: frozenset[str] = frozenset()
    subjects: tuple[str, ...] = ()
    graded_before: tuple[str, ...] = ()
    articles: tuple[str, ...] = ()
    since: tuple[str, ...] = ()
    houses: tuple[str, ...] = ()
    numbers_of: tuple[str, ...] = ()
    word_grades: tuple[Term, ...] = ()

    @cached_property
    def grading_by_words(self) -> Language:
        """The language of a crew whose grades are words."""
        return replace(self, terms=(*self.terms, *self.word_grades), word_grades=())

    @cached_property
    def word_grade_ends(self) -> frozenset[str]:
        """The last words of the grades that are words: "slow" of "very slow"."""
        return frozenset(pieces(f)[-1] for t in self.word_grades for f in t.said)

    @cached_property
    def _tree(self) -> _Branch:
        root = _Branch()
        for term in (*self.terms, *self._composed_numbers()):
            for way in _WAYS:
                for form in getattr(term, way):
                    at = root
                    for piece in pieces(form):
                        at = at.next.setdefault(piece, _Branch())
                    if all(t is not term for t, _ in at.found):
                        at.found.append((term, way))
        return root

    def _composed_numbers(self) -> list[Term]:
        """The distances from a hundred on that are said in two parts: "two hundred and fifty", in short languages "two fifty" as well."""
        numbers = {int(t.key): t for t in self.terms if t.kind == "number"}
        tens = [t for n, t in numbers.items() if 10 <= n < 100]
        made = []
        for hundred in numbers.keys() & set(range(100, 1000, 100)):
            unit = numbers[hundred // 100]
            heads = _joined(unit.heard, numbers[100].said[:1]) if self.short_hundreds else []
            if heads:
                made.append(Term(str(hundred), "number", (), heard=tuple(heads)))
            made += [self._composed(hundred, numbers[hundred], unit, heads, ten) for ten in tens]
        return [*made, *self._tens_and_five(numbers)]

    def _tens_and_five(self, numbers: Mapping[int, Term]) -> Iterator[Term]:
        """The distances between two tens: "twenty five", and with a joiner where a language says its hundreds with one, too."""
        joints = (" ",) if self.short_hundreds else (*(f" {j} " for j in self.joiners), " ")
        for ten in numbers.keys() & set(range(20, 100, 10)):
            yield Term(str(ten + 5), "number", tuple(_joined(numbers[ten].said, numbers[5].said, joints)))

    def _composed(self, hundred: int, whole: Term, unit: Term, heads: Sequence[str], ten: Term) -> Term:
        """A number of hundreds and tens; ``unit`` counts the hundreds, ``heads`` are how these are misheard."""
        joints = (*(f" {j} " for j in self.joiners), " ")
        said = _joined(whole.said, ten.said, joints)
        heard = _joined(heads, ten.said, joints)
        if self.short_hundreds:
            said += _joined(unit.said, ten.said)
            heard += _joined(unit.heard, ten.said)
        return Term(str(hundred + int(ten.key)), "number", tuple(said), heard=tuple(heard))

    def matches(self, words: Sequence[str], start: int) -> list[Match]:
        """Every term whose form begins at ``words[start]``, the shortest first."""
        at, found = self._tree, []
        for taken, word in enumerate(words[start : start + MOST_WORDS], start=1):
            branch = at.next.get(word)
            if branch is None:
                break
            at = branch
            found += [Match(term, taken, way) for term, way in at.found]
        return found

    def kinds_in(self, words: Sequence[str]) -> set[str]:
        """The kinds of the terms that stand somewhere in some words, those that are only often heard for another left out."""
        return {m.term.kind for at in range(len(words)) for m in self.matches(words, at) if m.way != "heard"}

    @cached_property
    def vocabulary(self) -> dict[str, tuple[Term, int]]:
        """Every spoken form without its spaces, with its term and how many words it has; what sounds are held against."""
        return {"".join(pieces(form)): (term, len(pieces(form))) for term in self.terms if term.kind != "filler" for form in term.said}

    def unlikeness(self, a: str, b: str) -> float:
        """How unlike two words sound, from 0 for homophones to 1."""
        if any(a in group and b in group for group in self.homophones):
            return 0.0
        return unlikeness(a, b, self.sound_rules)

    @cached_property
    def lexicon(self) -> Lexicon:
        """The vocabulary by its sound, without small words and talk, which sound like too much."""
        small = ("chat", "link", "over")
        forms = [f for f, (term, _) in self.vocabulary.items() if len(f) >= 3 and term.kind not in small]
        return Lexicon(forms, self.sound_rules)

    @cached_property
    def leading_on(self) -> frozenset[str]:
        """Small words that lead from a change of radius to its grade, such as the "to" of "tightens to 3"."""
        return frozenset(p for t in self.terms if t.kind in ("link", "filler") for f in t.said for p in pieces(f))

    @cached_property
    def plurals(self) -> frozenset[str]:
        """The one-word forms of features that may be counted, as in "over two crests"."""
        return frozenset(f for t in self.terms if t.kind == "feature" for f in t.said if f.endswith("s"))

    @cached_property
    def own_words(self) -> frozenset[str]:
        """Every word of three letters or more, and every short-hand for a direction, that this language uses."""
        forms = (f for t in self.terms for f in (*t.said, *t.written))
        return frozenset(p for form in forms for p in pieces(form) if len(p) > 2) | self.directions

    def _said(self, kind: str) -> list[str]:
        """All spoken forms of a kind of term."""
        return [form for term in self.terms if term.kind == kind for form in term.said]

    @cached_property
    def pieces_of_word_grades(self) -> frozenset[str]:
        """Every word of the grades that are words, such as "slow"."""
        return frozenset(piece for term in self.terms if term.key in WORDS for form in term.said for piece in form.split())

    @cached_property
    def graded_before_pattern(self) -> re.Pattern[str] | None:
        """What a corner was graded before, such as "was a left 3 last year"; ``None`` where the language has no words for it."""
        if not self.graded_before:
            return None
        digits = [f for t in self.terms if t.kind == "number" and len(t.key) == 1 for f in t.said]
        grade = rf"(?:\d{{1,2}}|{_any([*self._said('grade'), *digits])})(?:\s?[{HALF_MARKS}])?"
        articles = rf"(?:\s+(?:{_any(self.articles)}))?" if self.articles else ""
        since = rf"(?:\s+(?:{_any(self.since)}))*" if self.since else ""
        pattern = rf"\b(?:{_any(self.graded_before)}){articles}(?:\s+(?:{_any(self._said('direction'))}))?\s+{grade}(?!\w){since}"
        return re.compile(pattern, re.IGNORECASE)

    @cached_property
    def number_pattern(self) -> re.Pattern[str] | None:
        """A number that a word such as "no." makes one of a house; ``None`` where the language has no such word."""
        if not self.numbers_of:
            return None
        return re.compile(rf"(?<!\w)(?:{_any(self.numbers_of)})[^\S\n]*\d{{1,4}}\w?\b", re.IGNORECASE)

    @cached_property
    def house_pattern(self) -> re.Pattern[str] | None:
        """A house with a number (1), its letter (2), and the rest of the line (3); ``None`` where the language has no such word."""
        if not self.houses:
            return None
        return re.compile(rf"\b(?:{_any(self.houses)})[^\S\n]+(\d{{1,4}})(?!m\b)([a-z]?)\b([^\n]*)", re.IGNORECASE)

    @cached_property
    def gap_pattern(self) -> re.Pattern[str]:
        """A distance or a link word."""
        return re.compile(r"\d{2,}|\b(?:" + _any(f for t in self.terms if t.kind == "link" for f in t.said) + r")\b")

    @cached_property
    def directions(self) -> frozenset[str]:
        """The words and letters for left and right."""
        forms = (f for t in self.terms if t.kind == "direction" for f in (*t.said, *t.written))
        return frozenset(pieces(f)[0] for f in forms if len(pieces(f)) == 1)

    def parted(self, word: str, *, behind_a_grade: bool) -> int:
        """Where a word that is none parts into a side's letter and a short form, 0 where it does not: "hpl" and "lhp" of a left hairpin,
        or, ``behind_a_grade``, "rdc" of "4Rdc"."""
        if not 3 <= len(word) <= LONGEST_SHORTHAND or self.knows(word):
            return 0
        letters = self._side_letters
        if word[0] in letters and (word[1:] in self._short_grades or (behind_a_grade and word[1:] in self._short_forms)):
            return 1
        return len(word) - 1 if word[-1] in letters and word[:-1] in self._short_grades else 0

    @cached_property
    def _side_letters(self) -> frozenset[str]:
        """The letters for left and right."""
        return frozenset(d for d in self.directions if len(d) == 1)

    @cached_property
    def _short_grades(self) -> frozenset[str]:
        """The short forms of grades that are words, of two letters or more."""
        return self._short_forms_of("grade")

    @cached_property
    def _short_forms(self) -> frozenset[str]:
        """The short forms of what stands behind a corner, of two letters or more."""
        return self._short_forms_of("line", "length", "half", "change")

    def _short_forms_of(self, *kinds: str) -> frozenset[str]:
        return frozenset(f for t in self.terms if t.kind in kinds for f in t.written if f.isalpha() and len(f) > 1)

    def knows(self, word: str) -> bool:
        """Whether a word is part of some form that is said or written."""
        return word in self._words

    @cached_property
    def _words(self) -> frozenset[str]:
        return frozenset(p for t in self.terms for f in (*t.said, *t.written) for p in pieces(f))

    @cached_property
    def number_forms(self) -> dict[str, tuple[str, ...]]:
        """How each number is said, by its figures."""
        out: dict[str, tuple[str, ...]] = {}
        for term in (*self.terms, *self._composed_numbers()):
            if term.kind == "number":
                out[term.key] = (*out.get(term.key, ()), *term.said)
        return out

    @cached_property
    def number_pieces(self) -> frozenset[str]:
        """Every word that some number is said with."""
        return frozenset(w for forms in self.number_forms.values() for f in forms for w in f.split())

    @cached_property
    def multiplied(self) -> frozenset[str]:
        """The number words that stand behind a smaller one, such as "hundred" in "two hundred"."""
        two_words = (f.split() for forms in self.number_forms.values() for f in forms if f.count(" ") == 1)
        return frozenset(b for a, b in two_words if a in self.small_numbers and self.number_words.get(b, 0) >= 100)

    @cached_property
    def number_words(self) -> dict[str, int]:
        """Every number that is one word, by that word."""
        return {f: int(t.key) for t in self.terms if t.kind == "number" for f in t.said if " " not in f}

    def tens_of(self, word: str) -> int:
        """The tens that a word or two figures say, such as 30 for "thirty"; 0 where it says none."""
        value = int(word) if word.isdecimal() and len(word) == 2 else self.number_words.get(word, 0)
        return value if value % 10 == 0 and 10 <= value <= 90 else 0

    @cached_property
    def small_numbers(self) -> frozenset[str]:
        """The words for one to ten."""
        return frozenset(f for t in self.terms if t.kind == "number" and int(t.key) <= 10 for f in t.said)

    @cached_property
    def to_words(self) -> frozenset[str]:
        """The words that lead from one grade to another, as in "six to three"."""
        return frozenset(f for t in self.terms if t.kind == "link" and t.key in ("to", "into") for f in t.said)

    def number_of(self, word: str) -> str:
        """The figures of a number's word."""
        return next(t.key for t in self.terms if t.kind == "number" and word in t.said)

    def term(self, key: str, kind: str) -> Term:
        """The term of that name and kind.

        Raises
        ------
        KeyError
        """
        for term in (*self.terms, *self.word_grades):
            if term.key == key and term.kind == kind:
                return term
        if kind == "corner" and key.partition(" ")[0] in ("left", "right"):
            side, _, grade = key.partition(" ")
            self.term(grade, "grade"), self.term(side, "direction")
            return Term(key, kind, ())
        raise KeyError(key)


def _joined(heads: Iterable[str], tails: Sequence[str], joints: Sequence[str] = (" ",)) -> list[str]:
    """Every head with every tail behind it, joined in each of the ways."""
    return [head + joint + tail for head in heads for joint in joints for tail in tails]


def _any(words: Iterable[str]) -> str:
    """A pattern of any of some words, the longest first."""
    return "|".join(re.escape(w).replace(r"\ ", r"\s+") for w in sorted(words, key=len, reverse=True))


def pieces(text: str) -> list[str]:
    """The words, numbers and marks of a text in lower case."""
    return [m.group().lower() for m in PIECE.finditer(text)]


# What a language's file holds besides its terms.
OTHER_TABLES = frozenset(("code", "name", "compose", "sound", "asked", "remark", WORD_GRADES))


def _entries(table: Mapping[str, Any], kind: str, where: str) -> Iterable[tuple[str, Any]]:
    """The terms of a kind with their forms."""
    entries = table.get(kind, {})
    if not isinstance(entries, dict):
        raise UnusableLanguage(message("[{0}] is not a table", kind), mend="write its terms below it", where=where)
    return entries.items()


def language_from_table(table: Mapping[str, Any], *, where: str) -> Language:
    """A language from the parsed content of its file.

    Raises
    ------
    UnusableLanguage
        A term lacks a key or forms, or has a kind that is not known.
    """
    try:
        code, name = str(table["code"]), str(table["name"])
    except KeyError as missing:
        raise UnusableLanguage(message("{0} is missing", missing), mend="add it at the top", where=where) from None
    terms = tuple(_all_terms(table, where))
    by_words = _terms(table, WORD_GRADES, "grade", where)
    try:
        compose, sound, remark = (table.get(part, {}) for part in ("compose", "sound", "remark"))
        return Language(
            code=code,
            name=name,
            terms=terms,
            word_grades=by_words,
            joiners=_texts(compose, "joiners"),
            short_hundreds=bool(compose.get("short", False)),
            teens=tuple((int(heard), int(meant)) for heard, meant in compose.get("teens", {}).items()),
            sound_rules=tuple((str(a), str(b)) for a, b in sound.get("rules", ())),
            homophones=tuple(frozenset(str(group).split()) for group in sound.get("homophones", ())),
            asked=tuple((form, tuple(map(_kind_and_key, meant))) for form, meant in table.get("asked", {}).items()),
            remark_heads=frozenset(_texts(remark, "heads")),
            subjects=_texts(remark, "subjects"),
            graded_before=_texts(remark, "graded_before"),
            articles=_texts(remark, "articles"),
            since=_texts(remark, "since"),
            houses=_texts(remark, "houses"),
            numbers_of=_texts(remark, "numbers_of"),
        )
    except (AttributeError, TypeError, ValueError):
        raise UnusableLanguage(
            "[compose], [sound], [asked] or [remark] has another form than this",
            mend='write joiners = ["and"], teens = { 30 = 13 }, rules = [["ph", "f"]], c = ["feature crest"]',
            where=where,
        ) from None


def _texts(part: Mapping[str, Any], key: str) -> tuple[str, ...]:
    return tuple(map(str, part.get(key, ())))


def _all_terms(table: Mapping[str, Any], where: str) -> Iterator[Term]:
    """The terms of all kinds, in the order of the file."""
    for kind in (k for k in table if k not in OTHER_TABLES):
        if kind not in KINDS:
            raise UnusableLanguage(
                message("[{0}] is not a kind of term", kind), mend=message("use one of {0}", ", ".join(KINDS)), where=where
            )
        yield from _terms(table, kind, kind, where)


def _terms(table: Mapping[str, Any], part: str, kind: str, where: str) -> tuple[Term, ...]:
    """The terms of a kind from the rows of one part of the file."""
    return tuple(_term(key, kind, forms, where=f"{where} [{part}]") for key, forms in _entries(table, part, where))


def _kind_and_key(text: str) -> tuple[str, str]:
    kind, _, key = text.partition(" ")
    if kind not in KINDS or not key:
        raise ValueError(text)
    return kind, key


def _term(key: str, kind: str, forms: object, *, where: str) -> Term:
    """A term from its row.

    Raises
    ------
    UnusableLanguage
        It lacks a spoken form, has a form of another kind than those that there are, or a key that its kind can't have.
    """
    if isinstance(forms, list):
        forms = {"said": forms}
    if not isinstance(forms, dict) or not forms.get("said"):
        raise UnusableLanguage(message("“{0}” has no spoken form", key), mend="give it said = [...]", where=where)
    unknown = set(forms) - set(_WAYS)
    if unknown:
        raise UnusableLanguage(message("“{0}” has {1} = …", key, unknown.pop()), mend=message("use {0}", ", ".join(_WAYS)), where=where)
    if kind == "number" and not key.isdecimal():
        raise UnusableLanguage(message("“{0}” is not a number", key), mend="name numbers by their figures", where=where)
    if kind == "direction" and key not in ("left", "right"):
        raise UnusableLanguage(message("“{0}” is not a direction", key), mend="use left and right as the names", where=where)
    return Term(key=key, kind=kind, **{way: _form_list(key, way, forms.get(way, []), where) for way in _WAYS})


def _form_list(key: str, way: str, given: object, where: str) -> tuple[str, ...]:
    """The forms of a term in one way, each a text with a word in it."""
    if not isinstance(given, list) or not all(isinstance(f, str) and pieces(f) for f in given):
        raise UnusableLanguage(message("“{0}”: {1} is not a list of words", key, way), mend='write ["one", "two"]', where=where)
    return tuple(given)
