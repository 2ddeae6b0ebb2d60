"""A crew's own file: what it may say, and what is said of it when it breaks the rules."""

import time

import pytest

from mirkle.core.errors import MirkleError, UnusableLanguage
from mirkle.files.notes.crew_profile import parse_crew
from mirkle.files.notes.languages import read_language
from mirkle.files.notes.text import parse_notes


def test_it_overrules_what_the_notes_say() -> None:
    crew = parse_crew(b'language = "pt"\norder = "grade-first"\nsense = "descending"', name="c")
    assert [la.code for la in crew.languages] == ["pt"]
    assert parse_notes(b"4 esquerda 50\n3 direita 40", name="n", crew=crew).order == "grade-first"
    assert crew.sense == "descending"


def test_a_language_is_a_file_that_a_crew_writes(tmp_path) -> None:  # type: ignore[no-untyped-def]
    own = tmp_path / "welsh.toml"
    own.write_text(
        'code = "cy"\nname = "Cymraeg"\n[direction]\nleft = ["chwith"]\nright = ["de"]\n'
        '[number]\n4 = ["pedwar"]\n[length]\nlong = ["hir"]\n[link]\ninto = ["i"]\n',
        encoding="utf-8",
    )
    assert read_language(own).code == "cy"
    crew = parse_crew(b'language = "welsh.toml"', name="c", folder=tmp_path)
    note = parse_notes(b"chwith pedwar hir 80\nde 3 i", name="n", crew=crew).notes[0]
    assert (note.direction.value if note.direction else None, note.grade, note.length) == ("left", "4", "long")


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ('order = "sideways"', "line 1.*order is “sideways”.*direction-first"),
        ('\nlanguage = "xx"', "line 2.*no language “xx”"),
        ('colour = "red"', "line 1.*“colour” is not known"),
        ('[words.feature]\nbrow = ["b"]', "line 2.*“brow” is no feature"),
        ('[words.feature]\ncrest = [""]', "no word to teach"),
        ("order = ", "not valid TOML"),
        ("order = [1]", "line 1.*order is"),
        ("language = 3", "line 1.*no language “3”"),
        ("leave = 4", "line 1.*4 is not a list of words"),
        ("words = 3", "line 1.*“words” has no table"),
        ('[words]\nfeature = "brow"', "line 2.*“feature” has no table"),
        ("[words.feature]\ncrest = [3]", "line 2.*not a list of words"),
    ],
)
def test_a_file_that_breaks_the_rules_is_refused_with_its_line(text: str, sentence: str) -> None:
    with pytest.raises(UnusableLanguage, match=sentence) as fault:
        parse_crew(text.encode(), name="crew.toml")
    assert fault.value.sentence.startswith("crew.toml")


def test_one_word_stands_for_a_list_of_one() -> None:
    crew = parse_crew(b'leave = "Marker"\n[words.feature]\ncrest = "knoll"', name="c")
    assert crew.leave == {"marker"}
    assert crew.languages[0].term("crest", "feature").said[-1] == "knoll"


def test_a_language_file_that_breaks_the_rules_names_its_line(tmp_path) -> None:  # type: ignore[no-untyped-def]
    own = tmp_path / "own.toml"
    own.write_text('code = "x"\nname = "X"\n\n[length]\nlong = { written = ["lg"] }\n')
    with pytest.raises(UnusableLanguage, match=r"line 5.*“long” has no spoken form"):
        read_language(own)

    own.write_text('code = "x"\nname = "X"\n\n[compose]\nteens = [1]\n')
    with pytest.raises(UnusableLanguage, match=r"line 4.*another form"):
        read_language(own)


ODD = {
    "utf-8 with a mark": "L4 80\nR3 60".encode("utf-8-sig"),
    "latin-1": "esquerda 4 não cortar 80\ndireita 3 60".encode("latin-1"),
    "windows line ends": b"L4 80\r\nR3 60\r\n",
    "tabs": b"L4\t80\nR3\t60",
    "emoji": "L4 🙂 80\nR3 60".encode(),
    "right to left": "L4 80 يسار\nR3 60".encode(),
}


@pytest.mark.parametrize("name", ODD)
def test_texts_of_every_encoding_are_read(name: str) -> None:
    reading = parse_notes(ODD[name], name=name)
    assert [n.distance_m for n in reading.corners] == [80, 60]


def test_control_characters_are_refused_with_their_line() -> None:
    with pytest.raises(MirkleError, match="notes, line 2: there is a control character"):
        parse_notes(b"L4 80\nR3 \x07 60", name="notes")


def test_ten_megabytes_are_refused_at_once_and_a_long_text_is_read_in_linear_time() -> None:
    with pytest.raises(MirkleError, match="MB"):
        parse_notes(b"L4 80\n" * 1_700_000, name="notes")

    def seconds(count: int) -> float:
        text = "".join(f"left {i % 6 + 1} long {10 * (i % 30 + 2)}\n" for i in range(count)).encode()
        began = time.process_time()
        assert len(parse_notes(text, name="notes").notes) == count
        return time.process_time() - began

    # Eight times the text: eight times the time if it is linear, sixty-four if it is not. By the processor's own time, and the best of
    # some, since whatever else the machine does meanwhile only adds.
    assert min(seconds(4_000) for _ in range(2)) < 24 * min(seconds(500) for _ in range(3))


def test_long_words_without_end_do_not_slow_the_search_for_sounds() -> None:
    def seconds(letters: int) -> float:
        began = time.process_time()
        parse_notes(("L4 80\n" + "x" * letters + "\n" + "ab" * 50 + " 40\nR3 60").encode(), name="notes")
        return time.process_time() - began

    # A search through all pairs of letters would take four hundred times as long for twenty times the letters.
    assert min(seconds(200_000) for _ in range(3)) < 100 * min(seconds(10_000) for _ in range(3))
