"""How many seeded changes to the core its tests notice.

    python bench/mutants.py [--count N] [--part lineup|verdict|motion|notes] [--tests PATHS...]

Each mutant changes one comparison, one sign or one number in a copy of the package; one that no test fails on has survived.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).parent.parent
SWAPS: dict[type, type] = {
    ast.Lt: ast.GtE,
    ast.Gt: ast.LtE,
    ast.LtE: ast.Gt,
    ast.GtE: ast.Lt,
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
}
TOO_LONG_S = 300


def places_in(tree: ast.AST) -> list[ast.AST]:
    """Every node that can be changed, in the order of the text."""
    kinds = (ast.Compare, ast.BinOp, ast.Constant, ast.BoolOp)
    return [node for node in ast.walk(tree) if isinstance(node, kinds) and _changed(node, dry=True)]


def _changed(node: ast.AST, *, dry: bool = False) -> bool:
    if isinstance(node, ast.Compare) and type(node.ops[0]) in SWAPS:
        if not dry:
            node.ops[0] = SWAPS[type(node.ops[0])]()
        return True
    if isinstance(node, ast.BinOp) and type(node.op) in SWAPS:
        if not dry:
            node.op = SWAPS[type(node.op)]()
        return True
    if isinstance(node, ast.BoolOp):
        if not dry:
            node.op = ast.And() if isinstance(node.op, ast.Or) else ast.Or()
        return True
    if isinstance(node, ast.Constant) and type(node.value) in (int, float):
        if not dry:
            node.value = node.value * 1.5 + 1 if isinstance(node.value, float) else node.value + 1
        return True
    return False


def survives(job: tuple[Path, int, list[str]]) -> tuple[str, bool]:
    """Whether the tests pass although a node of a file was changed; where it was."""
    path, which, tests = job
    tree = ast.parse(path.read_text())
    node = places_in(tree)[which]
    where = f"{path.relative_to(ROOT)}:{node.lineno}: {ast.unparse(node)}"  # type: ignore[attr-defined]
    _changed(node)
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "src"
        shutil.copytree(ROOT / "src", copy, ignore=shutil.ignore_patterns("__pycache__"))
        (copy / path.relative_to(ROOT / "src")).write_text(ast.unparse(tree))
        command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:pytest-qt", *tests]
        environment = {**os.environ, "PYTHONPATH": str(copy), "OMP_NUM_THREADS": "1"}
        try:
            done = subprocess.run(
                command, cwd=ROOT, env=environment, capture_output=True, timeout=TOO_LONG_S, check=False
            )
        except subprocess.TimeoutExpired:
            return where, False
    return where, done.returncode == 0


def main() -> int:
    """Prints what survived and the share that did not."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--count", type=int, default=150)
    options.add_argument("--part", default="")
    options.add_argument("--tests", nargs="*", default=["tests/core"])
    chosen = options.parse_args()
    files = sorted((ROOT / "src/mirkle/core" / chosen.part).rglob("*.py"))
    jobs = [(f, n, chosen.tests) for f in files for n in range(len(places_in(ast.parse(f.read_text()))))]
    picked = random.Random(7).sample(jobs, min(chosen.count, len(jobs)))
    killed = 0
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        for where, alive in pool.map(survives, picked):
            killed += not alive
            if alive:
                print("survived", where, flush=True)
    print(f"{killed} of {len(picked)} noticed")
    return 0


if __name__ == "__main__":
    sys.exit(main())
