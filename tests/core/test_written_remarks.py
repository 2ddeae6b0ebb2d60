"""What nobody calls changes nothing that is called: any remark, in any form, in front of, inside or behind any note of any book."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mirkle.core.notes.model import Note, Reading, Span
from mirkle.core.notes.reading import read_notes
from mirkle.files.notes.languages import shipped_languages

BOOKS = {
    "short": [
        "L4 60",
        "R3 long >2 into",
        "L hp 40",
        "! R5 over cr 80",
        "L6 dc 150",
        "R2+ sh keep in 30",
        "L4 in",
        "R sq 50",
        "dip 30",
        "L5 >3 100",
    ],
    "wordy": [
        "caution left four long tightens three over crest keep in rocks inside 60",
        "right five plus over small crest don't cut into",
        "left hairpin past junction 40",
        "right six long opens over jump maybe keep middle 150",
        "slow right two short narrows over bridge 30",
        "left three very long tightens two late don't cut ditch outside 80",
        "right four and",
        "left square onto gravel 50",
    ],
    "grade first": [
        "4 left 60",
        "3 right long tightens 2 into",
        "6 left over crest 100",
        "hairpin right 40",
        "2 left short 30",
        "5 right plus 80",
    ],
    "portuguese": [
        "esquerda 4 longa fecha 3 sobre alto 60",
        "direita 5 não cortar e",
        "gancho esquerda 40",
        "cautela direita 3 pedras por dentro 80",
        "esquerda 6 sobre salto 150",
        "direita 2 curta 30",
    ],
}
TALK = [
    "look at this one again",
    "was 3 last year",
    "one more look",
    "that was quick, left 2 behind it",
    "house 12",
    "two tyres left in the van",
    "I said 5 and he heard 4",
    "not sure, 80 or 100",
    "hairpin after?",
    "keep right",
    "caution",
    "page 7",
    "R3 40",
    "see video 1:23",
    "4",
    "ver outra vez",
    "era 3 no ano passado",
    "uma esquerda 2 logo a seguir",
    "100 metros antes da casa",
    "cuidado aqui",
    "?",
    "ok",
]
AROUND = ["({0})", "[{0}]", "{{{0}}}", '"{0}"', "“{0}”", "«{0}»", "'{0}'", "~~{0}~~"]
TO_THE_END = ["// {0}", "# {0}", "Note: {0}", "Bearing: {0}"]


def called(note: Note) -> Note:
    """A note without what a remark may change: its text, where it stands, and the remarks."""
    return replace(note, text="", span=Span(0, 0), remarks=(), direction_span=None, grade_span=None, gap_span=None, line=0)


def read(lines: list[str]) -> Reading:
    return read_notes("\n".join(lines), shipped_languages())


@pytest.mark.parametrize("book", BOOKS)
@settings(max_examples=250, deadline=None, derandomize=True)
@given(data=st.data())
def test_a_remark_changes_nothing_that_is_called(book: str, data: st.DataObject) -> None:
    lines = list(BOOKS[book]) * 2
    plain = read(lines)
    for _ in range(data.draw(st.integers(1, 3))):
        at = data.draw(st.integers(0, len(lines) - 1))
        words = data.draw(st.sampled_from(TALK))
        where = data.draw(st.sampled_from(["behind", "in front", "inside", "alone"]))
        form = data.draw(st.sampled_from(AROUND + (TO_THE_END if where in ("behind", "alone") else [])))
        remark = form.format(words)
        parts = lines[at].split(" ")
        if "//" in lines[at] or "#" in lines[at] or ": " in lines[at]:
            # What runs to the end of a line takes in all that follows.
            continue
        if where == "behind":
            lines[at] += f" {remark}"
        elif where == "in front":
            lines[at] = f"{remark} {lines[at]}"
        elif where == "inside":
            cut = data.draw(st.integers(1, len(parts)))
            lines[at] = " ".join([*parts[:cut], remark, *parts[cut:]])
        elif "\n" not in lines[at]:
            lines[at] += f"\n{remark}"
    found = read(lines)
    assert [called(n) for n in found.notes] == [called(n) for n in plain.notes], lines
    assert found.order == plain.order
    # Nothing is lost: every character belongs to a token, and each remark stands with a note.
    assert "".join(t.text for t in found.tokens) == found.source
    set_apart = [t.text for t in found.tokens if t.kind == "remark"]
    assert sorted(set_apart) == sorted(r for n in found.notes for r in n.remarks)


@pytest.mark.parametrize(
    ("text", "grade", "distance", "remarks"),
    [
        ("left 5 (one more look)", "5", None, ("(one more look)",)),
        ("left 4 60 // was 3 last year", "4", 60, ("// was 3 last year",)),
        ("left 4 was a 3 60", "4", 60, ("was a 3",)),
        ("left 4 was a 3, 60", "4", 60, ("was a 3",)),
        ("left 4 was a 3½ 60", "4", 60, ("was a 3½",)),
        ("left 4 used to be 5 into", "4", None, ("used to be 5",)),
        ("left 4 past house 12 60", "4", 60, ("12",)),
        ("left 4 past house 40 60", "4", 60, ("40",)),
        ("left 4 past house 40", "4", 40, ()),
        ("L3 no. 7 60", "3", 60, ("no. 7",)),
        ("L3 2.1 km 60", "3", 60, ("2.1 km",)),
        ("L3 60 @ 120 km/h", "3", 60, ("@ 120 km/h",)),
        ("L3 60 km", "3", 60, ()),
        ("L3 l\u03364\u0336 60", "3", 60, ("l\u03364\u0336",)),
        ("esquerda 4 era 3 60", "4", 60, ("era 3",)),
        ("L4 don't cut 60", "4", 60, ()),
        ("L4 (60", "4", 60, ()),
    ],
)
def test_figures_that_nobody_calls_are_none(text: str, grade: str, distance: int | None, remarks: tuple[str, ...]) -> None:
    book = "\n".join(["R3 80", text, "R5 40"])
    if "esquerda" in text:
        book = book.replace("R3", "direita 3").replace("R5", "direita 5")
    note = read(book.split("\n")).notes[1]
    assert (note.grade, note.distance_m, note.remarks) == (grade, distance, remarks)
    assert note.unread == () or "(" in text


def test_a_crew_that_puts_its_distances_in_brackets_calls_them() -> None:
    notes = read(["L4 (60)", "R3 long (100)", "L hp (40)", "R5 (80) (look at the 3)", "L2 (30)"]).notes
    assert [n.distance_m for n in notes] == [60, 100, 40, 80, 30]
    assert notes[3].remarks == ("(look at the 3)",)
    # One alone is a remark.
    assert read(["L4 60", "R3 (100)", "L5 80", "R2 40", "L6 50"]).notes[1].distance_m is None


def test_a_remark_that_could_be_a_call_is_said() -> None:
    doubts = [str(d) for d in read(["L4 (don't cut) 60", "R3 (look again) 80", "L5 40"]).doubts]
    assert doubts == ["(don't cut) is a remark and is not called. Write it without brackets if you call it."]
    assert "(long) is a remark" in str(read(["L4 (long) 60", "R3 (long look) 80", "L5(-) 40"]).doubts[0])
    assert [n.grade for n in read(["L5(-) 40", "R3 [+] 80"]).notes] == ["5-", "3"]


def test_what_changes_a_note_leaves_its_remark_alone() -> None:
    """The note's span holds what is called, so that another text in its place stands beside the remark."""
    reading = read(["L4 60 (look again)", "(house 3) R3 (one more) into // was 2", "L5 40"])
    first, second, _ = reading.notes
    assert reading.source[first.span.start : first.span.end] == first.text == "L4 60"
    assert first.remarks == ("(look again)",)
    assert second.text == "R3 (one more) into"
    assert second.called_text == "R3 into"
    assert second.remarks == ("(house 3)", "(one more)", "// was 2")
