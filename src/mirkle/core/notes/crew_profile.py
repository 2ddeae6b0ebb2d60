"""A crew's way of writing notes, as far as it was told rather than found: language, order, sense, words of its own."""

from __future__ import annotations

from dataclasses import dataclass, replace

from mirkle.core.errors import UnusableLanguage
from mirkle.core.messages import gettext_noop, message
from mirkle.core.notes.language import Language, Term, pieces

ORDERS, SENSES = ("direction-first", "grade-first"), ("ascending", "descending")
# The orders of side and grade in words.
ORDER_WORDS = {"direction-first": gettext_noop("direction first"), "grade-first": gettext_noop("grade first")}


@dataclass(frozen=True)
class CrewProfile:
    """What overrules what the material says; ``None`` leaves it to be found.

    ``languages`` are those to choose from, ``leave`` the words that shall not be read as others, ``meant`` the notes, in lower case, that
    seem to be slips and are meant so.
    """

    languages: tuple[Language, ...]
    order: str | None = None
    sense: str | None = None
    leave: frozenset[str] = frozenset()
    meant: frozenset[str] = frozenset()


def taught(language: Language, kind: str, key: str, form: str) -> Language:
    """The language with one more form of a term: "this word means …". A sign or short form that stood for another term no longer does.

    Raises
    ------
    UnusableLanguage
        The form is no word, or there is no such term.
    """
    if not pieces(form):
        raise UnusableLanguage("there is no word to teach", mend="give the word as it stands in the notes")
    try:
        known = language.term(key, kind)
    except KeyError:
        raise UnusableLanguage(message("“{0}” is no {1} of {2}", key, kind, language.name), mend="choose one of its words") from None
    grown: Term = replace(known, said=(*known.said, form))
    others = (t if form not in t.written else replace(t, written=tuple(w for w in t.written if w != form)) for t in language.terms)
    if known not in language.terms:
        return replace(language, terms=(*others, grown))
    return replace(language, terms=tuple(grown if t is known else other for t, other in zip(language.terms, others, strict=True)))
