"""What a file is before it is read: text or not, sound or not, too large, packed; each refused with one sentence."""

from __future__ import annotations

import gzip
import json
from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError
from mirkle.files import demo_files
from mirkle.files.audio.media import is_media, media_path, reference, shipped_reference
from mirkle.files.detect import UnusableFile, decoded, read_bytes, unpacked
from mirkle.files.notes.text import parse_notes
from mirkle.files.recordings.gpx import parse_gpx_run
from mirkle.files.speech.timed_text import parse_calls
from mirkle.session.import_files import take_in

BEGINNINGS = {
    "wav": (b"RIFF\x24\x00\x00\x00WAVEfmt ", True),
    "flac": (b"fLaC\x00\x00\x00\x22", True),
    "opus": (b"OggS\x00\x02", True),
    "tagged mp3": (b"ID3\x04\x00", True),
    "bare mp3": (b"\xff\xfb\x90\x64", True),
    "video": (b"\x00\x00\x00\x20ftypisom", True),
    "other video": (b"\x1aE\xdf\xa3\x01", True),
    "notes": (b"L4 80\nR3 60\n", False),
    "utf-16 notes": ("L4 80\n".encode("utf-16"), False),
    "picture": (b"\x89PNG\r\n\x1a\n", False),
    "empty": (b"", False),
}


@pytest.mark.parametrize("kind", BEGINNINGS)
def test_sound_and_video_are_known_by_how_they_begin(kind: str, tmp_path: Path) -> None:
    content, media = BEGINNINGS[kind]
    path = tmp_path / "file.dat"
    path.write_bytes(content)
    assert is_media(path) is media
    assert not is_media(tmp_path / "not there")


def test_sound_stays_where_it_is_and_is_known_again(tmp_path: Path) -> None:
    sound = tmp_path / "pass.wav"
    sound.write_bytes(BEGINNINGS["wav"][0])
    kept = reference(sound)
    assert len(kept.content) < 400
    assert media_path(kept) == sound
    sound.write_bytes(b"RIFF another recording")
    with pytest.raises(MirkleError, match="not the file that was added; drop the right one"):
        media_path(kept)
    sound.unlink()
    with pytest.raises(MirkleError, match="no longer there; drop it on the window again"):
        media_path(kept)
    with pytest.raises(UnusableFile, match="it can't be read"):
        reference(sound)
    assert media_path(shipped_reference(demo_files.SOUND)).is_file()
    assert "/" not in json.loads(shipped_reference(demo_files.SOUND).content)["path"]


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "the file is empty; choose the file with some notes"),
        (b"\x89PNG\r\n\x1a\n....", "this is a PNG picture, and pictures of notes are not read; type the notes in"),
        (b"L4 80\x00\x01", "binary data, not text"),
        (b"x" * 2_000, "it is 0 MB, and some notes is under 0 MB; export the one stage alone"),
    ],
)
def test_what_is_no_text_is_refused(content: bytes, words: str, tmp_path: Path) -> None:
    path = tmp_path / "notes.txt"
    path.write_bytes(content)
    with pytest.raises(UnusableFile, match=words) as fault:
        read_bytes(path, largest=1_000, wanted="some notes")
    assert fault.value.sentence.startswith("notes.txt: ")


def test_folders_and_missing_files_are_said(tmp_path: Path) -> None:
    with pytest.raises(UnusableFile, match="this is a folder; choose the file with some notes"):
        read_bytes(tmp_path, largest=1_000, wanted="some notes")
    with pytest.raises(UnusableFile, match="there is no such file; check its name and folder"):
        read_bytes(tmp_path / "gone.txt", largest=1_000, wanted="some notes")


@pytest.mark.parametrize(
    ("packed", "words"),
    [
        (gzip.compress(b"time_s,speed_kmh\n1,2\n", mtime=0)[:-9], "packed file is damaged; copy it again"),
        (gzip.compress(b"", mtime=0), "the file is empty"),
        (gzip.compress(b"0" * 5_000, mtime=0), "unpacked it is over 0 MB"),
        (gzip.compress(b"\x00\x01\x02", mtime=0), "binary data"),
    ],
)
def test_packed_files_are_looked_into(packed: bytes, words: str) -> None:
    with pytest.raises(UnusableFile, match=words):
        unpacked(packed, name="run.csv.gz", largest=1_000, wanted="a recording")


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_text_of_any_habit_is_decoded(encoding: str) -> None:
    assert decoded("esquerda 4 não cortar\n".encode(encoding), name="n") == "esquerda 4 não cortar\n"


def gpx(*points: str) -> bytes:
    body = "".join(points)
    return f'<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{body}</trkseg></trk></gpx>'.encode()


def point(second: int, *, time: str = "2026-05-02T10:00:{0:02d}Z", more: str = "") -> str:
    return f'<trkpt lat="{44 + second * 2e-4:.5f}" lon="-33.5"><time>{time.format(second)}</time>{more}</trkpt>'


def test_gpx_times_may_have_a_zone_or_none_and_points_without_one_are_left_out() -> None:
    plain = parse_gpx_run(gpx(*[point(s) for s in range(30)]), name="a.gpx")
    zoned = parse_gpx_run(gpx(*[point(s, time="2026-05-02T12:00:{0:02d}+02:00") for s in range(30)]), name="b.gpx")
    bare = parse_gpx_run(gpx(*[point(s, time="2026-05-02T10:00:{0:02d}") for s in range(30)]), name="c.gpx")
    holed = parse_gpx_run(gpx(*[point(s, time="noon" if s == 7 else "2026-05-02T10:00:{0:02d}Z") for s in range(30)]), name="d")
    for other in (zoned, bare):
        assert other.channels["lat_rad"].time_s.tolist() == plain.channels["lat_rad"].time_s.tolist()
    assert len(holed.channels["lat_rad"].time_s) == 29


def test_gpx_extensions_are_taken_where_they_are_numbers() -> None:
    extra = "<extensions><speed>{0}</speed></extensions>"
    run = parse_gpx_run(gpx(*[point(s, more=extra.format("fast" if s == 3 else 10 + s)) for s in range(30)]), name="e.gpx")
    speed = run.channels["speed_mps"]
    assert len(speed.value) == 29
    assert speed.value[0] == 10.0
    assert 3.0 not in speed.time_s


def test_a_point_that_is_no_number_is_named_by_its_line() -> None:
    broken = point(5).replace('lon="-33.5"', 'lon="west"')
    with pytest.raises(UnusableFile, match=r"f.gpx, line 3.*not a number; mend or remove that point"):
        parse_gpx_run(gpx(*[point(s) for s in range(5)], "\n\n", broken), name="f.gpx")


BOOK = "L4 80\nR3 60 – não cortar\nL5 “long” 40\nR2 into\nL6 … don’t cut 120\n"


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "cp1252", "mac-roman"])
def test_a_books_dashes_and_quotes_are_read_in_every_code(encoding: str) -> None:
    assert decoded(BOOK.encode(encoding), name="n") == BOOK


@pytest.mark.parametrize("word", ["esquerda não súbita é", "direção às", "ção", "Öffnet für Länge", "piñón más"])
@pytest.mark.parametrize("encoding", ["cp1252", "mac-roman"])
def test_letters_with_accents_are_told_in_both_codes_of_a_byte(word: str, encoding: str) -> None:
    text = f"L4 80 {word} 60\n"
    assert decoded(text.encode(encoding), name="n") == text


@pytest.mark.parametrize("first", ["< R4 80", "<< L5 40", "<SS4 Quarry>"])
def test_a_book_may_begin_with_the_sign_for_opens(first: str, tmp_path: Path) -> None:
    path = tmp_path / "notes.txt"
    path.write_text(f"{first}\nL3 > 60\nR2 into\nL6 120\nR4 30\n")
    assert take_in(path).material.kind == "notes"
    path.write_text('<?xml version="1.0"?>\n<list><row/></list>')
    with pytest.raises(UnusableFile, match="this XML has neither"):
        take_in(path)


def test_a_line_that_never_ends_is_refused_before_anything_is_made_of_it(tmp_path: Path) -> None:
    path = tmp_path / "run.csv"
    path.write_bytes(b"time_s,lat_deg,lon_deg\n" + b"1," * 1_500_000)
    with pytest.raises(UnusableFile, match="line 2: one of its lines never ends"):
        take_in(path)


def test_more_text_than_a_season_of_books_is_refused_before_it_is_read() -> None:
    with pytest.raises(MirkleError, match="more than any book"):
        parse_notes(b"L4 60\n" * 100_000, name="n.txt")
    with pytest.raises(MirkleError, match="over 50000 words"):
        parse_notes(b"1 " * 60_000, name="n.txt")
    with pytest.raises(MirkleError, match="more than anybody says"):
        parse_calls(b"WEBVTT\n\n00:00.000 --> 00:01.000\n" + b"left 4 " * 100_000, name="c.vtt")
