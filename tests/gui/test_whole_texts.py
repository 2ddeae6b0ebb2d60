"""Every note stands whole, on the screen and on paper, however wordy the crew: nothing cut, nothing made smaller, nothing on another."""

from __future__ import annotations

import re
from itertools import pairwise
from pathlib import Path

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QFontMetricsF, QImage
from PyQt6.QtPdf import QPdfDocument
from pytestqt.qtbot import QtBot

from mirkle.core.notes.writing import written_out
from mirkle.core.review import Review
from mirkle.files.export.report import report_of
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.project.project import Project, SourceFile
from mirkle.gui import printing
from mirkle.gui.sheets import THUMB_PX, PaperFormat
from mirkle.gui.theme import PAPER
from mirkle.gui.views.notes_page import HAND_PX, LINE_PX, PageView
from mirkle.gui.views.road import RoadView
from mirkle.gui.views.ties import TiesView
from mirkle.session.export import content_of
from mirkle.session.reviewed_pass import ReviewedPass
from tests.conftest import MORNING

SCHOOLS = [("en", "direction-first"), ("en", "grade-first"), ("pt", "direction-first")]
MORE = {"en": ["don't cut stones inside", "keep in", "over big crest"], "pt": ["não cortar", "manter dentro", "sobre lomba"]}
POINTS_A_PIXEL = 72 / 96


@pytest.fixture(scope="module", params=SCHOOLS, ids=["-".join(s) for s in SCHOOLS])
def wordy(request: pytest.FixtureRequest, demo_review: Review, tmp_path_factory: pytest.TempPathFactory) -> ReviewedPass:
    """The demo's book in full words, with what wordy crews add, and some of it corrected."""
    code, order = request.param
    language = next(la for la in shipped_languages() if la.code == code)
    lines = []
    for i, note in enumerate(demo_review.notes):
        body, _, gap = written_out(note, language, order=order).text.rpartition(" ")
        more = " ".join(MORE[code][: i % 4]) if note.is_corner else ""
        lines.append(" ".join(f"{body} {more} {gap}".split()))
    folder = tmp_path_factory.mktemp("wordy")
    notes = SourceFile("notes", "wordy.txt", ("\n".join(lines) + "\n").encode())
    stage = ReviewedPass.of_project(Project.create(folder / "wordy.mirkle", [notes, MORNING], name="Slatehook"))
    proposed = [f for f in stage.findings if stage.book.proposal(f) is not None]
    assert len(proposed) > 8
    for finding in proposed[:8]:
        stage.choose(finding)
        stage.mark(stage.book.proposal(finding).text, by="both")  # type: ignore[union-attr]
    return stage


def test_the_page_shows_every_note_whole(wordy: ReviewedPass, qtbot: QtBot) -> None:
    page = PageView(wordy, PAPER)
    qtbot.addWidget(page)
    for width in (360, 300):
        page.resize(width, 600)
        page.lay_out_rows()
        bottom = 0
        for row in page.rows:
            assert row.top == bottom, "rows neither overlap nor leave gaps"
            bottom = row.top + row.height
            if row.note is None:
                continue
            note = wordy.review.notes[row.note]
            parts = page.parts_of(note)
            mark = wordy.book.edition.mark_on(note.index)
            shown = " ".join(words for words, *_ in parts)
            for word in (mark.text if mark is not None and mark.first_note == note.index else note.text).split():
                assert word in shown or note.gap_span is not None
            largest = max(face.pixelSize() for _, _, face, _ in parts)
            assert largest == HAND_PX or (mark is not None and mark.first_note != note.index)
            for words, where, face, _ in parts:
                assert face.pixelSize() >= HAND_PX - 3
                bounds = QFontMetricsF(face).boundingRect(QRectF(0, 0, where.width(), 4000), 0x1000, words)
                assert bounds.width() <= where.width() + 1
                assert where.top() + max(bounds.height(), LINE_PX) <= row.height + 1


def test_the_columns_of_line_up_do_not_touch(wordy: ReviewedPass, qtbot: QtBot) -> None:
    view = TiesView(wordy, PAPER)
    qtbot.addWidget(view)
    view.resize(700, 640)
    for at in range(0, int(wordy.review.finish_m), 900):
        view.middle_m = float(at)
        rows = sorted(view.row_y().items(), key=lambda r: r[1])
        for (a, upper), (b, lower) in pairwise(rows):
            assert upper + view.height_of(a) / 2 <= lower - view.height_of(b) / 2 + 0.5


def test_the_road_paints_long_notes_and_stays_quick(wordy: ReviewedPass, qtbot: QtBot) -> None:
    road = RoadView(wordy, PAPER)
    qtbot.addWidget(road)
    road.resize(440, 600)
    wordy.choose(wordy.findings[0])
    assert not road.grab().isNull()
    # Labels went down from the top of each side, none above where the one before it ended.
    assert all(reached > 0 for reached in road.labels.free_below.values())


def sizes_of(path: Path) -> list[tuple[str, float]]:
    """The texts of a PDF with their sizes in points, as they stand on the paper."""
    found: list[tuple[str, float]] = []

    def seen(text: str, matrix: list[float], of_text: list[float], _font: object, size: float) -> None:
        if text.strip():
            found.append((text, abs(size * of_text[3] * matrix[3])))

    for page in PdfReader(path).pages:
        page.extract_text(visitor_text=seen)
    return found


@pytest.mark.usefixtures("qapp")
@pytest.mark.parametrize("paper", ["A5", "A6"])
def test_the_card_and_the_book_print_every_word_in_its_size(wordy: ReviewedPass, paper: str, tmp_path: Path) -> None:
    printing.card(wordy, PaperFormat(paper)).write(tmp_path / "card.pdf")
    printing.book(wordy, PaperFormat(paper), printing.BookStyle(night=True)).write(tmp_path / "book.pdf")
    card, book = (PdfReader(tmp_path / f"{name}.pdf") for name in ("card", "book"))
    words = {name: re.sub(r"\W+", "", " ".join(p.extract_text() for p in pdf.pages)) for name, pdf in (("card", card), ("book", book))}
    for change in wordy.book.edition.changes:
        for text in (change.old, change.new):
            assert re.sub(r"\W+", "", text) in words["card"], text
    changed = {i for c in wordy.book.edition.changes for i in range(c.first_note, c.last_note + 1)}
    for text in [n.text for n in wordy.review.notes if n.index not in changed] + [c.new for c in wordy.book.edition.changes]:
        assert re.sub(r"\W+", "", text) in words["book"], text
    for number, page in enumerate(card.pages, start=1):
        assert f"Slatehook · pass 1. slatehook-morning · edition 1 · sheet {number} of {len(card.pages)}" in " ".join(
            page.extract_text().split()
        )
    # What replaces a note is never under 14 points.
    new = {re.sub(r"\W+", "", w) for c in wordy.book.edition.changes for w in c.new.split()}
    large = [size for text, size in sizes_of(tmp_path / "card.pdf") if all(re.sub(r"\W+", "", w) in new for w in text.split())]
    assert large
    assert max(large) >= 14.0


def places_of(path: Path) -> list[list[tuple[float, float, str]]]:
    """For each sheet of a PDF its texts with where they begin: points from the left, and from the bottom."""
    out = []
    for page in PdfReader(path).pages:
        found: list[tuple[float, float, str]] = []

        def seen(text: str, matrix: list[float], of_text: list[float], _font: object, _size: float, found: list = found) -> None:  # type: ignore[type-arg]
            if text.strip():
                x, y = of_text[4], of_text[5]
                left, up = x * matrix[0] + y * matrix[2] + matrix[4], x * matrix[1] + y * matrix[3] + matrix[5]
                found.append((left, up, text))

        page.extract_text(visitor_text=seen)
        out.append(found)
    return out


@pytest.mark.usefixtures("qapp")
def test_nothing_is_printed_where_the_thumb_holds_the_book(wordy: ReviewedPass, tmp_path: Path) -> None:
    """On either side, for either hand: the text keeps out of the margin, and none of it is lost."""
    points = 72.0 / 96.0
    written = {}
    for thumb in ("", "left", "right"):
        printing.book(wordy, PaperFormat("A5", thumb=thumb)).write(tmp_path / f"{thumb}.pdf")  # type: ignore[arg-type]
        sheets = places_of(tmp_path / f"{thumb}.pdf")
        written[thumb] = re.sub(r"sheet \d+ of \d+|page \d+|\W+", "", "".join(t for sheet in sheets for *_, t in sheet))
        least = min(left for sheet in sheets for left, *_ in sheet)
        assert least == pytest.approx(points * (36.0 + (THUMB_PX if thumb == "left" else 0.0)), abs=2.0)
        # What stands at the right end of a line is drawn on the sheet itself: no ink in the margin.
        if thumb == "right":
            assert inked(tmp_path / "right.pdf", from_share=1.0 - (THUMB_PX + 34.0) / 559.0, to_share=1.0) == 0
            assert inked(tmp_path / "left.pdf", from_share=1.0 - (THUMB_PX + 34.0) / 559.0, to_share=1.0) > 0
    assert all(note.called_text.split()[0] in written["left"] for note in wordy.review.notes)


@pytest.mark.usefixtures("qapp")
@pytest.mark.parametrize("paper", ["A5", "A6"])
def test_all_findings_are_printed_whole(wordy: ReviewedPass, paper: str, tmp_path: Path) -> None:
    """Every title, note, reason, proposal and answer of the report, on sheets of either size, none across the end of a sheet."""
    printing.findings(wordy, PaperFormat(paper)).write(tmp_path / "findings.pdf")
    pdf = PdfReader(tmp_path / "findings.pdf")
    # The words may go on on the next sheet: its head and foot stand apart.
    pages = [re.sub(r"\W+", "", page.extract_text()) for page in pdf.pages]
    entries = report_of(content_of(wordy)).of("finding")
    assert len(entries) == len(wordy.findings) > 0
    for entry in entries:
        parts = [f"{entry.title}: {entry.note}", *entry.reasons, *([entry.proposal] if entry.proposal else []), entry.decided]
        for part in parts:
            assert any(re.sub(r"\W+", "", part) in page for page in pages), part


def inked(path: Path, *, from_share: float, to_share: float) -> int:
    """How many dark points the first sheet of a PDF has between two shares of its width."""
    document = QPdfDocument(None)
    document.load(str(path))
    size = document.pagePointSize(0).toSize() * 2
    picture = document.render(0, size).convertToFormat(QImage.Format.Format_ARGB32)
    columns = range(int(from_share * size.width()), int(to_share * size.width()))
    rows = range(0, size.height(), 2)
    return sum(picture.pixelColor(x, y).alpha() > 0 and picture.pixelColor(x, y).lightness() < 160 for x in columns for y in rows)


@pytest.mark.usefixtures("qapp")
@pytest.mark.parametrize("paper", ["A5", "A6"])
def test_two_pages_stand_beside_each_other_on_a_sheet_of_twice_the_size(wordy: ReviewedPass, paper: str, tmp_path: Path) -> None:
    """Each half holds what a sheet of its own would, on the same place of it."""
    printing.book(wordy, PaperFormat(paper)).write(tmp_path / "one.pdf")
    printing.book(wordy, PaperFormat(paper, two_up=True)).write(tmp_path / "two.pdf")
    one, two = places_of(tmp_path / "one.pdf"), places_of(tmp_path / "two.pdf")
    assert len(two) == -(-len(one) // 2)
    box = PdfReader(tmp_path / "two.pdf").pages[0].mediabox
    half = float(box.width) / 2
    assert float(box.width) > float(box.height)
    for number, page in enumerate(one):
        beside = half * (number % 2)
        there = [(left - beside, up, text) for left, up, text in two[number // 2] if (left >= half) == (number % 2 == 1)]
        words = ["".join("".join(t for *_, t in side).split()) for side in (there, page)]
        assert words[0] == words[1]
        assert there[0][0] == pytest.approx(page[0][0], abs=1.5)


def test_a_card_that_can_t_be_written_leaves_the_one_that_was_there(wordy: ReviewedPass, tmp_path: Path) -> None:
    from mirkle.core.errors import MirkleError
    from mirkle.files.atomic_write import write_whole

    old = tmp_path / "card.pdf"
    old.write_bytes(b"the morning's")
    tmp_path.chmod(0o500)
    try:
        if not _may_write(tmp_path):
            with pytest.raises(MirkleError, match="can't be written"):
                printing.card(wordy).write(old)
    finally:
        tmp_path.chmod(0o700)
    assert old.read_bytes() == b"the morning's"
    with pytest.raises(MirkleError, match="not a plain file"):
        printing.card(wordy).write(Path("/dev/full"))
    link = tmp_path / "link.pdf"
    link.symlink_to(old)
    write_whole(link, b"new")
    assert link.is_symlink()
    assert old.read_bytes() == b"new"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["card.pdf", "link.pdf"]


def _may_write(folder: Path) -> bool:
    """Root writes where nobody may."""
    try:
        (folder / "probe").touch()
    except OSError:
        return False
    (folder / "probe").unlink()
    return True
