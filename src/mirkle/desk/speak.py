"""What the window says, in the user's language.

Texts stand in the code in English and are looked up in a Qt Linguist file (``share/mirkle_pt.ts``); one that is not there
stays English. ``python tools/texts.py`` puts new texts into the files.
"""

from __future__ import annotations

import locale
import os
from collections.abc import Iterable
from importlib import resources

from PyQt6.QtCore import QCoreApplication, QTranslator

from mirkle.core.clauses import Clause
from mirkle.core.errors import MirkleError
from mirkle.session import places

CONTEXT = "Mirkle"


def say(text: str, *values: object) -> str:
    """A text in the user's language, with values in the places of ``{0}``, ``{1:.1f}`` and so on."""
    said = QCoreApplication.translate(CONTEXT, text)
    return said.format(*values) if values else said


def say_why(because: Iterable[Clause]) -> str:
    """The sentences of a finding in the user's language."""
    return " ".join(say_clause(c) for c in because)


def say_clause(part: Clause | str) -> str:
    """A sentence or a part of one in the user's language, with its values."""
    if isinstance(part, str):
        return say(part) if part else ""
    return say(part.text, *(say_clause(v) if isinstance(v, Clause | str) else v for v in part.values))


def say_fault(fault: MirkleError) -> str:
    """Where, what and how to mend, in the user's language: :attr:`MirkleError.sentence` said again."""
    place = f"{say_clause(fault.where)}: " if fault.where else ""
    cure = f"; {say_clause(fault.mend)}" if fault.mend else ""
    # What a damaged file holds may be quoted in it, line breaks and all.
    return " ".join(f"{place}{say_clause(fault.what)}{cure}.".split())


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

    def isEmpty(self) -> bool:
        return not self._texts

    def translate(self, context: str | None, text: str | None, *_forms: object) -> str | None:  # type: ignore[override]
        """The text in this language, ``None`` where it is not known: an empty one would be shown."""
        return self._texts.get(text or "") if context == CONTEXT else None


def wanted_language() -> str:
    """The language that the user set, else that of the desktop; ``en`` where there is no file for it."""
    told = places.setting("language", None) or os.environ.get("LANGUAGE") or locale.getlocale()[0] or "en"
    code = str(told)[:2].lower()
    return code if (resources.files("mirkle") / "share" / f"mirkle_{code}.ts").is_file() else "en"
