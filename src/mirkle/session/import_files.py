"""What a file is, and a review from material: the use cases that the window and the command line share."""

from __future__ import annotations

import re
from collections.abc import Sequence
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.messages import Message, gettext_noop, in_a_row, message
from mirkle.files.archive import packed_folder
from mirkle.files.audio.media import is_media, reference
from mirkle.files.detect import LARGEST_RUN_BYTES, UnusableFile, decoded, read_bytes, unpacked
from mirkle.files.notes.documents import is_document
from mirkle.files.project.format import role_of
from mirkle.files.project.project import SourceFile
from mirkle.files.recordings import readers
from mirkle.files.recordings.columns import UnknownColumns, look_at, with_columns
from mirkle.files.recordings.video import positions_in
from mirkle.files.speech.call_files import kind_of_calls
from mirkle.session.described_files import ImportedFile, described
from mirkle.session.settings import columns_of

WANTED = gettext_noop("notes, a run, or timed words")

_WANTED_KIND = {
    "run": ("a run as CSV or GPX", "give the run first and the notes after --notes"),
    "notes": ("notes as text", "give the notes after --notes, what was said after --calls"),
    "calls": ("timed text", "give WebVTT, SRT or lines of [m:ss] words after --calls"),
    "crew": ("a crew's file", "give a TOML file after --crew"),
}


class UnlikeNotes(MirkleError):
    """A text that reads as notes, of which much is not understood; whoever knows it can say that it is the book. ``path`` is the file."""

    def __init__(self, path: Path, doubt: Message) -> None:
        super().__init__(doubt, mend="choose the file with the notes", where=path.name)
        self.path, self.doubt = path, doubt


def load(path: Path, *, kind: str | None = None) -> SourceFile:
    """A file as it is, told apart by its first lines; not read further. ``kind`` is what it has to be, if anything.

    Raises
    ------
    MirkleError
        It is missing, empty, too large, or not of that kind.
    """
    content = packed_folder(path) if path.is_dir() else read_bytes(path, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    return loaded(content, name=path.name, kind=kind)


def loaded(content: bytes, *, name: str, kind: str | None = None) -> SourceFile:
    """As :func:`load`, from a file's bytes.

    Raises
    ------
    MirkleError
    """
    plain = unpacked(content, name=name, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    look = look_at(plain)
    if look is not None and (names := columns_of(look.shape)) is not None:
        content = plain = with_columns(plain, look, names)
    found = _kind_of(plain, name)
    if kind is not None and role_of(found) != kind:
        if kind == "run" and look is not None:
            raise _columns_not_known(name)
        what, mend = _WANTED_KIND[kind]
        raise MirkleError(message("this is not {0}", what), mend=mend, where=name)
    return SourceFile(found, name, content)


def _kind_of(plain: bytes, name: str) -> str:
    if name.lower().endswith(".toml"):
        return "crew"
    if readers.looks_like_run(plain):
        return "run"
    if is_document(plain):
        return "notes"
    if plain.startswith(b"PK\x03\x04"):
        raise UnusableFile(
            "this is an archive without a recording or notes in it", mend=message("choose the file with {0}", WANTED), where=name
        )
    text = decoded(plain[:20_000], name=name)
    if (kind := kind_of_calls(text)) is not None:
        return kind
    if _is_markup(text):
        raise UnusableFile("this XML has neither a run nor words in it", mend=message("choose the file with {0}", WANTED), where=name)
    return "notes"


def _is_markup(text: str) -> bool:
    """Whether a text is XML or HTML, and no book whose first line begins with a sign for “opens”."""
    head = text.lstrip()
    tag = re.match(r"<([A-Za-z][\w:.-]{0,60})[\s/>]", head)
    return head[:9].lower().startswith(("<?xml", "<!doctype", "<!--")) or (
        tag is not None and (f"</{tag[1]}" in head or "/>" in head[:2000])
    )


def take_in(path: Path, *, agreed: bool = False) -> ImportedFile:
    """Reads a file, tells whether it is notes or a run, and checks that it can be used; ``agreed`` where somebody said that it is the book.

    Raises
    ------
    UnlikeNotes
        It may be no book, and nobody said that it is.
    UnknownColumns
        It is a table of numbers whose columns are not known.
    MirkleError
        With where, what and how to mend.
    """
    return checked(path, material_of(path), agreed=agreed)


def material_of(path: Path) -> SourceFile:
    """A file's material; of a sound or a video only where it lies.

    Raises
    ------
    UnknownColumns, MirkleError
    """
    try:
        return reference(path) if is_media(path) else load(path)
    except MirkleError as fault:
        raise _unknown_columns(path, fault) or fault from fault


def checked(path: Path, material: SourceFile, others: Sequence[SourceFile] = (), *, agreed: bool = False) -> ImportedFile:
    """A material as it was read, with the ``others`` that came with it.

    Raises
    ------
    UnlikeNotes, UnknownColumns, MirkleError
    """
    try:
        found = described(material, others)
    except MirkleError as fault:
        raise (None if material.role == "media" else _unknown_columns(path, fault)) or fault from fault
    if found.doubt is not None and not agreed:
        raise UnlikeNotes(path, found.doubt)
    return found


def recorded_in(path: Path) -> ImportedFile | None:
    """The recording that a camera wrote into its video, on the video's own clock; ``None`` where there is none."""
    table = positions_in(path)
    if table is None:
        return None
    material = SourceFile("run", f"{path.stem}-positions.csv", table)
    try:
        description = described(material)
    except MirkleError:
        # Positions of which no drive can be made: the video is a video all the same.
        return None
    sentence = in_a_row([message("The camera wrote it into {0}.", path.name), description.sentence])
    return ImportedFile(material, sentence, from_video=True)


def _unknown_columns(path: Path, fault: MirkleError) -> UnknownColumns | None:
    """The fault with a table's head, where a file that can't be used is a table of numbers."""
    try:
        content = read_bytes(path, largest=LARGEST_RUN_BYTES, wanted=WANTED)
        plain = unpacked(content, name=path.name, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    except MirkleError:
        return None
    look = look_at(plain)
    if look is None:
        return None
    if not readers.looks_like_run(plain):
        # It was tried as notes, which it never was.
        fault = _columns_not_known(path.name)
    return UnknownColumns(look, columns_of(look.shape) or look.known(), fault, file=path.name)


def _columns_not_known(name: str) -> UnusableFile:
    return UnusableFile(
        "this is a table of numbers, and its columns are not known",
        mend="name them in the first line, such as time_s, lat_deg, lon_deg, or say in the window what they hold",
        where=name,
    )
