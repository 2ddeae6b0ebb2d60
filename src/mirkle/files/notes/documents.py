"""Books of notes in office documents: their text, a line for each paragraph or row, a tab between the cells of a row. Only text is read;
nothing in them is run or fetched.

What is struck out there comes as ``~~struck out~~``, which the notes' language sets apart as a remark.
"""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Iterable, Iterator
from itertools import groupby
from typing import Any

from mirkle.files.archive import PACKED_FAULTS, read_member
from mirkle.files.detect import UnusableFile

LARGEST_PART_BYTES = 40_000_000
# No book of notes has more columns.
MOST_COLUMNS = 64
_PARTS = {"docx": "word/document.xml", "xlsx": "xl/workbook.xml", "odt": "content.xml"}
# How a text marks what is struck out.
STRUCK = "~~"
_RTF_PIECE = re.compile(r"\\[{}\\]|[{}]|\\(striked?)(-?\d*)[ ]?|\\(plain|par|line)(?![a-z])[ ]?")
_CELL = re.compile(r"\\(?:nest)?cell(?![a-z])")


def is_document(content: bytes) -> bool:
    """Whether the bytes are a text document or a spreadsheet of an office program."""
    return content.startswith(b"{\\rtf") or _kind_of(content) is not None


def text_of(content: bytes, *, name: str) -> str:
    """The text of a document: a line for each paragraph, and for each row of a table, a tab between its cells.

    Raises
    ------
    UnusableFile
        It is damaged, locked or too large.
    """
    if content.startswith(b"{\\rtf"):
        try:
            return _rtf(content.decode("latin-1"))
        except (OverflowError, ValueError):
            raise UnusableFile("the document is damaged", mend="save its text as plain text", where=name) from None
    kind = _kind_of(content)
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            lines = list({"docx": _docx, "xlsx": _xlsx, "odt": _opendocument}[kind or ""](archive))
    except UnusableFile:
        raise
    except (*PACKED_FAULTS, KeyError, SyntaxError, IndexError, RecursionError):
        raise UnusableFile("the document is damaged or locked", mend="save its text as plain text", where=name) from None
    return "\n".join(line.strip(" ") if "\t" in line else line.strip() for line in lines)


def _kind_of(content: bytes) -> str | None:
    if not content.startswith(b"PK"):
        return None
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            names = set(archive.namelist())
    except PACKED_FAULTS:
        return None
    return next((kind for kind, part in _PARTS.items() if part in names), None)


def _tree(archive: zipfile.ZipFile, part: str) -> Any:
    from lxml import etree

    parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
    content = read_member(archive, archive.getinfo(part), LARGEST_PART_BYTES, mend="save its text as plain text")
    return etree.fromstring(content, parser)


def _docx(archive: zipfile.ZipFile) -> Iterator[str]:
    tree = _tree(archive, _PARTS["docx"])
    for block in tree.iter("{*}p", "{*}tr"):
        if _local(block) == "tr":
            yield _row(_runs(cell) for cell in block.iterfind("{*}tc"))
        elif not any(_local(a) == "tc" for a in block.iterancestors()):
            yield from _runs(block).split("\n")


def _runs(block: Any) -> str:
    """The text of a paragraph's runs, a break as a new line."""
    words = {"tab": " ", "br": "\n", "cr": "\n"}
    pieces: list[tuple[str, bool]] = []
    for element in block.iter():
        kind = _local(element) if isinstance(element.tag, str) else ""
        text = (element.text or "") if kind == "t" else words.get(kind, "")
        if text:
            pieces.append((text, _is_struck(element.getparent())))
    return _marked(pieces)


def _is_struck(run: Any) -> bool:
    marks = [] if run is None else [m for name in ("strike", "dstrike") for m in run.iterfind(f"{{*}}rPr/{{*}}{name}")]
    return any(next((v for k, v in m.attrib.items() if k.endswith("val")), "1") not in ("0", "false", "off") for m in marks)


def _marked(pieces: Iterable[tuple[str, bool]]) -> str:
    """Pieces of text put together, with what is struck out marked as such on each line; white space around it stays outside."""
    out = []
    for struck, group in groupby(pieces, key=lambda p: p[1]):
        text = "".join(t for t, _ in group)
        out.append(re.sub(r"[^\s](?:[^\n]*[^\s])?", rf"{STRUCK}\g<0>{STRUCK}", text) if struck else text)
    return "".join(out)


def _xlsx(archive: zipfile.ZipFile) -> Iterator[str]:
    shared: list[str] = []
    if "xl/sharedStrings.xml" in archive.namelist():
        for item in _tree(archive, "xl/sharedStrings.xml").iterfind("{*}si"):
            shared.append("".join(t.text or "" for t in item.iter("{*}t")))
    sheets = sorted(n for n in archive.namelist() if re.fullmatch(r"xl/worksheets/sheet\d+\.xml", n))
    for sheet in sheets:
        for row in _tree(archive, sheet).iter("{*}row"):
            line = _row(_xlsx_cells(row, shared))
            if line.strip():
                yield line


def _xlsx_cells(row: Any, shared: list[str]) -> Iterator[str]:
    """The cells of a row in their columns: those that are empty are not written, so each says where it stands."""
    at = 0
    for cell in row.iterfind("{*}c"):
        column = _column(cell.get("r") or "")
        for _ in range(at, min(column, MOST_COLUMNS)):
            yield ""
        at = max(at, column) + 1
        yield _cell(cell, shared)


def _column(place: str) -> int:
    """The number of a column from the place of a cell, such as "C7", from nought on; nought where it says none."""
    column = 0
    for letter in place.rstrip("0123456789"):
        column = 26 * column + ord(letter.upper()) - ord("A") + 1
    return max(column - 1, 0)


def _row(cells: Iterable[str]) -> str:
    """The cells of a row with a tab between two, and none behind the last that is filled; cells that are texts of several lines each follow
    one another."""
    row = [cell.strip() for cell in cells]
    if all("\n" in cell for cell in row if cell):
        return "\n".join(filter(None, row))
    return "\t".join(" ".join(cell.split()) for cell in row).rstrip("\t")


def _cell(cell: Any, shared: list[str]) -> str:
    value = cell.findtext("{*}v") or ""
    if cell.get("t") == "s":
        return shared[int(value)].strip() if value.isdigit() and int(value) < len(shared) else ""
    if cell.get("t") == "inlineStr":
        return "".join(t.text or "" for t in cell.iter("{*}t")).strip()
    # A number that is whole is written as one.
    return value.removesuffix(".0").strip()


def _opendocument(archive: zipfile.ZipFile) -> Iterator[str]:
    tree = _tree(archive, _PARTS["odt"])
    struck = _struck_styles(tree)
    for block in tree.iter("{*}p", "{*}h", "{*}table-row"):
        if _local(block) == "table-row":
            line = _row(_opendocument_cells(block, struck))
            if line.strip():
                yield line
        elif not any(_local(a) == "table-cell" for a in block.iterancestors()):
            yield from _marked(_words(block, struck)).split("\n")


def _opendocument_cells(row: Any, struck: frozenset[str]) -> Iterator[str]:
    """The cells of a row in their columns; one that is repeated stands there once, with how often."""
    for cell in row.iterfind("{*}table-cell"):
        again = next((v for k, v in cell.attrib.items() if k.endswith("}number-columns-repeated")), "1")
        text = _marked(_words(cell, struck))
        yield text
        for _ in range(min(int(again), MOST_COLUMNS) - 1 if again.isdecimal() else 0):
            yield text


def _struck_styles(tree: Any) -> frozenset[str]:
    """The styles of a document that strike their text out."""
    found = set()
    for style in tree.iter("{*}style"):
        lines = [
            v
            for p in style.iterfind("{*}text-properties")
            for k, v in p.attrib.items()
            if "text-line-through-style" in k or "text-line-through-type" in k
        ]
        name = next((v for k, v in style.attrib.items() if k.endswith("}name")), "")
        if any(line != "none" for line in lines):
            found.add(name)
    return frozenset(found)


def _words(element: Any, struck: frozenset[str], out: bool = False) -> Iterator[tuple[str, bool]]:
    """The pieces of text in an element, each with whether it is struck out."""
    style = next((v for k, v in element.attrib.items() if k.endswith("}style-name")), "")
    out = out or style in struck
    yield element.text or "", out
    for child in element:
        if isinstance(child.tag, str):
            sign = {"line-break": "\n", "tab": " ", "s": " "}.get(_local(child), "")
            if sign:
                yield sign, out
            else:
                yield from _words(child, struck, out)
        yield child.tail or "", out


def _local(element: Any) -> str:
    return str(element.tag).rpartition("}")[2]


def _rtf(text: str) -> str:
    """The plain text of an RTF document; the cells of a row stand after each other."""
    from striprtf.striprtf import rtf_to_text

    plain: str = rtf_to_text(_CELL.sub(r"\\tab", _rtf_struck(text)), errors="replace")  # type: ignore[no-untyped-call]
    plain = plain.replace("\xa0", " ")
    # A sign beyond the first 65,536 is written as two halves, which belong together.
    whole = plain.encode("utf-16", "surrogatepass").decode("utf-16", "replace")
    return re.sub(r" *\t *| +", lambda gap: "\t" if "\t" in gap[0] else " ", whole)


def _rtf_struck(text: str) -> str:
    """An RTF text with its marks for what is struck out written into its words."""
    states = [False]
    out, at = [], 0
    for piece in _RTF_PIECE.finditer(text):
        before = states[-1]
        if piece[0] == "{":
            states.append(before)
        elif piece[0] == "}" and len(states) > 1:
            states.pop()
        elif piece[1]:
            states[-1] = piece[2] != "0"
        elif piece[3] == "plain":
            states[-1] = False
        # The mark stands inside of the group that it ends with, and on both sides of a line's end.
        breaks = before and piece[3] in ("par", "line")
        mark = STRUCK if states[-1] != before or breaks else ""
        kept = "" if piece[1] else piece[0]
        out += [text[at : piece.start()], *((mark, kept) if before else (kept, mark)), STRUCK * breaks]
        at = piece.end()
    return "".join(out) + text[at:]
