"""Books in office documents, written with general-purpose libraries and read as plain text is; words as other programs write them."""

from __future__ import annotations

import io
import zipfile
from contextlib import suppress
from html import escape
from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.speech import reading
from mirkle.files.notes.documents import is_document, text_of
from mirkle.files.notes.text import parse_notes
from mirkle.files.speech.timed_text import looks_like_calls, parse_calls, timed_blocks
from mirkle.session.import_files import take_in

BOOK = ["page 1", "start 80", "L4 long 60", "R3 >2 dc into", "L hp 40", "R5 /cr 120", "page 2", "L4 crest 60", "caut R2 30"]
PLAIN = parse_notes("\n".join(BOOK).encode(), name="plain.txt")


def docx() -> bytes:
    docx_ = pytest.importorskip("docx")
    document, out = docx_.Document(), io.BytesIO()
    for line in BOOK[:4]:
        document.add_paragraph(line)
    table = document.add_table(rows=0, cols=2)
    for line in BOOK[4:6]:
        cells = table.add_row().cells
        cells[0].text, cells[1].text = line.rpartition(" ")[0], line.rpartition(" ")[2]
    document.add_paragraph("\n".join(BOOK[6:]))
    document.save(out)
    return out.getvalue()


def xlsx() -> bytes:
    openpyxl = pytest.importorskip("openpyxl")
    book, out = openpyxl.Workbook(), io.BytesIO()
    for line in BOOK:
        head, _, last = line.rpartition(" ")
        book.active.append([head, int(last) if last.isdigit() else last])
    book.save(out)
    return out.getvalue()


def odt(kind: str = "text") -> bytes:
    """As the standard lays it out: paragraphs, or rows of a sheet."""
    if kind == "text":
        body = "".join(f"<text:p>{escape(line).replace(' ', '<text:s/>', 1)}</text:p>" for line in BOOK)
    else:
        cell = "<table:table-cell><text:p>{}</text:p></table:table-cell>"
        body = "".join(f"<table:table-row>{''.join(cell.format(escape(c)) for c in line.split())}</table:table-row>" for line in BOOK)
    spaces = "".join(f' xmlns:{n}="urn:oasis:names:tc:opendocument:xmlns:{n}:1.0"' for n in ("office", "text", "table"))
    xml = f"<office:document-content{spaces}><office:body>{body}</office:body></office:document-content>"
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("mimetype", "application/vnd.oasis.opendocument.text")
        archive.writestr("content.xml", xml)
    return out.getvalue()


RTF = (
    r"{\rtf1\ansi\ansicpg1252{\fonttbl{\f0 Arial;}}{\colortbl;\red0\green0\blue0;}{\*\generator x;}\f0\fs24 "
    + r"\par ".join(BOOK)
    + r"\par}"
).encode()
DOCUMENTS = {"docx": docx, "xlsx": xlsx, "odt": odt, "ods": lambda: odt("sheet"), "rtf": lambda: RTF}


@pytest.mark.parametrize("kind", DOCUMENTS)
def test_a_book_in_a_document_reads_as_its_text_does(kind: str, tmp_path: Path) -> None:
    path = tmp_path / f"book.{kind}"
    path.write_bytes(DOCUMENTS[kind]())
    taken = take_in(path)
    assert taken.material.kind == "notes"
    own = parse_notes(taken.material.content, name=path.name)
    told = [(n.direction, n.grade, n.changes, n.features, n.distance_m, n.link, n.page) for n in own.notes]
    assert told == [(n.direction, n.grade, n.changes, n.features, n.distance_m, n.link, n.page) for n in PLAIN.notes]
    assert not any(n.unread for n in own.notes)


def struck_docx() -> bytes:
    docx_ = pytest.importorskip("docx")
    document, out = docx_.Document(), io.BytesIO()
    paragraph = document.add_paragraph()
    paragraph.add_run("left ")
    paragraph.add_run("5").font.strike = True
    paragraph.add_run(" 4 60")
    document.add_paragraph().add_run("left 1 20").font.double_strike = True
    paragraph = document.add_paragraph()
    paragraph.add_run("right 3 40").font.strike = False
    document.save(out)
    return out.getvalue()


def struck_odt() -> bytes:
    names = ("office", "text", "style")
    spaces = "".join(f' xmlns:{n}="urn:oasis:names:tc:opendocument:xmlns:{n}:1.0"' for n in names)
    style = '<style:style style:name="T1" style:family="text"><style:text-properties style:text-line-through-style="{}"/></style:style>'
    body = (
        '<text:p>left <text:span text:style-name="T1">5</text:span> 4 60</text:p>'
        '<text:p text:style-name="T1">left 1 20</text:p><text:p text:style-name="T2">right 3 40</text:p>'
    )
    xml = (
        f"<office:document-content{spaces}><office:automatic-styles>{style.format('solid')}"
        f"{style.format('none').replace('T1', 'T2')}</office:automatic-styles><office:body>{body}</office:body></office:document-content>"
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("mimetype", "application/vnd.oasis.opendocument.text")
        archive.writestr("content.xml", xml)
    return out.getvalue()


STRUCK = {
    "docx": struck_docx,
    "odt": struck_odt,
    "rtf": lambda: rb"{\rtf1\ansi left {\strike 5} 4 60\par\striked1 left 1 20\par\strike0 right 3 40\par}",
}


@pytest.mark.parametrize("kind", STRUCK)
def test_what_is_struck_out_in_a_document_is_not_called(kind: str) -> None:
    reading = parse_notes(STRUCK[kind](), name=f"book.{kind}")
    assert [(n.grade, n.distance_m) for n in reading.notes] == [("4", 60), ("3", 40)]
    assert [r for n in reading.notes for r in n.remarks] == ["~~5~~", "~~left 1 20~~"]


def test_letters_of_other_alphabets_come_out_of_rich_text() -> None:
    assert text_of(rb"{\rtf1\ansi\uc1 long\'ed{\*\x hidden} \u233?cole {\pict 00ff}\{x\}\~y\line z}", name="x").split("\n") == [
        "longí école {x} y",
        "z",
    ]


def test_a_sign_that_no_alphabet_has_is_refused_in_a_sentence() -> None:
    with pytest.raises(MirkleError, match="the document is damaged"):
        parse_notes(b"{\\rtf1 \\u" + b"9" * 30 + b" L4 60}", name="book.rtf")


def test_a_damaged_document_is_refused_in_a_sentence(tmp_path: Path) -> None:
    whole = odt()
    for at in range(40, len(whole), 97):
        harmed = whole[:at] + bytes([whole[at] ^ 0xFF]) + whole[at + 1 :]
        if is_document(harmed):
            with suppress(MirkleError):
                text_of(harmed, name="book.odt")
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("content.xml", b"<a>" + b" " * 60_000_000 + b"</a>")
    (tmp_path / "bomb.odt").write_bytes(out.getvalue())
    with pytest.raises(MirkleError, match="over 40 MB"):
        take_in(tmp_path / "bomb.odt")


# Words


ROLLING = """WEBVTT

00:00:01.000 --> 00:00:03.000
left<00:00:01.300><c> four</c><00:00:01.700><c> long</c>

00:00:03.000 --> 00:00:03.010
left four long

00:00:03.010 --> 00:00:05.000
left four long
sixty<00:00:03.400><c> right</c><00:00:03.900><c> three</c>

00:00:05.000 --> 00:00:05.010
sixty right three

00:00:05.010 --> 00:00:07.000
sixty right three
into<00:00:05.500><c> left</c><00:00:05.900><c> five</c><00:00:06.200><c> eighty</c>
"""


def said(text: str) -> list[tuple[float, str]]:
    source, blocks = timed_blocks(text, name="calls")
    return [(b.start_s, " ".join(source[b.span.start : b.span.end].split())) for b in blocks]


def test_rolling_captions_are_read_once_and_by_their_words_times() -> None:
    speech = parse_calls(ROLLING.encode(), name="calls.vtt")
    assert [(n.direction.value, n.grade) for n in speech.reading.corners] == [("left", "4"), ("right", "3"), ("left", "5")]
    starts = [s.from_s for n, s in zip(speech.reading.notes, speech.said, strict=True) if n.is_corner]
    assert starts == pytest.approx([1.0, 3.4, 5.5], abs=0.35)


OTHERS = {
    "sbv": "0:00:01.000,0:00:03.000\nleft four long\n\n0:00:03.500,0:00:05.000\nsixty right three\n",
    "ttml": '<?xml version="1.0"?><tt xmlns="http://www.w3.org/ns/ttml"><body><div><p begin="00:00:01.000" end="00:00:03.000">left '
    'four<br/>long</p><p begin="3.5s" end="5s">sixty <span>right</span> three</p></div></body></tt>',
    "ass": "[Script Info]\nTitle: x\n\n[Events]\nFormat: Layer, Start, End, Style, Text\n"
    "Dialogue: 0,0:00:01.00,0:00:03.00,Default,{\\b1}left four\\Nlong\nDialogue: 0,0:00:03.50,0:00:05.00,Default,sixty right three\n",
    "overlapping srt": "1\n00:00:01,000 --> 00:00:04,000\nleft four long\n\n2\n00:00:03,500 --> 00:00:05,000\nsixty right three\n",
}


@pytest.mark.parametrize("form", OTHERS)
def test_words_of_every_form_are_read_alike(form: str, tmp_path: Path) -> None:
    assert looks_like_calls(OTHERS[form])
    (tmp_path / "words.txt").write_text(OTHERS[form])
    assert take_in(tmp_path / "words.txt").material.kind == "calls"
    assert said(OTHERS[form]) == [(1.0, "left four long"), (3.5, "sixty right three")]


def test_a_long_text_is_not_put_together_again_for_each_cue(monkeypatch: pytest.MonkeyPatch) -> None:
    """Said again and again, a phrase is found in a few rounds, however often that is: counted in rounds, not by a clock."""
    rounds: list[int] = []
    whole = reading.assemble
    monkeypatch.setattr(reading, "assemble", lambda *given: rounds.append(1) or whole(*given))

    def counted(count: int) -> int:
        rounds.clear()
        cues = [f"00:{n // 60:02d}:{n % 60:02d}.000 --> 00:{n // 60:02d}:{n % 60:02d}.500\nleft four sixty\n" for n in range(count)]
        parse_calls(("WEBVTT\n\n" + "\n".join(cues)).encode(), name="calls.vtt")
        return len(rounds)

    assert counted(60) > 1
    assert counted(900) <= counted(60) + 6
