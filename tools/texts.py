"""Puts every text of the window into the translations; those that are translated already stay.

``python tools/texts.py`` renews ``share/mirkle_*.po``, which translators edit, compiles each to the ``.mo`` that the window reads, and lists
every sentence by screen in ``docs/wording.md``. Texts are found by Babel's extractor: the first argument of ``tr`` and ``message``, what is marked by ``gettext_noop``, the names of commands and of
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
WORDING = ROOT.parents[1] / "docs" / "wording.md"
INTRODUCTION = """# The words of the window

Every sentence that Mirkle says, {count} of them, by screen, in both languages, and what {again} of them said before they were written again.
A sentence is short and in the order in which people speak; one term a thing, from the [glossary](glossary.md); a figure that means nothing is
not shown. `{{…}}` are values, one thing and many are parted by a stroke. `python tools/texts.py` writes this page."""
# Which screen the texts of a file stand on, the first that fits.
SCREENS = (
    ("gui/pages/gather", "Gather"),
    ("gui/pages/shelf", "Gather"),
    ("gui/pages/typing", "Gather"),
    ("gui/pages/proof", "Gather"),
    ("gui/dialogs/columns", "Gather"),
    ("gui/dialogs/assign", "Gather"),
    ("gui/views/said", "Gather"),
    ("gui/views/drop", "Gather"),
    ("session/describ", "Gather"),
    ("session/assign", "Gather"),
    ("session/proof", "Gather"),
    ("gui/pages/rally", "Rally"),
    ("gui/dialogs/itinerary", "Rally"),
    ("gui/views/day", "Rally"),
    ("session/rally", "Rally"),
    ("core/rally", "Rally"),
    ("gui/pages/lineup", "Line up"),
    ("gui/views/listen", "Line up"),
    ("gui/views/ties", "Line up"),
    ("gui/views/scale", "Line up"),
    ("session/listening", "Line up"),
    ("gui/pages/compare", "Compare"),
    ("gui/pages/find", "Compare"),
    ("gui/pages/conflicts", "Compare"),
    ("gui/pages/lost", "Compare"),
    ("gui/dialogs/add", "Compare"),
    ("gui/dialogs/excluded", "Compare"),
    ("gui/views/map", "Compare"),
    ("gui/views/video", "Compare"),
    ("gui/views", "Compare"),
    ("gui/pages/by_eye", "By eye"),
    ("session/video", "By eye"),
    ("gui/pages/notebook", "Book, card, print"),
    ("gui/pages/editions", "Book, card, print"),
    ("gui/pages/preview", "Book, card, print"),
    ("gui/printing", "Book, card, print"),
    ("gui/dialogs/convert", "Book, card, print"),
    ("session/editions", "Book, card, print"),
    ("session/page", "Book, card, print"),
    ("session/export", "Book, card, print"),
    ("files/export", "Book, card, print"),
    ("core/notebook", "Book, card, print"),
    ("gui/pages/rehearse", "Rehearse"),
    ("session/rehearsal", "Rehearse"),
    ("core/rehearsal", "Rehearse"),
    ("gui/pages/followup", "Passes"),
    ("gui/pages/beliefs", "Passes"),
    ("gui/pages/season", "Passes"),
    ("gui/pages/habits", "Passes"),
    ("core/followup", "Passes"),
    ("core/habits", "Passes"),
    ("gui/commands", "Commands and keys"),
    ("gui/keys", "Commands and keys"),
    ("gui/pages/guide", "Guide"),
    ("gui", "Window, settings, help"),
    ("session", "Window, settings, help"),
    ("core/judging", "Findings"),
    ("core/joint", "Findings"),
    ("core/notes", "Notes and recording"),
    ("core/speech", "Notes and recording"),
    ("core/lineup", "Notes and recording"),
    ("core/motion", "Notes and recording"),
    ("core/recording", "Notes and recording"),
    ("core/audio", "Notes and recording"),
    ("core", "Notes and recording"),
    ("files", "Files and their faults"),
    ("", "Everywhere"),
)
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


def texts() -> dict[str | tuple[str, ...], str]:
    """Every text of the window, each once, in the order of the files, with the first file that says it; a pair where it is about a number
    of things."""
    names = faults()
    found: dict[str | tuple[str, ...], str] = {}
    # A call's words are extracted at one place of it, so calls with two are gone through twice.
    for keywords in (dict.fromkeys((*BY_FIRST, *names), (1,)) | dict.fromkeys(BY_COUNT, (1, 2)), dict.fromkeys(names, (2,))):
        methods = [("synthetic/**.py", "ignore"), ("**.py", "python")]
        for file, _, words, _, _ in extract_from_dir(ROOT, methods, keywords=keywords):
            found.setdefault(words, file)
    return {t: f for t, f in found.items() if isinstance(t, tuple) or (any(c.isalpha() for c in t) and not FILE_NAME.fullmatch(t))}


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


def screen_of(file: str) -> str:
    """The screen on which a file's texts stand."""
    return next(screen for start, screen in SCREENS if file.startswith(start))


def wording(before: dict[str, str]) -> str:
    """Every sentence by its screen, in English and in Portuguese, with what it said ``before`` where it was written again."""
    with (ROOT / "share" / "mirkle_pt.po").open("rb") as file:
        portuguese = read_po(file)
    rows: dict[str, list[str]] = {}
    for text, file_name in texts().items():
        forms = _forms(text)
        translation = portuguese.get(text if isinstance(text, str) else text[0])
        translated = _forms(translation.string) if translation is not None else ("",)
        cells = (" / ".join(forms), " / ".join(dict.fromkeys(translated)), before.get(forms[0], ""))
        rows.setdefault(screen_of(file_name), []).append(f"| {' | '.join(map(_cell, cells))} |")
    out = [
        INTRODUCTION.format(count=sum(map(len, rows.values())), again=sum(not r.endswith("|  |") for part in rows.values() for r in part))
    ]
    for screen in dict.fromkeys(screen for _, screen in SCREENS):
        if screen in rows:
            out += [f"\n## {screen}\n", "| now | in Portuguese | before |", "|---|---|---|", *rows[screen]]
    return "\n".join(out) + "\n"


def said_before(page: str) -> dict[str, str]:
    """What each sentence said before it was written again, as the page of all sentences has it."""
    rows = (re.split(r"(?<!\\) \| ", line[2:-2]) for line in page.splitlines() if line.startswith("| ") and line.endswith(" |"))
    return {row[0].split(" / ")[0].replace("\\|", "|"): row[2].replace("\\|", "|") for row in rows if len(row) == 3 and row[2].strip()}


def _cell(text: str) -> str:
    return text.replace("|", "\\|").replace("\n", " ")


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
    WORDING.write_text(wording(said_before(WORDING.read_text(encoding="utf-8"))), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
