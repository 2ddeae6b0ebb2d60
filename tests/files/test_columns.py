"""Tables whose names don't tell what their columns hold: seen for what they are, said once, and read the same from then on."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from mirkle.core.errors import MirkleError
from mirkle.files.recordings.columns import UnknownColumns, look_at, missing_of, twice_in, with_columns
from mirkle.files.recordings.readers import parse_run
from mirkle.session import settings
from mirkle.session.import_files import load, take_in
from tests.files.test_runs import CSV

ROWS = [r.split(",") for r in CSV.strip().split("\n")[1:]]
# time, latitude, longitude, speed and course, as names that are understood
NAMES = ["time (s)", "lat (deg)", "lon (deg)", "speed (kmh)", "course (deg)"]
BODY = [[*r[:3], f"{float(r[3]) * 3.6:.4f}", r[4]] for r in ROWS]


def written(mark: str, head: list[str], decimal: str = ".") -> bytes:
    return "\n".join([*head, *(mark.join(r).replace(".", decimal) for r in BODY)]).encode()


@pytest.mark.parametrize(
    ("content", "names", "units", "rows_from"),
    [
        (written(",", []), ("",) * 5, ("",) * 5, 1),
        (written(";", ["made by a box", "", "a;b;c;v;k"], ","), tuple("abcvk"), ("",) * 5, 4),
        (written("\t", ["a\tb\tc\tv\tk", "s\t°\t°\tkm/h\t°"]), tuple("abcvk"), ("s", "°", "°", "km/h", "°"), 3),
        (written("|", ["a|b|c|v|k"]).decode().encode("utf-16"), tuple("abcvk"), ("",) * 5, 2),
    ],
)
def test_a_table_reads_as_its_crew_says(content: bytes, names: tuple[str, ...], units: tuple[str, ...], rows_from: int) -> None:
    look = look_at(content)
    assert look is not None
    assert (look.names, look.units, look.rows_from) == (names, units, rows_from)
    run, plain = parse_run(with_columns(content, look, NAMES), name="a"), parse_run(CSV.encode(), name="b")
    assert run.channels.keys() == plain.channels.keys()
    for name, channel in plain.channels.items():
        np.testing.assert_allclose(run.channels[name].time_s, channel.time_s, atol=1e-3)
        np.testing.assert_allclose(run.channels[name].value, channel.value, atol=1e-4)
    assert any("as you said" in str(d) for d in run.doubts)


def test_what_is_said_counts_over_what_the_names_say() -> None:
    """Latitude and longitude stand under each other's names: whoever looks at the numbers sees it."""
    swapped = written(",", ["time_s,lon_deg,lat_deg,speed_kmh,course_deg"])
    look = look_at(swapped)
    assert look is not None
    assert look.known() == ["time_s", "lon_deg", "lat_deg", "speed_kmh", "course_deg"]
    right, wrong = parse_run(with_columns(swapped, look, NAMES), name="a"), parse_run(swapped, name="b")
    np.testing.assert_allclose(right.channels["lat_rad"].value, wrong.channels["lon_rad"].value)


@pytest.mark.parametrize(
    "content",
    [
        "\n".join(f"L{n % 6 + 1} {40 + n} > R{n % 5 + 1} 60" for n in range(60)).encode(),
        "\n".join(f"{n},L4,opens over crest,60" for n in range(60)).encode(),
        b"a,b,c\n" + b"1,2,3\n" * 5,
        b"\x00\x01\x02" * 900,
    ],
)
def test_a_book_and_a_few_lines_are_no_table_of_numbers(content: bytes) -> None:
    assert look_at(content) is None


def test_what_a_run_lacks_is_named() -> None:
    assert missing_of(NAMES) == []
    assert missing_of(["time (s)", "speed (kmh)", "yaw_rate (dps)"]) == []
    assert missing_of(["", "lat (deg)", "speed (kmh)"]) == ["the time", "latitude and longitude, or speed and yaw rate"]
    assert twice_in([*NAMES, "speed"]) == "speed"
    assert twice_in(NAMES) is None


def test_the_next_file_of_the_same_shape_is_read_without_a_question(tmp_path: Path) -> None:
    first, second = tmp_path / "first.csv", tmp_path / "second.csv"
    first.write_bytes(written(";", ["a;b;c;v;k"], ","))
    second.write_bytes(written(";", ["another preamble", "a;b;c;v;k"], ","))
    with pytest.raises(UnknownColumns) as met:
        take_in(first)
    assert met.value.names == ("",) * 5
    settings.keep_columns(met.value.look.shape, NAMES)
    assert take_in(first).material.kind == take_in(second).material.kind == load(second, kind="run").kind == "run"
    third = tmp_path / "third.csv"
    third.write_bytes(written(";", ["a;b;c;v;other"], ","))
    with pytest.raises(UnknownColumns):
        take_in(third)


def test_a_run_without_names_is_no_other_kind_of_file(tmp_path: Path) -> None:
    path = tmp_path / "run.csv"
    path.write_bytes(written(",", []))
    with pytest.raises(MirkleError, match="columns are not known"):
        load(path, kind="run")


def test_columns_said_wrong_are_asked_for_again(tmp_path: Path) -> None:
    path = tmp_path / "run.csv"
    path.write_bytes(written(",", ["a,b,c,v,k"]))
    look = look_at(path.read_bytes())
    assert look is not None
    # The course is no time: it goes back and forth.
    settings.keep_columns(look.shape, ["", "lat (rad)", "lon (rad)", "time (s)", ""])
    with pytest.raises(UnknownColumns) as met:
        take_in(path)
    assert met.value.names == ("", "lat (rad)", "lon (rad)", "time (s)", "")
    assert met.value.what != ""


def test_a_damaged_line_in_front_is_a_comment() -> None:
    for broken in (b"{", b'{"rows_from": 2}', b'{"rows_from": 2, "delimiter": "", "names": []}', b"[" * 5000):
        assert parse_run(b"# mirkle columns " + broken + b"\n" + CSV.encode(), name="a").channels


def test_a_folder_of_a_telephone_is_read_as_its_archive_would_be(tmp_path: Path) -> None:
    folder = tmp_path / "drive"
    folder.mkdir()
    with pytest.raises(MirkleError, match="a folder without a table"):
        take_in(folder)
    place = "\n".join(["time_s,latitude,longitude", *(",".join(r[:3]) for r in ROWS)])
    turning = "\n".join(["time_s,x,y,z", *(f"{r[0]},0.0,0.0,0.1" for r in ROWS)])
    (folder / "Location.csv").write_text(place)
    (folder / "Gyroscope.csv").write_text(turning)
    (folder / "Metadata.csv").write_text("version\n1\n")
    taken, again = take_in(folder), take_in(folder)
    assert taken.material.sha256 == again.material.sha256
    run = parse_run(taken.material.content, name="drive")
    assert {"lat_rad", "lon_rad"} <= set(run.channels)
    assert any("Metadata.csv" in str(d) for d in run.doubts)
