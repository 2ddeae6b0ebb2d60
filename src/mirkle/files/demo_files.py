"""The demo's files: their names, and where they lie in the package. How they were made is told in :mod:`mirkle.synthetic`."""

from __future__ import annotations

from importlib import resources
from pathlib import Path

NOTES, MORNING, AFTERNOON = "slatehook-notes.txt", "slatehook-morning.csv.gz", "slatehook-afternoon.csv.gz"
CALLS, PLANTED = "slatehook-morning-calls.vtt", "slatehook-planted.json"
# What the crew made of the morning: the book that is read in the afternoon, and what is said then.
CORRECTED, AFTERNOON_CALLS = "slatehook-afternoon-notes.txt", "slatehook-afternoon-calls.vtt"
SOUND = "slatehook-morning.opus"
# What was said in the morning in blocks of many seconds, as a recogniser gives it that knows no better; the sound says when.
BLOCKS, MORNING_HEARD = "slatehook-morning-blocks.vtt", "slatehook-morning-heard.json"
# The third pass had a camera and nothing else; its calls were found in its sound.
VIDEO, HEARD = "slatehook-third.mkv", "slatehook-third-heard.json"
# The demo rally: three short stages by their names, one of which is driven again.
RALLY_STAGES = {"Tarn Moor": "tarn-moor", "Cray Bank": "cray-bank", "Harbour Road": "harbour-road"}
RALLY_NOTES, RALLY_RUN, RALLY_SECOND = "{0}-notes.txt", "{0}-first.csv.gz", "{0}-second.csv.gz"
DRIVEN_AGAIN = "Tarn Moor"
# The demo of a first book: a slow pass, the book with what was reported for the first pass, that pass with its debrief, and the second.
FIRST_BOOK_SLOW, FIRST_BOOK, FIRST_BOOK_REPORTS = "kiln-lane-slow.csv.gz", "kiln-lane-notes.txt", "kiln-lane-reports.txt"
FIRST_BOOK_RUN, FIRST_BOOK_CALLS = "kiln-lane-first.csv.gz", "kiln-lane-first-calls.vtt"
FIRST_BOOK_CORRECTED = "kiln-lane-second-notes.txt"
FIRST_BOOK_SECOND, FIRST_BOOK_SECOND_CALLS = "kiln-lane-second.csv.gz", "kiln-lane-second-calls.vtt"


def demo_folder() -> Path:
    """Where the files lie."""
    return Path(str(resources.files("mirkle") / "share" / "demo"))


def demo_file(name: str) -> bytes:
    """The bytes of one of them."""
    return (demo_folder() / name).read_bytes()
