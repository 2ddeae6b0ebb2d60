"""A stage's file that was damaged or forged: it opens as far as it can, or is refused in one sentence."""

from pathlib import Path

import pytest

from tests.session.harmed_projects import good_stage, tried, used


@pytest.fixture(scope="module")
def good(tmp_path_factory: pytest.TempPathFactory) -> Path:
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("XDG_DATA_HOME", str(tmp_path_factory.mktemp("data")))
        return good_stage(tmp_path_factory.mktemp("good") / "good.mirkle")


def test_the_good_one_is_used_without_a_word(good: Path) -> None:
    """So that the test below damages something that works: only the sound, which was never there, is missed."""
    assert "the sound is no longer there" in used(good)


@pytest.mark.parametrize("first", range(0, 120, 40))
def test_damaged_it_opens_or_says_in_one_sentence_why_not(good: Path, tmp_path: Path, first: int) -> None:
    assert [fault for seed in range(first, first + 40) if (fault := tried(good, tmp_path, seed)) is not None] == []
