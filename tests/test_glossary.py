"""The glossary names classes that there are, and has a row for every class that the models of the core give to others."""

from __future__ import annotations

import importlib
import inspect
import re
from pathlib import Path

TEXT = (Path(__file__).parents[1] / "docs" / "glossary.md").read_text()
ROWS = [[cell.strip() for cell in line.strip("|").split("|")] for line in TEXT.splitlines() if line.startswith("| ")][1:]
# Modules whose classes everything else is made of; what only serves a note's text is left aside.
MODELS = ("mirkle.core.recording.model", "mirkle.core.notes.model", "mirkle.core.judging.findings")
OF_A_TEXT = {"Direction", "Offer", "Span", "Token"}


def test_every_term_stands_once_and_its_class_is_there() -> None:
    terms, classes = [row[0] for row in ROWS], [row[3].strip("`") for row in ROWS]
    assert len(terms) >= 24
    assert len(set(terms)) == len(terms)
    assert len(set(classes)) == len(classes)
    for name in classes:
        module, _, held = name.rpartition(".")
        assert inspect.isclass(getattr(importlib.import_module(module), held)), name


def test_every_class_of_the_models_has_a_term() -> None:
    named = set(re.findall(r"`(mirkle[\w.]+)`", TEXT))
    for module in MODELS:
        found = importlib.import_module(module)
        own = {n for n, c in inspect.getmembers(found, inspect.isclass) if c.__module__ == module and n[0] != "_"}
        assert {f"{module}.{n}" for n in own - OF_A_TEXT} <= named


def test_every_module_that_the_documents_name_is_there() -> None:
    root = Path(__file__).parents[1]
    missing = []
    # Decision records may name what was rejected.
    for document in (root / "README.md", *(root / "docs").glob("*.md")):
        for name in re.findall(r"`([\w/]+\.py)\b[^`]*`", document.read_text()):
            held = [*root.glob(f"src/**/{name}"), *root.glob(f"[bt]*/**/{name}")]
            if not held and not (root / name).exists():
                missing.append((document.name, name))
    assert missing == []
