"""The whole job from nothing, timed in the real window: a crew drops its files, answers every finding by keys, and prints its card.

    python bench/job.py [STAGE...] [--pictures FOLDER]

Stages are those of the third generator, by number; their books get remarks in every way in which crews write them. The crew presses what a
careful one would: a proposal that it follows is one Enter, where two have to agree it is two, everything else is kept or talked about. What
is counted: keys a finding, how long the window lets somebody wait, whether a finding comes back that was answered, and whether two findings
say the same.
"""

from __future__ import annotations

import argparse
import os
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent))
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from PyQt6.QtCore import QMimeData, QPointF, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from mirkle.gui.app import make_app
from mirkle.gui.labels import title_of
from mirkle.gui.printing import card
from mirkle.gui.translation import tr_why
from mirkle.gui.window import Window
from third import worlds

# No fit and no table of another bench has opened these.
STAGES = (8901, 7902)
REMARKS = (
    "{0} (rocks moved since the recce)",
    "{0}  // look far ahead, the house comes late",
    "{0} (mud after rain, L says brake early)",
    "{0} # second time better",
    "{0} - we were too slow here last year",
)
# What share of the lines has one, and the longest that a key may take (s) before it is felt as a wait.
# (a tenth of a second is felt as at once: Miller 1968, from memory)
REMARKED, FELT_S = 0.3, 0.1
LONGEST_REVIEW_S = 120.0


def wordy(text: str, seed: int) -> str:
    """A book with remarks on three lines in ten."""
    rng = np.random.default_rng(seed)
    lines = [line for line in text.splitlines() if line.strip()]
    return "\n".join(str(rng.choice(REMARKS)).format(line) if rng.random() < REMARKED else line for line in lines) + "\n"


def write_files(number: int, folder: Path) -> list[Path]:
    """The three files that a crew brings home."""
    w = worlds.world(number)
    contents = {"run.csv": worlds.recorded(w).csv, "book.txt": wordy(w.book.text(), number), "calls.vtt": w.calls}
    paths = [folder / name for name in contents]
    for path, content in zip(paths, contents.values(), strict=True):
        path.write_text(content)
    return paths


class Job:
    """One stage, from the dropped files to the card."""

    def __init__(self, app: QApplication, number: int, pictures: Path | None) -> None:
        self.app, self.number, self.pictures = app, number, pictures
        self.window = Window()
        self.window.resize(1280, 800)
        self.window.show()
        self.keys = self.second_yes = 0
        self.waits_s: list[float] = []
        self.said: Counter[str] = Counter()
        self.back = 0

    def drop(self) -> float:
        """Drops the files and waits until the stage is on the screen; seconds."""
        with tempfile.TemporaryDirectory() as folder:
            paths = write_files(self.number, Path(folder))
            data = QMimeData()
            data.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
            began = time.perf_counter()
            at, action, buttons, keys = (
                QPointF(300, 300),
                Qt.DropAction.CopyAction,
                Qt.MouseButton.LeftButton,
                Qt.KeyboardModifier.NoModifier,
            )
            self.window.dropEvent(QDropEvent(at, action, data, buttons, keys))
            while self.window.reviewed is None and time.perf_counter() - began < LONGEST_REVIEW_S:
                self.app.processEvents()
                time.sleep(0.002)
            return time.perf_counter() - began

    def press(self, key: Qt.Key, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        """One key, where the keyboard is; what the window does with it is waited for."""
        began = time.perf_counter()
        at: QWidget = self.app.focusWidget() or self.window
        QTest.keyClick(at, key, modifier)  # type: ignore[call-overload]
        self.app.processEvents()
        self.keys += 1
        self.waits_s.append(time.perf_counter() - began)

    def answer_all(self) -> int:
        """Goes through the findings in the order in which they are offered; how many there were."""
        stage = self.window.reviewed
        assert stage is not None
        compare = self.window.pages.compare
        assert compare is not None
        rng = np.random.default_rng(self.number)
        count = len(stage.findings)
        self.picture("first")
        while stage.finding is not None and len(stage.book.decisions) < count:
            finding = stage.finding
            if finding.id in stage.book.decisions:
                self.back += 1
                self.press(Qt.Key.Key_N)
                continue
            self.said[f"{title_of(finding)} {tr_why(finding.because)}"] += 1
            followed = compare.evidence.buttons["mark"].isEnabled() and (finding.severity != "check" or rng.random() < 0.5)
            key = Qt.Key.Key_Return if followed else Qt.Key.Key_T if finding.severity == "danger" else Qt.Key.Key_K
            self.press(key)
            if stage.finding is finding:
                # A faster note: the other presses as well.
                self.second_yes += 1
                self.press(key)
        return count

    def print_card(self) -> float:
        """Writes the card; seconds."""
        stage = self.window.stage
        assert stage is not None
        self.press(Qt.Key.Key_4, Qt.KeyboardModifier.ControlModifier)
        self.picture("book")
        began = time.perf_counter()
        with tempfile.TemporaryDirectory() as folder:
            card(stage).write(Path(folder) / "card.pdf")
        return time.perf_counter() - began

    def picture(self, name: str) -> None:
        """Keeps what is on the screen, where somebody wants to look."""
        if self.pictures is not None:
            self.app.processEvents()
            self.window.grab().save(str(self.pictures / f"job-{self.number}-{name}.png"))


def main() -> int:
    """Does every stage's job and prints a row for each."""
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("stages", nargs="*", type=int, default=STAGES)
    parser.add_argument("--pictures", type=Path)
    asked = parser.parse_args()
    home = Path(tempfile.mkdtemp(prefix="mirkle-job-"))
    os.environ.update({name: str(home / name) for name in ("XDG_DATA_HOME", "XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_CACHE_HOME")})
    app = make_app()
    print("stage  to the findings s  findings  keys  keys/finding  second yes  worst key s  over .1 s  came back  said twice  card s")
    for number in asked.stages:
        job = Job(app, number, asked.pictures)
        opened_s = job.drop()
        job.press(Qt.Key.Key_3, Qt.KeyboardModifier.ControlModifier)
        count = job.answer_all()
        asked_keys = job.keys
        card_s = job.print_card()
        twice = sum(n - 1 for n in job.said.values())
        felt = sum(w > FELT_S for w in job.waits_s)
        print(
            f"{number:5d}  {opened_s:17.1f}  {count:8d}  {asked_keys:4d}  {asked_keys / max(count, 1):12.2f}  {job.second_yes:10d}  {max(job.waits_s):11.3f}"
            f"  {felt:9d}  {job.back:9d}  {twice:10d}  {card_s:6.1f}"
        )
        job.window.close()
    return 0


if __name__ == "__main__":
    sys.exit(main())
