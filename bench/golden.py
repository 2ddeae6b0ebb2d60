"""What the program writes for the demo and twelve worlds, held against what it wrote before: a change of structure changes none of it.

    python bench/golden.py [--renew] [NAMES...]

For each: the review as JSON with five findings marked, the figures that it was worked out from, the report's text, the card's text; of the demo
what its second pass shows of the corrected notes. Parts that no world shows are kept by themselves (golden_parts.py). Project files of every
format are opened, and what was decided in them is still decided. Kept in bench/golden/, packed. Figures may differ by what another processor's
sums differ by; words may not.
"""

from __future__ import annotations

import argparse
import gzip
import json
import os
import re
import shutil
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import fields, is_dataclass
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).parent))
os.environ["QT_QPA_PLATFORM"] = "offscreen"

import numpy as np
from lxml import html
from pypdf import PdfReader

import golden_parts
from mirkle.core.habits.evidence import evidence_of
from mirkle.core.habits.pooled import pooled
from mirkle.core.messages import Message
from mirkle.core.rehearsal.lines import lines_of
from mirkle.core.rehearsal.pacing import from_review
from mirkle.files import demo_files
from mirkle.files.export.passes_json import passes_json
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.change_review import followed
from mirkle.session.decision_book import BOTH
from mirkle.session.export import write_export
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Inputs
from rough import worlds as rough_worlds
from rough.recorders import BOXES
from third import worlds as third_worlds

KEPT = Path(__file__).parent / "golden"
WORLDS = [f"{kind}-{number}" for kind in ("rough", "third") for number in range(1, 7)]
MARKED = 5
# Another processor adds in another order: figures are the same to this share, or this absolute difference.
SHARE, DIFFERENCE = 2e-3, 0.011
# The same of figures that are not printed; of a row of numbers, besides its length, mean and spread, this many are kept.
FINE_DIFFERENCE, SAMPLES = 1e-4, 12
# The day on which figures are worked out, as evidence counts days.
DAY = 9_900.0
# A printed figure may fall on the other side of a half.
IN_WORDS = 1.01
FIGURE = re.compile(r"\d+(?:\.\d+)?")


def materials(name: str) -> list[SourceFile]:
    """The files of the demo, or of a world by its kind and number."""
    if name == "demo":
        files = (demo_files.NOTES, demo_files.MORNING, demo_files.AFTERNOON, demo_files.CALLS)
        kinds = ("notes", "run", "run", "calls")
        return [SourceFile(k, f, demo_files.demo_file(f)) for k, f in zip(kinds, files, strict=True)]
    kind, number = name.split("-")[0], int(name.split("-")[1])
    if kind == "rough":
        w = rough_worlds.world(number, held_out=False)
        run = rough_worlds.recorded(w, list(BOXES)[number % len(BOXES)]).csv
    else:
        w = third_worlds.world(number)
        run = third_worlds.recorded(w).csv
    texts = (("notes", "notes.txt", w.book.text()), ("run", "run.csv", run), ("calls", "calls.vtt", w.calls))
    return [SourceFile(k, f, text.encode()) for k, f, text in texts]


def written(name: str) -> dict[str, Any]:
    """Everything that the program writes for one name."""
    with tempfile.TemporaryDirectory() as folder:
        there = Path(folder)
        os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = folder
        stage = marked_stage(name, there)
        kept = {
            "review": review_of(stage, there),
            "figures": figures_of(stage),
            "report": _report(stage, there),
            "card": _card(stage, there),
        }
        return kept | ({"passes": passes_of(stage)} if name == "demo" else {})


def marked_stage(name: str, there: Path) -> ReviewedPass:
    """The stage of a name in a folder, reviewed, with its first proposals marked."""
    stage = ReviewedPass.of_project(Project.create(there / "stage.mirkle", materials(name), name=name))
    proposed = [(f, p) for f in stage.findings if (p := stage.book.proposal(f)) is not None]
    for finding, proposal in proposed[:MARKED]:
        stage.choose(finding)
        stage.mark(proposal.text, by=BOTH)
    return stage


def kept_for(name: str) -> Any:
    """What was written for a name when it was kept."""
    return json.loads(gzip.decompress((KEPT / f"{name}.json.gz").read_bytes()))


def review_of(stage: ReviewedPass, there: Path) -> Any:
    """A stage's review as JSON."""
    write_export(stage, there / "review.json")
    found = json.loads((there / "review.json").read_text())
    found.pop("program")
    return found


def figures_of(stage: ReviewedPass) -> Any:
    """What a stage's review was worked out from and what follows from it: the path and the road, each pair and how sure it is, the scale,
    the timing of the calls; what the pass shows of its crew, and when each line is due in a rehearsal."""
    review = stage.review
    evidence = evidence_of(review, stage="stage", pass_id="1", day=DAY, book="book")
    pacing = from_review(review, lines_of(stage.book.edition))
    return figures({"review": review, "evidence": evidence, "crew": pooled([evidence], DAY), "pacing": pacing})


def passes_of(stage: ReviewedPass) -> Any:
    """What the second pass of the demo shows of the notes as they were corrected, as JSON."""
    notes, morning, afternoon, calls = materials("demo")
    corrected = SourceFile("notes", notes.name, stage.book.edition.text.encode())
    followed_by = followed([Inputs(morning, notes), Inputs(afternoon, corrected, calls)])
    return {name: value for name, value in json.loads(passes_json(followed_by)).items() if name != "program"}


def figures(value: Any) -> Any:
    """A value as plain figures and words; of an array its length, mean, spread and a few samples."""
    if isinstance(value, Message):
        return str(value)
    if is_dataclass(value):
        return {f.name: figures(getattr(value, f.name)) for f in fields(value)}
    if isinstance(value, dict):
        return {str(key): figures(one) for key, one in value.items()}
    if isinstance(value, np.ndarray) and value.dtype.kind in "fib":
        known = value[np.isfinite(value)].astype(float)
        middle = [float(known.mean()), float(known.std())] if len(known) else []
        return [value.shape[0], len(known), *middle, *figures(known[:: max(1, len(known) // SAMPLES)].tolist())]
    if isinstance(value, list | tuple | set | frozenset | np.ndarray):
        return [figures(one) for one in (sorted(value, key=str) if isinstance(value, set | frozenset) else value)]
    if isinstance(value, float | np.floating):
        return float(value) if np.isfinite(value) else str(value)
    return value if isinstance(value, bool | int | str | None) else str(value)


def _report(stage: ReviewedPass, there: Path) -> list[str]:
    write_export(stage, there / "report.html")
    page: Any = html.fromstring((there / "report.html").read_bytes())
    return _lines("\n".join(str(text) for text in page.xpath("//body//text()")))


def _card(stage: ReviewedPass, there: Path) -> list[str]:
    from mirkle.gui import printing
    from mirkle.gui.app import make_app

    made = make_app()
    printing.card(stage).write(there / "card.pdf")
    del made
    return _lines("\n".join(page.extract_text() for page in PdfReader(there / "card.pdf").pages))


def _lines(text: str) -> list[str]:
    # The day of printing is no part of what is compared.
    plain = re.sub(r"\d{4}-\d{2}-\d{2}( \d{2}:\d{2})?", "DAY", text)
    return [line for raw in plain.splitlines() if (line := " ".join(raw.split()))]


def opened(path: Path) -> dict[str, Any]:
    """What is decided in a project file, of whatever format."""
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = folder
        stage = ReviewedPass.of_project(Project.open(Path(shutil.copy(path, folder))))
        book = stage.book
        return {
            "decided": sorted(f"{d.answer} {getattr(d, 'text', '')}" for d in book.decisions.values()),
            "added": sorted(f"{d.kind} {d.words}" for d in book.road.additions),
            "edition": book.edition.text.splitlines(),
            "lost": stage.project.lost_entries,
        }


def differences(before: Any, after: Any, where: str = "", least: float = DIFFERENCE) -> Iterator[str]:
    """Where two of what was written differ by more than sums do; figures by ``least`` at least."""
    if where.endswith(".figures"):
        least = FINE_DIFFERENCE
    if isinstance(before, dict) and isinstance(after, dict):
        for key in sorted(before.keys() | after.keys()):
            if key not in before or key not in after:
                yield f"{where}.{key}: {'new' if key not in before else 'gone'}"
            else:
                yield from differences(before[key], after[key], f"{where}.{key}", least)
    elif isinstance(before, list) and isinstance(after, list):
        if len(before) != len(after):
            yield f"{where}: {len(before)} before, {len(after)} now"
        for n, (a, b) in enumerate(zip(before, after, strict=False)):
            yield from differences(a, b, f"{where}[{n}]", least)
    elif isinstance(before, str) and isinstance(after, str):
        if not _alike(before, after):
            yield f"{where}: {before!r} before, {after!r} now"
    elif isinstance(before, float | int) and isinstance(after, float | int) and not isinstance(before, bool):
        if abs(before - after) > max(least, SHARE * abs(before)):
            yield f"{where}: {before} before, {after} now"
    elif before != after:
        yield f"{where}: {before!r} before, {after!r} now"


def _alike(before: str, after: str) -> bool:
    """Whether two texts are the same but for the last digits of their figures."""
    if before == after:
        return True
    figures = [[float(f) for f in FIGURE.findall(text)] for text in (before, after)]
    return FIGURE.sub("#", before) == FIGURE.sub("#", after) and all(
        abs(a - b) <= max(IN_WORDS if a > 20 else DIFFERENCE * 10, SHARE * a) for a, b in zip(*figures, strict=True)
    )


def main() -> int:
    """Compares or renews; the exit code is 1 where something differs."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--renew", action="store_true")
    options.add_argument("names", nargs="*")
    chosen = options.parse_args()
    names = chosen.names or ["demo", *WORLDS, *golden_parts.KEPT, *(p.name for p in sorted(KEPT.glob("*.mirkle")))]
    with ProcessPoolExecutor() as pool:
        found = dict(zip(names, pool.map(_one, names), strict=True))
    count = 0
    for name, now in found.items():
        kept = KEPT / f"{name}.json.gz"
        if chosen.renew:
            KEPT.mkdir(exist_ok=True)
            kept.write_bytes(gzip.compress(json.dumps(now, ensure_ascii=False).encode(), 9, mtime=0))
            continue
        for difference in differences(kept_for(name), now, name):
            count += 1
            print(difference)
    print(f"{len(found)} kept anew" if chosen.renew else f"{len(found)} compared, {count} differences")
    return 1 if count else 0


def _one(name: str) -> dict[str, Any]:
    if name in golden_parts.KEPT:
        return {"figures": figures(golden_parts.KEPT[name]())}
    return opened(KEPT / name) if name.endswith(".mirkle") else written(name)


if __name__ == "__main__":
    sys.exit(main())
