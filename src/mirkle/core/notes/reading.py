"""From text to notes: the language and the hand's own order, then words to terms, then terms to notes.

The grammar is that of the trade: ``[alert] corner-or-feature [shape] [features] [line] [objects] [distance | link]``.
Three habits are found from the text itself: which language it is, whether the direction or the grade stands first, and
whether the distance closes a note or opens the next line. Nothing is dropped: what is not understood stays in its note
as ``unread``, and every character of the source belongs to one token.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import groupby, pairwise

from mirkle.core.errors import UnusableNotes
from mirkle.core.messages import Message, message
from mirkle.core.notes.building import Habits, build_notes
from mirkle.core.notes.grading import half_of
from mirkle.core.notes.items import Item
from mirkle.core.notes.language import HALF_SIGNS, Language
from mirkle.core.notes.lattice import Choice, Reader
from mirkle.core.notes.layout import cells_joined, laid_out, torn_lines_joined
from mirkle.core.notes.left_unread import leave_unread
from mirkle.core.notes.model import Reading, Span, Token
from mirkle.core.notes.page_heads import page_heads
from mirkle.core.notes.remarks import calls_set_apart, remarks_in
from mirkle.core.notes.repairs import Settled
from mirkle.core.notes.shorthand import is_grade_figure
from mirkle.core.notes.signs import arrows_as_sides, halves_joined, points_left, signs_of
from mirkle.core.notes.tokens import Word, check_length, shorthand_parted, split_words


def read_notes(
    source: str,
    languages: Sequence[Language],
    *,
    order: str | None = None,
    like: Reading | None = None,
    corners_needed: bool = True,
    leave: frozenset[str] = frozenset(),
) -> Reading:
    """The notes in a written text, a line or several notes a line, in the language that fits it best.

    Parameters
    ----------
    source : the notes as written; ``\\n`` ends a line; a line with only "page N" or a form feed begins a page
    order : ``direction-first`` or ``grade-first``; found from the text if left out
    like : the book that a part is of: its order and its signs are those of this text, too
    corners_needed : whether a text without a single corner is refused
    leave : words that shall stay as they are

    Nothing is repaired here: who types a word means it, so one that is not known stays as it is and is asked about.

    Raises
    ------
    UnusableNotes
        Not one corner could be read in it.
    """
    words = split_words(source)
    check_length(words)
    language = best_language(words, languages)
    arrows = like.signs.arrows_are_sides if like is not None else points_left(words)
    words = arrows_as_sides(words, language, arrows)
    language = graded_as(words, language)
    languages = [language if la.code == language.code else graded_as(words, la) for la in languages]
    source, joined = cells_joined(source, language)
    if joined:
        words = arrows_as_sides(split_words(source), language, arrows)
    words = shorthand_parted(words, language)
    signs = like.signs if like is not None else signs_of(source, words, language, arrows_are_sides=arrows)
    remarks = remarks_in(source, language, gaps_in_brackets=signs.gaps_in_brackets)
    layout = laid_out(source, words, language, remarks, signs)
    called, torn = torn_lines_joined(halves_joined(source, layout.words, language, signs), language)
    order = order or (like.order if like is not None else order_of(called, language))
    readers = {la.code: Reader(la, order == "grade-first", spoken=False, leave=leave) for la in languages}
    spoken_in, mixed = _languages_of_lines(called, language, languages)
    items = _written_items(called, [readers[code] for code in spoken_in])
    aside = [Item(a.kind, "", a.word.span, a.word.line, False, a.word.text) for a in layout.aside]
    aside.sort(key=lambda i: i.span.start)
    reading = assemble(source, items, language, order, aside, written=True)
    apart = calls_set_apart(source, remarks, language)
    reading = replace(reading, doubts=(*layout.doubts, *torn, *joined, *mixed, *_first_set_apart(apart)), signs=signs)
    if corners_needed and not reading.corners:
        raise UnusableNotes(
            "no corner could be read in this text", mend="write one note a line, such as “left 4 long 80” or “4 left long 80”"
        )
    return reading


def _first_set_apart(apart: Sequence[str]) -> tuple[Message, ...]:
    """A doubt about the first of the remarks that could be calls."""
    if not apart:
        return ()
    return (message("{0} is a remark and is not called. Write it without brackets if you call it.", apart[0]),)


def assemble(
    source: str, items: list[Item], language: Language, order: str, aside: Sequence[Item] = (), *, written: bool = False
) -> Reading:
    """The reading that a list of items makes, and what stands ``aside``; the items must lie in the order of the source."""
    _part_shapes_from_halves(items)
    _join_halves(items)
    distance_first = _distance_opens_the_line(items)
    habits = habits_of(items, written=written)
    items = sorted([*_parted(items, aside), *aside], key=lambda i: i.span.start)
    notes = build_notes(items, source, page_heads(items), habits)
    return Reading(
        source=source,
        notes=notes,
        pieces=tuple(
            Token(i.span, source[i.span.start : i.span.end], i.kind, i.key, i.note, i.read_as, i.sure, i.why, i.offer, i.how) for i in items
        ),
        language=language.code,
        order=order,
        distance_first=distance_first,
    )


def best_language(words: Sequence[Word], languages: Sequence[Language]) -> Language:
    """The language that knows most of the words."""

    def known(language: Language) -> int:
        said = language.own_words
        return sum(w.text in said for w in words)

    return max(languages, key=known)


def graded_as(words: Sequence[Word], language: Language) -> Language:
    """The language as this text grades: by words ("slow left") where more of its sides have a word for a grade beside them than a
    number."""
    ends, numbers = language.word_grade_ends, language.small_numbers
    by_words = by_numbers = 0
    for at, word in enumerate(words):
        if word.text not in language.directions:
            continue
        around = [w.text for w in words[max(at - 1, 0) : at + 3] if w.line == word.line]
        number = any(t in numbers or is_grade_figure(t) for t in around)
        by_numbers += number
        by_words += not number and not ends.isdisjoint(around)
    return language.grading_by_words if by_words > by_numbers else language


def order_of(words: Sequence[Word], language: Language) -> str:
    """``direction-first`` or ``grade-first``, by which side of the directions the small numbers stand on."""
    directions, numbers = language.directions, language.small_numbers
    if not language.word_grades:
        numbers |= language.pieces_of_word_grades

    def grades(word: Word) -> bool:
        return word.text in numbers or is_grade_figure(word.text)

    after = before = 0
    for first, second in pairwise(words):
        if first.line == second.line:
            after += first.text in directions and grades(second)
            before += second.text in directions and grades(first)
    return "grade-first" if before > after else "direction-first"


def _languages_of_lines(words: Sequence[Word], main: Language, languages: Sequence[Language]) -> tuple[list[str], tuple[Message, ...]]:
    """The language of each line, by its code, and a sentence where some are in another than most: some crews write in two.

    A line is in another language where that has its side and knows more of its words.
    """
    others = [la for la in languages if la.code != main.code]
    codes = [
        _language_of([w.text for w in group if w.text[0].isalpha()], main, others).code for _, group in groupby(words, key=lambda w: w.line)
    ]
    counts = Counter(code for code in codes if code != main.code)
    names = {la.code: la.name for la in others}
    return codes, tuple(message("Lines read in {0}: {1}.", names[code], count) for code, count in counts.items())


def _language_of(line: Sequence[str], main: Language, others: Sequence[Language]) -> Language:
    """The language of a line: of those whose side stands there the one that knows most of its words, if it knows more than the main one."""

    def known(language: Language) -> int:
        return sum(w in language.own_words for w in line)

    rivals = [la for la in others if known(la) > known(main) and la.directions & set(line)]
    return max(rivals, key=known, default=main)


def _written_items(words: list[Word], readers: Sequence[Reader]) -> list[Item]:
    """The items of all lines, each by its own reader."""
    items: list[Item] = []
    read: dict[tuple[object, ...], list[Choice]] = {}
    lines = [list(group) for _, group in groupby(words, key=lambda w: w.line)]
    for line, reader in zip(lines, readers, strict=True):
        # Books repeat themselves; each line is read once.
        key = (reader.language.code, *((w.text, w.touches) for w in line))
        if key not in read:
            read[key] = reader.best([w.text for w in line], [w.touches for w in line])
        items += items_of(line, read[key])
    leave_unread(items, {reader.language.code: reader.language for reader in readers}.values())
    return items


def _parted(items: Sequence[Item], aside: Sequence[Item]) -> list[Item]:
    """The items, each in two parts where a remark stands within it: "don't (look) cut" is one term and two pieces of text."""
    out: list[Item] = []
    starts = [a.span.start for a in aside]
    for item in items:
        out.append(item)
        last = item
        for remark in aside[bisect_right(starts, item.span.start) : bisect_left(starts, item.span.end)]:
            behind = Item("filler", "", Span(remark.span.end, last.span.end), last.line, False, "", joined_to=item)
            last.span = Span(last.span.start, remark.span.start)
            out.append(behind)
            last = behind
    return out


def items_of(words: Sequence[Word], choices: Sequence[Choice], settled: Settled | None = None) -> list[Item]:
    """The items that a reading of the words makes, in order; ``settled`` is what is to be believed of what was said."""
    items: list[Item] = []
    at, line = 0, -1
    for choice in choices:
        begin, own = at, words[at : at + choice.taken]
        at += choice.taken
        first_on_line, line = settled is None and own[0].line != line, own[0].line
        text = own[0].text if choice.taken == 1 else " ".join(w.text for w in own)
        for (kind, key), span in zip(choice.parts, _spans_of(choice, own), strict=True):
            item = Item(_kind_of_item(kind, spoken=settled is not None), key, span, line, first_on_line, text)
            if settled is not None:
                _tell(item, choice, key, settled, begin)
            items.append(item)
            first_on_line = False
    return items


def _spans_of(choice: Choice, words: Sequence[Word]) -> Iterator[Span]:
    """Where each part of a choice stands: a word each, or as many letters of one as its key has, the last one up to the end."""
    if len(choice.parts) == choice.taken > 1:
        yield from (word.span for word in words)
        return
    start = words[0].span.start
    for kind, key in choice.parts[:-1]:
        end = start + (1 if (kind, key[:1].isdigit()) in _ONE_LETTER else len(key))
        yield Span(start, end)
        start = end
    yield Span(start, words[-1].span.end)


def _kind_of_item(kind: str, *, spoken: bool) -> str:
    """What a part of a choice becomes: what is left unread in one way or another is unread, and nobody talks in writing."""
    if kind in ("unread word of theirs", "unread figure", "asked"):
        return "unread"
    if kind in ("chat", "incident", "go") and not spoken:
        return "unread"
    return "filler" if kind == "lead" else kind


# How sure a word is that stands where the book has it.
BY_BOOK = 0.99
# "HL": the first of the two letters is the side, or the grade that has a name.
_ONE_LETTER = (("direction", False), ("grade", False))


def _tell(item: Item, choice: Choice, key: str, settled: Settled, at: int) -> None:
    """Tells an item how it was repaired, or what it might have been; in place."""
    if choice.how:
        item.read_as = choice.read_as if len(choice.parts) == 1 else key
        item.why, item.how, item.sure = choice.why, choice.how, settled.sure.get(at, BY_BOOK - choice.unlike / 10)
    item.offer = settled.offers.get(at)


def _part_shapes_from_halves(items: Sequence[Item]) -> None:
    """ "Left five, tight": a shape of that corner with a crew that says no halves, else half a grade; in place.

    A crew says halves if it says plus or minus, puts "tight" ahead of its grades, or says it behind one grade in eight.
    """
    telling = [i for i in items if i.kind not in ("blank", "filler")]
    halves = [n for n, i in enumerate(telling) if i.kind == "half"]
    grades = sum(i.kind == "grade" for i in telling)
    if len(halves) <= SHARE_OF_HALVES * max(grades, FEW_GRADES) and all(_is_shape_behind_a_grade(telling, n) for n in halves):
        for number in halves:
            telling[number].kind = "change"


def _is_shape_behind_a_grade(telling: Sequence[Item], at: int) -> bool:
    return at > 0 and telling[at].key in _SHAPES and _shapes_what_is_called(telling[at - 1 : at + 2])


def _shapes_what_is_called(around: Sequence[Item]) -> bool:
    """Whether a word stands behind a corner, of the three items around it; "left tight four" has its grade behind the word."""
    before, _, *behind = around
    waits = behind and behind[0].kind == "grade" and behind[0].line == before.line
    return before.kind == "grade" or (before.kind == "direction" and not waits)


_SHAPES = ("tight", "wide")
SHARE_OF_HALVES, FEW_GRADES = 1 / 8, 10


def _join_halves(items: list[Item]) -> None:
    """Gives plus and minus to the grade beside them, one half a grade; in place."""
    joined: list[Item] = []
    waiting: Item | None = None
    for item in items:
        if item.kind == "half" and (grade := _grade_before(joined, item)) is not None:
            again = bool(half_of(grade.key))
            grade.key += "" if again else HALF_SIGNS[item.key]
            item.joined_to = grade
            if grade is joined[-1] and not again:
                grade.span = Span(grade.span.start, item.span.end)
                continue
            # "5 right plus", or one said twice: the half stands behind the pair, and stays a word of its own in the text.
            item.kind = "filler"
        elif item.kind == "half":
            # "Tight four" is half a grade ahead of it; a sign there, as in "80-R4", is none.
            waiting, item.kind = item if item.text[0].isalpha() else None, "blank"
        elif item.kind in ("grade", "change grade") and waiting is not None:
            item.key += HALF_SIGNS[waiting.key]
            waiting.joined_to = item
        if item.kind not in ("blank", "direction"):
            waiting = None
        joined.append(item)
    items[:] = joined


def _grade_before(joined: Sequence[Item], half: Item) -> Item | None:
    """The grade on the same line that a half stands behind, or behind its pair of grade and side."""
    kinds = [i.kind for i in joined[-2:]]
    if kinds[-1:] and kinds[-1] in ("grade", "change grade"):
        grade = joined[-1]
    elif kinds == ["grade", "direction"]:
        grade = joined[-2]
    else:
        return None
    return grade if grade.line == half.line else None


def habits_of(items: Sequence[Item], *, written: bool) -> Habits:
    """On which side of their corners this crew puts alerts and lengths.

    A line with one corner tells, as does what stands beside a distance: it opens or closes a note. An alert stands in front of what it
    warns of unless the text shows the opposite, a length behind its corner.
    """
    sides = Counter(_sides_of_corners(items, written=written))
    in_front = {
        kind
        for kind in ("caution", "length")
        if sides[kind, "front"] > sides[kind, "behind"] or (kind == "caution" and not sides[kind, "behind"])
    }
    return Habits(frozenset(in_front), stops=written)


def _sides_of_corners(items: Sequence[Item], *, written: bool) -> Iterator[tuple[str, str]]:
    """Each alert and length beside one corner, with the side that it stands on; behind a change it is the change's."""
    telling = [i for i in items if i.kind not in ("blank", "filler", "remark")]
    lines = [list(group) for _, group in groupby(telling, key=lambda i: i.line)] if written else _between_gaps(telling)
    for line in lines:
        corners = [n for n, i in enumerate(line) if i.kind == "direction"]
        if len(corners) == 1:
            yield from _beside(line, corners[0])


def _beside(line: Sequence[Item], corner: int) -> Iterator[tuple[str, str]]:
    for n, item in enumerate(line):
        if item.kind in ("caution", "length") and n < corner:
            yield item.kind, "front"
        elif item.kind in ("caution", "length") and line[n - 1].kind not in ("change", "change to", "change grade"):
            yield item.kind, "behind"


def _between_gaps(items: Sequence[Item]) -> list[list[Item]]:
    """What was said between two distances or links."""
    out: list[list[Item]] = [[]]
    for item in items:
        out[-1].append(item)
        if item.kind in ("distance", "link"):
            out.append([])
    return out


def _distance_opens_the_line(items: list[Item]) -> bool:
    """Whether this hand writes the distance ahead of the note: "80 left 4" rather than "left 4 80"."""
    opens = closes = 0
    for at, item in enumerate(items):
        gap = item.kind in ("distance", "link")
        last_on_line = at + 1 == len(items) or items[at + 1].line != item.line
        opens += gap and item.first_on_line and not last_on_line
        closes += gap and last_on_line and not item.first_on_line
    return opens > closes
