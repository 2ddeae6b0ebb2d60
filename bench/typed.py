"""An evening's book, typed key by key in the real window: keys for each character that is written, and how long a key takes.

    python bench/typed.py [BOOK]

The book is the demo's, of 142 notes, or a text file's, with its pages. Shift counts as a key, and so do Enter, the keys for a page and the one
that uses the notes.
"""

from __future__ import annotations

import argparse
import os
import re
import statistics
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QWidget

from mirkle.files import demo_files
from mirkle.gui.app import make_app
from mirkle.gui.window import Window

PAGE = re.compile(r"\s*(?:page|página)\s+\d+\s*$", re.IGNORECASE)
# Signs that need Shift on a common keyboard, besides capitals.
SHIFTED = set('!"#$%&/()=?*_:;<>')


def main() -> int:
    """Types, counts, prints."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("book", nargs="?", type=Path)
    asked = parser.parse_args()
    book = asked.book.read_text() if asked.book else demo_files.demo_file(demo_files.NOTES).decode()
    home = Path(tempfile.mkdtemp(prefix="mirkle-typed-"))
    os.environ.update({name: str(home / name) for name in ("XDG_DATA_HOME", "XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_CACHE_HOME")})
    app = make_app()
    window = Window()
    window.resize(1280, 800)
    window.show()
    window.type_notes()
    typing = window.pages.typing
    assert typing is not None
    keys, took = 0, []

    def press(key: Qt.Key | str, *, control: bool = False) -> None:
        nonlocal keys
        began = time.perf_counter()
        at: QWidget = typing.page
        QTest.keyClick(at, key, Qt.KeyboardModifier.ControlModifier if control else Qt.KeyboardModifier.NoModifier)  # type: ignore[call-overload]
        app.processEvents()
        took.append(time.perf_counter() - began)
        keys += 1 + control + (isinstance(key, str) and (key.isupper() or key in SHIFTED))

    lines = [line for line in book.splitlines() if line.strip()]
    for number, line in enumerate(lines):
        if PAGE.match(line):
            if number:
                press(Qt.Key.Key_Return, control=True)
            continue
        for character in line:
            press(character)
        if number + 1 < len(lines) and not PAGE.match(lines[number + 1]):
            press(Qt.Key.Key_Return)
    written, notes = typing.text, sum(line.notes for line in typing.lines)
    press(Qt.Key.Key_S, control=True)
    print(
        f"{notes} notes, {len(written)} characters, {keys} keys: {keys / len(written):.2f} keys a character; "
        f"a key takes {1000 * statistics.median(took):.0f} ms, the slowest of a hundred {1000 * sorted(took)[-max(len(took) // 100, 1)]:.0f} ms"
    )
    window.workspace.work.give_up()
    window.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
