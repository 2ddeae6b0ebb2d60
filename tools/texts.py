"""Puts every text of the window into the Qt Linguist files; those that are translated already stay.

``python tools/texts.py``. What is new is marked as unfinished, what is no longer said goes.
"""

from __future__ import annotations

import ast
import re
import sys
from pathlib import Path

from lxml import etree

ROOT = Path(__file__).resolve().parent.parent / "src" / "mirkle"
# Texts that stand in tables and are looked up where they are shown.
TABLES = {
    "desk/words.py": ("SEVERITY_WORDS", "ANSWER_WORDS", "BY_WORDS", "BY_SAID"),
    "core/cautions.py": ("CAUTIONS",),
    "files/crew.py": ("WANTED",),
    "files/notes_text.py": ("WANTED",),
    "files/runs.py": ("WANTED",),
    "files/timed_text.py": ("WANTED",),
    "files/sniff.py": ("_PICTURES", "_OTHERS"),
    "session/material.py": ("WANTED", "CHANNEL_WORDS"),
    "files/exports.py": ("COLUMNS",),
    "files/tracks.py": ("_ACTIVITY", "_TRACK", "_GEOJSON"),
    "desk/work_bar.py": ("ORDERS", "SHOWN_WORDS"),
    "desk/add_view.py": ("KINDS",),
    "desk/rehearse_view.py": ("WAYS", "VERDICTS", "WAY_TOLD"),
    "desk/watch_view.py": ("ANSWERS", "KNOWN_WORDS"),
    "desk/columns_view.py": ("QUANTITY_WORDS",),
    "desk/book_view.py": ("TAKE_AWAY",),
    "desk/printing.py": ("CARD_ORDERS",),
    "desk/lineup_view.py": ("AXIS_WORDS",),
    "desk/dialogs.py": ("MARKS",),
    "desk/find_view.py": ("STATE_WORDS", "ORDER_WORDS"),
    "desk/gather.py": ("HABIT_WORDS", "STEPS", "PASS_WORDS"),
    "desk/header.py": ("PLACES",),
    "desk/passes_view.py": ("VERDICT_WORDS", "KEPT_WORDS", "SAID_WORDS", "DECIDED_WORDS", "COUNT_WORDS"),
    "desk/proof_view.py": ("SECTIONS",),
}
# What is looked up by a variable elsewhere.
OTHERS = (
    "from", "until", "to", "away at", "finish at", "start", "finish", "The notes",
    "←  to the bend before", "to the next bend  →", "on no bend  0", "take the pin out", "right as it is  ⏎",
    "Put the note on the bend before (Left)", "This note lies on its bend: keep it there, and go to the next unsure one (Enter)",
    "change", "check", "remark", "mark", "keep", "talk", "video", "driver", "co-driver", "both",
    "Put the note on the next bend (Right)", "No bend answers this note (0)",
    "Take the pin out: Mirkle places the note again (Backspace)", "What was said", "left", "right", "sure",
    "{0:.0%} sure", "no bend answers it", "its road was not measured", "no bend, by hand", "put there by hand", "direction first", "grade first",
    "Stage", "Go", "Decide", "Hear", "By eye", "Rehearse", "View", "Help",
    "the time", "latitude and longitude, or speed and yaw rate", "Column", "Its first rows", "Holds", "In", "a telephone's picture",
    "a WebP picture", "Language", "What comes first", "Grades", "They run", "hazard", "condition", "jump", "crest",
    "bump", "dip",
    "{0} times a second", "{0} once a second", "pace lost", "the car stopped", "the tail got away", "does not count",
)  # fmt: skip
FILE_NAME = re.compile(r"\w+\.\w{3,4}")


def texts() -> list[str]:
    """Every text of the window, each once, in the order of the files."""
    found: list[str] = []
    for file in sorted(ROOT.glob("**/*.py")):
        callers = {
            "clause",
            *(["say"] if file.parent.name == "desk" else []),
            *(["Kind"] if file.name == "kinds.py" else []),
            *(["SeenKind"] if file.name == "seen.py" else []),
            *(["Command"] if file.name == "commands.py" else []),
        }
        nodes = list(ast.walk(ast.parse(file.read_text())))
        for node in nodes:
            said = (
                isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in callers and node.args
            )
            if said and isinstance(node.args[0], ast.Constant):
                found.append(node.args[0].value)
        for node in nodes:
            if isinstance(node, ast.ClassDef):
                found += [
                    a.value.value
                    for a in node.body
                    if isinstance(a, ast.Assign) and getattr(a.targets[0], "id", "") == "about"
                    and isinstance(a.value, ast.Constant)
                ]  # fmt: skip
        found += faults(nodes)
    for name, tables in TABLES.items():
        for statement in ast.parse((ROOT / name).read_text()).body:
            if isinstance(statement, ast.Assign) and getattr(statement.targets[0], "id", "") in tables:
                found += _words(statement.value)
            elif isinstance(statement, ast.AnnAssign) and getattr(statement.target, "id", "") in tables:
                found += _words(statement.value) if statement.value is not None else []
    return [t for t in dict.fromkeys([*found, *OTHERS]) if any(c.isalpha() for c in t) and not FILE_NAME.fullmatch(t)]


# The faults whose sentences without values are plain texts.
FAULTS = ("Unusable", "MirkleError")


def faults(nodes: list[ast.AST]) -> list[str]:
    """The plain texts of a file's faults: what is wrong, and what would mend it."""
    found: list[str] = []
    for node in nodes:
        if isinstance(node, ast.Call) and node.args and getattr(node.func, "id", "").startswith(FAULTS):
            found += [t for part in (node.args[0], *(k.value for k in node.keywords)) for t in _either(part)]
    return found


def _either(node: ast.expr) -> list[str]:
    if isinstance(node, ast.IfExp):
        return [*_either(node.body), *_either(node.orelse)]
    return [node.value] if isinstance(node, ast.Constant) and isinstance(node.value, str) else []


def _words(node: ast.expr) -> list[str]:
    """The texts in a table: the values of a dictionary, the members of a tuple."""
    if isinstance(node, ast.Constant):
        return [node.value] if isinstance(node.value, str) else []
    members = node.values if isinstance(node, ast.Dict) else getattr(node, "elts", [])
    return [word for member in members for word in _words(member)]


def renew(path: Path, code: str) -> int:
    """Writes a file with all texts and the translations that it held; returns how many are still unfinished."""
    known: dict[str, str] = {}
    if path.exists():
        for message in etree.parse(str(path)).iter("message"):
            known[message.findtext("source") or ""] = message.findtext("translation") or ""
    ts = etree.Element("TS", version="2.1", language=code, sourcelanguage="en")
    context = etree.SubElement(ts, "context")
    etree.SubElement(context, "name").text = "Mirkle"
    unfinished = 0
    for text in texts():
        message = etree.SubElement(context, "message")
        etree.SubElement(message, "source").text = text
        translation = etree.SubElement(message, "translation")
        translation.text = known.get(text, "")
        if not translation.text:
            translation.set("type", "unfinished")
            unfinished += 1
    path.write_bytes(
        etree.tostring(ts, xml_declaration=True, encoding="utf-8", pretty_print=True, doctype="<!DOCTYPE TS>")
    )
    return unfinished


def main() -> int:
    """Renews every file."""
    for path in sorted((ROOT / "share").glob("mirkle_*.ts")):
        code = path.stem.removeprefix("mirkle_")
        print(f"{path.name}: {renew(path, code)} of {len(texts())} unfinished")
    return 0


if __name__ == "__main__":
    sys.exit(main())
