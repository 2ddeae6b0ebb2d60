"""How each note of the book was said: as written, otherwise, not at all, or twice; each with a probability."""

from __future__ import annotations

import math
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from mirkle.core.notes.model import Note, Reading
from mirkle.core.notes.tokens import Word
from mirkle.core.speech.book_alignment import BookAlignment, Place, Visit
from mirkle.core.speech.timed_words import TimedWord

# Logits of a note being said otherwise: what speaks for it, from a sure contradiction to a word that is missing.
# Fitted by bench/fit_repairs.py.
OTHERWISE = {"": -5.31, "side": 4.16, "number": 5.33, "word": -0.15, "confused": 1.99, "apart": 7.21, "added": 2.26, "lost": 1.39}
# A note that nobody seems to have said may have been lost by the recogniser: the share of them that were truly left out.
NOT_SAID, NOT_SAID_AMONG_OTHERS = 0.75, 0.95
MOST_SURE = 0.99
# A note is said twice where this many of its places are heard again, or all of them.
TWICE = 2
# What a sound alone tells of a note.
BY_SOUND = ("heard", "perhaps", "not-heard")
# Visits behind the last note that are still no calls: remarks after the finish quote a note or two.
REMARKS = 3
# With this many of its words heard, a note was hardly named in passing.
SAYS_MUCH = 3


@dataclass(frozen=True)
class Spoken:
    """How a note of the book was said. ``said_as`` is ``written``, ``otherwise``, ``not-said`` or ``twice``; by the sound alone, which
    tells when and not what, ``heard``, ``perhaps`` (heard, and its time in doubt) or ``not-heard``.

    ``note`` is the said note that holds its words, as an index of what was read from them; ``words`` is what was said;
    the times are those of its first and last word, on the words' clock. ``late_words`` is how many words of later notes
    had been said before it. ``read_over`` is how it was read over while the car stood ahead of the start, where that was otherwise than
    written: its words count, its time doesn't.
    """

    said_as: str
    probability: float
    note: int | None = None
    words: str = ""
    from_s: float = math.nan
    to_s: float = math.nan
    uncertainty_s: float = math.nan
    late_words: int = 0
    read_over: ReadOver | None = None

    @property
    def was_said(self) -> bool:
        """Whether it was said at all."""
        return self.said_as not in ("not-said", "not-heard")


@dataclass(frozen=True)
class ReadOver:
    """A note as it was read over ahead of the start, and how that was said."""

    note: Note
    how: Spoken


def stretch_of(
    against: BookAlignment, count: int, *, heard_go: bool, corrections: frozenset[int] = frozenset()
) -> tuple[int | None, int | None, frozenset[int]]:
    """The first and the last word of the calls by the book, ``None`` where it can't tell, and words that only say a note again.

    ``count`` is the number of words, ``corrections`` are those that correct what was said before them. Without a "go" the rehearsal ends
    where the first notes are read anew.
    """
    visits = [v for v in against.visits if v.heard]
    first = last = None
    if visits and not heard_go:
        visits = visits[_begun(visits, count) :]
        first = visits[0].first
    final = max((p.note for p in against.places), default=0)
    at_end = max((n for n, v in enumerate(visits) if v.note == final), default=None)
    if at_end is not None and sum(len(v.heard) >= SAYS_MUCH for v in visits[at_end + 1 :]) <= REMARKS:
        last = visits[at_end].last
        visits = visits[: at_end + 1]
    return first, last, frozenset(_said_again(visits, against, corrections))


def _begun(visits: Sequence[Visit], count: int) -> int:
    """Where the calls begin among what was heard, without a "go": where the first notes are said anew, in the first third of the words."""
    anew = [
        number
        for number, (before, visit) in enumerate(pairwise(visits), start=1)
        if visit.note <= 1 and before.note > visit.note and visit.first < count // 3
    ]
    return anew[-1] if anew else 0


def _said_again(visits: Sequence[Visit], against: BookAlignment, corrections: frozenset[int]) -> Iterator[int]:
    """The words that only say a note again."""
    for of_note in _by_note(visits).values():
        main = _main(of_note, corrections)
        # What was corrected stays with what it was corrected to: both are one call.
        if _follows(main, corrections):
            continue
        for visit in of_note:
            if visit is not main and _tells(visit, against):
                yield from (h.first + n for h in visit.heard for n in range(h.words))


def _by_note(visits: Sequence[Visit]) -> dict[int, list[Visit]]:
    out: dict[int, list[Visit]] = {}
    for visit in visits:
        out.setdefault(visit.note, []).append(visit)
    return out


def _main(visits: Sequence[Visit], corrections: frozenset[int]) -> Visit:
    """The time that a note was said as it was meant: behind a correction, else most fully; the first of those."""
    return max(visits, key=lambda v: (_follows(v, corrections), len(v.heard)))


def _follows(visit: Visit, corrections: frozenset[int]) -> bool:
    """Whether a note was said again directly behind a word that corrects."""
    return visit.first - 1 in corrections


def _tells(visit: Visit, against: BookAlignment) -> bool:
    """Whether a visit is more than a number or a link that happens to be the note's."""
    kinds = {against.places[h.place].kind for h in visit.heard}
    return len(visit.heard) >= min(TWICE, against.sizes[visit.note]) and bool(kinds - {"distance", "link", "filler"})


@dataclass(frozen=True)
class CalledWords:
    """The ``words`` that were aligned with a book, and the ``stream`` that they are of, with its times.

    ``aside`` are the characters at which words begin that were said before the start or after the stop, ``corrections`` the numbers of the
    words that correct what was said before them.
    """

    words: Sequence[Word]
    stream: Sequence[TimedWord]
    corrections: frozenset[int]
    aside: frozenset[int] = frozenset()


def _starts(visit: Visit, words: Sequence[Word]) -> Iterator[int]:
    """Where the words of a visit begin in the source."""
    return (words[h.first].span.start for h in visit.heard)


def spoken_of(book: Reading, against: BookAlignment, said: Reading, called: CalledWords) -> tuple[Spoken, ...]:
    """For each note of the book how it was said; ``said`` is what was read from the words, note by note."""
    words = called.words
    visits = [v for v in against.visits if v.heard and _tells(v, against) and called.aside.isdisjoint(_starts(v, words))]
    by_note = _by_note(visits)
    calls = _Calls(against, words, said, {t.word.span.start: t for t in called.stream}, visits)
    out = []
    for note in book.notes:
        of_note = by_note.get(note.index)
        if of_note:
            out.append(calls.spoken(note.index, _main(of_note, called.corrections), twice=len(of_note) > 1))
        else:
            among = {note.index - 1, note.index + 1} <= by_note.keys()
            out.append(Spoken("not-said", NOT_SAID_AMONG_OTHERS if among else NOT_SAID))
    return tuple(out)


class _Calls:
    """What was said, word by word, to tell of each note how it was called."""

    def __init__(
        self, against: BookAlignment, words: Sequence[Word], said: Reading, time_of: Mapping[int, TimedWord], visits: Sequence[Visit]
    ) -> None:
        self.against, self.words, self.time_of = against, words, time_of
        self.note_at = {t.span.start: t.note for t in said.pieces if t.note is not None}
        every = [(v.note, h.first, h.words) for v in visits for h in v.heard]
        self.note, self.first, self.count = np.array(every, dtype=int).reshape(-1, 3).T

    def spoken(self, note: int, main: Visit, *, twice: bool) -> Spoken:
        """How a note was said."""
        # A distance ahead of the first corner is said before it is called.
        places = self.against.places
        called = next((h for h in main.heard if places[h.place].kind not in ("distance", "link")), main.heard[0])
        start, end = (self.time_of[self.words[at].span.start] for at in (called.first, main.last))
        said_as, sure = _said_as(main, self.against, twice=twice)
        found = (self.note_at.get(self.words[h.first].span.start) for h in main.heard)
        holders = Counter(n for n in found if n is not None).most_common(1)
        return Spoken(
            said_as,
            sure,
            holders[0][0] if holders else None,
            " ".join(w.text for w in self.words[main.first : main.last + 1]),
            start.at_s,
            end.end_s,
            start.uncertainty_s,
            int(self.count[(self.note > note) & (self.first < main.first)].sum()),
        )


def merely_shorter(written: Note, said: Note) -> bool:
    """Whether all that was said of a note is written there too: words were left out or not heard, and nothing else was called."""
    alike = all(
        spoken in (None, own)
        for spoken, own in (
            (said.direction, written.direction),
            (said.grade, written.grade),
            (said.length_terms or None, written.length_terms),
            (said.distance_m, written.distance_m),
            (said.link, written.link),
        )
    )
    within = all(
        set(getattr(said, name)) <= set(getattr(written, name)) for name in ("features", "cautions", "objects", "line_on_road", "marks")
    )
    changes = all(any(change.begins(own) for own in written.changes) for change in said.changes)
    return alike and within and changes and not said.unread


def _said_as(visit: Visit, against: BookAlignment, *, twice: bool) -> tuple[str, float]:
    """Whether a note was said as written, twice, or otherwise, and how sure that is: no words are heard so well that nothing is left to
    doubt."""
    otherwise = min(max(_otherwise(visit, against), 1.0 - MOST_SURE), MOST_SURE)
    if otherwise >= 0.5:
        return "otherwise", otherwise
    return ("twice" if twice else "written"), 1.0 - otherwise


def differing(written: Note, said: Note | None, spoken: Spoken) -> tuple[str, str]:
    """What is written and what was said, as short as it differs: the corner, else the distance, else the whole note."""
    whole = " ".join(written.text.split()), spoken.words
    if said is None:
        return whole
    if written.direction != said.direction or (said.grade is not None and written.grade != said.grade):
        return corner_words(written), corner_words(said)
    for old, new in ((written.changes, said.changes), (written.line_on_road, said.line_on_road)):
        if old != new and new:
            return ", ".join(map(str, old)) or corner_words(written), ", ".join(map(str, new))
    if said.distance_m is not None and written.distance_m not in (None, said.distance_m):
        return f"{written.distance_m} m", f"{said.distance_m} m"
    return whole


def corner_words(note: Note) -> str:
    """A note's side and grade."""
    return f"{note.direction.value if note.direction else ''} {note.grade or ''}".strip()


def _otherwise(visit: Visit, against: BookAlignment) -> float:
    """How probable it is that a note was said otherwise than it is written."""
    found = otherwise_features(visit, against)
    logit = sum(OTHERWISE[name] * value for name, value in found.items())
    return 1.0 / (1.0 + math.exp(-logit))


def _other(place: Place) -> str:
    """What was said otherwise where another word was said at this place of the book."""
    if place.key.isdecimal() or place.kind == "grade":
        return "number"
    return "side" if place.kind in ("direction", "line") else "word"


def otherwise_features(visit: Visit, against: BookAlignment) -> dict[str, float]:
    """What speaks for a note having been said otherwise, by the names of the weights."""
    out: dict[str, float] = defaultdict(float, {"": 1.0})
    for h in visit.heard:
        place = against.places[h.place]
        if h.how == "other":
            out[_other(place)] += 1
            out["apart"] += h.unlike
        elif h.how in ("confused", "part"):
            out["confused"] += 1
    out["added"] = len([w for w in visit.added if visit.first < w < visit.last and w in against.telling])
    out["lost"] = against.sizes[visit.note] - len({h.place for h in visit.heard})
    return dict(out)
