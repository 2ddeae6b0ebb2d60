"""Books of notes in office documents: their text, a line for each paragraph or row. Only text is read; nothing in them is run or fetched."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Iterator
from typing import Any

from mirkle.files.archive import PACKED_FAULTS, read_member
from mirkle.files.sniff import UnusableFile

LARGEST_PART_BYTES = 40_000_000
_PARTS = {
    "docx": "word/document.xml", "xlsx": "xl/workbook.xml", "odt": "content.xml",
}  # fmt: skip
_CELL = re.compile(r"\\(?:nest)?cell(?![a-z])")


def is_document(content: bytes) -> bool:
    """Whether the bytes are a text document or a spreadsheet of an office program."""
    return content.startswith(b"{\\rtf") or _kind_of(content) is not None


def text_of(content: bytes, *, name: str) -> str:
    """The text of a document: a line for each paragraph, a line for each row of a table with its cells after each other.

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
        raise UnusableFile(
            "the document is damaged or locked", mend="save its text as plain text", where=name
        ) from None
    return "\n".join(line.strip() for line in lines)


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
            yield " ".join(filter(None, (_runs(cell) for cell in block.iterfind("{*}tc"))))
        elif not any(_local(a) == "tc" for a in block.iterancestors()):
            yield from _runs(block).split("\n")


def _runs(block: Any) -> str:
    """The text of a paragraph's runs, a break as a new line."""
    words = {"tab": " ", "br": "\n", "cr": "\n"}
    parts = [(_local(e), e.text or "") for e in block.iter() if isinstance(e.tag, str)]
    return "".join(text if kind == "t" else words.get(kind, "") for kind, text in parts)


def _xlsx(archive: zipfile.ZipFile) -> Iterator[str]:
    shared: list[str] = []
    if "xl/sharedStrings.xml" in archive.namelist():
        for item in _tree(archive, "xl/sharedStrings.xml").iterfind("{*}si"):
            shared.append("".join(t.text or "" for t in item.iter("{*}t")))
    sheets = sorted(n for n in archive.namelist() if re.fullmatch(r"xl/worksheets/sheet\d+\.xml", n))
    for sheet in sheets:
        for row in _tree(archive, sheet).iter("{*}row"):
            cells = (_cell(c, shared) for c in row.iterfind("{*}c"))
            line = " ".join(c for c in cells if c)
            if line:
                yield line


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
    for block in tree.iter("{*}p", "{*}h", "{*}table-row"):
        if _local(block) == "table-row":
            line = " ".join(filter(None, (_words(cell) for cell in block.iterfind("{*}table-cell"))))
            if line:
                yield line
        elif not any(_local(a) == "table-cell" for a in block.iterancestors()):
            yield from _words(block).split("\n")


def _words(element: Any) -> str:
    parts = [element.text or ""]
    for child in element:
        if isinstance(child.tag, str):
            parts.append({"line-break": "\n", "tab": " ", "s": " "}.get(_local(child), "") or _words(child))
        parts.append(child.tail or "")
    return "".join(parts)


def _local(element: Any) -> str:
    return str(element.tag).rpartition("}")[2]


def _rtf(text: str) -> str:
    """The plain text of an RTF document; the cells of a row stand after each other."""
    from striprtf.striprtf import rtf_to_text

    plain: str = rtf_to_text(_CELL.sub(r"\\tab", text), errors="replace")  # type: ignore[no-untyped-call]
    plain = plain.replace("\xa0", " ")
    # A sign beyond the first 65,536 is written as two halves, which belong together.
    whole = plain.encode("utf-16", "surrogatepass").decode("utf-16", "replace")
    return re.sub(r"[ \t]+", " ", whole)
