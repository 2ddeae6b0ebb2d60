"""The words of one language of notes, as data: terms with their spoken and written forms."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from mirkle.core.errors import UnusableLanguage

# A word, a number, or a single mark: written short-hand such as "/cr" is read piece by piece.
PIECE = re.compile(r"[^\W\d_]+(?:['’][^\W\d_]+)*|\d+|[^\s\w]|_")

KINDS = (
    "direction",
    "grade",
    "half",
    "length",
    "change",
    "caution",
    "feature",
    "over",
    "line",
    "object",
    "side",
    "surface",
    "state",
    "link",
    "to",
    "mark",
    "number",
    "filler",
)


@dataclass(frozen=True)
class Term:
    """One term: its own name in the contract, its kind, and how it is said and written."""

    key: str
    kind: str
    said: tuple[str, ...]
    written: tuple[str, ...] = ()


@dataclass
class _Branch:
    next: dict[str, _Branch] = field(default_factory=dict)
    term: Term | None = None


@dataclass(frozen=True)
class Language:
    """A language of notes. ``code`` is its BCP 47 tag."""

    code: str
    name: str
    terms: tuple[Term, ...]

    @cached_property
    def _tree(self) -> _Branch:
        root = _Branch()
        for term in self.terms:
            for form in (*term.said, *term.written):
                at = root
                for piece in pieces(form):
                    at = at.next.setdefault(piece, _Branch())
                at.term = at.term or term
        return root

    def longest(self, words: list[str], start: int) -> tuple[Term, int] | None:
        """The longest term whose form begins at ``words[start]``, and how many words it takes."""
        at, found = self._tree, None
        for taken, word in enumerate(words[start:], start=1):
            branch = at.next.get(word)
            if branch is None:
                break
            at = branch
            if at.term is not None:
                found = (at.term, taken)
        return found

    def term(self, key: str, kind: str) -> Term:
        """The term of that name and kind.

        Raises
        ------
        KeyError
        """
        for term in self.terms:
            if term.key == key and term.kind == kind:
                return term
        raise KeyError(key)


def pieces(text: str) -> list[str]:
    """The words, numbers and marks of a text in lower case."""
    return [m.group().lower() for m in PIECE.finditer(text)]


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
        raise UnusableLanguage(f"{missing} is missing", mend="add it at the top", where=where) from None
    terms = []
    for kind, entries in table.items():
        if kind in ("code", "name"):
            continue
        if kind not in KINDS:
            raise UnusableLanguage(f"[{kind}] is no kind of term", mend=f"use one of {', '.join(KINDS)}", where=where)
        for key, forms in entries.items():
            if isinstance(forms, list):
                forms = {"said": forms}
            if not isinstance(forms, dict) or not forms.get("said"):
                raise UnusableLanguage(
                    f"“{key}” has no spoken form", mend="give it said = [...]", where=f"{where} [{kind}]"
                )
            terms.append(Term(key=key, kind=kind, said=tuple(forms["said"]), written=tuple(forms.get("written", ()))))
    return Language(code=code, name=name, terms=tuple(terms))
