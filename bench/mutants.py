"""How many seeded changes to the core its tests notice, a package at a time.

    python bench/mutants.py [--count N] [--seed N] [--part lineup|verdict|motion|notes|...] [--only constants|logic]

Each mutant changes one comparison, sign, connective or number in a copy of the package; one that no test fails on has survived. Which files of
tests run a line is measured once (coverage with a context a file); a mutant is tried on those alone, the ones that run the least of the core first.
A number that is named at the top of a module is run by whoever runs a line with that name.
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
from collections import defaultdict
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from coverage import CoverageData

ROOT = Path(__file__).parent.parent
CORE, TESTS = ROOT / "src/mirkle/core", ROOT / "tests/core"
SEED, TOO_LONG_S = 7, 600
SWAPS: dict[type, type] = {ast.Lt: ast.GtE, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.GtE: ast.Lt, ast.Add: ast.Sub, ast.Sub: ast.Add}
# What pytest does while lines are counted: every file of tests is a context.
PLUGIN = """
import coverage, pytest
@pytest.hookimpl(tryfirst=True)
def pytest_runtest_logstart(nodeid, location):
    coverage.Coverage.current().switch_context(nodeid.split("::")[0])
"""

Lines = dict[str, dict[int, set[str]]]


@dataclass(frozen=True)
class Mutant:
    """The ``which``-th changeable node of a file of the core."""

    path: Path
    which: int
    line: int
    constant: bool
    text: str

    @property
    def package(self) -> str:
        """The package of the core that it is in."""
        inside = self.path.relative_to(CORE)
        return inside.parts[0] if len(inside.parts) > 1 else "core"


def places_in(tree: ast.AST) -> list[ast.expr]:
    """Every node that can be changed, in the order of the walk."""
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
    if isinstance(node, ast.Constant) and isinstance(node.value, int | float) and not isinstance(node.value, bool):
        if not dry:
            node.value = node.value * 1.5 + 1 if isinstance(node.value, float) else node.value + 1
        return True
    return False


def mutants_of(path: Path) -> list[Mutant]:
    """Every mutant of a file."""
    nodes = places_in(ast.parse(path.read_text()))
    return [Mutant(path, n, x.lineno, isinstance(x, ast.Constant), ast.unparse(x)) for n, x in enumerate(nodes)]


def lines_run() -> Lines:
    """For each file of the core and each of its lines the files of tests that run it."""
    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "a_context_a_file.py").write_text(PLUGIN)
        data = Path(folder) / "lines"
        environment = {**os.environ, "PYTHONPATH": f"{folder}{os.pathsep}{ROOT / 'src'}", "COVERAGE_FILE": str(data)}
        run = [sys.executable, "-m", "coverage", "run", f"--source={CORE}", "-m", "pytest", "-q"]
        plugins = ["-p", "no:pytest-qt", "-p", "a_context_a_file"]
        subprocess.run([*run, *plugins, str(TESTS)], cwd=ROOT, env=environment, check=True, stdout=subprocess.DEVNULL)
        found = CoverageData(basename=str(data))
        found.read()
        return {
            str(Path(name)): {line: {c for c in contexts if c} for line, contexts in found.contexts_by_lineno(name).items()}
            for name in found.measured_files()
        }


def users_of_names(lines: Lines) -> dict[str, set[str]]:
    """For each name of a number at the top of a module the files of tests that run a line with it, anywhere in the core."""
    users: dict[str, set[str]] = defaultdict(set)
    for name, tests in lines.items():
        for node in ast.walk(ast.parse(Path(name).read_text())):
            if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Load):
                users[node.id] |= tests.get(node.lineno, set())
    return users


def tests_of(mutant: Mutant, lines: Lines, users: dict[str, set[str]]) -> set[str]:
    """The files of tests that run what a mutant changes."""
    for node in ast.parse(mutant.path.read_text()).body:
        if isinstance(node, ast.Assign | ast.AnnAssign) and node.lineno <= mutant.line <= (node.end_lineno or 0):
            names = {n.id for n in ast.walk(node) if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Store)}
            return set().union(*(users[name] for name in names))
    here = lines.get(str(mutant.path), {})
    # A default of a field or of an argument is run with its module: whoever runs anything of that.
    return here.get(mutant.line) or set().union(*here.values(), set())


def survives(mutant: Mutant, tests: list[str]) -> bool:
    """Whether no test fails on a mutant."""
    tree = ast.parse(mutant.path.read_text())
    _changed(places_in(tree)[mutant.which])
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "src"
        shutil.copytree(ROOT / "src", copy, ignore=shutil.ignore_patterns("__pycache__"))
        (copy / mutant.path.relative_to(ROOT / "src")).write_text(ast.unparse(tree))
        command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:pytest-qt", "-p", "no:cacheprovider", *tests]
        environment = {**os.environ, "PYTHONPATH": str(copy), "OMP_NUM_THREADS": "1"}
        try:
            done = subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, timeout=TOO_LONG_S, check=False)
        except subprocess.TimeoutExpired:
            return False
    return done.returncode == 0


def main() -> int:
    """Prints what survived and the share that did not, by package."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--count", type=int, default=150)
    options.add_argument("--seed", type=int, default=SEED, help="which sample: one that tests were written for tells little")
    options.add_argument("--part", default="")
    options.add_argument("--only", choices=("constants", "logic"))
    chosen = options.parse_args()
    every = [m for f in sorted((CORE / chosen.part).rglob("*.py")) for m in mutants_of(f)]
    if chosen.only:
        every = [m for m in every if m.constant == (chosen.only == "constants")]
    picked = random.Random(chosen.seed).sample(every, min(chosen.count, len(every)))
    lines = lines_run()
    users = users_of_names(lines)
    width = {test: sum(test in t for tests in lines.values() for t in tests.values()) for test in _all(lines)}
    tests = {m: sorted(tests_of(m, lines, users), key=lambda t: width[t]) for m in picked}
    killed: dict[str, list[bool]] = defaultdict(list)
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        # What no test runs has survived without being tried.
        for m, lives in zip(picked, pool.map(lambda m: not tests[m] or survives(m, tests[m]), picked), strict=True):
            killed[m.package].append(not lives)
            killed["constants" if m.constant else "logic"].append(not lives)
            words = "survived" if lives else "noticed"
            print(f"{words} {m.path.relative_to(ROOT)}:{m.line}: {m.text}", flush=True)
    for name, noticed in sorted(killed.items()):
        print(f"{name:12} {sum(noticed):4} of {len(noticed):4} noticed, {sum(noticed) / len(noticed):.0%}")
    print(f"{sum(len(t) for t in tests.values()) / len(picked):.0f} files of tests a mutant")
    return 0


def _all(lines: Lines) -> set[str]:
    return {t for tests in lines.values() for run in tests.values() for t in run}


if __name__ == "__main__":
    sys.exit(main())
