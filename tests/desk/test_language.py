"""The window in another language: nothing left out, every value in its place, nothing that outgrows the window."""

from __future__ import annotations

import re
import runpy
import string
from importlib import resources
from pathlib import Path

import pytest
from lxml import etree
from PyQt6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from mirkle.desk.speak import Texts, say, say_why, wanted_language
from mirkle.desk.window import Window
from mirkle.session import places

TOOL = Path(__file__).parents[2] / "tools" / "texts.py"
NUMBER = re.compile(r"\d+(?:\.\d+)?")


def placeholders(text: str) -> list[tuple[str | None, str | None]]:
    return sorted((name or "", spec or "") for _, name, spec, _ in string.Formatter().parse(text) if name is not None)


def test_every_text_is_translated_and_keeps_its_values() -> None:
    """A text added to the window without a run of the tool, or a value lost on the way, is seen here."""
    file = resources.files("mirkle") / "share" / "mirkle_pt.ts"
    known = {m.findtext("source"): m.findtext("translation") or "" for m in etree.parse(str(file)).iter("message")}
    wanted = set(runpy.run_path(str(TOOL))["texts"]())
    assert len(wanted) > 300
    assert known.keys() == wanted
    assert [t for t, told in known.items() if not told or placeholders(t or "") != placeholders(told)] == []


def test_the_language_is_the_settings_then_the_desktops(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("LANGUAGE", "pt_PT:en")
    assert wanted_language() == "pt"
    monkeypatch.setenv("LANGUAGE", "xx")
    assert wanted_language() == "en"
    places.keep_setting("language", "pt")
    assert wanted_language() == "pt"


def test_the_whole_window_speaks_it_and_fits(qapp: QApplication, kept_demo: Path, qtbot: QtBot) -> None:
    texts = Texts("pt")
    qapp.installTranslator(texts)
    try:
        assert say("a text that nobody translated") == "a text that nobody translated"
        window = Window()
        qtbot.addWidget(window)
        window.resize(1280, 800)
        window.show()
        with qtbot.waitSignal(window.opened, timeout=10_000):
            window.open_project(kept_demo)
        for place in ("Gather", "Line up", "Compare", "Book"):
            window.go_to(place)
            qapp.processEvents()
            assert (window.width(), window.height()) == (1280, 800)
            cut = [
                b.text()
                for b in window.findChildren(QPushButton)
                if b.isVisible() and b.fontMetrics().horizontalAdvance(b.text()) > b.width()
            ]
            assert cut == []
        stage = window.stage
        assert stage is not None
        for finding in stage.findings:
            said = say_why(finding.because)
            assert said != finding.why
            # The figures are the same in both.
            assert sorted(NUMBER.findall(said)) == sorted(NUMBER.findall(finding.why))
        shown = {b.text() for b in window.findChildren(QPushButton)}
        assert {"Comparar", "Caderno", "Marcar  ⏎", "Cartão de alterações em PDF…"} <= shown
    finally:
        qapp.removeTranslator(texts)
