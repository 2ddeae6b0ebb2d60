"""When a repair is made, when it is only offered, and how sure it is."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mirkle.core.notes.repairs import Evidence, probability
from mirkle.files.speech.timed_text import parse_calls

REST = "right 3 80 left 5 long 60 right 2 into left 4 100 right 6 40 left 3 30"


@pytest.mark.parametrize(
    ("said", "word", "read_as"),
    [
        # On this side of the cut: homophones, and what is near in sound where nothing else can stand.
        ("left for long 60", "for", "4"),
        ("write 4 60", "write", "right"),
        ("left 4 over chest 60", "chest", "crest"),
        ("left 4 titans 3 60", "titans", "tightens"),
        ("left 4 sixteen", "sixteen", "60"),
        ("left 460", "4", "4"),
        ("left tree 60", "tree", "3"),
        # A listed mishearing of a hairpin, in the place of a grade.
        ("left happen 60", "happen", "hairpin"),
        # Beyond it: too far in sound to steer, as good without it, or a word of talk.
        ("left airplane 60", "airplane", None),
        ("left 4 tightens for 60", "for", None),
        ("left 4 window 60", "window", None),
        ("fighting 4 60", "fighting", None),
        ("left 4 keep mud 60", "keep", None),
        ("left 4 longue 60", "longue", None),
    ],
)
def test_near_sounds_on_both_sides_of_the_cut(said: str, word: str, read_as: str | None) -> None:
    speech = parse_calls(f"[0:10] start 80 {said} {REST}".encode(), name="calls")
    repairs = {t.text: t.read_as for t in speech.reading.repairs}
    assert repairs.get(word) == read_as
    if read_as is None:
        assert not repairs


def test_the_same_mistake_again_makes_it_surer() -> None:
    """A word that stands alone for a term in doubt is believed where it does so throughout the text."""

    def read(times: int) -> tuple[int, int]:
        calls = " ".join(f"left {1 + n % 6} laang {40 + 10 * n} right {1 + n % 5} 60" for n in range(times))
        speech = parse_calls(f"[0:10] start 80 {calls} {REST}".encode(), name="calls")
        return len(speech.reading.repairs), len(speech.reading.offers)

    assert read(1) == (0, 1)
    assert read(6) == (6, 0)


def test_what_was_refused_stays_as_it_was_said_and_is_offered() -> None:
    speech = parse_calls(f"[0:10] start 80 left airplane 60 {REST}".encode(), name="calls")
    (word,) = [w for w in speech.words if w.offer is not None]
    assert (word.text, word.read_as) == ("airplane", None)
    assert word.offer is not None
    assert (word.offer.kind, word.offer.key) == ("grade", "hairpin")
    assert speech.reading.notes[1].grade is None


EVIDENCE = st.builds(
    Evidence,
    how=st.sampled_from(["heard", "sound", "teen"]),
    margin=st.floats(0.0, 5.0),
    unlike=st.floats(0.0, 0.4),
    more_words=st.booleans(),
    again=st.integers(0, 5),
    otherwise=st.integers(0, 5),
)


@given(EVIDENCE)
def test_better_evidence_is_surer(evidence: Evidence) -> None:
    sure = probability(evidence)
    assert 0 < sure < 1
    better = [{"margin": evidence.margin + 1.0}, {"unlike": evidence.unlike - 0.1}, {"again": evidence.again + 1}]
    for change in better:
        assert probability(Evidence(**{**evidence.__dict__, **change})) > sure
    assert probability(Evidence(**{**evidence.__dict__, "otherwise": evidence.otherwise + 1})) < sure
