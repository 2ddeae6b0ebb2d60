"""From items to notes: which term belongs to which note, and what of it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from mirkle.core.notes.called import CalledChange, CalledFeature, CalledThing
from mirkle.core.notes.items import Item
from mirkle.core.notes.model import Direction, Note, Span
from mirkle.core.notes.page_heads import PageHead


@dataclass(slots=True)
class _Draft:
    """A note being put together."""

    line: int
    items: list[Item] = field(default_factory=list)
    direction: Direction | None = None
    grade: str | None = None
    direction_span: Span | None = None
    grade_span: Span | None = None
    gap_span: Span | None = None
    length: str | None = None
    continues_for: str = ""
    changes: tuple[CalledChange, ...] = ()
    cautions: tuple[str, ...] = ()
    features: tuple[CalledFeature, ...] = ()
    line_on_road: tuple[CalledThing, ...] = ()
    objects: tuple[CalledThing, ...] = ()
    marks: tuple[str, ...] = ()
    unread: list[str] = field(default_factory=list)
    remarks: list[str] = field(default_factory=list)
    link: str | None = None
    distance_m: int | None = None
    corrected: tuple[str, ...] = ()
    first_called: str = ""
    continues: bool = False
    double: bool = False
    borrows: str = ""

    @property
    def closed(self) -> bool:
        return self.link is not None or self.distance_m is not None

    @property
    def last_kind(self) -> str:
        """The kind of what was taken last, small words aside."""
        return next((i.kind for i in reversed(self.items) if i.kind not in ("filler", "remark", "blank")), "")

    @property
    def calls_without_corner(self) -> bool:
        """Whether something is called here, and no corner."""
        return self.direction is None and self.grade is None and bool(self.features or self.line_on_road or self.objects)

    def call_anew(self, item: Item, other: Item | None) -> None:
        """Takes the distance away where the note is called again; one of another side and another grade is the next note."""
        keys = {item.key, other.key if other is not None else ""}
        if item.kind in ("direction", "grade") and self.direction is not None and not keys & {self.direction.value, self.grade}:
            return
        self.link = self.distance_m = self.gap_span = None

    def add_remark(self, item: Item) -> None:
        self.items.append(item)
        self.remarks.append(item.text)

    def change_last(self, *, to: str | None = None, length: str | None = None) -> bool:
        """Says of the change that was called last what it leads to or how long it is; whether there is one."""
        if not self.changes:
            return False
        last = self.changes[-1]
        last = last._replace(to=last.to if to is None else to, length=last.length if length is None else length)
        self.changes = (*self.changes[:-1], last)
        return True

    def doubt_last(self, kind: str) -> bool:
        """Puts a maybe to the feature, the line or the thing that was called last; whether there is one."""
        if kind == "feature" and self.features:
            self.features = (*self.features[:-1], self.features[-1]._replace(maybe=True))
        elif kind == "line" and self.line_on_road:
            self.line_on_road = (*self.line_on_road[:-1], self.line_on_road[-1]._replace(maybe=True))
        elif kind == "object" and self.objects:
            self.objects = (*self.objects[:-1], self.objects[-1]._replace(maybe=True))
        else:
            return False
        return True

    def add_side(self, key: str) -> None:
        """On which side the thing lies that was called last; by itself it is one."""
        if self.objects:
            last = self.objects[-1]
            self.objects = (*self.objects[:-1], last._replace(sides=(*last.sides, key)))
        else:
            self.objects += (CalledThing(key, "side"),)


@dataclass(frozen=True)
class Habits:
    """Where a crew puts what can stand on either side of a corner, as its text shows: alerts and lengths ``in_front``, as kinds of items.

    ``stops`` where a full stop ends a note: a recogniser puts them anywhere.
    """

    in_front: frozenset[str] = frozenset()
    stops: bool = False


# What runs along the metres of a distance that it stands behind: "50 bumpy".
ALONG = frozenset(("bumpy", "ruts", "down", "up", "bumps"))
# Words behind which a place is named.
AT_A_PLACE = frozenset(("past", "round", "under", "at", "by", "after", "before"))
# What two distances of one range stand on either side of, and how many times the nearer one the farther may be.
RANGE_SIGNS, WIDEST_RANGE = ("-", "–", "/"), 2
# What is said of a corner, though its distance stands in front: "left 4 60, don't cut".
OF_THE_CORNER = frozenset(("don't cut", "cut", "small cut", "big cut", "cut maybe", "handbrake"))
# What is corrected in the same breath.
_CORRECTABLE = ("direction", "grade", "half", "distance", "link", "length")


class Builder:
    """Puts items together to notes, one after the other."""

    def __init__(self, items: Sequence[Item] = (), habits: Habits | None = None) -> None:
        self.items, self.at, self.habits = items, 0, habits or Habits()
        self.drafts: list[_Draft] = []
        self.page = 1
        self.pages: list[int] = []
        self.current: _Draft | None = None
        self.over = self.count = ""
        self.maybe = False
        # Remarks in front of the note that they stand with.
        self.ahead: list[Item] = []

    def draft(self, item: Item) -> _Draft:
        if self.current is None:
            self.current = _Draft(line=item.line)
            self.drafts.append(self.current)
            self.pages.append(self.page)
            for remark in self.ahead:
                self.current.add_remark(remark)
            self.ahead = []
        return self.current

    def _opens_next(self) -> bool:
        """Whether the item in hand stands in front of the next corner: nothing but more of its like lies between."""
        for item in _behind(self.items, self.at):
            if item.kind in ("direction", "grade"):
                # A side that still waits for its grade may get it yet.
                return item.kind == "direction" or (self.current is not None and self.current.grade is not None)
            if item.kind not in ("caution", *self.habits.in_front):
                return False
        return False

    def _close_where_it_opens(self, item: Item) -> None:
        """Ends the note in hand where this crew puts what is called now in front of the next corner."""
        has_corner = self.current is not None and self.current.direction is not None
        if item.kind in self.habits.in_front and has_corner and self._opens_next():
            self.close()

    def close(self) -> None:
        self.current, self.over, self.count, self.maybe = None, "", "", False

    def begin_page(self, number: int | None) -> None:
        """Begins a page, the next one where its number does not stand there."""
        self.page = self.page + 1 if number is None else number
        self.close()

    def keep(self, item: Item) -> None:
        """Takes an unread word to the note that stands there, though its distance closes it."""
        if item.first_on_line or self.current is None:
            self.take(item)
            return
        self.current.items.append(item)
        self.current.unread.append(item.text)

    def take(self, item: Item) -> None:
        if item.first_on_line and self.current is not None:
            self.close()
        take = _TAKERS.get(item.kind)
        if take is not None:
            take(self, item)
        if self.current is not None and item.kind not in ("length", "filler", "blank"):
            # "Continues over crest 200": the distance is one.
            self.current.continues = False

    def _note(self, item: Item) -> _Draft:
        if self.current is not None and self.current.closed and item.kind not in ("over", "feature", "blank"):
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        return draft

    def _take_direction(self, item: Item) -> None:
        self._reopen(item)
        current = self.current
        if current is not None and (
            current.closed or current.double or (current.direction is not None and "direction" not in current.corrected)
        ):
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        draft.corrected = ("grade",) if draft.corrected else ()
        draft.direction, draft.direction_span = Direction(item.key), item.span

    def _take_grade(self, item: Item) -> None:
        self._reopen(item)
        current = self.current
        if current is not None and (current.closed or current.double or (current.grade is not None and "grade" not in current.corrected)):
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        # "4 left, sorry, 6 left": its side may be said again behind it.
        before, side = draft.grade_span, draft.direction_span
        again = "direction" in draft.corrected and before is not None and side is not None and before < side
        draft.corrected = ("direction",) if again else ()
        draft.grade, draft.grade_span = item.key, item.span

    def _take_double(self, item: Item) -> None:
        """ "Double right 2": the word is the first of two corners, and has its side and grade from the second."""
        current = self.current
        if current is not None and (current.closed or current.direction is not None or current.grade is not None):
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        draft.double = True

    def _take_correction(self, item: Item) -> None:
        """Corrected in the same breath: the last word stands, the first stays in the note's text as evidence."""
        if self.current is not None:
            self.current.first_called = " ".join(i.text for i in self.current.items if i.kind in _CORRECTABLE)
            self.current.items.append(item)
            # A side, a grade, or a side and its grade may follow; behind the distance the whole note, or another distance.
            self.current.corrected = ("direction", "grade", *(("gap",) if self.current.closed else ()))

    def _reopen(self, item: Item) -> None:
        """A note that is corrected behind its distance is called anew, with its distance: "right five, 80, no, right four"."""
        if self.current is not None and "gap" in self.current.corrected:
            other = next((i for i in _behind(self.items, self.at) if i.kind in ("direction", "grade")), None)
            self.current.call_anew(item, other)

    def _take_length(self, item: Item) -> None:
        self._close_where_it_opens(item)
        last = self._last_kind()
        draft = self._note(item)
        # "Opens six long": the opening is long, not the corner.
        if last in ("change", "change to", "change grade") and draft.change_last(length=item.key):
            return
        draft.length, draft.continues_for, draft.continues = item.key, "", item.key == "continues"

    def _last_kind(self) -> str:
        return self.current.last_kind if self.current is not None else ""

    def _take_change(self, item: Item) -> None:
        self._note(item).changes += (CalledChange(item.key),)

    _take_change_to = _take_change

    def _take_change_grade(self, item: Item) -> None:
        draft = self._note(item)
        if not draft.change_last(to=item.key):
            draft.unread.append(item.text)

    def _take_caution(self, item: Item) -> None:
        self._close_where_it_opens(item)
        self._note(item).cautions += (item.key,)

    def _take_over(self, item: Item) -> None:
        # "100 over crest": the distance carries the feature, so a closed note stays open for it. "80 past junction" is two notes.
        following = next((i for i in _behind(self.items, self.at) if i.kind != "count"), None)
        if self.current is not None and self.current.closed and following is not None and following.kind == "object":
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        self.over = item.key

    def _take_blank(self, item: Item) -> None:
        """A full stop in front of a corner ends what has none: "keep right over brow. Left five"."""
        if item.joined_to is not None:
            self._take_half_ahead(item, item.joined_to)
        elif item.text == "." and self.habits.stops and self._stops_here():
            self.close()

    def _take_half_ahead(self, item: Item, owner: Item) -> None:
        """ "Tight four": half a grade, ahead of it."""
        current = self.current
        if owner.kind == "grade" and current is not None and (current.closed or current.grade is not None):
            self.close()
        self.draft(item).items.append(item)

    def _stops_here(self) -> bool:
        """Whether the note in hand calls something and no corner, and a corner follows; an alert opens what follows, stop or not."""
        if self.current is None or not self.current.calls_without_corner:
            return False
        following = next(_behind(self.items, self.at), None)
        return following is not None and following.kind in ("direction", "grade")

    def _runs_along(self, item: Item) -> bool:
        """Whether it tells what the metres behind a note are like: it stands directly behind its distance."""
        current = self.current
        return current is not None and current.distance_m is not None and not item.first_on_line and self._last_kind() == "distance"

    def _take_feature(self, item: Item) -> None:
        along = item.key in ALONG and not (self.over or self.count) and self._runs_along(item)
        if self.current is not None and self.current.closed and not (self.over or self.count or along):
            self.close()
        draft = self.draft(item)
        draft.items.append(item)
        name, maybe = _with_maybe(item.key)
        draft.features += (CalledFeature(name, self.over, self.count, maybe or self.maybe),)
        self.over, self.count, self.maybe = "", "", False

    def _take_count(self, item: Item) -> None:
        if self.over:
            self.draft(item).items.append(item)
        else:
            self._note(item)
        self.count = item.key

    def _take_maybe(self, item: Item) -> None:
        """ "Crest maybe", "cut maybe": settles nothing, and goes with what it stands behind, else with what follows."""
        draft = self.draft(item)
        last = next((i.kind for i in reversed(draft.items) if i.kind not in ("side", "filler")), "")
        draft.items.append(item)
        if not draft.doubt_last(last):
            self.maybe = True

    def _take_line(self, item: Item) -> None:
        name, maybe = _with_maybe(item.key)
        draft = self._draft_of_a_cut(item) or self._note(item)
        draft.line_on_road += (CalledThing(name, "line", maybe=maybe),)

    def _draft_of_a_cut(self, item: Item) -> _Draft | None:
        """The note in hand where a word on its corner stands behind its distance and last on the line: "left 4 60, don't cut"."""
        current = self.current
        if current is None or current.direction is None or not self._runs_along(item) or item.key not in OF_THE_CORNER:
            return None
        if next(_behind(self.items, self.at), None) is not None:
            return None
        current.items.append(item)
        return current

    def _take_object(self, item: Item) -> None:
        self._note(item).objects += (CalledThing(item.key, "object", self.over),)
        self.over = ""

    def _take_side(self, item: Item) -> None:
        self._note(item).add_side(item.key)

    def _take_surface(self, item: Item) -> None:
        along = self._runs_along(item)
        draft = self.draft(item) if along else self._note(item)
        draft.items += [item] * along
        draft.objects += (CalledThing(item.key, "surface"),)

    def _take_state(self, item: Item) -> None:
        self._note(item).objects += (CalledThing(item.key, "state"),)

    def _take_mark(self, item: Item) -> None:
        if item.key == "page":
            return
        current = self.current
        if current is not None and current.closed and not current.items[-1].first_on_line:
            # "100 to finish": the distance leads to the line, which is a note of its own.
            self.close()
        self._note(item).marks += (item.key,)

    def _take_filler(self, item: Item) -> None:
        if self.current is not None:
            self.current.items.append(item)

    def _take_link(self, item: Item) -> None:
        if self.current is not None and self._last_kind() == "distance" and not item.first_on_line:
            # "40 and right five", "150 to crest": the metres say how far it is, the word leads on.
            self.current.items.append(item)
        else:
            self._gap(item, link=item.key)

    def _take_distance(self, item: Item) -> None:
        if self.current is not None and self.current.continues:
            self.current.continues = False
            self.current.continues_for = item.key
            self.current.items.append(item)
            return
        near, sign = self.items[max(self.at - 2, 0)], self.items[max(self.at - 1, 0)]
        if self.current is None or self.current.items[-1:] != [near] or not _is_range(near, sign, item):
            self._gap(item, distance_m=int(item.key))
            return
        self.current.items.append(item)
        # One that opens its line is that to the note above.
        owner = self.drafts[-2] if near.first_on_line else self.current
        owner.distance_m, owner.gap_span = (int(near.key) + int(item.key)) // 2, Span(near.span.start, item.span.end)

    def _gap(self, item: Item, *, link: str | None = None, distance_m: int | None = None) -> None:
        opens_line = item.first_on_line
        if self._last_kind() == "correction":
            self._reopen(item)
        draft = self.drafts[-1] if opens_line and self.drafts else self.draft(item)
        if draft.closed and not opens_line:
            self.close()
            draft = self.draft(item)
        if not draft.closed:
            draft.link, draft.distance_m, draft.gap_span, draft.corrected = link, distance_m, item.span, ()
        if opens_line:
            # The words stand on this line, so they are part of its note's text.
            self.close()
            self.draft(item).items.append(item)
        else:
            draft.items.append(item)

    def _take_unread(self, item: Item) -> None:
        self._note(item).unread.append(item.text)


def _behind(items: Sequence[Item], at: int) -> Iterator[Item]:
    """What follows an item on its line, without small words and marks."""
    for item in (items[n] for n in range(at + 1, len(items))):
        if item.line != items[at].line:
            return
        if item.kind not in ("blank", "filler", "remark"):
            yield item


def _with_maybe(key: str) -> tuple[str, bool]:
    """A term's name, and whether it holds a maybe: a language may have one word for "jump maybe"."""
    return (key.removesuffix(" maybe"), True) if key.endswith(" maybe") else (key, False)


def _is_range(near: Item, sign: Item, far: Item) -> bool:
    """ "100-120": one distance that is known so closely."""
    if near.kind != "distance" or sign.text not in RANGE_SIGNS:
        return False
    touching = near.span.end == sign.span.start and sign.span.end == far.span.start
    return touching and int(near.key) < int(far.key) <= WIDEST_RANGE * int(near.key)


# Small talk and the like are no part of a note.
_TAKERS: dict[str, Callable[[Builder, Item], None]] = {
    name.removeprefix("_take_").replace("_", " "): taker for name, taker in vars(Builder).items() if name.startswith("_take_")
}


def build_notes(items: list[Item], source: str, heads: Sequence[PageHead], habits: Habits) -> tuple[Note, ...]:
    """Puts the items together to notes, and writes the number of its note into each item. ``heads`` are where pages begin."""
    builder = Builder(items, habits)
    begins = {head.items.start: head for head in heads}
    of_no_note = {at for head in heads for at in head.items}
    last_at = 0
    for at, item in enumerate(items):
        builder.at = at
        builder.page += bool(builder.drafts) and "\f" in source[last_at : item.span.start]
        last_at = item.span.start
        if at in begins:
            builder.begin_page(begins[at].number)
        if at in of_no_note:
            _leave_to_the_title(item)
        else:
            # A note may follow on the line that begins its page.
            item.first_on_line |= at - 1 in of_no_note
            _take_one(builder, items, at)
    _double_corners(builder.drafts)
    if builder.habits.stops:
        _share_grades(builder.drafts)
    return _numbered(builder.drafts, builder.pages, source)


def _leave_to_the_title(item: Item) -> None:
    """Words beside the number of a page name the stage; nobody is asked about them."""
    if item.kind == "unread" and not item.text.isdecimal():
        item.kind, item.key = "title", ""


def _take_one(builder: Builder, items: Sequence[Item], at: int) -> None:
    """Takes one item to the note where it belongs."""
    item, following = items[at], items[at + 1 : at + 3]
    if item.kind == "remark":
        _take_remark(builder, item, goes_on=any(i.line == item.line and i.kind != "remark" for i in following))
    elif item.kind == "unread" and following and following[0].line != item.line and builder.current:
        # Behind the distance and last on its line: it is this note's all the same.
        builder.keep(item)
    else:
        builder.take(item)


def _take_remark(builder: Builder, item: Item, *, goes_on: bool) -> None:
    """A remark stands with the note on its line: the one in front of it, else the one that ``goes_on`` behind it, else the last above."""
    drafts = builder.drafts
    on_line = drafts[-1] if drafts and any(i.line == item.line for i in drafts[-1].items) else None
    if on_line is None and (goes_on or not drafts):
        builder.ahead.append(item)
    else:
        (on_line or drafts[-1]).add_remark(item)


def _numbered(drafts: Sequence[_Draft], pages: Sequence[int], source: str) -> tuple[Note, ...]:
    """The notes of the drafts that hold anything, each with its number in the book and its line on its page."""
    notes: list[Note] = []
    first_lines: dict[int, int] = {}
    for draft, page in zip(drafts, pages, strict=True):
        if not draft.items:
            continue
        for item in draft.items:
            item.note = len(notes)
        # Remarks at either end stand outside of what is called, so that nothing that changes the note touches them.
        called = [i for i in draft.items if i.kind != "remark"] or draft.items
        span = Span(min(i.span.start for i in called), max(i.span.end for i in called))
        # Lines count from the first note of each page, as in the paper book.
        before = first_lines.setdefault(page, draft.line - 1)
        notes.append(_finished(draft, page, span, source, index=len(notes), line=draft.line - before))
    return tuple(notes)


def _double_corners(drafts: Sequence[_Draft]) -> None:
    """Gives the first corner of a double the side and grade of the second; in place."""
    for first, second in pairwise(drafts):
        if first.double and first.direction is None and second.direction is not None and second.grade is not None:
            first.direction, first.grade, first.borrows = second.direction, second.grade, "corner"


def _share_grades(drafts: Sequence[_Draft]) -> None:
    """ "Into right left 3": two sides with one grade behind them are two corners of that grade; in place."""
    for first, second in pairwise(drafts):
        bare = [i.kind for i in first.items if i.kind not in ("blank", "filler", "link", "remark")] == ["direction"]
        if bare and not first.closed and second.direction is not None and second.grade and _stand_together(first, second):
            first.grade, first.borrows = second.grade, "grade"


def _stand_together(first: _Draft, second: _Draft) -> bool:
    """Whether a corner of side and grade follows directly on the same line."""
    telling = [i for i in second.items if i.kind not in ("blank", "filler", "remark")]
    if first.line != second.line or [i.kind for i in telling[:2]] != ["direction", "grade"]:
        return False
    return first.items[-1].span.end + 2 > telling[0].span.start


def _named(items: Iterable[Item]) -> Iterator[str]:
    """The unread words behind "at", "by" or "past", up to what is no such word: they name a place, whatever they mean."""
    at_place = False
    for item in items:
        if item.kind == "unread" and at_place:
            yield item.text
        elif item.kind == "over":
            at_place = item.key in AT_A_PLACE
        elif item.kind not in ("unread", "filler", "object", "side"):
            at_place = False


def _finished(draft: _Draft, page: int, span: Span, source: str, *, index: int, line: int) -> Note:
    return Note(
        index=index,
        page=page,
        line=line,
        text=source[span.start : span.end],
        span=span,
        direction=draft.direction,
        grade=draft.grade,
        length=draft.length,
        continues_for=draft.continues_for,
        changes=draft.changes,
        cautions=draft.cautions,
        features=draft.features,
        line_on_road=draft.line_on_road,
        objects=draft.objects,
        link=draft.link,
        distance_m=draft.distance_m,
        marks=draft.marks,
        unread=tuple(draft.unread),
        named=tuple(_named(draft.items)),
        remarks=tuple(draft.remarks),
        first_called=draft.first_called,
        borrows=draft.borrows,
        direction_span=draft.direction_span,
        grade_span=draft.grade_span,
        gap_span=draft.gap_span,
    )
