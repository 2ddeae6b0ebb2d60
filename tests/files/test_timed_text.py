"""Timed text in every shape that recognisers give it."""

import io
import json
from itertools import pairwise
from pathlib import Path

import pytest
import webvtt

from mirkle.core.errors import MirkleError
from mirkle.core.speech.reading import Block
from mirkle.files.speech.timed_text import looks_like_calls, parse_calls, timed_blocks

VTT = """WEBVTT - made by a recogniser

NOTE a comment that is no speech

intro
00:00:01.000 --> 00:00:03.500 align:start
start 80 left 4 60

00:03.600 --> 00:05.000
<c.loud>right 3</c> 40

1:00:06.250 --> 1:00:08.000
left 2 into
right 5 100
"""
SRT = """1
00:00:01,000 --> 00:00:03,500
start 80 left 4 60

2
00:00:03,600 --> 00:00:05,000
right 3 40
"""


def said(text: str) -> list[tuple[float, float | None, str]]:
    source, blocks = timed_blocks(text, name="x")

    def row(b: Block) -> tuple[float, float | None, str]:
        return b.start_s, b.end_s, " ".join(source[b.span.start : b.span.end].split())

    return [row(b) for b in blocks]


def test_cues_agree_with_a_general_purpose_reader() -> None:
    """webvtt-py, a library for subtitles; it gives an hour's cue the same seconds."""
    theirs = webvtt.from_buffer(io.StringIO(VTT))
    ours = said(VTT)
    assert [w for *_, w in ours] == ["start 80 left 4 60", "right 3", "40", "left 2 into right 5 100"]
    assert [s for s, *_ in ours] == [1.0, 3.6, 3.6, 3606.25]
    assert " ".join(w for *_, w in ours) == " ".join(" ".join(c.text.split()) for c in theirs)
    assert ours[0][1] == theirs[0].end_in_seconds + 0.5  # its property leaves out the milliseconds


def test_srt_agrees_with_a_general_purpose_reader(tmp_path: Path) -> None:
    (tmp_path / "calls.srt").write_text(SRT)
    theirs = webvtt.from_srt(str(tmp_path / "calls.srt"))
    assert said(SRT) == [(1.0, 3.5, "start 80 left 4 60"), (3.6, 5.0, "right 3 40")]
    assert [c.text for c in theirs] == [w for *_, w in said(SRT)]


def test_stamped_lines_last_until_the_next() -> None:
    assert said("[1:02] left 4\nand more\n[1:02:03.5] right 3") == [(62.5, None, "left 4 and more"), (3723.5, None, "right 3")]


@pytest.mark.parametrize(
    "text",
    [
        "0:05\nleft 4\n1:10.5\nright 3\n1:20\nleft 5\n",
        "Speaker 1  0:05\nleft 4\n\nSpeaker 2  1:10.5\nright 3\n\nSpeaker 1  1:20\nleft 5\n",
        "0:05 Co-driver: left 4\n1:10.5 Driver: right 3\n1:20 Co-driver: left 5\n",
    ],
)
def test_times_stand_above_the_words_or_in_front_of_who_said_them(text: str) -> None:
    assert looks_like_calls(text)
    assert said(text) == [(5.5, None, "left 4"), (70.5, None, "right 3"), (80.5, None, "left 5")]


@pytest.mark.parametrize(
    "text",
    [
        "start\tend\ttext\n5000\t9000\tleft 4\n170500\t180000\tright 3\n",
        "word,start,end,confidence\nleft 4,5.0,9.0,0.9\nright 3,170.5,180.0,0.8\n",
        'Text;Start time;End time\n"left 4";0:05;0:09\nright 3;2:50.5;3:00\nlovely;soon;later\n',
    ],
)
def test_a_table_of_words_is_read_by_its_headings(text: str) -> None:
    assert looks_like_calls(text)
    assert said(text) == [(5.0, 9.0, "left 4"), (170.5, 180.0, "right 3")]


def test_words_in_a_table_without_ends_last_until_the_next() -> None:
    assert said("Time,Text\n00:05,left 4\n00:08,right 3\n") == [(5.0, 8.0, "left 4"), (8.0, 8.5, "right 3")]


@pytest.mark.parametrize(
    "text", ["L4 60 0:05\nR3 80 0:09\nL5 0:12\n", "0:05 L4\n0:09 R3\n0:12 L5\n", "from,to,note\n0,60,L4\n", "Start 9:00\nL4 60\nR3 80\n"]
)
def test_a_book_with_times_is_a_book(text: str) -> None:
    assert not looks_like_calls(text)


@pytest.mark.parametrize(
    "tree",
    [
        {
            "segments": [
                {
                    "start": 1,
                    "text": "left 4 60",
                    "words": [
                        {"word": " left", "start": 1.0, "end": 1.2},
                        {"word": " 4", "start": 1.3, "end": 1.4},
                        {"word": " 60", "start": 1.5, "end": 1.9},
                    ],
                }
            ]
        },
        [{"text": "left", "start": 1.0, "end": 1.2}, {"text": "4", "start": 1.3}, {"text": "60", "start": 1.5}],
    ],
)
def test_json_with_a_time_for_each_word(tree: object) -> None:
    rows = said(json.dumps(tree))
    assert [(s, w) for s, _, w in rows] == [(1.0, "left"), (1.3, "4"), (1.5, "60")]


def test_word_times_are_kept_to_the_word() -> None:
    words = [{"word": w, "start": 0.5 * i, "end": 0.5 * i + 0.3} for i, w in enumerate(["left", "4", "60", "right", "3", "80"])]
    speech = parse_calls(json.dumps({"words": words}).encode(), name="w.json")
    assert [w.at_s for w in speech.words] == [0.5 * i for i in range(6)]
    assert [s.from_s for s in speech.said] == [0.0, 1.5]


@pytest.mark.parametrize("text", [VTT, SRT, "[0:10] left 4 60", '{"words": [{"word": "left", "start": 1}]}'])
def test_timed_text_is_told_from_notes(text: str) -> None:
    assert looks_like_calls(text)
    assert not looks_like_calls("page 1\nleft 4 60\nright 3 40\n")


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("left 4 60", "no times"),
        ("{ broken", "not valid JSON"),
        ('{"a": []}', "no words with times"),
        ("[0:10] lovely weather today", "no corner"),
        ("[5:00] left 4\n[1:00] right 3\n[6:00] left 4\n[0:10] right 2\n[0:05] left 5\n[0:01] right 4", "go back"),
        ("[" * 60_000, "no times"),
        ("[{" * 60_000, "not valid JSON"),
    ],
)
def test_what_is_no_timed_text_gets_one_sentence(text: str, sentence: str) -> None:
    with pytest.raises(MirkleError, match=sentence) as fault:
        parse_calls(text.encode(), name="calls.vtt")
    assert fault.value.sentence.startswith("calls.vtt")
    assert fault.value.mend


LEFT = b"00:00:01.000 --> 00:00:03.000\n"


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"WEBVTT\n\n" + LEFT + b"right 2 long 00:00:04.367 --> 00:00:06.000\nleft 3 60\n", ["right 2 long", "left 3 60"]),
        (b"WEBVTT 00:00:01.000 --> 00:00:03.000 left 4 80 00:00:04.000 --> 00:00:06.000 right 3 60", ["left 4 80", "right 3 60"]),
        (b"WEBVTT\n\n0:00:01 --> 0:00:03\nright 2 long 0:00:04 --> 0:00:06\nleft 3 60\n", ["right 2 long", "left 3 60"]),
        (b"[00:01] left 4 80\n[00:04] right 3 60 00:00:07.000 left 5 into\n", ["left 4 80", "right 3 60", "left 5 into"]),
    ],
)
def test_cue_times_are_never_words_wherever_line_ends_were_lost(content: bytes, said: list[str]) -> None:
    notes = parse_calls(content, name="x.vtt").reading.notes
    assert [" ".join(n.text.split()) for n in notes] == said
    assert [n.unread for n in notes] == [()] * len(said)


def test_captions_that_roll_are_read_once_and_it_is_said() -> None:
    lines = ["", "left 4 80", "right 3 60", "left 5 into", "right 2 40"]
    cues = [f"00:0{i}.000 --> 00:0{i + 2}.000\n{a}\n{b}" for i, (a, b) in enumerate(pairwise(lines))]
    reading = parse_calls(("WEBVTT\n\n" + "\n\n".join(cues)).encode(), name="x.vtt").reading
    assert len(reading.notes) == 4
    assert any("each line stands there twice, and was read once" in str(d) for d in reading.doubts)
    plain = parse_calls(b"WEBVTT\n\n00:01.000 --> 00:02.000\nleft 4 80\n\n00:03.000 --> 00:04.000\nright 3 60\n", name="x.vtt")
    assert not any("roll" in str(d) for d in plain.reading.doubts)
