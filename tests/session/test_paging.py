"""Pages and lines as the paper book has them, and how far each stage on the shelf has come."""

import csv
import io
import json
import sqlite3
from contextlib import closing
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mirkle.core.errors import MirkleError
from mirkle.core.messages import Message, message
from mirkle.core.notebook.paging import Pages, lines_of, paged, turned
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.rewording import NoteWriter, Rewording
from mirkle.files.export.content import Content
from mirkle.files.export.table import csv_of
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.project.project import Project
from mirkle.session import settings, shelf
from mirkle.session.decision_book import BOTH
from mirkle.session.paging import LINES_A_PAGE
from mirkle.session.paths import data_folder
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.stage_summary import SHAPE, SHAPE_POINTS, keep_summary

TEXT = "L4 60 R3 40\nR5 30\n\nL2 into\nR hp 50\ncrest 20\nL6 80\n"


def read(text: str) -> Reading:
    return read_notes(text, shipped_languages())


def places_of(reading: Reading) -> list[tuple[int, int]]:
    return [(n.page, n.line) for n in reading.notes]


def test_a_paper_book_of_two_lines_a_page() -> None:
    """Two notes on one line of the text stand on one line of the paper; an empty line is none."""
    reading = read(TEXT)
    assert lines_of(reading) == [0, 0, 1, 3, 4, 5, 6]
    by_two = paged(reading, Pages(2))
    assert places_of(by_two) == [(1, 1), (1, 1), (1, 2), (2, 1), (2, 2), (3, 1), (3, 2)]
    assert [n.text for n in by_two.notes] == [n.text for n in reading.notes]
    assert paged(reading, Pages()) is reading


def test_a_page_begins_where_somebody_says_and_ends_again() -> None:
    reading = read("page 1\n" + TEXT)
    here = turned(reading, 4)
    now = paged(reading, here)
    assert [n.page for n in now.notes] == [1, 1, 1, 1, 2, 2, 2]
    assert now.notes[4].line == 1
    assert turned(now, 4).begins == turned(reading, 0).begins, "the first page can't be ended"
    assert [n.page for n in paged(now, turned(now, 4)).notes] == [1] * 7


@given(st.integers(1, 9), st.lists(st.integers(0, 6), max_size=5))
def test_notes_keep_their_order_on_any_pages(lines: int, turns: list[int]) -> None:
    reading = read(TEXT)
    now = paged(reading, Pages(lines))
    for note in turns:
        now = paged(reading, turned(now, note))
    found = places_of(now)
    assert found == sorted(found)
    assert found[0] == (1, 1)
    pages = [page for page, _ in found]
    assert set(pages) == set(range(1, max(pages) + 1))


def test_list_card_and_table_go_by_the_paper_book_and_undo_nothing(stage: ReviewedPass) -> None:
    finding = next(f for f in stage.findings if f.proposal is not None and f.note > 30)
    stage.choose(finding)
    stage.mark(stage.book.proposal(finding).text, by=BOTH)
    before = stage.book.edition.text
    stage.set_pages(Pages(10))
    change = stage.book.edition.changes[0]
    lines = lines_of(stage.review.reading)
    row = sorted(set(lines)).index(lines[change.first_note])
    assert (change.page, change.line) == (row // 10 + 1, row % 10 + 1)
    table = list(csv.DictReader(io.StringIO(csv_of(Content("s", stage.review)).decode("utf-8-sig"))))
    note = stage.review.notes[stage.findings[0].note]
    assert (table[0]["page"], table[0]["line"]) == (str(note.page), str(note.line))
    assert stage.book.edition.text == before
    again = ReviewedPass.of_project(stage.project)
    assert places_of(again.review.reading) == places_of(stage.review.reading)


def test_lines_a_page_of_the_settings_are_for_books_without_pages(stage: ReviewedPass) -> None:
    own = places_of(stage.review.reading)
    assert max(own)[0] > 1
    settings.keep_setting(LINES_A_PAGE, 5)
    stage.pages_set()
    assert places_of(stage.review.reading) == own
    stage.project.set_info("pages", "{damaged")
    stage.pages_set()
    assert places_of(stage.review.reading) == own


def test_a_change_is_ticked_until_it_is_changed_again(stage: ReviewedPass) -> None:
    finding = next(f for f in stage.findings if f.kind == "grade-tighter")
    stage.choose(finding)
    stage.mark(stage.book.proposal(finding).text, by=BOTH)
    (change,) = stage.book.edition.changes
    assert stage.book.to_copy == [change]
    stage.book.tick_copied(change)
    stage.book.tick_copied(change)
    assert stage.book.to_copy == []
    assert len(stage.book.history) == 2, "ticked twice is one entry"
    stage.mark(f"caut {change.new}", by=BOTH)
    assert len(stage.book.to_copy) == 1, "what stands on paper is not what stands here"
    stage.undo()
    stage.undo()
    assert stage.book.to_copy == [change]


def test_the_shelf_says_how_far_each_stage_has_come(stage: ReviewedPass) -> None:
    keep_summary(stage)
    one = shelf.shelved(stage.project.path)
    assert (one.name, one.passes, one.dangers_left, one.opened) == ("Slatehook", 2, stage.book.dangers_left, True)
    assert one.length_m == pytest.approx(stage.review.finish_m, abs=0.1)
    danger = next(f for f in stage.findings if f.severity == "danger" and f.proposal is not None)
    stage.choose(danger)
    stage.mark(stage.book.proposal(danger).text, by=BOTH)
    keep_summary(stage)
    told = shelf.shelved(stage.project.path)
    assert (told.dangers_left, told.to_copy) == (one.dangers_left - 1, 1)
    path, decisions = stage.project.path, stage.book.decisions
    with pytest.raises(MirkleError, match="open in another window"):
        shelf.rename(path, "Other", "")
    stage.project.close()
    keep_summary(stage)  # too late, and no harm
    shelf.rename(path, " Upper Slatehook ", "Island Rally")
    with pytest.raises(MirkleError, match="needs a name"):
        shelf.rename(path, "  ", "")
    copied = shelf.copy(path)
    second = shelf.copy(path)
    assert len({path, copied, second}) == 3
    assert [shelf.shelved(p).name for p in (path, copied)] == ["Upper Slatehook", "Upper Slatehook (2)"]
    with closing(Project.open(copied)) as project:
        opened = ReviewedPass.of_project(project)
        assert opened.book.decisions == decisions


def test_what_is_no_stage_is_on_the_shelf_by_its_name(tmp_path: Path) -> None:
    folder = data_folder()
    folder.mkdir(parents=True)
    (folder / "torn.mirkle").write_bytes(b"no database")
    with closing(sqlite3.connect(folder / "odd.mirkle")) as odd:
        odd.execute("CREATE TABLE about (key TEXT, value TEXT)")
        odd.execute("INSERT INTO about VALUES ('summary', '[1, 2]')")
        odd.commit()
    assert sorted(s.name for s in shelf.shelf()) == ["odd", "torn"]
    assert not any(s.opened for s in shelf.shelf())
    with pytest.raises(MirkleError):
        shelf.copy(folder / "torn.mirkle")
    assert len(list(folder.iterdir())) == 2
    assert tmp_path.exists()


def test_the_table_speaks_another_language_with_its_own_decimal_sign(stage: ReviewedPass) -> None:
    def tell(part: Message | str) -> str:
        words = str(part)
        return words.replace(".", ",") if isinstance(part, Message) and part.text.startswith("{0:.") else f"<{words}>"

    rows = list(csv.reader(io.StringIO(csv_of(Content("s", stage.review, tell=tell)).decode("utf-8-sig")), delimiter=";"))
    assert rows[0][0] == "<severity>"
    first = stage.findings[0]
    assert rows[1][0] == f"<{first.severity}>"
    assert rows[1][5] == f"{first.from_m:.1f}".replace(".", ",")
    assert rows[1][11].startswith("<")
    assert tell(message("{0:.1f}", 0.5)) == "0,5"


@pytest.mark.parametrize(
    ("text", "rewording", "wanted"),
    [
        ("L4 long 60", Rewording(tightens=""), "L4 long > 60"),
        ("left 4 long 60\nright 3 tightens 2 40", Rewording(tightens=""), "left 4 long tightens 60"),
        ("L4 60\nR3 >2 40", Rewording(tightens="3"), "L4 >3 60"),
        ("jump maybe 50\nL4 60", Rewording(feature="jump"), "jump 50"),
        ("left 5 over maybe jump 50\nright 3 60", Rewording(feature="jump"), "left 5 over jump 50"),
        ("R3 60\nL2 caut 40", Rewording(caution="caution"), "caut R3 60"),
    ],
)
def test_an_addition_can_be_written_and_reads_back(text: str, rewording: Rewording, wanted: str) -> None:
    reading = read(text)
    hand = NoteWriter(reading, shipped_languages()[0])
    written = hand.reworded(reading.notes[0], rewording)
    assert written == wanted
    (again,) = hand.read_back(written)
    assert not again.unread
    assert again.grade == reading.notes[0].grade
    assert not any(f.maybe for f in again.features)


def test_who_warns_with_care_is_offered_care() -> None:
    assert NoteWriter(read("care L4 60\nR3 care 50\ncaution L2"), shipped_languages()[0]).usual_caution == "care"
    assert NoteWriter(read("L4 60\nR3 50"), shipped_languages()[0]).usual_caution == "caution"


def test_the_shelf_shows_each_stage_from_above(stage: ReviewedPass) -> None:
    keep_summary(stage)
    shape = shelf.shelved(stage.project.path).shape
    assert len(shape) == SHAPE_POINTS
    x, y = zip(*shape, strict=True)
    assert max(max(x) - min(x), max(y) - min(y)) == SHAPE, "as large as its box"
    plan, last = stage.review.measured.plan, int(stage.review.finish_m)
    assert (x[-1] > x[0]) is bool(plan.east_m[last] > plan.east_m[0])
    assert (y[-1] < y[0]) is bool(plan.north_m[last] > plan.north_m[0]), "north is up"
    # What is no line in its box is no map, and the stage is there all the same.
    about = json.loads(stage.project.info("summary"))
    for broken in ([[1, 900]], "x", [[1]], [[0, 0]] * 999):
        stage.project.set_info("summary", json.dumps(about | {"shape": broken}))
        assert shelf.shelved(stage.project.path).shape == ()
