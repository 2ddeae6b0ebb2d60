"""What holds for the whole window's code: one kind of label, one kind of box, one kind of list."""

import re
from pathlib import Path

import mirkle.gui

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
