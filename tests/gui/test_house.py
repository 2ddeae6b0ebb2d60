"""What holds for the whole window's code: one kind of label, one kind of box, one kind of list."""

import re
from pathlib import Path

import pytest

import mirkle.gui
from mirkle.gui import theme as themes

FOLDER = Path(mirkle.gui.__file__).parent


def test_labels_boxes_and_wrapped_lists_come_from_one_place() -> None:
    """A plain label would take a crew's text for markup, a plain box would be turned by the wheel, a plain list would cut."""
    wrong = re.compile(r"\b(?:QLabel|QComboBox|QSpinBox|QDoubleSpinBox|QSlider)\(|\.setTextFormat\(|list\.setWordWrap\(")
    found = [
        f"{file.name}: {line.strip()}"
        for file in FOLDER.rglob("*.py")
        if file.name != "controls.py"
        for line in file.read_text().splitlines()
        if wrong.search(line) and not line.lstrip().startswith("class ")
    ]
    # A doubtful word stands bold among its neighbours, whose words are escaped.
    assert found == ["proof.py: self.around.setTextFormat(Qt.TextFormat.RichText)"]
    assert wrong.search((FOLDER / "controls.py").read_text()), "what is looked for is what stands there"


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
