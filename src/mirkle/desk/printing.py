"""What is printed: the change card and the new edition of the book, as PDF with fonts in it and text that can be searched."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

from PyQt6.QtCore import QMarginsF, QRectF, Qt
from PyQt6.QtGui import QPageLayout, QPageSize, QPainter, QPdfWriter, QPen

from mirkle.core.book.decisions import Decision
from mirkle.core.book.edition import Change
from mirkle.core.cautions import CAUTIONS
from mirkle.core.clauses import clause
from mirkle.core.errors import MirkleError
from mirkle.core.notes.model import Note
from mirkle.core.verdict.findings import SEVERITIES
from mirkle.desk.speak import say, say_clause, say_why
from mirkle.desk.theme import NIGHT, PAPER, Theme, font
from mirkle.session.stage import Stage

DPI = 96
# A larger sheet has larger type.
SIZES = {"A5": (QPageSize.PageSizeId.A5, 1.0), "A4": (QPageSize.PageSizeId.A4, 1.4)}
_WRAP = int(Qt.TextFlag.TextWordWrap)
_MIDDLE = int(Qt.AlignmentFlag.AlignVCenter)
# Black on white is read in full sun, light on dark does not blind at night.
SUNLIGHT = Theme(**{**PAPER.__dict__, "paper": "#ffffff", "ink": "#000000", "faint": "#555555", "pencil": "#000000"})


def write_card(stage: Stage, path: Path, *, size: str = "A5") -> None:
    """Writes the change card: what to copy by page and line, the biggest risk first; then what was added by hand.

    Raises
    ------
    MirkleError
        The file can't be written; what stood there before is untouched.
    """
    _write(path, f"{stage.project.name}: changes", size, SUNLIGHT, lambda sheet: _draw_card(stage, sheet))


def write_book(
    stage: Stage, path: Path, *, size: str = "A5", night: bool = False, lines_a_page: int | None = None
) -> None:
    """Writes the new edition in large type with its pencil marks, page by page as the paper book has them.

    Parameters
    ----------
    night : light on dark instead of black on white
    lines_a_page : so many notes on each page; ``None`` keeps the pages of the notes

    Raises
    ------
    MirkleError
        The file can't be written; what stood there before is untouched.
    """
    ink = NIGHT if night else SUNLIGHT
    _write(path, f"{stage.project.name}: notes", size, ink, lambda sheet: _draw_book(stage, sheet, lines_a_page))


def _write(path: Path, title: str, size: str, ink: Theme, draw: Callable[[_Sheet], None]) -> None:
    fresh = path.with_name(path.name + ".part")
    try:
        fresh.touch()
    except OSError as error:
        raise MirkleError(
            clause("it can't be written ({0})", error.strerror), mend="choose another folder", where=str(path)
        ) from None
    writer = QPdfWriter(str(fresh))
    writer.setResolution(DPI)
    writer.setPageLayout(
        QPageLayout(QPageSize(SIZES[size][0]), QPageLayout.Orientation.Portrait, QMarginsF(0, 0, 0, 0))
    )
    writer.setTitle(title)
    writer.setCreator("Mirkle")
    painter = QPainter(writer)
    painter.scale(SIZES[size][1], SIZES[size][1])
    draw(_Sheet(painter, writer, ink, SIZES[size][1]))
    painter.end()
    fresh.replace(path)


class _Sheet:
    """A page being filled from the top; a new one begins where there is no more room."""

    MARGIN = 40.0

    def __init__(self, painter: QPainter, writer: QPdfWriter, ink: Theme, scale: float) -> None:
        self.painter, self.writer, self.ink = painter, writer, ink
        self._whole = QRectF(0, 0, writer.width() / scale, writer.height() / scale)
        self.width = self._whole.width() - 2 * self.MARGIN
        self.bottom = self._whole.height() - self.MARGIN
        self._begin()

    def _begin(self) -> None:
        self.y = self.MARGIN
        if self.ink is NIGHT:
            self.painter.fillRect(self._whole, self.ink.colour("paper"))

    def new_page(self) -> None:
        """Goes on at the top of a new page."""
        self.writer.newPage()
        self._begin()

    def room(self, needed: float) -> None:
        """Sees to it that so much height is left."""
        if self.y + needed > self.bottom:
            self.new_page()

    def text(self, text: str, size: int, *, bold: bool = False, colour: str = "ink") -> None:
        """A paragraph over the whole width."""
        self.painter.setFont(font(size, family="hand", bold=bold))
        self.painter.setPen(QPen(self.ink.colour(colour)))
        bounds = self.painter.boundingRect(QRectF(0, 0, self.width, 2000), _WRAP, text)
        self.room(bounds.height())
        self.painter.drawText(QRectF(self.MARGIN, self.y, self.width, bounds.height()), _WRAP, text)
        self.y += bounds.height() + 2

    def line_of_text(
        self, text: str, size: int, *, left: float, width: float, bold: bool = False, colour: str = "ink"
    ) -> float:
        """One line at the present height, made smaller until it fits; returns its width."""
        while True:
            self.painter.setFont(font(size, family="hand", bold=bold))
            taken = float(self.painter.fontMetrics().horizontalAdvance(text))
            if taken <= width or size <= 9:
                break
            size -= 1
        self.painter.setPen(QPen(self.ink.colour(colour)))
        self.painter.drawText(QRectF(self.MARGIN + left, self.y, width, size * 1.6), _MIDDLE, text)
        return taken

    def rule(self) -> None:
        """A thin line across at the present height."""
        self.painter.setPen(QPen(self.ink.colour("rule")))
        self.painter.drawLine(int(self.MARGIN), int(self.y), int(self.MARGIN + self.width), int(self.y))

    def strike(self, left: float, width: float, size: float) -> None:
        """A line through a text at the present height."""
        self.painter.setPen(QPen(self.ink.colour("pencil"), 1.4))
        y = int(self.y + size * 0.85)
        self.painter.drawLine(int(self.MARGIN + left), y, int(self.MARGIN + left + width), y)

    def cautions(self) -> None:
        """The cautions, on the last page of everything."""
        self.y += 4
        self.text(say("Before you trust this"), 11, bold=True)
        for caution in CAUTIONS:
            self.text(f"–  {say(caution)}", 9)


def _draw_card(stage: Stage, sheet: _Sheet) -> None:
    changes = sorted(stage.book.edition.changes, key=lambda c: _risk(stage, c))
    sheet.text(say("{0}: changes to the notes", stage.project.name), 20, bold=True)
    count = len(changes)
    sheet.text(
        say("No changes.") if not count else say("1 change, the biggest risk first.") if count == 1
        else say("{0} changes, the biggest risk first.", count),
        12,
    )  # fmt: skip
    sheet.text(say("Copy them into the book by page and line, then read them aloud once."), 12)
    for stretch in stage.review.measured.unmeasured:
        sheet.text(say_clause(stretch.sentence), 12, bold=True)
    sheet.y += 6
    for change in changes:
        _draw_change(sheet, change)
    for answer, heading in (("hazard", say("Met on the road")), ("condition", say("For the next pass only"))):
        _draw_additions(sheet, heading, [a for a in stage.book.additions if a.answer == answer])
    decisions = stage.book.decisions
    for answer, heading in (
        ("talk", say("To talk over before the next pass")),
        ("video", say("To look at on the video")),
    ):
        found = [f for f in stage.findings if (d := decisions.get(f.id)) and d.answer == answer]
        if found:
            sheet.y += 6
            sheet.text(heading, 14, bold=True)
        for finding in found:
            note = stage.review.notes[finding.note]
            remark = decisions[finding.id].remark
            sheet.text(
                f"{say('page {0}, line {1}', note.page, note.line)}: {say_why(finding.because)}{f' ({remark})' if remark else ''}",
                12,
            )
    sheet.cautions()


def _risk(stage: Stage, change: Change) -> tuple[int, float, int]:
    """Most risk first; what the crew changed of its own after the findings, in the order of the book."""
    finding = next((f for f in stage.findings if f.id == change.finding), None)
    if finding is None:
        return len(SEVERITIES), 0.0, change.first_note
    return SEVERITIES.index(finding.severity), -finding.risk, change.first_note


def _draw_change(sheet: _Sheet, change: Change) -> None:
    old, new = change.old.replace("\n", "  /  "), change.new.replace("\n", "  /  ")
    sheet.room(50)
    sheet.line_of_text(say("p {0}  line {1}", change.page, change.line), 12, left=0, width=78, colour="faint")
    struck = sheet.line_of_text(old, 15, left=82, width=sheet.width - 82, colour="faint")
    sheet.strike(82, struck, 14)
    sheet.y += 18
    sheet.line_of_text(new or say("strike it out"), 20, left=82, width=sheet.width - 82, bold=True)
    sheet.y += 27
    sheet.rule()


def _draw_additions(sheet: _Sheet, heading: str, additions: list[Decision]) -> None:
    if not additions:
        return
    sheet.y += 6
    sheet.text(heading, 14, bold=True)
    for a in additions:
        until = f" to {a.to_m / 1000:.2f}" if a.to_m - a.from_m >= 10.0 else ""
        sheet.text(f"{a.from_m / 1000:.2f}{until} km: {a.text}", 12)


def _draw_book(stage: Stage, sheet: _Sheet, lines_a_page: int | None) -> None:
    for number, (page, notes) in enumerate(_pages(stage.review.notes, lines_a_page)):
        if number:
            sheet.new_page()
        _draw_head(stage, sheet, page)
        for note in notes:
            if sheet.y + ROW > sheet.bottom:
                sheet.new_page()
                _draw_head(stage, sheet, page)
            _draw_note(stage, sheet, note)
    sheet.cautions()


ROW = 33.0


def _pages(notes: tuple[Note, ...], lines_a_page: int | None) -> Iterator[tuple[int, list[Note]]]:
    """The notes of each page with its number."""
    if lines_a_page is not None:
        for at in range(0, len(notes), lines_a_page):
            yield at // lines_a_page + 1, list(notes[at : at + lines_a_page])
        return
    for page in dict.fromkeys(n.page for n in notes):
        yield page, [n for n in notes if n.page == page]


def _draw_head(stage: Stage, sheet: _Sheet, page: int) -> None:
    sheet.line_of_text(say("{0}, page {1}", stage.project.name, page), 13, left=0, width=sheet.width, colour="faint")
    sheet.y += 24
    sheet.rule()
    sheet.y += 4


def _draw_note(stage: Stage, sheet: _Sheet, note: Note) -> None:
    mark = stage.book.edition.mark_on(note.index)
    if mark is None:
        sheet.line_of_text(note.text, 21, left=0, width=sheet.width)
    else:
        half = sheet.width * 0.42
        struck = sheet.line_of_text(note.text, 15, left=0, width=half, colour="faint")
        sheet.strike(0, struck, 14)
        if mark.first_note == note.index:
            new = mark.text.replace("\n", "  /  ") or "—"
            sheet.line_of_text(new, 21, left=half + 12, width=sheet.width - half - 12, bold=True, colour="pencil")
    sheet.y += ROW - 2
    sheet.rule()
    sheet.y += 2
