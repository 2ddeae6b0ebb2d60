"""Reading aloud with a voice of the system, where there is one; silent and without complaint where there is none."""

from __future__ import annotations

import shutil
import subprocess
from collections.abc import Callable, Sequence

# The speech service of the desktop comes first: it has the voice that its user chose. Then the synthesiser that it mostly uses.
WORDS_A_MINUTE = 215
PROGRAMS: dict[str, Callable[[str, str], list[str]]] = {
    "spd-say": lambda language, words: ["spd-say", "-l", language, "-r", "40", "--", words],
    "espeak-ng": lambda language, words: ["espeak-ng", "-v", language, "-s", str(WORDS_A_MINUTE), "--", words],
    "espeak": lambda language, words: ["espeak", "-v", language, "-s", str(WORDS_A_MINUTE), "--", words],
}


class ReadingVoice:
    """A voice in a language. What it says is begun at once; what it was still saying is cut short."""

    def __init__(self, language: str, programs: Sequence[str] = tuple(PROGRAMS)) -> None:
        self._language = language
        self._program = next((name for name in programs if shutil.which(name)), None)
        self._speaking: subprocess.Popen[bytes] | None = None

    @property
    def there(self) -> bool:
        """Whether this machine has one."""
        return self._program is not None

    def say(self, words: str) -> None:
        """Begins to say something."""
        self.stop()
        if self._program is None:
            return
        try:
            self._speaking = subprocess.Popen(
                PROGRAMS[self._program](self._language, words),
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
            )
        except OSError:
            self._program = None

    def stop(self) -> None:
        """Says no more."""
        speaking, self._speaking = self._speaking, None
        if speaking is not None and speaking.poll() is None:
            speaking.terminate()
            speaking.wait()
