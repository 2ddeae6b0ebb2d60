"""What the window says, in the user's language.

Texts stand in the code in English and are looked up in a Qt Linguist file (``share/mirkle_pt.ts``); one that is not there
stays English. ``python tools/texts.py`` puts new texts into the files.
"""

from __future__ import annotations

import locale
import os
import re
from collections.abc import Iterable
from functools import cached_property
from importlib import resources

from PyQt6.QtCore import QCoreApplication, QTranslator

from mirkle.core.errors import MirkleError
from mirkle.core.verdict.clauses import Clause
from mirkle.session import places

CONTEXT = "Mirkle"
_PLACE = re.compile(r"\{(\d+)[^}]*\}")


def say(text: str, *values: object) -> str:
    """A text in the user's language, with values in the places of ``{0}``, ``{1:.1f}`` and so on."""
    said = QCoreApplication.translate(CONTEXT, text)
    return said.format(*values) if values else said


def say_why(because: Iterable[Clause]) -> str:
    """The sentences of a finding in the user's language."""
    return " ".join(_clause(c) for c in because)


def say_fault(fault: MirkleError) -> str:
    """Where, what and how to mend, in the user's language: :attr:`MirkleError.sentence` said again."""
    place = f"{say_again(fault.where)}: " if fault.where else ""
    cure = f"; {say_again(fault.mend)}" if fault.mend else ""
    return f"{place}{say_again(fault.what)}{cure}."


def say_again(sentence: str) -> str:
    """A sentence that came with its values in it, as those of faults and doubts do, in the user's language.

    What reads a file knows nothing of windows, so its sentence is held against the patterns of those that are known.
    """
    app = QCoreApplication.instance()
    texts = app.findChild(Texts) if app is not None else None
    return texts.said_again(sentence) if texts is not None else sentence


def _clause(part: Clause) -> str:
    values = [_clause(v) if isinstance(v, Clause) else say(v) if isinstance(v, str) and v else v for v in part.values]
    return say(part.text, *values)


class Texts(QTranslator):
    """The texts of a Qt Linguist file, read as it is."""

    def __init__(self, code: str) -> None:
        super().__init__()
        from lxml import etree

        tree = etree.parse(str(resources.files("mirkle") / "share" / f"mirkle_{code}.ts"))
        self._texts: dict[str, str] = {}
        for message in tree.iter("message"):
            translation = message.find("translation")
            if translation is not None and translation.text and translation.get("type") != "unfinished":
                self._texts[message.findtext("source") or ""] = translation.text

    @cached_property
    def _patterns(self) -> list[tuple[re.Pattern[str], str]]:
        """What sentences with values look like, and their translations; the longest first: a short one may fit by chance."""
        with_values = sorted((s for s in self._texts if "{0}" in s), key=len, reverse=True)
        return [(_pattern(source), self._texts[source]) for source in with_values]

    def said_again(self, sentence: str) -> str:
        """A sentence with its values in it, said in this language; as it is where no pattern fits."""
        known = self._texts.get(sentence)
        if known is not None:
            return known
        for pattern, text in self._patterns:
            found = pattern.fullmatch(sentence)
            if found is not None:
                values = {int(name[1:]): self._texts.get(v, v) for name, v in found.groupdict().items()}
                return _PLACE.sub(lambda place, values=values: values[int(place[1])], text)  # type: ignore[misc]
        return sentence

    def isEmpty(self) -> bool:
        return not self._texts

    def translate(self, context: str | None, text: str | None, *_forms: object) -> str | None:  # type: ignore[override]
        """The text in this language, ``None`` where it is not known: an empty one would be shown."""
        return self._texts.get(text or "") if context == CONTEXT else None


def _pattern(source: str) -> re.Pattern[str]:
    """What a text looks like with any values in its places; a value that stands there twice is the same twice."""
    out, at, seen = "", 0, set()
    for place in _PLACE.finditer(source):
        number = place[1]
        out += re.escape(source[at : place.start()])
        out += f"(?P=v{number})" if number in seen else f"(?P<v{number}>.+?)"
        seen.add(number)
        at = place.end()
    return re.compile(out + re.escape(source[at:]), re.DOTALL)


def wanted_language() -> str:
    """The language that the user set, else that of the desktop; ``en`` where there is no file for it."""
    told = places.setting("language", None) or os.environ.get("LANGUAGE") or locale.getlocale()[0] or "en"
    code = str(told)[:2].lower()
    return code if (resources.files("mirkle") / "share" / f"mirkle_{code}.ts").is_file() else "en"
