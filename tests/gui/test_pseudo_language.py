"""Every text that reaches the window can be translated: in a language whose letters are all strange, no letter of ours is left."""

from __future__ import annotations

import re
import string
from collections.abc import Iterator
from datetime import date, datetime
from gettext import NullTranslations
from pathlib import Path

import pytest
from babel.messages.pofile import read_po
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QDialog, QGroupBox, QLabel, QLineEdit, QListWidget, QTableWidget, QWidget
from pytestqt.qtbot import QtBot

import mirkle
from mirkle.core.rally.itinerary import Item
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.project.format import CALL_KINDS
from mirkle.gui.dialogs.add import AddDialog
from mirkle.gui.dialogs.cautions_and_keys import About, Cautions, Keys, Marks
from mirkle.gui.dialogs.convert_notes import OtherHandDialog
from mirkle.gui.dialogs.excluded_parts import PartsDialog
from mirkle.gui.dialogs.itinerary import ItineraryDialog
from mirkle.gui.pages.conflicts import ConflictsDialog
from mirkle.gui.pages.editions import EditionsDialog, HistoryDialog
from mirkle.gui.pages.find import FindDialog
from mirkle.gui.pages.guide import Guide
from mirkle.gui.pages.habits import CrewNames, HabitsDialog
from mirkle.gui.pages.lost_decisions import LostDecisionsDialog
from mirkle.gui.pages.preview import PreviewDialog
from mirkle.gui.pages.season import SeasonDialog
from mirkle.gui.pages.settings import SettingsDialog
from mirkle.gui.pages.shelf import ShelfDialog
from mirkle.gui.translation import speak
from mirkle.gui.window import Window

STRANGE = str.maketrans(
    {c: chr(0xFF21 + i) for i, c in enumerate(string.ascii_uppercase)} | {c: chr(0xFF41 + i) for i, c in enumerate(string.ascii_lowercase)}
)
PLACE = re.compile(r"\{[^}]*\}")
PATH = re.compile(r"/\S+")
WORD = re.compile(r"[A-Za-z][A-Za-z'’-]+")
# Names, units, keys and formats: the same in every language.
EVERYWHERE = {
    "Mirkle",
    "km",
    "kmh",
    "ms",
    "Hz",
    "Ctrl",
    "Shift",
    "Alt",
    "Enter",
    "Esc",
    "Space",
    "Home",
    "End",
    "Backspace",
    "Tab",
    "PageUp",
    "PageDown",
    "Del",
    "F1",
    "PgDown",
    "PgUp",
    "GPL-3",
    "Inter",
    "Andika",
    "SIL",
    "Open",
    "Font",
    "License",
    "CSV",
    "GPX",
    "NMEA",
    "FIT",
    "TCX",
    "KML",
    "GeoJSON",
    "MDF4",
    "WebVTT",
    "SRT",
    "PDF",
    "HTML",
    "JSON",
    "TOML",
    "XDG",
    "Python",
    "Qt",
    "PyQt",
    "NumPy",
    "SciPy",
    "English",
    "Portugu",
    "or-later",
}


KNOWN = read_po((Path(mirkle.__file__).parent / "share" / "mirkle_pt.po").open("rb"))


class Strange(NullTranslations):
    """All texts that are known, in letters that nobody else uses."""

    def gettext(self, message: str) -> str:
        return self._strange(message) if message in KNOWN else message

    def ngettext(self, one: str, many: str, count: int) -> str:
        return self._strange(one if count == 1 else many) if one in KNOWN else many

    @staticmethod
    def _strange(text: str) -> str:
        out, at = [], 0
        for place in PLACE.finditer(text):
            out += [text[at : place.start()].translate(STRANGE), place[0]]
            at = place.end()
        return "".join(out) + text[at:].translate(STRANGE)


@pytest.fixture(autouse=True)
def _strange() -> Iterator[None]:
    speak("en", Strange())
    yield
    speak("en")


def shown(widget: QWidget) -> Iterator[str]:
    """Every text of a widget and what is in it."""
    for part in (widget, *widget.findChildren(QWidget)):
        if part.objectName().startswith("qt_"):
            continue
        yield from (part.toolTip(), part.accessibleName(), part.accessibleDescription())
        if isinstance(part, QDialog):
            yield part.windowTitle()
        if isinstance(part, QLabel | QAbstractButton):
            yield part.text()
        elif isinstance(part, QLineEdit):
            yield part.placeholderText()
        elif isinstance(part, QGroupBox):
            yield part.title()
        elif isinstance(part, QComboBox):
            yield from (part.itemText(i) for i in range(part.count()))
        elif isinstance(part, QListWidget) and not isinstance(part.window(), Guide):  # its headings are the guide's own, a file a language
            yield from (part.item(i).text() for i in range(part.count()))
        elif isinstance(part, QTableWidget):
            heads = (part.horizontalHeaderItem(i) for i in range(part.columnCount()))
            yield from (head.text() for head in heads if head is not None)


def trade_words() -> set[str]:
    """What co-drivers say: a language of notes has its own file, from which the window takes those words."""
    terms = (t for language in shipped_languages() for t in language.terms)
    return {w for t in terms for said in (*t.said, t.key) for w in WORD.findall(said)}


def left_over(texts: Iterator[str], own: set[str]) -> list[str]:
    """The texts with a word that is neither strange nor the crew's own."""
    out = []
    for text in texts:
        words = set(WORD.findall(PATH.sub("", text)))
        if words - own - EVERYWHERE:
            out.append(text)
    return sorted(set(out))


def test_no_text_of_ours_reaches_the_window_untranslated(window: Window, kept_demo: Path, qtbot: QtBot) -> None:
    first = left_over(shown(window), set())
    assert first == []
    with qtbot.waitSignal(window.opened, timeout=20_000):
        window.workspace.opening.open_project(kept_demo)
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    stage = window.reviewed
    assert stage is not None
    listed = [name for kind in ("run", "notes", *CALL_KINDS, "media") for _, name in stage.project.listed(kind)]
    own = set(WORD.findall(" ".join([stage.reading.source, *listed, stage.project.name, *(r.words for r in stage.review.remarks)])))
    own |= trade_words()
    own |= {w for name in listed for w in WORD.findall(name.split(".")[0])}
    for finding in stage.findings:
        if finding.proposal is not None:
            own |= set(WORD.findall(finding.proposal.text))
    found = []
    for place in ("Gather", "Line up", "Compare", "Book", "Rehearse", "Passes"):
        window.go_to(place)
        qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=20_000)
        found += left_over(shown(window), own)
    window.workspace.rallies.begin("L4")
    rally = window.workspace.rally
    assert rally is not None
    own |= {"Mon", "Jan"}  # the names of days and months come with Qt, in every language
    kinds = ("stage", "service", "control", "liaison", "other")
    rally.set_itinerary([Item(kind, "L4", datetime(2040, 1, 2, 9 + i), 20.0, 1000.0, "4") for i, kind in enumerate(kinds)])
    window.go_to("Rally")
    found += left_over(shown(window), own)
    window.go_to("Compare")
    for finding in stage.findings:
        stage.choose(finding)
        found += left_over(shown(window), own)
    stage.book.answer(stage.findings[0], "talk")
    stage.choose(stage.findings[1])
    proposal = stage.book.proposal(stage.findings[1])
    assert proposal is not None
    stage.mark(proposal.text, by="both", remark="")
    stage.book.road.add("hazard", 900.0, 1000.0, "L4")
    dialogs = [
        AddDialog(stage, 900.0, window),
        OtherHandDialog(stage, window),
        PreviewDialog(stage, "card", window),
        Guide(window),
        Keys(window.theme, window),
        Marks(window.theme, window),
        Cautions(window),
        About(window),
        EditionsDialog(stage, window),
        HistoryDialog(stage, window),
        FindDialog(stage, window),
        LostDecisionsDialog(stage, window),
        SeasonDialog(window),
        SettingsDialog(window),
        ShelfDialog(stage.project.path, window),
        PartsDialog(stage.review.parts, stage.review.finish_m, window),
        ItineraryDialog(rally, date(2040, 1, 1), window),
        ConflictsDialog(stage, window),
        HabitsDialog(window.theme, window),
        CrewNames(window),
    ]
    for dialog in dialogs:
        qtbot.addWidget(dialog)
        found += left_over(shown(dialog), own)
    for action in window.menu.actions_by_name.values():
        found += left_over(iter([action.text().split("\t")[0]]), own)
    for menu in window.menu.findChildren(QWidget):
        if hasattr(menu, "title"):
            found += left_over(iter([menu.title()]), own)
    assert sorted(set(found)) == [], "\n".join(sorted(set(found)))
