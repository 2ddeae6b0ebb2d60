"""What an unknown word or sign of a book may mean: the nearest terms, to be asked about and never guessed."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from mirkle.core.notes.language import Language, Term, pieces
from mirkle.core.notes.phonetics import plain

MOST = 5
# Further from a term in sound than this is no likeness.
ALIKE = 0.5
SHORT = 4


class Meaning(NamedTuple):
    """A term that a word may mean: as it is said, its kind and its name."""

    said: str
    kind: str
    key: str


def meanings_of(form: str, language: Language) -> list[Meaning]:
    """The terms that a form is likeliest to mean, the likeliest first, at most :data:`MOST`.

    If the language lists meanings of this short form, these are all. Else the form may be a term with letters left out
    ("brk"), or sound like one.
    """
    found: list[tuple[str, str]] = [meant for asked, meanings in language.asked if asked == form for meant in meanings]
    if form.isalpha() and not found:
        shortened = [(len(t.said[0]), n, t) for n, t in enumerate(language.terms) if _shortens(form, t)]
        found = [(t.kind, t.key) for *_, t in sorted(shortened, key=lambda s: s[:2])] + _sounding_like(form, language)
    return [Meaning(_said(language, *meant), *meant) for meant in list(dict.fromkeys(found))[:MOST]]


def _sounding_like(form: str, language: Language) -> list[tuple[str, str]]:
    """The terms that a form sounds like, by kind and key, the likest first; a few letters are short for something rather than that."""
    if len(form) < SHORT:
        return []
    unlike = language.lexicon.unlike([form])[0]
    near = [at for at in np.argsort(unlike, kind="stable")[:MOST] if unlike[at] <= ALIKE]
    terms = (language.vocabulary[language.lexicon.forms[at]][0] for at in near)
    return [(term.kind, term.key) for term in terms]


def _shortens(form: str, term: Term) -> bool:
    """Whether a form is a term with letters left out of it, the first one kept; talk and small words are never shortened."""
    if term.kind in ("chat", "filler", "go", "correction", "incident", "number", "link", "over") or len(form) < 2:
        return False
    return any(_left_out(plain(form), plain("".join(pieces(said)))) for said in term.said)


def _left_out(short: str, whole: str) -> bool:
    if not whole or short[0] != whole[0] or len(short) >= len(whole):
        return False
    letters = iter(whole)
    return all(letter in letters for letter in short)


def _said(language: Language, kind: str, key: str) -> str:
    if kind == "corner":
        side, _, grade = key.partition(" ")
        return f"{language.term(side, 'direction').said[0]} {language.term(grade, 'grade').said[0]}"
    return language.term(key, kind).said[0]
