"""For notebooks and scripts: read a book, review a run, write what was found. ``import mirkle`` gives the same names.

>>> import mirkle
>>> files = mirkle.demo_files()
>>> found = mirkle.review(files["run"], notes=files["notes"], calls=files["calls"])
>>> found
<Review: 14.22 km, 142 notes, 33 findings, 9 of them dangers>
>>> found.findings[0]
<Finding uncalled@480: danger, 100%, 9567 to 9654 m>
>>> float(found.arrays("findings")["confidence"].max()) > 0.95
True
>>> found.arrays("road")["speed_mps"].shape == found.arrays("road")["distance_m"].shape
True
>>> [i.name for i in found.inputs]
['slatehook-morning.csv.gz', 'slatehook-notes.txt', 'slatehook-morning-calls.vtt']
>>> book = mirkle.read("L4 long 60\\nR3 into\\nL hp 40")
>>> book
<Reading: 3 notes, 3 corners, en, direction-first>
>>> list(book.arrays()["grade"])
['4', '3', 'hairpin']
"""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import IO, Any

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.core.review import Review
from mirkle.files.atomic_write import write_whole
from mirkle.files.demo_files import AFTERNOON, CALLS, MORNING, NOTES, demo_folder
from mirkle.files.export.by_ending import exported
from mirkle.files.export.content import Content
from mirkle.files.export.review_json import review_table
from mirkle.files.notes.text import parse_notes
from mirkle.files.project.project import SourceFile
from mirkle.results import ReadingResult, ReviewResult, with_methods
from mirkle.session.import_files import load, loaded
from mirkle.session.reviewing import Inputs, review_material

# A file, an open file, or for a recording columns by name: a mapping of arrays, a structured array, or a data frame.
PathLike = str | Path
Source = PathLike | IO[bytes] | IO[str]
Columns = Mapping[str, Any] | np.ndarray[Any, Any]

__all__ = ["MirkleError", "ReadingResult", "ReviewResult", "demo_files", "read", "review", "table", "write"]


def read(text: str) -> ReadingResult:
    """The notes in a text, in whatever order, language and school they are written.

    Raises
    ------
    MirkleError
        No note could be read.
    """
    return with_methods(ReadingResult, parse_notes(text.encode(), name="text"))


def review(
    run: Source | Columns,
    *,
    notes: Source | None = None,
    calls: Source | None = None,
    crew: Source | None = None,
    earlier: Sequence[Source | Columns] = (),
) -> ReviewResult:
    """What was called against what the car met, on one pass.

    Parameters
    ----------
    run : the recording: a table, GPX, NMEA, FIT, TCX, KML, GeoJSON, MDF4 or a telephone's archive, by its path or as an open file; or its
        channels by name, (n,) each, as a mapping, a structured array or a data frame. Names carry their units: ``time_s``, ``lat_deg``,
        ``lon_deg``, ``speed_kmh``, ``yaw_rate_dps``, …; where a channel has no sample at a time it is nan
    notes, calls : the book as text or document, and what was said as timed text; one of them has to be there
    crew : the crew's way of writing, as TOML
    earlier : recordings of earlier passes of the same stage

    Raises
    ------
    MirkleError
        Something can't be used; its sentence says where, what and how to mend.
    """
    if notes is None and calls is None:
        raise MirkleError("there are no notes", mend="give notes, or calls with what was said")
    book, said, hand = (
        _material(source, kind) if source is not None else None for source, kind in ((notes, "notes"), (calls, "calls"), (crew, "crew"))
    )
    inputs = Inputs(_run(run), book, said, hand, others=tuple(_run(one) for one in earlier))
    return with_methods(ReviewResult, review_material(inputs), inputs=inputs.files)


def _run(source: Source | Columns) -> SourceFile:
    names = getattr(source, "columns", None)
    if names is None and isinstance(source, np.ndarray):
        names = source.dtype.names
        if names is None:
            raise MirkleError("an array of numbers has no names", mend="give a mapping of arrays by name, such as time_s and lat_deg")
    if names is None and isinstance(source, Mapping):
        names = source.keys()
    if names is None:
        return _material(source, "run")  # type: ignore[arg-type]
    columns = {str(name): np.asarray(source[name], float) for name in names}  # type: ignore[index]
    if len({column.shape for column in columns.values()}) != 1 or next(iter(columns.values())).ndim != 1:
        raise MirkleError("the columns are not of one length", mend="give each channel with the same times, nan where it has no sample")
    out = io.StringIO()
    out.write(",".join(columns) + "\n")
    for row in zip(*(column.tolist() for column in columns.values()), strict=True):
        out.write(",".join("" if value != value else repr(value) for value in row) + "\n")
    return SourceFile("run", "columns.csv", out.getvalue().encode())


def _material(source: Source, kind: str) -> SourceFile:
    if isinstance(source, str | Path):
        return load(Path(source), kind=kind)
    content = source.read()
    name = Path(str(getattr(source, "name", kind + (".toml" if kind == "crew" else "")))).name
    if not content:
        raise MirkleError("the file is empty", mend="open it anew, or go back to its beginning", where=name)
    return loaded(content.encode() if isinstance(content, str) else content, name=name, kind=kind)


def table(found: Review) -> dict[str, object]:
    """A review as the object of the contract ``mirkle-review/1`` (docs/review.md), for JSON."""
    return review_table(found, found.inputs if isinstance(found, ReviewResult) else ())


def write(found: Review, path: PathLike) -> Path:
    """Writes a review, by the ending of the file: ``.json`` (the contract), ``.csv``, ``.xlsx``, ``.ods``, ``.gpx``, ``.kml``,
    ``.geojson``, ``.vtt`` (the calls) or ``.html``.

    An existing file is replaced only once the new one is whole.

    Raises
    ------
    MirkleError
        It can't be written, another ending, or what this kind of file needs was not recorded.
    """
    target = Path(path)
    inputs = found.inputs if isinstance(found, ReviewResult) else ()
    write_whole(target, exported(Content(target.stem, found), target, inputs))
    return target


def demo_files() -> dict[str, Path]:
    """The demo's files: its first pass with notes and words."""
    folder = demo_folder()
    names = {"run": MORNING, "notes": NOTES, "calls": CALLS, "later": AFTERNOON}
    return {kind: folder / name for kind, name in names.items()}
