"""A dictated book: recognised words as lines to read over, and the calls of a sound one by one."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.habits.misheard import Misheard
from mirkle.files.audio.voice import CEPSTRA, FRAME_S, Voice
from mirkle.files.crew_record import UnusableCrewRecord, keep_crew_record, parse_crew_record, read_crew_record
from mirkle.files.demo_files import demo_folder
from mirkle.session import crew_records
from mirkle.session.dictation import dictated_lines, utterances
from mirkle.session.typing import read_typed

SPOKEN = """[0:01] okay here we go
[0:03] left four long eighty
[0:06] right three tightens two into
[0:09] new page
[0:12] left hairpin don't cut fifty
[0:19] right six over crest one hundred
[0:25] left two
"""


def test_recognised_words_are_a_note_a_line_and_nothing_of_them_is_lost(tmp_path: Path) -> None:
    (tmp_path / "recce.txt").write_text(SPOKEN)
    assert dictated_lines(tmp_path / "recce.txt").splitlines() == [
        "// okay here we go",
        "left 4 long 80",
        "right 3 tightens 2 into",
        "page 2",
        "left hairpin don't cut 50",
        "right 6 over crest 100",
        "left 2",
    ]


def test_a_whole_stage_is_read_back_as_it_was_called() -> None:
    """Each line, read again as if it had been typed, is the note that was said."""
    lines = dictated_lines(demo_folder() / "slatehook-morning-calls.vtt", first_page=3)
    typed = read_typed(lines)
    assert [line.fault for line in typed if line.fault is not None] == []
    assert sum(line.notes for line in typed) > 130


@pytest.mark.usefixtures("rally_home")
def test_what_the_recogniser_always_makes_of_a_word_is_known_from_the_profile(tmp_path: Path) -> None:
    (path,) = crew_records.known_crews()
    record = read_crew_record(path)
    heard = (Misheard("en", "kushan", "caution", "caution", 2), Misheard("en", "lung lung", "length", "very long", 3))
    shown = [replace(one, misheard=heard) for one in record.passes[:2]]
    keep_crew_record(path, replace(record, passes=tuple(shown)))
    assert [one.misheard for one in read_crew_record(path).passes] == [heard, heard]
    words = tmp_path / "recce.txt"
    words.write_text("[0:01] left four kushan eighty\n[0:05] right three lung lung sixty\n[0:09] left five fifty\n")
    before = dictated_lines(words).splitlines()
    assert not any("caution" in line for line in before), "no crew is chosen yet"
    crew_records.choose_crew(path)
    assert dictated_lines(words).splitlines() == ["caution left 4 80", "right 3 very long 60", "left 5 50"]
    keep_crew_record(path, replace(read_crew_record(path), used=False))
    assert dictated_lines(words).splitlines() == before
    text = path.read_text().replace('["en", "kushan", "caution", "caution", 2]', '["en", "kushan"]', 1)
    with pytest.raises(UnusableCrewRecord):
        parse_crew_record(text.encode(), name="c")


def test_a_file_without_words_is_said(tmp_path: Path) -> None:
    (tmp_path / "book.txt").write_text("L4 80\nR3 20\n")
    with pytest.raises(MirkleError, match=r"^book\.txt: there are no times in it"):
        dictated_lines(tmp_path / "book.txt")


def test_calls_are_parted_by_silence_and_a_click_is_none() -> None:
    """Speech from 1 to 2 s with a breath of .2 s in it, a click at 4 s, speech from 6 s to 6.5 s."""
    at = (np.arange(int(8.0 / FRAME_S)) + 0.5) * FRAME_S
    speaks = ((at > 1.0) & (at < 2.0) & ~((at > 1.4) & (at < 1.6))) | ((at > 4.0) & (at < 4.1)) | ((at > 6.0) & (at < 6.5))
    voice = Voice(np.where(speaks, 0.9, 0.05), np.zeros(len(at)), np.zeros((2 * len(at), CEPSTRA)))
    found = utterances(voice)
    assert [u.from_s for u in found] == pytest.approx([1.0, 6.0], abs=FRAME_S)
    assert [u.to_s for u in found] == pytest.approx([2.0, 6.5], abs=FRAME_S)
    assert utterances(Voice(np.zeros(0), np.zeros(0), np.zeros((0, CEPSTRA)))) == []
