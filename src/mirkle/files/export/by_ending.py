"""Each way of writing a review, by how the file ends."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.lineup.call_records import CallRecord
from mirkle.core.messages import message
from mirkle.core.notes.writing import written_out
from mirkle.files.export.calls import calls_vtt
from mirkle.files.export.content import Content
from mirkle.files.export.map import geojson_of, gpx_of, kml_of
from mirkle.files.export.report_html import report_html
from mirkle.files.export.review_json import review_json
from mirkle.files.export.table import csv_of, ods_of, xlsx_of
from mirkle.files.notes.text import language_of
from mirkle.files.project.project import SourceFile


def _vtt(content: Content) -> bytes:
    review, language = content.review, language_of(content.review.reading)

    def words(call: CallRecord) -> str:
        # The sound alone tells when and not what: the note stands there as it would be called.
        heard = call.how.words if call.how is not None else ""
        return heard or (written_out(call.said, language, order=review.reading.order).text if call.said is not None else "")

    return calls_vtt([(note, call.time, words(call)) for note, call in enumerate(review.calls) if call.time is not None])


BY_ENDING: Mapping[str, Callable[[Content], bytes]] = {
    ".csv": csv_of,
    ".xlsx": xlsx_of,
    ".ods": ods_of,
    ".html": lambda content: report_html(content).encode(),
    ".gpx": gpx_of,
    ".kml": kml_of,
    ".geojson": geojson_of,
    ".vtt": _vtt,
}


def exported(content: Content, path: Path, inputs: Sequence[SourceFile] = ()) -> bytes:
    """The bytes of a file that ends as ``path`` does. JSON is the contract's, with the ``inputs`` it was made from.

    Raises
    ------
    MirkleError
        Another ending, or what this kind of file needs was not recorded.
    """
    ending = path.suffix.lower()
    if ending == ".json":
        return review_json(content.review, inputs).encode()
    if ending not in BY_ENDING:
        endings = ", ".join([*BY_ENDING, ".json"])
        raise MirkleError("this ending is not known", mend=message("write one of {0}", endings), where=path.name)
    return BY_ENDING[ending](content)
