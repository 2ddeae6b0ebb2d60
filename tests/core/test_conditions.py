"""Reports of those who drove ahead, in the words in which they come; nothing is guessed."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mirkle.core.notebook.conditions import A_LITTLE, AROUND_M, AS_IT_IS, BAD, KIND_WORDS, WORDS, parse_conditions

FINISH_M = 14_000.0


@pytest.mark.parametrize(
    ("line", "stretch", "what", "level"),
    [
        ("km 4.2 to 5, ice, more than this morning", (4200, 5000), "ice", BAD),
        ("4.2-5 ice", (4200, 5000), "ice", AS_IT_IS),
        ("from 3,1 until 3,4: standing water, a little", (3100, 3400), "standing water", A_LITTLE),
        ("km 6 mud", (6000 - AROUND_M, 6000 + AROUND_M), "mud", AS_IT_IS),
        ("km 4,2 a 5, gelo, mais do que de manhã", (4200, 5000), "ice", BAD),
        ("5 to 4.2 fog, very thick", (4200, 5000), "fog", BAD),
        ("12.9 - 15 km dust hanging", (12_900, 14_000), "dust", AS_IT_IS),
        ("km 8,05 pedras na curva", (8000, 8100), "stones", AS_IT_IS),
        ("2.0 to 2.6 resurfaced", (2000, 2600), "repaired surface", AS_IT_IS),
        ("page 3, low sun", (900, 1800), "sun", AS_IT_IS),
        ("page 3 line 2 to page 4: greasy patches", (1000, 2500), "grease", A_LITTLE),
    ],
)
def test_a_report_is_read(line: str, stretch: tuple[float, float], what: str, level: int) -> None:
    places = {(3, None): (900.0, 1800.0), (4, None): (1800.0, 2500.0), (3, 2): (1000.0, 1100.0)}
    found, missing = parse_conditions(line, FINISH_M, lambda page, row: places.get((page, row)))
    assert missing == []
    (one,) = found
    assert (one.from_m, one.to_m, one.what, one.level) == (pytest.approx(stretch[0]), pytest.approx(stretch[1]), what, level)
    assert one.words
    assert line.endswith(one.words)


@pytest.mark.parametrize(
    ("line", "sentence"),
    [
        ("ice after the bridge", "where?"),
        ("km 4 to 5 bumpy", "what is it?"),
        ("km 30 to 31 ice", "only 14.00 km long"),
        ("page 99 ice", "where?"),
    ],
)
def test_what_is_missing_is_said(line: str, sentence: str) -> None:
    found, missing = parse_conditions(f"{line}\nkm 1 ice", FINISH_M)
    assert [f.from_m for f in found] == [950.0]
    assert sentence in str(missing[0])
    assert line in str(missing[0])


def test_a_sheet_is_in_the_order_of_the_road() -> None:
    found, missing = parse_conditions("9 to 9.4 mud; 2-2.5 water\n\n5 to 6 ice", FINISH_M)
    assert [f.what for f in found] == ["standing water", "ice", "mud"]
    assert missing == []


@given(st.text(max_size=60))
def test_any_line_is_a_report_or_said_to_be_none(text: str) -> None:
    found, missing = parse_conditions(text, FINISH_M)
    assert all(0.0 <= f.from_m <= f.to_m <= FINISH_M and f.what in WORDS and f.level in (A_LITTLE, AS_IT_IS, BAD) for f in found)
    assert bool(found or missing) is any(part.strip() for part in text.replace(";", "\n").split("\n"))


def test_every_kind_has_its_words() -> None:
    assert WORDS.keys() == KIND_WORDS.keys()
    forms = [form for many in WORDS.values() for form in many]
    assert len(set(forms)) == len(forms)
