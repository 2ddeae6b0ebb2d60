"""What the house looks like in figures: branches, parameters, unnamed numbers, comments and lines, a package at a time.

    python bench/house.py [--worst N] [--src FOLDER]

Branches are McCabe's: one more than the decisions of a function, by its syntax tree. An unnamed number is one inside a function that is none of -1, 0,
1, 2, a half and a hundred.
"""

from __future__ import annotations

import argparse
import ast
import io
import sys
import tokenize
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

ROOT = Path(__file__).parent.parent
PLAIN = {-1, 0, 1, 2, 0.5, 100}
# A class of more lines than this has two topics.
LARGE_CLASS = 300
DECISIONS = (ast.If, ast.For, ast.While, ast.ExceptHandler, ast.IfExp, ast.Assert, ast.match_case)


@dataclass
class Figures:
    """Counts over some files."""

    lines: int = 0
    comments: int = 0
    long_lines: int = 0
    unformatted: int = 0
    numbers: int = 0
    branches: list[tuple[int, str]] = field(default_factory=list)
    parameters: list[tuple[int, str]] = field(default_factory=list)
    large_classes: int = 0


def branches_of(function: ast.AST) -> int:
    """McCabe's number of a function with every condition counted, those of comprehensions too; nested functions are left aside."""
    return 1 + sum(_branches(node) for node in _inside(function))


def _branches(node: ast.AST) -> int:
    if isinstance(node, ast.BoolOp):
        return len(node.values) - 1
    if isinstance(node, ast.comprehension):
        return 1 + len(node.ifs)
    return int(isinstance(node, DECISIONS))


def _inside(function: ast.AST) -> Iterator[ast.AST]:
    for child in ast.iter_child_nodes(function):
        if not isinstance(child, ast.FunctionDef | ast.AsyncFunctionDef | ast.Lambda | ast.ClassDef):
            yield child
            yield from _inside(child)


def figures_of(files: list[Path], root: Path) -> Figures:
    """The counts over files of a package."""
    out = Figures()
    for file in files:
        text = file.read_text()
        lines = text.splitlines()
        out.lines += len(lines)
        out.long_lines += sum(len(line) > 140 for line in lines)
        out.unformatted += text.count("# fmt: skip")
        out.comments += sum(t.type == tokenize.COMMENT for t in tokenize.generate_tokens(io.StringIO(text).readline))
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.ClassDef):
                out.large_classes += (node.end_lineno or 0) - node.lineno + 1 > LARGE_CLASS
            if isinstance(node, ast.FunctionDef):
                where = f"{file.relative_to(root)}:{node.lineno} {node.name}"
                out.branches.append((branches_of(node), where))
                given = [a.arg for a in (*node.args.posonlyargs, *node.args.args, *node.args.kwonlyargs)]
                out.parameters.append((len([a for a in given if a not in ("self", "cls")]), where))
                out.numbers += sum(
                    isinstance(n, ast.Constant) and type(n.value) in (int, float) and n.value not in PLAIN for n in _inside(node)
                )
    return out


def main() -> int:
    """Prints a row a package, and the worst functions."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--worst", type=int, default=12)
    options.add_argument("--src", type=Path, default=ROOT / "src" / "mirkle")
    chosen = options.parse_args()
    root: Path = chosen.src
    parts = [p for p in sorted(root.iterdir()) if p.is_dir() and any(p.rglob("*.py"))]
    rows = [("all", sorted(root.rglob("*.py"))), *((p.name, sorted(p.rglob("*.py"))) for p in parts)]
    print(
        f"{'':10}{'lines':>8}{'functions':>11}{'over 10':>9}{'over 15':>9}{'over 6 given':>14}"
        f"{'unnamed':>9}{'comments/100':>14}{'over 140':>10}{'fmt: skip':>11}{'classes over 300':>18}"
    )
    for name, files in rows:
        f = figures_of(files, root)
        over = [sum(b > n for b, _ in f.branches) for n in (10, 15)]
        print(
            f"{name:10}{f.lines:8}{len(f.branches):11}{over[0] / max(len(f.branches), 1):9.1%}{over[1]:9}"
            f"{sum(p > 6 for p, _ in f.parameters):14}{f.numbers:9}{100 * f.comments / max(f.lines, 1):14.1f}"
            f"{f.long_lines:10}{f.unformatted:11}{f.large_classes:18}"
        )
    core = figures_of(sorted((root / "core").rglob("*.py")), root)
    for count, where in sorted(core.branches, reverse=True)[: chosen.worst]:
        print(f"{count:4} {where}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
