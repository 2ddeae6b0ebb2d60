"""From text to notes: words to terms, the hand's own order, terms to notes.

The grammar is that of the trade: ``[alert] corner-or-feature [shape] [features] [line] [objects] [distance | link]``.
Three habits are found from the text itself: whether the direction or the grade stands first, whether the distance
closes a note or opens the next line, and which language it is. Nothing is dropped: what is not understood stays in
its note as ``unread``, and every character of the source belongs to one token.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.language import PIECE, Language
from mirkle.core.notes.model import Direction, Note, Reading, Span, Token

LARGEST_GRADE = 10
# Nothing nearer than this is called as a number of metres. # common practice
SMALLEST_DISTANCE_M = 10
FARTHEST_M = 3000


@dataclass
class _Word:
    text: str
    span: Span
    line: int
    first_on_line: bool


@dataclass
class _Item:
    """A term or a number in its place."""

    kind: str
    key: str
    span: Span
    line: int
    first_on_line: bool
    text: str


@dataclass
class _Draft:
    """A note being put together."""

    line: int
    items: list[_Item] = field(default_factory=list)
    direction: Direction | None = None
    grade: str | None = None
    direction_span: Span | None = None
    grade_span: Span | None = None
    gap_span: Span | None = None
    length: str | None = None
    changes: list[str] = field(default_factory=list)
    cautions: list[str] = field(default_factory=list)
    features: list[str] = field(default_factory=list)
    line_on_road: list[str] = field(default_factory=list)
    objects: list[str] = field(default_factory=list)
    marks: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    link: str | None = None
    distance_m: int | None = None

    @property
    def closed(self) -> bool:
        return self.link is not None or self.distance_m is not None


def read_notes(
    source: str, languages: Sequence[Language], *, order: str | None = None, corners_needed: bool = True
) -> Reading:
    """The notes in a text, a line or several notes a line, in the language that fits it best.

    Parameters
    ----------
    source : the notes as written; ``\\n`` ends a line; a line with only "page N" or a form feed begins a page
    order : ``direction-first`` or ``grade-first``; found from the text if left out
    corners_needed : whether a text without a single corner is refused

    Raises
    ------
    UnusableNotes
        Not one corner could be read in it.
    """
    best: tuple[int, Language, list[_Item]] | None = None
    words = _words(source)
    for language in languages:
        items = _items(words, language)
        unread = sum(i.kind == "unread" for i in items)
        if best is None or unread < best[0]:
            best = (unread, language, items)
    assert best is not None
    _, language, items = best
    order = order or _order(items)
    _name_the_grades(items, order)
    distance_first = _distance_opens_the_line(items)
    notes = _notes(items, source)
    if corners_needed and not any(n.is_corner for n in notes):
        raise UnusableNotes(
            "no corner could be read in this text",
            mend="write one note a line, such as “left 4 long 80” or “4 left long 80”",
        )
    return Reading(
        source=source,
        notes=notes,
        tokens=_tokens(source, items),
        language=language.code,
        order=order,
        distance_first=distance_first,
    )


def _words(source: str) -> list[_Word]:
    words = []
    line, at = 1, 0
    last_line = 0
    for match in PIECE.finditer(source):
        line += source.count("\n", at, match.start())
        at = match.start()
        words.append(_Word(match.group().lower(), Span(*match.span()), line, line != last_line))
        last_line = line
    return words


def _items(words: list[_Word], language: Language) -> list[_Item]:
    texts = [w.text for w in words]
    items = []
    at = 0
    while at < len(words):
        word = words[at]
        found = language.longest(texts, at)
        if found and words[at + found[1] - 1].line != word.line:
            found = None
        taken, kind, key = 1, "unread", word.text
        if found:
            term, taken = found
            kind, key = term.kind, term.key
        elif word.text.isdecimal():
            kind, key = "number", str(int(word.text))
        elif not word.text[0].isalnum():
            kind = "blank"
        last = words[at + taken - 1]
        items.append(
            _Item(
                kind,
                key,
                Span(word.span.start, last.span.end),
                word.line,
                word.first_on_line,
                " ".join(texts[at : at + taken]),
            )
        )
        at += taken
    return items


def _is_grade_number(item: _Item) -> bool:
    return item.kind == "number" and 1 <= int(item.key) <= LARGEST_GRADE and len(item.key) <= 2


def _order(items: list[_Item]) -> str:
    """``direction-first`` or ``grade-first``, by which side of the directions the small numbers stand on."""
    after = before = 0
    for here, following in pairwise(items):
        if here.line != following.line:
            continue
        after += here.kind == "direction" and _is_grade_number(following)
        before += following.kind == "direction" and _is_grade_number(here)
    return "grade-first" if before > after else "direction-first"


def _name_the_grades(items: list[_Item], order: str) -> None:
    """Turns the numbers that belong to a direction or a change of radius into grades, halves joined; in place."""
    step = 1 if order == "direction-first" else -1
    for at, item in enumerate(items):
        if item.kind == "direction":
            near = _neighbour(items, at, step)
            if near is not None and (_is_grade_number(near) or near.kind == "grade"):
                near.kind = "grade"
                continue
            half = _neighbour(items, at, step, 2)
            if near is not None and near.kind == "half" and half is not None and _is_grade_number(half):
                half.kind = "grade"
                continue
            # "hairpin left" and "square left" are said either way round in every hand.
            other = _neighbour(items, at, -step)
            if other is not None and other.kind == "grade" and not other.key.isdigit():
                other.kind = "grade"
        elif item.kind == "change":
            near = _neighbour(items, at, 1)
            if near is not None and _is_grade_number(near):
                following = _neighbour(items, at, 2)
                if order == "direction-first" or following is None or following.kind != "direction":
                    near.kind = "change grade"
    joined: list[_Item] = []
    for item in items:
        sticks = item.kind == "half" and joined and joined[-1].kind in ("grade", "change grade")
        if sticks and joined[-1].line == item.line:
            last = joined[-1]
            last.key += "+" if item.key == "plus" else "-"
            last.span = Span(last.span.start, item.span.end)
        else:
            joined.append(item)
    items[:] = joined
    for item in items:
        if item.kind == "half":
            item.kind = "blank"


def _neighbour(items: list[_Item], at: int, step: int, steps: int = 1) -> _Item | None:
    to = at + step * steps
    if 0 <= to < len(items) and items[to].line == items[at].line:
        return items[to]
    return None


def _is_distance(item: _Item) -> bool:
    return item.kind == "number" and SMALLEST_DISTANCE_M <= int(item.key) <= FARTHEST_M


def _distance_opens_the_line(items: list[_Item]) -> bool:
    """Whether this hand writes the distance ahead of the note: "80 left 4" rather than "left 4 80"."""
    opens = closes = 0
    for at, item in enumerate(items):
        gap = _is_distance(item) or item.kind == "link"
        last_on_line = at + 1 == len(items) or items[at + 1].line != item.line
        opens += gap and item.first_on_line and not last_on_line
        closes += gap and last_on_line and not item.first_on_line
    return opens > closes


class _Builder:
    """Puts items together to notes, one after the other."""

    def __init__(self) -> None:
        self.drafts: list[_Draft] = []
        self.page = 1
        self.pages: list[int] = []
        self.current: _Draft | None = None
        self.over = ""

    def draft(self, item: _Item) -> _Draft:
        if self.current is None:
            self.current = _Draft(line=item.line)
            self.drafts.append(self.current)
            self.pages.append(self.page)
        return self.current

    def close(self) -> None:
        self.current, self.over = None, ""

    def take(self, item: _Item) -> None:
        if item.first_on_line and self.current is not None:
            self.close()
        handler = getattr(self, "_take_" + item.kind.replace(" ", "_"), None)
        if handler is not None:
            handler(item)
        elif item.kind != "blank":
            self._take_unread(item)

    def _note(self, item: _Item) -> _Draft:
        if self.current is not None and self.current.closed and item.kind not in ("over", "feature", "blank"):
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        return draft

    def _take_direction(self, item: _Item) -> None:
        current = self.current
        if current is not None and (current.direction is not None or current.closed):
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        draft.direction, draft.direction_span = Direction(item.key), item.span

    def _take_grade(self, item: _Item) -> None:
        current = self.current
        if current is not None and (current.grade is not None or current.closed):
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        draft.grade, draft.grade_span = item.key, item.span

    def _take_length(self, item: _Item) -> None:
        self._note(item).length = item.key

    def _take_change(self, item: _Item) -> None:
        self._note(item).changes.append(item.key)

    def _take_change_grade(self, item: _Item) -> None:
        draft = self._note(item)
        draft.changes[-1] += " " + item.key

    def _take_caution(self, item: _Item) -> None:
        self._note(item).cautions.append(item.key)

    def _take_over(self, item: _Item) -> None:
        # "100 over crest": the distance carries the feature, so a closed note stays open for it.
        draft = self.draft(item)
        draft.items.append(item)
        self.over = item.key

    def _take_feature(self, item: _Item) -> None:
        if self.current is not None and self.current.closed and not self.over:
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        draft.features.append(f"{self.over} {item.key}".strip())
        self.over = ""

    def _take_line(self, item: _Item) -> None:
        self._note(item).line_on_road.append(item.key)

    def _take_object(self, item: _Item) -> None:
        draft = self._note(item)
        draft.objects.append(f"{self.over} {item.key}".strip())
        self.over = ""

    def _take_side(self, item: _Item) -> None:
        draft = self._note(item)
        if draft.objects:
            draft.objects[-1] += " " + item.key
        else:
            draft.objects.append(item.key)

    def _take_surface(self, item: _Item) -> None:
        self._note(item).objects.append(item.key)

    def _take_state(self, item: _Item) -> None:
        self._note(item).objects.append(item.key)

    def _take_mark(self, item: _Item) -> None:
        if item.key == "page":
            return
        current = self.current
        if current is not None and current.closed and not current.items[-1].first_on_line:
            # "100 to finish": the distance leads to the line, which is a note of its own.
            self.close()
        self._note(item).marks.append(item.key)

    def _take_filler(self, item: _Item) -> None:
        if self.current is not None:
            self.current.items.append(item)

    def _take_link(self, item: _Item) -> None:
        self._gap(item, link=item.key)

    def _take_number(self, item: _Item) -> None:
        if _is_distance(item):
            self._gap(item, distance_m=int(item.key))
        else:
            self._take_unread(item)

    def _gap(self, item: _Item, *, link: str | None = None, distance_m: int | None = None) -> None:
        opens_line = item.first_on_line
        draft = self.drafts[-1] if opens_line and self.drafts else self.draft(item)
        if draft.closed and not opens_line:
            self.close()
            draft = self.draft(item)
        if not draft.closed:
            draft.link, draft.distance_m, draft.gap_span = link, distance_m, item.span
        if opens_line:
            # The words stand on this line, so they are part of its note's text.
            self.close()
            self.draft(item).items.append(item)
        else:
            draft.items.append(item)

    def _take_unread(self, item: _Item) -> None:
        draft = self._note(item)
        draft.unread.append(item.text)


def _notes(items: list[_Item], source: str) -> tuple[Note, ...]:
    builder = _Builder()
    skip_line = 0
    last_at = 0
    for at, item in enumerate(items):
        if "\f" in source[last_at : item.span.start] and builder.drafts:
            builder.page += 1
        last_at = item.span.start
        if item.line == skip_line:
            continue
        if item.kind == "mark" and item.key == "page" and item.first_on_line:
            following = _neighbour(items, at, 1)
            builder.page = int(following.key) if following and following.kind == "number" else builder.page + 1
            skip_line = item.line
            builder.close()
            continue
        builder.take(item)
    notes: list[Note] = []
    for draft, page in zip(builder.drafts, builder.pages, strict=True):
        if not draft.items:
            continue
        span = Span(min(i.span.start for i in draft.items), max(i.span.end for i in draft.items))
        notes.append(_finished(draft, page, span, source, index=len(notes)))
    return tuple(_lines_within_pages(notes))


def _finished(draft: _Draft, page: int, span: Span, source: str, *, index: int) -> Note:
    return Note(
        index=index,
        page=page,
        line=draft.line,
        text=source[span.start : span.end],
        span=span,
        direction=draft.direction,
        grade=draft.grade,
        length=draft.length,
        changes=tuple(draft.changes),
        cautions=tuple(draft.cautions),
        features=tuple(draft.features),
        line_on_road=tuple(draft.line_on_road),
        objects=tuple(draft.objects),
        link=draft.link,
        distance_m=draft.distance_m,
        marks=tuple(draft.marks),
        unread=tuple(draft.unread),
        direction_span=draft.direction_span,
        grade_span=draft.grade_span,
        gap_span=draft.gap_span,
    )


def _lines_within_pages(notes: list[Note]) -> list[Note]:
    """Lines count from the first note of each page, as in the paper book."""
    before: dict[int, int] = {}
    return [replace(note, line=note.line - before.setdefault(note.page, note.line - 1)) for note in notes]


def _tokens(source: str, items: list[_Item]) -> tuple[Token, ...]:
    tokens = []
    at = 0
    for item in items:
        if item.span.start > at:
            tokens.append(Token(Span(at, item.span.start), source[at : item.span.start], "blank"))
        kind = "distance" if _is_distance(item) else item.kind
        tokens.append(Token(item.span, source[item.span.start : item.span.end], kind, item.key))
        at = item.span.end
    if at < len(source):
        tokens.append(Token(Span(at, len(source)), source[at:], "blank"))
    return tuple(tokens)
