"""What the window says, in the user's language.

Texts stand in the code in English and are looked up by gettext (``share/mirkle_pt.po`` and ``.mo``); one that is not there stays English.
``python tools/texts.py`` puts new texts into the files.
"""

from __future__ import annotations

import locale
import os
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache
from gettext import GNUTranslations, NullTranslations
from importlib import resources

from mirkle.core.errors import MirkleError
from mirkle.core.messages import Called, FactFormatter, Message
from mirkle.files.notes.languages import shipped_languages
from mirkle.session import settings


@dataclass(frozen=True)
class WindowLanguage:
    """A language of the window: its own name, and whether it writes 0,5."""

    name: str
    decimal_comma: bool = False


LANGUAGES = {"en": WindowLanguage("English"), "pt": WindowLanguage("Português", decimal_comma=True)}
# Terms that stand for figures; those are written as figures.
_FIGURE_KINDS = ("number", "half")


class _Figures(FactFormatter):
    """Figures with the decimal sign of the language that is spoken."""

    def format_field(self, value: object, spec: str) -> str:
        """As :meth:`FactFormatter.format_field`, with a comma where that is written."""
        shown = super().format_field(value, spec)
        return shown.replace(".", ",") if spec and spoken() in LANGUAGES and LANGUAGES[spoken()].decimal_comma else shown


_FIGURES = _Figures()


def tr(text: str, *values: object, **named: object) -> str:
    """A text in the user's language, with values in the places of ``{0}``, ``{1:.1f}``, ``{speed_mps:kmh}`` and so on."""
    # An empty text would be answered with the head of the file.
    said = _texts.gettext(text) if text else text
    return _FIGURES.vformat(said, values, named) if values or named else said


def tr_counted(one: str, many: str, count: int, *values: object) -> str:
    """As :func:`tr`, for a number of things: ``one`` where there is one of them, else ``many`` with the count as its place ``{0}``."""
    return _FIGURES.vformat(_texts.ngettext(one, many, count), (count, *values), {})


def spoken() -> str:
    """The language that is spoken now."""
    return _code


def _called(words: Called) -> str:
    """Words of a note as co-drivers of the language say them."""
    known = _said_in(spoken())
    return " ".join(known.get(term, term) for term in words.terms)


@cache
def _said_in(code: str) -> dict[str, str]:
    """How each of the contract's words is said in a language; nothing for English, which is what they are."""
    language = next((one for one in shipped_languages() if one.code == code), None)
    if language is None or code == "en":
        return {}
    # A word of two kinds is said as its first.
    return {term.key: term.said[0] for term in reversed(language.terms) if term.said and term.kind not in _FIGURE_KINDS}


def tr_why(because: Iterable[Message]) -> str:
    """The sentences of a finding in the user's language."""
    return " ".join(tr_message(c) for c in because)


def tr_message(part: Message | Called | str) -> str:
    """A sentence or a part of one in the user's language, with its values."""
    if isinstance(part, Called):
        return _called(part)
    if isinstance(part, str):
        return tr(part) if part else ""
    if part.one:
        return tr_counted(part.one, part.text, int(str(part.values[0])), *map(_tr_value, part.values[1:]))
    return tr(part.text, *map(_tr_value, part.values), **{name: _tr_value(value) for name, value in part.named})


def _tr_value(value: object) -> object:
    return tr_message(value) if isinstance(value, Message | Called | str) else value


def text_of(part: Message | str) -> str:
    """As :func:`tr_message`, but a text that may be the crew's own is never taken for one of ours."""
    return part if type(part) is str else tr_message(part)


def tr_fault(fault: MirkleError) -> str:
    """Where, what and how to mend, in the user's language: :attr:`MirkleError.sentence` said again."""
    place = f"{tr_message(fault.where)}: " if fault.where else ""
    cure = f"; {tr_message(fault.mend)}" if fault.mend else ""
    # What a damaged file holds may be quoted in it, line breaks and all.
    return " ".join(f"{place}{tr_message(fault.what)}{cure}.".split())


def speak(code: str, texts: NullTranslations | None = None) -> None:
    """Says everything in a language from now on; ``texts`` where its translations are not those that ship."""
    global _code, _texts
    _code, _texts = code, texts or translations(code)


def translations(code: str) -> NullTranslations:
    """The texts of a language that ships; those of English stand in the code."""
    if code == "en":
        return NullTranslations()
    with (resources.files("mirkle") / "share" / f"mirkle_{code}.mo").open("rb") as file:
        return GNUTranslations(file)


_code, _texts = "en", NullTranslations()


def wanted_language() -> str:
    """The language that the user set, else that of the desktop; ``en`` where that is none of :data:`LANGUAGES`."""
    wanted = settings.setting("language", None) or os.environ.get("LANGUAGE") or locale.getlocale()[0] or "en"
    code = str(wanted)[:2].lower()
    return code if code in LANGUAGES else "en"
