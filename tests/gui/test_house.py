"""What holds for the whole window's code: one kind of label, one kind of box, one kind of list."""

import pytest
from PyQt6 import sip
from PyQt6.QtWidgets import QComboBox, QDoubleSpinBox, QLabel, QSlider, QSpinBox, QWidget
from pytestqt.qtbot import QtBot

from mirkle.gui import theme as themes
from mirkle.gui.pages.settings import SettingsDialog
from tests.gui.conftest import odd_widgets


@pytest.mark.parametrize("make", [QLabel, QComboBox, QSpinBox, QDoubleSpinBox, QSlider], ids=lambda kind: kind.__name__)
def test_a_widget_from_elsewhere_is_noticed_on_any_screen(make: type[QWidget], qtbot: QtBot) -> None:
    """A plain label would take a crew's text for markup, a plain box would be turned by the wheel, a plain list would cut: what looks
    at every screen that a test opens sees them."""
    dialog = SettingsDialog()
    qtbot.addWidget(dialog)
    assert odd_widgets() == []
    plain = make(dialog)
    assert odd_widgets() == [f"{make.__name__} in SettingsDialog"]
    sip.delete(plain)


# The contrast that text has to have (W3C, Web Content Accessibility Guidelines 2.1, 1.4.3).
LEAST_CONTRAST = 4.5


def luminance(colour: str) -> float:
    """Relative luminance of ``#rrggbb``, 0 to 1 (the same guidelines)."""
    parts = [int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5)]
    linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


@pytest.mark.parametrize("theme", [themes.PAPER, themes.NIGHT], ids=["paper", "night"])
def test_every_text_stands_out_from_what_it_stands_on(theme: themes.Theme) -> None:
    for text in ("ink", "faint", "danger", "open", "span", "pencil"):
        for below in ("paper", "desk", "field", "chosen"):
            light, dark = sorted((luminance(getattr(theme, text)), luminance(getattr(theme, below))), reverse=True)
            assert (light + 0.05) / (dark + 0.05) >= LEAST_CONTRAST, (text, below)
