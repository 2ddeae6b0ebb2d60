"""The window in another language: nothing left out, every value in its place, nothing that outgrows the window."""

from __future__ import annotations

import ast
import re
import runpy
import string
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from gettext import GNUTranslations
from importlib import resources
from pathlib import Path

import numpy as np
import pytest
from babel.messages.pofile import read_po
from PyQt6.QtWidgets import QApplication, QPushButton, QScrollArea
from pytestqt.qtbot import QtBot

from mirkle.core.errors import MirkleError
from mirkle.core.messages import counted
from mirkle.core.recording.model import Channel, Recording, repair_times
from mirkle.core.review import NO_VERTICAL
from mirkle.files.recordings.readers import read_run
from mirkle.gui.translation import LANGUAGES, speak, tr, tr_fault, tr_message, tr_why, wanted_language
from mirkle.gui.window import Window
from mirkle.session import settings
from tests.gui.conftest import settled

TOOL = Path(__file__).parents[2] / "tools" / "texts.py"
ROOT = Path(__file__).parents[2] / "src" / "mirkle"
NUMBER = re.compile(r"\d+(?:\.\d+)?")


@contextmanager
def spoken(code: str) -> Iterator[None]:
    """The window's language, for a while."""
    speak(code)
    try:
        yield
    finally:
        speak("en")


def forms(text: str | tuple[str, ...]) -> tuple[str, ...]:
    return (text,) if isinstance(text, str) else tuple(text)


def placeholders(text: str) -> list[tuple[str | None, str | None]]:
    return sorted((name or "", spec or "") for _, name, spec, _ in string.Formatter().parse(text) if name is not None)


SHARE = Path(str(resources.files("mirkle") / "share"))


def test_every_language_has_its_name_its_texts_and_its_guide() -> None:
    """A language of which anything was forgotten is named here."""
    for what, pattern in (("texts", "mirkle_{}.po"), ("compiled texts", "mirkle_{}.mo"), ("a guide", "guide_{}.md")):
        before, after = pattern.split("{}")
        there = {path.name.removeprefix(before).removesuffix(after) for path in SHARE.glob(f"{before}??{after}")} - {"en"}
        assert there == set(LANGUAGES) - {"en"}, f"{what}: one file for each of LANGUAGES in gui/translation.py"


@pytest.mark.parametrize("code", sorted(set(LANGUAGES) - {"en"}))
def test_every_text_is_translated_and_keeps_its_values(code: str) -> None:
    """A text added to the window without a run of the tool, or a value lost on the way, is seen here."""
    catalog = read_po((SHARE / f"mirkle_{code}.po").open("rb"))
    known = {m.id: m.string for m in catalog if m.id}
    tool = runpy.run_path(str(TOOL))
    wanted = set(tool["texts"]())
    assert len(wanted) > 300
    assert known.keys() == wanted
    for text, said in known.items():
        assert len(forms(said)) == len(forms(text)), text
        for own, other in zip(forms(text), forms(said), strict=True):
            assert other, text
            assert placeholders(own) == placeholders(other), text
    # The page of all sentences is that of this build.
    page = tool["WORDING"].read_text()
    assert page == tool["wording"](tool["said_before"](page))
    # What the window reads was compiled from it.
    compiled = GNUTranslations((SHARE / f"mirkle_{code}.mo").open("rb"))
    for text, said in known.items():
        assert [compiled.ngettext(*forms(text), n) if len(forms(text)) > 1 else compiled.gettext(text) for n in (1, 2)][
            : len(forms(said))
        ] == [*forms(said)]


def test_one_thing_and_many_are_said_differently() -> None:
    lost = counted("1 place differs", "{0} places differ", 1)
    assert (str(lost), str(replace(lost, values=(3,)))) == ("1 place differs", "3 places differ")
    with spoken("pt"):
        assert (tr_message(lost), tr_message(replace(lost, values=(0,)))) == ("1 sítio difere", "0 sítios diferem")


def test_the_language_is_the_settings_then_the_desktops(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("LANGUAGE", "pt_PT:en")
    assert wanted_language() == "pt"
    monkeypatch.setenv("LANGUAGE", "xx")
    assert wanted_language() == "en"
    settings.keep_setting("language", "pt")
    assert wanted_language() == "pt"


def test_the_whole_window_speaks_it_and_fits(qapp: QApplication, kept_demo: Path, qtbot: QtBot) -> None:
    with spoken("pt"):
        assert tr("a text that nobody translated") == "a text that nobody translated"
        window = Window()
        qtbot.addWidget(window)
        window.resize(1280, 800)
        window.show()
        with qtbot.waitSignal(window.opened, timeout=10_000):
            window.workspace.opening.open_project(kept_demo)
        for place in ("Gather", "Line up", "Compare", "Book"):
            window.go_to(place)
            settled()
            # What is scrolled up and down is never wider than what is seen of it.
            for area in window.findChildren(QScrollArea):
                if area.isVisible():
                    assert area.widget().width() <= area.viewport().width(), place
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
            stage.choose(finding)
            qapp.processEvents()
            said = tr_why((*finding.because, *finding.background))
            assert said != finding.why
            # The figures are the same in both.
            assert sorted(NUMBER.findall(said.replace(",", "."))) == sorted(NUMBER.findall(finding.why))
        assert (window.width(), window.height()) == (1280, 800)
        shown = {b.text() for b in window.findChildren(QPushButton)}
        assert {"Comparar", "Caderno", "Marcar  ⏎", "Cartão de alterações…"} <= shown


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"speed_kmh,lat_deg\n1,2\n", "run.csv, linha 1: não há coluna de tempo; dê nome às colunas na primeira linha"),
        (
            b"time_s,speed_kmh,yaw_rate_dps\n0,1,0\n1,fast,0\n2,3,0\n3,4,0\n",
            "run.csv, linha 3: speed_kmh contém “fast”, que não é um número",
        ),
        (b"", "run.csv: o ficheiro está vazio; escolha o ficheiro com"),
    ],
)
def test_a_file_that_can_t_be_read_is_refused_in_it(tmp_path: Path, content: bytes, words: str) -> None:
    """Where, what and how to mend, said again with the same line and the same value."""
    path = tmp_path / "run.csv"
    path.write_bytes(content)
    with pytest.raises(MirkleError) as fault:
        read_run(path)
    assert tr_fault(fault.value) == fault.value.sentence
    with spoken("pt"):
        assert tr_fault(fault.value).startswith(words)


def test_no_fault_has_its_values_printed_into_it() -> None:
    """A sentence that came with its values in it could not be said in another language."""
    printed = [
        f"{file.name}:{node.lineno}"
        for file in sorted(ROOT.glob("**/*.py"))
        for node in ast.walk(ast.parse(file.read_text()))
        if isinstance(node, ast.Call) and getattr(node.func, "id", "").startswith(("Unusable", "MirkleError"))
        for part in [*node.args, *(k.value for k in node.keywords)]
        if any(isinstance(inner, ast.JoinedStr) for inner in ast.walk(part))
    ]
    assert printed == []


def test_no_text_hides_from_the_extractor() -> None:
    """What is said inside an f-string is not found by it, and would stay English without anybody noticing."""
    hidden = [
        f"{file.name}:{node.lineno}"
        for file in sorted(ROOT.glob("**/*.py"))
        if "synthetic" not in file.parts
        for node in ast.walk(ast.parse(file.read_text()))
        if isinstance(node, ast.JoinedStr)
        for call in ast.walk(node)
        if isinstance(call, ast.Call) and getattr(call.func, "id", "") in ("say", "clause", "gettext_noop") and call.args
        if isinstance(call.args[0], ast.Constant)
    ]
    assert hidden == []


def test_doubts_about_a_recording_are_said_in_it() -> None:
    """A sentence keeps its numbers apart from its words, wherever it was made."""
    doubled = Channel(np.repeat(np.arange(300.0), 2), np.linspace(0.0, 0.01, 600))
    doubt = repair_times(Recording("run.csv", {"lat_rad": doubled, "lon_rad": doubled})).doubts[0]
    assert str(doubt).startswith("300 samples repeat")
    with spoken("pt"):
        assert tr_message(doubt).startswith("300 amostras")
        assert tr_message(NO_VERTICAL).startswith("Sem acelerómetro vertical")
