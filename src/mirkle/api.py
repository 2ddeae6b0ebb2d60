"""For notebooks and scripts: read a book, review a run, write what was found. ``import mirkle`` gives the same names.

>>> import mirkle
>>> files = mirkle.demo_files()
>>> review = mirkle.review(files["run"], notes=files["notes"], calls=files["calls"])
>>> review.finish_m > 14_000
True
>>> danger = next(f for f in review.findings if f.severity == "danger")
>>> 0.5 < danger.confidence <= 1.0
True
>>> [n.grade for n in mirkle.read("L4 long 60\\nR3 into\\nL hp 40").corners]
['4', '3', 'hairpin']
"""

from __future__ import annotations

from collections.abc import Sequence
from importlib import resources
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.notes.model import Reading
from mirkle.core.review import Review
from mirkle.files.exports import findings_csv, report_html, waypoints_gpx
from mirkle.files.notes_text import parse_notes
from mirkle.files.review_json import review_json, review_table
from mirkle.files.whole import write_whole
from mirkle.session.material import Inputs, load, review_material
from mirkle.standins import slatehook

PathLike = str | Path

__all__ = ["MirkleError", "Reading", "Review", "demo_files", "read", "review", "table", "write"]


def read(text: str) -> Reading:
    """The notes in a text, in whatever order, language and school they are written.

    Raises
    ------
    MirkleError
        No note could be read.
    """
    return parse_notes(text.encode(), name="text")


def review(
    run: PathLike,
    *,
    notes: PathLike | None = None,
    calls: PathLike | None = None,
    crew: PathLike | None = None,
    earlier: Sequence[PathLike] = (),
) -> Review:
    """What was called beside what the car met, on one pass.

    Parameters
    ----------
    run : the recording: a table, GPX, NMEA, FIT, TCX, KML, GeoJSON, MDF4 or a telephone's archive
    notes, calls : the book as text or document, and what was said as timed text; one of them has to be there
    crew : the crew's way of writing, a TOML file
    earlier : recordings of earlier passes of the same stage

    Raises
    ------
    MirkleError
        A file can't be used; its sentence says where, what and how to mend.
    """
    if notes is None and calls is None:
        raise MirkleError("there are no notes", mend="give notes, or calls with what was said")
    one, two, three = (
        load(Path(path), kind=kind) if path is not None else None
        for path, kind in ((notes, "notes"), (calls, "calls"), (crew, "crew"))
    )
    others = tuple(load(Path(path), kind="run") for path in earlier)
    return review_material(Inputs(load(Path(run), kind="run"), one, two, three, others=others))


def table(found: Review) -> dict[str, object]:
    """A review as the object of the contract ``mirkle-review/1`` (docs/review.md), for a data frame or for JSON."""
    return review_table(found)


def write(found: Review, path: PathLike) -> Path:
    """Writes a review, by the ending of the file: ``.json`` (the contract), ``.csv``, ``.gpx`` or ``.html``.

    An existing file is replaced only once the new one is whole.

    Raises
    ------
    MirkleError
        It can't be written, another ending, or no position was recorded for way-points.
    """
    target = Path(path)
    ending = target.suffix.lower()
    if ending == ".json":
        content = review_json(found).encode()
    elif ending == ".csv":
        content = findings_csv(found, {}, []).encode("utf-8-sig")
    elif ending == ".html":
        content = report_html(target.stem, found, (), {}, []).encode()
    elif ending == ".gpx":
        points = waypoints_gpx(found, [], name=target.stem)
        if points is None:
            raise MirkleError("this recording holds no positions", mend="write the findings as a table instead")
        content = points
    else:
        raise MirkleError(
            "this ending is none that is known", mend="write .json, .csv, .gpx or .html", where=target.name
        )
    write_whole(target, content)
    return target


def demo_files() -> dict[str, Path]:
    """The demo's files: its first pass with notes and words."""
    folder = Path(str(resources.files("mirkle.standins") / "demo"))
    names = {"run": slatehook.MORNING, "notes": slatehook.NOTES, "calls": slatehook.CALLS, "later": slatehook.AFTERNOON}
    return {kind: folder / name for kind, name in names.items()}
