"""Findings as a table: CSV, and workbooks as XLSX (ECMA-376) and ODS (OpenDocument 1.3).

Notes may hold anything. A cell of a CSV never begins as a formula does; in workbooks text is text by its type. Places are metres from the
start line.
"""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterator
from typing import TYPE_CHECKING

from mirkle.core.messages import Message, gettext_noop
from mirkle.files.export.content import Content
from mirkle.files.export.report import Entry, report_of

if TYPE_CHECKING:
    from lxml import etree

Value = str | float | None
COLUMNS = (
    gettext_noop("severity"),
    gettext_noop("kind"),
    gettext_noop("page"),
    gettext_noop("line"),
    gettext_noop("note"),
    gettext_noop("from_m"),
    gettext_noop("to_m"),
    gettext_noop("called"),
    gettext_noop("met"),
    gettext_noop("confidence"),
    gettext_noop("seconds"),
    gettext_noop("why"),
    gettext_noop("proposal"),
    gettext_noop("decision"),
    gettext_noop("by"),
    gettext_noop("remark"),
    gettext_noop("written"),
)
# How many digits behind the point each column of figures shows.
DIGITS = {"page": 0, "line": 0, "from_m": 1, "to_m": 1, "confidence": 2, "seconds": 1}
# With these a spreadsheet begins a formula; with the full-width ones, some do.
_FORMULA = ("=", "+", "-", "@", "\t", "\r", "＝", "＋", "－", "＠")
_SHEET = "findings"


def _cells(entry: Entry) -> Iterator[tuple[str, Value]]:
    """The columns' names with an entry's values."""
    return ((name, getattr(entry, name)) for name in COLUMNS)


def csv_of(content: Content) -> bytes:
    """The table as CSV (RFC 4180) in UTF-8. Where the language writes a decimal comma, cells are parted by semicolons, as its spreadsheets
    expect."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\r\n", delimiter=";" if content.decimal_comma else ",")
    table.writerow([content.tell(Message(name)) for name in COLUMNS])
    for entry in report_of(content).entries:
        table.writerow([_cell(content, name, value) for name, value in _cells(entry)])
    return out.getvalue().encode("utf-8-sig")


def _cell(content: Content, name: str, value: Value) -> str:
    if value is None:
        return ""
    if isinstance(value, str):
        return f"'{value}" if value.lstrip(" \n").startswith(_FORMULA) else value
    return content.tell(Message(f"{{0:.{DIGITS[name]}f}}", (value,)))


def xlsx_of(content: Content) -> bytes:
    """The table as a workbook with a head that stays and a filter; figures are figures and text is text."""
    import xlsxwriter

    out = io.BytesIO()
    options = {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    book = xlsxwriter.Workbook(out, options)
    sheet = book.add_worksheet(_SHEET)
    head, plain = book.add_format({"bold": True}), book.add_format({"text_wrap": True, "valign": "top"})
    figures = {
        digits: book.add_format({"num_format": f"0.{'0' * digits}" if digits else "0", "valign": "top"}) for digits in set(DIGITS.values())
    }
    entries = report_of(content).entries
    for at, name in enumerate(COLUMNS):
        sheet.write_string(0, at, content.tell(Message(name)), head)
        sheet.set_column(at, at, 60 if name == "why" else 10 if name in DIGITS else 18)
    for number, entry in enumerate(entries, start=1):
        for at, (name, value) in enumerate(_cells(entry)):
            if isinstance(value, str):
                sheet.write_string(number, at, value, plain)
            elif value is not None:
                sheet.write_number(number, at, value, figures[DIGITS[name]])
    sheet.freeze_panes(1, 0)
    sheet.autofilter(0, 0, len(entries), len(COLUMNS) - 1)
    book.close()
    return out.getvalue()


_ODS = "application/vnd.oasis.opendocument.spreadsheet"
_OFFICE, _TABLE, _TEXT = (f"urn:oasis:names:tc:opendocument:xmlns:{part}:1.0" for part in ("office", "table", "text"))
_MANIFEST = "urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"


def ods_of(content: Content) -> bytes:
    """The table as an OpenDocument spreadsheet: the media type first and unpacked, then the sheet, then the list of files."""
    from lxml import etree

    document = etree.Element(
        f"{{{_OFFICE}}}document-content", {f"{{{_OFFICE}}}version": "1.3"}, nsmap={"office": _OFFICE, "table": _TABLE, "text": _TEXT}
    )
    body = etree.SubElement(etree.SubElement(document, f"{{{_OFFICE}}}body"), f"{{{_OFFICE}}}spreadsheet")
    sheet = etree.SubElement(body, f"{{{_TABLE}}}table", {f"{{{_TABLE}}}name": _SHEET})
    etree.SubElement(sheet, f"{{{_TABLE}}}table-column", {f"{{{_TABLE}}}number-columns-repeated": str(len(COLUMNS))})
    heads: list[Value] = [content.tell(Message(name)) for name in COLUMNS]
    for values in [heads, *([value for _, value in _cells(entry)] for entry in report_of(content).entries)]:
        line = etree.SubElement(sheet, f"{{{_TABLE}}}table-row")
        for value in values:
            _ods_cell(etree.SubElement(line, f"{{{_TABLE}}}table-cell"), value)
    manifest = etree.Element(f"{{{_MANIFEST}}}manifest", {f"{{{_MANIFEST}}}version": "1.3"}, nsmap={"manifest": _MANIFEST})
    for path, kind in (("/", _ODS), ("content.xml", "text/xml")):
        etree.SubElement(manifest, f"{{{_MANIFEST}}}file-entry", {f"{{{_MANIFEST}}}full-path": path, f"{{{_MANIFEST}}}media-type": kind})
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("mimetype", _ODS, zipfile.ZIP_STORED)
        archive.writestr("content.xml", etree.tostring(document, xml_declaration=True, encoding="UTF-8"))
        archive.writestr("META-INF/manifest.xml", etree.tostring(manifest, xml_declaration=True, encoding="UTF-8"))
    return out.getvalue()


def _ods_cell(cell: etree._Element, value: Value) -> None:
    from lxml import etree

    if value is None:
        return
    if isinstance(value, str):
        cell.set(f"{{{_OFFICE}}}value-type", "string")
        for line in printable(value).split("\n"):
            etree.SubElement(cell, f"{{{_TEXT}}}p").text = line
    else:
        cell.set(f"{{{_OFFICE}}}value-type", "float")
        cell.set(f"{{{_OFFICE}}}value", repr(float(value)))


def printable(text: str) -> str:
    """A text without the control characters that XML can't hold."""
    return "".join(c for c in text if c.isprintable() or c == "\n")
