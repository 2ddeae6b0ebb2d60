"""The desktop's own list of recent files, shared by all its programs.

It is the file ``recently-used.xbel`` in the user's data folder, as the Desktop Bookmark Specification describes it (freedesktop.org, from
memory): one bookmark a file, with its type and the programs that opened it. Entries of other programs stay as they are, and so does a list
that can't be read.
"""

from __future__ import annotations

import contextlib
from datetime import UTC, datetime
from pathlib import Path

from lxml import etree
from platformdirs import user_data_dir

from mirkle.core.errors import MirkleError
from mirkle.files.atomic_write import write_whole

BOOKMARK, MIME = "http://www.freedesktop.org/standards/desktop-bookmarks", "http://www.freedesktop.org/standards/shared-mime-info"
# The type of a stage, as share/mirkle.xml declares it, and how a desktop opens one again.
STAGE_TYPE, PROGRAM, COMMAND = "application/x-mirkle", "Mirkle", "'mirkle open %u'"
OWNER = "http://freedesktop.org"
# No network, no entities, nothing huge: the list is written by other programs.
_PARSER = etree.XMLParser(resolve_entities=False, no_network=True, remove_blank_text=True)


def add_to_desktop(stage: Path) -> None:
    """Puts a stage into the desktop's list, or its time forward where it is there. Where the list can't be read or written, nothing is
    done."""
    file = _list_file()
    with contextlib.suppress(OSError, MirkleError, etree.XMLSyntaxError):
        if not file.parent.is_dir():
            return
        root = etree.fromstring(file.read_bytes(), _PARSER) if file.exists() else _empty()
        if root.tag == "xbel":
            _put(root, stage.resolve().as_uri(), datetime.now(UTC).isoformat(timespec="seconds").replace("+00:00", "Z"))
            _write(file, root)


def remove_from_desktop(stage: Path) -> None:
    """Takes a stage out of the desktop's list, where it is there."""
    file = _list_file()
    with contextlib.suppress(OSError, MirkleError, etree.XMLSyntaxError):
        root = etree.fromstring(file.read_bytes(), _PARSER)
        gone = [b for b in root.iterchildren("bookmark") if b.get("href") == stage.resolve().as_uri()]
        for bookmark in gone:
            root.remove(bookmark)
        if gone:
            _write(file, root)


def _list_file() -> Path:
    return Path(user_data_dir()) / "recently-used.xbel"


def _write(file: Path, root: etree._Element) -> None:
    write_whole(file, etree.tostring(root, xml_declaration=True, encoding="UTF-8", pretty_print=True))


def _empty() -> etree._Element:
    return etree.Element("xbel", {"version": "1.0"}, nsmap={"bookmark": BOOKMARK, "mime": MIME})


def _put(root: etree._Element, address: str, now: str) -> None:
    entry = next((b for b in root.iterchildren("bookmark") if b.get("href") == address), None)
    if entry is None:
        entry = etree.SubElement(root, "bookmark", href=address, added=now)
        about = etree.SubElement(etree.SubElement(entry, "info"), "metadata", owner=OWNER)
        etree.SubElement(about, f"{{{MIME}}}mime-type", type=STAGE_TYPE)
        etree.SubElement(about, f"{{{BOOKMARK}}}applications")
    entry.set("modified", now)
    entry.set("visited", now)
    programs = entry.find(f".//{{{BOOKMARK}}}applications")
    if programs is None:
        return
    kind = f"{{{BOOKMARK}}}application"
    ours = next((p for p in programs.iterchildren(kind) if p.get("name") == PROGRAM), None)
    if ours is None:
        ours = etree.SubElement(programs, kind, {"name": PROGRAM, "exec": COMMAND, "count": "0"})
    count = ours.get("count", "0")
    ours.set("count", str(int(count) + 1 if count.isdecimal() else 1))
    ours.set("modified", now)
