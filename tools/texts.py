"""Puts every text of the window into the translations; those that are translated already stay.

``python tools/texts.py`` renews ``share/mirkle_*.po``, which translators edit, and compiles each to the ``.mo`` that the window reads. Texts are
found by Babel's extractor: the first argument of ``tr`` and ``message``, what is marked by ``gettext_noop``, the names of commands and of
kinds, and what a fault says and how it is mended. What is new has no translation yet; what is no longer said goes.
"""

from __future__ import annotations

import importlib
import pkgutil
import re
import sys
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

import mirkle
from mirkle.core.errors import MirkleError

ROOT = Path(mirkle.__file__).parent
# Names of what makes something that is shown by its first argument.
BY_FIRST = ("tr", "message", "gettext_noop", "Command", "_stage", "_of_finding", "Kind", "SeenKind")
# And by its first two, for one thing and for many.
BY_COUNT = ("counted", "tr_counted")
# The same whenever it is run: what differs is what was said otherwise.
BEGAN = datetime(2026, 11, 30, tzinfo=UTC)
TWO_FORMS = "nplurals=2; plural=(n != 1);"
FILE_NAME = re.compile(r"\w+\.\w{3,4}")


def faults() -> list[str]:
    """The names of all classes of faults: each says as its first argument what is wrong, and as its second what mends it."""
    for module in pkgutil.walk_packages([str(ROOT)], "mirkle."):
        if not module.name.startswith(("mirkle.gui", "mirkle.__main__", "mirkle.synthetic")):
            importlib.import_module(module.name)

    def below(kind: type) -> Iterator[type]:
        yield kind
        subclasses: list[type] = kind.__subclasses__()
        for one in subclasses:
            yield from below(one)

    return [kind.__name__ for kind in below(MirkleError)]


def texts() -> list[str | tuple[str, ...]]:
    """Every text of the window, each once, in the order of the files; a pair where it is about a number of things."""
    names = faults()
    found: list[str | tuple[str, ...]] = []
    # A call's words are extracted at one place of it, so calls with two are gone through twice.
    for keywords in (dict.fromkeys((*BY_FIRST, *names), (1,)) | dict.fromkeys(BY_COUNT, (1, 2)), dict.fromkeys(names, (2,))):
        methods = [("synthetic/**.py", "ignore"), ("**.py", "python")]
        for _, _, words, _, _ in extract_from_dir(ROOT, methods, keywords=keywords):
            found.append(words)
    return [t for t in dict.fromkeys(found) if isinstance(t, tuple) or (any(c.isalpha() for c in t) and not FILE_NAME.fullmatch(t))]


def template() -> Catalog:
    """Every text of the window, nothing translated."""
    catalog = Catalog(project="Mirkle", header_comment="# Every text of Mirkle. Renewed by tools/texts.py.", creation_date=BEGAN)
    for text in texts():
        catalog.add(text)
    return catalog


def renewed(path: Path, code: str, wanted: Catalog) -> Catalog:
    """A file's catalog with all texts and the translations that it held."""
    known = read_po(path.open("rb"), locale=code) if path.exists() else Catalog()
    catalog = Catalog(
        locale=code,
        project="Mirkle",
        version=mirkle.__version__,
        header_comment=wanted.header_comment,
        creation_date=BEGAN,
        revision_date=BEGAN,
        last_translator="the Mirkle crew",
        language_team=code,
        fuzzy=False,
    )
    # One form for one thing and one for many, unless the file's own head says otherwise: millions have a form of their own in newer tables.
    catalog.mime_headers = [("Plural-Forms", known.plural_forms if path.exists() else TWO_FORMS)]
    for message in wanted:
        if message.id:
            before = known.get(message.id)
            # What was one text and is a pair now, or the other way round, is translated anew.
            catalog.add(message.id, before.string if before is not None and before.id == message.id else "")
    return catalog


def _forms(said: object) -> tuple[str, ...]:
    return (said,) if isinstance(said, str) else tuple(said) if isinstance(said, list | tuple) else ("",)


def main() -> int:
    """Renews every file, and what the window reads of it."""
    wanted = template()
    for path in sorted((ROOT / "share").glob("mirkle_*.po")):
        catalog = renewed(path, path.stem.removeprefix("mirkle_"), wanted)
        with path.open("wb") as file:
            write_po(file, catalog, width=0)
        with path.with_suffix(".mo").open("wb") as file:
            write_mo(file, catalog)
        print(f"{path.name}: {sum(not all(_forms(m.string)) for m in catalog if m.id)} of {len(catalog)} untranslated")
    return 0


if __name__ == "__main__":
    sys.exit(main())
