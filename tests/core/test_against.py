"""What was said read against the book: the search itself, and what it says of each note."""

import heapq

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from mirkle.core.notes.model import Reading
from mirkle.core.speech import book_alignment
from mirkle.core.speech.book_alignment import align
from mirkle.core.speech.delivery import Spoken
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.notes.text import parse_notes
from mirkle.files.speech.timed_text import parse_calls

ENGLISH = shipped_languages()[0]
BOOK = """start 80
caution right 5 long don't cut stones inside into
left 4 tightens 3 over crest keep left 120
right 6 plus 60
left hairpin 40
right 3 half long keep right over jump 150
left 5 60
finish"""
SAID = [
    "start eighty",
    "caution right five long don't cut stones inside into",
    "left four tightens three over crest keep left one twenty",
    "right six plus sixty",
    "left hairpin forty",
    "right three half long keep right over jump one fifty",
    "left five sixty",
    "finish",
]


def book(text: str = BOOK) -> Reading:
    return parse_notes(text.encode(), name="book")


def said(lines: list[str], text: str = BOOK) -> tuple[Spoken, ...]:
    calls = "[0:02] three two one go\n" + "".join(f"[0:{10 + 5 * n}] {line}\n" for n, line in enumerate(lines))
    return parse_calls(calls.encode(), name="calls", book=book(text)).spoken


def changed(at: int, line: str | None) -> list[str]:
    """The words with one line said otherwise, or left out."""
    return [new for n, old in enumerate(SAID) if (new := line if n == at else old) is not None]


def test_what_is_said_as_written_is_so_whatever_harmed_it() -> None:
    assert [s.said_as for s in said(SAID)] == ["written"] * 8
    harmed = [
        "start ady",
        "question write fife lung dont cat stones in side in to",
        "lift for titans tree of a chest keep lift won twenty",
        "ride sicks plush 16",
        "left happen 400",
        "right free half along keep write over chump one fifty",
        "laughed five sixty",
        "finish",
    ]
    assert [s.said_as for s in said(harmed)] == ["written"] * 8


@pytest.mark.parametrize(
    ("at", "line", "note", "said_as"),
    [
        (3, "left six plus sixty", 3, "otherwise"),
        (3, "right five plus sixty", 3, "otherwise"),
        (4, "left three forty", 4, "otherwise"),
        (2, "left four tightens two over crest keep left one twenty", 2, "otherwise"),
        (2, "left four tightens three over crest keep right one twenty", 2, "otherwise"),
        (1, "caution right five long cut stones inside into", 1, "otherwise"),
        (6, "left five two hundred", 6, "otherwise"),
        (3, None, 3, "not-said"),
        (4, "left hairpin forty left hairpin forty", 4, "twice"),
        # Small words that were lost are no contradiction.
        (1, "caution right five long don't cut stones into", 1, "written"),
        (3, "right six plus sixty we left some time there", 3, "written"),
    ],
)
def test_how_a_note_was_said(at: int, line: str | None, note: int, said_as: str) -> None:
    spoken = said(changed(at, line))
    assert spoken[note].said_as == said_as
    assert spoken[note].probability > 0.7
    assert all(s.said_as == "written" for s in spoken if s is not spoken[note])


def test_a_late_catch_up_is_counted_in_words() -> None:
    late = [*SAID[:3], SAID[4], SAID[3], *SAID[5:]]
    spoken = said(late)
    assert [s.said_as for s in spoken] == ["written"] * 8
    assert [s.late_words for s in spoken] == [0, 0, 0, 3, 0, 0, 0, 0]


def test_words_may_begin_anywhere_and_leave_out_a_stretch() -> None:
    assert [s.said_as for s in said(SAID[3:])] == ["not-said"] * 3 + ["written"] * 5
    skipping = said([*SAID[:2], *SAID[5:]])
    assert [s.said_as for s in skipping] == ["written"] * 2 + ["not-said"] * 3 + ["written"] * 3


def test_a_rehearsal_says_nothing_twice() -> None:
    calls = f"[0:02] {SAID[0]} {SAID[1]} {SAID[2]}\n[0:15] five four three two one go\n" + "".join(
        f"[0:{20 + 4 * n}] {line}\n" for n, line in enumerate(SAID)
    )
    speech = parse_calls(calls.encode(), name="calls", book=book())
    assert [s.said_as for s in speech.spoken] == ["written"] * 8
    assert all(w.role == "before" for w in speech.words[:20])


def test_a_crew_that_says_the_grade_ahead_of_what_it_writes_behind() -> None:
    turned = [
        line.replace("right five", "five right")
        .replace("left four", "four left")
        .replace("left five", "five left")
        .replace("right six plus", "six plus right")
        .replace("right three", "three right")
        for line in SAID
    ]
    assert [s.said_as for s in said(turned)] == ["written"] * 8


WORDS = ["left", "right", "four", "five", "60", "over", "crest", "chest", "long", "zorbl", "sixteen", "into", "4", "460"]


@settings(max_examples=40, deadline=None)
@given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=9))
def test_the_search_finds_the_cheapest_way_there_is(words: list[str]) -> None:
    """Dijkstra's algorithm over the same moves, written out one by one, is the reference."""
    reading = book("left 4 over crest 60\nright 5 long into\nleft 5 60")
    places = book_alignment.places_of(reading, order="direction-first")
    sounds = book_alignment._Sounds(places, ENGLISH)
    sounds.listen(words)
    search = book_alignment._Search(places)
    table = search.rows(words, sounds)
    assert table[-1].min() == pytest.approx(_dijkstra(words, places, sounds, search))


def _dijkstra(words: list[str], places, sounds, search) -> float:  # type: ignore[no-untyped-def]
    count, begins = len(places), [int(b) for b in search.begins]
    queue = [(min(book_alignment.PER_BEFORE * n, book_alignment.MOST_SKIP), 0, b) for n, b in enumerate(begins)]
    heapq.heapify(queue)
    known: dict[tuple[int, int], float] = {}
    while queue:
        cost, at, place = heapq.heappop(queue)
        if (at, place) in known:
            continue
        known[at, place] = cost
        if at == len(words):
            return cost
        if place < count:
            heapq.heappush(queue, (cost + search.left_out[place], at, place + 1))
        if place:
            own = max(n for n, b in enumerate(begins) if b < place)
            for note, begin in enumerate(begins):
                ahead = book_alignment.SKIP + book_alignment.PER_SKIPPED * (note - own)
                back = book_alignment.AGAIN + book_alignment.PER_BACK * (own - note)
                step = min(ahead if note > own else back, book_alignment.MOST_SKIP)
                heapq.heappush(queue, (cost + step, at, begin))
        entries, added = sounds.of(words, at)
        heapq.heappush(queue, (cost + added, at + 1, place))
        for e in entries:
            if place in e.places:
                heapq.heappush(queue, (cost + e.cost, at + e.words, place + e.takes))
    raise AssertionError("there is always a way")


@pytest.mark.parametrize("seed", range(4))
def test_left_and_right_are_alike(seed: int) -> None:
    rng = np.random.default_rng(seed)
    words = [w for line in SAID for w in line.split() if rng.random() > 0.15]
    swap = {"left": "right", "right": "left"}
    mirrored = "\n".join(" ".join(swap.get(w, w) for w in line.split()) for line in BOOK.split("\n"))
    one = align(words, book(), ENGLISH, order="direction-first")
    two = align([swap.get(w, w) for w in words], book(mirrored), ENGLISH, order="direction-first")
    assert [(v.note, [h[:4] for h in v.heard]) for v in one.visits] == [(v.note, [h[:4] for h in v.heard]) for v in two.visits]


@settings(max_examples=60, deadline=None)
@example(["bright", "swear", "tight", "tight"])
@given(
    st.lists(
        st.sampled_from(
            [
                "bright",
                "titans",
                "lift",
                "swear",
                "keep",
                "wright",
                "tight",
                "ends",
                "free",
                "sex",
                "fighting",
                "mad",
                "sixty",
                "left",
                "4",
                "into",
            ]
        ),
        min_size=4,
        max_size=30,
    )
)
def test_nothing_that_steers_appears_that_was_not_near_to_what_was_said(words: list[str]) -> None:
    """Without a book each side, grade and line that was made of other words is near to them in sound, or a listed mishearing of a
    grade that is a word, and sure."""
    named = {form for t in ENGLISH.terms if t.kind == "grade" for form in t.heard}
    rest = "right 3 80 left 5 long 60 right 2 into left 4 100 right 6 40 left 3 30"
    speech = parse_calls(f"[0:10] start 80 {' '.join(words)} {rest}".encode(), name="calls")
    for token in speech.reading.repairs:
        if token.kind in ("direction", "grade", "change grade", "line", "distance"):
            assert token.sure >= 0.95
            key = token.key.rstrip("+-")
            forms = ENGLISH.number_forms.get(key) or next(t.said for t in ENGLISH.terms if t.key == key)
            # A half stands behind its grade: "swear tight" is a square and a half.
            text = token.text.lower().split()[0] if key != token.key else token.text.lower()
            if text in named:
                continue
            text = text.replace(" ", "")
            assert min(ENGLISH.unlikeness(text, f.replace(" ", "")) for f in forms) <= 0.3
