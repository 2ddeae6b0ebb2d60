"""Tables as people have them: comments and preambles before the head, a row of units under it, any delimiter and decimal sign, other
encodings, a delimiter too many at the end of each line."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Callable, Container, Sequence
from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.recording.model import Floats
from mirkle.files.detect import utf16_without_mark

DELIMITERS = ",;\t|"
# How far down the head of a table is looked for.
HEAD_LINES, HEAD_BYTES = 200, 400_000
# What a crew said of a table's columns, in front of it (see columns.py).
SAID = b"# mirkle columns "
_COMMENT = re.compile(r"^\s*(?:#|//|%|\*)\s*")
_SEPARATOR = re.compile(r"^\W{0,3}sep=(.)", re.IGNORECASE)


@dataclass(frozen=True)
class Table:
    """A table's head and the bytes of its rows. ``first_line`` is the line of the file, counted from 1, on which they begin;
    ``decimal`` is the sign that numbers are written with; ``said`` where a crew told what the columns hold."""

    header: tuple[str, ...]
    units: tuple[str, ...]
    delimiter: str
    decimal: str
    head_line: int
    first_line: int
    body: bytes
    said: bool = False

    def without_last_line(self) -> Table:
        """The table as far as it goes, where the file ends in the middle of a line."""
        body = self.body.rstrip(b"\n")
        return replace(self, body=body[: body.rfind(b"\n") + 1])


class OddRow(ValueError):
    """A row with another number of cells than the head; ``line`` counts from 1, ``last`` where the file ends in it."""

    def __init__(self, line: int, *, last: bool) -> None:
        super().__init__(line)
        self.line, self.last = line, last


def as_utf8(content: bytes) -> bytes:
    """A text in UTF-8 whatever it was written in: UTF-16 with its mark or without, UTF-8, else Latin-1."""
    if content.startswith((b"\xff\xfe", b"\xfe\xff")):
        return content.decode("utf-16", "replace").encode()
    if (order := utf16_without_mark(content)) is not None:
        return content.decode(order, "replace").encode()
    content = content.removeprefix(b"\xef\xbb\xbf")
    if content.isascii():
        return content
    try:
        content.decode("utf-8")
    except UnicodeDecodeError:
        return content.decode("latin-1").encode()
    return content


def table_of(content: bytes, known: Callable[[str, str], str | None], wanted: str) -> Table | None:
    """The table in a text, ``None`` where no line is the head of one.

    Parameters
    ----------
    known : what a head's cell with its unit stands for, ``None`` where that is not known
    wanted : what has to be among it for a line to be the head
    """
    if (said := _said_table(content)) is not None:
        return said
    content = as_utf8(content).replace(b"\r\n", b"\n").replace(b"\r", b"\n")
    return _table_in(content, known, wanted, DELIMITERS) or _by_blanks(content, known, wanted)


def _by_blanks(content: bytes, known: Callable[[str, str], str | None], wanted: str) -> Table | None:
    """A table whose columns stand under each other, or have a blank between them."""
    head = content[:HEAD_BYTES].split(b"\n")[:HEAD_LINES]
    # Names of several words stand further apart from each other than their words.
    for blanks in (rb"[ \t]{2,}", rb"[ \t]+"):
        parted = b"\n".join(re.sub(blanks, b"\t", line.strip()) for line in head)
        found = _table_in(parted, known, wanted, "\t")
        rows = found.body.split(b"\n")[:3] if found is not None else []
        if found is not None and all(row.count(b"\t") + 1 == len(found.header) for row in rows):
            return _table_in(re.sub(rb"(?m)^[ \t]+|[ \t]+$", b"", re.sub(blanks, b"\t", content)), known, wanted, "\t")
    return None


def _table_in(content: bytes, known: Callable[[str, str], str | None], wanted: str, delimiters: str) -> Table | None:
    lines = content[:HEAD_BYTES].split(b"\n")[:HEAD_LINES]
    texts = [line.decode("utf-8", "replace") for line in lines]
    stated = next((m[1] for m in map(_SEPARATOR.match, texts[:3]) if m), None)
    best: tuple[int, int, str, list[str]] | None = None
    for at, text in enumerate(texts):
        bare = _COMMENT.sub("", text)
        for delimiter in [stated] if stated else delimiters:
            cells = cells_of(bare, delimiter)
            found = {k for c in cells if (k := known(c, "")) is not None}
            if len(cells) > 1 and wanted in found and (best is None or len(found) > best[0]):
                best = (len(found), at, delimiter, cells)
        # The first line that names time and what goes with it is the head; what names more stands further down seldom.
        if best is not None and best[0] >= 3:
            break
    if best is None:
        return None
    _, at, delimiter, header = best
    while header and not header[-1]:
        header.pop()
    units, first = _units_under(texts, at, delimiter, len(header))
    start = sum(len(line) + 1 for line in lines[:first])
    body = _without_heads(content[start:], lines[at])
    return Table(tuple(header), tuple(units), delimiter, _decimal_of(body, delimiter), at + 1, first + 1, body)


def _without_heads(body: bytes, head: bytes) -> bytes:
    """The rows without the head that some programs write again from time to time; its lines stay, empty."""
    if head.strip() not in body:
        return body
    return b"\n".join(b"" if line.strip() == head.strip() else line for line in body.split(b"\n"))


def _decimal_of(body: bytes, delimiter: str) -> str:
    """The sign that a table's numbers are written with."""
    return "," if delimiter != "," and re.search(rb"\d,\d", body[:20_000]) else "."


def _said_table(content: bytes) -> Table | None:
    """The table of a file that says in front what its columns hold; ``None`` where it says nothing that can be used."""
    if not content.startswith(SAID):
        return None
    line, _, rest = content.partition(b"\n")
    try:
        stated = json.loads(line.removeprefix(SAID))
        names, delimiter, rows_from = [str(n) for n in stated["names"]], str(stated["delimiter"]), int(stated["rows_from"])
    except (ValueError, KeyError, TypeError, RecursionError):
        return None
    if len(delimiter) != 1 or delimiter not in DELIMITERS or not 0 < rows_from <= 2 * HEAD_LINES:
        return None
    rest = rest.replace(b"\r\n", b"\n").replace(b"\r", b"\n")
    body = b"\n".join(rest.split(b"\n", rows_from - 1)[rows_from - 1 :])
    units, decimal = ("",) * len(names), _decimal_of(body, delimiter)
    return Table(tuple(names), units, delimiter, decimal, max(rows_from - 1, 1), rows_from, body, said=True)


def _units_under(texts: list[str], at: int, delimiter: str, count: int) -> tuple[list[str], int]:
    """The row of units under a head, empty ones where there is none, and the line on which the numbers begin."""
    first = at + 1
    while first < len(texts) and not texts[first].strip(f" {delimiter}"):
        first += 1
    cells = cells_of(_COMMENT.sub("", texts[first]), delimiter) if first < len(texts) else []
    filled = [c for c in cells if c]
    is_units = len(filled) > 0 and not any(any(ch.isdigit() for ch in c.split("/")[0].split("^")[0]) for c in filled)
    if not is_units or any(len(c) > 16 for c in filled):
        return [""] * count, first
    return [c.strip("[]() ") for c in (cells + [""] * count)[:count]], first + 1


def cells_of(line: str, delimiter: str) -> list[str]:
    """The cells of one line, without blanks and quotes around them."""
    try:
        row = next(csv.reader([line], delimiter=delimiter), [])
    except csv.Error:
        row = line.split(delimiter)
    return [cell.strip().strip('"') for cell in row]


# A table's numbers are read in pieces of this size. A large one takes little more room than its text, and the window has its turn between
# two of them: reading one holds the interpreter.
PIECE_BYTES = 500_000
# No longer is a cell that says N, S, E or W, with blanks and quotes.
SHORT = 4


def numbers(table: Table, wanted: Sequence[int] | None = None) -> Floats | None:
    """The cells of the ``wanted`` columns as numbers, (rows, wanted), nan where one is empty, of all columns unless told; ``None`` where
    there is more in the table than numbers.

    Whole pieces of the text are read at once, which is as fast as a library made for it: only tables without quotes and words can be.

    Raises
    ------
    OddRow
    """
    body = table.body
    if b'"' in body:
        return None
    kept, at, line = [], 0, table.first_line
    while at < len(body):
        end = body.rfind(b"\n", at, at + PIECE_BYTES) + 1 if len(body) - at > PIECE_BYTES else len(body)
        piece = body[at:end]
        if piece.strip():
            try:
                cells = _numbers_in(piece, table)
            except OddRow as odd:
                raise OddRow(line + odd.line, last=odd.last and not body[end:].strip()) from None
            if cells is None:
                return None
            kept.append(cells if wanted is None else cells[:, wanted])
        line += piece.count(b"\n")
        at = end
    return np.concatenate(kept) if kept else None


def _numbers_in(body: bytes, table: Table) -> Floats | None:
    """All cells of some rows, (rows, columns). Lines are counted from the first of them."""
    body, delimiter = body.rstrip(b"\n") + b"\n", table.delimiter.encode()
    if b" " in body:
        body = re.sub(rb"[ ]*([\n" + re.escape(delimiter) + rb"])[ ]*", rb"\1", body)
    while b"\n\n" in body:
        body = body.replace(b"\n\n", b"\n")
    if table.decimal == ",":
        body = body.replace(b",", b".")
    if delimiter != b",":
        body = body.replace(delimiter, b",")
    columns = len(table.header)
    body = _without_last(body, columns)
    rows = _checked_rows(body, columns)
    flat = body.replace(b"\n", b",")
    # Empty cells stand between two delimiters; three in a row take two turns.
    for _ in range(2):
        flat = flat.replace(b",,", b",nan,")
    if flat.startswith(b","):
        flat = b"nan" + flat
    try:
        cells = np.fromstring(flat[:-1], sep=",")
    except ValueError:
        return None
    return cells.reshape(rows, columns) if len(cells) == rows * columns else None


def _without_last(body: bytes, columns: int) -> bytes:
    """The rows without the delimiter that some programs put at the end of each."""
    first = body[: body.find(b"\n")]
    return body.replace(b",\n", b"\n") if first.count(b",") == columns and first.endswith(b",") else body


def _checked_rows(body: bytes, columns: int) -> int:
    """How many rows there are, each with as many cells as the head has names."""
    raw = np.frombuffer(body, np.uint8)
    ends, commas = np.flatnonzero(raw == 10), np.flatnonzero(raw == 44)
    counts = np.diff(np.searchsorted(commas, np.concatenate([[0], ends])))
    odd = np.flatnonzero(counts != columns - 1)
    if len(odd):
        raise OddRow(int(odd[0]), last=bool(odd[0] == len(ends) - 1))
    return len(ends)


def words(table: Table, wanted: Container[int] | None = None) -> list[list[str]]:
    """All cells as they are written, a row for each line that is not empty. Of columns that are not ``wanted`` only short cells are kept,
    such as letters; others stand as a dash.

    Raises
    ------
    OddRow
    """
    columns = len(table.header)
    text = io.TextIOWrapper(io.BytesIO(table.body), "utf-8", "replace", newline="")
    reader = csv.reader(text, delimiter=table.delimiter)
    rows: list[list[str]] = []
    lines: list[int] = []
    try:
        for row in reader:
            if any(map(str.strip, row)):
                if wanted is None:
                    rows.append([cell.strip() for cell in row])
                else:
                    rows.append([c.strip() if at in wanted or len(c) <= SHORT else "-" for at, c in enumerate(row)])
                lines.append(reader.line_num)
    except csv.Error:
        raise OddRow(table.first_line + reader.line_num, last=False) from None
    extra = bool(rows) and len(rows[0]) == columns + 1 and not rows[0][-1]
    for at, row in enumerate(rows):
        if extra and len(row) == columns + 1 and not row[-1]:
            row.pop()
        if len(row) != columns:
            raise OddRow(table.first_line + lines[at] - 1, last=at == len(rows) - 1)
    return rows
