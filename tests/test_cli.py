"""The command line through its real entry, with no Qt to be had."""

import json
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

from mirkle.cli import main
from mirkle.files import demo_files
from mirkle.synthetic import slatehook


@pytest.fixture(scope="module")
def demo(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("demo")
    slatehook.write_demo(folder)
    return folder


def test_review_writes_the_contracts_file(demo: Path, tmp_path: Path) -> None:
    out = tmp_path / "out.json"
    assert main(["review", str(demo / demo_files.MORNING), "--notes", str(demo / demo_files.NOTES), "--json", str(out)]) == 0
    review = json.loads(out.read_text())
    assert review["format"] == "mirkle-review/1"
    assert set(review) >= {"stage", "crew", "clock", "scale", "links", "notes", "findings"}
    assert review["stage"]["length_m"] == pytest.approx(14_200, rel=2e-3)
    assert review["crew"] == {
        "language": "en",
        "order": "direction-first",
        "sense": "ascending",
        "half_grades": False,
        "yardstick": "radius",
    }
    note = next(n for n in review["notes"] if n["met"])
    assert set(note) == {"index", "page", "line", "text", "called", "said_at_s", "said_from_m", "lead_s", "met", "said", "gap_after"}
    assert set(note["called"]) == {
        "direction",
        "grade",
        "length",
        "changes",
        "cautions",
        "features",
        "line",
        "link",
        "distance_m",
        "objects",
        "surface",
        "remarks",
    }
    assert set(note["met"]) == {
        "from_m",
        "to_m",
        "apex_m",
        "direction",
        "radius_m",
        "turn_deg",
        "grade",
        "grade_position",
        "speed_min_kmh",
        "confidence",
    }
    assert note["said_at_s"] is None
    for finding in review["findings"]:
        assert set(finding) == {
            "id",
            "kind",
            "note",
            "from_m",
            "to_m",
            "called",
            "met",
            "severity",
            "confidence",
            "seconds",
            "proposal",
            "why",
            "facts",
            "lat_deg",
            "lon_deg",
            "by",
        }


def test_bad_input_ends_with_two_and_one_line_and_writes_nothing(demo: Path, tmp_path: Path) -> None:
    out = tmp_path / "out.json"
    out.write_text("what stood here before")
    picture = tmp_path / "run.csv"
    picture.write_bytes(b"\x89PNG\r\n\x1a\n" + bytes(100))
    command = [sys.executable, "-m", "mirkle", "review", str(picture), "--notes", str(demo / demo_files.NOTES)]
    done = subprocess.run([*command, "--json", str(out)], capture_output=True, text=True, check=False)
    assert done.returncode == 2
    assert done.stdout == ""
    assert done.stderr.startswith("run.csv: this is a PNG picture")
    assert done.stderr.count("\n") == 1
    assert out.read_text() == "what stood here before"


def test_files_given_the_wrong_way_round_are_told_apart(demo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["review", str(demo / demo_files.NOTES), "--notes", str(demo / demo_files.MORNING)]) == 2
    assert "--notes" in capsys.readouterr().err


def test_review_needs_no_qt(demo: Path) -> None:
    program = (
        "import sys; sys.modules['PyQt6'] = None\n"
        "from mirkle.cli import main\n"
        f"sys.exit(main(['review', {str(demo / demo_files.MORNING)!r}, '--notes', {str(demo / demo_files.NOTES)!r}]))"
    )
    done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=False)
    assert done.returncode == 0
    assert json.loads(done.stdout)["findings"]


def test_words_tie_the_clocks_and_say_what_differs(demo: Path, tmp_path: Path) -> None:
    out = tmp_path / "out.json"
    files = [str(demo / name) for name in (demo_files.MORNING, demo_files.AFTERNOON)]
    notes, calls = str(demo / demo_files.NOTES), str(demo / demo_files.CALLS)
    assert main(["review", *files, "--notes", notes, "--calls", calls, "--json", str(out)]) == 0
    review = json.loads(out.read_text())
    planted = json.loads(demo_files.demo_file(demo_files.PLANTED))
    clock = review["clock"]
    assert abs(clock["calls_minus_run_s"] - planted["calls_minus_run_s"]) < 2 * clock["uncertainty_s"]
    said = [n for n in review["notes"] if n["lead_s"] is not None]
    assert len(said) > 0.8 * len(review["notes"])
    assert sorted(n["lead_s"] for n in said)[len(said) // 2] == pytest.approx(3.1, abs=0.8)
    assert {"said-otherwise", "call-late"} <= {f["kind"] for f in review["findings"]}
    assert any("other pass" in f["why"] for f in review["findings"])
    assert len(review["jumps"]) == len(planted["jumps"])
    for measured, true in zip(review["jumps"], planted["jumps"], strict=True):
        assert measured["from_m"] == pytest.approx(true["from_m"], abs=15)
        assert measured["air_s"] == pytest.approx(true["air_s"], abs=0.03)


def test_notes_may_be_left_out_where_words_are_given(demo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["review", str(demo / demo_files.MORNING), "--calls", str(demo / demo_files.CALLS)]) == 0
    review = json.loads(capsys.readouterr().out)
    assert len(review["notes"]) > 120
    assert main(["review", str(demo / demo_files.MORNING)]) == 2
    assert "--notes" in capsys.readouterr().err


@pytest.mark.parametrize("name", [demo_files.NOTES, demo_files.CALLS])
def test_read_writes_the_contracts_file(demo: Path, tmp_path: Path, name: str) -> None:
    out = tmp_path / "out.json"
    assert main(["read", str(demo / name), "--json", str(out)]) == 0
    reading = json.loads(out.read_text())
    assert reading["format"] == "mirkle-reading/1"
    assert set(reading["crew"]) == {"language", "order", "sense", "half_grades", "sure"}
    assert [n["index"] for n in reading["notes"]] == list(range(len(reading["notes"])))
    roles = {"before", "countdown", "note", "repeat", "remark", "incident", "unread", "after"}
    assert {w["role"] for w in reading["words"]} <= roles
    timed = name == demo_files.CALLS
    assert all((w["at_s"] is not None) == timed for w in reading["words"])
    assert all((n["said_at_s"] is not None) == timed for n in reading["notes"])
    assert {w["note"] for w in reading["words"] if w["role"] == "note" and w["note"] is not None} == set(range(len(reading["notes"])))
    if timed:
        assert [w["text"] for w in reading["words"] if w["role"] == "countdown"] == ["five", "four", "three", "two", "one", "go"]


def test_a_crews_file_overrules_on_the_command_line(demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    crew = tmp_path / "crew.toml"
    crew.write_text('sense = "descending"\n')
    assert main(["read", str(demo / demo_files.NOTES), "--crew", str(crew)]) == 0
    assert json.loads(capsys.readouterr().out)["crew"]["sense"] == "descending"
    crew.write_text('sense = "sideways"\n')
    assert main(["read", str(demo / demo_files.NOTES), "--crew", str(crew)]) == 2
    assert capsys.readouterr().err.startswith("crew.toml, line 1: sense is “sideways”")


def test_passes_writes_the_contracts_file(demo: Path, tmp_path: Path) -> None:
    """The afternoon with one note changed against the morning; what stands on the road is told of it."""
    written = (demo / demo_files.NOTES).read_text()
    lines = written.splitlines()
    at = next(i for i, line in enumerate(lines) if i > 40 and re.match(r"[LR][34] ", line))
    changed = lines[at][0] + str(int(lines[at][1]) + 2) + lines[at][2:]
    afterwards = tmp_path / "afternoon.txt"
    afterwards.write_text("\n".join([*lines[:at], changed, *lines[at + 1 :]]) + "\n")
    out = tmp_path / "out.json"
    passes = [
        "--pass",
        str(demo / demo_files.MORNING),
        str(demo / demo_files.NOTES),
        str(demo / demo_files.CALLS),
        "--pass",
        str(demo / demo_files.AFTERNOON),
        str(afterwards),
        "-",
    ]
    assert main(["passes", *passes, "--json", str(out)]) == 0
    told = json.loads(out.read_text())
    assert told["format"] == "mirkle-passes/1"
    (change,) = told["changes"]
    assert (change["old"], change["new"], change["said"]) == (lines[at], changed, None)
    assert change["verdict"] == "too-fast"
    assert change["seconds_sd"] > 0
    assert set(change) == {
        "old",
        "new",
        "page",
        "line",
        "from_m",
        "to_m",
        "verdict",
        "confidence",
        "said",
        "seconds_gained",
        "seconds_sd",
        "why",
    }
    assert {k["verdict"] for k in told["kept"]} <= {"fits", "too-fast", "too-slow", "cant-tell"}
    assert main(["passes", *passes[:4]]) == 2


def test_what_is_neither_command_nor_file_is_said_so(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["bogus"]) == 2
    assert "bogus: there is no such command or file; commands are open, demo," in capsys.readouterr().err
    assert main(["reveiw"]) == 2
    assert "write “mirkle review”" in capsys.readouterr().err


def run_as_program(arguments: list[str], **how: object) -> subprocess.CompletedProcess[bytes]:
    return subprocess.run([sys.executable, "-m", "mirkle", *arguments], capture_output=True, check=False, **how)  # type: ignore[call-overload,no-any-return]


def test_a_dash_is_standard_input_and_output(demo: Path, tmp_path: Path) -> None:
    notes = (demo / demo_files.NOTES).read_bytes()
    done = run_as_program(["read", "-", "--json", "-"], input=notes, cwd=tmp_path)
    assert done.returncode == 0
    assert json.loads(done.stdout)["format"] == "mirkle-reading/1"
    assert list(tmp_path.iterdir()) == [], "no file of that name"
    run = (demo / demo_files.MORNING).read_bytes()
    reviewed = run_as_program(["review", "-", "--notes", str(demo / demo_files.NOTES)], input=run)
    assert json.loads(reviewed.stdout)["findings"]
    assert reviewed.stderr == b"", "no progress where there is no terminal"
    nothing = run_as_program(["read", "-"], input=b"")
    assert nothing.returncode == 2
    assert b"nothing came from standard input" in nothing.stderr


def test_a_closed_pipe_ends_quietly_and_a_full_output_says_so(demo: Path) -> None:
    command = f"{sys.executable} -m mirkle read {demo / demo_files.NOTES}"
    closed = subprocess.run(
        ["bash", "-c", f"{command} | head -c 10 > /dev/null; exit ${{PIPESTATUS[0]}}"], capture_output=True, check=False
    )
    assert closed.stderr == b""
    assert closed.returncode in (0, 141)
    full = subprocess.run(["bash", "-c", f"{command} > /dev/full"], capture_output=True, check=False)
    assert full.returncode == 2
    assert b"the output can't be written (No space left on device)" in full.stderr
    assert full.stderr.count(b"\n") == 1


def test_a_sound_that_is_not_there_is_told_before_anything_is_worked_out(
    demo: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("mirkle.session.reviewing.review_material", lambda *_a, **_k: pytest.fail("it was reviewed first"))
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "text.opus").write_text("left 4")
    for name, words in (("gone.opus", "no such file"), ("pipe", "a pipe or a device"), ("text.opus", "neither a sound nor a video")):
        command = ["listen", str(tmp_path / name), "--notes", str(demo / demo_files.NOTES), "--run", str(demo / demo_files.MORNING)]
        assert main(command) == 2
        assert words in capsys.readouterr().err


def test_nothing_is_imported_from_the_current_folder(tmp_path: Path) -> None:
    for name in ("argparse", "difflib", "numpy", "lxml"):
        (tmp_path / f"{name}.py").write_text("raise SystemExit('imported from the current folder')\n")
    notes = tmp_path / "notes.txt"
    notes.write_text("left 3 40\nright 5 60\n")
    started = [sys.executable, "-m", "mirkle", "read", str(notes)]
    told = subprocess.run(started, cwd=tmp_path, capture_output=True, text=True, check=False)
    assert told.returncode == 0, told.stderr
    assert json.loads(told.stdout)["notes"]
