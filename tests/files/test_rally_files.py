"""A rally's file, merged record by record, and the files that an itinerary comes in."""

from __future__ import annotations

import io
import json
import random
import zipfile
from dataclasses import replace
from datetime import date, datetime
from pathlib import Path

import pytest
import xlsxwriter

from mirkle.core.errors import MirkleError
from mirkle.core.rally.itinerary import Item
from mirkle.core.rally.written_itinerary import read_itinerary
from mirkle.files.itinerary_files import itinerary_text
from mirkle.files.rally_file import RallyFile, UnusableRally, keep_rally, parse_rally, rally_text, read_rally


def item(name: str, hour: int) -> Item:
    return Item("stage", name, datetime(2026, 12, 4, hour), length_m=3000.0, number="1")


def made() -> RallyFile:
    return RallyFile.new("Isle Rally").with_itinerary([item("Slatehook", 9), item("Tarn", 10)])


def test_what_is_written_is_read_as_the_same_and_unknown_keys_stay() -> None:
    kept = made().with_stage("Tarn", "77")
    data = json.loads(rally_text(kept)) | {"weather": {"of": "a newer program"}}
    data["items"].append({"uid": "x", "clock": 9, "kind": "balloon", "name": "up"})
    again = parse_rally(json.dumps(data).encode(), name="r")
    assert (again.title, again.itinerary, again.stage_id("Tarn")) == ("Isle Rally", kept.itinerary, "77")
    written = json.loads(rally_text(again))
    assert written["weather"] == {"of": "a newer program"}
    assert {"uid": "x", "clock": 9, "kind": "balloon", "name": "up"} in written["items"]


def test_an_item_that_is_as_it_was_keeps_its_record_and_one_that_went_is_gone() -> None:
    kept = made()
    slatehook, tarn = kept.itinerary
    moved = kept.with_itinerary([slatehook, replace(tarn, start=datetime(2026, 12, 4, 11))])
    assert moved.items[slatehook.uid] == kept.items[slatehook.uid]
    assert moved.items[tarn.uid] != kept.items[tarn.uid]
    without = moved.with_itinerary([slatehook])
    assert without.itinerary == [slatehook]
    # The copy that still has it doesn't bring it back.
    assert without.merged(kept).itinerary == [slatehook]
    assert kept.merged(without).itinerary == [slatehook]


@pytest.mark.parametrize("seed", range(20))
def test_two_copies_end_with_the_same_whichever_takes_in_the_other(seed: int) -> None:
    chance = random.Random(seed)
    copies = [made()] * 2
    for _ in range(12):
        which = chance.randrange(2)
        items = copies[which].itinerary
        action = chance.choice(("add", "move", "drop", "name", "stage", "merge"))
        if action == "add":
            items = [*items, item(f"new {chance.random()}", chance.randrange(8, 20))]
        elif action == "move" and items:
            at = chance.randrange(len(items))
            items[at] = replace(items[at], start=datetime(2026, 12, 4, chance.randrange(8, 20)))
        elif action == "drop" and items:
            items.pop(chance.randrange(len(items)))
        copies[which] = copies[which].with_itinerary(items)
        if action == "name":
            copies[which] = copies[which].with_name(f"Rally {chance.random()}")
        if action == "stage":
            copies[which] = copies[which].with_stage("Tarn", f"{chance.random()}")
        if action == "merge":
            copies[which] = copies[which].merged(copies[1 - which])
    one, other = copies[0].merged(copies[1]), copies[1].merged(copies[0])
    assert rally_text(one) == rally_text(other)
    assert {i.name for i in one.itinerary} >= {i.name for i in copies[0].itinerary} & {i.name for i in copies[1].itinerary}


def test_two_windows_on_one_rally_lose_nothing(tmp_path: Path) -> None:
    path = tmp_path / "isle.mirkle-rally"
    first = keep_rally(path, made())
    second = read_rally(path)
    keep_rally(path, first.with_itinerary([*first.itinerary, item("Quarry", 12)]))
    stands = keep_rally(path, second.with_itinerary([*second.itinerary, item("Harbour", 13)]))
    assert [i.name for i in stands.itinerary] == ["Slatehook", "Tarn", "Quarry", "Harbour"]
    assert read_rally(path) == stands


@pytest.mark.parametrize("content", [b"", b"[]", b"{}", b'{"format": "mirkle-rally/1"}', b"\xff\xfe", b'{"format": "mirkle-rally/1", "id": "1", "name": {"value": "a", "clock": "x"}, "items": [], "stages": {}}', b"[" * 100_000])  # fmt: skip
def test_what_is_no_rally_is_refused_with_a_sentence(content: bytes) -> None:
    with pytest.raises(UnusableRally, match="damaged or not a rally"):
        parse_rally(content, name="r")


def read_names(path: Path) -> list[tuple[str, str]]:
    lines = read_itinerary(itinerary_text(path), date(2026, 12, 1))
    assert all(line.fault is None for line in lines), lines
    return [(f"{line.item.start:%d %H:%M}", line.item.name) for line in lines if line.item is not None]


WANTED = [("04 09:12", "Slatehook"), ("04 10:05", "Tarn Moor"), ("04 10:40", "Service A")]


def test_a_spreadsheet_with_times_as_numbers(tmp_path: Path) -> None:
    path = tmp_path / "itinerary.xlsx"
    with xlsxwriter.Workbook(str(path)) as book:
        sheet = book.add_worksheet()
        moment = book.add_format({"num_format": "hh:mm"})
        day = book.add_format({"num_format": "yyyy-mm-dd"})
        sheet.write_row(0, 0, ["Time", "Number", "Stage", "km"])
        sheet.write_datetime(1, 0, datetime(2026, 12, 4), day)
        for row, (hour, minute, number, name, km) in enumerate(
            [(9, 12, "SS1", "Slatehook", 12.4), (10, 5, "SS2", "Tarn Moor", 7.9), (10, 40, "", "Service A", "")], 2
        ):
            sheet.write_number(row, 0, (hour + minute / 60) / 24, moment)
            sheet.write_row(row, 1, [number, name, km])
    assert read_names(path) == WANTED


def test_a_table_and_an_open_spreadsheet(tmp_path: Path) -> None:
    csv = tmp_path / "itinerary.csv"
    csv.write_text("Time;Number;Stage;km\n2026-12-04;;;\n09:12;SS1;Slatehook;12,4\n10:05;SS2;Tarn Moor;7,9\n10:40;;Service A;\n")
    assert read_names(csv) == WANTED
    ods = tmp_path / "itinerary.ods"
    rows = [["2026-12-04"], ["09:12", "SS1", "Slatehook", "12.4"], ["10:05", "SS2", "Tarn Moor", "7.9"], ["10:40", "Service A"]]
    cells = "".join(
        "<table:table-row>" + "".join(f"<table:table-cell><text:p>{c}</text:p></table:table-cell>" for c in row) + "</table:table-row>"
        for row in rows
    )
    spaces = 'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"'  # fmt: skip
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w") as archive:
        archive.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        archive.writestr("content.xml", f"<office:document-content {spaces}><office:body><office:spreadsheet><table:table>{cells}</table:table></office:spreadsheet></office:body></office:document-content>")  # fmt: skip
    ods.write_bytes(held.getvalue())
    assert read_names(ods) == WANTED


# By the grammar of RFC 5545, 3.1 (folded lines), 3.3.5 (times) and 3.3.11 (escaped text).
CALENDAR = (
    "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nDTSTART:20261204T100500\r\nSUMMARY:SS2 Tarn\r\n  Moor\r\nEND:VEVENT\r\n"
    "BEGIN:VEVENT\r\nDTSTART;TZID=Europe/Lisbon:20261204T104000\r\nDTEND;TZID=Europe/Lisbon:20261204T111000\r\n"
    "SUMMARY:Service A\r\nBEGIN:VALARM\r\nTRIGGER:-PT15M\r\nEND:VALARM\r\nEND:VEVENT\r\n"
    "BEGIN:VEVENT\r\nSUMMARY:SS1 Slatehook\\, 12.4 km\r\nDTSTART:20261204T091200\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
)


def test_a_calendar(tmp_path: Path) -> None:
    path = tmp_path / "itinerary.ics"
    path.write_bytes(CALENDAR.encode())
    assert read_names(path) == WANTED
    (service,) = [i.item for i in read_itinerary(itinerary_text(path), date(2026, 12, 1)) if i.item and i.item.kind == "service"]
    assert service.minutes == 30.0


def test_a_file_that_is_none_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "damaged.xlsx"
    path.write_bytes(b"PK\x03\x04 not a workbook")
    with pytest.raises(MirkleError):
        itinerary_text(path)
