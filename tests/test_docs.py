"""What the documents say is there: links, pictures, commands, files of the recipes, one version."""

from __future__ import annotations

import ast
import re
import subprocess
import sys
import tomllib
from pathlib import Path

import pytest

import mirkle
from mirkle.files.export.by_ending import BY_ENDING
from mirkle.files.recordings.readers import READERS

ROOT = Path(__file__).parents[1]
PAGES = [
    ROOT / "README.md",
    ROOT / "CONTRIBUTING.md",
    *sorted((ROOT / "docs").rglob("*.md")),
    *sorted((ROOT / "src/mirkle/share").glob("*.md")),
]
MOST_PICTURES = 20


def named(page: Path) -> str:
    return str(page.relative_to(ROOT))


@pytest.mark.parametrize("page", PAGES, ids=named)
def test_every_link_leads_somewhere(page: Path) -> None:
    """To a file that is there, and where a heading is named, to one that is there."""
    text = page.read_text()
    for target in re.findall(r"\]\(([^)\s]+)\)", text):
        if re.match(r"[a-z]+:", target):
            continue
        path, _, heading = target.partition("#")
        file = (page.parent / path).resolve() if path else page
        assert file.exists(), target
        if heading:
            heads = re.findall(r"^#+ (.*)$", file.read_text(), re.MULTILINE)
            assert heading in {re.sub(r"[^\w -]", "", h).strip().lower().replace(" ", "-") for h in heads}, target


def test_the_pictures_are_few_and_each_is_linked() -> None:
    pictures = {p.name for p in (ROOT / "docs/screenshots").glob("*.png")}
    linked = set(re.findall(r"screenshots/([\w-]+\.png)", "".join(p.read_text() for p in PAGES)))
    assert linked == pictures
    assert len(pictures) < MOST_PICTURES


def test_every_page_has_its_place_in_the_contents() -> None:
    contents = (ROOT / "docs/index.md").read_text()
    lacking = {p.stem for p in (ROOT / "docs").glob("*.md")} - set(re.findall(r"^[\w-]+$", contents, re.MULTILINE)) - {"index"}
    assert lacking == set()


def test_the_commands_of_the_documents_are_there() -> None:
    targets = set(re.findall(r"^([\w-]+):", (ROOT / "Makefile").read_text(), re.MULTILINE))
    said = {
        name
        for page in PAGES
        for name in re.findall(r"\bmake ([a-z][\w-]+)\b", "".join(re.findall(r"`[^`]*`|```.*?```", page.read_text(), re.DOTALL)))
    }
    assert said - targets == set()
    listed = subprocess.run([sys.executable, "-m", "mirkle", "--help"], capture_output=True, text=True, check=True).stdout
    for name in re.findall(r"`mirkle (\w+)", (ROOT / "docs/cli.md").read_text()):
        assert name in listed or name == "COMMAND", name


def test_the_files_of_the_recipes_are_there() -> None:
    text = (ROOT / "CONTRIBUTING.md").read_text()
    for name in re.findall(r"`((?:core|files|session|gui|share|tests)/[\w/.]+)`", text):
        if "xx" in name:
            continue
        assert (ROOT / name).exists() or (ROOT / "src/mirkle" / name).exists(), name
    # Each of the seven recipes ends with the tests that name what was forgotten.
    recipes = re.findall(r"\*\*… .*?(?=\n\n)", text, re.DOTALL)
    assert len(recipes) == 7
    assert all("Tests: `tests/" in " ".join(recipe.split()) for recipe in recipes)


def test_every_format_stands_in_its_table() -> None:
    text = (ROOT / "docs/formats.md").read_text()
    assert [r.what for r in READERS if r.what.lower().removesuffix("'s tables") not in text.lower()] == []
    assert [
        ending for ending in BY_ENDING if {".vtt": "WebVTT", ".html": "HTML"}.get(ending, ending[1:].upper()).lower() not in text.lower()
    ] == []


def test_there_is_one_version() -> None:
    project = tomllib.loads((ROOT / "pyproject.toml").read_text())
    assert "version" in project["project"]["dynamic"]
    assert project["tool"]["setuptools"]["dynamic"]["version"] == {"attr": "mirkle.__version__"}
    assert f"## {mirkle.__version__} (" in (ROOT / "CHANGELOG.md").read_text()
    assert f'<release version="{mirkle.__version__}"' in (ROOT / "src/mirkle/share/mirkle.metainfo.xml").read_text()
    assert not re.search(r"\b\d+\.\d+\.\d+\b", (ROOT / "README.md").read_text()), "a version in the README is soon the wrong one"


# Of more modules than this nobody looks at each.
MOST_MODULES = 12


def words_of(module: Path) -> str:
    """A module's path, the names of what it holds, and its first sentence, as one searches: without case."""
    tree = ast.parse(module.read_text())
    names = [node.name for node in ast.walk(tree) if isinstance(node, ast.FunctionDef | ast.ClassDef)]
    names += [target.id for node in tree.body if isinstance(node, ast.Assign) for target in node.targets if isinstance(target, ast.Name)]
    return "\n".join((str(module.relative_to(ROOT / "src/mirkle")), *names, (ast.get_docstring(tree) or "").split("\n\n")[0])).lower()


def test_what_a_stranger_asks_is_found_by_the_word_one_would_search_for() -> None:
    rows = re.findall(r"^\| .*\? \| (.+) \| `(.+)` \|$", (ROOT / "docs/where.md").read_text(), re.MULTILINE)
    assert len(rows) == 20
    words = {str(module.relative_to(ROOT / "src/mirkle")): words_of(module) for module in (ROOT / "src/mirkle").rglob("*.py")}
    for word, module in rows:
        assert word in words[module], (word, module)
        in_paths = [path for path in words if word in path]
        assert len(in_paths) <= MOST_MODULES, (word, in_paths)
