"""Puts every text of the window into the translations; those that are translated already stay.

``python tools/texts.py``. Texts are found by Babel's extractor: the first argument of ``say`` and ``clause``, what is marked by
``gettext_noop``, the names of commands and of kinds, and what a fault says and how it is mended. What is new is marked as unfinished, what
is no longer said goes.
"""

from __future__ import annotations

import importlib
import pkgutil
import re
import sys
from collections.abc import Iterator
from pathlib import Path

from babel.messages.extract import extract_from_dir
from lxml import etree

import mirkle
from mirkle.core.errors import MirkleError

ROOT = Path(mirkle.__file__).parent
# Names of what makes something that is shown by its first argument.
BY_FIRST = ("say", "clause", "gettext_noop", "Command", "Kind", "SeenKind")
FILE_NAME = re.compile(r"\w+\.\w{3,4}")


def faults() -> list[str]:
    """The names of all classes of faults: each says as its first argument what is wrong, and as its second what mends it."""
    for module in pkgutil.walk_packages([str(ROOT)], "mirkle."):
        if not module.name.startswith(("mirkle.desk", "mirkle.__main__", "mirkle.standins")):
            importlib.import_module(module.name)

    def below(kind: type) -> Iterator[type]:
        yield kind
        for one in kind.__subclasses__():
            yield from below(one)

    return [kind.__name__ for kind in below(MirkleError)]


def texts() -> list[str]:
    """Every text of the window, each once, in the order of the files."""
    names = faults()
    found: list[str] = []
    # A call's words are extracted at one place of it, so calls with two are gone through twice.
    for keywords in (dict.fromkeys((*BY_FIRST, *names), (1,)), dict.fromkeys(names, (2,))):
        methods = [("standins/**.py", "ignore"), ("**.py", "python")]
        for _, _, words, _, _ in extract_from_dir(ROOT, methods, keywords=keywords):
            found += [words] if isinstance(words, str) else words
    return [t for t in dict.fromkeys(found) if any(c.isalpha() for c in t) and not FILE_NAME.fullmatch(t)]


def renew(path: Path, code: str) -> int:
    """Writes a file with all texts and the translations that it held; returns how many are still unfinished."""
    known: dict[str, str] = {}
    if path.exists():
        for message in etree.parse(str(path)).iter("message"):
            known[message.findtext("source") or ""] = message.findtext("translation") or ""
    ts = etree.Element("TS", version="2.1", language=code, sourcelanguage="en")
    context = etree.SubElement(ts, "context")
    etree.SubElement(context, "name").text = "Mirkle"
    unfinished = 0
    for text in texts():
        message = etree.SubElement(context, "message")
        etree.SubElement(message, "source").text = text
        translation = etree.SubElement(message, "translation")
        translation.text = known.get(text, "")
        if not translation.text:
            translation.set("type", "unfinished")
            unfinished += 1
    path.write_bytes(
        etree.tostring(ts, xml_declaration=True, encoding="utf-8", pretty_print=True, doctype="<!DOCTYPE TS>")
    )
    return unfinished


def main() -> int:
    """Renews every file."""
    for path in sorted((ROOT / "share").glob("mirkle_*.ts")):
        code = path.stem.removeprefix("mirkle_")
        print(f"{path.name}: {renew(path, code)} of {len(texts())} unfinished")
    return 0


if __name__ == "__main__":
    sys.exit(main())
