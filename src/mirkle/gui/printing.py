"""What is printed: the change card and the new edition of the book, as PDF with fonts in it and text that can be searched.

Every text stands whole, wrapped where it is long and never made smaller; no sheet says anything by a colour alone, so that red light
at night takes nothing away.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import zip_longest

from mirkle.core.judging.finding_kinds import SEVERITIES
from mirkle.core.judging.findings import Finding
from mirkle.core.messages import gettext_noop
from mirkle.core.notebook.conditions import BAD
from mirkle.core.notebook.decisions import Addition
from mirkle.core.notebook.edition import Change
from mirkle.core.notebook.observed import seen_words
from mirkle.core.notes.model import Note
from mirkle.files.export.report import Entry, Report, report_of
from mirkle.gui.sheets import AT_NIGHT, NEW_PX, NOTE_PX, SMALL_PX, WORDS_PX, LaidOut, PaperFormat, Printed, Sheet
from mirkle.gui.translation import spoken, text_of, tr, tr_counted, tr_message, tr_why
from mirkle.session.export import content_of
from mirkle.session.open_pass import OpenPass
from mirkle.session.pass_list import driven
from mirkle.session.rehearsal import Practice, left_words
from mirkle.session.reviewed_pass import ReviewedPass

# What is bad stands larger than the note.
WARNED_PX = NEW_PX + 4
BOOK_MARKS = {"clean": gettext_noop("clean"), "margin": gettext_noop("changes marked in the margin"), "pencil": gettext_noop("old and new")}
CARD_ORDERS = {"page": gettext_noop("in the order of the pages"), "risk": gettext_noop("the biggest risk first")}


@dataclass(frozen=True)
class BookStyle:
    """How the book is printed: larger for the ``night``, what changed shown by one of :data:`BOOK_MARKS`, and a thin line beside the
    notes that are ``proven``."""

    night: bool = False
    marks: str = "clean"
    proven: frozenset[int] = frozenset()


PLAIN, ON_A5 = BookStyle(), PaperFormat()


def card(stage: OpenPass, paper: PaperFormat = ON_A5, *, order: str = "page") -> Printed:
    """The change card: what to copy by page and line, with a box to tick; then what was added by hand, and what is to be talked
    over or looked at. ``order`` is one of :data:`CARD_ORDERS`."""
    title = tr("{0}: changes to the notes", stage.project.name)
    return Printed(title, _foot(stage), paper, lambda sheet: _draw_card(stage, sheet, order))


def book(stage: OpenPass, paper: PaperFormat = ON_A5, style: BookStyle = PLAIN) -> Printed:
    """The new edition in large type, page by page as the paper book has them."""
    title = tr("{0}: notes", stage.project.name)
    larger = replace(paper, larger=AT_NIGHT) if style.night else paper
    return Printed(title, _foot(stage), larger, lambda sheet: _draw_book(stage, sheet, style))


def findings(stage: ReviewedPass, paper: PaperFormat = ON_A5) -> Printed:
    """The report of the pass: every finding with why, what is proposed and what was decided."""
    title = tr("{0}: findings", stage.project.name)
    report = report_of(content_of(stage, text_of, spoken()))
    return Printed(title, _foot(stage), paper, lambda sheet: _draw_findings(stage, sheet, report))


def _foot(stage: OpenPass) -> str:
    """What every sheet says of itself: event, stage, car, pass, day and edition."""
    here = next((d for d in driven(stage.project) if d.made.id == stage.this_pass.id), None)
    car = stage.project.info("car")
    parts = [stage.project.info("event"), stage.project.name, tr("car {0}", car) if car else ""]
    if here is not None:
        parts += [tr("pass {0}", here.name), here.made.day]
        parts.append(tr("edition {0}", here.edition) if here.edition is not None else "")
    return " · ".join(p for p in parts if p)


def _draw_findings(stage: ReviewedPass, sheet: Sheet, report: Report) -> None:
    sheet.text(tr("{0}: findings", stage.project.name), 20, bold=True)
    sheet.text(report.summary, WORDS_PX)
    for doubt in report.doubts:
        sheet.text(doubt, WORDS_PX, bold=True)
    sheet.y += 4
    for entry in report.of("finding"):
        _draw_finding(sheet, entry)
    for heading, entries in ((tr("Added by hand"), report.of("added")), (tr("Seen on the video"), report.of("seen"))):
        if entries:
            sheet.y += 6
            sheet.text(heading, 15, bold=True, behind=40.0)
        for entry in entries:
            words = " ".join(part for part in (entry.note, entry.met, entry.why) if part)
            _draw_entry(sheet, entry.place, words + (f" → {_one_line(entry.written)}" if entry.written else ""))
    if report.debrief:
        sheet.y += 6
        sheet.text(tr("Said behind the finish"), 15, bold=True, behind=40.0)
    for words in report.debrief:
        sheet.text(words, WORDS_PX)
    sheet.cautions()


def _draw_finding(sheet: Sheet, entry: Entry) -> None:
    """What it is, the note, why, and what becomes of it; where it is and how grave at the left of the first three."""
    lines = [f"{entry.title}: {_one_line(entry.note or '')}", *entry.reasons]
    if entry.proposal is not None:
        lines.append(tr("Proposed: {0}", _one_line(entry.proposal) or tr("strike it out")))
    if entry.decision:
        lines.append(tr("Decided: {0}", entry.decided))
    at_left = [
        tr("p {0}  line {1}", entry.page or 0, entry.line or 0),
        tr("{0:.2f} km", (entry.from_m or 0.0) / 1000),
        entry.severity or "",
    ]
    # A sentence at a time: together they may be longer than a page.
    for left, words in zip_longest(at_left, lines, fillvalue=""):
        _draw_entry(sheet, left, words, rule=False)
    sheet.rule()


def _draw_entry(sheet: Sheet, at_left: str, words: str, *, rule: bool = True) -> None:
    wide = sheet.width - 104.0
    left, beside = sheet.laid_out(at_left, WORDS_PX, 96.0), sheet.laid_out(words, WORDS_PX, wide)
    sheet.columns([(left, 0.0, 96.0, "faint"), (beside, 104.0, wide, "ink")], rule=rule)


def _draw_card(stage: OpenPass, sheet: Sheet, order: str) -> None:
    changes = list(stage.book.edition.changes)
    if order == "risk":
        changes.sort(key=lambda c: _risk(stage, c))
    sheet.text(tr("{0}: changes to the notes", stage.project.name), 20, bold=True)
    count = tr_counted("1 change.", "{0} changes.", len(changes)) if changes else tr("No changes.")
    words = f"{count} " + tr("Copy them into the book by page and line, then read them aloud once.")
    sheet.text(words, WORDS_PX)
    for stretch in stage.review.measured.unmeasured if isinstance(stage, ReviewedPass) else ():
        sheet.text(tr_message(stretch.sentence), WORDS_PX, bold=True)
    conditions = [a for a in stage.book.road.additions if a.kind == "condition" and not stage.book.road.is_over(a)]
    _draw_additions(stage, sheet, tr("Reported ahead, and bad"), [a for a in conditions if a.level == BAD])
    sheet.y += 4
    practice = Practice(stage)
    done, left = practice.notes_done, practice.left()
    if left:
        sheet.text(tr_message(left_words(left)) + ".", WORDS_PX, bold=True)
    hazards = [a for a in stage.book.road.additions if a.kind == "hazard"]
    for change in changes:
        # What was met on the road stands where the page has it.
        while order == "page" and hazards and _page_of(stage, hazards[0]) <= (change.page, change.line):
            _draw_addition(stage, sheet, hazards.pop(0))
        beside = [tr("seen on the video")] if change.seen else []
        beside += ["✓ " + tr("rehearsed")] if change.first_note in done else []
        beside += [remark for note in stage.notes[change.first_note : change.last_note + 1] for remark in note.remarks]
        _draw_change(sheet, change, "\n".join(beside))
    _draw_additions(stage, sheet, tr("Met on the road"), hazards)
    _draw_additions(stage, sheet, tr("For the next pass only"), [a for a in conditions if a.level < BAD])
    decisions = stage.book.decisions
    _draw_seen(stage, sheet)
    for answer, heading in (("talk", tr("To talk about before the next pass")), ("video", tr("To look at on the video"))):
        found = [f for f in stage.findings if (d := decisions.get(f.id)) and d.answer == answer]
        if found and isinstance(stage, ReviewedPass):
            sheet.y += 6
            sheet.text(heading, 15, bold=True, behind=40.0)
            for finding in found:
                _draw_asked(stage, sheet, finding, decisions[finding.id].remark)
    sheet.y += 4
    last = (
        tr("One car's line on one pass. Agree on each change together, and check the recording first.")
        if isinstance(stage, ReviewedPass)
        else tr("Nothing was measured. This is what was seen on one video. Agree on each change together.")
    )
    sheet.text(last, SMALL_PX)


def _draw_asked(stage: ReviewedPass, sheet: Sheet, finding: Finding, remark: str) -> None:
    """Something to be talked over or looked at: its note, where it stands, when it was in the recording, and why."""
    when = tr("recording {at_s:clock}", at_s=stage.review.profile.seconds_at(finding.from_m))
    words = tr_why(finding.because) + (f" ({remark})" if remark else "")
    _draw_on_note(sheet, stage.notes[finding.note], when, words)


def _draw_on_note(sheet: Sheet, note: Note, when: str, words: str) -> None:
    place, wide = tr("p {0}  line {1}", note.page, note.line), sheet.width - 104.0
    at_left = sheet.laid_out(f"{place}\n{when}".strip(), WORDS_PX, 100.0)
    beside = sheet.laid_out(f"{_one_line(note.text)}\n{words}", WORDS_PX, wide)
    sheet.columns([(at_left, 0.0, 100.0, "faint"), (beside, 104.0, wide, "ink")])


def _draw_seen(stage: OpenPass, sheet: Sheet) -> None:
    """What was seen on the video and is to be talked over, apart from what was measured."""
    found = [(n, d) for n in stage.notes if (d := stage.book.seen(n.index)) is not None and d.answer == "talk"]
    if not found:
        return
    sheet.y += 6
    sheet.text(tr("Seen on the video, to talk about before the next pass"), 15, bold=True, behind=40.0)
    for note, decision in found:
        remark = f" ({decision.remark})" if decision.remark else ""
        _draw_on_note(sheet, note, "", tr(seen_words(decision.seen)) + remark)


def _risk(stage: OpenPass, change: Change) -> tuple[int, float, int]:
    """Most risk first; what the crew changed of its own after the findings, in the order of the book."""
    finding = stage.book.finding_of(change.decision)
    if finding is None:
        return len(SEVERITIES), 0.0, change.first_note
    return SEVERITIES.index(finding.severity), -finding.risk, change.first_note


def _one_line(text: str) -> str:
    return "  /  ".join(" ".join(line.split()) for line in text.splitlines() if line.strip())


def _draw_change(sheet: Sheet, change: Change, words: str) -> None:
    """Page and line with a box to tick, what is crossed out, and what stands instead, larger; beside it what is told of it."""
    left, width = 112.0, sheet.width - 112.0
    place = sheet.laid_out(tr("p {0}  line {1}", change.page, change.line), WORDS_PX, 88.0)
    beside = sheet.laid_out(words, SMALL_PX, 88.0)
    old = sheet.laid_out(_one_line(change.old), NOTE_PX, width, struck=True)
    new = sheet.laid_out(_one_line(change.new) or tr("strike it out"), NEW_PX, width, bold=True)
    sheet.room(old.height + new.height + 12)
    sheet.box(0.0, 14.0)
    sheet.columns([(place, 22.0, 88.0, "faint"), (old, left, width, "faint")], rule=False)
    sheet.columns([(beside, 22.0, 88.0, "faint"), (new, left, width, "ink")])


def _draw_additions(stage: OpenPass, sheet: Sheet, heading: str, additions: list[Addition]) -> None:
    if not additions:
        return
    sheet.y += 6
    sheet.text(heading, 15, bold=True, behind=30.0)
    for addition in additions:
        _draw_addition(stage, sheet, addition)


def _note_before(stage: OpenPass, addition: Addition) -> Note | None:
    """The note behind which something was added by hand."""
    if addition.road is None:
        return stage.notes[addition.notes.first] if addition.notes is not None else None
    return stage.note_before(addition.road.from_m) if isinstance(stage, ReviewedPass) else None


def _page_of(stage: OpenPass, addition: Addition) -> tuple[int, int]:
    """Page and line of the note behind which something was added."""
    before = _note_before(stage, addition)
    return (before.page, before.line) if before is not None else (0, 0)


def _draw_addition(stage: OpenPass, sheet: Sheet, addition: Addition) -> None:
    """What was added by hand, at its page and line."""
    road, before = addition.road, _note_before(stage, addition)
    until = tr(" to {0:.2f}", road.to_m / 1000) if road is not None and road.to_m - road.from_m >= 10.0 else ""
    at = tr("{0:.2f}{1} km", road.from_m / 1000, until) if road is not None else ""
    place = f"{tr('p {0}  line {1}', before.page, before.line)}\n{at}".strip() if before is not None else at
    behind = tr("behind “{0}”", _one_line(before.text)) if before is not None else ""
    wide = sheet.width - 112.0
    at_left = sheet.laid_out(place, WORDS_PX, 100.0)
    size = NEW_PX if addition.level == BAD else NOTE_PX
    words = sheet.laid_out(f"✕ {addition.words}" if addition.kind == "hazard" else addition.words, size, wide, bold=True)
    small = sheet.laid_out(behind, SMALL_PX, wide)
    sheet.columns([(at_left, 0.0, 100.0, "faint"), (words, 112.0, wide, "ink")], rule=False)
    sheet.columns([(small, 112.0, wide, "faint")])


def _draw_book(stage: OpenPass, sheet: Sheet, style: BookStyle) -> None:
    for number, (page, notes) in enumerate(_pages(stage.notes)):
        if number:
            sheet.new_page()
        _draw_head(stage, sheet, page)
        reported: Addition | None = None
        for note in notes:
            before, reported = reported, stage.condition_on_note(note.index) or (reported if not note.is_corner else None)
            if reported is not None and reported is not before:
                _draw_reported(stage, sheet, reported, page)
            if style.marks == "pencil":
                _draw_old_and_new(stage, sheet, note, page)
            else:
                _draw_note(stage, sheet, note, page, style)
    if style.proven:
        sheet.y += 4
        sheet.text(tr("A thin line at the side: the note was right for the road on two passes and more, and never called late."), SMALL_PX)
    sheet.cautions()


def _draw_reported(stage: OpenPass, sheet: Sheet, reported: Addition, page: int) -> None:
    """What those ahead report, in front of the first note where it lies; larger than a note where it is bad."""
    bad = reported.level == BAD
    words = sheet.laid_out(f"≋ {reported.words}", WARNED_PX if bad else WORDS_PX, sheet.width, bold=True)
    _new_page_if_full(stage, sheet, page, words)
    sheet.columns([(words, 0.0, sheet.width, "ink")])


def _pages(notes: tuple[Note, ...]) -> Iterator[tuple[int, list[Note]]]:
    """The notes of each page with its number."""
    for page in dict.fromkeys(n.page for n in notes):
        yield page, [n for n in notes if n.page == page]


def _draw_head(stage: OpenPass, sheet: Sheet, page: int) -> None:
    sheet.text(tr("{0}, page {1}", stage.project.name, page), WORDS_PX, colour="faint")
    sheet.rule()


def _draw_note(stage: OpenPass, sheet: Sheet, note: Note, page: int, style: BookStyle) -> None:
    """A note as it stands in the new edition and nothing else; at its side, where that is wanted, a bar where it changed, or a thin line
    where it is proven."""
    margin, mark = style.marks == "margin", stage.book.edition.mark_on(note.index)
    if mark is None:
        lines = [note.called_text]
    elif mark.first_note == note.index:
        lines = mark.text.splitlines() or ([tr("struck out")] if margin else [])
    else:
        lines = []
    for number, line in enumerate(lines):
        words = sheet.laid_out(_one_line(line), NEW_PX, sheet.width)
        remarks = sheet.laid_out("  ".join(note.remarks), WORDS_PX, sheet.width - 20.0) if note.remarks and not number else None
        _new_page_if_full(stage, sheet, page, words, remarks)
        if margin and mark is not None:
            sheet.bar(words.height)
        elif mark is None and note.index in style.proven:
            sheet.bar(words.height, wide=1.0)
        colour = "faint" if margin and mark is not None and not mark.text else "ink"
        sheet.columns([(words, 0.0, sheet.width, colour)], rule=remarks is None)
        if remarks is not None:
            sheet.columns([(remarks, 20.0, sheet.width - 20.0, "faint")])


def _new_page_if_full(stage: OpenPass, sheet: Sheet, page: int, *parts: LaidOut | None) -> None:
    if sheet.y + sum(part.height for part in parts if part is not None) + 10 > sheet.bottom:
        sheet.new_page()
        _draw_head(stage, sheet, page)


def _draw_old_and_new(stage: OpenPass, sheet: Sheet, note: Note, page: int) -> None:
    """A note as the book has it, struck out where it changed, with what stands instead below it."""
    mark = stage.book.edition.mark_on(note.index)
    old = sheet.laid_out(_one_line(note.called_text), NEW_PX if mark is None else NOTE_PX, sheet.width, struck=mark is not None)
    # Nobody calls it, so it stands lighter.
    remarks = sheet.laid_out("  ".join(note.remarks), WORDS_PX, sheet.width - 20.0) if note.remarks else None
    new = None
    if mark is not None and mark.first_note == note.index:
        new = sheet.laid_out(_one_line(mark.text) or "—", NEW_PX, sheet.width - 20.0, bold=True)
    _new_page_if_full(stage, sheet, page, old, new, remarks)
    sheet.columns([(old, 0.0, sheet.width, "ink" if mark is None else "faint")], rule=new is None and remarks is None)
    if new is not None:
        sheet.columns([(new, 20.0, sheet.width - 20.0, "pencil")], rule=remarks is None)
    if remarks is not None:
        sheet.columns([(remarks, 20.0, sheet.width - 20.0, "faint")])
