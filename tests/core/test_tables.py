"""Books that are tables: which columns are notes, and what is left out of them."""

from __future__ import annotations

import pytest

from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.tables import written_in_lines
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.notes.text import parse_notes

LANGUAGES = shipped_languages()
NUMBERED = """\
Nr;Dist;Curva;Grau;Obs
1;50;E;4+;longa
2;30;D;3-;"não cortar; pedra fora"
3;0;E;5;era 4
4;;D;2;fecha 1
página 2;;;;
5;150;D;gancho;
"""
PLACED = """\
Km,Corner,To next,Comments
0.05,L4+,30,"long, over crest"
0.08,R3-,into,don't cut
0.15,L5,80,"keep left (was 6)"
0.25,R2,150,"tightens, barn L; rock outside"
"""
DRAWN = """\
| # | note | dist |
|---|------|------|
| 1 | L4 over crest | 50 |
| 2 | R3 long | 80 |
| 3 | "big sign" R5 | |
| 4 | L6 | 200 |
"""


def unfolded(text: str) -> tuple[list[str], list[str]]:
    """The lines that a text becomes, and what is said of it."""
    lines, said = written_in_lines(text, LANGUAGES)
    return lines.strip().split("\n"), [str(sentence) for sentence in said]


def test_rows_become_notes_with_what_counts_them_left_out() -> None:
    lines, said = unfolded(NUMBERED)
    assert lines == ["50 E 4+ longa", "30 D 3- não cortar; pedra fora", "E 5 (era 4)", "D 2 fecha 1", "página 2", "150 D gancho"]
    assert said[0] == "The heading of the table was left out: Nr / Dist / Curva / Grau / Obs."
    assert len(said) == 3
    assert "a remark" in said[2]


def test_words_behind_a_distance_belong_to_their_note_and_the_distance_comes_last() -> None:
    lines, said = unfolded(PLACED)
    assert lines == ["L4+ long, over crest 30", "R3- don't cut into", "L5 keep left (was 6) 80", "R2 tightens, (barn L); rock outside 150"]
    assert any("distances from the start" in sentence for sentence in said)


def test_rows_may_end_early() -> None:
    lines, said = unfolded(
        "stage 3\n\nkm\tinstr.\t\t\tdist\n0\tstart\t\t\t80\n0.08\tL\t4\t+\t50\tlong\n0.15\tR\t3\n0.2\tL\thp\n0.4\tR\t6\t\t150"
    )
    assert lines == ["stage 3", "", "start 80", "L 4 + long 50", "R 3", "L hp", "R 6 150"]
    assert len(said) == 2


def test_a_drawn_table_is_read_without_its_rules() -> None:
    lines, _ = unfolded(DRAWN)
    assert lines == ["L4 over crest 50", "R3 long 80", '"big sign" R5', "L6 200"]


@pytest.mark.parametrize(
    "text",
    [
        "L4, R3, 50\nL5, R2, 80\nR6, L4, 30\nL3, R3, 60\n",
        "L4; 50\nR3; 80\nL5; 30\nR2; 60\n",
        "L4\t50\nR3\t80\nL5\t30\nR2\t60\n",
        "L4 | R3\nL5 | R2\nR6 | L4\nL3 | R3\n",
        "50, L4\n60, R3\n80, L5\n150, R2\n",
        'L4 50 "big\nR3, 80\n',
        "a,b\n1,2\n3,4\n5,6\n7,8\n",
        'a;b\n"' + "x" * 200_000 + "\n",
    ],
)
def test_what_is_no_table_of_notes_stays_as_it_is(text: str) -> None:
    assert written_in_lines(text, LANGUAGES) == (text, ())


def test_a_table_reads_as_the_same_notes_in_lines_do() -> None:
    rows = "\n".join(f"{n}\t{side}\t{grade}\t{words}\t{metres}" for n, (side, grade, words, metres) in enumerate(ROWS, start=1))
    table = parse_notes(f"Note\tWay\tGrade\tMore\tNext\n{rows}\n".encode(), name="sheet")
    plain = read_notes("\n".join(" ".join(filter(None, row)) for row in ROWS), LANGUAGES)
    assert [n.called_values for n in table.notes] == [n.called_values for n in plain.notes]
    assert [(n.direction, n.grade, n.distance_m) for n in table.notes] == [(n.direction, n.grade, n.distance_m) for n in plain.notes]
    assert [n.grade for n in table.notes] == ["4", "3-", "hairpin", "6", "2"]


ROWS = [
    ("L", "4", "over crest", "50"),
    ("R", "3-", "", "30"),
    ("L", "hp", "don't cut", ""),
    ("R", "6", "", "200"),
    ("L", "2", "tightens", "40"),
]
