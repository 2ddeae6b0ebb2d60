"""Books of notes in office documents: their text, a line for each paragraph or row. Only text is read; nothing in them is run or fetched."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Iterator
from typing import Any

from mirkle.core.clauses import clause
from mirkle.files.sniff import UnusableFile

LARGEST_PART_BYTES = 40_000_000
_PARTS = {
    "docx": "word/document.xml", "xlsx": "xl/workbook.xml", "odt": "content.xml",
}  # fmt: skip
_RTF_WORD = re.compile(
    r"\\([a-z]{1,32})(-?\d{1,10})? ?|\\'([0-9a-f]{2})|\\([^a-z])|([{}])|[\r\n]+|([^\\{}\r\n]+)", re.IGNORECASE
)
# Groups of an RTF text that hold no text of the document.
_RTF_ASIDE = {
    "fonttbl", "colortbl", "stylesheet", "info", "pict", "header", "footer", "footnote", "generator", "listtable", "themedata",
    "xmlnstbl", "rsidtbl", "datastore", "latentstyles", "colorschememapping", "listoverridetable", "object", "fldinst",
}  # fmt: skip


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
        return _rtf(content.decode("latin-1"))
    kind = _kind_of(content)
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            lines = list({"docx": _docx, "xlsx": _xlsx, "odt": _opendocument}[kind or ""](archive))
    except UnusableFile:
        raise
    except (
        zipfile.BadZipFile,
        EOFError,
        OSError,
        ValueError,
        RuntimeError,
        NotImplementedError,
        KeyError,
        SyntaxError,
    ):
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
    except (zipfile.BadZipFile, OSError, ValueError):
        return None
    return next((kind for kind, part in _PARTS.items() if part in names), None)


def _tree(archive: zipfile.ZipFile, part: str) -> Any:
    from lxml import etree

    if archive.getinfo(part).file_size > LARGEST_PART_BYTES:
        raise UnusableFile(
            clause("unpacked it is over {0:.0f} MB", LARGEST_PART_BYTES / 1e6),
            mend="save its text as plain text",
            where=part,
        )
    parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
    return etree.fromstring(archive.read(part), parser)


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
    """The plain text of an RTF document: its control words say where lines end, and which groups hold none of it."""
    out: list[str] = []
    stack: list[tuple[bool, int]] = []
    aside, skip, left = False, 1, 0
    for found in _RTF_WORD.finditer(text):
        word, number, code, sign, brace, plain = found.groups()
        if brace == "{":
            stack.append((aside, skip))
        elif brace == "}":
            aside, skip = stack.pop() if stack else (False, 1)
        elif word is not None:
            left = 0 if word != "u" else left
            if word in _RTF_ASIDE:
                aside = True
            elif word == "uc" and number:
                skip = max(0, int(number))
            elif not aside and word in ("par", "line", "row", "sect", "page"):
                out.append("\n")
            elif not aside and word in ("tab", "cell"):
                out.append(" ")
            elif not aside and word == "u" and number:
                out.append(chr(int(number) % 65536))
                left = skip
        elif sign == "*":
            aside = True
        elif sign is not None and not aside and sign in "~_-{}\\":
            out.append(" " if sign == "~" else "" if sign in "_-" else sign)
        elif code is not None:
            if left:
                left -= 1
            elif not aside:
                out.append(bytes([int(code, 16)]).decode("cp1252", "replace"))
        elif plain is not None and not aside:
            out.append(plain[left:])
            left = 0
    return re.sub(r"[ \t]+", " ", "".join(out))
