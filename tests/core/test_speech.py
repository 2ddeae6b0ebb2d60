"""Reading what was said: damage repaired, talk set aside, nothing lost and nothing invented."""

import re

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.core.notes.called import CalledChange, CalledFeature
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Note
from mirkle.core.speech.reading import Speech
from mirkle.files.notes.crew_profile import parse_crew
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.notes.text import parse_notes
from mirkle.files.speech.timed_text import parse_calls
from mirkle.synthetic.recogniser import Voice, calls_of, recognised
from tests.core.test_notes import plain

REST = " right 3 80 left 5 long 60 right 2 into left 4 100 right 6 40 left 3 30"


def read(text: str, crew: CrewProfile | None = None) -> Speech:
    return parse_calls(text.encode(), name="calls.txt", crew=crew)


def calls(text: str) -> list[Note]:
    """The notes in words said at once, ahead of some that make the hand plain."""
    notes = read(f"[0:10] start 80 {text}{REST}").reading.notes
    return list(notes[1 : len(notes) - 6])


def brief(note: Note) -> tuple:
    return (note.direction.value if note.direction else None, note.grade, note.distance_m)


@pytest.mark.parametrize(
    ("said", "meant"),
    [
        ("left for long 60", ("left", "4", 60)),
        ("write too into", ("right", "2", None)),
        ("left 460", ("left", "4", 60)),
        ("left 4150", ("left", "4", 150)),
        ("right 5 2000", ("right", "5", None)),
        ("right 5 one, thirty", ("right", "5", 130)),
        ("right 5. 100, 60.", ("right", "5", 160)),
        ("right 5 sixty, sixty", ("right", "5", 60)),
        ("right 5 threw hundred", ("right", "5", None)),
        ("left 4 sixteen", ("left", "4", 60)),
        ("left four one hundred and fifty", ("left", "4", 150)),
        ("left four one fifty", ("left", "4", 150)),
        ("air pin left 40", ("left", "hairpin", 40)),
        ("left 6 left 6 extra long 50", ("left", "6", 50)),
        ("left 4 long 30 left 4 long", ("left", "4", 30)),
        ("left no right 4 60", ("right", "4", 60)),
        ("left five no four minus 60", ("left", "4-", 60)),
        ("left 4 nice one that was lovely 60", ("left", "4", 60)),
        ("left five-minus long one-fifty", ("left", "5-", 150)),
        ("left seven. Sorry, right three. 100", ("right", "3", 100)),
    ],
)
def test_one_call_is_read_as_it_was_meant(said: str, meant: tuple) -> None:
    assert [brief(n) for n in calls(said)] == [meant]


@pytest.mark.parametrize(
    ("said", "field", "value"),
    [
        ("left 5 over chest 40", "features", ("over crest",)),
        ("left 5 tight ends four 40", "changes", ("tightens 4",)),
        ("left 5 over crest, jump maybe. 40", "features", ("over crest", "jump maybe")),
        ("left 5 over 2 crests 40", "features", ("over 2 crests",)),
        ("left 5 three jumps 40", "features", ("3 jumps",)),
        ("left 5 extra, extra long 40", "length", "extra extra long"),
        ("left five, tight. 40", "changes", ("tight",)),
        ("left 5 keep mid 40", "line_on_road", ("keep middle",)),
        ("left 5 pass barn, right side 40", "objects", ("past barn on right",)),
        ("left 5 titans to 3 40", "changes", ("tightens 3",)),
        ("left six to three 40", "changes", ("tightens 3",)),
        ("left 3 opens to five 40", "changes", ("opens 5",)),
        ("left 4 cushion 40", "cautions", ("caution",)),
        ("left 4 dont cat 40", "line_on_road", ("don't cut",)),
        ("left 4 continues for 80 100", "continues_for", "80"),
    ],
)
def test_words_of_the_trade_are_heard_through_the_damage(said: str, field: str, value: object) -> None:
    (note,) = calls(said)
    assert plain(getattr(note, field)) == value
    assert note.distance_m in (40, 100)


def test_a_later_start_and_a_finish_in_mid_sentence_move_nothing() -> None:
    calls = "left 4 60 right 3 80 left 5 40 right 2 50 left 6 60 right 5 80 left 3 40 right 4 60 left 2 30 "
    speech = read(
        f"[0:05] three two one go start 80 {calls}\n[0:40] at the start of the wall right 6 100 {calls}over finish line {calls}"
        f"\n[1:40] finish 50 to stop\n[1:50] well that left 4 was a three and the last right 5 opened"
    )
    assert len(speech.reading.corners) == 3 * 9 + 1
    assert speech.finish_s == pytest.approx(100, abs=4)
    assert [w.role for w in speech.words][-6:] == ["after"] * 6


def test_a_half_behind_the_direction_goes_with_the_grade() -> None:
    speech = read("[0:05] start 50 4 left 60 5 right plus, and 3 left, 80 2 right minus, 30 6 left 100 3 right 60")
    assert [n.grade for n in speech.reading.corners] == ["4", "5+", "3", "2-", "6", "3"]


def test_the_distance_behind_go_leads_to_the_first_note() -> None:
    speech = read("[0:05] three two one go, go, go. One hundred, right three 80 left 5 60 right 2 into left 4 100")
    first = speech.reading.notes[0]
    assert (first.direction, first.distance_m) == (None, 100)


def test_what_the_grade_first_crew_means_by_to() -> None:
    speech = read("[0:05] start 50 4 left 60 3 right 40 to left 80 5 right into for left 30 6 right 100 to right 50")
    assert [n.grade for n in speech.reading.corners] == ["4", "3", "2", "5", "4", "6", "2"]


TALK = """[0:02] hello can you hear me okay start 80 left 4 60 right 3 40
[0:20] five four three two one go start 80 left 4 60 right 3 40 left 5 long 60 right 2 into
[0:35] left 4 100 good we left a lot of time there right 6 40 we have a flat tyre back off a bit left 3 30 zorbl right 4 80
[0:50] left 2 40 right 5 120 finish well that opened more than we wrote make this a three
"""


def test_every_word_has_its_part() -> None:
    speech = read(TALK)
    roles: dict[str, list[str]] = {}
    for word in speech.words:
        roles.setdefault(word.role, []).append(word.text)
    assert roles["before"][:3] == ["hello", "can", "you"]
    assert roles["countdown"] == ["five", "four", "three", "two", "one", "go"]
    assert "wrote" in roles["after"]
    assert {"lot", "time"} <= set(roles["remark"])
    assert "flat" in roles["incident"]
    assert roles["unread"] == ["zorbl"]
    assert len(speech.reading.corners) == 10
    assert speech.go_s == pytest.approx(23, abs=3)
    assert speech.finish_s is not None
    assert 50 < speech.finish_s < 60


def test_words_stand_in_order_as_they_were_with_times_that_grow() -> None:
    speech = read(TALK)
    source = re.sub(r"\[\d+:\d+\]", " ", TALK).split()
    assert [w.text for w in speech.words] == source
    times = [w.at_s for w in speech.words]
    assert times == sorted(times)
    assert all(w.uncertainty_s > 0.3 for w in speech.words)


def test_calls_run_across_the_borders_of_blocks() -> None:
    speech = read("[0:05] start 40 left 4 60 right\n[0:20] 3 50 left 5 long\n[0:35] tightens 3 40 right 4 30 finish")
    assert [brief(n) for n in speech.reading.corners] == [("left", "4", 60), ("right", "3", 50), ("left", "5", 40), ("right", "4", 30)]
    assert speech.reading.corners[2].changes == (CalledChange("tightens", to="3"),)


def test_each_repair_says_what_it_did_and_a_crew_can_forbid_it() -> None:
    text = f"[0:05] start 80 left 5 over chest 40{REST}"
    (repair,) = read(text).reading.repairs
    assert (repair.text, repair.read_as) == ("chest", "crest")
    assert 0.4 <= repair.sure < 1
    assert repair.why
    left_alone = read(text, parse_crew(b'leave = ["chest"]', name="crew.toml"))
    assert not left_alone.reading.repairs
    assert [w.text for w in left_alone.words if w.role == "unread"] == ["chest"]


def test_a_crews_own_word_is_taught() -> None:
    crew = parse_crew(b'[words.feature]\ncrest = ["brow"]', name="crew.toml")
    speech = read(f"[0:05] start 80 left 5 over brow 40{REST}", crew)
    # A taught form is written short-hand and spoken word alike.
    assert speech.reading.corners[0].features == (CalledFeature("crest", "over"),)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.sampled_from([*TALK.split(), "4", "60", "460", "!", "…", "übung", "مرحبا", "😀"]), max_size=60))
def test_no_words_break_the_reader_and_none_is_lost(words: list[str]) -> None:
    text = "[0:01] " + " ".join(w for w in words if not w.startswith("["))
    try:
        speech = read(text)
    except MirkleError as fault:
        assert isinstance(fault, UnusableNotes)  # noqa: PT017  (nothing but this may come)
        return
    assert [w.text for w in speech.words] == text.split()[1:]
    for note in speech.reading.notes:
        assert any(w.note == note.index for w in speech.words)


@pytest.mark.parametrize("language", ["en", "pt"])
@pytest.mark.parametrize("damage", [0.0, 0.08])
def test_invented_calls_come_through_the_recogniser(language: str, damage: float) -> None:
    """Without a book what was harmed beyond doubt is lost rather than guessed; the book brings it back."""
    right = total = read_notes = written = notes = 0
    for seed in range(3):
        rng = np.random.default_rng(seed)
        voice = Voice(language=language, grade_first=seed == 1, figures=seed != 2, damage=damage, block_s=25.0)
        meant = calls_of(rng, voice, 60)
        text = recognised(rng, voice, meant)
        speech = read(text)
        assert speech.reading.language == language
        assert speech.reading.order == ("grade-first" if voice.grade_first else "direction-first")
        wanted = [(c.direction, c.grade) for c in meant if c.direction]
        got = [brief(n)[:2] for n in speech.reading.corners if n.grade]
        read_notes += len(got)
        total += len(wanted)
        right += _in_order(wanted, got)
        book = parse_notes("\n".join(" ".join(c.words) for c in meant).encode(), name="book")
        spoken = parse_calls(text.encode(), name="calls.txt", book=book).spoken
        written += sum(s.said_as in ("written", "twice") for s in spoken)
        notes += len(spoken)
    assert right >= (0.85 if damage else 1.0) * total
    assert right >= (0.95 if damage else 1.0) * read_notes
    assert written >= 0.98 * notes


def _in_order(wanted: list, got: list) -> int:
    """The longest common subsequence."""
    best = [0] * (len(got) + 1)
    for w in wanted:
        before = best[:]
        for j, g in enumerate(got):
            best[j + 1] = before[j] + 1 if w == g else max(best[j], before[j + 1])
    return best[-1]


SHARED_KINDS = ("direction", "grade", "half", "length", "caution", "mark")


@pytest.mark.parametrize("language", shipped_languages(), ids=lambda la: la.code)
def test_languages_that_ship_know_the_same_terms(language: Language) -> None:
    """What one crew writes can be written in the other's language."""
    english = shipped_languages()[0]
    wanted = {(t.kind, t.key) for t in english.terms if t.kind in SHARED_KINDS}
    assert wanted - {(t.kind, t.key) for t in language.terms} == set(), f"terms that {language.code}.toml lacks"
    assert len({la.code for la in shipped_languages()}) == len(shipped_languages())
