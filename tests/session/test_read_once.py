"""Nothing is read twice: each file is parsed once, Enter reads its text once, a rehearsal reads only what was changed."""

from __future__ import annotations

import subprocess
import sys
from collections import Counter
from pathlib import Path

import pytest

from mirkle.core.notes import lattice, rewording
from mirkle.files.project.project import SourceFile
from mirkle.session import parsed_files
from mirkle.session import rehearsal as rehearsing
from mirkle.session.rehearsal import Rehearsal
from mirkle.session.reviewed_pass import ReviewedPass
from tests.conftest import CALLS, MORNING, NOTES
from tests.session.test_workspace import Desk


@pytest.fixture
def counts(monkeypatch: pytest.MonkeyPatch) -> Counter[str]:
    """How often each kind of file was parsed, and how often a text was read."""
    counted: Counter[str] = Counter()

    def count(where: object, name: str) -> None:
        real = getattr(where, name)

        def counting(*given: object, **named: object) -> object:
            counted[name] += 1
            return real(*given, **named)

        monkeypatch.setattr(where, name, counting)

    count(parsed_files, "parse_notes")
    count(parsed_files, "speech_in")
    count(parsed_files.readers, "parse_run")
    count(lattice.Reader, "path")
    count(rewording, "read_notes")
    count(rehearsing, "read_notes")
    # Whatever an earlier test has read is read again here.
    for kept in ("_READINGS", "_SPEECHES", "_RECORDINGS", "_CREWS"):
        monkeypatch.setattr(parsed_files, kept, parsed_files._Kept(24))
    return counted


def dropped(desk: Desk, folder: Path) -> ReviewedPass:
    """The stage of three dropped files."""
    paths = []
    for name, material in (("words.vtt", CALLS), ("run.csv", MORNING), ("notes.txt", NOTES)):
        paths.append(folder / name)
        paths[-1].write_bytes(material.content)
    desk.workspace.opening.take_files(paths)
    stage = desk.workspace.reviewed
    assert stage is not None, desk.faults
    return stage


def test_each_dropped_file_is_parsed_once_and_what_is_set_reads_nothing_again(counts: Counter[str], tmp_path: Path) -> None:
    desk = Desk()
    stage = dropped(desk, tmp_path)
    assert (counts["parse_notes"], counts["speech_in"], counts["parse_run"]) == (1, 1, 1)
    counts.clear()
    pair = stage.review.lineup.ties[5]
    assert pair.bend is not None
    stage.pin(pair.note, pair.bend.apex_m)
    desk.workspace.set_limits(stage.review.measured.drive.start_s + 1.0, None)
    assert desk.workspace.reviewed is not stage
    assert (counts["parse_notes"], counts["speech_in"], counts["path"]) == (0, 0, 0)
    desk.workspace.close()


def test_enter_reads_its_text_once_and_a_rehearsal_only_what_was_changed(counts: Counter[str], tmp_path: Path) -> None:
    desk = Desk()
    stage = dropped(desk, tmp_path)
    finding = next(f for f in stage.findings if f.proposal is not None and f.proposal.first_note == f.proposal.last_note)
    assert finding.proposal is not None
    stage.choose(finding)
    text = finding.proposal.text
    counts.clear()
    assert stage.can_be_marked(text)
    if stage.wants_both(text):
        stage.mark(text, by="both")
    else:
        stage.mark(text)
    assert counts["read_notes"] == 1
    counts.clear()
    rehearsal = Rehearsal(stage)
    changed = len({line.text for line in rehearsal.lines if line.changed})
    assert 1 <= changed <= 2
    assert counts["read_notes"] == changed
    rehearsal.reload()
    assert counts["read_notes"] == changed
    assert all(rehearsal.in_full(n) for n in range(len(rehearsal.lines)))
    desk.workspace.close()


def test_another_book_of_the_same_name_is_another_reading() -> None:
    crew = parsed_files.crew_of(None)
    first, second = (SourceFile("notes", "notes.txt", text) for text in (b"L4 60\nR3 80\n", b"L4 60\nR5 80\n"))
    assert parsed_files.reading_of(first, crew) is parsed_files.reading_of(first, crew)
    assert parsed_files.reading_of(second, crew).notes[1].grade == "5"
    graded = SourceFile("crew", "crew.toml", b'order = "grade-first"\n')
    assert parsed_files.crew_of(graded).order == "grade-first"
    assert parsed_files.reading_of(first, parsed_files.crew_of(graded)) is not parsed_files.reading_of(first, crew)


def test_what_only_a_sound_needs_is_not_imported_to_review_a_pass() -> None:
    script = "import sys, mirkle.session.workspace; print(sorted(m for m in sys.modules if m in ('scipy.fft', 'scipy.special', 'scipy.ndimage')))"
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"
